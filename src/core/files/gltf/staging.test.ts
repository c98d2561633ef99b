import { limits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import { WebIO, type Document, type Material, type Node, type Root } from '@gltf-transform/core';
import { ALL_EXTENSIONS, type MappingList } from '@gltf-transform/extensions';
import { expect, it } from 'vitest';
import { kitAround } from '@tests/kitAround';
import { gridDocument, skinnedDocument, toGlb } from '@tests/samples';
import { variedModels } from '@tests/variedModels';
import type { Kit, Placement } from '../../kit/kit';
import { readModel } from '../formats/readModel';
import type { ExportModel } from '../leaving/exportModel';
import { createAccessor } from './accessor';
import { stageInGlb } from './readScene';
import { writeScene, type SceneOptions } from './writeScene';

const stand = (name: string, model: string, more: Partial<Placement> = {}): Placement => ({
  id: name,
  name,
  model,
  at: [0, 0, 0],
  turn: 0,
  scale: 1,
  ...more,
});
const opened = async (glb: Uint8Array): Promise<Root> => (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(glb)).getRoot();
async function staged(document: Document, placements: Placement[], options: SceneOptions = {}, change: (kit: Kit) => Kit = (k) => k) {
  const bytes = await new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document);
  const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
  const { kit, item } = kitAround(mesh, bytes, () => 1);
  return opened(await writeScene(change({ ...kit, models: [item.model], placements }), [item], options));
}
const tops = (root: Root) => root.getDefaultScene()!.listChildren();
const named = (root: Root, name: string) => root.listNodes().filter((n) => n.getName() === name);
const under = (node: Node): string => [node.getName(), ...node.listChildren().map((c) => `(${under(c)})`)].join(' ');
const movement = (document: Document, target: Node, path: 'translation' | 'rotation' | 'weights', name: string, size: number) => {
  const sampler = document
    .createAnimationSampler()
    .setInput(createAccessor(document, 'SCALAR', Float32Array.of(0, 1)))
    .setOutput(createAccessor(document, size === 3 ? 'VEC3' : 'SCALAR', new Float32Array(2 * size)))
    .setInterpolation('STEP');
  const channel = document.createAnimationChannel().setTargetNode(target).setTargetPath(path).setSampler(sampler);
  document.createAnimation(name).addSampler(sampler).addChannel(channel).setExtras({ of: name });
};

it('stands each placement by move, turn and size, with what its model’s nodes say, and nothing of models that do not stand there', async () => {
  const document = gridDocument(1);
  const scene = document.getRoot().getDefaultScene()!;
  const [jetty] = document.getRoot().listNodes();
  jetty!.setTranslation([1, 2, 3]).setExtras({ keeper: 'yes' }).setCamera(document.createCamera('eye'));
  scene.addChild(document.createNode('mark').addChild(document.createNode('deep').setScale([2, 2, 2])));
  const root = await staged(document, [stand('a', 'm', { at: [4, 5, 6], turn: 90, scale: 2 }), stand('elsewhere', 'gone')], {
    meshes: 'shared',
  });
  const [a, ...others] = tops(root);
  expect([under(a!), others]).toEqual(['a (Jetty (Jetty) (mark (deep)))', []]);
  expect([a!.getTranslation(), a!.getRotation().map((v) => Math.round(v * 1e4) / 1e4), a!.getScale(), a!.getExtras()]).toEqual([
    [4, 5, 6],
    [0, 0.7071, 0, 0.7071],
    [2, 2, 2],
    { model: 'Jetty', coloring: 'default' },
  ]);
  const [, own] = named(root, 'Jetty');
  expect([own!.getTranslation(), own!.getExtras(), own!.getCamera()!.getName(), named(root, 'deep')[0]!.getScale()]).toEqual([
    [1, 2, 3],
    { keeper: 'yes' },
    'eye',
    [2, 2, 2],
  ]);
  expect([root.getDefaultScene()!.getName(), root.listScenes().length]).toEqual(['Skerry', 1]);
  const bytes = await toGlb(gridDocument(1));
  const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
  const { kit, item } = kitAround(mesh, bytes, () => 1);
  await expect(writeScene({ ...kit, models: [item.model] }, [item])).rejects.toThrow(
    'Nothing stands on the stage yet: place a model first.',
  );
  const second: ExportModel = { ...item, model: { ...item.model, id: 'n', name: 'Other' } };
  const two = await opened(await writeScene({ ...kit, models: [item.model, second.model], placements: [stand('b', 'n')] }, [item, second]));
  expect([tops(two).map(under), two.listMeshes().length]).toEqual([['b (Other (Jetty))'], 1]);
});

