import { it } from 'vitest';
import { grid } from '@tests/meshes';
import { adjacencyOf } from '../mesh/adjacency';
import { measureFaces } from '../mesh/measure';
import { faceCount } from '../mesh/polyMesh';
import { cutModel, planCut } from './cutModel';
import { stampOutlines } from './stampOutlines';
import { pointOf } from './facePlaces';
it('a', () => {
  const mesh = grid(4);
  const adj = adjacencyOf(mesh);
  const wish = {
    kind: 'stamps',
    stamps: [
      {
        face: 0,
        frame: { origin: [9 / 4, 0, 7 / 4], u: [1, 0, 0], v: [0, 0, -1] },
        outlines: stampOutlines({ kind: 'rectangle', width: 0.3, height: 0.3 }, { columns: 2, rows: 2, gap: 0.1 }, 0),
      },
    ],
  } as const;
  const plan = planCut(mesh, adj, wish);
  const cut = cutModel(mesh, adj, wish);
  for (let f = 0; f < faceCount(cut.mesh); f++) {
    if (measureFaces(cut.mesh).areas[f]! > 0) continue;
    const of = cut.origins.from[f];
    const pts = [];
    for (let c = cut.mesh.faceStart[f]!; c < cut.mesh.faceStart[f + 1]!; c++) {
      const v = cut.mesh.cornerVertex[c]! * 3;
      pts.push([cut.mesh.positions[v]!, cut.mesh.positions[v + 2]!].join('/'));
    }
    console.log(of, f, pts.join(' '));
    console.log(
      plan.cuts
        .filter((c) => c.face === of)
        .map((x) =>
          [
            pointOf(mesh, adj, x.from).join(),
            (x.via ?? []).map((p) => pointOf(mesh, adj, p).join()).join(' '),
            pointOf(mesh, adj, x.to).join(),
            x.from === x.to,
          ].join(' | '),
        ),
    );
    cut.pieces.get(of!)!.forEach((g) => {
      const q = [];
      for (let c = cut.mesh.faceStart[g]!; c < cut.mesh.faceStart[g + 1]!; c++) {
        const v = cut.mesh.cornerVertex[c]! * 3;
        q.push([cut.mesh.positions[v]!.toFixed(3), cut.mesh.positions[v + 2]!.toFixed(3)].join('/'));
      }
      console.log(q.join(' '));
    });
  }
});
