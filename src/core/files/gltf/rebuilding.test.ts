import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import type { Document, Primitive } from '@gltf-transform/core';
import { expect, it } from 'vitest';
import { kitAround } from '@tests/kitAround';
import { gridDocument, skinnedDocument, toGlb } from '@tests/samples';
import { repairMesh } from '../../shapes/check/repair';
import { type Cell } from '../../kit/kit';
import type { MeshSource, PolyMesh } from '../../shapes/mesh/polyMesh';
import type { ExportModel } from '../leaving/exportModel';
import { readModel } from '../formats/readModel';
import { createAccessor, type Numbers } from './accessor';
import { buildGltf, type GltfOptions } from './buildGltf';

interface Wish extends GltfOptions {
  cellOf?: (f: number) => number;
  mendQuads?: boolean;
  /** What becomes of the mesh before it leaves. */
  mesh?: (mesh: PolyMesh) => PolyMesh;
  item?: (item: ExportModel) => ExportModel;
  cells?: (cells: Cell[]) => void;
}
/** Reads a document, colors it, and builds it again. */
async function rebuilt(document: Document, { cellOf = () => 1, mendQuads = false, mesh, item, cells, ...options }: Wish = {}) {
  const bytes = await toGlb(document);
  const read = (await readModel({ name: 'a.glb', bytes }, [], { mendQuads })).mesh;
  const around = kitAround(mesh ? mesh(read) : read, bytes, cellOf);
  cells?.(around.kit.sheets[0]!.cells);
  const kit = { ...around.kit, variants: [{ id: 'v', name: 'Worn', fills: {} }] };
  const built = await buildGltf(kit, [item ? item(around.item) : around.item], { meshes: 'shared', variants: 'none', ...options });
  const root = built.document.getRoot();
  const primitives = root.listMeshes().flatMap((m) => m.listPrimitives());
  return { root, primitives, mesh: around.item.mesh };
}
const first = (document: Document) => document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
const numbers = (p: { getAttribute: Primitive['getAttribute'] }, name: string) =>
  Array.from(p.getAttribute(name)!.getArray()!, (v) => Math.round(v * 1e4) / 1e4 + 0);
const index = (p: Primitive) => [...p.getIndices()!.getArray()!];
/** A grid of one slanted quad: corners 0 and 1 at z = 0, 2 and 3 at z = 1; x rises by one. */
const slant = () => gridDocument(1, (x) => x);
const set = (p: Primitive, name: string, type: 'VEC3' | 'VEC4', array: Numbers, document: Document) =>
  p.setAttribute(name, createAccessor(document, type, array));
const source = (mesh: PolyMesh, change: Partial<MeshSource>): PolyMesh => ({ ...mesh, source: { ...mesh.source, ...change } });

it('sets the number of a joint that moves nothing to 0, and no other', async () => {
  const document = skinnedDocument();
  const joints = first(document).getAttribute('JOINTS_0')!.getArray()!;
  for (let i = 0; i < joints.length; i++) joints[i] = [1, 2, 2, 1][i % 4]!;
  const { primitives } = await rebuilt(document);
  expect(numbers(primitives[0]!, 'JOINTS_0').slice(0, 8)).toEqual([1, 2, 0, 0, 1, 2, 0, 0]);
  expect(numbers(primitives[0]!, 'JOINTS_0')).toHaveLength(36);
  expect(numbers(primitives[0]!, 'WEIGHTS_0').slice(0, 4)).toEqual([0.25, 0.75, 0, 0]);
});

