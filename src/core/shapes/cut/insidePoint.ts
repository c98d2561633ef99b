import { nextCorner, type Adjacency } from '../mesh/adjacency';
import { cornerPoint, type Flat, type InsidePoint, type OutlinePlace, type Point } from './facePlaces';

/** A face's outline as it is seen in a plane. */
export function flatOutline(mesh: Parameters<typeof cornerPoint>[0], face: number, flat: (p: Point) => Flat): Flat[] {
  const out: Flat[] = [];
  for (let c = mesh.faceStart[face]!; c < mesh.faceStart[face + 1]!; c++) out.push(flat(cornerPoint(mesh, c)));
  return out;
}

/** A point inside a face, by its outline in a plane: between the places where a level line through it meets the outline at either side. `null` outside. */
export function insidePoint(adjacency: Adjacency, face: number, outline: readonly Flat[], [x, y]: Flat): InsidePoint | null {
  const start = adjacency.faceStart[face]!;
  let [left, right]: (readonly [number, OutlinePlace] | null)[] = [null, null];
  let before = 0;
  for (let i = 0; i < outline.length; i++) {
    const [a, b] = [outline[i]!, outline[nextCorner(adjacency, start + i) - start]!];
    if (a[1] > y === b[1] > y) continue;
    const share = (y - a[1]) / (b[1] - a[1]);
    const at = a[0] + (b[0] - a[0]) * share;
    const place = { corner: start + i, share };
    if (at < x) {
      before++;
      if (!left || at > left[0]) left = [at, place];
    } else if (!right || at < right[0]) right = [at, place];
  }
  if (before % 2 === 0 || !left || !right || right[0] === left[0]) return null;
  return { from: left[1], to: right[1], share: (x - left[0]) / (right[0] - left[0]) };
}
