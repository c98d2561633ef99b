import { inherits } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import { type Kit } from '@/core/kit/kit';
import type { ExportModel } from '@/core/files/leaving/exportModel';
import { readModel } from '@/core/files/formats/readModel';
import { kitAround } from './kitAround';
import { grid } from './meshes';
import { gridDocument, toGlb } from './samples';

const bumps = (x: number, z: number) => Math.sin(x * 1.7 + z) / 3;

/** A model made here, and one of a glTF with a mirrored and a turned node of one mesh; a third of their faces bare. */
export async function variedModels(): Promise<{ kit: Kit; items: ExportModel[] }> {
  const cellOf = (f: number) => [1, 2, 0][f % 3]!;
  const { kit: plain, item: made } = kitAround(grid(3, bumps), null, cellOf);
  // One that recolors; two that seat faces otherwise as well, and color those that are bare.
  const kit: Kit = {
    ...plain,
    variants: [
      { id: 'v1', name: 'Salt-worn', fills: { 1: { kind: 'solid', color: '#99aabb' } } },
      { id: 'v2', name: 'Worn through', fills: {} },
      { id: 'v3', name: 'Abandoned', fills: { 2: { kind: 'solid', color: '#445533' } } },
    ],
  };
  const patchOf = (faces: number, say: (f: number) => number) => ({ cell: Uint16Array.from({ length: faces }, (_, f) => say(f)) });
  const patched = (own: ExportModel): ExportModel => ({
    ...own,
    patches: byId({
      v2: patchOf(own.seats.cell.length, (f) => (f % 3 === 0 && f % 2 ? 2 : inherits)),
      v3: patchOf(own.seats.cell.length, (f) => (f % 3 === 2 ? 5 : f % 7 === 0 ? 4 : inherits)),
    }),
  });
  const item = patched(made);
  const document = gridDocument(2, bumps);
  const [node] = document.getRoot().listNodes();
  const copy = document
    .createNode('copy')
    .setMesh(node!.getMesh()!)
    .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2])
    .setTranslation([5, 1, 0]);
  document.getRoot().getDefaultScene()!.addChild(copy);
  node!.setScale([-1, 1, 1]);
  const bytes = await toGlb(document);
  const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
  const came = kitAround(mesh, bytes, cellOf).item;
  return { kit, items: [item, patched({ ...came, model: { ...came.model, id: 'n', name: 'Came', sheet: kit.sheets[0]!.id } })] };
}
