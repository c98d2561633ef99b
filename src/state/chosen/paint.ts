import { create } from 'zustand';
import type { Point3 } from '@/core/kit/laying/gradientRules';
import { perKit } from './session';

/** What a press sets on texels, by the phrase. */
export interface PaintState {
  /** Texels are painted, so that a color of the tray is the brush's, and colors no picked faces. */
  isOpen: boolean;
  /** The color of the tray, a step along the ramp of what is there, a pattern, or nothing. */
  sets: 'color' | 'darker' | 'lighter' | 'noise' | 'checker' | 'motif' | 'nothing';
  /** Of noise: steps of the ramp either way, or colors with their weights; and which of all noises it is, or whether each stroke has its own. */
  within: number;
  among: readonly { cell: number; weight: number }[];
  seed: number;
  isRenewing: boolean;
  /** Of a checker: the other color, or (0) in which direction along the ramp it lies; its share, 0..1; texels of the square that repeats. */
  other: number;
  toward: 1 | -1;
  share: number;
  grid: 2 | 4 | 8;
  /** Its share grows along a line on the model (metres), once that is drawn. */
  isAlong: boolean;
  line: readonly [Point3, Point3] | null;
  /** The same while it is being drawn. */
  drawnLine: readonly [Point3, Point3] | null;
  /** The motif by its id, around the color or around what is there. */
  motif: string;
  around: 'color' | 'there';
  form: 'dots' | 'stamps' | 'rectangle' | 'touching' | 'everywhere' | 'onSheet' | 'face' | 'part' | 'picked';
  /** On the model: what lies behind is painted as well. */
  isThrough: boolean;
  /** Texels across. */
  size: number;
  shape: 'square' | 'round';
  /** Only texels under picked faces, or under those of a region. */
  where: 'all' | 'picked' | number;
  /** Only texels of these cells, or none of these; where none is named, all. */
  over: readonly number[];
  isSparing: boolean;
  /** The cell of the art that is meant, of a model that lies on several; 0: the one that most faces show. */
  artCell: number;
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
  /** Of these the ones along which they are outlined on the model; `null`: too many for that. */
  rim: Uint32Array | null;
  /** Texels of other art of the sheet that would be set as well. */
  elsewhere: number;
  /** Faces that show the texel that is meant, and the first of them; -1 none. */
  faces: number;
  face: number;
  /** Where the phrase mirrors: whether the place across the plane has texels of its own there, the nearest are taken, or it is still looked for. */
  across: 'exact' | 'near' | 'none' | 'unknown' | null;
}

export const usePaint = perKit(
  create<PaintState>(() => ({
    isOpen: false,
    sets: 'color',
    within: 1,
    among: [],
    seed: 0,
    isRenewing: false,
    other: 0,
    toward: -1,
    share: 0.5,
    grid: 8,
    isAlong: false,
    line: null,
    drawnLine: null,
    motif: 'shingles',
    around: 'there',
    form: 'dots',
    isThrough: false,
    size: 1,
    shape: 'square',
    where: 'all',
    over: [],
    isSparing: false,
    artCell: 0,
    lit: null,
    isOverModel: false,
    cursor: null,
  })),
  ['sets', 'within', 'isRenewing', 'toward', 'share', 'grid', 'motif', 'around', 'form', 'size', 'shape'],
);
