import { nextCorner, type Adjacency } from '../../shapes/mesh/adjacency';
import { boundsOf } from '../../shapes/mesh/measure';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';

export type Point3 = readonly [x: number, y: number, z: number];

/** What a rule measures on. */
export interface RuleContext {
  mesh: PolyMesh;
  adjacency: Adjacency;
  /** The faces that are laid out together: the pick, or what of it lies on one part. */
  faces: Uint32Array;
  screenUp: Point3;
  line?: readonly [Point3, Point3];
}

/** A way in which a gradient runs over faces. */
interface RuleEntry {
  word: string;
  hint: string;
  /** Writes for each corner of the faces where it lies along the run, in any unit, at the corner's number. */
  measure: (context: RuleContext, out: Float32Array) => void;
  /** The least and the most that it can be; without it, what the faces have. */
  range?: readonly [number, number];
  /** For a rule that runs straight: where to, as a unit vector. */
  direction?: (context: RuleContext) => Point3;
  /** It needs a line to be drawn. */
  needsLine?: true;
}

/** All of them, in the order of the list. A new one is an entry here. */
export const gradientRules = {
  height: straight('height', 'from the lowest to the highest corner', () => [0, 1, 0]),
  width: straight('the X axis', 'from left to right, seen from the front', () => [1, 0, 0]),
  depth: straight('the Z axis', 'from back to front', () => [0, 0, 1]),
  view: straight('the view', 'from the bottom of the screen to its top', ({ screenUp }) => screenUp),
  middle: {
    word: 'the distance from the middle',
    hint: 'from inside to outside',
    measure: ({ mesh, faces }, out) => {
      const [x, y, z] = middleOf(mesh, faces);
      eachCorner(mesh, faces, (c, px, py, pz) => (out[c] = Math.hypot(px - x, py - y, pz - z)));
    },
  },
  long: straight('the long axis', 'from end to end of what is longest', ({ mesh, faces }) => longAxis(mesh, faces)),
  line: {
    word: 'a line',
    hint: 'drawn on the model, with ends to move',
    range: [0, 1],
    needsLine: true,
    measure: (context, out) => {
      const [from, to] = lineOf(context);
      const way = [0, 1, 2].map((k) => to[k]! - from[k]!) as unknown as Point3;
      const square = way[0] ** 2 + way[1] ** 2 + way[2] ** 2 || 1;
      eachCorner(context.mesh, context.faces, (c, x, y, z) => {
        out[c] = ((x - from[0]) * way[0] + (y - from[1]) * way[1] + (z - from[2]) * way[2]) / square;
      });
    },
  },
  point: {
    word: 'the distance from a point',
    hint: 'from a point to as far as its line reaches',
    range: [0, 1],
    needsLine: true,
    measure: (context, out) => {
      const [[px, py, pz], to] = lineOf(context);
      const reach = Math.hypot(to[0] - px, to[1] - py, to[2] - pz) || 1;
      eachCorner(context.mesh, context.faces, (c, x, y, z) => (out[c] = Math.hypot(x - px, y - py, z - pz) / reach));
    },
  },
  rings: {
    word: 'steps from the border',
    hint: 'edges away from where the pick ends',
    measure: ({ adjacency, faces }, out) => ringsFromBorder(adjacency, faces, out),
  },
  around: {
    word: 'the way around',
    hint: 'once around the upright axis, from the front',
    range: [0, 1],
    measure: ({ mesh, faces }, out) => {
      const [x, , z] = middleOf(mesh, faces);
      const { min, max } = boundsOf(mesh, faces);
      const near = Math.max(max[0] - min[0], max[2] - min[2]) * 1e-6;
      const { positions, cornerVertex, faceStart } = mesh;
      const at = (c: number): [dx: number, dz: number] => [positions[cornerVertex[c]! * 3]! - x, positions[cornerVertex[c]! * 3 + 2]! - z];
      const turnOf = ([dx, dz]: readonly [number, number]) => (Math.atan2(dx, dz) / (2 * Math.PI) + 1) % 1;
      // On the axis itself there is no way around.
      const hasWay = ([dx, dz]: readonly [number, number]) => Math.hypot(dx, dz) > near;
      for (const f of faces) {
        const [start, end] = [faceStart[f]!, faceStart[f + 1]!];
        const middle: [number, number] = [0, 0];
        let first = -1;
        for (let c = start; c < end; c++) {
          const place = at(c);
          middle[0] += place[0];
          middle[1] += place[1];
          if (first < 0 && hasWay(place)) first = turnOf(place);
        }
        const own = turnOf(middle);
        if (first < 0) first = own;
        for (let c = start; c < end; c++) {
          const place = at(c);
          const turn = hasWay(place) ? turnOf(place) : own;
          // A face that lies across the seam stays on the side of its first corner.
          out[c] = turn - first > 0.5 ? turn - 1 : first - turn > 0.5 ? turn + 1 : turn;
        }
      }
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
  of: (corner: number, x: number, y: number, z: number) => void,
): void {
  for (const f of faces) {
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const v = cornerVertex[c]! * 3;
      of(c, positions[v]!, positions[v + 1]!, positions[v + 2]!);
    }
  }
}

/** A rule that runs in one direction. */
function straight(word: string, hint: string, direction: NonNullable<RuleEntry['direction']>): RuleEntry {
  return {
    word,
    hint,
    direction,
    measure: (context, out) => {
      const [x, y, z] = direction(context);
      eachCorner(context.mesh, context.faces, (c, px, py, pz) => (out[c] = px * x + py * y + pz * z));
    },
  };
}

/**
 * A line through the middle of the faces that runs as a rule does, from its beginning to its end; upward for a
 * rule that has no direction.
 */
export function lineLike(rule: RuleName, context: Omit<RuleContext, 'line'>): readonly [Point3, Point3] {
  const { mesh, faces } = context;
  const [x, y, z] = aboutRule(rule).direction?.(context) ?? [0, 1, 0];
  let [least, most] = [Infinity, -Infinity];
  eachCorner(mesh, faces, (_, px, py, pz) => {
    const t = px * x + py * y + pz * z;
    if (t < least) least = t;
    if (t > most) most = t;
  });
  const middle = middleOf(mesh, faces);
  const at = (t: number): Point3 => {
    const by = t - (middle[0] * x + middle[1] * y + middle[2] * z);
    return [middle[0] + x * by, middle[1] + y * by, middle[2] + z * by];
  };
  return [at(least), at(most)];
}

/** The line that was drawn; where none was, upward. */
const lineOf = (context: RuleContext): readonly [Point3, Point3] => context.line ?? lineLike('height', context);

/**
 * How many edges each corner is from the border of the faces, over edges of these faces alone: 0 where another
 * face or none begins. Where there is no border at all, all are 0.
 */
function ringsFromBorder(adjacency: Adjacency, faces: Uint32Array, out: Float32Array): void {
  const { faceStart, neighbour, cornerFace, cornerPoint, pointCount } = adjacency;
  const isIn = new Uint8Array(faceStart.length - 1);
  for (const f of faces) isIn[f] = 1;
  const steps = new Int32Array(pointCount).fill(-1);
  const ways = new Map<number, number[]>();
  const link = (p: number, q: number) => {
    const list = ways.get(p);
    if (list) list.push(q);
    else ways.set(p, [q]);
  };
  const queue: number[] = [];
  const reach = (point: number, step: number) => {
    if (steps[point]! >= 0) return;
    steps[point] = step;
    queue.push(point);
  };
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const [p, q] = [cornerPoint[c]!, cornerPoint[nextCorner(adjacency, c)]!];
      link(p, q);
      link(q, p);
      if (neighbour[c]! >= 0 && isIn[cornerFace[neighbour[c]!]!]) continue;
      reach(p, 0);
      reach(q, 0);
    }
  for (let i = 0; i < queue.length; i++) for (const q of ways.get(queue[i]!) ?? []) reach(q, steps[queue[i]!]! + 1);
  for (const f of faces) for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) out[c] = Math.max(0, steps[cornerPoint[c]!]!);
}

