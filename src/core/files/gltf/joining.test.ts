import { Document, type Node, type Primitive, type Scene } from '@gltf-transform/core';
import { KHRLightsPunctual, KHRMaterialsVariants, KHRMaterialsVolume } from '@gltf-transform/extensions';
import { beforeEach, expect, it } from 'vitest';
import { createAccessor, type Numbers } from './accessor';
import { joinMeshes } from './joinMeshes';

let document: Document;
let scene: Scene;
beforeEach(() => {
  document = new Document();
  scene = document.createScene('Skerry');
  document.getRoot().setDefaultScene(scene);
});

const corner = [0, 0, 0, 1, 0, 0, 0, 1, 0];
type Attribute = [type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: Numbers, normalized?: boolean];
const positions = (...numbers: number[]): { POSITION: Attribute } => ({ POSITION: ['VEC3', Float32Array.from(numbers)] });
function primitive(attributes: Record<string, Attribute>, index = [0, 1, 2]): Primitive {
  const made = document.createPrimitive().setIndices(createAccessor(document, 'SCALAR', Uint16Array.from(index)));
  for (const [name, [type, array, isNormalized = false]] of Object.entries(attributes))
    made.setAttribute(name, createAccessor(document, type, array).setNormalized(isNormalized));
  return made;
}
function node(name: string, ...primitives: Primitive[]): Node {
  const mesh = document.createMesh(`${name} mesh`);
  for (const p of primitives) mesh.addPrimitive(p);
  const made = document.createNode(name).setMesh(mesh);
  scene.addChild(made);
  return made;
}
const join = (top: Scene | Node = scene) => joinMeshes(document, document.getRoot().listNodes(), top, 'Hut');
const names = (nodes = document.getRoot().listNodes()) => nodes.map((n) => n.getName());
const found = (name: string) =>
  document
    .getRoot()
    .listNodes()
    .find((n) => n.getName() === name)!;
const primitivesOf = (name: string) => found(name).getMesh()!.listPrimitives();
const array = (p: Primitive, name: string) => p.getAttribute(name)!.getArray()!;
const rounded = (p: Primitive, name: string) => Array.from(array(p, name), (v) => Math.round(v * 1e5) / 1e5 + 0);
const index = (p: Primitive) => [...p.getIndices()!.getArray()!];
const moves = (target: Node, path: 'translation' | 'weights' = 'translation') => {
  const sampler = document.createAnimationSampler();
  const channel = document.createAnimationChannel().setTargetNode(target).setTargetPath(path).setSampler(sampler);
  document.createAnimation('turn').addSampler(sampler).addChannel(channel);
};

it('moves what is joined, turns mirrored triangles over, and their normals and tangents with them', () => {
  const all = (): Record<string, Attribute> => ({
    ...positions(...corner),
    NORMAL: ['VEC3', Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0.6, 0.8)],
    TANGENT: ['VEC4', Float32Array.of(1, 0, 0, 1, 1, 0, 0, 1, 0, 1, 0, -1)],
    TEXCOORD_0: ['VEC2', Float32Array.of(0, 0, 1, 0, 0, 1)],
  });
  node('still', primitive(all()));
  node('mirrored', primitive(all())).setTranslation([10, 0, 0]).setScale([-2, 1, 1]);
  document.createNode('nothing');
  join();
  // What has no mesh is not looked at.
  expect([names(), names(scene.listChildren())]).toEqual([['nothing', 'Hut'], ['Hut']]);
  const [p, ...others] = primitivesOf('Hut');
  expect([found('Hut').getMesh()!.getName(), others, index(p!)]).toEqual(['Hut', [], [0, 1, 2, 3, 4, 5]]);
  expect(rounded(p!, 'POSITION')).toEqual([...corner, 10, 0, 0, 10, 1, 0, 8, 0, 0]);
  const s = Math.hypot(1.2, 1.6);
  expect(rounded(p!, 'NORMAL')).toEqual([0, 0, 1, 0, 0, 1, 0, 0.6, 0.8, 0, 0, 1, 0, 1.2 / s, 1.6 / s, 0, 0, 1]);
  expect(rounded(p!, 'TANGENT')).toEqual([1, 0, 0, 1, 1, 0, 0, 1, 0, 1, 0, -1, -1, 0, 0, -1, 0, 1, 0, 1, -1, 0, 0, -1]);
  expect(rounded(p!, 'TEXCOORD_0')).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 0, 1, 1, 0]);
});

it('welds what is equal, leaves behind what no triangle uses, and keeps order', () => {
  node('a', primitive(positions(9, 9, 9, ...corner, 0, 0, 0), [1, 2, 3, 4, 3, 2]));
  node('b', primitive(positions(...corner), [2, 0, 1]));
  join();
  const [p] = primitivesOf('Hut');
  expect([index(p!), rounded(p!, 'POSITION')]).toEqual([[0, 1, 2, 0, 2, 1, 2, 0, 1], corner]);
  expect(p!.getIndices()!.getArray()!.constructor.name).toBe('Uint16Array');
});

