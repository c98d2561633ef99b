import { byId } from '@/core/ground/byId';
import validator from 'gltf-validator';
import { expect } from 'vitest';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { group } from '@/core/kit/edit/edit';
import { seatFaces } from '@/core/kit/edit/seatFaces';
import type { ExportModel } from '@/core/files/leaving/exportModel';
import { emptySeats, type Kit, type KitState, type Model } from '@/core/kit/kit';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { newKit } from '@/core/sheet/starter';

/** A kit around one model, with every face on the cell that `cellOf` gives. */
export function kitAround(
  mesh: PolyMesh,
  bytes: Uint8Array | null,
  cellOf: (face: number, kit: Kit) => number,
): { kit: Kit; item: ExportModel } {
  const kit = newKit('Skerry');
  const faces = faceCount(mesh);
  const model: Model = {
    id: 'm',
    name: 'Jetty',
    mesh: '',
    faces,
    sheet: kit.sheets[0]!.id,
    regions: [],
    slots: [],
    seams: [],
    source: { format: bytes ? 'gltf' : 'made', name: '', files: bytes ? [{ name: 'a.glb', content: 'a' }] : [] },
  };
  const state: KitState = { kit: { ...kit, models: [model] }, seats: byId({ m: emptySeats(faces) }) };
  const all = Uint32Array.from({ length: faces }, (_, f) => f);
  const edit = seatFaces('m', state.seats.m!.cell, all, (_, f) => cellOf(f, kit));
  const { seats } = edit ? applyEdit(state, group('', [edit])) : state;
  return { kit: state.kit, item: { model, mesh, seats: seats.m!, files: bytes ? [{ name: 'a.glb', bytes }] : [] } };
}

/** The format's own validator finds no error and no warning, but for those that the file came with. */
export async function expectValid(glb: Uint8Array, inherited: readonly string[] = []): Promise<void> {
  const { issues } = await validator.validateBytes(glb);
  expect(issues.messages.filter((m) => m.severity < 2 && !inherited.includes(m.code))).toEqual([]);
}
