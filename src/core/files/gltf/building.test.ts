import { WebIO, type Document, type Scene } from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTMeshoptCompression, KHRMaterialsVariants } from '@gltf-transform/extensions';
import { MeshoptEncoder } from 'meshoptimizer';
import { beforeAll, expect, it } from 'vitest';
import { kitAround } from '@tests/kitAround';
import { box, grid } from '@tests/meshes';
import { gridDocument, toGlb } from '@tests/samples';
import { meshFromLists } from '../../shapes/mesh/build';
import type { PolyMesh, Slot } from '../../shapes/mesh/polyMesh';
import { encodePng } from '../../ground/pictures/png';
import type { KitPictures } from '../../ground/pictures/picture';
import { readModel } from '../formats/readModel';
import { buildGltf, type GltfOptions } from './buildGltf';
import { slotPictures } from './slotPictures';
import { writeGltf, type PictureBeside } from './writeGlb';

const slot = (name: string, more: Partial<Slot> = {}): Slot => ({ name, color: '#ff8000', given: true, ...more });
/** A quad on cell 2, and triangles that are uncolored, one for each slot. */
function sheetAndSlots(slots: Slot[], more: Partial<PolyMesh> = {}): PolyMesh {
  const triangles = slots.map((_, i) => [0, 1, 2].map((k) => 4 + i * 3 + k));
  const positions = [0, 0, 0, 2, 0, 0, 2, 3, 0, 0, 3, 0, ...slots.flatMap((_, i) => [9, i, 0, 9, i, 1, 9, i + 1, 0])];
  const faces = [[0, 1, 2, 3], ...triangles];
  return { ...meshFromLists({ positions, faces, faceSlot: faces.map((_, f) => Math.max(0, f - 1)), slots }), ...more };
}
const round = (list: ArrayLike<number>) => Array.from(list, (v) => Math.round(v * 1e4) / 1e4 + 0);
const built = async (
  mesh: PolyMesh,
  options: GltfOptions = {},
  cellOf: (f: number) => number = (f) => (f ? 0 : 2),
  files: { name: string; bytes: Uint8Array }[] = [],
) => {
  const { kit, item } = kitAround(mesh, null, cellOf);
  const { document } = await buildGltf(kit, [{ ...item, files }], options);
  return { root: document.getRoot(), primitives: document.getRoot().listMeshes()[0]?.listPrimitives() ?? [], kit };
};
type Made = Awaited<ReturnType<typeof built>>['primitives'][number];
const numbers = (p: Made, name: string) => round(p.getAttribute(name)!.getArray()!);
const index = (p: Made) => [...p.getIndices()!.getArray()!];

it('writes each distinct vertex once: place, normal of unit length, and where its seat lies on the sheet', async () => {
  const { primitives, root } = await built(sheetAndSlots([slot('tar')]));
  expect([root.listNodes().map((n) => n.getName()), root.listMeshes().map((m) => m.getName()), primitives.length]).toEqual([
    ['Jetty'],
    ['Jetty'],
    2,
  ]);
  const [sheet, tar] = primitives;
  expect([sheet!.listSemantics(), tar!.listSemantics()]).toEqual([
    ['POSITION', 'NORMAL', 'TEXCOORD_0'],
    ['POSITION', 'NORMAL'],
  ]);
  expect([index(sheet!), index(tar!)]).toEqual([[0, 1, 2, 0, 2, 3], [0, 1, 2]]); // prettier-ignore
  expect(numbers(sheet!, 'POSITION')).toEqual([0, 0, 0, 2, 0, 0, 2, 3, 0, 0, 3, 0]);
  expect(numbers(sheet!, 'NORMAL')).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]);
  // Cell 2 is the second of four in the first row of a sheet of 16 texels.
  expect(numbers(sheet!, 'TEXCOORD_0')).toEqual([0.375, 0.125, 0.375, 0.125, 0.375, 0.125, 0.375, 0.125]);
  expect(numbers(tar!, 'NORMAL')).toEqual([-1, 0, 0, -1, 0, 0, -1, 0, 0]);
});

