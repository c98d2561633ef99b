import type { Cell } from '../kit/kit';
import type { Adjacency } from '../shapes/mesh/adjacency';
import type { PolyMesh } from '../shapes/mesh/polyMesh';
import { marginOf } from './arrangeIslands';
import { boundsOf } from './islandsOf';
import { quarter } from './pack';
import { facing, project } from './project';

/** By what islands are put in line, or at even distances. */
export type Arranging = 'left' | 'middle' | 'right' | 'top' | 'centre' | 'bottom' | 'evenly across' | 'evenly down';

/** Islands as some function of them lays them: by how far each is moved. */
function shifted(
  islands: readonly Uint32Array[],
  faceStart: Uint32Array,
  texels: Float32Array,
  by: (i: number) => [number, number],
): Float32Array {
  const out = texels.slice();
  islands.forEach((faces, i) => {
    const [dx, dy] = by(i);
    for (const f of faces)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        out[c * 2] = texels[c * 2]! + dx;
        out[c * 2 + 1] = texels[c * 2 + 1]! + dy;
      }
  });
  return out;
}

/** Puts islands in line with the outermost of them, or between the two outermost at even distances; in texels. */
export function arranged(islands: readonly Uint32Array[], faceStart: Uint32Array, texels: Float32Array, how: Arranging): Float32Array {
  const bounds = islands.map((faces) => boundsOf(faces, faceStart, texels));
  const isDown = how === 'top' || how === 'centre' || how === 'bottom' || how === 'evenly down';
  const low = (i: number) => bounds[i]![isDown ? 2 : 0];
  const high = (i: number) => bounds[i]![isDown ? 3 : 1];
  const all = islands.map((_, i) => i);
  const [first, last] = [Math.min(...all.map(low)), Math.max(...all.map(high))];
  const goal = new Float64Array(islands.length);
  if (how === 'evenly across' || how === 'evenly down') {
    const order = all.sort((a, b) => low(a) + high(a) - low(b) - high(b) || a - b);
    const free = last - first - order.reduce((sum, i) => sum + high(i) - low(i), 0);
    let at = first;
    for (const i of order) {
      goal[i] = at;
      at += high(i) - low(i) + free / Math.max(1, islands.length - 1);
    }
  } else
    for (const i of all) {
      const size = high(i) - low(i);
      goal[i] = how === 'left' || how === 'top' ? first : how === 'right' || how === 'bottom' ? last - size : (first + last - size) / 2;
    }
  return shifted(islands, faceStart, texels, (i) => (isDown ? [0, goal[i]! - low(i)] : [goal[i]! - low(i), 0]));
}

/** Share of an island's size by which corners of one may lie off those of another that is like it. */
const likeness = 0.01;

/**
 * Lays islands onto the first of them where they have its shape, turned by quarters or over as it takes; the others
 * stay, and are told by their places in the list. Two shapes are one where every corner of either has one of the other
 * at its place.
 */
export function stacked(
  islands: readonly Uint32Array[],
  faceStart: Uint32Array,
  texels: Float32Array,
): { texels: Float32Array; unlike: number[] } {
  const out = texels.slice();
  const unlike: number[] = [];
  const cornersOf = (faces: Uint32Array) =>
    [...faces].flatMap((f) => Array.from({ length: faceStart[f + 1]! - faceStart[f]! }, (_, k) => faceStart[f]! + k));
  const middleOf = (faces: Uint32Array) => {
    const [x0, x1, y0, y1] = boundsOf(faces, faceStart, texels);
    return [(x0 + x1) / 2, (y0 + y1) / 2, Math.max(x1 - x0, y1 - y0)] as const;
  };
  const [mx, my, size] = middleOf(islands[0]!);
  const goal = cornersOf(islands[0]!).map((c) => [texels[c * 2]! - mx, texels[c * 2 + 1]! - my] as const);
  const near = size * likeness + 1e-3;
  const isNear = (x: number, y: number, [gx, gy]: readonly [number, number]) => Math.abs(x - gx) <= near && Math.abs(y - gy) <= near;
  islands.forEach((faces, i) => {
    if (i === 0) return;
    const corners = cornersOf(faces);
    const [ox, oy] = middleOf(faces);
    const ways = [0, 1, 2, 3].flatMap((q) => [[q, 1] as const, [q, -1] as const]);
    const placed = ways.map(([q, flip]) => corners.map((c) => quarter((texels[c * 2]! - ox) * flip, texels[c * 2 + 1]! - oy, q)));
    const found =
      corners.length === goal.length
        ? placed.find(
            (own) => own.every(([x, y]) => goal.some((g) => isNear(x, y, g))) && goal.every((g) => own.some(([x, y]) => isNear(x, y, g))),
          )
        : undefined;
    if (!found) {
      unlike.push(i);
      return;
    }
    corners.forEach((c, k) => {
      out[c * 2] = found[k]![0] + mx;
      out[c * 2 + 1] = found[k]![1] + my;
    });
  });
  return { texels: out, unlike };
}

/**
 * Lays every face over all of a cell, up to its clearance: a quad from corner to corner of it, its lower left corner as
 * one looks straight at it at the lower left; others stretched to its box.
 */
export function eachFilling(
  mesh: PolyMesh,
  { normals, areas }: Adjacency,
  faces: Uint32Array,
  cell: Cell,
  clearance: number,
): Float32Array {
  const { faceStart } = mesh;
  const out = new Float32Array(mesh.cornerVertex.length * 2);
  const margin = Math.min(marginOf(cell, clearance), cell.rect.w / 2, cell.rect.h / 2);
  const [left, top] = [cell.rect.x + margin, cell.rect.y + margin];
  const [w, h] = [cell.rect.w - 2 * margin, cell.rect.h - 2 * margin];
  const square = [
    [0, 1],
    [1, 1],
    [1, 0],
    [0, 0],
  ] as const;
  for (const f of faces) {
    const { right, up } = facing(normals, areas, Uint32Array.of(f));
    const flat = project(mesh, Uint32Array.of(f), right, up);
    const [start, end] = [faceStart[f]!, faceStart[f + 1]!];
    const [x0, x1, y0, y1] = boundsOf([f], faceStart, flat);
    // To the right and down: least across, most down.
    const corners = Array.from({ length: end - start }, (_, k) => start + k);
    const lowest = corners.reduce(
      (best, c) => (flat[c * 2 + 1]! - flat[c * 2]! > flat[best * 2 + 1]! - flat[best * 2]! + 1e-9 ? c : best),
      start,
    );
    for (const c of corners) {
      const [x, y] =
        corners.length === 4
          ? square[(c - lowest + 4) % 4]!
          : ([x1 > x0 ? (flat[c * 2]! - x0) / (x1 - x0) : 0.5, y1 > y0 ? (flat[c * 2 + 1]! - y0) / (y1 - y0) : 0.5] as const);
      out[c * 2] = left + x * w;
      out[c * 2 + 1] = top + y * h;
    }
  }
  return out;
}
