// Figures of Proof: called by `npm run bench`.
import { byId } from '@/core/ground/byId';
import { emptySeats, type Model } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import { proofDefaults } from '@/core/judging/proof/finding';
import { prove } from '@/core/judging/proof/proof';
import { noRecoloring } from '@/core/judging/proof/recoloring';
import { newKit } from '@/core/sheet/starter';
import { seaFloor } from './demo-kit/large';

/** All checks over one model of 200,000 faces, at first and after each of some edits of ten faces. Milliseconds. */
export function benchProof(): { first: number; after: number } {
  const mesh = seaFloor();
  const faces = faceCount(mesh);
  const kit = newKit('Skerry');
  const sheet = kit.sheets[0]!;
  const cells = sheet.cells.map((c) => c.id);
  const model: Model = {
    id: 'm',
    name: 'sea floor',
    mesh: '',
    faces,
    sheet: sheet.id,
    regions: [],
    slots: [],
    seams: [],
    source: { format: 'made', name: '', files: [] },
  };
  const cell = Uint16Array.from({ length: faces }, (_, f) => cells[Math.floor(f / 900) % cells.length]!);
  const look = () => {
    // As it comes into the worker: seats are copied, the mesh is kept there.
    const seats = { ...emptySeats(faces), cell: cell.slice() };
    const start = performance.now();
    const adjacency = adjacencyOf(mesh);
    prove({
      kit: { ...kit, sheets: [sheet], models: [model] },
      models: [{ model, seats, mesh, adjacency, triangles }],
      seats: byId({ m: seats }),
      pictures: new Map(),
      settings: proofDefaults,
      recoloring: noRecoloring,
    });
    return performance.now() - start;
  };
  const triangles = triangulate(mesh, adjacencyOf(mesh).normals);
  const first = look();
  const later = Array.from({ length: 9 }, (_, i) => {
    cell.fill(cells[i % 4]!, i * 1000, i * 1000 + 10);
    return look();
  });
  return { first, after: later.sort((a, b) => a - b)[4]! };
}