it('takes normals of corners, of the face where a corner has none, and up for what has no area', async () => {
  const flat = meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 0, 1, 0, 5, 5, 5], faces: [[0, 1, 2], [3, 3, 3]] }); // prettier-ignore
  const cornerNormals = Float32Array.of(3, 0, 4, 0, 0, 0, 0, 1e-7, 0, ...new Array<number>(9).fill(0));
  const { primitives } = await built({ ...flat, cornerNormals }, {}, () => 2);
  const normals = numbers(primitives[0]!, 'NORMAL');
  expect(normals.slice(0, 9)).toEqual([0.6, 0, 0.8, 0, 0, 1, 0, 0, 1]);
  if (normals.length > 9) expect(normals.slice(9, 12)).toEqual([0, 1, 0]);
});

it('leaves uncolored faces their UV sets, colors and pictures; what says nothing is one neutral material', async () => {
  const png = encodePng({ width: 1, height: 1, data: Uint8Array.of(1, 2, 3, 255) });
  const slots = [
    slot('tar', { color: '#ff8000' }),
    slot('rust', { picture: 'Rust.PNG', given: false }),
    slot('gone', { picture: 'gone.png', given: false }),
    slot('glass', { alpha: 0.25, doubleSided: true }),
    slot('no material', { given: false, none: true, color: '#c8c8c8' }),
    slot('nor this', { given: false, none: true, color: '#c8c8c8' }),
    slot('tga', { picture: 'a.tga', given: false }),
    slot('tinted', { picture: 'rust.png', color: '#ff8000' }),
    slot('inked', { picture: 'rust.png', color: '#000000' }),
  ];
  const mesh = sheetAndSlots(slots);
  const corners = mesh.cornerVertex.length;
  const set = (k: number) => Float32Array.from({ length: corners * 2 }, (_, i) => i + k);
  const files = ['rust.png', 'a.tga'].map((name) => ({ name, bytes: png }));
  const { primitives } = await built({ ...mesh, uvSets: [set(0), set(100)] }, {}, undefined, files);
  expect(primitives.map((p) => p.listSemantics().join())).toEqual([
    'POSITION,NORMAL,TEXCOORD_0',
    ...slots.map(() => 'POSITION,NORMAL,TEXCOORD_0,TEXCOORD_1'),
  ]);
  expect([numbers(primitives[1]!, 'TEXCOORD_0'), numbers(primitives[1]!, 'TEXCOORD_1')]).toEqual([
    [8, 9, 10, 11, 12, 13],
    [108, 109, 110, 111, 112, 113],
  ]);
  const materials = primitives.slice(1).map((p) => p.getMaterial()!);
  expect(
    materials.map((m) => [
      m.getName(),
      round(m.getBaseColorFactor()),
      m.getBaseColorTexture()?.getName(),
      m.getAlphaMode(),
      m.getDoubleSided(),
    ]),
  ).toEqual([
    ['tar', [1, 0.2159, 0, 1], undefined, 'OPAQUE', false],
    ['rust', [1, 1, 1, 1], 'Rust.PNG', 'OPAQUE', false],
    ['gone', [1, 0.2159, 0, 1], undefined, 'OPAQUE', false],
    ['glass', [1, 0.2159, 0, 0.25], undefined, 'BLEND', true],
    ['not yet colored', [0.5776, 0.5776, 0.5776, 1], undefined, 'OPAQUE', false],
    ['not yet colored', [0.5776, 0.5776, 0.5776, 1], undefined, 'OPAQUE', false],
    ['tga', [1, 0.2159, 0, 1], undefined, 'OPAQUE', false],
    ['tinted', [1, 0.2159, 0, 1], 'rust.png', 'OPAQUE', false],
    ['inked', [1, 1, 1, 1], 'rust.png', 'OPAQUE', false],
  ]);
  expect([materials[4] === materials[5], materials.map((m) => [m.getMetallicFactor(), m.getRoughnessFactor()]).join(';')]).toEqual([
    true,
    slots.map(() => '0,1').join(';'),
  ]);
  expect([materials[1]!.getBaseColorTexture()!.getMimeType(), materials[1]!.getBaseColorTexture()!.getImage()]).toEqual(['image/png', png]);
  // Colors of vertices tint; a neutral gray below would darken them.
  const cornerColors = new Uint8Array(corners * 4).fill(128);
  const tinted = (await built({ ...mesh, cornerColors })).primitives;
  expect(tinted.map((p) => p.getAttribute('COLOR_0')?.getNormalized() ?? null)).toEqual([null, ...slots.map(() => true)]);
  expect(numbers(tinted[1]!, 'COLOR_0').slice(0, 4)).toEqual([14146, 14146, 14146, 32896]);
  expect(round(tinted[5]!.getMaterial()!.getBaseColorFactor())).toEqual([1, 1, 1, 1]);
  expect(round(tinted[1]!.getMaterial()!.getBaseColorFactor())).toEqual([1, 0.2159, 0, 1]);
});

