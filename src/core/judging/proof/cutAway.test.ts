import { WebIO } from '@gltf-transform/core';
import { expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { tallyOf } from '../../files/budget/tally';
import { writeGlb } from '../../files/gltf/writeGlb';
import { byId } from '../../ground/byId';
import { emptySeats, type Cell, type KitState } from '../../kit/kit';
import { rastersOf } from '../../sheet/encode';
import { paintedPictures } from '../../sheet/painted';
import { newKit } from '../../sheet/starter';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { triangulate } from '../../shapes/mesh/triangulate';
import { proofDefaults } from './finding';
import { checks } from './checks';

const mesh = grid(2);
/** Four faces: on the left and right half of a painted art of 4 × 2 texels, on a see-through color, and on an opaque one. */
function stateOf(texels: number[]): KitState {
  const kit = newKit('Skerry');
  const [sheet] = kit.sheets;
  const fur: Cell = {
    id: 90,
    rect: { x: sheet!.width, y: 0, w: 4, h: 2 },
    role: 'fur',
    fill: { kind: 'art', picture: 'fur', painted: true },
  };
  const cells = sheet!.cells.map((c, i): Cell => (i === 1 ? { ...c, fill: { kind: 'solid', color: '#336699', alpha: 0.5 } } : c));
  const own = { ...sheet!, width: sheet!.width * 2, cells: [...cells, fur] };
  const corners = [
    [0, 0.5],
    [0.5, 1],
    [0, 1],
    [0, 1],
  ].flatMap(([a, b]) => [a, 0, b, 0, b, 1, a, 1] as number[]);
  const seats = {
    ...emptySeats(4),
    cell: Uint16Array.of(90, 90, sheet!.cells[1]!.id, sheet!.cells[2]!.id),
    at: Float32Array.from(corners),
  };
  return {
    kit: { ...kit, sheets: [own], models: [modelOf('m', 4, own.id)], nextCell: 91 },
    seats: byId({ m: seats }),
    pixels: byId({ fur: { width: 4, height: 2, cells: Uint16Array.from(texels) } }),
  };
}
async function left(state: KitState, as: LeaveOptions['as']) {
  const pictures = new Map(paintedPictures(state));
  const item = { model: state.kit.models[0]!, mesh, seats: state.seats.m!, files: [] };
  const glb = await writeGlb(state.kit, [item], { pictures, as });
  const materials = (await new WebIO().readBinary(glb)).getRoot().listMaterials();
  const { drawCalls } = tallyOf(state, state.kit.models, () => mesh, { ...leaveDefaults, as, pictures: rastersOf(pictures) });
  expect(drawCalls).toBe(materials.length);
  return materials.map((m) => [m.getAlphaMode(), m.getName().replace(/^[^,]*,? ?/, '')]).sort();
}
const found = (state: KitState, check: string) => {
  const pictures = rastersOf(new Map(paintedPictures(state)));
  const own = { model: state.kit.models[0]!, seats: state.seats.m!, mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) };
  const input = {
    kit: state.kit,
    models: [own],
    seats: state.seats,
    pictures,
    settings: proofDefaults,
    recoloring: { faces: [], fills: [] },
  };
  const { inModel, inSheet } = checks.get(check)!;
  return inModel ? [...inModel(input, own)[0]!.faces!] : inSheet!(input, state.kit.sheets[0]!)[0]!.cells;
};

it('what is cut away leaves masked, what is half there blended, as draw calls of their own; Proof tells which faces', async () => {
  const cut = stateOf([1, 1, 1, 1, 1, 0, 1, 1]);
  expect(await left(cut, 'texture')).toEqual([['BLEND', 'see-through'], ['MASK', 'cut out'], ['OPAQUE', '']]); // prettier-ignore
  expect([found(cut, 'cut-away'), found(cut, 'see-through')]).toEqual([[0], [cut.kit.sheets[0]!.cells[1]!.id]]);
  // Colors of vertices know no texels.
  expect((await left(cut, 'colors')).map(([mode]) => mode)).toEqual(['BLEND', 'OPAQUE']);
  const whole = stateOf([1, 1, 1, 1, 1, 1, 1, 1]);
  expect(await left(whole, 'texture')).toEqual([
    ['BLEND', 'see-through'],
    ['OPAQUE', ''],
  ]);
  expect(found(whole, 'cut-away')).toEqual([]);
  // A texel of a see-through color is half there: the art is blended as a whole.
  const half = stateOf([1, 1, 1, 1, 1, 0, 1, 2]);
  expect((await left(half, 'texture')).map(([mode]) => mode)).toEqual(['BLEND', 'OPAQUE']);
});
