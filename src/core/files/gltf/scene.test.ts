import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect, it } from 'vitest';
import { expectValid, kitAround } from '@tests/kitAround';
import { sampleWithThree, seenTriangles, variantsIn } from '@tests/sampleWithThree';
import { skinnedDocument, toGlb } from '@tests/samples';
import { variedModels } from '@tests/variedModels';
import { rgbFromHex } from '../../ground/color/hex';
import { findCell, type Cue, type Kit, type Placement } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { FileError } from '../../ground/bytes/errors';
import type { ExportModel } from '../leaving/exportModel';
import { readModel } from '../formats/readModel';
import { stageInGlb } from './readScene';
import { writeScene } from './writeScene';

const stand = (name: string, model: string, at: [number, number, number], turn: number, scale: number, variant?: string): Placement => ({
  ...{ id: name, name, model, at, turn, scale },
  ...(variant && { variant }),
});
const cues: Cue[] = [
  {
    id: 'q',
    name: 'Board',
    when: { kind: 'click', placement: 'a' },
    who: {},
    does: { kind: 'ask', question: 'Which?', among: ['v1', null] },
  },
];
async function islet(): Promise<{ kit: Kit; items: ExportModel[] }> {
  const { kit, items } = await variedModels();
  const [made, came] = items.map((i) => i.model.id) as [string, string];
  const placements = [
    stand('a', made, [0, 0, 0], 0, 1),
    stand('came', came, [-9, 0.5, 3.125], 90, 1.5, 'v1'),
    stand('b', made, [7, 1, -2], 30, 2, 'v1'),
    stand('c', made, [1, 0, 20], 345.5, 0.5, 'v2'),
    stand('d', made, [1, 0, 30], 180, 1, 'v1'),
    stand('e', came, [40, 0, 0], 7, 1, 'v1'),
  ];
  return { kit: { ...kit, models: items.map((i) => i.model), placements, cues }, items };
}

/** To the centimetre, at a border that no place of these lies on. */
const place = (v: number): string => (Math.floor(v * 100 + 0.37) / 100 + 0).toFixed(2);
/** Colors of all triangles, each with where its middle is, sorted. */
const words = (list: { color: readonly number[] | null; middle: readonly number[] }[]) =>
  list.flatMap(({ color, middle }) => (color ? [`${middle.map(place).join()} ${color.join()}`] : [])).sort();

/** What the stage shows, reckoned from the kit alone. `variant`: all show it; each its own where none is told. */
async function wanted({ kit, items }: { kit: Kit; items: ExportModel[] }, variant?: string): Promise<string[]> {
  const out: Parameters<typeof words>[0] = [];
  for (const p of kit.placements!) {
    const item = items.find((i) => i.model.id === p.model)!;
    const v = kit.variants.find((o) => o.id === (variant ?? p.variant));
    const seats = patchedSeats(item.seats, v && item.patches?.[v.id]);
    const angle = (p.turn * Math.PI) / 180;
    const { positions, cornerVertex, faceStart } = item.mesh;
    seats.cell.forEach((cell, f) => {
      if (!cell) return;
      const { color } = (v?.fills[cell] ?? findCell(kit, cell)!.cell.fill) as { color: string };
      for (let k = faceStart[f]! + 1; k + 1 < faceStart[f + 1]!; k++) {
        const ids = [faceStart[f]!, k, k + 1].map((c) => cornerVertex[c]!);
        const [x, y, z] = [0, 1, 2].map((axis) => ids.reduce((sum, i) => sum + positions[i * 3 + axis]!, 0) / 3) as [
          number,
          number,
          number,
        ];
        const middle = [
          p.at[0] + p.scale * (x * Math.cos(angle) + z * Math.sin(angle)),
          p.at[1] + p.scale * y,
          p.at[2] + p.scale * (z * Math.cos(angle) - x * Math.sin(angle)),
        ];
        out.push({ color: rgbFromHex(color as `#${string}`), middle });
      }
    });
  }
  return words(out);
}

it.each([false, true])('holds every placement in its place and coloring, and in every variant (instanced: %s)', async (instanced) => {
  const scene = await islet();
  const glb = await writeScene(scene.kit, scene.items, { instanced });
  await expectValid(glb);
  expect(variantsIn(glb)).toEqual(['Salt-worn', 'Worn through', 'Abandoned']);
  expect(words((await sampleWithThree(glb)).triangles)).toEqual(await wanted(scene));
  // three's loader does not tell of which primitive its instances are.
  for (const { id, name } of instanced ? [] : scene.kit.variants)
    expect(words((await sampleWithThree(glb, name)).triangles), name).toEqual(await wanted(scene, id));
  expect(await writeScene(scene.kit, scene.items, { instanced })).toEqual(glb);
});