it('is a node for each object where meshes are shared, and none for one of which nothing leaves', async () => {
  const mesh = { ...box(), faceObject: Uint16Array.of(1, 1, 0, 2, 2, 1), objects: ['lid', 'wall', 'floor'] };
  const { kit, item } = kitAround(mesh, null, (f) => (f === 1 ? 3 : 2));
  const out = { ...item, leaveOut: Uint8Array.of(0, 0, 1, 0, 0, 0) };
  const [top] = (await buildGltf(kit, [out], { meshes: 'shared' })).document.getRoot().getDefaultScene()!.listChildren();
  const counts = top!.listChildren().map((n) => [n.getName(), n.getMesh()!.getName(), index(n.getMesh()!.listPrimitives()[0]!).length / 3]);
  expect([top!.getName(), top!.getMesh(), counts]).toEqual(['Jetty', null, [['wall', 'wall', 6], ['floor', 'floor', 4]]]); // prettier-ignore
  const [joined] = (await buildGltf(kit, [out])).document.getRoot().getDefaultScene()!.listChildren();
  expect([joined!.listChildren(), joined!.getMesh()!.getName()]).toEqual([[], 'Jetty']);
});

it('has colors of vertices, linear or as they are, under a plain material', async () => {
  const colored = async (vertexColors: 'linear' | 'srgb') => (await built(grid(1), { as: 'colors', vertexColors }, () => 1)).primitives[0]!;
  const [linear, srgb] = [await colored('linear'), await colored('srgb')];
  expect([linear.listSemantics(), linear.getMaterial()!.getName(), linear.getMaterial()!.getBaseColorTexture()]).toEqual([
    ['POSITION', 'NORMAL', 'COLOR_0'],
    'vertex colors',
    null,
  ]);
  expect([linear, srgb].map((p) => [p.getMaterial()!.getRoughnessFactor(), p.getMaterial()!.getMetallicFactor()])).toEqual([[1, 0], [1, 0]]); // prettier-ignore
  const byte = (p: Made) => Math.round(numbers(p, 'COLOR_0')[0]! / 257);
  expect(byte(linear)).toBeLessThan(byte(srgb));
});

