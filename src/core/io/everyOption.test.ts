import { describe, expect, it } from 'vitest';
import { costOfGltf } from '../budget/costOfGltf';
import { tallyOf } from '../budget/tally';
import { rgbFromHex } from '../color/hex';
import { findCell, inherits, type Kit, type SeatPatch } from '../kit/kit';
import { patchedSeats } from '../kit/patches';
import { boundsOf } from '../mesh/measure';
import { faceCount, triangleCount, type PolyMesh } from '../mesh/polyMesh';
import { randomFrom } from '@tests/fuzzing';
import { expectValid, kitAround } from '@tests/kitAround';
import { grid } from '@tests/meshes';
import { sampleWithThree, variantsIn } from '@tests/sampleWithThree';
import { gridDocument, toGlb } from '@tests/samples';
import type { ExportModel } from './exportModel';
import { openGltf } from './gltf/openGltf';
import { writeGlb } from './gltf/writeGlb';
import { leaveDefaults, type LeaveOptions } from './leaveOptions';
import { readModel } from './readModel';

/** How many of all combinations are tried, the same ones each time: `SAMPLES=200 npx vitest run everyOption`. */
const samples = Number(process.env.SAMPLES ?? 30);

const choices: { [K in keyof LeaveOptions]: readonly LeaveOptions[K][] } = {
  as: ['texture', 'slots', 'colors'],
  meshes: ['joined', 'shared'],
  unlit: [false, true],
  finish: [false, true],
  numbered: [false, true],
  vertexColors: ['linear', 'srgb'],
  normals: ['came', 'flat', 'smooth'],
  smoothAngle: [0, 40, 180],
  faces: ['whole', 'triangles'],
  up: ['y', 'z'],
  scale: [1, 100, 0.01],
  origin: ['came', 'middle', 'ground'],
  packed: [false, true],
  variants: ['inside', 'none'],
};

const bumps = (x: number, z: number) => Math.sin(x * 1.7 + z) / 3;

/** A model made here, and one of a glTF with a mirrored and a turned node of one mesh; a third of their faces bare. */
async function models(): Promise<{ kit: Kit; items: ExportModel[] }> {
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
    patches: {
      v2: patchOf(own.seats.cell.length, (f) => (f % 3 === 0 && f % 2 ? 2 : inherits)),
      v3: patchOf(own.seats.cell.length, (f) => (f % 3 === 2 ? 5 : f % 7 === 0 ? 4 : inherits)),
    },
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

describe('any choice of options', () => {
  it(`makes a valid GLB with every face in its color and place (${samples} of all)`, { timeout: 240_000 }, async () => {
    const { kit, items } = await models();
    const random = randomFrom(20261126);
    for (let n = 0; n < samples; n++) {
      const options = { ...leaveDefaults } as Record<string, unknown>;
      for (const [key, values] of Object.entries(choices)) options[key] = values[random(values.length)];
      const own = options as unknown as LeaveOptions;
      const glb = await writeGlb(kit, items, own);
      await expectValid(glb);
      const patches = { v2: {}, v3: {} } as Record<string, Record<string, SeatPatch>>;
      for (const { model, patches: said = {} } of items) for (const [id, patch] of Object.entries(said)) patches[id]![model.id] = patch;
      const state = { kit, seats: Object.fromEntries(items.map((i) => [i.model.id, i.seats])), patches };
      const meshes = new Map(items.map((i) => [i.model.id, i.mesh]));
      const foreseen = tallyOf(
        state,
        items.map((i) => i.model),
        (m) => meshes.get(m.id),
        own,
      ).drawCalls;
      expect(foreseen, JSON.stringify(own)).toBe(costOfGltf((await openGltf('b.glb', glb)).document).drawCalls);
      const { mesh } = await readModel({ name: 'b.glb', bytes: glb }, [], { mendQuads: false });
      expect(faceCount(mesh), JSON.stringify(own)).toBe(items.reduce((sum, i) => sum + triangleCount(i.mesh), 0));
      expectFrame(items, mesh, own);
      // three's loader is not given the decoder of packed meshes; sRGB in vertices is not what it expects.
      if (own.packed || own.vertexColors === 'srgb' || own.as === 'slots') continue;
      const names = own.variants === 'none' ? [] : kit.variants.map((v) => v.name);
      expect(variantsIn(glb)).toEqual(names);
      for (const name of [undefined, ...(own.as === 'colors' ? [] : names)]) {
        const variant = kit.variants.find((v) => v.name === name);
        const seen = (await sampleWithThree(glb, name)).triangles.flatMap(({ color }) => (color ? [color.join()] : []));
        const wanted = items.flatMap(({ seats: ownSeats, patches, mesh: m }) => {
          const seats = patchedSeats(ownSeats, variant && patches?.[variant.id]);
          return [...seats.cell].flatMap((cell, f) => {
            const fill = cell ? ((variant?.fills[cell] ?? findCell(kit, cell)!.cell.fill) as { color: string }) : null;
            const triangles = m.faceStart[f + 1]! - m.faceStart[f]! - 2;
            return fill ? Array.from({ length: triangles }, () => rgbFromHex(fill.color).join()) : [];
          });
        });
        expect(seen.sort(), `${name} ${JSON.stringify(own)}`).toEqual(wanted.sort());
      }
    }
  });
});

function expectFrame(items: readonly ExportModel[], back: PolyMesh, { origin, scale }: LeaveOptions): void {
  const all = items.map((i) => boundsOf(i.mesh));
  const placed = all.map(({ min, max }) => {
    const o = origin === 'came' ? [0, 0, 0] : [0, 1, 2].map((k) => (origin === 'ground' && k === 1 ? min[1] : (min[k]! + max[k]!) / 2));
    return { min: min.map((v, k) => (v - o[k]!) * scale), max: max.map((v, k) => (v - o[k]!) * scale) };
  });
  const { min, max } = boundsOf(back);
  for (let k = 0; k < 3; k++) {
    expect(min[k]! / scale).toBeCloseTo(Math.min(...placed.map((p) => p.min[k]!)) / scale, 3);
    expect(max[k]! / scale).toBeCloseTo(Math.max(...placed.map((p) => p.max[k]!)) / scale, 3);
  }
}
