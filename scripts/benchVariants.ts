import { inherits } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { emptySeats, type KitState, type Model } from '@/core/kit/kit';
import { faceCount, type PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { seatFaces } from '@/core/kit/edit/seatFaces';
import { newKit } from '@/core/sheet/starter';
import { intoVariant } from '@/core/faces/variants/intoVariant';
import { stateOfVariant } from '@/core/kit/colorings/shown';

type Row = [what: string, ours: number, baseline: string, theirs: number, goal: string];

/** Choosing a variant of a large model, and coloring in it, each beside a copy of what it changes. */
export function benchVariants(mesh: PolyMesh, time: (runs: number, work: () => unknown) => number): Row[] {
  const faces = faceCount(mesh);
  const kit = newKit('Bench');
  const model: Model = {
    ...{ id: 'm', name: 'Sea floor', mesh: '', faces, sheet: kit.sheets[0]!.id, regions: [], slots: [], seams: [] },
    source: { format: 'made', name: '', files: [] },
  };
  const seats = byId({ m: emptySeats(faces) });
  seats.m.cell.fill(1);
  const patch = () => byId({ v: byId({ m: { cell: Uint16Array.from({ length: faces }, (_, f) => (f % 4 ? inherits : 2)) } }) });
  const state: KitState = {
    kit: { ...kit, models: [model], variants: [{ id: 'v', name: 'v', fills: { 1: { kind: 'solid', color: '#112233' } } }] },
    seats,
  };
  const fresh = Array.from({ length: 12 }, () => ({ ...state, patches: patch() }));
  let n = 0;
  const shown = time(9, () => stateOfVariant(fresh[n++ % fresh.length]!, 'v'));
  const copy = time(9, () => seats.m.cell.slice());
  const some = Uint32Array.from({ length: 50_000 }, (_, i) => i * 4);
  const patched = { ...state, patches: patch() };
  const starts = () => mesh.faceStart;
  let cell = 3;
  const colored = time(7, () => {
    const now = stateOfVariant(patched, 'v');
    const edit = seatFaces('m', now.seats.m!.cell, some, (cell = cell === 3 ? 4 : 3))!;
    return applyEdit({ ...patched, patches: patch() }, intoVariant(patched, 'v', edit, starts), { isReplay: true });
  });
  const cells = seats.m.cell;
  const plain = time(7, () => {
    const edit = seatFaces('m', cells, some, (cell = cell === 3 ? 4 : 3))!;
    return applyEdit(state, edit);
  });
  return [
    [
      'a variant of 200,000 faces of which 50,000 sit otherwise, as it is shown',
      shown,
      'a copy of the cells',
      copy,
      '16 ms with the upload',
    ],
    ['color 50,000 scattered faces in it', colored, 'the same in the default', plain, ''],
  ];
}