it('gives each placement of what moves its own movement, of shapes to the body and of places to the bones', async () => {
  const document = skinnedDocument();
  const [board, bone] = document.getRoot().listNodes() as [Node, Node];
  const skin = document.getRoot().listSkins()[0]!.setSkeleton(bone).setExtras({ rig: 1 });
  const primitive = board.getMesh()!.listPrimitives()[0]!;
  primitive.addTarget(
    document.createPrimitiveTarget('swell').setAttribute('POSITION', createAccessor(document, 'VEC3', new Float32Array(27))),
  );
  board.getMesh()!.setWeights([0]);
  board.setWeights([0.25]);
  movement(document, board, 'weights', 'swelling', 1);
  movement(document, board, 'translation', 'sliding', 3);
  movement(document, bone, 'translation', '', 3);
  const root = await staged(document, [stand('one', 'm'), stand('two', 'm', { at: [9, 0, 0] })], { instanced: true });
  expect(tops(root).map((n) => n.getName())).toEqual(['one', 'one, Jetty', 'two', 'two, Jetty']);
  const [one, body, two] = tops(root);
  expect([
    body!.getWeights(),
    body!.getSkin()!.getName(),
    body!.getSkin()!.getExtras(),
    named(root, 'Jetty').every((n) => !n.getMesh()),
  ]).toEqual([[0.25], 'rig', { rig: 1 }, true]);
  const within = (top: Node, node: Node | null): boolean => node !== null && (node === top || within(top, node.getParentNode()));
  const skins = root.listSkins();
  expect([within(one!, skins[0]!.getSkeleton()), within(two!, skins[1]!.getSkeleton()), skins[0]!.getSkeleton()!.getName()]).toEqual([
    true,
    true,
    'root',
  ]);
  expect(skins.map((s) => s.getInverseBindMatrices()!.getCount())).toEqual([3, 3]);
  expect(skin.listJoints()).toHaveLength(3);
  const told = root
    .listAnimations()
    .map((a) => [
      a.getName(),
      a.getExtras().of ?? '',
      ...a
        .listChannels()
        .map(
          (c) =>
            `${c.getTargetPath()} of ${c.getTargetNode()!.getName()}${within(one!, c.getTargetNode()) ? ' in one' : ''}, ${c.getSampler()!.getInterpolation()}`,
        ),
    ]);
  expect(told.sort()).toEqual(
    [
      ['one, nod', '', 'rotation of tip in one, LINEAR'],
      ['one, sliding', 'sliding', 'translation of Jetty in one, STEP'],
      ['one, swelling', 'swelling', 'weights of one, Jetty, STEP'],
      ['one', '', 'translation of root in one, STEP'],
      ['two, nod', '', 'rotation of tip, LINEAR'],
      ['two, sliding', 'sliding', 'translation of Jetty, STEP'],
      ['two, swelling', 'swelling', 'weights of two, Jetty, STEP'],
      ['two', '', 'translation of root, STEP'],
    ].sort(),
  );
});

it('moves shapes of a model that is not skinned where they are, and instances none of a model that moves', async () => {
  const document = gridDocument(1);
  const [node] = document.getRoot().listNodes();
  node!.getMesh()!.listPrimitives()[0]!.addTarget(document.createPrimitiveTarget('swell').setAttribute('POSITION', createAccessor(document, 'VEC3', new Float32Array(12)))); // prettier-ignore
  movement(document, node!, 'weights', 'swelling', 1);
  const root = await staged(document, [stand('one', 'm'), stand('two', 'm')], { instanced: true, meshes: 'shared' });
  expect(tops(root).map(under)).toEqual(['one (Jetty (Jetty))', 'two (Jetty (Jetty))']);
  expect(root.listAnimations().map((a) => [a.getName(), a.listChannels().length, a.listChannels()[0]!.getTargetNode()!.getName()])).toEqual(
    [
      ['one, swelling', 1, 'Jetty'],
      ['two, swelling', 1, 'Jetty'],
    ],
  );
  expect(root.listAnimations()[0]!.listChannels()[0]!.getTargetNode()!.getMesh()).not.toBeNull();
});

