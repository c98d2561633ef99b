import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS, KHRMaterialsVariants } from '@gltf-transform/extensions';
import { byId } from '@/core/ground/byId';
import { inherits } from '../../ground/limits';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { describe, expect, it } from 'vitest';
import { costOfGltf } from '../budget/costOfGltf';
import { tallyOf } from '../budget/tally';
import { rgbFromHex } from '../../ground/color/hex';
import { findCell, type Cell, type Kit } from '../../kit/kit';
import { boundsOf } from '../../shapes/mesh/measure';
import { faceCount, triangleCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { expectValid, kitAround } from '@tests/kitAround';
import { box, grid } from '@tests/meshes';
import { sampleWithThree, seenTriangles } from '@tests/sampleWithThree';
import { gridDocument, toGlb } from '@tests/samples';
import type { ExportModel } from '../leaving/exportModel';
import { openGltf } from '../gltf/openGltf';
import { writeGlb, writeGltf } from '../gltf/writeGlb';
import type { LeaveOptions } from '../../kit/leaveOptions';
import { lossesOf } from './losses';
import { decodePng } from '../../ground/pictures/png';
import { readModel } from './readModel';
import { writeObj } from './writeObj';
import { writePly } from './writePly';
import { writeStl } from './writeStl';

const bumps = (x: number, z: number) => Math.sin(x * 1.7 + z) / 3;
const read = async (name: string, bytes: Uint8Array) => (await readModel({ name, bytes }, [], { mendQuads: false })).mesh;

/** A model of each origin: made here, and from a glTF whose node mirrors. */
async function models(): Promise<{ kit: Kit; item: ExportModel }[]> {
  const document = gridDocument(2, bumps);
  document.getRoot().listNodes()[0]!.setScale([-1, 1, 1]).setTranslation([3, 1, 0]);
  const bytes = await toGlb(document);
  const cells = (f: number) => 1 + (f % 4);
  return [kitAround(grid(3, bumps), null, cells), kitAround(await read('a.glb', bytes), bytes, cells)];
}

const colorOf = (kit: Kit, { seats }: ExportModel, f: number) => {
  const { fill } = findCell(kit, seats.cell[f]!)!.cell;
  return rgbFromHex((fill as { color: string }).color);
};

/** Faces as the middles of their triangles, to be found again whatever their order. */
const middles = (mesh: PolyMesh) =>
  Array.from({ length: faceCount(mesh) }, (_, f) => {
    const ids = [...mesh.cornerVertex.subarray(mesh.faceStart[f]!, mesh.faceStart[f + 1]!)];
    return [0, 1, 2].map((k) => ids.reduce((sum, v) => sum + mesh.positions[v * 3 + k]!, 0) / ids.length);
  });
const nearest = (all: readonly number[][], p: readonly number[]) =>
  all.reduce(
    (best, q, i) => (Math.hypot(...q.map((v, k) => v - p[k]!)) < Math.hypot(...all[best]!.map((v, k) => v - p[k]!)) ? i : best),
    0,
  );

describe('the finish of colors', () => {
  const finished = () => {
    const made = kitAround(box(), null, (f) => 1 + (f % 3));
    const [first, second] = made.kit.sheets[0]!.cells as [Cell, Cell];
    first.finish = { roughness: 0.2, metalness: 1 };
    second.finish = { roughness: 1, metalness: 0, glow: '#ff8000' };
    return made;
  };
  const materialsOf = async (kit: Kit, item: ExportModel, options: Partial<LeaveOptions> = {}) => {
    const glb = await writeGlb(kit, [item], options);
    await expectValid(glb);
    return (await openGltf('a.glb', glb)).document.getRoot().listMaterials();
  };

  it('lies where the color lies: roughness in green, metalness in blue, and what glows', async () => {
    const { kit, item } = finished();
    const [material] = await materialsOf(kit, item);
    expect([material!.getRoughnessFactor(), material!.getMetallicFactor(), material!.getEmissiveFactor()]).toEqual([1, 1, [1, 1, 1]]);
    const [surface, glow] = [material!.getMetallicRoughnessTexture()!, material!.getEmissiveTexture()!].map((t) =>
      decodePng(t.getImage()!),
    );
    const { cells, width } = kit.sheets[0]!;
    const at = (raster: typeof surface, { rect }: Cell) => [
      ...raster!.data.subarray((rect.y * width + rect.x) * 4, (rect.y * width + rect.x) * 4 + 3),
    ];
    expect(cells.slice(0, 3).map((c) => at(surface, c).slice(1))).toEqual([[51, 255], [255, 0], [255, 0]]); // prettier-ignore
    expect(cells.slice(0, 3).map((c) => at(glow, c))).toEqual([[0, 0, 0], [255, 128, 0], [0, 0, 0]]); // prettier-ignore
    expect([material!.getMetallicRoughnessTextureInfo()!.getMagFilter(), material!.getEmissiveTextureInfo()!.getWrapS()]).toEqual([
      9728, 33071,
    ]);
  });

  it('is a number of each flat material, one of the sheet where all agree, and the usual where it is not wanted', async () => {
    const { kit, item } = finished();
    const flat = await materialsOf(kit, item, { as: 'slots' });
    expect(flat.map((m) => [m.getRoughnessFactor(), m.getMetallicFactor()])).toEqual([[0.2, 1], [1, 0], [1, 0]]); // prettier-ignore
    expect(flat[1]!.getEmissiveFactor().map((v) => Math.round(v * 1000))).toEqual([1000, 216, 0]);
    for (const options of [{ finish: false }, { unlit: true }, { as: 'colors' }] as const) {
      const [plain] = await materialsOf(kit, item, options);
      expect([plain!.getRoughnessFactor(), plain!.getMetallicFactor(), plain!.getMetallicRoughnessTexture()]).toEqual([1, 0, null]);
      expect(lossesOf(kit, item, { format: 'glb', ...options })).toContain('How rough, metallic or glowing 2 colors are.');
    }
    expect(lossesOf(kit, item, { format: 'glb' }).join()).not.toContain('glowing');
    expect(lossesOf(kit, item, { format: 'obj' }).join()).toContain('glowing');
    for (const cell of kit.sheets[0]!.cells) if (cell.fill.kind !== 'spare') cell.finish = { roughness: 0.5, metalness: 0 };
    const [one] = await materialsOf(kit, item);
    expect([one!.getRoughnessFactor(), one!.getMetallicFactor(), one!.getMetallicRoughnessTexture()]).toEqual([0.5, 0, null]);
  });
});

describe('colors of vertices', () => {
  it('show in another reader what the sheet shows, in one draw call and without a texture', async () => {
    for (const { kit, item } of await models()) {
      const glb = await writeGlb(kit, [item], { as: 'colors' });
      await expectValid(glb);
      const { triangles, materials } = await sampleWithThree(glb);
      expect([triangles.length, materials.map((m) => m.name)]).toEqual([triangleCount(item.mesh), ['vertex colors']]);
      const places = middles(item.mesh);
      for (const { color, middle } of triangles)
        color!.forEach((v, k) => expect(Math.abs(v - colorOf(kit, item, nearest(places, middle))[k]!)).toBeLessThanOrEqual(1));
      const cost = costOfGltf((await openGltf('a.glb', glb)).document);
      expect(cost).toMatchObject({ drawCalls: 1, materials: 1, textureBytes: 0 });
      const state = { kit: { ...kit, models: [item.model] }, seats: byId({ m: item.seats }) };
      expect(tallyOf(state, [item.model], () => item.mesh, { as: 'colors' }).drawCalls).toBe(1);
    }
  });

  it('add a vertex where they meet, as hard edges do', async () => {
    const { kit, item } = kitAround(box(), null, (f) => (f === 3 ? 1 : 2));
    const costWith = async (normals: 'flat' | 'smooth') => {
      const glb = await writeGlb(kit, [item], { as: 'colors', normals, smoothAngle: 180 });
      return costOfGltf((await openGltf('a.glb', glb)).document);
    };
    expect(await costWith('flat')).toMatchObject({ gpuVertices: 24, atHardEdges: 16, atBorders: 0 });
    expect(await costWith('smooth')).toMatchObject({ gpuVertices: 12, atHardEdges: 0, atBorders: 4 });
  });

  it('are linear as glTF has them, or the sRGB numbers where a reader takes those', async () => {
    const { kit, item } = kitAround(box(), null, () => 1);
    kit.sheets[0]!.cells[0]!.fill = { kind: 'solid', color: '#80ff00', alpha: 0.5 };
    const numbers = async (vertexColors: 'linear' | 'srgb') => {
      const { document } = await openGltf('a.glb', await writeGlb(kit, [item], { as: 'colors', vertexColors }));
      const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
      expect(primitive.getMaterial()!.getAlphaMode()).toBe('BLEND');
      return primitive
        .getAttribute('COLOR_0')!
        .getElement(0, [])
        .map((v: number) => Number(v.toFixed(3)));
    };
    expect(await numbers('linear')).toEqual([0.216, 1, 0, 0.502]);
    expect(await numbers('srgb')).toEqual([0.502, 1, 0, 0.502]);
  });

  it('leave in PLY, polygons whole or not, and another reader sees them', async () => {
    for (const { kit, item } of await models()) {
      const ply = writePly(kit, [item, item]);
      const back = await read('a.ply', ply);
      expect(faceCount(back)).toBe(faceCount(item.mesh) * 2);
      for (let f = 0; f < faceCount(item.mesh); f++)
        for (let c = back.faceStart[f]!; c < back.faceStart[f + 1]!; c++)
          expect([...back.cornerColors!.subarray(c * 4, c * 4 + 4)]).toEqual([...colorOf(kit, item, f), 255]);
      middles(item.mesh).forEach((m, f) => expect(nearest(middles(back).slice(0, faceCount(item.mesh)), m)).toBe(f));
      expect(faceCount(await read('a.ply', writePly(kit, [item], undefined, { faces: 'triangles' })))).toBe(triangleCount(item.mesh));
      const seen = new PLYLoader().parse(ply.slice().buffer);
      expect([seen.index!.count / 3, seen.getAttribute('color') !== undefined]).toEqual([triangleCount(item.mesh) * 2, true]);
    }
  });

  it('do not leave in STL, whose triangles another reader sees from their front', async () => {
    const { item } = kitAround(box(2), null, () => 1);
    const seen = new STLLoader().parse(writeStl([item]).slice().buffer);
    const [position, normal] = [seen.getAttribute('position'), seen.getAttribute('normal')];
    expect(position.count).toBe(36);
    for (let i = 0; i < 36; i++)
      expect([0, 1, 2].reduce((dot, k) => dot + normal.getComponent(i, k) * (position.getComponent(i, k) - 1), 0)).toBe(1);
    expect(writeStl([{ ...item, leaveOut: Uint8Array.of(1, 0, 0, 0, 0, 0) }]).length).toBe(84 + 10 * 50);
  });
});

describe('the frame in which a model leaves', () => {
  const frame = { origin: 'ground', scale: 100 } as const;
  const rounded = ({ min, max }: ReturnType<typeof boundsOf>) => [...min, ...max].map((v) => Math.round(v * 1000) / 1000 + 0);

  it('is stood on its origin, in the unit and with the axis up that are asked for', async () => {
    const { kit, item } = kitAround(box(2), null, () => 1);
    item.mesh.positions.forEach((_, i, all) => (all[i]! += [10, 20, 30][i % 3]!));
    // Marked: the one corner that is pulled up and toward the viewer.
    item.mesh.positions.set([12, 25, 34], 7 * 3);
    const obj = async (options: object) => read('a.obj', writeObj(kit, [item], 'a', options)[0]!.bytes);
    expect(rounded(boundsOf(await obj({})))).toEqual([10, 20, 30, 12, 25, 34]);
    expect(rounded(boundsOf(await obj(frame)))).toEqual([-100, 0, -200, 100, 500, 200]);
    expect(rounded(boundsOf(await obj({ ...frame, up: 'z' })))).toEqual([-100, -200, 0, 100, 200, 500]);
    expect(rounded(boundsOf(await obj({ origin: 'middle' })))).toEqual([-1, -2.5, -2, 1, 2.5, 2]);
    expect(rounded(boundsOf(await read('a.stl', writeStl([item], { up: 'z' }))))).toEqual([10, -34, 20, 12, -30, 25]);
    // Toward the viewer is -Y where Z is up: the corner has not been mirrored.
    const { positions } = await obj({ up: 'z' });
    expect([...positions.slice(21, 24)]).toEqual([12, -34, 25]);
  });

  it('is a node in glTF, over its own nodes', async () => {
    for (const { kit, item } of await models()) {
      const glb = await writeGlb(kit, [item, item], frame);
      await expectValid(glb);
      const { min, max } = boundsOf(item.mesh);
      const back = boundsOf(await read('a.glb', glb));
      expect(back.min[1]).toBeCloseTo(0, 3);
      [0, 1, 2].forEach((k) => expect(back.max[k]! - back.min[k]!).toBeCloseTo((max[k]! - min[k]!) * 100, 2));
      expect(back.min[0]! + back.max[0]!).toBeCloseTo(0, 2);
    }
  });
});

describe('shading', () => {
  it('is flat, or smooth where faces meet at less than an angle, exactly', async () => {
    const { kit, item } = kitAround(box(2), null, () => 1);
    const normals = async (options: object) => {
      const { document } = await openGltf('a.glb', await writeGlb(kit, [item], options));
      const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
      const [p, n] = [primitive.getAttribute('POSITION')!, primitive.getAttribute('NORMAL')!];
      return Array.from({ length: p.getCount() }, (_, i) => [
        ...p.getElement(i, []).map((v) => v - 1),
        ...n.getElement(i, []).map((v) => v + 0),
      ]);
    };
    const r = Math.sqrt(1 / 3);
    const smooth = await normals({ normals: 'smooth', smoothAngle: 91 });
    expect(smooth).toHaveLength(8);
    for (const [x, y, z, ...n] of smooth) [x, y, z].forEach((v, k) => expect(n[k]).toBeCloseTo(v! * r, 6));
    for (const options of [{ normals: 'smooth', smoothAngle: 89 }, { normals: 'flat' }]) {
      const hard = await normals(options);
      expect(hard).toHaveLength(24);
      for (const [x, y, z, ...n] of hard) expect([n.filter((v) => v === 0).length, n[0]! * x! + n[1]! * y! + n[2]! * z!]).toEqual([2, 1]);
    }
  });

  it('leaves OBJ with smoothing groups by which a reader without normals shades the same', async () => {
    // Two roofs of three sides each, whose ridges are soft; the two meet at a hard edge.
    const mesh = grid(6, (x) => [0, 0.2, 0.2, 0, 1.2, 1.2, 0][x]!);
    const { kit, item } = kitAround(mesh, null, () => 1);
    const text = new TextDecoder().decode(writeObj(kit, [item], 'a', { normals: 'smooth', smoothAngle: 52 })[0]!.bytes);
    expect([...text.matchAll(/^s .*$/gm)].map(([line]) => line).filter((line, i, all) => all.indexOf(line) === i)).toEqual([
      's 1',
      's 2',
      's off',
    ]);
    // The two weigh faces differently; a ridge taken for a hard edge would be off by 0.4.
    const bare = text.replace(/^vn .*\n/gm, '').replace(/\/(\d*)\/\d+/g, '/$1');
    const encode = (t: string) => new TextEncoder().encode(t);
    const [whole, shaded] = [await read('a.obj', encode(text)), await read('a.obj', encode(bare))];
    expect(shaded.cornerNormals!.every((v, i) => Math.abs(v - whole.cornerNormals![i]!) < 0.12)).toBe(true);
    // A flat model has none.
    expect(new TextDecoder().decode(writeObj(kit, [item], 'a', { normals: 'flat' })[0]!.bytes)).not.toMatch(/^s /m);
  });

  it('of a glTF whose node mirrors looks to the front of every triangle', async () => {
    const [, { kit, item }] = (await models()) as [unknown, { kit: Kit; item: ExportModel }];
    for (const normals of ['flat', 'smooth'] as const) {
      const glb = await writeGlb(kit, [item], { normals, smoothAngle: 180, as: 'colors' });
      await expectValid(glb);
      expect((await seenTriangles(glb)).lit).toBe(triangleCount(item.mesh));
    }
  });
});

describe('glTF in several files, and packed', () => {
  it('names its pictures as it is told, and reads back the same', async () => {
    for (const { kit, item } of await models()) {
      const asked: string[] = [];
      const { files } = await writeGltf(kit, [item], 'jetty', ({ of, extension }) => {
        asked.push(`../${of!.sheet.name} of all.${extension}`);
        return asked[0]!;
      });
      expect(files.map((f) => f.name)).toEqual(['jetty.gltf', 'jetty.bin']);
      expect(asked).toEqual(['../Sheet of all.png']);
      expect(new TextDecoder().decode(files[0]!.bytes)).toContain('"uri": "../Sheet%20of%20all.png"');
      const { document } = await openGltf('a.glb', await writeGlb(kit, [item]));
      const picture = document.getRoot().listTextures()[0]!.getImage()!;
      const { mesh, notes } = await readModel(files[0]!, [files[1]!, { name: 'Sheet of all.png', bytes: picture }], { mendQuads: false });
      expect([faceCount(mesh), notes]).toEqual([triangleCount(item.mesh), []]);
    }
  });

  it('is smaller packed, to the same numbers', async () => {
    const { kit, item } = kitAround(grid(20, bumps), null, () => 1);
    const [plain, packed] = [await writeGlb(kit, [item]), await writeGlb(kit, [item], { packed: true })];
    expect(packed.length).toBeLessThan(plain.length * 0.7);
    const [a, b] = [await read('a.glb', plain), await read('a.glb', packed)];
    const corners = (mesh: PolyMesh) => [...mesh.cornerVertex].map((v) => [...mesh.positions.subarray(v * 3, v * 3 + 3)].join());
    expect(corners(b).sort()).toEqual(corners(a).sort());
  });
});

it('tells in which variants faces leave as the default has them, and why', async () => {
  const { kit: plain, item } = kitAround(grid(3, bumps), null, (f) => (f ? 1 : 0));
  const varied = (count: number, cellIn: (v: number, f: number) => number, mesh = item.mesh) => {
    const variants = Array.from({ length: count }, (_, n) => ({ id: `v${n}`, name: `Look ${n}`, fills: {} }));
    const cells = (n: number) => Uint16Array.from({ length: faceCount(mesh) }, (_, f) => cellIn(n, f));
    const patches = byId(Object.fromEntries(variants.map(({ id }, n) => [id, { cell: cells(n) }])));
    return { kit: { ...plain, variants }, own: { ...item, mesh, patches } };
  };
  const told = ({ kit, own }: ReturnType<typeof varied>, options: Partial<LeaveOptions> = {}) =>
    lossesOf(kit, own, { format: 'glb', ...options });
  const said = (name: string, why: string) => [`The look in ${name} of faces ${why}: the default’s stands there.`];
  const elsewhere = (v: number, f: number) => (f ? v + 2 : inherits);
  expect(told(varied(3, elsewhere))).toEqual([]);
  const four = varied(4, elsewhere);
  expect(told(four)).toEqual(said('Look 3', 'whose UVs there would be a fifth set'));
  expect(told(four, { variants: 'none' })).toEqual([]);
  const { document } = await openGltf('a.glb', await writeGlb(four.kit, [four.own]));
  const sets = document.getRoot().listMeshes()[0]!.listPrimitives().map((p) => p.listSemantics().filter((s) => s.startsWith('TEXCOORD')).length); // prettier-ignore
  expect(Math.max(...sets)).toBe(4);
  const uncolored = varied(2, (v, f) => (v && f === 1 ? 0 : inherits));
  expect(told(uncolored)).toEqual(said('Look 1', 'that are uncolored only there'));
  const cornerColors = new Uint8Array(item.mesh.cornerVertex.length * 4).fill(255);
  expect(told(varied(2, (v, f) => (v && f === 0 ? 2 : inherits), { ...item.mesh, cornerColors }))).toEqual([
    'Vertex colors of faces that were recolored.',
    ...said('Look 1', 'that are colored only there and have vertex colors'),
  ]);
});

it('tells that variants which a file came with are gone where its faces were colored, in a variant too', async () => {
  const document = gridDocument(2, bumps);
  const extension = document.createExtension(KHRMaterialsVariants);
  const mapping = extension.createMapping().setMaterial(document.createMaterial('frost')).addVariant(extension.createVariant('Winter'));
  document.getRoot().listMeshes()[0]!.listPrimitives()[0]!.setExtension('KHR_materials_variants', extension.createMappingList().addMapping(mapping)); // prettier-ignore
  const bytes = await new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
  const mesh = await read('a.glb', bytes);
  const own = 'The file’s own variants on faces that were colored.';
  const source = await openGltf('a.glb', bytes);
  const told = ({ kit, item }: ReturnType<typeof kitAround>) => lossesOf(kit, item, { format: 'glb', source });
  expect(told(kitAround(mesh, bytes, (f) => (f === 1 ? 1 : 0)))).toContain(own);
  const bare = kitAround(mesh, bytes, () => 0);
  expect(told(bare)).not.toContain(own);
  const patches = byId({ v: { cell: Uint16Array.from({ length: faceCount(mesh) }, (_, f) => (f === 1 ? 2 : inherits)) } });
  const variants = [{ id: 'v', name: 'Worn', fills: {} }];
  expect(told({ kit: { ...bare.kit, variants }, item: { ...bare.item, patches } })).toContain(own);
});