/** The middle of the box around the faces. */
export function middleOf(mesh: PolyMesh, faces: Uint32Array): Point3 {
  const { min, max } = boundsOf(mesh, faces);
  return [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
}

/**
 * The direction in which corners are spread the most, pointing upward (or to the right, or to the front, where
 * it lies level). Method: power iteration on the covariance of the corners' places.
 */
function longAxis(mesh: PolyMesh, faces: Uint32Array): Point3 {
  let [mx, my, mz, count] = [0, 0, 0, 0];
  eachCorner(mesh, faces, (_, px, py, pz) => {
    mx += px;
    my += py;
    mz += pz;
    count++;
  });
  let [xx, xy, xz, yy, yz, zz] = [0, 0, 0, 0, 0, 0];
  eachCorner(mesh, faces, (_, px, py, pz) => {
    const [x, y, z] = [px - mx / count, py - my / count, pz - mz / count];
    xx += x * x;
    xy += x * y;
    xz += x * z;
    yy += y * y;
    yz += y * z;
    zz += z * z;
  });
  const rows: Point3[] = [
    [xx, xy, xz],
    [xy, yy, yz],
    [xz, yz, zz],
  ];
  // From three starts, since one could stand exactly across the axis.
  let best: { axis: Point3; spread: number } = { axis: [0, 1, 0], spread: -1 };
  const starts: Point3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (const start of starts) {
    let axis = start;
    let spread = 0;
    for (let step = 0; step < 64; step++) {
      const [x, y, z] = rows.map((r) => r[0] * axis[0] + r[1] * axis[1] + r[2] * axis[2]) as unknown as Point3;
      spread = Math.hypot(x, y, z);
      if (!spread) break;
      axis = [x / spread, y / spread, z / spread];
    }
    if (spread > best.spread * (1 + 1e-6)) best = { axis, spread };
  }
  const [x, y, z] = best.axis;
  // Level, it runs to the right already, or to the front: as it started.
  return y < -1e-6 ? [-x, -y, -z] : [x, y, z];
}
