import { adjacencyOf } from '../mesh/adjacency';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';

export interface Orientation {
  /** Faces that turn against most (by area) of the faces they hang together with by edges. */
  flipped: Uint32Array;
  /** Faces of closed pieces whose every face agrees with its neighbours but points inward. */
  insideOut: Uint32Array;
  /** 1 for each face to turn, so that normals agree and point outward. */
  turn: Uint8Array;
}

/**
 * Walks each piece over its edges and notes which faces turn against the first. The sign of the piece's
 * volume tells which side is outward; an open piece whose volume is too small to tell (a flag, a floor) keeps
 * the way of most of its area.
 */
export function orientFaces(mesh: PolyMesh): Orientation {
  const { neighbour, against, cornerFace, faceStart, areas } = adjacencyOf(mesh);
  const faces = faceCount(mesh);
  const side = new Int8Array(faces);
  const turn = new Uint8Array(faces);
  const flipped: number[] = [];
  const insideOut: number[] = [];
  const stack = new Uint32Array(faces);
  for (let seed = 0; seed < faces; seed++) {
    if (side[seed] !== 0) continue;
    let taken = 1;
    stack[0] = seed;
    side[seed] = 1;
    let isClosed = true;
    for (let i = 0; i < taken; i++) {
      const f = stack[i]!;
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const d = neighbour[c]!;
        if (d < 0) {
          isClosed = false;
          continue;
        }
        const g = cornerFace[d]!;
        if (side[g] !== 0) continue;
        side[g] = against[c] ? -side[f]! : side[f]!;
        stack[taken++] = g;
      }
    }
    const piece = stack.slice(0, taken).sort();
    let area = 0;
    let forward = 0;
    for (const f of piece) {
      area += areas[f]!;
      if (side[f] === 1) forward += areas[f]!;
    }
    const most = forward * 2 >= area ? 1 : -1;
    const volume = volumeOf(mesh, piece, side);
    const tells = Math.abs(volume) > 1e-3 * area ** 1.5;
    const outward = tells ? Math.sign(volume) : most;
    for (const f of piece) {
      if (side[f] !== most) flipped.push(f);
      // Only a closed piece is surely inside out; an open bowl may be meant so.
      else if (isClosed && tells && outward !== most) insideOut.push(f);
      if (side[f] !== outward) turn[f] = 1;
    }
  }
  return { flipped: Uint32Array.from(flipped).sort(), insideOut: Uint32Array.from(insideOut).sort(), turn };
}

/** Signed volume about the piece's mean point, with each face turned to the first one's side. */
function volumeOf({ positions, faceStart, cornerVertex }: PolyMesh, piece: Uint32Array, side: Int8Array): number {
  let [mx, my, mz, n] = [0, 0, 0, 0];
  for (const f of piece)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++, n++) {
      const v = cornerVertex[c]! * 3;
      mx += positions[v]!;
      my += positions[v + 1]!;
      mz += positions[v + 2]!;
    }
  mx /= n;
  my /= n;
  mz /= n;
  let sum = 0;
  for (const f of piece) {
    const a = cornerVertex[faceStart[f]!]! * 3;
    const [ax, ay, az] = [positions[a]! - mx, positions[a + 1]! - my, positions[a + 2]! - mz];
    for (let c = faceStart[f]! + 1; c + 1 < faceStart[f + 1]!; c++) {
      const b = cornerVertex[c]! * 3;
      const d = cornerVertex[c + 1]! * 3;
      const [bx, by, bz] = [positions[b]! - mx, positions[b + 1]! - my, positions[b + 2]! - mz];
      const [dx, dy, dz] = [positions[d]! - mx, positions[d + 1]! - my, positions[d + 2]! - mz];
      sum += side[f]! * (ax * (by * dz - bz * dy) + ay * (bz * dx - bx * dz) + az * (bx * dy - by * dx));
    }
  }
  return sum / 6;
}
