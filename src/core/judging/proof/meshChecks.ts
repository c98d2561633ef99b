import { materialCounter } from '../../files/budget/drawCalls';
import { remembered } from '../../ground/remembered';
import { count } from '../../ground/words';
import { inspectMesh, type ProblemKind } from '../../shapes/check/inspectMesh';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Check } from './finding';

/** Parts are compared pair by pair up to so many. */
const mostParts = 1500;
/** A part that is this far from every other one, as a share of the model's size, floats alone. */
const apart = 0.02;

const problemsOf = remembered(inspectMesh);
const problem =
  (kind: ProblemKind): NonNullable<Check['inModel']> =>
  (_, { mesh }) =>
    problemsOf(mesh).flatMap((p) => (p.kind === kind ? [{ faces: p.faces, count: p.count }] : []));

/** What is wrong with the mesh of a model, and with how many materials it leaves. */
export const meshChecks = {
  flipped: {
    inModel: problem('flipped'),
    say: (f) => `${count(f.count, 'face')} turned inside out`,
    why: 'A game shows nothing where they are seen from behind.',
    good: 'faces outward',
    see: 'gather',
  },
  degenerate: {
    inModel: problem('degenerate'),
    say: (f) => `${count(f.count, 'face')} without area`,
    why: 'They are never seen, and cost vertices.',
    good: 'faces with area',
    see: 'gather',
  },
  duplicate: {
    inModel: problem('duplicate'),
    say: (f) => `${count(f.count, 'face')} lying on another one`,
    why: 'They flicker where their colors differ.',
    good: 'no doubles',
    see: 'gather',
  },
  'open-border': {
    inModel: problem('open-border'),
    say: (f) => `${count(f.count, 'open edge')}`,
    why: 'Where a closed body is meant, one can look inside.',
    good: 'closed',
    see: 'gather',
  },
  'lone-part': {
    inModel: (_, { mesh }) => [{ faces: loneParts(mesh) }],
    say: (f) => `${count(f.count, 'face')} of parts that float alone`,
    why: 'They may have been left behind, or moved by accident.',
    good: 'parts together',
    see: 'color',
  },
  unseen: {
    say: (f) => `${count(f.count, 'face')} seen from no side`,
    why: 'They cost vertices, and nobody sees their color. Hand-off can leave them out.',
    good: 'every face seen',
    see: 'hand-off',
  },
  materials: {
    inModel: ({ kit, pictures, settings }, { model, mesh, seats }) => {
      const materials = materialCounter(kit, { pictures })(model, seats, mesh);
      return materials > settings.materials ? [{ count: materials, detail: String(settings.materials) }] : [];
    },
    say: (f) => `${count(f.count, 'material')}, where ${f.detail} ${f.detail === '1' ? 'is' : 'are'} planned`,
    why: 'Each is one draw call at least: uncolored faces, see-through colors and sides make them.',
    good: 'materials',
    see: 'color',
  },
} satisfies Record<string, Check>;

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
