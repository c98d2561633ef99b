import type { Axis, MirrorPlane } from '../../shapes/pick/symmetry';
import type { Point3, RuleName } from './gradientRules';

/** How faces are laid along a gradient: what it runs along, and where on the gradient they come to lie. */
export interface Laying {
  rule: RuleName;
  /** Where on the gradient the run begins and ends, 0..1; the end may come first. */
  start: number;
  end: number;
  /** How often it runs from start to end, at least 1; and by what share of one run it is shifted, 0..1. */
  repeat: number;
  offset: number;
  /** Smooth over each face, each face in one tone, or in one of a few. */
  tone: 'smooth' | 'face' | 'bands';
  /** How many tones there are, where they are few. */
  bands: number;
  /** One run over all of the faces, or one over what of them lies on each part. */
  over: 'pick' | 'part';
  /** Unit vector in the mesh's space that pointed up on the screen. */
  screenUp: Point3;
  /** Where a line, or a distance from its first point, begins and ends; in the mesh's space. */
  line?: readonly [Point3, Point3];
}

export const plainLaying: Laying = {
  rule: 'height',
  start: 0,
  end: 1,
  repeat: 1,
  offset: 0,
  tone: 'smooth',
  bands: 4,
  over: 'pick',
  screenUp: [0, 1, 0],
};

/** A laying that faces of a model remember: along the gradient, and across it where it has two directions. */
export interface SeatRule {
  /** Unique in the model, 1..65534. */
  id: number;
  along: Laying;
  cross?: Laying;
}

const acrossAxis: Partial<Record<RuleName, Axis>> = { width: 'x', height: 'y', depth: 'z' };

/** The laying that makes mirrored faces look like the mirror image of those that were laid. */
export function mirroredLaying(laying: Laying, { axis, offset }: MirrorPlane): Laying {
  const k = ['x', 'y', 'z'].indexOf(axis);
  const turned = (p: Point3, by: number) => p.map((v, i) => (i === k ? by - v : v)) as unknown as Point3;
  const { rule, start, end, repeat, line, screenUp } = laying;
  // The way around runs the other way in any upright mirror; across Z its front lies at the back, half a turn on.
  const isTurned = acrossAxis[rule] === axis || (rule === 'around' && axis !== 'y') || (rule === 'facing' && axis === 'y');
  const half = rule === 'around' && axis === 'z' ? repeat / 2 : 0;
  return {
    ...laying,
    ...(isTurned && { start: end, end: start, offset: (1 + half - laying.offset) % 1 }),
    screenUp: turned(screenUp, 0),
    ...(line && { line: [turned(line[0], 2 * offset), turned(line[1], 2 * offset)] }),
  };
}

/** The same laying somewhere else. */
export function movedLaying(laying: Laying, by: Point3): Laying {
  const moved = (p: Point3): Point3 => [p[0] + by[0], p[1] + by[1], p[2] + by[2]];
  return laying.line ? { ...laying, line: [moved(laying.line[0]), moved(laying.line[1])] } : laying;
}