it('samples the sheet as it says, clamped, with finish, glow, opacity and both sides where they are wanted', async () => {
  const { kit, item } = kitAround(grid(2), null, (f) => f + 1);
  const [sheet] = kit.sheets;
  Object.assign(sheet!.cells[0]!, { finish: { roughness: 0.5, metalness: 0.25, glow: '#ff0000' } });
  Object.assign(sheet!.cells[1]!, { fill: { kind: 'solid', color: '#112233', alpha: 0.5 } });
  const materialsOf = async (options: GltfOptions, filter: 'nearest' | 'linear' = 'nearest') => {
    sheet!.filter = filter;
    return (await buildGltf(kit, [item], options)).document.getRoot().listMaterials();
  };
  const [plain, clear] = await materialsOf({});
  expect([plain!.getName(), clear!.getName(), plain!.getAlphaMode(), clear!.getAlphaMode(), plain!.getDoubleSided()]).toEqual([
    'Sheet',
    'Sheet, see-through',
    'OPAQUE',
    'BLEND',
    false,
  ]);
  for (const [filter, number] of [
    ['nearest', 9728],
    ['linear', 9729],
  ] as const) {
    const [m] = await materialsOf({}, filter);
    for (const info of [m!.getBaseColorTextureInfo()!, m!.getMetallicRoughnessTextureInfo()!, m!.getEmissiveTextureInfo()!])
      expect([info.getMagFilter(), info.getMinFilter(), info.getWrapS(), info.getWrapT(), info.getTexCoord()]).toEqual([
        number,
        number,
        33071,
        33071,
        0,
      ]);
  }
  expect([plain!.getRoughnessFactor(), plain!.getMetallicFactor(), plain!.getEmissiveFactor()]).toEqual([1, 1, [1, 1, 1]]);
  expect(
    [plain!.getBaseColorTexture(), plain!.getMetallicRoughnessTexture(), plain!.getEmissiveTexture()].map((t) => [
      t!.getName(),
      t!.getMimeType(),
    ]),
  ).toEqual([
    ['Sheet', 'image/png'],
    ['Sheet surface', 'image/png'],
    ['Sheet glow', 'image/png'],
  ]);
  expect([
    clear!.getBaseColorTexture() === plain!.getBaseColorTexture(),
    clear!.getEmissiveTexture() === plain!.getEmissiveTexture(),
  ]).toEqual([true, true]);
  for (const options of [{ finish: false }, { unlit: true }]) {
    const [m] = await materialsOf(options);
    expect([m!.getRoughnessFactor(), m!.getMetallicFactor(), m!.getEmissiveTexture(), m!.getMetallicRoughnessTexture()]).toEqual([
      1,
      0,
      null,
      null,
    ]);
    expect(m!.getExtension('KHR_materials_unlit') !== null).toBe('unlit' in options);
  }
  // Flat materials have their cell's own numbers.
  const flat = await materialsOf({ as: 'slots', numbered: true });
  expect(
    flat.map((m) => [
      m.getName().split('-')[0],
      m.getExtras().slot,
      m.getAlphaMode(),
      round(m.getEmissiveFactor()),
      m.getRoughnessFactor(),
    ]),
  ).toEqual([
    ['0', 0, 'OPAQUE', [1, 0, 0], 0.5],
    ['1', 1, 'BLEND', [0, 0, 0], 1],
    ['2', 2, 'OPAQUE', [0, 0, 0], 1],
    ['3', 3, 'OPAQUE', [0, 0, 0], 1],
  ]);
  expect([flat[1]!.getBaseColorFactor()[3], flat[0]!.getMetallicFactor(), flat[1]!.getMetallicFactor()]).toEqual([0.5, 0.25, 0]);
  expect((await materialsOf({ as: 'slots', finish: false }))[0]!.getRoughnessFactor()).toBe(1);
});

let came: { bytes: Uint8Array; mesh: PolyMesh };
beforeAll(async () => {
  const document = gridDocument(2);
  document.getRoot().getAsset().copyright = 'The keeper';
  const bytes = await toGlb(document);
  came = { bytes, mesh: (await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false })).mesh };
});
const tree = (document: Document) => {
  const words = (n: ReturnType<Document['createNode']>): unknown => {
    const children = n.listChildren().map(words);
    return children.length ? [n.getName(), children] : n.getName();
  };
  return document.getRoot().getDefaultScene()!.listChildren().map(words);
};