it('keeps the kind of numbers where it is one and nothing moves them, else makes floats, of joints 16 bits', () => {
  const colored = (color: Attribute, age: Attribute) => primitive({ ...positions(...corner), COLOR_0: color, _AGE: age });
  const bytes = (isNormalized: boolean): Attribute => ['VEC4', Uint8Array.of(255, 0, 51, 255, 0, 0, 0, 0, 1, 2, 3, 4), isNormalized];
  const ages: Attribute = ['SCALAR', Uint8Array.of(1, 2, 3)];
  const kinds = (first: Attribute, second: Attribute) => {
    document = new Document();
    scene = document.createScene('Skerry');
    document.getRoot().setDefaultScene(scene);
    node('a', colored(first, ages));
    node('b', colored(second, ['SCALAR', Uint8Array.of(4, 5, 6)])).setTranslation([3, 0, 0]);
    join();
    const [p] = primitivesOf('Hut');
    const color = p!.getAttribute('COLOR_0')!;
    return [color.getArray()!.constructor.name, color.getNormalized(), rounded(p!, 'COLOR_0').slice(0, 4), [...array(p!, '_AGE')]];
  };
  expect(kinds(bytes(true), bytes(true))).toEqual(['Uint8Array', true, [255, 0, 51, 255], [1, 2, 3, 4, 5, 6]]);
  expect(kinds(bytes(false), bytes(false))).toEqual(['Uint8Array', false, [255, 0, 51, 255], [1, 2, 3, 4, 5, 6]]);
  expect(kinds(bytes(true), ['VEC4', new Uint16Array(12), true])).toEqual(['Float32Array', false, [1, 0, 0.2, 1], [1, 2, 3, 4, 5, 6]]);
  expect(kinds(bytes(true), bytes(false))).toEqual(['Float32Array', false, [1, 0, 0.2, 1], [1, 2, 3, 4, 5, 6]]);
});

it('of one skin stays where it is in the numbers that it has, with points of the node that stays', () => {
  const skin = document.createSkin('rig').addJoint(document.createNode('bone'));
  const board = (joints: Numbers, x: number) =>
    primitive({
      POSITION: ['VEC3', Int16Array.from(corner, (v, i) => (i % 3 ? v * 100 : v * 100 + x)), true],
      JOINTS_0: ['VEC4', joints],
      WEIGHTS_0: ['VEC4', Float32Array.from({ length: 12 }, (_, i) => (i % 4 ? 0 : 1))],
    });
  const points = () => primitive(positions(5, 5, 5), [0]).setMode(0);
  node('first', board(Uint8Array.from({ length: 12 }, () => 1), 0), points()).setSkin(skin); // prettier-ignore
  node('second', board(Uint16Array.from({ length: 12 }, () => 2), 7), points()).setSkin(skin).setTranslation([50, 0, 0]); // prettier-ignore
  node('third', board(new Uint16Array(12), 9)).setSkin(skin);
  join();
  expect(names()).toEqual(['bone', 'first', 'second']);
  const [dots, p, ...others] = primitivesOf('first');
  expect([dots!.getMode(), p!.getMode(), others, found('first').getSkin()]).toEqual([0, 4, [], skin]);
  const own = p!.getAttribute('POSITION')!;
  expect([own.getArray()!.constructor.name, own.getNormalized(), [...own.getArray()!].filter((_, i) => i % 9 === 0)]).toEqual([
    'Int16Array',
    true,
    [0, 7, 9],
  ]);
  expect([array(p!, 'JOINTS_0').constructor.name, [...array(p!, 'JOINTS_0')].filter((_, i) => i % 12 === 0)]).toEqual([
    'Uint16Array',
    [1, 2, 0],
  ]);
  // The points of the second stay its own, where they were.
  expect([primitivesOf('second').map((q) => q.getMode()), found('second').getMesh()!.getName(), found('second').getSkin()]).toEqual([
    [0],
    'second',
    skin,
  ]);
});

it('hangs under what moves it, seen from there, and goes on sharing a mesh that moves apart', () => {
  const wheel = node('wheel', primitive(positions(...corner)))
    .setTranslation([0, 5, 0])
    .setScale([2, 2, 2]);
  const lamp = node('lamp', primitive(positions(...corner))).setTranslation([1, 0, 0]);
  wheel.addChild(document.createNode('pole').setTranslation([0, 0, 3]).addChild(lamp));
  const twins = [node('left'), node('right')].map((n) =>
    n.setMesh(document.createMesh('twin').addPrimitive(primitive(positions(...corner)))),
  );
  twins[1]!.setMesh(twins[0]!.getMesh());
  const before = twins[0]!.getMesh();
  for (const n of [wheel, ...twins]) moves(n);
  join();
  const hut = found('Hut');
  expect([hut.getParentNode(), found('wheel').getMesh(), names()]).toEqual([wheel, null, ['wheel', 'left', 'right', 'Hut']]);
  expect(rounded(primitivesOf('Hut')[0]!, 'POSITION')).toEqual([...corner, 1, 0, 3, 2, 0, 3, 1, 1, 3]);
  expect([twins[0]!.getMesh() === twins[1]!.getMesh(), twins[0]!.getMesh() === before]).toEqual([true, false]);
});

