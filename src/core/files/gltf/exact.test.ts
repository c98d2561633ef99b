import { Document, type Primitive } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { gridDocument, skinnedDocument } from '@tests/samples';
import { byteFromLinear } from '../../ground/color/oklab';
import { createAccessor, setIndices, values } from './accessor';
import { colorNumbers } from './colorNumbers';
import { anchorsOf, coloredSemantics, joinNumbers, layoutOf, movers } from './joinNumbers';
import { cofactor, determinant, identity, inverse, linearPart, multiply, transformDirection, transformPoint } from './matrix';
import { readGltf, trianglesOf } from './readGltf';
import { meshNodes, shownNodes, shownRoots } from './scenes';

const round = (list: ArrayLike<number>) => Array.from(list, (v) => Math.round(v * 1e6) / 1e6 + 0);

describe('matrices', () => {
  // Turned a quarter about Y, sized 2, 3 and 4, and moved: columns as glTF has them.
  const m = [0, 0, -2, 0, 0, 3, 0, 0, 4, 0, 0, 0, 5, 6, 7, 1];
  const skewed = [1, 2, 3, 0, 4, 5, 6, 0, 7, 8, 10, 0, 1, 1, 1, 1];

  it('multiply with the right one first', () => {
    const move = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 10, 20, 30, 1];
    expect(round(multiply(m, move))).toEqual([0, 0, -2, 0, 0, 3, 0, 0, 4, 0, 0, 0, 125, 66, -13, 1]);
    expect(round(multiply(move, m))).toEqual([0, 0, -2, 0, 0, 3, 0, 0, 4, 0, 0, 0, 15, 26, 37, 1]);
    expect(round(multiply(identity, skewed))).toEqual(skewed);
  });

  it('move points from one place of a list to another', () => {
    const to = new Float32Array(5);
    transformPoint(m, [9, 1, 2, 3], 1, to, 2);
    expect([...to]).toEqual([0, 0, 17, 12, 5]);
  });

  it('have inverses and what carries normals', () => {
    expect(round(multiply(m, inverse(m)))).toEqual([...identity]);
    expect(round(multiply(inverse(skewed), skewed))).toEqual([...identity]);
    expect(round(inverse([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 2, 3, 1]))).toEqual([...identity]);
    expect(round(inverse([NaN, ...m.slice(1)]))).toEqual([...identity]);
    expect([determinant(m), determinant(skewed), determinant(identity)]).toEqual([24, -3, 1]);
    // Each column of the cofactors is the product of the two others that follow it.
    expect(round(cofactor(skewed))).toEqual([2, 2, -3, 4, -11, 6, -3, 6, -3]);
    expect(round(linearPart(skewed))).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 10]);
  });

  it('turn directions to unit length, over where asked, and write none without length', () => {
    const to = new Float32Array(5).fill(9);
    transformDirection(linearPart(m), [7, 3, 0, 0], 1, to, 1, 1);
    expect([...to]).toEqual([9, 0, 0, -1, 9]);
    transformDirection(linearPart(skewed), [1, 1, 1], 0, to, 0, -1);
    const length = Math.hypot(12, 15, 19);
    expect(round(to.slice(0, 3))).toEqual(round([-12 / length, -15 / length, -19 / length]));
    for (const none of [
      [0, 0, 0],
      [NaN, 0, 0],
    ]) {
      to.fill(9);
      transformDirection(linearPart(m), none, 0, to, 0, 1);
      expect([...to]).toEqual([9, 9, 9, 9, 9]);
    }
  });
});

