import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { bytesOf } from '@tests/meshes';
import { FileError } from '../../ground/bytes/errors';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { readModel } from './readModel';
import { Scanner, utf8Bytes } from '../../ground/bytes/text';

const read = (name: string, data: string | Uint8Array, beside: Record<string, string | Uint8Array> = {}) =>
  readModel(
    { name, bytes: asBytes(data) },
    Object.entries(beside).map(([n, d]): NamedFile => ({ name: n, bytes: asBytes(d) })),
    { mendQuads: false },
  );
const asBytes = (d: string | Uint8Array) => (typeof d === 'string' ? bytesOf(d) : d);
const facesOf = (mesh: PolyMesh) =>
  Array.from({ length: faceCount(mesh) }, (_, f) => [...mesh.cornerVertex.slice(mesh.faceStart[f]!, mesh.faceStart[f + 1]!)]);
const slotNames = (mesh: PolyMesh) => [...mesh.faceSlot].map((s) => mesh.slots[s]!.name);

const square = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\n';

describe('numbers in text', () => {
  it('are read exactly as the language reads them', () => {
    const number = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
      fc.double({ noNaN: true, min: -1e4, max: 1e4 }).map((v) => v.toFixed(6)),
      fc.tuple(fc.maxSafeInteger(), fc.integer({ min: -30, max: 30 })).map(([m, e]) => `${m}e${e}`),
      fc.constantFrom('+1.', '.5', '-0', '1E+2', '00012.50', '123456789012345678901234567890', '4.9e-324'),
    );
    fc.assert(
      fc.property(number, (text) => {
        expect(new Scanner(bytesOf(` ${text} x`)).number()).toBe(Number(text));
      }),
      { seed: 8, numRuns: 100 },
    );
    expect(new Scanner(bytesOf('nan')).number()).toBeNaN();
    expect(new Scanner(bytesOf('x1')).number()).toBeUndefined();
  });
});

