import { byId } from '@/core/ground/byId';
import { WebIO, type Accessor, type Document, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS, KHRMaterialsVariants } from '@gltf-transform/extensions';
import { describe, expect, it } from 'vitest';
import { costOfGltf } from '../budget/costOfGltf';
import { tallyOf } from '../budget/tally';
import { repairMesh } from '../../shapes/check/repair';
import { faceCount } from '../../shapes/mesh/polyMesh';
import { expectValid, kitAround } from '@tests/kitAround';
import { seenTriangles } from '@tests/sampleWithThree';
import { gridDocument, skinnedDocument, toGlb } from '@tests/samples';
import type { LeaveOptions } from '../../kit/leaveOptions';
import { readModel } from '../formats/readModel';
import { openGltf } from './openGltf';
import { looksMeant } from './meantNames';
import { writeGlb } from './writeGlb';

const read = async (bytes: Uint8Array, mendQuads = true) => (await readModel({ name: 'a.glb', bytes }, [], { mendQuads })).mesh;
const open = async (bytes: Uint8Array) => (await openGltf('a.glb', bytes)).document;

const accessor = (document: Document, type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4', array: Float32Array | Uint8Array): Accessor =>
  document
    .createAccessor()
    .setType(type)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(document.getRoot().listBuffers()[0]!);

const firstNode = (document: Document) => document.getRoot().listNodes()[0]!;
const primitiveOf = (node: Node) => node.getMesh()!.listPrimitives()[0]!;
const bumps = (x: number, z: number) => Math.sin(x * 1.7 + z) / 3;

/** Four more nodes with the same mesh: moved, mirrored, turned and mirrored under a parent, mended quads and all. */
function crowd(): Document {
  const document = gridDocument(2, bumps);
  const mesh = firstNode(document).getMesh()!;
  const scene = document.getRoot().getDefaultScene()!;
  const parent = document.createNode('pier').setScale([1, -2, 1]);
  scene.addChild(parent);
  const put = (name: string, at: [number, number, number]) => document.createNode(name).setMesh(mesh).setTranslation(at);
  scene.addChild(put('moved', [5, 0, 0])).addChild(put('mirrored', [0, 0, 7]).setScale([-1, 1, 1]));
  parent.addChild(put('below', [9, 1, 0]).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]));
  return document;
}

function morphed(): Document {
  const document = gridDocument(2, bumps);
  const primitive = primitiveOf(firstNode(document));
  const count = primitive.getAttribute('POSITION')!.getCount();
  const deltas = new Float32Array(count * 3).map((_, i) => i / 7);
  primitive.addTarget(document.createPrimitiveTarget('swell').setAttribute('POSITION', accessor(document, 'VEC3', deltas)));
  firstNode(document).getMesh()!.setWeights([0]);
  return document;
}

/** What each corner of each triangle has, but for UVs, as words; of all meshes, in order of themselves. */
function corners(document: Document): string[] {
  const words = new Set<string>();
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) {
      const index = primitive.getIndices()!.getArray()!;
      const kept = primitive
        .listSemantics()
        .filter((s) => !/^TEXCOORD/.test(s))
        .sort();
      const rows = [...kept.map((s) => primitive.getAttribute(s)!), ...primitive.listTargets().flatMap((t) => t.listAttributes())];
      const row = (c: number) => rows.map((a) => a.getElement(index[c]!, []).join()).join(';');
      for (let t = 0; t < index.length; t += 3) {
        const three = [row(t), row(t + 1), row(t + 2)];
        const first = three.indexOf([...three].sort()[0]!);
        words.add([0, 1, 2].map((k) => three[(first + k) % 3]).join(' | '));
      }
    }
  return [...words].sort();
}

/** A wheel that turns, with a lamp on it, between two still boards. */
function animated(): Document {
  const document = crowd();
  const [still, turning, lamp] = [firstNode(document), document.getRoot().listNodes()[2]!, document.getRoot().listNodes()[3]!];
  turning.addChild(lamp);
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor(document, 'SCALAR', Float32Array.of(0, 1)))
    .setOutput(accessor(document, 'VEC3', new Float32Array(6)));
  const channel = document.createAnimationChannel().setTargetNode(turning).setTargetPath('translation').setSampler(sampler);
  document.createAnimation('turn').addSampler(sampler).addChannel(channel);
  still.setExtras({ keeper: 'yes' });
  return document;
}

