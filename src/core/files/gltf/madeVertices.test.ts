import { describe, expect, it } from 'vitest';
import { expectValid, kitAround } from '@tests/kitAround';
import { gridDocument, skinnedDocument, toGlb } from '@tests/samples';
import { seenTriangles } from '@tests/sampleWithThree';
import { cutModel } from '../../shapes/cut/cutModel';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { checkMesh } from '../../shapes/mesh/checkMesh';
import { faceCount, firstMade, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { readModel } from '../formats/readModel';
import { createAccessor } from './accessor';
import { openGltf } from './openGltf';
import { writeGlb } from './writeGlb';

/** The node that shows the rig's board mirrors it. */
const inherited = ['NODE_SKINNED_MESH_LOCAL_TRANSFORMS'];
const boards = (document = skinnedDocument()) => document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
/** The board over its rig, flat, so that its triangles become quads again. */
function flatBoard() {
  const document = skinnedDocument();
  const position = boards(document).getAttribute('POSITION')!.getArray()!;
  for (let i = 1; i < position.length; i += 3) position[i] = 0;
  return document;
}
const cutOnce = (mesh: PolyMesh, face: number, share = 0.25): PolyMesh =>
  cutModel(mesh, adjacencyOf(mesh), { kind: 'rings', cuts: [{ edge: mesh.faceStart[face]!, places: { kind: 'share', share } }] }).mesh;

async function left(bytes: Uint8Array, change: (mesh: PolyMesh) => PolyMesh, colored = true) {
  const read = (await readModel({ name: 'a.glb', bytes }, [], { mendQuads: true })).mesh;
  const { kit, item } = kitAround(change(read), bytes, () => (colored ? 1 : 0));
  return { glb: await writeGlb(kit, [item], { meshes: 'shared', variants: 'none' }), mesh: item.mesh };
}

describe('a glTF source that was cut', () => {
  it('leaves with skeleton and weights, and posed each new point lies where it lay on its edge', async () => {
    const bytes = await toGlb(flatBoard());
    const whole = await left(bytes, (m) => m);
    // Twice, the second time across the first.
    const cut = await left(bytes, (m) => {
      expect(faceCount(m)).toBe(4);
      return cutOnce(cutOnce(m, 0), 0, 0.5);
    });
    await expectValid(cut.glb, inherited);
    const pose = { tip: 0.7 };
    const points = async (glb: Uint8Array) => new Set((await seenTriangles(glb, 0, pose)).triangles.flatMap((t) => t.split(' | ')));
    const [before, after] = [await points(whole.glb), await points(cut.glb)];
    for (const p of before) expect(after).toContain(p);
    const known = [...before].map((p) => p.split(',').map(Number));
    const isBetween = (p: number[]) =>
      known.some((a) =>
        known.some((b) => a !== b && [0.125, 0.25, 0.5, 0.75].some((s) => a.every((v, k) => Math.abs(v + (b[k]! - v) * s - p[k]!) < 3e-4))),
      );
    const added = [...after].filter((p) => !before.has(p)).map((p) => p.split(',').map(Number));
    expect(added.length).toBeGreaterThan(5);
    expect(added.filter((p) => !isBetween(p)).length).toBeLessThanOrEqual(1);
    // Two quads of four were cut into two, and two of the pieces again, with those beside them.
    const { document } = await openGltf('b.glb', cut.glb);
    expect(document.getRoot().listSkins()).toHaveLength(1);
    expect(document.getRoot().listAnimations()).toHaveLength(1);
  });

  it('keeps points inside of faces on the way between two of its edges when posed, and no vertex that nothing uses', async () => {
    const bytes = await toGlb(flatBoard());
    const border = { width: { kind: 'share', share: 0.5 }, times: 2, takes: 'inside' } as const;
    const cut = await left(bytes, (m) => {
      const picked = new Uint16Array(faceCount(m)).fill(1, 0, 1);
      const { mesh } = cutModel(m, adjacencyOf(m), { kind: 'border', picked, ...border });
      expect(faceCount(mesh)).toBe(faceCount(m) + 8);
      return checkMesh(mesh);
    });
    await expectValid(cut.glb, inherited);
    // Mitres of a line half way in lie half way from each corner to the middle, and so they do posed.
    const pose = { tip: 0.7 };
    const corners = async (glb: Uint8Array) => [...new Set((await seenTriangles(glb, 0, pose)).triangles.flatMap((t) => t.split(' | ')))];
    const whole = (await corners((await left(bytes, (m) => m)).glb)).map((p) => p.split(',').map(Number));
    const added = (await corners(cut.glb))
      .map((p) => p.split(',').map(Number))
      .filter((p) => !whole.some((q) => p.every((v, k) => v === q[k])));
    expect(added).toHaveLength(8);
    const isInside = (p: number[]) =>
      [0, 1, 2].every((k) => p[k]! >= Math.min(...whole.map((q) => q[k]!)) - 1e-3 && p[k]! <= Math.max(...whole.map((q) => q[k]!)) + 1e-3);
    expect(added.every(isInside)).toBe(true);
    const { document } = await openGltf('b.glb', cut.glb);
    for (const primitive of document.getRoot().listMeshes()[0]!.listPrimitives())
      expect(new Set(primitive.getIndices()!.getArray()!).size).toBe(primitive.getAttribute('POSITION')!.getCount());
  });

  it('mixes skin weights by joint, morph targets and tangents along the edge', async () => {
    const document = flatBoard();
    const primitive = boards(document);
    const count = primitive.getAttribute('POSITION')!.getCount();
    const x = (v: number) => primitive.getAttribute('POSITION')!.getArray()![v * 3]!;
    const each = <T>(of: (v: number) => T[]) => Array.from({ length: count }, (_, v) => of(v)).flat();
    const set = (name: string, type: 'VEC3' | 'VEC4', array: Float32Array | Uint8Array) =>
      primitive.setAttribute(name, createAccessor(document, type, array));
    // At x = 0 four joints, at the others two of which one is the same.
    set('JOINTS_0', 'VEC4', Uint8Array.from(each((v) => (x(v) === 0 ? [0, 1, 2, 0] : [2, 1, 0, 0]))));
    set('WEIGHTS_0', 'VEC4', Float32Array.from(each((v) => (x(v) === 0 ? [0.5, 0.25, 0.25, 0] : [0.75, 0.25, 0, 0]))));
    set('TANGENT', 'VEC4', Float32Array.from(each((v) => (x(v) === 0 ? [1, 0, 0, -1] : [0, 0, 1, 1]))));
    const target = document
      .createPrimitiveTarget('wave')
      .setAttribute('POSITION', createAccessor(document, 'VEC3', Float32Array.from(each((v) => [0, x(v), 0]))));
    primitive.addTarget(target);
    // The edges that run along x are cut at a quarter from x = 0.
    const { glb, mesh } = await left(
      await toGlb(document),
      (m) => {
        const along = m.cornerVertex.findIndex((v, c) => {
          const w = m.cornerVertex[c + 1] ?? v;
          return c % 4 < 3 && m.positions[v * 3] === 0 && m.positions[w * 3]! !== 0;
        });
        return cutModel(m, adjacencyOf(m), { kind: 'rings', cuts: [{ edge: along, places: { kind: 'share', share: 0.25 } }] }).mesh;
      },
      false,
    );
    expect(mesh.source!.primitives![0]!.made!.share).toHaveLength(3);
    await expectValid(glb, inherited);
    const { document: out } = await openGltf('b.glb', glb);
    const written = boards(out);
    const at = (name: string, v: number, of: { getAttribute: typeof written.getAttribute } = written) => {
      const accessor = of.getAttribute(name)!;
      return [...accessor.getElement(v, [])].map((n) => Math.round(n * 1e5) / 1e5 + 0);
    };
    const made = Array.from({ length: written.getAttribute('POSITION')!.getCount() }, (_, v) => v).filter(
      (v) => at('POSITION', v)[0] === 0.25,
    );
    expect(made).toHaveLength(3);
    for (const v of made) {
      const byJoint = new Map(
        at('JOINTS_0', v)
          .map((joint, k) => [joint, at('WEIGHTS_0', v)[k]!])
          .filter(([, w]) => w) as [number, number][],
      );
      // Three quarters of the one end and a quarter of the other.
      expect([...byJoint].sort(([a], [b]) => a - b)).toEqual([
        [0, 0.375],
        [1, 0.25],
        [2, 0.375],
      ]);
      expect(at('POSITION', v, written.listTargets()[0]!)).toEqual([0, 0.25, 0]);
      // A quarter of the way from one direction to the other, of length 1.
      expect(at('TANGENT', v).slice(0, 3)).toEqual([0.94868, 0, 0.31623]);
      expect(Math.abs(at('TANGENT', v)[3]!)).toBe(1);
    }
  });

  it('has nodes that show one mesh share it again where both are cut alike, and not where one is', async () => {
    const document = gridDocument(2, () => 0);
    const [mesh] = document.getRoot().listMeshes();
    document
      .getRoot()
      .getDefaultScene()!
      .addChild(document.createNode('other').setMesh(mesh!).setTranslation([5, 0, 0]));
    const bytes = await toGlb(document);
    const meshes = async (change: (m: PolyMesh) => PolyMesh) =>
      (await openGltf('b.glb', (await left(bytes, change)).glb)).document.getRoot().listMeshes().length;
    expect(await meshes((m) => cutOnce(m, 0))).toBe(2);
    expect(await meshes((m) => cutOnce(cutOnce(m, 0), 6))).toBe(1);
  });

  it.each<[string, (made: { between: Uint32Array; share: Float32Array }, mesh: PolyMesh) => void]>([
    ['made of itself', ({ between }) => between.set([firstMade], 0)],
    ['at no share of its edge', ({ share }) => share.set([1.5])],
    ['numbered past those that were made', ({ share }, mesh) => mesh.source!.cornerVertex!.set([firstMade + share.length], 0)],
    ['made of one that the file does not have', ({ between }) => between.set([99], 0)],
  ])('is refused with a vertex that is %s', async (_, change) => {
    const bytes = await toGlb(flatBoard());
    const tampered = left(bytes, (m) => {
      const cut = cutOnce(m, 0);
      change(cut.source!.primitives![0]!.made!, cut);
      return checkMesh(cut);
    });
    await expect(tampered).rejects.toThrow(/a vertex that was made|between vertices that its file does not have/);
  });
});
