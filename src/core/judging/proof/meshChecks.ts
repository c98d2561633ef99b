import { materialCounter } from '../../files/budget/drawCalls';
import { inspectMesh } from '../../shapes/check/inspectMesh';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { remembered } from '../../ground/remembered';
import { finding, type Finding, type ProofInput, type ProofModel } from './finding';

const ofMesh = ['flipped', 'degenerate', 'duplicate', 'open-border'] as const;

/** Parts are compared pair by pair up to so many. */
const mostParts = 1500;
/** A part that is this far from every other one, as a share of the model's size, floats alone. */
const apart = 0.02;

const problemsOf = remembered(inspectMesh);

/** What is wrong with the mesh of a model, and with how many materials it leaves. */
export function meshProblems({ kit, pictures, settings }: ProofInput, own: ProofModel): Finding[] {
  const { model, mesh, seats } = own;
  const at = { model: model.id };
  const problems = problemsOf(mesh);
  const found = ofMesh.flatMap((kind) => {
    const problem = problems.find((p) => p.kind === kind);
    return problem ? [finding(kind, { ...at, faces: problem.faces, count: problem.count })] : [];
  });
  const materials = materialCounter(kit, { pictures })(model, seats, mesh);
  if (materials > settings.materials) found.push(finding('materials', { ...at, count: materials, detail: String(settings.materials) }));
  return [...found, finding('lone-part', { ...at, faces: loneParts(mesh) })];
}

/** Faces of parts whose box is far from that of every other part. */
const loneParts = remembered((mesh: PolyMesh): Uint32Array => {
  const { partStart, partFaces } = adjacencyOf(mesh);
  const parts = partStart.length - 1;
  if (parts < 2 || parts > mostParts) return new Uint32Array(0);
  const boxes = Array.from({ length: parts }, (_, p) => boxOf(mesh, partFaces.subarray(partStart[p]!, partStart[p + 1]!)));
  const all = boxes.reduce((a, b) => a.map((v, k) => (k < 3 ? Math.min(v, b[k]!) : Math.max(v, b[k]!))));
  const far = Math.max(all[3]! - all[0]!, all[4]! - all[1]!, all[5]! - all[2]!) * apart;
  const gap = (a: number[], b: number[]) => Math.max(...[0, 1, 2].map((k) => Math.max(a[k]! - b[k + 3]!, b[k]! - a[k + 3]!)));
  const lone = boxes.flatMap((a, p) => (boxes.every((b, q) => p === q || gap(a, b) > far) ? [p] : []));
  return Uint32Array.from(lone.flatMap((p) => [...partFaces.subarray(partStart[p]!, partStart[p + 1]!)])).sort();
});

function boxOf({ positions, cornerVertex, faceStart }: PolyMesh, faces: Uint32Array): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const f of faces)
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++)
      for (let k = 0; k < 3; k++) {
        const v = positions[cornerVertex[c]! * 3 + k]!;
        box[k] = Math.min(box[k]!, v);
        box[k + 3] = Math.max(box[k + 3]!, v);
      }
  return box;
}