it('stands in the frame and at the placement that are wanted, by nodes above, or moved where it is our own mesh', async () => {
  const { kit, item } = kitAround(came.mesh, came.bytes, () => 1);
  const other = kitAround(box(2), null, () => 1).item;
  const box2 = { ...other, model: { ...other.model, id: 'n', name: 'Box' } };
  const make = async (items: (typeof item)[], options: GltfOptions = {}) => (await buildGltf(kit, items, options)).document;
  expect(tree(await make([item], { meshes: 'shared' }))).toEqual(['Jetty']);
  expect(tree(await make([item], { meshes: 'shared', apart: true }))).toEqual([['Jetty', ['Jetty']]]);
  expect(tree(await make([item, box2], { meshes: 'shared' }))).toEqual([['Jetty', ['Jetty']], 'Box']);
  const placed = { ...item, model: { ...item.model, placement: { upFromZ: true, scale: 2 } } };
  const document = await make([placed, box2], { meshes: 'shared', origin: 'ground', scale: 100 });
  expect(tree(document)).toEqual([['Jetty', [['frame', [['placement', ['Jetty']]]]]], 'Box']);
  const found = (name: string) => document.getRoot().listNodes().find((n) => n.getName() === name)!; // prettier-ignore
  expect([found('placement').getScale(), round(found('placement').getRotation()), found('frame').getScale()]).toEqual([
    [2, 2, 2],
    [-0.7071, 0, 0, 0.7071],
    [100, 100, 100],
  ]);
  // The grid is 2 metres wide and stands at 0 to 2; its lowest point is at 0.
  expect(found('frame').getTranslation()).toEqual([-100, 0, -100]);
  const own = round(found('Box').getMesh()!.listPrimitives()[0]!.getAttribute('POSITION')!.getArray()!);
  expect([Math.min(...own), Math.max(...own)]).toEqual([-100, 200]);
  const upright = { ...item, model: { ...item.model, placement: { upFromZ: false, scale: 3 } } };
  const turned = (await make([upright], { meshes: 'shared' })).getRoot().listNodes().find((n) => n.getName() === 'placement')!; // prettier-ignore
  expect([turned.getRotation(), turned.getScale()]).toEqual([[0, 0, 0, 1], [3, 3, 3]]); // prettier-ignore
});

it('says who made it and whose it is, names materials apart, and drops what no face uses', async () => {
  const { kit, item } = kitAround(came.mesh, came.bytes, () => 1);
  const twin = { ...item, model: { ...item.model, id: 'n', name: 'Twin' } };
  const root = (await buildGltf(kit, [item, twin])).document.getRoot();
  expect([root.getAsset().generator, root.getAsset().copyright]).toEqual(['Oligochrome', 'The keeper']);
  expect([root.listMaterials().map((m) => m.getName()), root.listBuffers().length, root.listScenes().map((s) => s.getName())]).toEqual([['Sheet'], 1, ['Skerry']]); // prettier-ignore
  const bare = kitAround(came.mesh, came.bytes, (f) => (f ? 0 : 1));
  const apart = (await buildGltf(bare.kit, [bare.item, { ...bare.item, model: { ...twin.model } }])).document.getRoot();
  expect(apart.listMaterials().map((m) => m.getName()).sort()).toEqual(['Sheet', 'tar', 'tar_2']); // prettier-ignore
  const nothing = (await buildGltf(kit, [])).document.getRoot();
  expect([nothing.listScenes().length, nothing.listBuffers().length, nothing.getAsset().copyright]).toEqual([1, 0, undefined]);
});

it('leaves as files: JSON, binary and pictures beside it, by the names that it is given', async () => {
  const { kit, item } = kitAround(came.mesh, came.bytes, () => 1);
  const asked: PictureBeside[] = [];
  const address = (p: PictureBeside) => `pictures/${asked.push(p)} ${p.name}.${p.extension}`;
  const { files } = await writeGltf(kit, [item], 'sea wall', address);
  expect(files.map((f) => f.name)).toEqual(['sea wall.gltf', 'sea wall.bin']);
  const json = JSON.parse(new TextDecoder().decode(files[0]!.bytes)) as {
    images: { uri: string }[];
    buffers: { uri: string; byteLength: number }[];
  };
  expect([json.images.map((i) => i.uri), json.buffers.map((b) => b.uri)]).toEqual([['pictures/1%20Sheet.png'], ['sea wall.bin']]);
  expect(json.buffers[0]!.byteLength).toBe(files[1]!.bytes.length);
  expect(asked).toMatchObject([{ name: 'Sheet', extension: 'png', of: { sheet: { id: kit.sheets[0]!.id } } }]);
  expect(asked[0]!.bytes.slice(1, 4)).toEqual(Uint8Array.of(0x50, 0x4e, 0x47));
  const plain = await new WebIO().readJSON({ json: json as never, resources: { 'sea wall.bin': files[1]!.bytes as never, 'pictures/1%20Sheet.png': asked[0]!.bytes as never } }); // prettier-ignore
  expect(plain.getRoot().listMeshes()).toHaveLength(1);
});