it('instances what stands several times: move, turn and size of each mesh; what cannot be said so is a node each', async () => {
  const document = gridDocument(1);
  const [node] = document.getRoot().listNodes();
  node!.setTranslation([1, 0, 0]).setScale([1, 3, 1]);
  const places = [stand('a', 'm', { at: [10, 0, 0], scale: 2 }), stand('b', 'm', { at: [0, 0, 5], turn: 90 })];
  const root = await staged(document, places, { instanced: true, meshes: 'shared' });
  expect(tops(root).map(under)).toEqual(['Jetty, default (Jetty)']);
  const [holder] = named(root, 'Jetty');
  const instances = holder!.getExtension<never>('EXT_mesh_gpu_instancing') as unknown as {
    getAttribute(n: string): { getArray(): Float32Array };
  };
  const list = (name: string) => Array.from(instances.getAttribute(name).getArray(), (v) => Math.round(v * 1e4) / 1e4 + 0);
  expect([list('TRANSLATION'), list('ROTATION'), list('SCALE')]).toEqual([
    [12, 0, 0, 0, 0, 4],
    [0, 0, 0, 1, 0, 0.7071, 0, 0.7071],
    [2, 6, 2, 1, 3, 1],
  ]);
  const used = root.listExtensionsUsed().find((e) => e.extensionName === 'EXT_mesh_gpu_instancing')!;
  expect([used.isRequired(), (tops(root)[0]!.getExtras().placements as unknown[]).length]).toEqual([true, 2]);
  // One alone, or without the wish, is a node.
  expect(tops(await staged(document, places.slice(0, 1), { instanced: true, meshes: 'shared' })).map(under)).toEqual(['a (Jetty (Jetty))']);
  expect(tops(await staged(document, places, { meshes: 'shared' })).map((n) => n.getName())).toEqual(['a', 'b']);
  // Turned under a stretched node: a skew, which no instance can have.
  const skewed = gridDocument(1);
  const [board] = skewed.getRoot().listNodes();
  skewed.getRoot().getDefaultScene()!.addChild(skewed.createNode('stretched').setScale([1, 1, 3]).addChild(board!.setRotation([0, 0.3826834, 0, 0.9238795]))); // prettier-ignore
  const apart = await staged(skewed, places, { instanced: true, meshes: 'shared' });
  expect(tops(apart).map(under)).toEqual(['a (Jetty (stretched (Jetty)))', 'b (Jetty (stretched (Jetty)))']);
});

it('begins with the material of its variant, and tells those of the others, of which it has none twice', async () => {
  const { kit, items } = await variedModels();
  const made = items[0]!.model.id;
  const variants = { plain: undefined, salt: 'v1', worn: 'v2', left: 'v3' };
  const placements = Object.entries(variants).map(([name, variant]) => stand(name, made, variant ? { variant } : {}));
  const root = await opened(await writeScene({ ...kit, models: items.map((i) => i.model), placements }, items, { unlit: true }));
  const told = tops(root).map((n) => [
    n.getMesh()!.getName(),
    ...n
      .getMesh()!
      .listPrimitives()
      .map((p) => {
        const of = (m: Material) => `${m.getName()} ${m.getBaseColorTextureInfo()?.getTexCoord() ?? '-'}`;
        const mappings = p.getExtension<MappingList>('KHR_materials_variants')?.listMappings() ?? [];
        const words = mappings.map((m) => `${of(m.getMaterial()!)} in ${m.listVariants().map((v) => v.getName()).join(' and ')}`); // prettier-ignore
        return [of(p.getMaterial()!), ...words].join('; ');
      }),
  ]);
  const bare = 'not yet colored -; Sheet, Abandoned_2 0 in Abandoned';
  expect(told).toEqual([
    ['Jetty', 'Sheet 0; Sheet, Salt-worn 0 in Salt-worn; Sheet, Worn through 1 in Worn through; Sheet, Abandoned 2 in Abandoned', bare],
    ['Jetty, Salt-worn', 'Sheet, Salt-worn 0; Sheet, Worn through 1 in Worn through; Sheet, Abandoned 2 in Abandoned', bare],
    ['Jetty, Worn through', 'Sheet, Worn through 1; Sheet, Salt-worn 0 in Salt-worn; Sheet, Abandoned 2 in Abandoned', bare],
    [
      'Jetty, Abandoned',
      'Sheet, Abandoned 2; Sheet, Salt-worn 0 in Salt-worn; Sheet, Worn through 1 in Worn through',
      'Sheet, Abandoned_2 0; not yet colored - in Salt-worn and Worn through',
    ],
  ]);
  // Where nothing differs in a variant, its mesh is the default's.
  const [only] = kit.variants;
  const same = { ...kit, variants: [{ ...only!, fills: {} }], models: [items[0]!.model], placements: placements.slice(0, 2) };
  const alike = tops(await opened(await writeScene(same, [{ ...items[0]!, patches: byId() }])));
  expect(alike[0]!.getMesh()).toBe(alike[1]!.getMesh());
});

