import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';

/** What a rule measures on. */
export interface RuleContext {
  mesh: PolyMesh;
  adjacency: Adjacency;
  /** The faces that are laid out together: the pick, or what of it lies on one part. */
  faces: Uint32Array;
  /** Unit vector in the world that points up on the screen. */
  screenUp: readonly [number, number, number];
}

type Point = readonly [number, number, number];

/** A way in which a gradient runs over faces. */
interface RuleEntry {
  word: string;
  hint: string;
  /** A number for a corner of a face: where it lies along the run, in any unit. */
  measure: (context: RuleContext) => (corner: number, face: number) => number;
  /** The least and the most that it can be; without it, what the faces have. */
  range?: readonly [number, number];
}

/** All of them, in the order of the list. A new one is an entry here. */
export const gradientRules = {
  height: { word: 'height', hint: 'from the lowest to the highest corner', measure: along(() => [0, 1, 0]) },
  width: { word: 'the X axis', hint: 'from left to right, seen from the front', measure: along(() => [1, 0, 0]) },
  depth: { word: 'the Z axis', hint: 'from back to front', measure: along(() => [0, 0, 1]) },
  view: {
    word: 'the view',
    hint: 'from the bottom of the screen to its top',
    measure: along(({ screenUp }) => screenUp),
  },
  middle: {
    word: 'the distance from the middle',
    hint: 'from inside to outside',
    measure: ({ mesh, faces }) => {
      const at = placeOf(mesh);
      const [x, y, z] = middleOf(mesh, faces);
      return (c) => {
        const p = at(c);
        return Math.hypot(p[0] - x, p[1] - y, p[2] - z);
      };
    },
  },
  long: {
    word: 'the long axis',
    hint: 'from end to end of what is longest',
    measure: along(({ mesh, faces }) => longAxis(mesh, faces)),
  },
  around: {
    word: 'the way around',
    hint: 'once around the upright axis, from the front',
    range: [0, 1],
    measure: ({ mesh, faces }) => {
      const at = placeOf(mesh);
      const [x, , z] = middleOf(mesh, faces);
      return (c, face) => {
        const turn = (corner: number) => {
          const p = at(corner);
          return (Math.atan2(p[0] - x, p[2] - z) / (2 * Math.PI) + 1) % 1;
        };
        // A face that lies across the seam stays on the side of its first corner.
        const first = turn(mesh.faceStart[face]!);
        const own = turn(c);
        return own - first > 0.5 ? own - 1 : first - own > 0.5 ? own + 1 : own;
      };
    },
  },
  facing: {
    word: 'how far faces look up',
    hint: 'from those that look down to those that look up',
    range: [-1, 1],
    measure:
      ({ adjacency }) =>
      (_, face) =>
        adjacency.normals[face * 3 + 1]!,
  },
} as const satisfies Record<string, RuleEntry>;

export type RuleName = keyof typeof gradientRules;
export const ruleNames = Object.keys(gradientRules) as RuleName[];
/** What the table says of a rule. */
export const aboutRule = (rule: RuleName): RuleEntry => gradientRules[rule];

const placeOf =
  ({ positions, cornerVertex }: PolyMesh) =>
  (corner: number): Point => {
    const v = cornerVertex[corner]! * 3;
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
  };

/** How far a corner lies in a direction. */
function along(directionOf: (context: RuleContext) => Point): RuleEntry['measure'] {
  return (context) => {
    const at = placeOf(context.mesh);
    const [x, y, z] = directionOf(context);
    return (c) => {
      const p = at(c);
      return p[0] * x + p[1] * y + p[2] * z;
    };
  };
}

function* cornersOf({ faceStart }: PolyMesh, faces: Uint32Array): Generator<number> {
  for (const f of faces) for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) yield c;
}

/** The middle of the box around the faces. */
function middleOf(mesh: PolyMesh, faces: Uint32Array): Point {
  const at = placeOf(mesh);
  const [least, most] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const c of cornersOf(mesh, faces))
    at(c).forEach((v, k) => {
      least[k] = Math.min(least[k]!, v);
      most[k] = Math.max(most[k]!, v);
    });
  return [0, 1, 2].map((k) => (least[k]! + most[k]!) / 2) as unknown as Point;
}

/**
 * The direction in which corners are spread the most, pointing upward (or to the right, or to the front, where
 * it lies level). Method: power iteration on the covariance of the corners' places.
 */
function longAxis(mesh: PolyMesh, faces: Uint32Array): Point {
  const at = placeOf(mesh);
  const sum = [0, 0, 0];
  let count = 0;
  for (const c of cornersOf(mesh, faces)) {
    at(c).forEach((v, k) => (sum[k]! += v));
    count++;
  }
  const mean = sum.map((v) => v / Math.max(1, count));
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (const c of cornersOf(mesh, faces)) {
    const d = at(c).map((v, k) => v - mean[k]!);
    for (let i = 0; i < 9; i++) m[i]! += d[Math.floor(i / 3)]! * d[i % 3]!;
  }
  // From three starts, since one could stand exactly across the axis.
  let best: { axis: number[]; spread: number } = { axis: [0, 1, 0], spread: -1 };
  for (const start of [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ]) {
    let axis = start;
    let spread = 0;
    for (let step = 0; step < 64; step++) {
      const next = [0, 1, 2].map((r) => axis.reduce((total, v, k) => total + m[r * 3 + k]! * v, 0));
      spread = Math.hypot(...next);
      if (!spread) break;
      axis = next.map((v) => v / spread);
    }
    if (spread > best.spread * (1 + 1e-6)) best = { axis, spread };
  }
  const [x, y, z] = best.axis as [number, number, number];
  const turned = Math.abs(y) > 1e-6 ? y < 0 : Math.abs(x) > 1e-6 ? x < 0 : z < 0;
  return turned ? [-x, -y, -z] : [x, y, z];
}
