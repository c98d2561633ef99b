import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { expect } from 'vitest';
import { applyEdit } from '@/core/kit/edit/editKinds';
import { emptySeats, usableCells, type KitState, type Sheet } from '@/core/kit/kit';
import { faceCount } from '@/core/shapes/mesh/polyMesh';
import { layoutUvs } from '@/core/faces/seat/layout';
import { newColor } from '@/core/sheet/newColor';
import { rasterSheet } from '@/core/sheet/raster';
import type { Raster } from '@/core/ground/pictures/raster';
import { newKit } from '@/core/sheet/starter';
import { grid } from './meshes';

const mesh = grid(5);
const faces = faceCount(mesh);

/** The next smaller mip level: each texel the mean of four, as graphics cards make it. */
function half({ width, height, data }: Raster): Raster {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let k = 0; k < 4; k++) {
        const at = (dx: number, dy: number) => data[(Math.min(height - 1, y * 2 + dy) * width + Math.min(width - 1, x * 2 + dx)) * 4 + k]!;
        out[(y * w + x) * 4 + k] = Math.round((at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4);
      }
  return { width: w, height: h, data: out };
}

/** The nearest texel under each face of a small mesh, at a mip level, as “r,g,b”. */
export function colorsSeen(sheet: Sheet, cell: Uint16Array, level = 0): string[] {
  const uvs = layoutUvs(mesh, { ...emptySeats(faces), cell }, sheet);
  let raster = rasterSheet(sheet);
  for (let n = 0; n < level; n++) raster = half(raster);
  return Array.from({ length: faces }, (_, f) => {
    const at = (Math.floor(uvs[f * 8 + 1]! * raster.height) * raster.width + Math.floor(uvs[f * 8]! * raster.width)) * 4;
    return raster.data.slice(at, at + 3).join();
  });
}

/** A kit with a number of colors more, some of them used by faces. */
export const kits = fc.tuple(fc.nat(60), fc.array(fc.nat(1000), { minLength: faces, maxLength: faces })).map(([more, choice]) => {
  let state: KitState = { kit: newKit('Skerry'), seats: byId() };
  const sheetId = state.kit.sheets[0]!.id;
  for (let i = 0; i < more; i++)
    state = applyEdit(
      state,
      newColor(state, { sheet: sheetId, color: `#${(i * 7919 + 99).toString(16).padStart(6, '0').slice(-6)}`, role: `c${i}`, beside: 2 })
        .edit,
    );
  const usable = usableCells(state.kit.sheets[0]!);
  return { state, cell: Uint16Array.from(choice, (n) => usable[n % usable.length]!.id) };
});

/** Every texel belongs to one cell. */
export function expectDisjoint({ cells, width, height }: Sheet): void {
  const taken = new Uint8Array(width * height);
  for (const { rect } of cells)
    for (let y = rect.y; y < rect.y + rect.h; y++) for (let x = rect.x; x < rect.x + rect.w; x++) taken[y * width + x]!++;
  expect(taken.every((t) => t === 1)).toBe(true);
}
