import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box, grid } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { byId } from '../ground/byId';
import { applyEdit, inverseOf } from '../kit/edit/editKinds';
import { emptySeats, findCell, type KitState } from '../kit/kit';
import { isPainted } from '../kit/pixels';
import { ownersOfTexels } from '../faces/seat/texelsOnFaces';
import { adjacencyOf } from '../shapes/mesh/adjacency';
import { faceCount, type PolyMesh } from '../shapes/mesh/polyMesh';
import { triangulate } from '../shapes/mesh/triangulate';
import { expectDisjoint } from '@tests/sheets';
import { roomBeside } from '../sheet/artBeside';
import { newKit } from '../sheet/starter';
import { facesToPaint, gapFor, layForPainting, makePaintable, usualDensity } from './paintable';

const surfaceOf = (mesh: PolyMesh) => ({ mesh, adjacency: adjacencyOf(mesh), triangles: triangulate(mesh) });
const stateOf = (mesh: PolyMesh, cells: number[]): KitState => {
  const kit = newKit('Skerry');
  const model = modelOf('seal', faceCount(mesh), kit.sheets[0]!.id, { regions: [{ id: 1, name: 'eyes', cell: 0, locked: true }] });
  const seats = { ...emptySeats(model.faces), cell: Uint16Array.from({ length: model.faces }, (_, f) => cells[f % cells.length]!) };
  return { kit: { ...kit, models: [model] }, seats: byId({ seal: seats }) };
};

const made = (state: KitState, mesh: PolyMesh) => {
  const layout = layForPainting(surfaceOf(mesh), facesToPaint(state, 'seal'), 4, gapFor(state.kit.sheets[0]!));
  return { ...makePaintable(state, 'seal', mesh, layout, 9, 'Seal'), ...layout };
};

it('lays each flat side as a rectangle of whole texels, none over another, at the density that is asked for', () => {
  const side = fc.integer({ min: 1, max: 12 });
  fc.assert(
    fc.property(side, side, side, fc.constantFrom(0, 2), (w, h, d, gap) => {
      const crate = { ...box(), positions: box().positions.map((v, i) => (v * [w, h, d][i % 3]!) / 4) };
      const { width, height, rects, islands, at } = layForPainting(surfaceOf(crate), Uint32Array.of(0, 1, 2, 3, 4, 5), 4, gap);
      const sizes = (list: { w: number; h: number }[]) => list.map((r) => [Math.min(r.w, r.h), Math.max(r.w, r.h)].join('x')).sort();
      expect(sizes(rects)).toEqual(sizes([[w, h], [w, h], [w, d], [w, d], [h, d], [h, d]].map(([a, b]) => ({ w: a!, h: b! })))); // prettier-ignore
      rects.forEach((r, i) => {
        expect(r.x >= 0 && r.y >= 0 && r.x + r.w <= width && r.y + r.h <= height).toBe(true);
        rects.slice(i + 1).forEach((o) => expect(Math.max(o.x - r.x - r.w, r.x - o.x - o.w, o.y - r.y - r.h, r.y - o.y - o.h)).toBeGreaterThanOrEqual(gap)); // prettier-ignore
        // Corners lie on the corners of their rectangle.
        const corners = [0, 1, 2, 3].map((k) => [at[(islands[i]![0]! * 4 + k) * 2]! * width, at[(islands[i]![0]! * 4 + k) * 2 + 1]! * height].map((v) => Math.round(v * 1e3) / 1e3).join()); // prettier-ignore
        expect(corners.sort()).toEqual([[r.x, r.y], [r.x + r.w, r.y], [r.x, r.y + r.h], [r.x + r.w, r.y + r.h]].map((p) => p.join()).sort()); // prettier-ignore
      });
      expect(Math.log2(width) % 1).toBe(0);
    }),
    { seed: 3, numRuns: 40 },
  );
});

it('a model that becomes paintable looks as before, nothing on its sheet moves, and one undo takes it back', () => {
  for (const [mesh, cells] of [
    [box(2), [1, 2, 3, 4, 5, 0]],
    [grid(4), [1, 2, 2]],
  ] as const) {
    // prettier-ignore
    const state = stateOf(mesh, [...cells]);
    const was = { kit: JSON.stringify(state.kit), cells: [...state.seats.seal!.cell] };
    const own = made(state, mesh);
    const after = applyEdit(state, own.edit);
    const { cell } = findCell(after.kit, own.cell)!;
    expect([cell.role, isPainted(cell.fill), cell.rect.w, cell.rect.h]).toEqual(['Seal', true, own.width, own.height]);
    expectDisjoint(after.kit.sheets[0]!);
    const kept = (JSON.parse(was.kit) as typeof state.kit).sheets[0]!.cells;
    expect(after.kit.sheets[0]!.cells.slice(0, kept.length)).toEqual(kept);
    const pixels = after.pixels![(cell.fill as { picture: string }).picture]!;
    const owners = ownersOfTexels(mesh, after.seats.seal!, cell, pixels);
    expect([...after.seats.seal!.cell].every((c) => c === own.cell)).toBe(true);
    owners.face.forEach((f, t) => f >= 0 && expect(pixels.cells[t]).toBe(was.cells[f] || 9));
    expect(Math.max(...owners.count)).toBe(1);
    expect(new Set(owners.face).size).toBeGreaterThanOrEqual(was.cells.length);
    const back = applyEdit(after, inverseOf(own.edit));
    expect([JSON.stringify(back.kit), [...back.seats.seal!.cell], back.pixels]).toEqual([was.kit, was.cells, undefined]);
  }
});

it('leaves locked regions, and says where there is no room', () => {
  const mesh = box(2);
  const state = stateOf(mesh, [1]);
  state.seats.seal!.region.set([1, 1], 2);
  const own = made(state, mesh);
  expect([...applyEdit(state, own.edit).seats.seal!.cell].map((c) => c === own.cell)).toEqual([true, true, false, false, true, true]);
  const locked = stateOf(mesh, [1]);
  locked.seats.seal!.region.fill(1);
  expect(facesToPaint(locked, 'seal')).toHaveLength(0);
  expect(() => layForPainting(surfaceOf(mesh), Uint32Array.of(0), 4000, 0)).toThrow('Choose fewer texels a metre');
  const frozen = stateOf(mesh, [1]);
  frozen.kit.sheets[0]!.frozen = { picture: 'p' };
  expect(() => facesToPaint(frozen, 'seal')).toThrow('is frozen');
  expect([gapFor({ filter: 'nearest' }), gapFor({ filter: 'linear' })]).toEqual([0, 2]);
  expect(roomBeside({ width: 16, height: 16 }, { width: 16, height: 10 })).toEqual({
    width: 32,
    height: 16,
    rect: { x: 16, y: 0, w: 16, h: 10 },
  });
  expect(roomBeside({ width: 32, height: 16 }, { width: 32, height: 16 })).toEqual({
    width: 32,
    height: 32,
    rect: { x: 0, y: 16, w: 32, h: 16 },
  });
  expect(() => roomBeside({ width: 4096, height: 4096 }, { width: 1, height: 1 })).toThrow('more than 4096 texels');
  expect([usualDensity(12), usualDensity(3000), usualDensity(0)]).toEqual([16, 1, expect.any(Number)]);
});
