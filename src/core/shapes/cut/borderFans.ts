import { nextCorner, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { cornerPoint, type Point } from './facePlaces';

/** A picked face's corner on the outline of what is picked. Its face's neighbours there, laid out flat, fill an angle. */
export interface BorderCorner {
  corner: number;
  /** The corner before it in its face. */
  previous: number;
  /** Radians from the outline's edge at the right, as seen from the corner inward, to the edge that begins here; 0: it is the outline's. */
  before: number;
  /** Radians from the edge that begins here to the one that ends here. */
  own: number;
  /** Radians between the outline's two edges, over all picked faces. */
  whole: number;
}

export function previousCorner({ faceStart, cornerFace }: Pick<Adjacency, 'faceStart' | 'cornerFace'>, c: number): number {
  const f = cornerFace[c]!;
  return c > faceStart[f]! ? c - 1 : faceStart[f + 1]! - 1;
}

/** The corner of the neighbour with the same number over the edge of a corner; -1 where an outline runs, or the neighbour faces the other way. */
export function pickedOver({ neighbour, against, cornerFace }: Adjacency, picked: Uint16Array, corner: number): number {
  const other = neighbour[corner]!;
  return other >= 0 && !against[corner] && picked[cornerFace[other]!] === picked[cornerFace[corner]!] ? other : -1;
}

/** Corners on the outline of picked faces, by their number. */
export function fansAtBorder(mesh: PolyMesh, adjacency: Adjacency, picked: Uint16Array): Map<number, BorderCorner> {
  const { faceStart } = adjacency;
  const out = new Map<number, BorderCorner>();
  for (let f = 0; f < picked.length; f++) {
    if (!picked[f]) continue;
    for (let first = faceStart[f]!; first < faceStart[f + 1]!; first++) {
      if (pickedOver(adjacency, picked, first) >= 0) continue;
      const fan: BorderCorner[] = [];
      let before = 0;
      for (let c = first; ;) {
        const previous = previousCorner(adjacency, c);
        const own = angleAt(mesh, adjacency, c);
        fan.push({ corner: c, previous, before, own, whole: 0 });
        before += own;
        const next = pickedOver(adjacency, picked, previous);
        if (next < 0 || next === first) break;
        c = next;
      }
      for (const corner of fan) out.set(corner.corner, { ...corner, whole: before });
    }
  }
  return out;
}

const off = (a: Point, b: Point): Point => [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Point, b: Point): Point => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** Radians at a corner inside its face, above half a turn where the face is hollow there. */
function angleAt(mesh: PolyMesh, adjacency: Adjacency, c: number): number {
  const at = cornerPoint(mesh, c);
  const [out, back] = [nextCorner(adjacency, c), previousCorner(adjacency, c)].map((d) => off(at, cornerPoint(mesh, d))) as [Point, Point];
  const turned = cross(out, back);
  const angle = Math.atan2(Math.hypot(...turned), dot(out, back));
  return dot(turned, normalOf(adjacency, adjacency.cornerFace[c]!)) < 0 ? 2 * Math.PI - angle : angle;
}

/** The point so many metres from a corner, so many radians from its edge on, in its face's plane. */
export function pointAtAngle(mesh: PolyMesh, adjacency: Adjacency, c: number, radians: number, metres: number): Point {
  const at = cornerPoint(mesh, c);
  const edge = off(at, cornerPoint(mesh, nextCorner(adjacency, c)));
  const length = Math.hypot(...edge) || 1;
  const side = cross(normalOf(adjacency, adjacency.cornerFace[c]!), edge);
  const [along, across] = [(Math.cos(radians) * metres) / length, (Math.sin(radians) * metres) / length];
  return [0, 1, 2].map((k) => at[k]! + edge[k]! * along + side[k]! * across) as unknown as Point;
}

const normalOf = ({ normals }: Adjacency, f: number): Point => [normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!];
