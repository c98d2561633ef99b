import type { Adjacency } from '../mesh/adjacency';
import { boundsOf } from '../mesh/measure';
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
  /** Writes for each corner of the faces where it lies along the run, in any unit, at the corner's number. */
  measure: (context: RuleContext, out: Float32Array) => void;
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
    measure: ({ mesh, faces }, out) => {
      const [x, y, z] = middleOf(mesh, faces);
      eachCorner(mesh, faces, (c, px, py, pz) => (out[c] = Math.hypot(px - x, py - y, pz - z)));
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
    measure: ({ mesh, faces }, out) => {
      const [x, , z] = middleOf(mesh, faces);
      let first = 0;
      eachCorner(mesh, faces, (c, px, _, pz, isFirst) => {
        const turn = (Math.atan2(px - x, pz - z) / (2 * Math.PI) + 1) % 1;
        if (isFirst) first = turn;
        // A face that lies across the seam stays on the side of its first corner.
        out[c] = turn - first > 0.5 ? turn - 1 : first - turn > 0.5 ? turn + 1 : turn;
      });
    },
  },
  facing: {
    word: 'how far faces look up',
    hint: 'from those that look down to those that look up',
    range: [-1, 1],
    measure: ({ mesh: { faceStart }, adjacency: { normals }, faces }, out) => {
      for (const f of faces) out.fill(normals[f * 3 + 1]!, faceStart[f]!, faceStart[f + 1]!);
    },
  },
} as const satisfies Record<string, RuleEntry>;

export type RuleName = keyof typeof gradientRules;
export const ruleNames = Object.keys(gradientRules) as RuleName[];
/** What the table says of a rule. */
export const aboutRule = (rule: RuleName): RuleEntry => gradientRules[rule];

function eachCorner(
  { positions, cornerVertex, faceStart }: PolyMesh,
  faces: Uint32Array,
  of: (corner: number, x: number, y: number, z: number, isFirst: boolean) => void,
): void {
  for (const f of faces) {
    const start = faceStart[f]!;
    for (let c = start; c < faceStart[f + 1]!; c++) {
      const v = cornerVertex[c]! * 3;
      of(c, positions[v]!, positions[v + 1]!, positions[v + 2]!, c === start);
    }
  }
}

/** How far a corner lies in a direction. */
function along(directionOf: (context: RuleContext) => Point): RuleEntry['measure'] {
  return (context, out) => {
    const [x, y, z] = directionOf(context);
    eachCorner(context.mesh, context.faces, (c, px, py, pz) => (out[c] = px * x + py * y + pz * z));
  };
}

/** The middle of the box around the faces. */
function middleOf(mesh: PolyMesh, faces: Uint32Array): Point {
  const { min, max } = boundsOf(mesh, faces);
  return [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
}

/**
 * The direction in which corners are spread the most, pointing upward (or to the right, or to the front, where
 * it lies level). Method: power iteration on the covariance of the corners' places.
 */
function longAxis(mesh: PolyMesh, faces: Uint32Array): Point {
  const [mx, my, mz] = middleOf(mesh, faces);
  let [sx, sy, sz, xx, xy, xz, yy, yz, zz, count] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
  eachCorner(mesh, faces, (_, px, py, pz) => {
    const [x, y, z] = [px - mx, py - my, pz - mz];
    sx += x;
    sy += y;
    sz += z;
    xx += x * x;
    xy += x * y;
    xz += x * z;
    yy += y * y;
    yz += y * z;
    zz += z * z;
    count++;
  });
  const less = (sum: number, a: number, b: number) => sum - (a * b) / Math.max(1, count);
  const rows: Point[] = [
    [less(xx, sx, sx), less(xy, sx, sy), less(xz, sx, sz)],
    [less(xy, sx, sy), less(yy, sy, sy), less(yz, sy, sz)],
    [less(xz, sx, sz), less(yz, sy, sz), less(zz, sz, sz)],
  ];
  // From three starts, since one could stand exactly across the axis.
  let best: { axis: Point; spread: number } = { axis: [0, 1, 0], spread: -1 };
  const starts: Point[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (const start of starts) {
    let axis = start;
    let spread = 0;
    for (let step = 0; step < 64; step++) {
      const [x, y, z] = rows.map((r) => r[0] * axis[0] + r[1] * axis[1] + r[2] * axis[2]) as unknown as Point;
      spread = Math.hypot(x, y, z);
      if (!spread) break;
      axis = [x / spread, y / spread, z / spread];
    }
    if (spread > best.spread * (1 + 1e-6)) best = { axis, spread };
  }
  const [x, y, z] = best.axis;
  const isTurned = Math.abs(y) > 1e-6 ? y < 0 : Math.abs(x) > 1e-6 ? x < 0 : z < 0;
  return isTurned ? [-x, -y, -z] : [x, y, z];
}