describe('numbers of accessors', () => {
  const numbers = (array: Parameters<typeof createAccessor>[2], normalized: boolean) =>
    round(values(createAccessor(new Document(), 'SCALAR', array).setNormalized(normalized)));

  it('are shares of the largest where they are normalized', () => {
    expect(numbers(Uint8Array.of(0, 51, 255), true)).toEqual([0, 0.2, 1]);
    expect(numbers(Uint16Array.of(0, 13107, 65535), true)).toEqual([0, 0.2, 1]);
    expect(numbers(Uint32Array.of(0, 4294967295), true)).toEqual([0, 1]);
    expect(numbers(Int8Array.of(-128, -127, 0, 127), true)).toEqual([-1, -1, 0, 1]);
    expect(numbers(Int16Array.of(-32768, -32767, 32767), true)).toEqual([-1, -1, 1]);
    expect(numbers(Uint8Array.of(0, 51, 255), false)).toEqual([0, 51, 255]);
    const own = Float32Array.of(3, -4);
    expect(values(createAccessor(new Document(), 'SCALAR', own).setNormalized(true))).toBe(own);
  });

  it('of indices have 16 bits up to 65,535 vertices, and one buffer for all', () => {
    const document = new Document();
    const kind = (vertices: number) =>
      setIndices(document, document.createPrimitive(), Uint32Array.of(0, 1, 2), vertices)
        .getIndices()!
        .getArray()!.constructor.name;
    expect([kind(65_535), kind(65_536)]).toEqual(['Uint16Array', 'Uint32Array']);
    expect(document.getRoot().listBuffers()).toHaveLength(1);
  });

  it('of colors have 16 bits, linear or as they are, alpha always as it is', () => {
    const colors = Uint8Array.of(0, 0, 0, 0, 255, 128, 10, 51);
    expect([...colorNumbers(colors, [1, 0], 'srgb')]).toEqual([65535, 32896, 2570, 13107, 0, 0, 0, 0]);
    expect([...colorNumbers(colors, [1], 'linear')]).toEqual([65535, 14146, 199, 13107]);
  });
});

