import { gradientOf } from '@tests/parts';
import { Document, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTMeshoptCompression, KHRDracoMeshCompression } from '@gltf-transform/extensions';
import { quantize, reorder } from '@gltf-transform/functions';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import { describe, expect, it } from 'vitest';
import { rgbFromHex } from '../../ground/color/hex';
import type { Kit } from '../../kit/kit';
import { repairMesh } from '../../shapes/check/repair';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { boundsOf, measureFaces } from '../../shapes/mesh/measure';
import { newKit } from '../../sheet/starter';
import { box } from '@tests/meshes';
import { gridDocument, toGlb } from '@tests/samples';
import { readModel } from '../formats/readModel';
import { expectValid, kitAround } from '@tests/kitAround';
import { sampleWithThree } from '@tests/sampleWithThree';
import { openGltf } from './openGltf';
import { writeGlb } from './writeGlb';

const codecs = { draco: () => draco3d.createDecoderModule() };
const read = (bytes: Uint8Array, mendQuads = false, name = 'a.glb') => readModel({ name, bytes }, [], { codecs, mendQuads });

describe('reading glTF', () => {
  it('takes node transforms, instances and mirroring into account, and only the shown scene', async () => {
    const document = gridDocument(1);
    const mesh = document.getRoot().listMeshes()[0]!;
    const scene = document.getRoot().getDefaultScene()!;
    scene.addChild(
      document
        .createNode('far')
        .setTranslation([10, 0, 0])
        .addChild(document.createNode('twin').setMesh(mesh).setScale([-1, 1, 1])),
    );
    document.createScene('other').addChild(document.createNode('hidden').setMesh(mesh));
    const { mesh: poly } = await read(await toGlb(document));
    expect(faceCount(poly)).toBe(4);
    expect(poly.objects).toEqual(['Jetty', 'twin']);
    expect(boundsOf(poly).max[0]).toBe(10);
    const { normals } = measureFaces(poly);
    expect([1, 4, 7, 10].every((i) => normals[i]! > 0)).toBe(true);
    expect(poly.source!.primitives).toHaveLength(2);
  });

  it('reads strips and fans as the same triangles', async () => {
    const counts = await Promise.all(
      ([4, 5, 6] as const).map(async (mode) => {
        const document = gridDocument(1);
        const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
        const order = mode === 4 ? [0, 2, 3, 0, 3, 1] : mode === 5 ? [2, 3, 0, 1] : [0, 2, 3, 1];
        primitive.setMode(mode).getIndices()!.setArray(Uint16Array.from(order));
        const { mesh } = await read(await toGlb(document));
        return [faceCount(mesh), measureFaces(mesh).areas.reduce((a, b) => a + b, 0), measureFaces(mesh).normals[1]! > 0];
      }),
    );
    expect(counts[1]).toEqual([2, expect.closeTo(counts[0]![1] as number, 5), true]);
    expect(counts[2]).toEqual([2, expect.closeTo(counts[0]![1] as number, 5), true]);
  });

  it('reads sparse and normalized accessors', async () => {
    const document = gridDocument(1);
    const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
    primitive.getAttribute('POSITION')!.setSparse(true);
    const color = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Uint8Array.of(255, 0, 0, 255, 0, 0, 255, 0, 0, 255, 0, 0))
      .setNormalized(true)
      .setBuffer(document.getRoot().listBuffers()[0]!);
    primitive.setAttribute('COLOR_0', color);
    const { mesh } = await read(await toGlb(document));
    expect(boundsOf(mesh)).toEqual(boundsOf((await read(await toGlb(gridDocument(1)))).mesh));
    expect([...mesh.cornerColors!.slice(0, 4)]).toEqual([255, 0, 0, 255]);
  });

  it.each(['quantized', 'meshopt', 'draco'])('reads %s meshes', async (how) => {
    const document = gridDocument(6);
    const plain = (await read(await toGlb(document))).mesh;
    await MeshoptEncoder.ready;
    const io = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({
      'meshopt.encoder': MeshoptEncoder,
      'meshopt.decoder': MeshoptDecoder,
      'draco3d.encoder': await draco3d.createEncoderModule(),
    });
    if (how === 'draco')
      document
        .createExtension(KHRDracoMeshCompression)
        .setRequired(true)
        .setEncoderOptions({ method: KHRDracoMeshCompression.EncoderMethod.EDGEBREAKER });
    else await document.transform(reorder({ encoder: MeshoptEncoder }), quantize());
    if (how === 'meshopt')
      document
        .createExtension(EXTMeshoptCompression)
        .setRequired(true)
        .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
    const { mesh } = await read(await io.writeBinary(document));
    expect(faceCount(mesh)).toBe(faceCount(plain));
    const area = (m: PolyMesh) => measureFaces(m).areas.reduce((a, b) => a + b, 0);
    expect(area(mesh) / area(plain)).toBeCloseTo(1, 2);
    expect(mesh.uvSets).toHaveLength(1);
  });
});