describe('OBJ', () => {
  it('keeps polygons, groups, objects and materials, and reads what the format allows', async () => {
    const text = [
      '# Brindle Skerry',
      'mtllib a b.mtl',
      'o Fog bell',
      'v 0 0 0 \\',
      '  # not a comment of its own',
      'v 1.0e0 0 0 1 0 0',
      'v +1 1. 0 0 0.5 0',
      'v -.5e+1 1E0 0',
      'vt 0 0.25',
      'vn 0 0 2',
      'usemtl brass früh',
      'g frame left',
      'f 1/1/1 2/1/1 \\',
      '3/1/1 4/1/1',
      'usemtl nowhere',
      'f -4//1 -3//-1 -2//1',
      'f 1 2',
      'l 1 2',
      'f 1/1 2/1 4/1',
    ].join('\r\n');
    const { mesh, notes, name } = await read('früh.obj', text, {
      'a b.mtl': 'newmtl Other\nKd 1 1 1\nnewmtl brass früh\r\nKd 0.5 0.25 0\nmap_Kd -s 1 1 1 -o 0 0 C:\\art work\\brass plate.png',
    });
    expect(name).toBe('früh');
    expect(facesOf(mesh)).toEqual([
      [0, 1, 2, 3],
      [0, 1, 2],
      [0, 1, 3],
    ]);
    expect(mesh.positions[9]).toBe(-5);
    expect(mesh.objects).toEqual(['Fog bell']);
    expect(slotNames(mesh)).toEqual(['brass früh', 'nowhere', 'nowhere']);
    expect(mesh.slots[0]).toMatchObject({ color: '#804000', given: true, picture: 'brass plate.png' });
    expect(mesh.slots[1]).toMatchObject({ given: false });
    expect([...mesh.uvSets[0]!.slice(0, 2)]).toEqual([0, 0.75]);
    expect([...mesh.cornerNormals!.slice(0, 3)]).toEqual([0, 0, 1]);
    expect([...mesh.cornerNormals!.slice(-3)]).toEqual([0, 0, 0]);
    expect([...mesh.cornerColors!.slice(0, 12)]).toEqual([255, 255, 255, 255, 255, 0, 0, 255, 0, 128, 0, 255]);
    expect(notes.join()).toMatch(/2 lines, points or faces.*brass plate\.png/);
  });

  it('smooths within smoothing groups, where the file gives no normals', async () => {
    // A fold of 90 degrees: two faces in a group, a third one in another, a fourth without.
    const fold = 'v 0 0 0\nv 1 0 0\nv 1 0 -1\nv 0 0 -1\nv 0 -1 0\nv 1 -1 0\nv 2 0 0\nv 2 0 -1\nv -1 0 0\nv -1 0 -1\n';
    const faces = 's 1\nf 1 2 3 4\nf 5 6 2 1\ns 2\nf 2 7 8 3\ns off\nf 9 1 4 10\n';
    const { mesh } = await read('a.obj', fold + faces);
    const normal = (c: number) => [...mesh.cornerNormals!.slice(c * 3, c * 3 + 3)].map((v) => Math.round(v * 1000) / 1000 + 0);
    expect([0, 2, 4, 6].map(normal)).toEqual([
      [0, 0.707, 0.707],
      [0, 1, 0],
      [0, 0, 1],
      [0, 0.707, 0.707],
    ]);
    expect([8, 9].map(normal)).toEqual([
      [0, 1, 0],
      [0, 1, 0],
    ]);
    // Flat: it has none of its own.
    expect(normal(13)).toEqual([0, 0, 0]);
    expect((await read('a.obj', fold + faces.replaceAll(/s \d/g, 's off'))).mesh.cornerNormals).toBeUndefined();
    const { mesh: given } = await read('a.obj', fold + 'vn 1 0 0\n' + faces.replace('f 1 2 3 4', 'f 1//1 2//1 3//1 4//1'));
    expect([...given.cornerNormals!.slice(0, 3)]).toEqual([1, 0, 0]);
  });

  it('takes the only material of a file for a name that matches none, and does without a missing file', async () => {
    const text = 'mtllib m.mtl\n' + square + 'usemtl Board.001\nf 1 2 3 4';
    expect((await read('a.obj', text, { 'M.MTL': 'newmtl Board\nKd 0 0 1' })).mesh.slots[0]).toMatchObject({
      name: 'Board.001',
      color: '#0000ff',
      given: true,
    });
    const alone = await read('a.obj', text);
    expect(alone.mesh.slots[0]!.given).toBe(false);
    expect(alone.notes).toEqual(['The materials file “m.mtl” was not among the files.']);
  });

  it('reads UTF-16, Latin-1 names and files without a last line end', async () => {
    const utf16 = new Uint8Array([0xfe, 0xff, ...[...(square + 'f 1 2 3 4')].flatMap((c) => [0, c.charCodeAt(0)])]);
    expect(faceCount((await read('a.obj', utf16)).mesh)).toBe(1);
    expect(utf8Bytes(Uint8Array.of(0xff, 0xfe, 0x41, 0))).toEqual(bytesOf('A'));
    const latin = Uint8Array.from([...`${square}usemtl gr\u00fcn\nf 1 2 3 4`], (c) => c.charCodeAt(0));
    expect((await read('a.obj', latin)).mesh.slots[0]!.name).toBe('grün');
  });

  it('keeps a corner’s neighbour colors apart when only later vertices have them', async () => {
    const { mesh } = await read('a.obj', 'v 0 0 0\nv 1 0 0 255 0 0\nv 0 1 0\nf 1 2 3');
    expect([...mesh.cornerColors!]).toEqual([255, 255, 255, 255, 255, 0, 0, 255, 255, 255, 255, 255]);
  });
});

