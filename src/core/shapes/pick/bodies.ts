import { edgeLength, type Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { floodWhere } from './floods';
import { partShapes } from './partShapes';
import { isClosedRing, ringThrough } from './ring';

/**
 * What bulges out of the rest, or is set into it: touching faces up to edges over which the surface turns inward by more
 * than `angle` degrees. From a face in a hollow (most of its sharp edges turn inward, by length) it is what the hollow
 * holds: up to edges over which the surface turns outward by more. `null` past the limit.
 */
export function floodBulge(mesh: PolyMesh, adjacency: Adjacency, face: number, angle: number, limit = Infinity): Uint32Array | null {
  const least = Math.cos((angle * Math.PI) / 180);
  const isHollow = turnsMostlyInward(mesh, adjacency, face, least);
  return floodWhere(adjacency, face, limit, (c) => adjacency.cosine[c]! >= least || turnsInward(mesh, adjacency, c) === isHollow);
}

function turnsMostlyInward(mesh: PolyMesh, adjacency: Adjacency, face: number, least: number): boolean {
  const { faceStart, neighbour, cosine } = adjacency;
  let inward = 0;
  for (let c = faceStart[face]!; c < faceStart[face + 1]!; c++) {
    if (neighbour[c]! < 0 || cosine[c]! >= least) continue;
    const length = edgeLength(mesh, adjacency, c);
    inward += turnsInward(mesh, adjacency, c) ? length : -length;
  }
  return inward > 1e-9;
}

/** Whether the face over the edge of a corner, not an open one, rises before this one: the surface is hollow there. */
function turnsInward({ positions, cornerVertex }: PolyMesh, adjacency: Adjacency, c: number): boolean {
  const { normals, neighbour, cornerFace, faceStart } = adjacency;
  const [f, g] = [cornerFace[c]!, cornerFace[neighbour[c]!]!];
  let rise = 0;
  for (let e = faceStart[g]!; e < faceStart[g + 1]!; e++)
    for (let k = 0; k < 3; k++) rise += normals[f * 3 + k]! * (positions[cornerVertex[e]! * 3 + k]! - positions[cornerVertex[c]! * 3 + k]!);
  return rise > 0;
}

/**
 * Everything on one side of the ring of quads through an edge, with the ring: the smaller side, as a leg below its
 * ankle. The ring alone where it is not closed, or parts nothing. `null` past the limit.
 */
export function beyondRing(mesh: PolyMesh, adjacency: Adjacency, edge: number, limit = Infinity): Uint32Array | null {
  const ring = ringThrough(mesh, adjacency, edge);
  if (!isClosedRing(adjacency, edge)) return ring;
  /** 1: of the ring; 2: of a side that was found. */
  const mark = new Uint8Array(adjacency.faceStart.length - 1);
  for (const f of ring) mark[f] = 1;
  const sides: Uint32Array[] = [];
  for (const f of ring)
    for (let c = adjacency.faceStart[f]!; c < adjacency.faceStart[f + 1]!; c++) {
      const d = adjacency.neighbour[c]!;
      const g = d < 0 ? -1 : adjacency.cornerFace[d]!;
      if (g < 0 || mark[g]) continue;
      const side = floodWhere(adjacency, g, limit, (_, h) => mark[h] !== 1);
      if (!side) return null;
      for (let i = 0; i < side.length; i++) mark[side[i]!] = 2;
      sides.push(side);
    }
  // A ring around a handle has the same faces on both sides.
  if (sides.length < 2) return ring;
  const areaOf = (side: Uint32Array) => side.reduce((sum, f) => sum + adjacency.areas[f]!, 0);
  const smallest = sides.reduce((a, b) => (areaOf(b) < areaOf(a) ? b : a));
  const out = new Uint32Array(ring.length + smallest.length);
  out.set(ring);
  out.set(smallest, ring.length);
  return out;
}

/** A neck is so much narrower than what lies before it, and what comes after so much wider than the neck. */
const [narrower, wider] = [0.8, 1.2];
/** Of a part's area, what lies before a neck at most. */
const mostBefore = 0.6;

/**
 * Touching faces up to the next narrow ring of their part: a hand up to its wrist. All of the part where it has none.
 *
 * Method: faces are taken layer by layer around the first one; the border of what is taken grows and shrinks with the
 * girth of the body, and where it is shortest before it grows again is the neck.
 */
export function floodToNeck(mesh: PolyMesh, adjacency: Adjacency, face: number, limit = Infinity): Uint32Array | null {
  const { faceStart, neighbour, cornerFace, areas, part, partStart } = adjacency;
  const own = part[face]!;
  if (partStart[own + 1]! - partStart[own]! > limit) return null;
  const { edge, area } = partShapes(mesh, adjacency);
  /** Layer of each face, -1 where it was not met; the faces as they were met, layer by layer. */
  const layer = new Int32Array(part.length).fill(-1);
  const met = new Uint32Array(partStart[own + 1]! - partStart[own]!);
  layer[face] = 0;
  met[0] = face;
  let count = 1;
  /** Length of the border around each layer and those before it, square metres in it, and faces up to it. */
  const border: number[] = [];
  const within: number[] = [];
  const upTo: number[] = [];
  for (let i = 0; i < count; i++) {
    const f = met[i]!;
    const at = layer[f]!;
    within[at] = (within[at] ?? 0) + areas[f]!;
    upTo[at] = i + 1;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0) continue;
      const g = cornerFace[d]!;
      if (layer[g] === -1) {
        layer[g] = at + 1;
        met[count++] = g;
      }
      if (layer[g] === at + 1) border[at] = (border[at] ?? 0) + edge[c]!;
    }
  }
  let [taken, widest] = [0, 0];
  for (let at = 0; at + 1 < border.length; at++) {
    taken += within[at]!;
    widest = Math.max(widest, border[at]!);
    if (taken > mostBefore * area[own]!) break;
    const isNeck = border[at]! <= widest * narrower && border[at + 1]! > border[at]!;
    if (isNeck && Math.max(...border.slice(at + 1, at + 6)) >= border[at]! * wider) return met.slice(0, upTo[at]);
  }
  return met.slice(0, count);
}
