import { create } from 'zustand';
import { usualLikeness, type LikeOptions } from '@/core/shapes/pick/likeParts';
import type { StampShape } from '@/core/shapes/cut/stampOutlines';
import type { Scope } from '@/core/shapes/pick/scopes';
import { usualTolerance, type Axis } from '@/core/shapes/pick/symmetry';

export interface PhraseState {
  scope: Scope;
  /** Degrees; `null`: as proposed for the model. */
  flat: number | null;
  smooth: number | null;
  facing: number | null;
  inward: number | null;
  /** What ends a patch: seams alone, or creases of the smooth angle as well. */
  patchEnds: 'seams' | 'creases';
  /** How much like parts may differ in their lengths, as a share; `Infinity`: they need only be built alike. */
  likeWithin: number;
  /** On like parts the face that lies as the one that is clicked, or all that are like it, such as the other end. */
  likeEnds: 'same' | 'all';
  /** What a click does: pick faces, add to or take from the pick, color at once, or cut the model. */
  act: 'pick' | 'add' | 'take' | 'color' | 'cut';
  /** What is cut: along a ring, by planes across an axis, lines inside an outline, or stamps. */
  cutAlong: 'ring' | Axis | 'border' | 'stamp';
  /** Of what a plane cuts: the part that is pointed at, the model, or what is picked. */
  cutReach: 'part' | 'model' | 'pick';
  /** Whether two planes cut, so many metres apart; else one. */
  cutBand: boolean;
  /** Where a ring is cut: in even steps, where the pointer is, or some metres from its nearer border. */
  cutWhere: 'even' | 'pointed' | 'metres';
  cutTimes: number;
  cutMetres: number;
  /** Inside of what outline lines run (`pick`: the flat area while nothing is picked), how many, and which of the new faces count. */
  borderOf: 'flat' | 'pick';
  /** Whether flat areas with the same outline as the one at the pointer get the same, too. */
  cutAlike: boolean;
  borderLines: number;
  borderTakes: 'stripes' | 'inside';
  stamp: StampState;
  /** What becomes of the faces between the cuts. */
  cutThen: 'pick' | 'color';
  /** Whether the twin across the model's plane goes along, or is taken instead. */
  mirror: 'nowhere' | 'across' | 'instead';
  /** `null`: the axis across which most faces have a twin. */
  mirrorAxis: Axis | null;
  /** How far twins may lie apart, as a share of the model's size. */
  mirrorWithin: number;
  /** What a drag with the first button does. */
  drag: Drag;
  /** Of what a drag takes: only what is truly seen, or through the model. */
  side: 'near' | 'through';
  /** A face is taken as soon as it is touched, or only when it lies wholly inside. */
  reach: 'touched' | 'inside';
  /** Pixels. */
  brush: number;
  /** Degrees of an edge at which the brush stops. */
  brushAngle: number;
}

/** What is stamped: metres, degrees counter-clockwise. */
export interface StampState {
  shape: StampShape['kind'];
  /** What was read from a file to be stamped: outlines as `StampShape` has them. */
  drawn: { name: string; outlines: Extract<StampShape, { kind: 'drawn' }>['outlines'] } | null;
  width: number;
  height: number;
  sides: number;
  turn: number;
  columns: number;
  rows: number;
  gap: number;
  /** Its middle: where the pointer is, or in the middle of the flat area. */
  at: 'point' | 'middle';
}

export type PickingDrag = 'box' | 'lasso' | 'brush';
/** What a drag does: turns the view, picks, lays along a line, draws a seam. */
export type Drag = 'turn' | PickingDrag | 'line' | 'seam';

export const isPicking = (drag: Drag): drag is PickingDrag => drag === 'box' || drag === 'lasso' || drag === 'brush';

export const usePhrase = create<PhraseState>(() => ({
  scope: 'flat',
  flat: null,
  smooth: null,
  facing: null,
  inward: null,
  patchEnds: 'seams',
  likeWithin: usualLikeness,
  likeEnds: 'same',
  act: 'pick',
  cutAlong: 'ring',
  cutReach: 'part',
  cutBand: false,
  cutWhere: 'even',
  cutTimes: 2,
  cutMetres: 0.1,
  borderOf: 'pick',
  cutAlike: false,
  borderLines: 1,
  borderTakes: 'inside',
  stamp: { shape: 'rectangle', drawn: null, width: 0.5, height: 0.5, sides: 6, turn: 0, columns: 1, rows: 1, gap: 0.2, at: 'point' },
  cutThen: 'pick',
  mirror: 'nowhere',
  mirrorAxis: null,
  mirrorWithin: usualTolerance,
  drag: 'turn',
  side: 'near',
  reach: 'touched',
  brush: 24,
  brushAngle: 40,
}));

/** How far parts may differ that are taken for like. */
export const likeOptions = (): LikeOptions => {
  const { likeWithin, likeEnds } = usePhrase.getState();
  return { within: likeWithin, ends: likeEnds };
};