describe('PLY', () => {
  const header = (format: string, end = '\n') =>
    [
      'ply',
      `format ${format} 1.0`,
      'comment Skerry',
      'element vertex 4',
      'property float x',
      'property float y',
      'property float z',
      'property uchar red',
      'property uchar green',
      'property uchar blue',
      'element face 1',
      'property list uchar int vertex_indices',
      'end_header',
      '',
    ].join(end);
  const rows = [
    [0, 0, 0, 10],
    [1, 0, 0, 20],
    [1, 1, 0, 30],
    [0, 1, 0, 40],
  ];

  it('reads ascii and both byte orders alike, with colors, whatever ends the header’s lines', async () => {
    const ascii = header('ascii', '\r') + rows.map(([x, y, z, c]) => `${x} ${y} ${z} ${c} 0 0`).join('\n') + '\n4 0 1 2 3\n';
    const binary = (little: boolean) => {
      const body = new DataView(new ArrayBuffer(4 * 15 + 17));
      rows.forEach(([x, y, z, c], i) => {
        [x, y, z].forEach((v, k) => body.setFloat32(i * 15 + k * 4, v!, little));
        body.setUint8(i * 15 + 12, c!);
      });
      body.setUint8(60, 4);
      for (let k = 0; k < 4; k++) body.setInt32(61 + k * 4, k, little);
      return new Uint8Array([...bytesOf(header(little ? 'binary_little_endian' : 'binary_big_endian')), ...new Uint8Array(body.buffer)]);
    };
    const meshes = await Promise.all([ascii, binary(true), binary(false)].map(async (d) => (await read('a.ply', d)).mesh));
    for (const mesh of meshes) {
      expect(facesOf(mesh)).toEqual([[0, 1, 2, 3]]);
      expect([...mesh.positions]).toEqual([...meshes[0]!.positions]);
      expect([0, 4, 8, 12].map((i) => mesh.cornerColors![i])).toEqual([10, 20, 30, 40]);
    }
  });

  it('reads strips, face colors and float colors', async () => {
    const strip =
      'ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement tristrips 1\nproperty list int int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n6 0 1 2 3 -1 0\n';
    expect(facesOf((await read('a.ply', strip)).mesh)).toEqual([
      [0, 1, 2],
      [2, 1, 3],
    ]);
    const colored =
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_index\nproperty float red\nproperty float green\nproperty float blue\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2 1 0.5 0\n';
    expect([...(await read('a.ply', colored)).mesh.cornerColors!.slice(0, 4)]).toEqual([255, 128, 0, 255]);
  });
});

describe('STL', () => {
  const triangles = [
    [
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
    ],
    [
      [0, 0, 0],
      [1, 1, 0],
      [0, 1, 0],
    ],
  ];
  const ascii = `solid Crab pot\n${triangles.map((t) => `facet normal 0 0 1\nouter loop\n${t.map((v) => `vertex ${v.join(' ')}`).join('\n')}\nendloop\nendfacet`).join('\n')}\nendsolid Crab pot\n`;
  const binary = (title: string) => {
    const view = new DataView(new ArrayBuffer(84 + 100));
    bytesOf(title).forEach((b, i) => view.setUint8(i, b));
    view.setUint32(80, 2, true);
    triangles.forEach((t, i) => t.flat().forEach((v, k) => view.setFloat32(84 + i * 50 + 12 + k * 4, v, true)));
    return new Uint8Array(view.buffer);
  };

  it('reads both kinds, joins equal vertices, and is not fooled by a binary title', async () => {
    for (const data of [
      ascii,
      ascii.toUpperCase().replaceAll('\n', '\r\n'),
      binary('made on the skerry'),
      binary('solid and yet binary'),
    ]) {
      const { mesh } = await read('a.stl', data);
      expect([faceCount(mesh), mesh.positions.length / 3, adjacencyOf(mesh).openEdges]).toEqual([2, 4, 4]);
    }
    const mended = await readModel({ name: 'a.stl', bytes: bytesOf(ascii) });
    expect([faceCount(mended.mesh), mended.mended, mended.trianglesRead]).toEqual([1, 1, 2]);
  });
});

