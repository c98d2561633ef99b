import { create } from 'zustand';
import { perKit } from './session';

/** What a press sets on texels, by the phrase. */
export interface PaintState {
  /** Texels are painted, so that a color of the tray is the brush's, and colors no picked faces. */
  isOpen: boolean;
  /** The color of the tray, a step along the ramp of what is there, a pattern around the color, or nothing. */
  sets: 'color' | 'darker' | 'lighter' | 'noise' | 'checker' | 'nothing';
  /** Of noise: steps of the ramp either way, and which of all noises it is. */
  within: number;
  seed: number;
  /** Of a checker: the share of the other color, 0..1, and in which direction along the ramp that lies. */
  share: number;
  toward: 1 | -1;
  form: 'dots' | 'rectangle' | 'touching' | 'everywhere' | 'onSheet' | 'face' | 'part' | 'picked';
  /** Texels across. */
  size: number;
  shape: 'square' | 'round';
  /** Only texels under picked faces, or under those of a region. */
  where: 'all' | 'picked' | number;
  /** Only texels of these cells, or none of these; where none is named, all. */
  over: readonly number[];
  isSparing: boolean;
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
  /** Texels of other art of the sheet that would be set as well. */
  elsewhere: number;
  /** Faces that show the texel that is meant. */
  faces: number;
}

export const usePaint = perKit(
  create<PaintState>(() => ({
    isOpen: false,
    sets: 'color',
    within: 1,
    seed: 0,
    share: 0.5,
    toward: -1,
    form: 'dots',
    size: 1,
    shape: 'square',
    where: 'all',
    over: [],
    isSparing: false,
    lit: null,
    isOverModel: false,
    cursor: null,
  })),
  ['sets', 'within', 'share', 'toward', 'form', 'size', 'shape', 'over', 'isSparing'],
);
