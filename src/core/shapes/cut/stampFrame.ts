import { remembered } from '../../ground/remembered';
import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import type { Symmetry } from '../pick/symmetry';
import { cornerPoint, type Point } from './facePlaces';
import { flatIn, pointIn, type Stamp, type StampFrame } from './stampCut';
import { boundsOf } from './stampOutlines';

/** Of a plane's normal, above which it lies level rather than upright. */
const level = 0.9;

/**
 * The plane of a stamp on a face, its middle at a point there, metres: upright on walls, and seen from above with the front below on what
 * lies level.
 */
export function frameOn({ normals }: Adjacency, face: number, origin: Point): StampFrame {
  const [x, y, z] = [0, 1, 2].map((k) => normals[face * 3 + k]!) as [number, number, number];
  // Across the wall, to the right as it is seen; on the floor along x.
  const across: Point = Math.abs(y) > level ? [1, 0, 0] : [z, 0, -x];
  const along = across[0] * x + across[1] * y + across[2] * z;
  const u = unit([across[0] - x * along, across[1] - y * along, across[2] - z * along]);
  return { origin, u, v: [y * u[2] - z * u[1], z * u[0] - x * u[2], x * u[1] - y * u[0]] };
}

/** A plane with its middle in the middle of faces, as they are seen in it. */
export function inMiddleOf(mesh: PolyMesh, faces: Iterable<number>, frame: StampFrame): StampFrame {
  const flat = flatIn(frame);
  let [left, below, right, above] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const f of faces)
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const [x, y] = flat(cornerPoint(mesh, c));
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < below) below = y;
      if (y > above) above = y;
    }
  return { ...frame, origin: pointIn(frame, [(left + right) / 2, (below + above) / 2]) };
}

const unit = (p: Point): Point => {
  const length = Math.hypot(...p) || 1;
  return [p[0] / length, p[1] / length, p[2] / length];
};

/** A stamp's mirror image, on its face's twin; `null` where the face has none, or where the image is the stamp itself. */
export function mirroredStamp({ axis, offset, twin }: Symmetry, stamp: Stamp): Stamp | null {
  const { face, frame, outlines } = stamp;
  if (twin[face]! < 0) return null;
  const k = ['x', 'y', 'z'].indexOf(axis);
  const image = (p: Point, around: number): Point => p.map((n, i) => (i === k ? 2 * around - n : n)) as unknown as Point;
  const mirrored = {
    face: twin[face]!,
    outlines,
    frame: { origin: image(frame.origin, offset), u: image(frame.u, 0), v: image(frame.v, 0) },
  };
  return isSameStamp(stamp, mirrored) ? null : mirrored;
}

/** Share of a stamp's size within which corners of two lie in one place. */
const sameWithin = 1e-3;
const extentOf = remembered(({ outlines }: Stamp) =>
  boundsOf(outlines.flat()).reduce((most, [low, high]) => Math.max(most, high - low), 0),
);

/** Whether the corners of two stamps lie in the same places. */
export function isSameStamp(stamp: Stamp, other: Stamp): boolean {
  const within = sameWithin * extentOf(stamp);
  const isNear = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) <= within;
  // Most lie far from each other, which their middles tell.
  if (!isNear(middleOf(stamp), middleOf(other))) return false;
  const own = cornersOf(stamp);
  return cornersOf(other).every((p) => own.some((q) => isNear(p, q)));
}

const cornersOf = remembered(({ frame, outlines }: Stamp): Point[] => outlines.flat().map((p) => pointIn(frame, p)));

/** The mean of a stamp's corners. */
const middleOf = remembered((stamp: Stamp): Point => {
  const all = cornersOf(stamp);
  const mean = (k: number) => all.reduce((sum, p) => sum + p[k]!, 0) / all.length;
  return [mean(0), mean(1), mean(2)];
});
