import { create } from 'zustand';
import { perKit } from './session';

/** What a press sets on texels, by the phrase. */
export interface PaintState {
  /** The color of the tray, a step along the ramp of what is there, or nothing. */
  sets: 'color' | 'darker' | 'lighter' | 'nothing';
  form: 'dots' | 'rectangle' | 'touching' | 'everywhere';
  /** Texels across. */
  size: number;
  shape: 'square' | 'round';
  /** Only texels under picked faces. */
  onPicked: boolean;
  /** What a press would set, and how many faces show it. */
  lit: Lit | null;
  /** The pointer is over paintable faces of the model, or a stroke is under way there: no drag turns the view. */
  isOverModel: boolean;
  /** Column and row of the texel cursor, where the art is painted by keys. */
  cursor: readonly [number, number] | null;
}

export interface Lit {
  /** The number of the pixels. */
  art: string;
  /** The texel that is meant, and all that would be set. */
  at: readonly [number, number];
  texels: Uint32Array;
  /** Faces that show the texel that is meant. */
  faces: number;
}

export const usePaint = perKit(
  create<PaintState>(() => ({
    sets: 'color',
    form: 'dots',
    size: 1,
    shape: 'square',
    onPicked: false,
    lit: null,
    isOverModel: false,
    cursor: null,
  })),
  ['sets', 'form', 'size', 'shape'],
);