it('makes normals of unit length where they are not, and leaves those that nearly are', async () => {
  const document = slant();
  set(first(document), 'NORMAL', 'VEC3', Float32Array.of(0, 3, 4, 0, 1.00005, 0, 0, 0.5, 0, 0, 0, -2), document);
  const { primitives } = await rebuilt(document);
  const normals = primitives[0]!.getAttribute('NORMAL')!.getArray()!;
  const at = (x: number, z: number) => {
    const places = numbers(primitives[0]!, 'POSITION');
    for (let v = 0; v < 4; v++) if (places[v * 3] === x && places[v * 3 + 2] === z) return [...normals.slice(v * 3, v * 3 + 3)];
    throw new Error('none there');
  };
  const close = (...v: number[]) => v.map((n) => expect.closeTo(n, 6) as number);
  expect([at(0, 0), at(0, 1), at(1, 1)]).toEqual([close(0, 0.6, 0.8), close(0, 1, 0), close(0, 0, -1)]);
  expect(at(1, 0)[1]).toBe(Math.fround(1.00005));
  // Numbers that are packed stay as they are.
  set(
    first(document),
    'NORMAL',
    'VEC3',
    Int8Array.from({ length: 12 }, (_, i) => (i % 3 === 1 ? 100 : 0)),
    document,
  );
  first(document).getAttribute('NORMAL')!.setNormalized(true);
  const packed = (await rebuilt(document)).primitives[0]!.getAttribute('NORMAL')!;
  expect([packed.getArray()!.constructor.name, packed.getNormalized(), [...packed.getArray()!.slice(0, 3)]]).toEqual([
    'Int8Array',
    true,
    [0, 100, 0],
  ]);
});

it('takes the face’s normal where one has no length, in the space of the vertices, also where the node mirrors', async () => {
  const document = slant();
  set(first(document), 'NORMAL', 'VEC3', Float32Array.of(0, 3, 4, 0, 0, 0, 0, 3, 4, 0, 3, 4), document);
  const lean = [-0.7071, 0.7071, 0];
  for (const mirror of [1, -1]) {
    document.getRoot().listNodes()[0]!.setScale([mirror, 1, 1]);
    const [p] = (await rebuilt(document)).primitives;
    const places = numbers(p!, 'POSITION');
    numbers(p!, 'NORMAL').forEach((v, i, all) => {
      if (i % 3) return;
      const isBare = places[i] === 1 && places[i + 2] === 0;
      expect([v, all[i + 1], all[i + 2]]).toEqual(isBare ? lean : [0, 0.6, 0.8]);
    });
    const flat = (await rebuilt(document, { mesh: (m) => repairMesh(m, 'flat-normals').mesh })).primitives[0]!;
    expect(numbers(flat, 'NORMAL')).toEqual([lean, lean, lean, lean].flat());
    const smooth = (await rebuilt(document, { normals: 'smooth', smoothAngle: 60 })).primitives[0]!;
    expect(numbers(smooth, 'NORMAL')).toEqual([lean, lean, lean, lean].flat());
  }
});

it('is smooth over a fold that is flat enough, face by face over another, and not from node to node', async () => {
  // Two quads that fold by a right angle at x = 1.
  const document = gridDocument(2, (x) => Math.max(0, x - 1) * 1e3);
  document
    .getRoot()
    .listMeshes()[0]!
    .listPrimitives()[0]!
    .getAttribute('POSITION')!
    .getArray()!
    .forEach((v, i, a) => {
      if (i % 3 === 0 && v === 2) a[i] = 1; // prettier-ignore
    });
  const folds = async (smoothAngle: number) => {
    const [p] = (await rebuilt(document, { normals: 'smooth', smoothAngle })).primitives;
    return new Set(numbers(p!, 'NORMAL').flatMap((v, i, all) => (i % 3 ? [] : [[v, all[i + 1], all[i + 2]].join()])));
  };
  expect([...(await folds(80))].sort()).toEqual(['-1,0,0', '0,1,0']);
  expect((await folds(100)).size).toBe(3);
});

