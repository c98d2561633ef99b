import { meshFromLists } from '@/core/shapes/mesh/build';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';

/** A box of six quads, counter-clockwise from outside. */
export function box(size = 1): PolyMesh {
  const p: number[] = [];
  for (let i = 0; i < 8; i++) p.push(i & 1 ? size : 0, i & 2 ? size : 0, i & 4 ? size : 0);
  return meshFromLists({ positions: p, faces: boxFaces });
}

export const boxFaces = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 4, 6, 2],
  [1, 3, 7, 5],
];

/** `n` × `n` quads on the floor, each raised by `height(x, z)` at its corners. */
export function grid(n: number, height: (x: number, z: number) => number = () => 0): PolyMesh {
  const positions: number[] = [];
  for (let z = 0; z <= n; z++) for (let x = 0; x <= n; x++) positions.push(x, height(x, z), z);
  const faces: number[][] = [];
  const at = (x: number, z: number) => z * (n + 1) + x;
  for (let z = 0; z < n; z++) for (let x = 0; x < n; x++) faces.push([at(x, z), at(x, z + 1), at(x + 1, z + 1), at(x + 1, z)]);
  return meshFromLists({ positions, faces });
}

/** Each face as its own triangles, in face order. */
export function triangulated(mesh: PolyMesh): PolyMesh {
  const faces: number[][] = [];
  for (let f = 0; f < mesh.faceStart.length - 1; f++) {
    const ids = Array.from(mesh.cornerVertex.slice(mesh.faceStart[f]!, mesh.faceStart[f + 1]!));
    for (let k = 1; k + 1 < ids.length; k++) faces.push([ids[0]!, ids[k]!, ids[k + 1]!]);
  }
  return meshFromLists({ positions: mesh.positions, faces });
}

export const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
