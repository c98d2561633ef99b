import { create } from 'zustand';

export type Shading = 'true' | 'light' | 'grey';
export type Side = 'front' | 'back' | 'left' | 'right' | 'top' | 'bottom' | 'free';

export interface ViewState {
  shading: Shading;
  edges: boolean;
  grid: boolean;
  perspective: boolean;
  /** Grey of the viewport's surround, 0..255. */
  surround: number;
  /** The hatch of the pick is hidden while its key is held. */
  hatchHidden: boolean;
  /** A wish to the camera; the number makes the same wish twice differ. */
  wish: { side?: Side; frame?: 'model' | 'pick' | Uint32Array; number: number };
}

export const useView = create<ViewState>(() => ({
  shading: 'true',
  edges: true,
  grid: true,
  perspective: true,
  surround: 0x8f,
  hatchHidden: false,
  wish: { number: 0 },
}));

export const lookFrom = (side: Side): void => useView.setState(({ wish }) => ({ wish: { side, number: wish.number + 1 } }));
export const frame = (what: 'model' | 'pick' | Uint32Array): void =>
  useView.setState(({ wish }) => ({ wish: { frame: what, number: wish.number + 1 } }));