it('turns normals, those of shapes too, over on faces that a repair has turned, apart from the others', async () => {
  const document = slant();
  const p = first(document);
  set(p, 'NORMAL', 'VEC3', Float32Array.of(0, 0.6, 0.8, 0, 0.6, 0.8, 0, 0.6, 0.8, 0, 0.6, 0.8), document);
  const target = document.createPrimitiveTarget('swell');
  target.setAttribute(
    'NORMAL',
    createAccessor(
      document,
      'VEC3',
      Float32Array.from({ length: 12 }, () => 0.25),
    ),
  );
  target.setAttribute(
    'POSITION',
    createAccessor(
      document,
      'VEC3',
      Float32Array.from({ length: 12 }, () => 0.5),
    ),
  );
  target.setAttribute('TANGENT', createAccessor(document, 'VEC3', new Float32Array(12)));
  p.addTarget(target);
  const turned = (reversed: number[]) => (mesh: PolyMesh) => source(mesh, { reversed: Uint8Array.from(reversed) });
  const [one] = (await rebuilt(document, { mesh: turned([0, 1]) })).primitives;
  expect(numbers(one!, 'NORMAL')).toEqual([[0, 0.6, 0.8], [0, 0.6, 0.8], [0, 0.6, 0.8], [0, -0.6, -0.8], [0, -0.6, -0.8], [0, -0.6, -0.8]].flat()); // prettier-ignore
  const [swell] = one!.listTargets();
  expect(swell!.listSemantics().sort()).toEqual(['NORMAL', 'POSITION']);
  expect(numbers(swell!, 'NORMAL')).toEqual([...Array<number>(9).fill(0.25), ...Array<number>(9).fill(-0.25)]);
  expect(numbers(swell!, 'POSITION')).toEqual(Array<number>(18).fill(0.5));
  const [none] = (await rebuilt(document, { mesh: turned([0, 0]) })).primitives;
  expect(numbers(none!, 'NORMAL')).toHaveLength(12);
  // Also where those without length are made anew.
  set(p, 'NORMAL', 'VEC3', Float32Array.of(0, 0, 0, 0, 0.6, 0.8, 0, 0.6, 0.8, 0, 0.6, 0.8), document);
  const [anew] = (await rebuilt(document, { mesh: turned([1, 1]) })).primitives;
  expect(new Set(numbers(anew!, 'NORMAL').filter((_, i) => i % 3 === 2))).toEqual(new Set([-0.8, 0]));
});

it('keeps the order of the file’s triangles, also through mended quads, and their sides under mirroring nodes', async () => {
  const document = gridDocument(2, () => 0);
  const order = index(first(document));
  const runs = async (wish: Wish) => {
    const [p] = (await rebuilt(document, wish)).primitives;
    const places = numbers(p!, 'POSITION');
    return index(p!).map((v) => places[v * 3]! + places[v * 3 + 2]! * 3);
  };
  expect(await runs({})).toEqual(order);
  expect((await rebuilt(document, { mendQuads: true })).mesh.faceStart).toHaveLength(5);
  // A mended quad begins where the file’s triangles do, or a corner on: the same triangles in the same order.
  const whole = (list: number[]) => Array.from({ length: list.length / 3 }, (_, t) => [...list.slice(t * 3, t * 3 + 3)].sort().join());
  expect(whole(await runs({ mendQuads: true }))).toEqual(whole(order));
  // The file's triangles run otherwise than the quads that were made of them.
  const numbered = (list: number[]) => (mesh: PolyMesh) => source(mesh, { triangles: Int32Array.from(list) });
  const inOrder = async (list: number[]) => whole(await runs({ mendQuads: true, mesh: numbered(list) }));
  const triangles = whole(order);
  expect(await inOrder([7, 6, 5, 4, 3, 2, 1, 0])).toEqual([...triangles].reverse());
  expect(await inOrder([0, 4, 1, 5, 2, 6, 3, 7])).toEqual([0, 2, 4, 6, 1, 3, 5, 7].map((t) => triangles[t]));
  // Triangles of two quads that alternate in the file.
  const shuffled = [0, 3, 1, 2, 5, 4, 7, 6].flatMap((t) => order.slice(t * 3, t * 3 + 3));
  first(document).getIndices()!.setArray(Uint16Array.from(shuffled));
  expect(await runs({})).toEqual(shuffled);
  expect(whole(await runs({ mendQuads: true }))).toEqual(whole(shuffled));
  document.getRoot().listNodes()[0]!.setScale([1, 1, -1]);
  expect(await runs({})).toEqual(shuffled);
  // A mesh from before that was noted asks the node.
  const unsaid = (mesh: PolyMesh) => source(mesh, { primitives: mesh.source!.primitives!.map(({ mirrored: _, ...rest }) => rest) });
  expect(await runs({ mesh: unsaid })).toEqual(shuffled);
  document.getRoot().listNodes()[0]!.setScale([1, 1, 1]);
  expect(await runs({ mesh: unsaid })).toEqual(shuffled);
});

