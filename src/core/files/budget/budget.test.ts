import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import { expect, it } from 'vitest';
import { emptySeats, type KitState, type Model } from '../../kit/kit';
import { measureFaces } from '../../shapes/mesh/measure';
import { newKit, starterSheet } from '../../sheet/starter';
import { box } from '@tests/meshes';
import { drawCallCounter, materialCounter } from './drawCalls';
import { costAsRead, gpuVertices, tallyOf } from './tally';
import { usesOfCells } from '../../kit/colorings/usesOfCells';

const faces = Uint32Array.of(0, 1, 2, 3, 4, 5);

function kitOf(cells: number[][]): KitState {
  const kit = newKit('Skerry');
  kit.sheets.push(starterSheet(kit.nextCell, 'Lamps'));
  kit.nextCell += 16;
  const models = cells.map((_, i) => modelOf(`m${i}`, 6, kit.sheets[0]!.id));
  return {
    kit: { ...kit, models },
    seats: byId(cells.map((c, i) => [`m${i}`, { ...emptySeats(6), cell: Uint16Array.from(c) }])),
  };
}

it('tallies draw calls by sheets and imported materials, colors, and what is left to color', () => {
  const state = kitOf([
    [1, 1, 2, 2, 3, 3],
    [1, 17, 17, 0, 0, 0],
  ]);
  const mesh = {
    ...box(),
    faceSlot: Uint16Array.of(0, 0, 0, 0, 1, 1),
    slots: [box().slots[0]!, { name: 'tar', color: '#222222', given: true }],
  };
  expect(tallyOf(state, state.kit.models, () => mesh)).toEqual({
    drawCalls: 1 + 4,
    whenColored: 1 + 2,
    colors: 4,
    uncolored: 3,
    faces: 12,
  });
  expect(usesOfCells(state).get(1)).toEqual({ faces: 3, models: 2, texels: 0 });
  // Painted art counts as the colors of its texels, where faces show it.
  const painted = { ...state, pixels: byId({ fur: { width: 3, height: 1, cells: Uint16Array.of(1, 9, 0) } }) };
  const cell = state.kit.sheets[0]!.cells[2]!;
  Object.assign(cell, { fill: { kind: 'art', picture: 'fur', painted: true } });
  expect(tallyOf(painted, state.kit.models, () => mesh).colors).toBe(4);
  expect(tallyOf(painted, state.kit.models.slice(1), () => mesh).colors).toBe(2);
  expect(usesOfCells(painted).get(9)).toEqual({ faces: 0, models: 0, texels: 1 });
  expect(usesOfCells(state).has(0)).toBe(false);
});

it('counts a vertex once for each position, normal, UV and color that it has', () => {
  const mesh = box();
  const { normals } = measureFaces(mesh);
  expect(gpuVertices(mesh, faces, undefined, normals)).toBe(24);
  const smooth = { ...mesh, cornerNormals: new Float32Array(72).map((_, i) => (i % 3 === 1 ? 1 : 0)) };
  expect(gpuVertices(smooth, faces, undefined, normals)).toBe(8);
  const uvs = new Float32Array(48).fill(0.5);
  expect(gpuVertices(smooth, faces, uvs, normals)).toBe(8);
  uvs.fill(0.25, 0, 8);
  expect(gpuVertices(smooth, faces, uvs, normals)).toBe(12);
  expect(
    costAsRead({ ...smooth, faceSlot: Uint16Array.of(0, 0, 0, 1, 1, 1), slots: [mesh.slots[0]!, mesh.slots[0]!] }, normals, 99),
  ).toEqual({ materials: 2, drawCalls: 2, textureBytes: 99, gpuVertices: 16, atHardEdges: 0, atBorders: 8 });
  expect(costAsRead(mesh, normals, 0)).toMatchObject({ gpuVertices: 24, atHardEdges: 16, atBorders: 0 });
});

it('counts materials, not the meshes that they are drawn with', () => {
  const { kit, seats } = kitOf([[1, 1, 1, 2, 2, 0]]);
  const model: Model = { ...kit.models[0]!, source: { format: 'gltf', name: 'b', files: [{ name: 'b.glb', content: 'c' }] } };
  const mesh = {
    ...box(),
    source: { facePrimitive: Uint16Array.of(0, 1, 2, 0, 1, 2), primitives: [0, 1, 2].map((node) => ({ node, mesh: node, primitive: 0 })) },
  };
  // Five colored faces over three nodes, and a bare one on the third.
  expect([drawCallCounter(kit)(model, seats.m0!, mesh), materialCounter(kit)(model, seats.m0!, mesh)]).toEqual([4, 2]);
});