it('keeps what moves of two models apart, shares a skin of two bodies, and instances only what is still', async () => {
  const rigged = skinnedDocument();
  const [board] = rigged.getRoot().listNodes() as [Node];
  const second = rigged.createNode('second').setMesh(board.getMesh()!.clone()).setSkin(board.getSkin());
  rigged.getRoot().getDefaultScene()!.addChild(rigged.createNode('holder').addChild(second));
  const still = gridDocument(1);
  still
    .getRoot()
    .getDefaultScene()!
    .addChild(still.createNode('mark').addChild(still.createNode('deep')));
  const turning = gridDocument(1);
  const hub = turning.createNode('hub');
  turning.getRoot().getDefaultScene()!.addChild(turning.createNode('pole').addChild(hub));
  movement(turning, hub, 'translation', 'bobbing', 3);
  const items: ExportModel[] = [];
  let kit: Kit | null = null;
  for (const [id, document] of Object.entries({ rigged, still, turning })) {
    const bytes = await new WebIO().writeBinary(document);
    const { mesh } = await readModel({ name: 'a.glb', bytes }, [], { mendQuads: false });
    const around = kitAround(mesh, bytes, () => 1);
    kit ??= around.kit;
    items.push({ ...around.item, model: { ...around.item.model, id, name: id, sheet: kit.sheets[0]!.id } });
  }
  const placements = ['rigged', 'still', 'turning'].flatMap((id) => [stand(`${id} 1`, id), stand(`${id} 2`, id)]);
  const glb = await writeScene({ ...kit!, models: items.map((i) => i.model), placements }, items, { instanced: true, meshes: 'shared' });
  const root = await opened(glb);
  expect(tops(root).map((n) => n.getName())).toEqual([
    ...['rigged 1', 'rigged 1, Jetty', 'rigged 1, second', 'rigged 2', 'rigged 2, Jetty', 'rigged 2, second'],
    ...['still, default', 'turning 1', 'turning 2'],
  ]);
  expect(root.listAnimations().map((a) => a.getName())).toEqual([
    'rigged 1, nod',
    'rigged 2, nod',
    'turning 1, bobbing',
    'turning 2, bobbing',
  ]);
  expect(root.listSkins()).toHaveLength(2);
  const skinOf = (name: string) => named(root, name)[0]!.getSkin();
  expect([skinOf('rigged 1, Jetty') === skinOf('rigged 1, second'), skinOf('rigged 1, Jetty') === skinOf('rigged 2, Jetty')]).toEqual([
    true,
    false,
  ]);
});

/** A GLB of JSON alone. */
function glbOf(json: unknown): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(json));
  const out = new Uint8Array(20 + text.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, 0x46546c67, true);
  view.setUint32(4, 2, true);
  view.setUint32(12, text.length, true);
  view.setUint32(16, 0x4e4f534a, true);
  out.set(text, 20);
  return out;
}
const stage = { kit: 'Skerry', cues: [] };
const says = (more: object) => ({ name: 'a', extras: { model: 'Jetty', coloring: 'default' }, ...more });
const file = (nodes: unknown, more: object = {}) => glbOf({ scene: 0, scenes: [{ nodes: [0], extras: { stage } }], nodes, ...more });
const read = (nodes: unknown, more: object = {}) =>
  stageInGlb('a.glb', file(nodes, more)) as { kit: string; placements: Record<string, unknown>[] };
const standing = (more: object) => read([says(more)]).placements;

it('reads where each node stands, by matrix or by move, turn and size, also below others', () => {
  const placed = { name: 'a', model: 'Jetty', coloring: 'default' };
  expect(standing({})).toEqual([{ ...placed, at: [0, 0, 0], turn: 0, scale: 1 }]);
  expect(standing({ translation: [1.23456, -2, 3], scale: [2, 2, 2] })).toEqual([{ ...placed, at: [1.235, -2, 3], turn: 0, scale: 2 }]);
  const [c, s] = [Math.cos(0.3), Math.sin(0.3)];
  const matrix = [2 * c, 0, -2 * s, 0, 0, 2, 0, 0, 2 * s, 0, 2 * c, 0, 7, 8, 9, 1];
  expect(standing({ matrix, translation: [50, 0, 0] })).toEqual([{ ...placed, at: [7, 8, 9], turn: 17.19, scale: 2 }]);
  expect(standing({ rotation: [0, -Math.SQRT1_2, 0, Math.SQRT1_2] })[0]!.turn).toBe(270);
  expect(standing({ rotation: [0, -1e-6, 0, 1] })[0]!.turn).toBe(0);
  const nested = read([
    { children: [1, 2], translation: [10, 0, 0] },
    says({ translation: [0, 1, 0] }),
    { children: [3] },
    says({ name: 'b' }),
  ]);
  expect(nested.placements.map((p) => [p.name, p.at])).toEqual([['a', [10, 1, 0]], ['b', [10, 0, 0]]]); // prettier-ignore
  // What stands there is not looked into, and what says half of it is none.
  expect(standing({ children: [0] })).toHaveLength(1);
  expect(read([{ extras: { model: 'Jetty' } }]).placements).toEqual([]);
  expect(read([{ extras: { coloring: 'default' } }]).placements).toEqual([]);
  expect(read([{ extras: { placements: [{ name: 'x' }, { name: 'y' }] } }]).placements).toEqual([{ name: 'x' }, { name: 'y' }]);
  expect(read([], { scenes: [{ extras: { stage } }] })).toEqual({ ...stage, placements: [] });
  expect(read([{}, says({})], { scene: 1, scenes: [{ nodes: [0] }, { nodes: [1], extras: { stage } }] }).placements).toHaveLength(1);
  expect(read([says({})], { scene: undefined }).placements).toHaveLength(1);
});