it('shares a mesh again only where triangles sit alike: cells, places on them, sides, variants, and what is left out', async () => {
  const twice = (scale: [number, number, number] = [1, 1, 1]) => {
    const document = gridDocument(1);
    const mesh = document.getRoot().listMeshes()[0]!;
    document.getRoot().getDefaultScene()!.addChild(document.createNode('twin').setMesh(mesh).setScale(scale));
    return document;
  };
  const meshes = async (wish: Wish, document = twice()) => (await rebuilt(document, wish)).root.listMeshes().length;
  expect(await meshes({})).toBe(1);
  // A triangle is the same from whichever corner it begins.
  const from = (face: number, by: number) => (mesh: PolyMesh) => {
    const turned = (list: Uint32Array) => list.map((v, c) => (Math.floor(c / 3) === face ? list[face * 3 + ((c + by) % 3)]! : v));
    return { ...source(mesh, { cornerVertex: turned(mesh.source!.cornerVertex!) }), cornerVertex: turned(mesh.cornerVertex) };
  };
  for (const [face, by] of [[0, 1], [1, 2], [2, 1], [2, 2], [3, 1], [3, 2]] as const) expect(await meshes({ mesh: from(face, by) })).toBe(1); // prettier-ignore
  expect(await meshes({}, twice([-1, 1, 1]))).toBe(1);
  expect(await meshes({ cellOf: (f) => [1, 2, 1, 2][f]! })).toBe(1);
  expect(await meshes({ cellOf: (f) => [1, 2, 2, 1][f]! })).toBe(2);
  const gradient = (cells: Cell[]) => {
    cells[0]!.fill = { kind: 'gradient', axis: 'x', mix: 'srgb', stops: [{ at: 0, color: '#000000' }, { at: 1, color: '#ffffff' }] }; // prettier-ignore
  };
  const at = (numbersOf: (c: number) => number) => (item: ExportModel) => ({ ...item, seats: byId({ ...item.seats, at: Float32Array.from({ length: 24 }, (_, i) => numbersOf(i)) }) }); // prettier-ignore
  expect(await meshes({ cells: gradient, item: at((i) => (i % 12) / 12) })).toBe(1);
  expect(await meshes({ cells: gradient, item: at((i) => (i === 23 ? 1 : (i % 12) / 12)) })).toBe(2);
  expect(await meshes({ cells: gradient, item: at((i) => (i === 12 ? 1 : (i % 12) / 12)) })).toBe(2);
  // Where a face is on no cell, its place says nothing.
  expect(await meshes({ cells: gradient, cellOf: (f) => (f % 2 ? 0 : 1), item: at((i) => (i === 23 ? 1 : (i % 12) / 12)) })).toBe(1);
  const out = (list: number[]) => (item: ExportModel) => ({ ...item, leaveOut: Uint8Array.from(list) });
  expect([await meshes({ item: out([0, 1, 0, 1]) }), await meshes({ item: out([0, 1, 0, 0]) })]).toEqual([1, 2]);
  const turned = (list: number[]) => (mesh: PolyMesh) => source(mesh, { reversed: Uint8Array.from(list) });
  expect([await meshes({ mesh: turned([0, 1, 0, 1]) }), await meshes({ mesh: turned([0, 1, 0, 0]) })]).toEqual([1, 2]);
  const worn = (list: number[]) => (item: ExportModel) => ({
    ...item,
    patches: byId({ v: { cell: Uint16Array.from(list, (c) => c || inherits) } }),
  });
  const inside = (list: number[]): Wish => ({ variants: 'inside', item: worn(list) });
  expect([await meshes(inside([3, 0, 3, 0])), await meshes(inside([3, 0, 0, 0]))]).toEqual([1, 2]);
  // Variants that do not leave part nothing.
  expect(await meshes({ item: worn([3, 0, 0, 0]) })).toBe(1);
});