describe('files that cannot be read', () => {
  const vertices = 'property float x\nproperty float y\nproperty float z\n';
  const twoVertices = `ply\nformat ascii 1.0\nelement vertex 3\n${vertices}element face 1\nproperty list uchar int vertex_indices\nelement vertex 1\n${vertices}end_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n5 5 5\n`;
  const chain = (length: number) =>
    JSON.stringify({ asset: { version: '2.0' }, nodes: Array.from({ length }, (_, i) => (i + 1 < length ? { children: [i + 1] } : {})) });
  const sparse = (count: number, byteLength: number) =>
    JSON.stringify({
      asset: { version: '2.0' },
      buffers: [{ byteLength: 4, uri: 'data:;base64,AAAAAA==' }],
      bufferViews: [{ buffer: 0, byteLength }],
      accessors: [
        {
          componentType: 5126,
          count: 3,
          type: 'VEC3',
          sparse: { count, indices: { bufferView: 0, componentType: 5125 }, values: { bufferView: 0 } },
        },
      ],
    });
  const bad: [string, string | Uint8Array, RegExp][] = [
    ['empty.obj', '', /empty/],
    ['index.obj', square + 'f 1 2 9', /index\.obj, line 5: a face uses vertex 9, but the file has 4/],
    ['zero.obj', square + 'f 0 1 2', /line 5.*counts from 1/],
    ['word.obj', square + 'f 1 2 three', /line 5.*not a vertex number/],
    ['short.obj', 'v 1 2\nf 1 1 1', /line 1: a vertex needs three numbers/],
    ['points.obj', square, /points but no faces/],
    ['picture.obj', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2, 3), /PNG picture/],
    ['letter.obj', 'Dear keeper,\nthe lamp is out.', /does not read as an OBJ/],
    ['nan.obj', 'v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3', /none of its faces has usable positions/],
    ['head.ply', 'ply\nformat ascii 1.0\nelement vertex 3\n', /end_header/],
    [
      'short.ply',
      'ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n3 0 0',
      /line 1[12].*ends too early/,
    ],
    ['huge.ply', 'ply\nformat binary_little_endian 1.0\nelement vertex 90000000\nproperty float x\nend_header\n', /announces 90000000/],
    ['cut.stl', new Uint8Array(84 + 60).fill(7, 80, 81), /announces 7 triangles, but ends in triangle 2/],
    ['half.stl', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\n', /middle of a facet/],
    ['old.gltf', '{"asset":{"version":"1.0"}}', /version 1\.0/],
    ['broken.gltf', '{"asset":', /does not read as glTF/],
    ['loop.gltf', '{"asset":{"version":"2.0"},"nodes":[{"children":[1]},{"children":[0]}]}', /own ancestor/],
    [
      'cut.glb',
      new Uint8Array([...bytesOf('glTF'), 2, 0, 0, 0, 40, 0, 0, 0, 99, 0, 0, 0, ...bytesOf('JSON')]),
      /chunk 1 at byte 12.*cut short/,
    ],
    ['alone.gltf', '{"asset":{"version":"2.0"},"buffers":[{"byteLength":4,"uri":"sea%20wall.bin"}]}', /buffer 0: it needs “sea wall\.bin”/],
    ['model.fbx', 'x', /models are read from/],
    ['twice.ply', twoVertices, /twice\.ply, header: it has “vertex” twice/],
    ['corners.obj', square + `f ${'1 2 3 4 '.repeat(513)}`, /corners\.obj, face 1: it has 2,052 corners; faces of up to 2,048/],
    ['many.obj', square + `f ${'1 2 3 4 '.repeat(500)}\n`.repeat(17), /hundreds of corners/],
    ['deep.gltf', chain(513), /node 512: nodes hang more than 512 deep/],
    ['nodes.gltf', `{"asset":{"version":"2.0"},"nodes":[${'{},'.repeat(65535)}{}]}`, /it has 65536 nodes/],
    ['sparse.gltf', sparse(2147483647, 4), /accessor 0: its sparse values make no sense/],
    ['sparse.gltf', sparse(2, 4), /accessor 0: its sparse values reach past/],
    [
      'comma.gltf',
      '{"asset":\n{"version":"2.0"},\n"nodes":[,]}',
      /comma\.gltf, the file: it does not read as glTF: its JSON is broken at line 3/,
    ],
  ];
  it.each(bad)('%s says what is wrong and where', async (name, data, message) => {
    await expect(read(name, data)).rejects.toThrow(message);
    await expect(read(name, data)).rejects.toBeInstanceOf(FileError);
  });
});
