import type { PresentView } from '@/core/shapes/view/presentView';
import { create } from 'zustand';
import { perKit } from './session';

export type Shading = 'true' | 'light' | 'grey';
export type Side = 'front' | 'back' | 'left' | 'right' | 'top' | 'bottom' | 'free';

/** What the camera is asked for; it obeys when it is there. The number makes the same wish twice differ. */
export interface Wish {
  number: number;
  side?: Side;
  frame?: 'model' | 'pick' | Uint32Array;
  /** Degrees to the right and up. */
  turn?: [number, number];
  /** Where to look from. */
  direction?: [number, number, number];
  /** Above 1 nearer, below 1 farther. */
  zoom?: number;
}

export interface ViewState {
  shading: Shading;
  edges: boolean;
  grid: boolean;
  /** Edges that are marked as seams are drawn. */
  seams: boolean;
  /** Faces that sit otherwise in the variant in hand are outlined with dashes. */
  differing: boolean;
  perspective: boolean;
  /** The named side that the model is seen from, without perspective; free otherwise. */
  side: Side;
  /** The view was turned away from that side by hand. */
  isTurned: boolean;
  /** Backs of faces that leave with one side only are drawn without color, as a game leaves them out. */
  backs: boolean;
  /** Grey of the viewport's surround, 0..255. */
  surround: number;
  /** The hatch of the pick is hidden while its key is held. */
  hatchHidden: boolean;
  /** What lies before this plane is cut away; metres along the axis. */
  cut: Cut | null;
  /** Faces turned to the eye are left out, so that those behind show. */
  behind: boolean;
  wish: Wish;
}

export interface Cut {
  axis: 0 | 1 | 2;
  offset: number;
}

export const useView = perKit(
  create<ViewState>(() => ({
    shading: 'true',
    edges: true,
    grid: true,
    seams: true,
    differing: true,
    backs: true,
    perspective: true,
    side: 'free',
    isTurned: false,
    surround: 0x8f,
    hatchHidden: false,
    cut: null,
    behind: false,
    wish: { number: 0 },
  })),
  ['shading', 'edges', 'grid', 'seams', 'differing', 'backs', 'perspective', 'surround', 'wish'],
);

const ask = (what: Omit<Wish, 'number'>): void => useView.setState(({ wish }) => ({ wish: { ...what, number: wish.number + 1 } }));

/** Named sides are true: seen without perspective, which comes back with the free view. */
export function lookFrom(side: Side): void {
  useView.setState({ side, isTurned: false });
  ask({ side });
}

/** Perspective on and off; where a named side has none, the view becomes free with it. */
export const togglePerspective = (): void =>
  useView.setState(({ side, perspective }) => (side === 'free' ? { perspective: !perspective } : { side: 'free', perspective: true }));

export const hasPerspective = ({ perspective, side }: Pick<ViewState, 'perspective' | 'side'>): boolean => perspective && side === 'free';
export const turnView = (right: number, up: number): void => ask({ turn: [right, up] });
export const zoomView = (zoom: number): void => ask({ zoom });
/** Turns to where faces are seen from the front, and frames them. */
export const lookAlong = (direction: [number, number, number]): void => ask({ direction, frame: 'pick' });
export const frame = (what: 'model' | 'pick' | Uint32Array): void => ask({ frame: what });

let viewOf: (() => PresentView) | null = null;
/** The viewport says how its camera stands, for as long as it is there. */
export function provideView(of: (() => PresentView) | null): void {
  viewOf = of;
}
export const presentView = (): PresentView | null => viewOf?.() ?? null;
