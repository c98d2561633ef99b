import { Document, WebIO, type Accessor } from '@gltf-transform/core';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import { bytesOf, grid } from './meshes';

/** A glTF document over a grid of quads cut into triangles: indexed, with normals and UVs. `size`: quads a side. */
export function gridDocument(size = 2, height = (x: number, z: number) => (x * z) % 2): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const mesh = grid(size, height);
  const index: number[] = [];
  for (let f = 0; f < size * size; f++) {
    const [a, b, c, d] = mesh.cornerVertex.slice(f * 4, f * 4 + 4) as unknown as [number, number, number, number];
    index.push(a, b, c, a, c, d);
  }
  const count = mesh.positions.length / 3;
  const normal = new Float32Array(count * 3).map((_, i) => (i % 3 === 1 ? 1 : 0));
  const uv = new Float32Array(count * 2).map((_, i) => (i % 7) / 7);
  const accessor = (type: 'SCALAR' | 'VEC2' | 'VEC3', array: Float32Array | Uint16Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setIndices(accessor('SCALAR', Uint16Array.from(index)))
    .setAttribute('POSITION', accessor('VEC3', mesh.positions))
    .setAttribute('NORMAL', accessor('VEC3', normal))
    .setAttribute('TEXCOORD_0', accessor('VEC2', uv))
    .setMaterial(document.createMaterial('tar').setBaseColorFactor([0.1, 0.2, 0.3, 1]));
  const node = document.createNode('Jetty').setMesh(document.createMesh('boards').addPrimitive(primitive));
  document.getRoot().setDefaultScene(document.createScene('Skerry').addChild(node));
  return document;
}

const accessor = (document: Document, type: 'SCALAR' | 'VEC4' | 'MAT4', array: Float32Array | Uint8Array): Accessor =>
  document
    .createAccessor()
    .setType(type)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(document.getRoot().listBuffers()[0]!);

/** A mirrored board over a rig of three joints, one of them idle; the tip nods. */
export function skinnedDocument(): Document {
  const document = gridDocument(2, (x, z) => Math.sin(x * 1.7 + z) / 3);
  const node = document.getRoot().listNodes()[0]!.setScale([-1, 1, 1]);
  const primitive = node.getMesh()!.listPrimitives()[0]!;
  const count = primitive.getAttribute('POSITION')!.getCount();
  const bones = [document.createNode('root').setTranslation([0, 3, 0]), document.createNode('tip').setTranslation([2, 0, 0])] as const;
  document.getRoot().getDefaultScene()!.addChild(bones[0].addChild(bones[1]));
  primitive
    .setAttribute(
      'JOINTS_0',
      accessor(
        document,
        'VEC4',
        new Uint8Array(count * 4).map((_, i) => (i % 4 === 1 ? 2 : 0)),
      ),
    )
    .setAttribute(
      'WEIGHTS_0',
      accessor(
        document,
        'VEC4',
        new Float32Array(count * 4).map((_, i) => [0.25, 0.75, 0, 0][i % 4]!),
      ),
    );
  // One that nothing hangs on, between the two.
  const idle = document.createNode('idle').setTranslation([0, 0, 5]);
  bones[0].addChild(idle);
  const inverse = [
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -3, 0, 1],
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -3, -5, 1],
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -2, -3, 0, 1],
  ];
  const skin = document.createSkin('rig').addJoint(bones[0]).addJoint(idle).addJoint(bones[1]);
  node.setSkin(skin.setInverseBindMatrices(accessor(document, 'MAT4', Float32Array.from(inverse.flat()))));
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor(document, 'SCALAR', Float32Array.of(0, 0.5, 2)))
    .setOutput(accessor(document, 'VEC4', Float32Array.of(0, 0, 0, 1, 0, 0.6, 0, 0.8, 0, 0, 0, 1)));
  const channel = document.createAnimationChannel().setTargetNode(bones[1]).setTargetPath('rotation').setSampler(sampler);
  document.createAnimation('nod').addSampler(sampler).addChannel(channel);
  return document;
}

export const toGlb = (document: Document): Promise<Uint8Array> => new WebIO().writeBinary(document);

const glb = await toGlb(gridDocument());
const { json, resources } = await new WebIO().writeJSON(gridDocument());
const bin = Object.values(resources)[0]!;
json.buffers![0]!.uri = `data:application/octet-stream;base64,${Buffer.from(bin).toString('base64')}`;

const stl = new Uint8Array(84 + 100);
stl[80] = 2;

/** One small whole file of each kind, to be damaged by tests. */
export const samples: NamedFile[] = [
  {
    name: 'a.obj',
    bytes: bytesOf(
      'mtllib a.mtl\no a\nv 0 0 0\nv 1 0 0\nv 1 1 0 1 0 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nusemtl m\nf 1/1/1 2/1/1 3/1/1 4/1/1\nf -1 -2 -3\n',
    ),
  },
  {
    name: 'a.ply',
    bytes: bytesOf(
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n',
    ),
  },
  {
    name: 'b.ply',
    bytes: new Uint8Array([
      ...bytesOf(
        'ply\nformat binary_little_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n',
      ),
      ...new Uint8Array(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0).buffer),
      3,
      ...new Uint8Array(Int32Array.of(0, 1, 2).buffer),
    ]),
  },
  {
    name: 'a.stl',
    bytes: bytesOf('solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n'),
  },
  { name: 'b.stl', bytes: stl },
  { name: 'a.glb', bytes: glb },
  { name: 'a.gltf', bytes: bytesOf(JSON.stringify(json)) },
];
