import { meshFromLists } from '@/core/shapes/mesh/build';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';

/** The sea floor around the skerry: 500 × 400 quads, 200,000 in all, for benchmarks. */
export function seaFloor(columns = 500, rows = 400): PolyMesh {
  const positions: number[] = [];
  for (let z = 0; z <= rows; z++)
    for (let x = 0; x <= columns; x++) positions.push(x, 6 * Math.sin(x / 23) * Math.cos(z / 31) + Math.sin(x * 0.7 + z * 1.3) * 0.2, z);
  const faces: number[][] = [];
  const at = (x: number, z: number) => z * (columns + 1) + x;
  for (let z = 0; z < rows; z++) for (let x = 0; x < columns; x++) faces.push([at(x, z), at(x, z + 1), at(x + 1, z + 1), at(x + 1, z)]);
  return meshFromLists({ positions, faces });
}

export function objText(mesh: PolyMesh): string {
  const lines: string[] = ['o sea floor'];
  for (let i = 0; i < mesh.positions.length; i += 3)
    lines.push(`v ${mesh.positions[i]!.toFixed(6)} ${mesh.positions[i + 1]!.toFixed(6)} ${mesh.positions[i + 2]!.toFixed(6)}`);
  for (let f = 0; f + 1 < mesh.faceStart.length; f++) {
    let line = 'f';
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) line += ` ${mesh.cornerVertex[c]! + 1}`;
    lines.push(line);
  }
  return lines.join('\n') + '\n';
}