it('names the variants that are of its models, sets sides as the artist wants them, and packs only where asked', async () => {
  const { kit, item } = kitAround(came.mesh, came.bytes, (f) => (f ? 0 : 1));
  const variant = (id: string, name: string, model?: string) => ({ id, name, fills: {}, ...(model && { model }) });
  const varied = { ...kit, variants: [variant('a', 'Worn'), variant('b', 'Wet', 'm'), variant('c', 'Burnt', 'elsewhere')] };
  const rootOf = async (options: GltfOptions, model = item.model) =>
    (await buildGltf(varied, [{ ...item, model }], options)).document.getRoot();
  const names = (root: Awaited<ReturnType<typeof rootOf>>) =>
    root.listExtensionsUsed().flatMap((e) => (e instanceof KHRMaterialsVariants ? e.listVariants().map((v) => v.getName()) : []));
  expect([names(await rootOf({})), names(await rootOf({ variants: 'none' }))]).toEqual([['Worn', 'Wet'], []]);
  const sides = async (wanted?: 'front' | 'both') =>
    (await rootOf({}, { ...item.model, ...(wanted && { sides: wanted }) })).listMaterials().map((m) => m.getDoubleSided());
  expect([await sides(), await sides('both'), await sides('front')]).toEqual([[false, false], [true, true], [false, false]]); // prettier-ignore
  const packing = (root: Awaited<ReturnType<typeof rootOf>>) =>
    root.listExtensionsUsed().flatMap((e) => (/meshopt|draco/.test(e.extensionName) ? [[e.extensionName, e.isRequired()]] : []));
  expect([packing(await rootOf({})), packing(await rootOf({ packed: true }))]).toEqual([[], [['EXT_meshopt_compression', true]]]);
  // What came packed leaves plain.
  await MeshoptEncoder.ready;
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
  const document = gridDocument(2);
  document.createExtension(EXTMeshoptCompression).setRequired(true);
  document.createMaterial('');
  const bytes = await io.writeBinary(document);
  const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
  const around = kitAround(mesh, bytes, (f) => (f ? 0 : 1));
  expect(packing((await buildGltf(around.kit, [around.item])).document.getRoot())).toEqual([]);
});

it('shows the scene that the file names, and keeps its nodes', async () => {
  const document = gridDocument(1);
  const root = document.getRoot();
  root.getDefaultScene()!.setName('first');
  const second = document.createScene('second').addChild(document.createNode('twin').setMesh(root.listMeshes()[0]!));
  const scenes = async (named: Scene | null) => {
    root.setDefaultScene(named);
    const bytes = await toGlb(document);
    const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
    const around = kitAround(mesh, bytes, () => 1);
    const built = (await buildGltf(around.kit, [around.item], { meshes: 'shared' })).document.getRoot();
    return [
      built.getDefaultScene()!.getName(),
      built
        .getDefaultScene()!
        .listChildren()
        .map((n) => n.getName()),
      built.listScenes().length,
    ];
  };
  expect(await scenes(second)).toEqual(['second', ['twin'], 2]);
  expect(await scenes(null)).toEqual(['first', ['Jetty', 'twin'], 1]);
});