it('leaves no empty node behind, and none away that has something to say', () => {
  const empty = (name: string) => node(name, primitive(positions(...corner)));
  const alone = empty('alone');
  const holder = document.createNode('holder').addChild(document.createNode('inner').addChild(empty('deep')));
  scene.addChild(holder);
  empty('seeing').setCamera(document.createCamera());
  empty('saying').setExtras({ keeper: 'yes' });
  empty('holding').addChild(document.createNode('mark'));
  empty('extended').setExtension('KHR_lights_punctual', document.createExtension(KHRLightsPunctual).createLight());
  const aimed = empty('aimed');
  moves(aimed, 'weights');
  join();
  expect(alone.isDisposed() && holder.isDisposed()).toBe(true);
  expect(names().sort()).toEqual(['Hut', 'aimed', 'extended', 'holding', 'mark', 'saying', 'seeing']);
  expect(document.getRoot().listNodes().filter((n) => n.getMesh()).map((n) => n.getName())).toEqual(['Hut']); // prettier-ignore
  expect(primitivesOf('Hut')).toHaveLength(1);
});

it('is a primitive for each material, layout and change of material by variant, and for each volume', () => {
  const [iron, glass] = [document.createMaterial('iron'), document.createMaterial('glass')];
  glass.setExtension('KHR_materials_volume', document.createExtension(KHRMaterialsVolume).createVolume());
  const of = (material: typeof iron | null, more: Record<string, Attribute> = {}) =>
    primitive({ ...positions(...corner), ...more }).setMaterial(material);
  const uv: Record<string, Attribute> = { TEXCOORD_0: ['VEC2', new Float32Array(6)] };
  const extension = document.createExtension(KHRMaterialsVariants);
  const variant = extension.createVariant('worn');
  const worn = (material: typeof iron) => {
    const made = of(iron);
    const mapping = extension.createMapping().setMaterial(material).addVariant(variant);
    return made.setExtension('KHR_materials_variants', extension.createMappingList().addMapping(mapping));
  };
  node('a', of(iron), of(iron, uv), of(glass), of(null), worn(glass), worn(iron));
  node('b', of(iron), of(iron, uv), of(glass), of(null), worn(glass), of(iron).setMode(1));
  join();
  const made = primitivesOf('Hut').map((p) => [p.getMaterial()?.getName() ?? 'none', index(p).length / 3, p.listSemantics().length]);
  expect(made).toEqual([
    ['iron', 2, 1],
    ['iron', 2, 2],
    ['iron', 2, 1],
    ['iron', 1, 1],
    ['glass', 1, 1],
    ['glass', 1, 1],
    ['none', 2, 1],
  ]);
  // Lines of a node that is left stay there.
  expect([names(), primitivesOf('b').map((p) => p.getMode()), found('b').getMesh()!.getName()]).toEqual([['b', 'Hut'], [1], 'b']);
});

it('keeps morph targets of what stays alone, welded with them', () => {
  const p = primitive(positions(...corner, ...corner), [0, 1, 2, 3, 4, 5]);
  const target = document.createPrimitiveTarget('swell').setAttribute(
    'POSITION',
    createAccessor(
      document,
      'VEC3',
      Float32Array.from({ length: 18 }, (_, i) => (i === 17 ? 5 : i % 9)),
    ),
  );
  node('a', p.addTarget(target)).getMesh()!.setWeights([0.5]);
  node('b', primitive(positions(...corner)));
  join();
  expect(names()).toEqual(['a', 'b']);
  const [made] = primitivesOf('a');
  const [swell, ...others] = made!.listTargets();
  // The last corner differs in its target alone.
  expect([index(made!), others, swell!.getName(), found('a').getMesh()!.getWeights()]).toEqual([[0, 1, 2, 0, 1, 3], [], 'swell', [0.5]]);
  expect([...swell!.getAttribute('POSITION')!.getArray()!]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 6, 7, 5]);
});

it('leaves alone what is in no scene and what only another scene shows', () => {
  node('wall', primitive(positions(...corner)));
  node('roof', primitive(positions(...corner)));
  const hidden = node('hidden', primitive(positions(...corner)));
  scene.removeChild(hidden);
  // Without an index, as files may have it: it is not even looked at.
  hidden.getMesh()!.listPrimitives()[0]!.setIndices(null);
  const below = node('below', primitive(positions(...corner)));
  scene.removeChild(below);
  document.createScene('Below').addChild(below);
  join();
  expect(names().sort()).toEqual(['Hut', 'below', 'hidden']);
  expect([found('hidden').getMesh() !== null, found('below').getMesh() !== null, names(scene.listChildren())]).toEqual([
    true,
    true,
    ['Hut'],
  ]);
  expect(primitivesOf('Hut').map((p) => p.getIndices()!.getCount())).toEqual([6]);
});