describe('triangles', () => {
  const of = (mode: number, indices: number[] | null, vertices = 0) => {
    const document = new Document();
    const primitive = document.createPrimitive().setMode(mode as 4);
    if (indices) primitive.setIndices(createAccessor(document, 'SCALAR', Uint16Array.from(indices)));
    return [...trianglesOf(primitive, vertices)];
  };

  it('of lists, strips and fans run the same way; what is incomplete or flat goes', () => {
    expect(of(4, [0, 1, 2, 2, 1, 3, 4, 5])).toEqual([0, 1, 2, 2, 1, 3]);
    expect(of(5, [0, 1, 2, 3, 4])).toEqual([0, 1, 2, 2, 1, 3, 2, 3, 4]);
    expect(of(6, [0, 1, 2, 3])).toEqual([0, 1, 2, 0, 2, 3]);
    expect(of(5, [0, 1, 1, 2, 0, 2])).toEqual([1, 2, 0]);
    expect(of(6, [0, 1, 0, 2, 3])).toEqual([0, 2, 3]);
    expect(of(4, null, 7)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(of(5, null, 4)).toEqual([0, 1, 2, 2, 1, 3]);
    for (const mode of [0, 1, 2, 3]) expect(of(mode, [0, 1, 2])).toEqual([]);
    expect(of(5, [0, 1])).toEqual([]);
  });
});

describe('scenes', () => {
  it('show what the default one holds, else all that scenes hold, else what has no parent', () => {
    const document = new Document();
    const node = (name: string) => document.createNode(name).setMesh(document.createMesh(name));
    const [a, b, c, child] = [node('a'), node('b'), node('c'), node('child')];
    a.addChild(child);
    const names = () => [shownRoots(document), [...shownNodes(document)], meshNodes(document)].map((l) => l.map((n) => n.getName()).join());
    expect(names()).toEqual(['a,b,c', 'a,child,b,c', 'a,b,c,child']);
    const [one, two] = [document.createScene('one').addChild(c), document.createScene('two').addChild(a).addChild(c)];
    expect(names()).toEqual(['c,a', 'c,a,child', 'a,c,child']);
    document.getRoot().setDefaultScene(one);
    expect(names()).toEqual(['c', 'c', 'c']);
    document.getRoot().setDefaultScene(two);
    b.setMesh(null);
    a.setMesh(null);
    expect(names()).toEqual(['a,c', 'a,child,c', 'c,child']);
  });
});

describe('what can be joined', () => {
  const rig = () => {
    const document = skinnedDocument();
    const root = document.getRoot();
    const [board, bone, tip, idle] = root.listNodes() as [never, never, never, never] as unknown as ReturnType<typeof root.listNodes>;
    const scene = root.getDefaultScene()!;
    const plain = (name: string) => {
      const primitive = board!.getMesh()!.listPrimitives()[0]!.clone();
      return document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
    };
    return { document, scene, plain, board: board!, bone: bone!, tip: tip!, idle: idle! };
  };

  it('moves by itself where it is a joint, or where an animation moves it and not only its shape', () => {
    const { document, scene, plain, bone, tip, idle } = rig();
    const [turning, swelling] = [plain('turning'), plain('swelling')];
    scene.addChild(turning).addChild(swelling);
    const animation = document.createAnimation('both');
    animation.addChannel(document.createAnimationChannel().setTargetNode(turning).setTargetPath('scale'));
    animation.addChannel(document.createAnimationChannel().setTargetNode(swelling).setTargetPath('weights'));
    animation.addChannel(document.createAnimationChannel().setTargetPath('scale'));
    expect(movers(document)).toEqual(new Set([bone, idle, tip, turning]));
    expect([...movers(document)].map((n) => n.getName()).sort()).toEqual(['idle', 'root', 'tip', 'turning']);
  });

  it('is what one mover carries, what has one skin, and nothing that morphs, is instanced or shown elsewhere', () => {
    const { document, scene, plain, board, tip } = rig();
    const [still, besides, held, deep, morphing, elsewhere] = ['still', 'besides', 'held', 'deep', 'morphing', 'elsewhere'].map(plain) as [
      ReturnType<typeof plain>,
      ReturnType<typeof plain>,
      ReturnType<typeof plain>,
      ReturnType<typeof plain>,
      ReturnType<typeof plain>,
      ReturnType<typeof plain>,
    ];
    scene.addChild(still).addChild(besides).addChild(morphing).addChild(elsewhere);
    tip.addChild(held.addChild(deep));
    morphing.getMesh()!.listPrimitives()[0]!.addTarget(document.createPrimitiveTarget('swell'));
    document.createScene('other').addChild(elsewhere);
    const anchor = anchorsOf(document);
    const keys = [still, besides, held, deep, board, morphing, elsewhere].map((n) => anchor(n).key);
    expect(new Set(keys).size).toBe(5);
    expect([keys[0], keys[1] === keys[0], keys[3] === keys[2]]).toEqual(['top', true, true]);
    expect([anchor(held).under, anchor(deep).under, anchor(still).under, anchor(board).under]).toEqual([tip, tip, null, null]);
    expect([keys[4], keys[5], keys[6]].map((k) => k!.split(' ')[0])).toEqual(['skin', 'node', 'node']);
    const number = joinNumbers(document);
    const of = (n: typeof still) => number(n, n.getMesh()!.listPrimitives()[0]!);
    expect(of(still)).toEqual(of(besides));
    expect(of(still).colored).not.toBe(of(held).colored);
    expect(of(still).bare).not.toBe(of(held).bare);
  });

  it('has attributes of equal width, in any order; those that stay on a cell alone where it is colored', () => {
    const document = new Document();
    const part = (semantics: [string, 'VEC2' | 'VEC3' | 'VEC4'][], targets: string[][] = []): Primitive => {
      const primitive = document.createPrimitive();
      for (const [name, type] of semantics) primitive.setAttribute(name, createAccessor(document, type, new Float32Array(4)));
      for (const names of targets) {
        const target = document.createPrimitiveTarget();
        for (const name of names) target.setAttribute(name, createAccessor(document, 'VEC3', new Float32Array(3)));
        primitive.addTarget(target);
      }
      return primitive;
    };
    const layout = (p: Primitive) => layoutOf(p, p.listSemantics());
    const one = part([
      ['POSITION', 'VEC3'],
      ['NORMAL', 'VEC3'],
      ['COLOR_0', 'VEC4'],
    ]);
    expect(layout(one)).toBe('COLOR_04 NORMAL3 POSITION3');
    expect(layout(part([['POSITION', 'VEC3']], [['POSITION', 'NORMAL'], ['POSITION']]))).toBe('POSITION3 NORMAL+POSITION POSITION');
    expect(
      coloredSemantics(
        part(
          ['POSITION', 'NORMAL', 'TANGENT', 'TEXCOORD_0', 'COLOR_0', 'JOINTS_0', 'WEIGHTS_12', '_AGE', 'X_POSITION'].map((n) => [
            n,
            'VEC4',
          ]),
        ),
      ),
    ).toEqual(['POSITION', 'NORMAL', 'JOINTS_0', 'WEIGHTS_12', '_AGE']);
    const mesh = (p: Primitive) => document.createNode().setMesh(document.createMesh().addPrimitive(p));
    const number = joinNumbers(document);
    const [plain, colored] = [
      part([['POSITION', 'VEC3']]),
      part([
        ['POSITION', 'VEC3'],
        ['COLOR_0', 'VEC4'],
      ]),
    ];
    const [p, c] = [number(mesh(plain), plain), number(mesh(colored), colored)];
    expect([p.colored === c.colored, p.bare === c.bare]).toEqual([true, false]);
  });
});

describe('reading', () => {
  it('tells colors, pictures, sides and opacity of materials, and one more for what has none', async () => {
    const document = gridDocument(1);
    const root = document.getRoot();
    const picture = document.createTexture('').setURI('rust.png').setMimeType('image/png').setImage(new Uint8Array(4));
    const glass = document.createMaterial('').setBaseColorFactor([1, 0.2158605, 0, 0.25]).setAlphaMode('BLEND').setDoubleSided(true);
    document.createMaterial('full').setAlphaMode('BLEND').setBaseColorTexture(picture);
    document.createMaterial('cut').setAlphaMode('MASK').setBaseColorFactor([0, 0, 0, 0.5]).setBaseColorTexture(document.createTexture(''));
    const [first] = root.listMeshes()[0]!.listPrimitives();
    root.listMeshes()[0]!.addPrimitive(first!.clone().setMaterial(glass)).addPrimitive(first!.clone().setMaterial(null));
    const mesh = readGltf('a', document);
    expect(mesh.slots).toEqual([
      { name: 'tar', color: '#597c95', given: true, material: 0 },
      { name: 'material 2', color: '#ff8000', given: true, material: 1, doubleSided: true, alpha: 0.25 },
      { name: 'full', color: '#ffffff', given: true, material: 2, picture: 'rust.png' },
      { name: 'cut', color: '#000000', given: true, material: 3, picture: 'picture 4' },
      { name: 'no material', color: '#c8c8c8', given: false, none: true },
    ]);
    expect([[...mesh.faceSlot], [...mesh.source!.facePrimitive!]]).toEqual([
      [0, 0, 1, 1, 4, 4],
      [0, 0, 1, 1, 2, 2],
    ]);
  });

  it('names objects by node, mesh or number, counts other draws, and tells how far it is', () => {
    const document = gridDocument(1);
    const root = document.getRoot();
    const [node] = root.listNodes();
    const mesh = node!.setName('').getMesh()!;
    const twin = document.createNode('').setMesh(mesh.clone().setName(''));
    const points = mesh.listPrimitives()[0]!.clone().setMode(0);
    mesh.addPrimitive(points);
    root.getDefaultScene()!.addChild(twin);
    const told: number[] = [];
    const read = readGltf('a', document, { onProgress: (share) => void told.push(share) });
    expect([read.objects, [...read.faceObject], read.source!.otherDraws, told]).toEqual([
      ['boards', 'object 2'],
      [0, 0, 1, 1],
      1,
      [0, 0.5],
    ]);
    expect('otherDraws' in readGltf('a', gridDocument(1)).source!).toBe(false);
    mesh.listPrimitives()[0]!.setMode(1);
    twin.dispose();
    expect(() => readGltf('a.glb', document)).toThrow('a.glb: it holds no triangles.');
  });

  it('gives each corner its normal, color and UVs, in the order of a mirrored triangle, too', () => {
    const document = gridDocument(1, (x) => x);
    const [node] = document.getRoot().listNodes();
    const primitive = node!.getMesh()!.listPrimitives()[0]!;
    primitive.setAttribute(
      'COLOR_0',
      createAccessor(
        document,
        'VEC4',
        Float32Array.from({ length: 16 }, (_, i) => (i % 4 === 3 ? i / 15 : i / 20)),
      ),
    );
    primitive.setAttribute('TEXCOORD_1', createAccessor(document, 'VEC2', Float32Array.of(0, 1, 2, 3, 4, 5, 6, 7)));
    const still = readGltf('a', document);
    node!.setScale([-1, 1, 1]);
    const mirrored = readGltf('a', document);
    expect([[...still.cornerVertex], [...mirrored.cornerVertex]].map(String)).toEqual(
      [still.source!.cornerVertex!, mirrored.source!.cornerVertex!].map((c) => [...c].join()),
    );
    const [s, m] = [[...still.cornerVertex], [...mirrored.cornerVertex]];
    expect(m).toEqual([s[0], s[2], s[1], s[3], s[5], s[4]]);
    s.forEach((v, c) => {
      expect([...still.uvSets[1]!.slice(c * 2, c * 2 + 2)]).toEqual([v * 2, v * 2 + 1]);
      expect(still.cornerColors![c * 4 + 3]).toBe(Math.round(((v * 4 + 3) / 15) * 255));
    });
    m.forEach((v, c) => expect([...mirrored.uvSets[1]!.slice(c * 2, c * 2 + 2)]).toEqual([v * 2, v * 2 + 1]));
    expect([mirrored.source!.primitives![0]!.mirrored, still.source!.primitives![0]!.mirrored]).toEqual([true, false]);
    expect([...mirrored.positions].map((v, i) => (i % 3 ? v : -v) + 0)).toEqual([...still.positions].map((v) => v + 0));
    expect([...still.cornerNormals!.slice(0, 3), ...mirrored.cornerNormals!.slice(0, 3)].map((v) => v + 0)).toEqual([0, 1, 0, 0, 1, 0]);
  });

  it('bends what is skinned as its joints stand, by shares of their weights; without weights it stands with its node', () => {
    const bent = (bind: number[][] | null, joints: number[][], weights: number[][], isBound = true) => {
      const document = new Document();
      const [a, b] = [document.createNode('a').setTranslation([10, 0, 0]), document.createNode('b').setScale([2, 2, 2])];
      const flat = (list: number[][]) => [0, 1, 2].flatMap((v) => list[v % list.length]!);
      const primitive = document
        .createPrimitive()
        .setAttribute('POSITION', createAccessor(document, 'VEC3', Float32Array.from(flat([[1, 2, 3]]))))
        .setAttribute('JOINTS_0', createAccessor(document, 'VEC4', Uint8Array.from(flat(joints))))
        .setAttribute('WEIGHTS_0', createAccessor(document, 'VEC4', Float32Array.from(flat(weights))));
      const skin = document.createSkin().addJoint(a).addJoint(b);
      const array = Float32Array.from(bind?.flat() ?? []);
      if (bind) skin.setInverseBindMatrices(createAccessor(document, 'VEC4', array).setType('MAT4'));
      const node = document.createNode().setMesh(document.createMesh().addPrimitive(primitive)).setTranslation([0, 100, 0]);
      if (isBound) node.setSkin(skin);
      document.createScene().addChild(node).addChild(a).addChild(b);
      return round(readGltf('a', document).positions.slice(0, 9));
    };
    const back = (x: number, y: number) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, 0, 1];
    const both = [back(-1, 0), back(0, 1)];
    const joints = [[0, 1, 0, 0]];
    const weights = [[1, 0, 0, 0], [0.25, 0.25, 0, 0], [0, 0, 0, 0]]; // prettier-ignore
    expect(bent(both, joints, weights)).toEqual([10, 2, 3, 6, 4, 4.5, 1, 102, 3]);
    expect(bent(both, [[0, 0, 0, 1]], [[0, 0, 0, 1]])).toEqual([2, 6, 6, 2, 6, 6, 2, 6, 6]);
    expect(bent(both, joints, weights, false)).toEqual([1, 102, 3, 1, 102, 3, 1, 102, 3]);
    expect(bent(null, joints, weights).slice(0, 6)).toEqual([11, 2, 3, 6.5, 3, 4.5]);
    // Too few matrices: what has none stands as its joint does.
    expect(bent([back(-1, 0)], joints, weights).slice(0, 6)).toEqual([10, 2, 3, 6, 3, 4.5]);
    // What no joint is named for counts for nothing.
    expect(bent(both, [[0, 7, 0, 0]], [[0.25, 0.75, 0, 0]]).slice(0, 3)).toEqual([10, 2, 3]);
  });

  it('reads what one piece has and another has not: normals, colors, UV sets, and passes over what does not fit', () => {
    const document = gridDocument(1);
    const [node] = document.getRoot().listNodes();
    const primitive = node!.getMesh()!.listPrimitives()[0]!;
    const bare = document.createPrimitive().setAttribute('POSITION', primitive.getAttribute('POSITION')).setIndices(primitive.getIndices());
    node!.getMesh()!.addPrimitive(bare);
    primitive.setAttribute(
      'COLOR_0',
      createAccessor(
        document,
        'VEC3',
        Uint8Array.from({ length: 12 }, (_, i) => i),
      ).setNormalized(true),
    );
    const mesh = readGltf('a', document);
    expect([mesh.uvSets.length, mesh.cornerNormals!.length, mesh.cornerColors!.length]).toEqual([1, 36, 48]);
    expect([[...mesh.cornerNormals!.slice(18)].every((v) => v === 0), [...mesh.cornerColors!.slice(24)].every((v) => v === 255)]).toEqual([
      true,
      true,
    ]);
    const [v] = mesh.source!.cornerVertex!;
    // Colors are linear in the file.
    expect([...mesh.cornerColors!.slice(0, 4)]).toEqual([...[0, 1, 2].map((k) => byteFromLinear((v! * 3 + k) / 255)), 255]);
    expect([...mesh.cornerVertex.slice(6)].map((i) => i - 4)).toEqual([...mesh.cornerVertex.slice(0, 6)]);
    // Of another length than the places, or of another width.
    primitive.setAttribute('COLOR_0', createAccessor(document, 'VEC3', new Float32Array(9)));
    primitive.setAttribute('NORMAL', createAccessor(document, 'VEC3', Float32Array.of(1, 0, 0)));
    primitive.setAttribute(
      'TEXCOORD_0',
      createAccessor(
        document,
        'VEC3',
        Float32Array.from({ length: 12 }, () => 1),
      ),
    );
    const odd = readGltf('a', document);
    expect([
      odd.cornerColors!.every((c) => c === 255),
      odd.cornerNormals!.every((n) => n === 0),
      odd.uvSets[0]!.every((c) => c === 0),
    ]).toEqual([true, true, true]);
    primitive.setAttribute('POSITION', createAccessor(document, 'VEC2', new Float32Array(8)));
    expect(readGltf('a', document).source!.otherDraws).toBe(1);
  });

  it('refuses a triangle of a vertex that is not there', () => {
    const document = gridDocument(1);
    const primitive = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!;
    primitive.getIndices()!.setArray(Uint16Array.of(0, 1, 3));
    expect(readGltf('a', document).faceSlot).toHaveLength(1);
    primitive.getIndices()!.setArray(Uint16Array.of(0, 1, 4));
    expect(() => readGltf('a', document)).toThrow('a, mesh 0, primitive 0: a triangle uses vertex 4, but there are 4.');
  });
});