it('keeps points and lines, drops a mesh of which nothing is left, and what no node shows any more', async () => {
  const document = gridDocument(1);
  const mesh = document.getRoot().listMeshes()[0]!.setName('boards');
  const points = mesh.listPrimitives()[0]!.clone().setMode(0);
  mesh.addPrimitive(points);
  const kept = await rebuilt(document);
  expect([kept.primitives.map((p) => p.getMode()), kept.root.listMeshes().length]).toEqual([[0, 4], 1]);
  const all = (item: ExportModel) => ({ ...item, leaveOut: Uint8Array.of(1, 1) });
  expect((await rebuilt(document, { item: all })).primitives.map((p) => p.getMode())).toEqual([0]);
  mesh.removePrimitive(points);
  const none = await rebuilt(document, { item: all });
  expect([none.root.listMeshes(), none.root.listNodes().map((n) => [n.getName(), n.getMesh()])]).toEqual([[], [['Jetty', null]]]);
  // Strips come as triangles.
  mesh
    .listPrimitives()[0]!
    .setMode(5)
    .getIndices()!
    .setArray(Uint16Array.of(2, 3, 0, 1));
  const [strip] = (await rebuilt(document)).primitives;
  expect([strip!.getMode(), index(strip!).length]).toEqual([4, 6]);
});

it('leaves on the sheet what it reads, with UVs of the seats, and uncolored faces as they came', async () => {
  const document = gridDocument(1);
  const p = first(document);
  const four = (n: number) => Float32Array.from({ length: n * 4 }, (_, i) => i / 20);
  set(p, 'TANGENT', 'VEC4', four(4), document);
  set(p, 'COLOR_0', 'VEC4', four(4), document);
  p.setAttribute('TEXCOORD_1', createAccessor(document, 'VEC2', four(2)));
  p.setAttribute('_AGE', createAccessor(document, 'SCALAR', Uint8Array.of(1, 2, 3, 4)));
  const { primitives } = await rebuilt(document, { cellOf: (f) => f });
  const semantics = primitives.map((made) => [made.getMaterial()!.getName(), made.listSemantics().sort().join()]);
  expect(semantics).toEqual([
    ['Sheet', 'NORMAL,POSITION,TEXCOORD_0,_AGE'],
    ['tar', 'COLOR_0,NORMAL,POSITION,TANGENT,TEXCOORD_0,TEXCOORD_1,_AGE'],
  ]);
  expect([numbers(primitives[0]!, 'TEXCOORD_0'), numbers(primitives[0]!, '_AGE')]).toEqual([[0.125, 0.125, 0.125, 0.125, 0.125, 0.125], [1, 4, 2]]); // prettier-ignore
  expect([numbers(primitives[1]!, 'TEXCOORD_1').length, primitives[1]!.getAttribute('_AGE')!.getArray()!.constructor.name]).toEqual([
    6,
    'Uint8Array',
  ]);
  const colors = (await rebuilt(document, { as: 'colors', vertexColors: 'srgb' })).primitives[0]!;
  expect([colors.listSemantics().sort().join(), colors.getAttribute('COLOR_0')!.getNormalized(), numbers(colors, 'COLOR_0')[3]]).toEqual([
    'COLOR_0,NORMAL,POSITION,_AGE',
    true,
    65535,
  ]);
});