it('refuses what is tilted, stretched or mirrored by more than a thousandth of its size, in each direction', () => {
  const still = [3, 0, 0, 0, 0, 3, 0, 0, 0, 0, 3, 0, 0, 0, 0, 1];
  const bent = (at: number, by: number) => () => standing({ matrix: still.map((v, i) => (i === at ? v + by : v)) });
  for (const at of [0, 1, 2, 4, 5, 6, 8, 9, 10]) {
    expect(bent(at, 0.0025), String(at)).not.toThrow();
    expect(bent(at, 0.02), String(at)).toThrow('a.glb: “a” is tilted, stretched or mirrored.');
    expect(bent(at, -0.02), String(at)).toThrow('mirrored');
  }
  expect(() => standing({ scale: [1, 1, -1] })).toThrow('mirrored');
  expect(() => standing({ scale: [1, -1, 1] })).toThrow('mirrored');
  expect(() => standing({ rotation: [0.1, 0, 0, 0.995] })).toThrow('tilted');
});

it('refuses what is no stage, and nodes that stand nowhere, hang too deep or are not there', () => {
  const nowhere = 'a.glb: a node stands nowhere.';
  for (const bad of [
    { matrix: [1] },
    { matrix: 'x' },
    { translation: [1, 2, null] },
    { translation: [1, 2, 3, 4] },
    { rotation: [0, 0, 0] },
    { scale: {} },
  ])
    expect(() => standing(bad)).toThrow(nowhere);
  const chain = (length: number) => Array.from({ length }, (_, i) => (i + 1 < length ? { children: [i + 1] } : says({})));
  expect(read(chain(limits.nodeDepth + 1)).placements).toHaveLength(1);
  expect(() => read(chain(limits.nodeDepth + 2))).toThrow('a.glb: its nodes do not fit together.');
  for (const children of [[7], ['0'], [-1]]) expect(() => read([{ children }])).toThrow('its nodes do not fit together.');
  const many = (count: number) => [{ extras: { placements: Array.from({ length: count }, () => ({})) } }];
  expect(read(many(limits.nodes)).placements).toHaveLength(limits.nodes);
  expect(() => read(many(limits.nodes + 1))).toThrow('placements');
  for (const json of [
    null,
    3,
    [],
    {},
    { scenes: 3 },
    { scenes: [{}] },
    { scenes: [{ extras: { stage: null } }] },
    { scenes: [{ extras: { stage: 'x' } }] },
  ])
    expect(() => stageInGlb('a.glb', glbOf(json)), JSON.stringify(json)).toThrow('a.glb: it holds no stage.');
  expect(() => read('x')).toThrow('do not fit together');
  const whole = file([says({})]);
  const other = (at: number, bytes = whole.slice()) => {
    bytes[at] = 1;
    return () => stageInGlb('a.glb', bytes);
  };
  expect(other(0)).toThrow('it is no GLB of the second version.');
  expect(other(16)).toThrow('it is no GLB of the second version.');
  expect(() => stageInGlb('a.glb', whole.slice(0, 19))).toThrow('it is no GLB');
  expect(() => stageInGlb('a.glb', whole.slice(0, 20))).toThrow('it is cut short');
  expect(() => stageInGlb('a.glb', whole.slice(0, whole.length - 1))).toThrow('it is cut short');
  // Further parts of the file are not looked at.
  expect(() => stageInGlb('a.glb', new Uint8Array([...whole, 1, 2, 3]))).not.toThrow();
});
