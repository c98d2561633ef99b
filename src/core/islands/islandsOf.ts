import type { Seats, Sheet } from '../kit/kit';
import { nextCorner, type Adjacency } from '../shapes/mesh/adjacency';
import { islandCells, texelsOf } from './texels';

/** Faces that lie together on the sheet: on one cell, and joined along edges of the mesh. */
export interface Island {
  cell: number;
  faces: Uint32Array;
  /** Texels: least and most across, least and most down. */
  bounds: [number, number, number, number];
}

/** Texels by which the two sides of an edge may lie apart and still be joined. */
const near = 1e-3;

/** The islands of a model on the art and gradients of a sheet, the largest first; and where corners lie (see `texelsOf`). */
export function islandsOf(adjacency: Adjacency, seats: Seats, sheet: Sheet): { islands: Island[]; texels: Float32Array } {
  const { faceStart, neighbour, cornerFace } = adjacency;
  const { cell } = seats;
  const own = islandCells(sheet);
  const faces = Uint32Array.from(cell.keys()).filter((f) => own.has(cell[f]!));
  const texels = texelsOf(sheet, seats, faceStart, faces);
  const isJoined = joins(adjacency, texels);
  const island = new Int32Array(cell.length).fill(-1);
  const lists: number[][] = [];
  for (const first of faces) {
    if (island[first]! >= 0) continue;
    const list = [first];
    island[first] = lists.length;
    for (let i = 0; i < list.length; i++)
      for (let c = faceStart[list[i]!]!; c < faceStart[list[i]! + 1]!; c++) {
        const d = neighbour[c]!;
        const g = d < 0 ? -1 : cornerFace[d]!;
        if (g < 0 || island[g]! >= 0 || cell[g] !== cell[first] || !isJoined(c, d)) continue;
        island[g] = lists.length;
        list.push(g);
      }
    lists.push(list);
  }
  const islands = lists.map((list): Island => ({
    cell: cell[list[0]!]!,
    faces: Uint32Array.from(list).sort(),
    bounds: boundsOf(list, faceStart, texels),
  }));
  return { islands: islands.sort((a, b) => b.faces.length - a.faces.length), texels };
}

/** Whether the two sides of an edge, by their corners, lie together. */
function joins(adjacency: Adjacency, texels: Float32Array): (c: number, d: number) => boolean {
  const isNear = (p: number, q: number) =>
    Math.abs(texels[p * 2]! - texels[q * 2]!) <= near && Math.abs(texels[p * 2 + 1]! - texels[q * 2 + 1]!) <= near;
  const next = (c: number) => nextCorner(adjacency, c);
  return (c, d) => (adjacency.against[c] ? isNear(c, d) && isNear(next(c), next(d)) : isNear(c, next(d)) && isNear(next(c), d));
}

/** The sides of an island's faces, by their corners: those at which it ends, and one of each two inside of it. */
export function sidesOf(adjacency: Adjacency, { faces }: Island, texels: Float32Array): { outside: number[]; inside: number[] } {
  const { faceStart, neighbour, cornerFace } = adjacency;
  const isJoined = joins(adjacency, texels);
  const own = new Set(faces);
  const [outside, inside]: [number[], number[]] = [[], []];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const d = neighbour[c]!;
      if (d < 0 || !own.has(cornerFace[d]!) || !isJoined(c, d)) outside.push(c);
      else if (d > c) inside.push(c);
    }
  return { outside, inside };
}

/** Texels around some faces: least and most across, least and most down. */
export function boundsOf(faces: Iterable<number>, faceStart: Uint32Array, texels: Float32Array): Island['bounds'] {
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const [x, y] = [texels[c * 2]!, texels[c * 2 + 1]!];
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
  return [x0, x1, y0, y1];
}