it('shares meshes and vertices: another coloring costs materials, and instances no nodes', async () => {
  const { kit, items } = await islet();
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  const root = (await io.readBinary(await writeScene(kit, items))).getRoot();
  const one = (await io.readBinary(await writeScene({ ...kit, placements: kit.placements!.slice(0, 2) }, items))).getRoot();
  const positions = (r: typeof root) => new Set(r.listMeshes().flatMap((m) => m.listPrimitives().map((p) => p.getAttribute('POSITION'))));
  expect(positions(root).size).toBe(positions(one).size);
  const scene = root.getDefaultScene()!;
  expect(scene.listChildren().map((n) => n.getName())).toEqual(['a', 'came', 'b', 'c', 'd', 'e']);
  const meshOf = (name: string) =>
    scene
      .listChildren()
      .find((n) => n.getName() === name)!
      .getMesh();
  expect([meshOf('b') === meshOf('d'), meshOf('a') === meshOf('b'), meshOf('b')!.getName()]).toEqual([true, false, 'Jetty, Salt-worn']);
  const instanced = (await io.readBinary(await writeScene(kit, items, { instanced: true }))).getRoot();
  expect(
    instanced
      .getDefaultScene()!
      .listChildren()
      .map((n) => n.getName()),
  ).toEqual(['a', 'Came, Salt-worn', 'Jetty, Salt-worn', 'c']);
  await expect(writeScene({ ...kit, placements: [] }, items)).rejects.toThrow('Nothing stands on the stage yet');
});

it('gives each placement of a model that moves its own bones and animation', async () => {
  const bytes = await toGlb(skinnedDocument());
  const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
  const { kit, item } = kitAround(mesh, bytes, () => 1);
  const staged = { ...kit, placements: [stand('one', 'm', [0, 0, 0], 0, 1), stand('two', 'm', [10, 0, 0], 0, 1)] };
  const glb = await writeScene(staged, [item], { instanced: true });
  await expectValid(glb);
  const root = (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(glb)).getRoot();
  const before = skinnedDocument().getRoot();
  expect(root.listSkins()).toHaveLength(before.listSkins().length * 2);
  expect(root.listAnimations()).toHaveLength(before.listAnimations().length * 2);
  expect(root.listMeshes()).toHaveLength(before.listMeshes().length);
  const joints = root.listSkins().map((s) => new Set(s.listJoints()));
  expect([...joints[0]!].some((j) => joints[1]!.has(j))).toBe(false);
  const { triangles } = await seenTriangles(glb);
  const { triangles: alone } = await seenTriangles(await writeScene({ ...staged, placements: staged.placements.slice(0, 1) }, [item]));
  expect(triangles).toHaveLength(alone.length * 2);
  expect(triangles.filter((t) => alone.includes(t))).toHaveLength(alone.length);
});

it.each([false, true])('is read again, also where something was moved elsewhere (instanced: %s)', async (instanced) => {
  const { kit, items } = await islet();
  const glb = await writeScene(kit, items, { instanced });
  const back = stageInGlb('a.glb', glb) as { placements: { name: string; at: number[]; turn: number }[]; cues: object[]; kit: string };
  const named = { Jetty: items[0]!.model.name, Came: items[1]!.model.name };
  expect(back.placements).toEqual(
    kit.placements!.map(({ name, at, turn, scale, model, variant }) => {
      const coloring = kit.variants.find((v) => v.id === variant)?.name ?? 'default';
      return { name, model: model === items[0]!.model.id ? named.Jetty : named.Came, coloring, at, turn, scale };
    }),
  );
  expect([back.kit, back.cues]).toEqual([kit.name, [expect.objectContaining({ name: 'Board', when: { event: 'click', placement: 'a' } })]]);
  if (instanced) return;
  const edited = (change: (node: { name?: string; translation?: number[]; rotation?: number[]; scale?: number[] }) => void) => {
    const length = new DataView(glb.buffer, glb.byteOffset).getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as { nodes: { name?: string }[] };
    change(json.nodes.find((n) => n.name === 'c')!);
    const text = new TextEncoder().encode(JSON.stringify(json));
    const out = new Uint8Array(20 + text.length);
    out.set(glb.subarray(0, 20));
    out.set(text, 20);
    new DataView(out.buffer).setUint32(12, text.length, true);
    return stageInGlb('a.glb', out) as typeof back;
  };
  const moved = edited((node) => {
    node.translation = [4, 5, 6];
    node.rotation = [0, -Math.SQRT1_2, 0, Math.SQRT1_2];
  });
  expect(moved.placements.find((p) => p.name === 'c')).toMatchObject({ at: [4, 5, 6], turn: 270 });
  const wrong = (change: Parameters<typeof edited>[0]) => () => edited(change);
  expect(wrong((node) => (node.rotation = [Math.SQRT1_2, 0, 0, Math.SQRT1_2]))).toThrow('“c” is tilted, stretched or mirrored');
  expect(wrong((node) => (node.scale = [1, 2, 1]))).toThrow('stretched');
  expect(wrong((node) => (node.scale = [-1, 1, 1]))).toThrow('mirrored');
  expect(wrong((node) => (node.translation = [0, 1]))).toThrow(FileError);
  expect(() => stageInGlb('a.glb', glb.slice(0, 60))).toThrow('cut short');
  expect(() => stageInGlb('a.glb', glb.slice(0, 10))).toThrow('no GLB');
  expect(() => stageInGlb('m.glb', Uint8Array.from(items[1]!.files[0]!.bytes))).toThrow('it holds no stage');
});