it('names a picture by its sheet, its layer and its variant, and keeps a frozen one as it came', async () => {
  const { kit, item } = kitAround(came.mesh, came.bytes, (f) => (f % 2) + 1);
  const [sheet] = kit.sheets;
  Object.assign(sheet!.cells[0]!, { finish: { roughness: 0.5, metalness: 0, glow: '#ff0000' } });
  const worn = { id: 'v', name: 'Worn', fills: { 1: { kind: 'solid' as const, color: '#112233' } } };
  const asked: PictureBeside[] = [];
  const { document } = await writeGltf({ ...kit, variants: [worn] }, [item], 'a', (p) => `${asked.push(p)}.${p.extension}`);
  expect(asked.map(({ name, extension, of }) => [name, extension, of && { ...of, sheet: of.sheet.id }])).toEqual([
    ['Sheet', 'png', { sheet: sheet!.id }],
    ['Sheet surface', 'png', { sheet: sheet!.id, layer: 'surface' }],
    ['Sheet glow', 'png', { sheet: sheet!.id, layer: 'glow' }],
    ['Sheet Worn', 'png', { sheet: sheet!.id, variant: 'Worn' }],
  ]);
  const materials = document.getRoot().listMaterials();
  expect(materials.map((m) => m.getName())).toEqual(['Sheet', 'Sheet, Worn']);
  for (const m of materials) expect(m.getEmissiveTexture()!.getName()).toBe('Sheet glow');
  const webp = new Uint8Array(40);
  webp.set([0x52, 0x49, 0x46, 0x46, 0, 0, 0, 0, 0x57, 0x45, 0x42, 0x50, 0x56, 0x50, 0x38, 0x4c]);
  const jpeg = new Uint8Array(40);
  jpeg.set([0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0, 2, 0, 2]);
  const frozen = async (bytes: Uint8Array) => {
    const kept = { ...kit, sheets: [{ ...sheet!, frozen: { picture: 'p' }, cells: sheet!.cells.map(({ finish: _, ...c }) => c) }] };
    const pictures: KitPictures = new Map([['p', { bytes, raster: { width: 1, height: 1, data: new Uint8Array(4) } }]]);
    const root = (await buildGltf(kept, [item], { pictures })).document.getRoot();
    const [texture] = root.listTextures();
    return [texture!.getMimeType(), texture!.getImage() === bytes, root.listExtensionsUsed().map((e) => [e.extensionName, e.isRequired()])];
  };
  expect(await frozen(webp)).toEqual(['image/webp', true, [['EXT_texture_webp', true]]]);
  expect(await frozen(jpeg)).toEqual(['image/jpeg', true, []]);
});

it('gives slots the pictures that color them as files of their own, where other programs read their format', () => {
  const document = gridDocument(1);
  const image = (first: number[]) => {
    const bytes = new Uint8Array(40);
    bytes.set(first);
    return bytes;
  };
  const [png, jpeg] = [image([0x89, 0x50, 0x4e, 0x47]), image([0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0, 2, 0, 2])];
  const material = (bytes: Uint8Array | null) => {
    const texture = document.createTexture();
    if (bytes) texture.setImage(bytes as Uint8Array<ArrayBuffer>);
    document.createMaterial('m').setBaseColorTexture(texture);
  };
  for (const bytes of [png, jpeg, image([1]), null]) material(bytes);
  // The first material of the grid has no picture; the others are 1 to 4.
  const of = (picture: string | undefined, index?: number): Slot =>
    slot('s', { ...(picture && { picture }), ...(index !== undefined && { material: index }) });
  const slots = [
    of('Rust.webp', 1),
    of('tex/wall: north.JPG', 2),
    of('odd.png', 3),
    of('gone.png', 4),
    of(undefined, 1),
    of('x.png'),
    of('x.png', 0),
    of('.png', 1),
  ];
  const found = slotPictures(document, sheetAndSlots(slots));
  expect([...found].map(([at, { name, bytes }]) => [at, name, bytes === png ? 'png' : bytes === jpeg ? 'jpeg' : '?'])).toEqual([
    [0, 'Rust.png', 'png'],
    [1, 'wall-north.jpg', 'jpeg'],
    [7, 'png.png', 'png'],
  ]);
});
