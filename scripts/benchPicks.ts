// Figures of picks on bodies: called by `npm run bench`.
import { buildAdjacency } from '@/core/shapes/mesh/adjacency';
import { meshFromLists } from '@/core/shapes/mesh/build';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { beyondRing, floodBulge, floodToNeck } from '@/core/shapes/pick/bodies';
import { likeFaces } from '@/core/shapes/pick/likeParts';

/** A bollard: a closed tube of quads around the upright axis, thin in the middle. `rings` × `sides` faces. */
function bollards(count: number, rings: number, sides: number): PolyMesh {
  const positions: number[] = [];
  const faces: number[][] = [];
  for (let n = 0; n < count; n++) {
    const first = positions.length / 3;
    for (let r = 0; r <= rings; r++)
      for (let s = 0; s < sides; s++) {
        const turn = (s / sides) * 2 * Math.PI;
        const wide = 1 - 0.6 * Math.exp(-(((r - rings / 2) / (rings / 8)) ** 2));
        positions.push(n * 4 + Math.cos(turn) * wide, (r / rings) * 6, Math.sin(turn) * wide);
      }
    const at = (r: number, s: number) => first + r * sides + (s % sides);
    for (let r = 0; r < rings; r++) for (let s = 0; s < sides; s++) faces.push([at(r, s), at(r + 1, s), at(r + 1, s + 1), at(r, s + 1)]);
  }
  return meshFromLists({ positions, faces });
}

/** What is taken, the work, and how many milliseconds it may take. */
export function picksToTime(): [what: string, work: () => unknown, goal: string][] {
  const mesh = bollards(1, 400, 125);
  const adjacency = buildAdjacency(mesh);
  const many = bollards(200, 20, 12);
  const others = buildAdjacency(many);
  const middle = 200 * 125;
  return [
    ['what bulges out, 50,000 faces', () => floodBulge(mesh, adjacency, 77, 179), '16 ms'],
    ['up to the next narrow ring, of 50,000 faces', () => floodToNeck(mesh, adjacency, 77), '16 ms'],
    ['all on one side of the ring, of 50,000 faces', () => beyondRing(mesh, adjacency, mesh.faceStart[middle]!), '16 ms'],
    // The latest answer is kept: another tolerance each time asks anew.
    [
      'a face on 199 other parts like its own',
      () => likeFaces(many, others, [5], { within: 0.02 + Math.random() * 1e-6 }),
      '(in the worker)',
    ],
    ['the same by build alone', () => likeFaces(many, others, [5], { within: 1e9 + Math.random() }), '(in the worker)'],
  ];
}
