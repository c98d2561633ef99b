import type { Seats } from '../kit/kit';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';

/**
 * Seats for a changed mesh. `oldFaces`: the old face of each new one. Where seats have coordinates, a corner takes those of the old face's corner that lies
 * nearest, so that turned faces keep theirs.
 */
export function carrySeats(seats: Seats, before: PolyMesh, after: PolyMesh, oldFaces: Int32Array): Seats {
  const carried: Seats = {
    cell: Uint16Array.from(oldFaces, (f) => seats.cell[f]!),
    region: Uint16Array.from(oldFaces, (f) => seats.region[f]!),
    ...(seats.rule && { rule: Uint16Array.from(oldFaces, (f) => seats.rule![f]!) }),
  };
  if (!seats.at) return carried;
  const at = new Float32Array(after.cornerVertex.length * 2);
  for (let f = 0; f < faceCount(after); f++) {
    const old = oldFaces[f]!;
    for (let c = after.faceStart[f]!; c < after.faceStart[f + 1]!; c++) {
      let best = before.faceStart[old]!;
      let least = Infinity;
      for (let d = before.faceStart[old]!; d < before.faceStart[old + 1]!; d++) {
        const distance = squaredDistance(after.positions, after.cornerVertex[c]!, before.positions, before.cornerVertex[d]!);
        if (distance < least) [best, least] = [d, distance];
      }
      at.set(seats.at.subarray(best * 2, best * 2 + 2), c * 2);
    }
  }
  return { ...carried, at };
}

function squaredDistance(p: Float32Array, i: number, q: Float32Array, k: number): number {
  let sum = 0;
  for (let n = 0; n < 3; n++) sum += (p[i * 3 + n]! - q[k * 3 + n]!) ** 2;
  return sum;
}