const colorOf = (kit: Kit, cell: number) => {
  const { fill } = kit.sheets[0]!.cells.find((c) => c.id === cell)!;
  return fill.kind === 'solid' ? [...rgbFromHex(fill.color)] : null;
};

describe('writing GLB', () => {
  it('gives polygons one material and one tiny picture, and an independent loader sees every face’s color', async () => {
    const mesh = box(2);
    const { kit, item } = kitAround(mesh, null, (f) => f + 3);
    const glb = await writeGlb(kit, [item], { unlit: true });
    await expectValid(glb);
    const seen = await sampleWithThree(glb);
    expect(seen.materials).toHaveLength(1);
    expect(seen.materials[0]).toMatchObject({ magFilter: 'nearest', isUnlit: true });
    expect(seen.triangles).toHaveLength(12);
    seen.triangles.forEach(({ color }, t) => expect(color).toEqual(colorOf(kit, Math.floor(t / 2) + 3)));
  });

  it('carries gradients by the UVs of their seats, the sheet’s filter, opacity, and a second sheet as a second material', async () => {
    const mesh = box(2);
    const { kit, item } = kitAround(mesh, null, (f) => (f < 3 ? 1 : f < 4 ? 2 : 3));
    item.seats.cell.fill(20, 4);
    const [first] = kit.sheets;
    first!.filter = 'linear';
    first!.cells[0]!.fill = gradientOf('x', '#000000', '#ffffff', 'srgb');
    first!.cells[1]!.fill = { kind: 'solid', color: '#112233', alpha: 0.5 };
    kit.sheets.push({
      ...newKit('x').sheets[0]!,
      id: 'second',
      name: 'Second',
      cells: [{ id: 20, role: 'glass', rect: { x: 0, y: 0, w: 4, h: 4 }, fill: { kind: 'solid', color: '#445566' } }],
      ramps: [],
    });
    item.seats.at = Float32Array.from({ length: 48 }, (_, i) => (i < 8 ? 0 : i < 16 ? 1 : 0.34));
    const glb = await writeGlb(kit, [item]);
    await expectValid(glb);
    const { materials, triangles } = await sampleWithThree(glb);
    expect(materials.map((m) => [m.name, m.magFilter])).toEqual([
      ['Sheet', 'linear'],
      ['Sheet, see-through', 'linear'],
      ['Second', 'nearest'],
    ]);
    expect(triangles.map((t) => t.color![0]).filter((_, t) => t % 2 === 0)).toEqual([0, 255, 85, 0x11, 0x44, 0x44]);
    const { document } = await openGltf('a.glb', glb);
    expect(
      document
        .getRoot()
        .listMaterials()
        .map((m) => m.getAlphaMode()),
    ).toEqual(['OPAQUE', 'BLEND', 'OPAQUE']);
    expect(document.getRoot().listTextures()).toHaveLength(2);
  });

  it('keeps the file’s triangles, nodes, skins, animations, morph targets and extras', async () => {
    const document = gridDocument(4, () => 0);
    const [buffer] = document.getRoot().listBuffers();
    const [node] = document.getRoot().listNodes();
    const primitive = node!.getMesh()!.listPrimitives()[0]!;
    const count = primitive.getAttribute('POSITION')!.getCount();
    const make = (type: 'SCALAR' | 'VEC3' | 'VEC4' | 'MAT4', array: Float32Array | Uint8Array) =>
      document
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer!);
    const bone = document.createNode('bone');
    document.getRoot().getDefaultScene()!.addChild(bone);
    primitive.setAttribute('JOINTS_0', make('VEC4', new Uint8Array(count * 4))).setAttribute(
      'WEIGHTS_0',
      make(
        'VEC4',
        new Float32Array(count * 4).map((_, i) => (i % 4 ? 0 : 1)),
      ),
    );
    const identity = Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
    node!.setSkin(document.createSkin('rig').addJoint(bone).setInverseBindMatrices(make('MAT4', identity)));
    const deltas = new Float32Array(count * 3).map((_, i) => i / 10);
    primitive.addTarget(document.createPrimitiveTarget('swell').setAttribute('POSITION', make('VEC3', deltas)));
    node!.getMesh()!.setWeights([0]).setExtras({ keeper: 'yes' });
    const sampler = document
      .createAnimationSampler()
      .setInput(make('SCALAR', Float32Array.of(0, 1)))
      .setOutput(make('VEC3', new Float32Array(6)));
    document
      .createAnimation('bob')
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(bone).setTargetPath('translation').setSampler(sampler));
    const bytes = await toGlb(document);
    const { mesh } = await read(bytes, true);
    expect(faceCount(mesh)).toBeLessThan(32);
    const { kit, item } = kitAround(mesh, bytes, (f) => (f % 3) + 1);
    const glb = await writeGlb(kit, [item]);
    await expectValid(glb);
    const out = (await new WebIO().readBinary(glb)).getRoot();
    expect([out.listSkins()[0]!.getName(), out.listAnimations()[0]!.getName(), out.listMeshes()[0]!.getExtras()]).toEqual([
      'rig',
      'bob',
      { keeper: 'yes', targetNames: ['swell'] },
    ]);
    const written = out.listMeshes()[0]!.listPrimitives()[0]!;
    expect([out.listMaterials().length, out.listMeshes()[0]!.listPrimitives().length]).toEqual([1, 1]);
    expect(triangles(written)).toEqual(triangles(primitive));
    const moved = written.listTargets()[0]!.getAttribute('POSITION')!.getArray()!;
    const at = new Map(
      rows(primitive.getAttribute('POSITION')!.getArray()!, 3).map((p, i) => [p, [...deltas.slice(i * 3, i * 3 + 3)].join()]),
    );
    rows(written.getAttribute('POSITION')!.getArray()!, 3).forEach((p, i) =>
      expect([...moved.slice(i * 3, i * 3 + 3)].join()).toBe(at.get(p)),
    );
    (await sampleWithThree(glb)).triangles.forEach(({ color }) => expect([1, 2, 3].map((c) => colorOf(kit, c))).toContainEqual(color));
  });

  it('shares instances again where their colors agree, and parts them where they differ', async () => {
    const document = gridDocument(2);
    const [source] = document.getRoot().listMeshes();
    for (const x of [5, 10])
      document
        .getRoot()
        .getDefaultScene()!
        .addChild(document.createNode(`copy ${x}`).setMesh(source!).setTranslation([x, 0, 0]));
    const bytes = await toGlb(document);
    const { mesh } = await read(bytes);
    const meshCount = async (cellOf: (f: number) => number) => {
      const { kit, item } = kitAround(mesh, bytes, cellOf);
      const glb = await writeGlb(kit, [item], { meshes: 'shared' });
      await expectValid(glb);
      return (await new WebIO().readBinary(glb)).getRoot().listMeshes().length;
    };
    expect(await meshCount((f) => (f % 8) + 1)).toBe(1);
    expect(await meshCount((f) => (f < 8 ? 1 : 2))).toBe(2);
  });

  it('leaves faces out, parts instances that differ in that, and drops a mesh of which nothing is left', async () => {
    const document = gridDocument(2);
    const [source] = document.getRoot().listMeshes();
    document
      .getRoot()
      .getDefaultScene()!
      .addChild(document.createNode('copy').setMesh(source!).setTranslation([5, 0, 0]));
    const bytes = await toGlb(document);
    const { mesh } = await read(bytes);
    const leave = async (isOut: (f: number) => boolean) => {
      const { kit, item } = kitAround(mesh, bytes, () => 1);
      const glb = await writeGlb(kit, [{ ...item, leaveOut: Uint8Array.from({ length: 16 }, (_, f) => Number(isOut(f))) }], {
        meshes: 'shared',
      });
      await expectValid(glb);
      return [(await sampleWithThree(glb)).triangles.length, (await new WebIO().readBinary(glb)).getRoot().listMeshes().length];
    };
    expect(await leave((f) => f % 8 === 0)).toEqual([14, 1]);
    expect(await leave((f) => f === 0)).toEqual([15, 2]);
    expect(await leave((f) => f < 8)).toEqual([8, 1]);
    const { kit, item } = kitAround(box(2), null, () => 1);
    expect(
      (await sampleWithThree(await writeGlb(kit, [{ ...item, leaveOut: Uint8Array.from([1, 0, 0, 0, 0, 1]) }]))).triangles,
    ).toHaveLength(8);
  });

  it('leaves uncolored faces their material, UVs and vertex colors', async () => {
    const document = gridDocument(2);
    const bytes = await toGlb(document);
    const { mesh } = await read(bytes);
    const { kit, item } = kitAround(mesh, bytes, (f) => (f < 4 ? 2 : 0));
    const out = (await new WebIO().readBinary(await writeGlb(kit, [item]))).getRoot();
    expect(
      out
        .listMaterials()
        .map((m) => m.getName())
        .sort(),
    ).toEqual(['Sheet', 'tar']);
    const bare = out
      .listMeshes()[0]!
      .listPrimitives()
      .find((p) => p.getMaterial()!.getName() === 'tar')!;
    const before = rows(document.getRoot().listMeshes()[0]!.listPrimitives()[0]!.getAttribute('TEXCOORD_0')!.getArray()!, 2);
    rows(bare.getAttribute('TEXCOORD_0')!.getArray()!, 2).forEach((uv) => expect(before).toContain(uv));
  });

  it('corrects axis and scale by a node, and turned faces by their order', async () => {
    const bytes = await toGlb(gridDocument(2));
    const { mesh } = await read(bytes);
    const turned = repairMesh(repairMesh(mesh, 'turn-up').mesh, 'scale', { factor: 2 }).mesh;
    const { kit, item } = kitAround(turned, bytes, () => 1);
    item.model.placement = { upFromZ: true, scale: 2 };
    const glb = await writeGlb(kit, [item]);
    await expectValid(glb);
    const again = (await read(glb)).mesh;
    boundsOf(again).max.forEach((v, k) => expect(v).toBeCloseTo(boundsOf(turned).max[k]!, 5));
    boundsOf(again).min.forEach((v, k) => expect(v).toBeCloseTo(boundsOf(turned).min[k]!, 5));
    const source = (await new WebIO().readBinary(glb)).getRoot().listMeshes()[0]!.listPrimitives()[0]!;
    const plain = (await new WebIO().readBinary(bytes)).getRoot().listMeshes()[0]!.listPrimitives()[0]!;
    expect(triangles(source)).toEqual(triangles(plain));
  });

  it('puts models of every source into one file with one material', async () => {
    const bytes = await toGlb(gridDocument(2));
    const { mesh } = await read(bytes);
    const one = kitAround(mesh, bytes, () => 1);
    const two = kitAround(box(), null, () => 2);
    const glb = await writeGlb(one.kit, [one.item, { ...two.item, model: { ...two.item.model, name: 'Box' } }]);
    const strayCells = two.item.seats.cell.some((c) => c === 0);
    expect(strayCells).toBe(false);
    await expectValid(glb);
    const root = (await new WebIO().readBinary(glb)).getRoot();
    expect([root.listMaterials().length, root.listTextures().length, root.listScenes().length]).toEqual([1, 1, 1]);
    expect(
      root
        .listScenes()[0]!
        .listChildren()
        .map((n) => n.getName()),
    ).toEqual(['Jetty', 'Box']);
  });
});

const rows = (array: ArrayLike<number>, width: number) =>
  Array.from({ length: array.length / width }, (_, i) => Array.from({ length: width }, (_, k) => array[i * width + k]).join());

/** Triangles as positions, each from its smallest corner on, in order. */
function triangles(primitive: ReturnType<Document['createPrimitive']>): string[] {
  const points = rows(primitive.getAttribute('POSITION')!.getArray()!, 3);
  const index = primitive.getIndices()!.getArray()!;
  return Array.from({ length: index.length / 3 }, (_, t) => {
    const ids = [0, 1, 2].map((k) => points[index[t * 3 + k]!]!);
    const first = ids.indexOf([...ids].sort()[0]!);
    return [0, 1, 2].map((k) => ids[(first + k) % 3]).join(' | ');
  });
}