describe('glTF that was colored', () => {
  const files: [string, () => Document, { joined: number; shared: number }][] = [
    ['mirrored and shared', crowd, { joined: 1, shared: 4 }],
    ['skinned under a mirrored node', skinnedDocument, { joined: 1, shared: 1 }],
    ['morphed', morphed, { joined: 1, shared: 1 }],
    ['animated', animated, { joined: 2, shared: 4 }],
  ];
  it.each(files)('shows the same triangles from the same side: %s', async (_, make, drawCalls) => {
    const bytes = await toGlb(make());
    const mesh = await read(bytes);
    const before = await Promise.all([0, 1].map((weight) => seenTriangles(bytes, weight)));
    const ways = [
      { meshes: 'joined', nodes: 'joined' },
      { meshes: 'joined', nodes: 'meant' },
      { meshes: 'joined', nodes: 'named' },
      { meshes: 'shared' },
    ] satisfies Partial<LeaveOptions>[];
    for (const way of ways) {
      const { kit, item } = kitAround(mesh, bytes, (f) => (f % 3) + 1);
      const glb = await writeGlb(kit, [item], way);
      await expectValid(glb, ['NODE_SKINNED_MESH_LOCAL_TRANSFORMS']);
      for (const weight of [0, 1]) {
        const seen = await seenTriangles(glb, weight);
        expect(seen.triangles).toEqual(before[weight]!.triangles);
        expect(seen.lit).toBe(before[weight]!.lit);
      }
      const cost = costOfGltf(await open(glb));
      if (way.nodes === 'joined' || way.meshes === 'shared') expect(cost.drawCalls).toBe(drawCalls[way.meshes]);
      else {
        const names = (of: Document) => of.getRoot().listNodes().map((n) => n.getName()); // prettier-ignore
        expect(names(await open(glb))).toEqual(expect.arrayContaining(names(await open(bytes)).filter(looksMeant)));
      }
      const state = { kit: { ...kit, models: [item.model] }, seats: byId({ m: item.seats }) };
      expect(tallyOf(state, [item.model], () => mesh, way).drawCalls).toBe(cost.drawCalls);
    }
  });

  it('bends as before: every corner of every triangle where it was, in any pose of its joints', async () => {
    const bytes = await toGlb(skinnedDocument());
    const { kit, item } = kitAround(await read(bytes), bytes, (f) => (f % 3) + 1);
    for (const meshes of ['joined', 'shared'] satisfies LeaveOptions['meshes'][]) {
      const glb = await writeGlb(kit, [item], { meshes, nodes: 'joined' });
      for (const pose of [{ tip: 0.7 }, { root: -1.2, tip: 0.4 }, { idle: 1 }] as Record<string, number>[]) {
        const before = await seenTriangles(bytes, 0, pose);
        expect((await seenTriangles(glb, 0, pose)).triangles).toEqual(before.triangles);
        // What nothing hangs on moves nothing; the others do.
        expect(before.triangles.join() === (await seenTriangles(bytes)).triangles.join()).toBe('idle' in pose);
      }
    }
  });

  it('keeps every value that coloring is not about: attributes and targets by corner, joints, movement', async () => {
    for (const make of [skinnedDocument, morphed, animated, crowd]) {
      const bytes = await toGlb(make());
      const { kit, item } = kitAround(await read(bytes, false), bytes, (f) => (f % 3) + 1);
      const [before, after] = [await open(bytes), await open(await writeGlb(kit, [item], { meshes: 'shared' }))];
      expect(corners(after)).toEqual(corners(before));
      const rest = (document: Document) => ({
        bind: document
          .getRoot()
          .listSkins()
          .map((s) => [s.getInverseBindMatrices()!.getArray(), s.listJoints().map((j) => j.getName())]),
        movement: document
          .getRoot()
          .listAnimations()
          .flatMap((a) => a.listSamplers().map((s) => [s.getInput()!.getArray(), s.getOutput()!.getArray()])),
        places: document
          .getRoot()
          .listNodes()
          .filter((n) => n.getName())
          .map((n) => [n.getName(), n.getMatrix(), n.getExtras()])
          .sort(),
      });
      expect(rest(after)).toEqual(rest(before));
    }
  });

  it('keeps what moves, and what has something to say, when meshes are joined', async () => {
    const bytes = await toGlb(animated());
    const { kit, item } = kitAround(await read(bytes), bytes, () => 1);
    const root = (await open(await writeGlb(kit, [item], { nodes: 'joined' }))).getRoot();
    // The still boards are one mesh; the first stays for its extras; the mirrored one, left empty, is gone.
    expect(root.listNodes().map((n) => [n.getName(), n.getMesh() !== null])).toEqual(
      expect.arrayContaining([
        ['Jetty', false],
        ['moved', false],
      ]),
    );
    expect(root.listAnimations()[0]!.listChannels()[0]!.getTargetNode()).not.toBeNull();
    expect(
      root
        .listNodes()
        .find((n) => n.getName() === 'Jetty')!
        .getExtras(),
    ).toEqual({ keeper: 'yes' });
  });

  it('is read with both sets of joints, and vertices that only a target tells apart stay apart', async () => {
    const document = skinnedDocument();
    document.getRoot().listSkins()[0]!.setInverseBindMatrices(null);
    const primitive = primitiveOf(firstNode(document));
    const count = primitive.getAttribute('POSITION')!.getCount();
    // Both sets together say: all of it on the tip.
    primitive
      .setAttribute(
        'WEIGHTS_0',
        accessor(
          document,
          'VEC4',
          new Float32Array(count * 4).map((_, i) => [0, 0.5, 0, 0][i % 4]!),
        ),
      )
      .setAttribute(
        'JOINTS_1',
        accessor(
          document,
          'VEC4',
          new Uint8Array(count * 4).map((_, i) => (i % 4 === 0 ? 2 : 0)),
        ),
      )
      .setAttribute(
        'WEIGHTS_1',
        accessor(
          document,
          'VEC4',
          new Float32Array(count * 4).map((_, i) => [0.5, 0, 0, 0][i % 4]!),
        ),
      );
    const { positions } = await read(await toGlb(document));
    const own = primitive.getAttribute('POSITION')!.getArray()!;
    [0, 1, 2].forEach((k) => expect(positions[k]).toBeCloseTo(own[k]! + [2, 3, 0][k]!, 5));

    const soup = morphed();
    const part = primitiveOf(firstNode(soup));
    for (const a of [...part.listAttributes(), ...part.listTargets()[0]!.listAttributes()]) {
      const array = a.getArray()!;
      a.setArray(Float32Array.from({ length: a.getElementSize() * 6 }, (_, i) => (a.getName() ? 0 : array[i % (a.getElementSize() * 3)]!)));
    }
    part.listTargets()[0]!.getAttribute('POSITION')!.getArray()!.set([9, 9, 9], 9);
    part.getIndices()!.setArray(Uint16Array.of(0, 1, 2, 3, 4, 5));
    expect([...(await read(await toGlb(soup), false)).cornerVertex]).toEqual([0, 1, 2, 3, 1, 2]);
  });

  it('loses no face where no scene, or no one of several, is named', async () => {
    const none = crowd();
    for (const scene of none.getRoot().listScenes()) scene.dispose();
    const several = crowd();
    const [first] = several.getRoot().listScenes();
    const nodes = first!.listChildren();
    several.createScene('other').addChild(nodes[1]!).addChild(nodes[2]!);
    first!.removeChild(nodes[1]!);
    several.getRoot().setDefaultScene(null);
    for (const document of [none, several]) {
      const bytes = await toGlb(document);
      const { kit, item } = kitAround(await read(bytes, false), bytes, () => 1);
      expect(item.model.faces).toBe(4 * 8);
      const other = { ...item, model: { ...item.model, id: 'n', name: 'Twin' } };
      for (const items of [[item], [item, other]]) {
        const glb = await writeGlb(kit, items);
        await expectValid(glb);
        expect((await seenTriangles(glb)).triangles).toHaveLength(items.length * 32);
      }
    }
  });

  it('does not switch back to materials of its variants', async () => {
    const document = gridDocument(2);
    const extension = document.createExtension(KHRMaterialsVariants);
    const mapping = extension.createMapping().setMaterial(document.createMaterial('rust')).addVariant(extension.createVariant('rusty'));
    primitiveOf(firstNode(document)).setExtension('KHR_materials_variants', extension.createMappingList().addMapping(mapping));
    const bytes = await new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
    const { kit, item } = kitAround(await read(bytes), bytes, (f) => (f < 2 ? 1 : 0));
    const primitives = (await open(await writeGlb(kit, [item]))).getRoot().listMeshes()[0]!.listPrimitives();
    expect(primitives.map((p) => [p.getMaterial()!.getName(), p.getExtension('KHR_materials_variants') !== null])).toEqual([
      ['Sheet', false],
      ['tar', true],
    ]);
  });

  it.each(['flat', 'without length'])('has the normals of its faces: %s', async (how) => {
    const document = crowd();
    if (how === 'without length') primitiveOf(firstNode(document)).getAttribute('NORMAL')!.getArray()!.fill(0);
    const bytes = await toGlb(document);
    let mesh = await read(bytes, false);
    if (how === 'flat') mesh = repairMesh(mesh, 'flat-normals').mesh;
    const { kit, item } = kitAround(mesh, bytes, () => 1);
    for (const meshes of ['joined', 'shared'] satisfies LeaveOptions['meshes'][]) {
      const glb = await writeGlb(kit, [item], { meshes, nodes: 'joined' });
      await expectValid(glb);
      const { triangles, lit } = await seenTriangles(glb);
      expect(lit).toBe(triangles.length);
      const normals = (await open(glb)).getRoot().listMeshes()[0]!.listPrimitives()[0]!.getAttribute('NORMAL')!.getArray()!;
      // The bumps lean to all sides; upward everywhere would be wrong.
      expect(normals.filter((_, i) => i % 3 === 1).some((y) => Math.abs(y) < 0.99)).toBe(true);
    }
  });

  it('keeps which materials are seen from both sides, and does as the artist sets it', async () => {
    const document = gridDocument(2);
    document.getRoot().listMaterials()[0]!.setDoubleSided(true);
    const bytes = await toGlb(document);
    const { kit, item } = kitAround(await read(bytes, false), bytes, (f) => (f < 4 ? 1 : 0));
    const sidesOf = async (sides?: 'front' | 'both') => {
      const glb = await writeGlb(kit, [{ ...item, model: { ...item.model, ...(sides && { sides }) } }]);
      const materials = (await open(glb)).getRoot().listMaterials();
      return materials.map((m) => [m.getName(), m.getDoubleSided()]).sort();
    };
    expect(await sidesOf()).toEqual([
      ['Sheet, both sides', true],
      ['tar', true],
    ]);
    expect(await sidesOf('front')).toEqual([
      ['Sheet', false],
      ['tar', false],
    ]);
  });

  it('leaves see-through faces with a material of their own, on the texture and as slots', async () => {
    const bytes = await toGlb(gridDocument(2));
    const { kit, item } = kitAround(await read(bytes, false), bytes, (f) => (f < 4 ? 1 : 2));
    kit.sheets[0]!.cells[1]!.fill = { kind: 'solid', color: '#112233', alpha: 0.5 };
    for (const as of ['texture', 'slots'] as const) {
      const glb = await writeGlb(kit, [item], { as });
      await expectValid(glb);
      const document = await open(glb);
      const materials = document.getRoot().listMaterials();
      expect(materials.map((m) => m.getAlphaMode()).sort()).toEqual(['BLEND', 'OPAQUE']);
      if (as === 'slots') expect(materials.map((m) => m.getBaseColorFactor()[3]).sort()).toEqual([0.5, 1]);
      const state = { kit: { ...kit, models: [item.model] }, seats: byId({ m: item.seats }) };
      expect(tallyOf(state, [item.model], () => item.mesh, { as }).drawCalls).toBe(costOfGltf(document).drawCalls);
    }
    expect(faceCount(item.mesh)).toBe(8);
  });

  it('is not split by UVs that nothing reads, and rights and notes of the whole file go into the kit’s', async () => {
    const document = gridDocument(4, bumps);
    const primitive = primitiveOf(firstNode(document));
    primitive.setAttribute('TEXCOORD_1', primitive.getAttribute('TEXCOORD_0')!.clone());
    document.getRoot().getAsset().copyright = 'The keeper';
    document.getRoot().setExtras({ chart: 7 });
    // Every triangle has vertices of its own, told apart by a UV set alone.
    const index = primitive.getIndices()!.getArray()!.slice();
    for (const a of primitive.listAttributes()) {
      const [from, width] = [a.getArray()!, a.getElementSize()];
      a.setArray(Float32Array.from({ length: index.length * width }, (_, i) => from[index[Math.floor(i / width)]! * width + (i % width)]!));
    }
    primitive
      .getAttribute('TEXCOORD_1')!
      .getArray()!
      .forEach((_, i, all) => (all[i] = i / 1000));
    primitive.getIndices()!.setArray(index.map((_, i) => i));
    const bytes = await toGlb(document);
    const { kit, item } = kitAround(await read(bytes, false), bytes, () => 1);
    for (const meshes of ['joined', 'shared'] satisfies LeaveOptions['meshes'][])
      expect(costOfGltf(await open(await writeGlb(kit, [item], { meshes }))).gpuVertices).toBe(25);
    const two = (await open(await writeGlb(kit, [item, { ...item, model: { ...item.model, id: 'n', name: 'Twin' } }]))).getRoot();
    expect(two.getAsset().copyright).toBe('The keeper');
    expect(
      two
        .listNodes()
        .find((n) => n.getName() === 'Twin')!
        .getExtras(),
    ).toEqual({ chart: 7 });
    expect(two.listMaterials()).toHaveLength(1);
  });
});
