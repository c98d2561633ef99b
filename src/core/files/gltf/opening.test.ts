import { limits } from '../../ground/limits';
import type { GLTF } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { gridDocument, toGlb } from '@tests/samples';
import { FileError } from '../../ground/bytes/errors';
import { checkGltf } from './checkGltf';
import { openGltf, openKept } from './openGltf';

describe('what a glTF must hold', () => {
  /** A file of one triangle that is right in everything. */
  const whole = () =>
    ({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0, skin: 0, children: [1] }, {}],
      meshes: [{ primitives: [{ indices: 1, material: 0, attributes: { POSITION: 0 } }] }],
      skins: [{ joints: [1] }],
      materials: [{}],
      buffers: [{ byteLength: 48 }],
      bufferViews: [
        { buffer: 0, byteLength: 36 },
        { buffer: 0, byteOffset: 36, byteLength: 12 },
        { buffer: 0, byteOffset: 36, byteLength: 12 },
      ],
      accessors: [
        { bufferView: 0, componentType: 5126, type: 'VEC3', count: 3 },
        { bufferView: 1, componentType: 5123, type: 'SCALAR', count: 3 },
      ],
    }) as unknown as GLTF.IGLTF;
  const tried = (change: (json: Record<string, never> & GLTF.IGLTF) => unknown) => () => {
    const json = whole() as Parameters<typeof change>[0];
    change(json);
    checkGltf('a.gltf', json);
  };
  const good: [string, Parameters<typeof tried>[0]][] = [
    ['nothing else', () => 0],
    ['versions of the second', (j) => (j.asset.version = '2.1')],
    ['as many nodes as are read', (j) => (j.nodes = Array.from({ length: limits.nodes }, () => ({})))],
    [
      'as deep as is read',
      (j) => (j.nodes = Array.from({ length: limits.nodeDepth }, (_, i) => (i + 1 < limits.nodeDepth ? { children: [i + 1] } : {}))),
    ],
    ['an accessor that ends where its data does', (j) => (j.accessors![1]!.byteOffset = 6)],
    ['a stride', (j) => Object.assign(j.bufferViews![0]!, { byteStride: 12 })],
    ['no values at all', (j) => Object.assign(j.accessors![0]!, { count: 0, byteOffset: 36 })],
    [
      'values without data, which are zero',
      (j) => (j.accessors = [{ componentType: 5126, type: 'MAT4', count: 50_000_000 }, j.accessors![1]!]),
    ],
    [
      'data that is packed, whose size says nothing',
      (j) => Object.assign(j.bufferViews![0]!, { byteLength: 1, extensions: { EXT_meshopt_compression: {} } }),
    ],
    ['a view that is packed', (j) => Object.assign(j.bufferViews![2]!, { byteLength: 999, extensions: { EXT_meshopt_compression: {} } })],
    [
      'sparse values that end where their data does',
      (j) =>
        (j.accessors![0]!.sparse = { count: 3, indices: { bufferView: 1, componentType: 5121, byteOffset: 9 }, values: { bufferView: 0 } }),
    ],
    ['primitives without attributes', (j) => (j.meshes![0]!.primitives[0] = {} as never)],
    ['scenes without nodes', (j) => (j.scenes = [{} as never])],
  ];
  it.each(good)('may be %s', (_, change) => {
    expect(tried(change)).not.toThrow();
  });

  const sparse =
    (change: object, indices: object = {}, from: object = {}) =>
    (j: GLTF.IGLTF) =>
      (j.accessors![0]!.sparse = {
        count: 1,
        indices: { bufferView: 1, componentType: 5123, ...indices },
        values: { bufferView: 0, ...from },
        ...change,
      } as never);
  const bad: [string, Parameters<typeof tried>[0]][] = [
    ['asset: it is glTF version unknown', (j) => delete (j as { asset?: unknown }).asset],
    ['asset: it is glTF version 1.0', (j) => (j.asset.version = '1.0')],
    ['asset: it is glTF version 2', (j) => (j.asset.version = 2 as never)],
    ...(['extensionsUsed', 'extensionsRequired'] as const).map((list): [string, Parameters<typeof tried>[0]] => [
      `${list}: it is not a list.`,
      (j) => (j[list] = {} as never),
    ]),
    ...(['nodes', 'meshes', 'accessors', 'bufferViews', 'buffers', 'materials', 'textures', 'images', 'scenes', 'skins'] as const).map(
      (list): [string, Parameters<typeof tried>[0]] => [`${list}: it is not a list.`, (j) => (j[list] = {} as never)],
    ),
    ['node 0: it names entry 1 of “meshes”', (j) => (j.nodes![0]!.mesh = 1)],
    ['node 0: it names entry -1 of “meshes”', (j) => (j.nodes![0]!.mesh = -1)],
    ['node 0: it names entry 0.5 of “meshes”', (j) => (j.nodes![0]!.mesh = 0.5)],
    ['node 0: it names entry 0 of “skins”', (j) => delete j.skins],
    ['node 0: it names entry 2 of “nodes”', (j) => (j.nodes![0]!.children = [2])],
    ['node 1: it has two parents.', (j) => (j.nodes![0]!.children = [1, 1])],
    ['node 0: it is its own ancestor.', (j) => (j.nodes![1]!.children = [0])],
    [`nodes: it has ${limits.nodes + 1} nodes`, (j) => (j.nodes = Array.from({ length: limits.nodes + 1 }, () => ({})))],
    ['scene 0: it names entry 2 of “nodes”', (j) => (j.scenes![0]!.nodes = [0, 2])],
    ['scene: it names entry 1 of “scenes”', (j) => (j.scene = 1)],
    ['mesh 0: it has no list of primitives.', (j) => (j.meshes![0]!.primitives = {} as never)],
    ['mesh 0, primitive 0: it names entry 2 of “accessors”', (j) => (j.meshes![0]!.primitives[0]!.indices = 2)],
    ['mesh 0, primitive 0: it names entry 1 of “materials”', (j) => (j.meshes![0]!.primitives[0]!.material = 1)],
    ['mesh 0, primitive 0: it names entry 7 of “accessors”', (j) => (j.meshes![0]!.primitives[0]!.attributes = { NORMAL: 7 })],
    ['accessor 0: it names entry 3 of “bufferViews”', (j) => (j.accessors![0]!.bufferView = 3)],
    ['accessor 0: its type or count makes no sense.', (j) => (j.accessors![0]!.type = 'VEC5' as never)],
    ['accessor 0: its type or count makes no sense.', (j) => (j.accessors![0]!.componentType = 5124 as never)],
    ...[-1, 1.5, 50_000_001].map((count): [string, Parameters<typeof tried>[0]] => [
      'accessor 0: its type or count makes no sense.',
      (j) => (j.accessors![0]!.count = count),
    ]),
    ['accessor 0: it reaches past the end of its data.', (j) => (j.accessors![0]!.count = 4)],
    ['accessor 1: it reaches past the end of its data.', (j) => (j.accessors![1]!.byteOffset = 7)],
    ['accessor 0: it reaches past the end of its data.', (j) => (j.bufferViews![0]!.byteStride = 13)],
    ['buffer view 1: it names entry 1 of “buffers”', (j) => (j.bufferViews![1]!.buffer = 1)],
    ['buffer view 2: it reaches past the end of its buffer.', (j) => (j.bufferViews![2]!.byteLength = 13)],
    ['buffer view 2: it reaches past the end of its buffer.', (j) => (j.bufferViews![2]!.byteOffset = 37)],
    ...[{ count: 0 }, { count: 4 }, { count: 1.5 }, { indices: undefined }, { values: undefined }].map(
      (change): [string, Parameters<typeof tried>[0]] => ['accessor 0: its sparse values make no sense.', sparse(change)],
    ),
    ['accessor 0: its sparse values make no sense.', sparse({}, { componentType: 5126 })],
    ['accessor 0: its sparse values make no sense.', sparse({}, { bufferView: 9 })],
    ['accessor 0: its sparse values make no sense.', sparse({}, {}, { bufferView: 9 })],
    ['accessor 0: its sparse values reach past the end', sparse({ count: 3 }, { byteOffset: 7 })],
    ['accessor 0: its sparse values reach past the end', sparse({ count: 3 }, { componentType: 5125, byteOffset: 1 })],
    ['accessor 0: its sparse values reach past the end', sparse({ count: 3 }, {}, { byteOffset: 1 })],
  ];
  it.each(bad)('is refused: %s', (words, change) => {
    expect(tried(change)).toThrow(`a.gltf, ${words}`);
    expect(tried(change)).toThrow(FileError);
  });

  it('takes as many bytes as each kind of number has', () => {
    for (const [componentType, bytes] of [
      [5120, 1],
      [5121, 1],
      [5122, 2],
      [5123, 2],
      [5125, 4],
      [5126, 4],
    ] as const)
      for (const [type, width] of [
        ['SCALAR', 1],
        ['VEC2', 2],
        ['VEC3', 3],
        ['VEC4', 4],
        ['MAT2', 4],
        ['MAT3', 9],
      ] as const) {
        const change = (count: number) => (j: GLTF.IGLTF) => Object.assign(j.accessors![0]!, { componentType, type, count });
        const most = Math.floor(36 / (bytes * width));
        expect(tried(change(most)), `${type} ${componentType}`).not.toThrow();
        expect(tried(change(most + 1)), `${type} ${componentType}`).toThrow('reaches past');
      }
  });
});

describe('opening', () => {
  const document = async () => {
    const glb = await toGlb(gridDocument(1));
    const view = new DataView(glb.buffer, glb.byteOffset);
    const jsonEnd = 20 + view.getUint32(12, true);
    return { glb, view, jsonEnd };
  };

  it('tells where a GLB is cut short, of another version, or without its parts', async () => {
    const { glb, view, jsonEnd } = await document();
    const opened = (bytes: Uint8Array) => openGltf('a.glb', bytes);
    expect((await opened(glb)).notes).toEqual([]);
    await expect(opened(glb.slice(0, 19))).rejects.toThrow('a.glb, header: the file is cut short.');
    await expect(opened(glb.slice(0, jsonEnd - 1))).rejects.toThrow(
      `a.glb, chunk 1 at byte 12: ${jsonEnd - 20} bytes are announced, ${jsonEnd - 21} are there: the file is cut short.`,
    );
    await expect(opened(glb.slice(0, glb.length - 1))).rejects.toThrow(`chunk 2 at byte ${jsonEnd}:`);
    await expect(opened(glb.slice(0, jsonEnd))).rejects.toThrow('buffer 0: its binary part is missing.');
    // What is too short for a further chunk is none.
    await expect(opened(new Uint8Array([...glb, 0, 0, 0, 0, 0, 0, 0]))).resolves.toBeDefined();
    const old = glb.slice();
    old[4] = 1;
    await expect(opened(old)).rejects.toThrow('a.glb, header: it is GLB version 1');
    const other = glb.slice();
    other[16] = 0x58;
    await expect(opened(other)).rejects.toThrow('a.glb, chunk 1: its JSON part is missing.');
    // Further chunks of the same kinds do not take the place of the first.
    const twice = new Uint8Array([...glb, ...glb.slice(12)]);
    expect((await opened(twice)).document.getRoot().listMeshes()).toHaveLength(1);
    expect(view.getUint32(8, true)).toBe(glb.length);
  });

  it('takes what lies beside it by name, whatever the folder and the letters, and says what is not there', async () => {
    const json = (more: object) =>
      new TextEncoder().encode(
        JSON.stringify({
          asset: { version: '2.0' },
          buffers: [{ byteLength: 4, uri: 'parts/Sea%20Wall.bin' }],
          images: [{ uri: 'tex/rust.jpg', mimeType: 'image/jpeg' }],
          textures: [{ source: 0 }],
          materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
          ...more,
        }),
      );
    const bin = new Uint8Array(4);
    const beside = (name: string, bytes = bin) => new Map([[name, bytes]]);
    const missing = await openGltf('a.gltf', json({}), beside('Sea Wall.bin'));
    expect([missing.used, missing.notes]).toEqual([['Sea Wall.bin'], ['The picture “tex/rust.jpg” was not among the files.']]);
    expect(missing.document.getRoot().listTextures()[0]!.getMimeType()).toBe('image/png');
    const both = await openGltf('a.gltf', json({}), new Map([...beside('sea wall.bin'), ['rust.jpg', Uint8Array.of(1, 2)]]));
    expect([both.used, both.notes]).toEqual([['Sea Wall.bin', 'rust.jpg'], []]);
    expect([...both.document.getRoot().listTextures()[0]!.getImage()!]).toEqual([1, 2]);
    await expect(openGltf('a.gltf', json({}))).rejects.toThrow('buffer 0: it needs “parts/Sea Wall.bin”. Drop both files together.');
    await expect(openGltf('a.gltf', json({}), beside('Sea Wall.bin', new Uint8Array(3)))).rejects.toThrow(
      'buffer 0: 3 bytes are there, 4 are announced: the file is cut short.',
    );
    await expect(openGltf('a.gltf', json({ buffers: [{ byteLength: 1 }] }))).rejects.toThrow('buffer 0: its binary part is missing.');
    await expect(openGltf('a.gltf', json({ buffers: [{ byteLength: 4, uri: 'a%.bin' }] }))).rejects.toThrow('it needs “a%.bin”');
    const known = await openGltf(
      'a.gltf',
      json({ extensionsUsed: ['KHR_materials_unlit', 'SKERRY_fog'], extensionsRequired: ['SKERRY_fog'] }),
      beside('Sea Wall.bin'),
    );
    expect(known.unknownExtensions).toEqual(['SKERRY_fog']);
    await expect(openGltf('a.gltf', json({ extensionsUsed: ['KHR_draco_mesh_compression'] }), beside('Sea Wall.bin'))).rejects.toThrow(
      'Draco-compressed, and no decoder is at hand',
    );
    for (const text of ['[]', '3', 'null'])
      await expect(openGltf('a.gltf', new TextEncoder().encode(text))).rejects.toThrow('does not read as glTF');
  });
});

describe('opening what lies elsewhere', () => {
  const text = (json: object) => new TextEncoder().encode(JSON.stringify({ asset: { version: '2.0' }, ...json }));

  it('reads data inside of addresses, packed buffers without a place of their own, and files that were kept together', async () => {
    const png = 'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==';
    const inside = {
      buffers: [{ byteLength: 3, uri: 'data:application/octet-stream;base64,AQID' }],
      images: [{ uri: png }],
      textures: [{ source: 0 }],
    };
    const { document, notes, used } = await openGltf('a.gltf', text(inside));
    expect([notes, used, document.getRoot().listTextures()[0]!.getImage()!.length > 50]).toEqual([[], [], true]);
    await expect(openGltf('a.gltf', text({ buffers: [{ byteLength: 3, uri: 'far-data:' }] }))).rejects.toThrow('it needs “far-data:”');
    for (const name of ['EXT_meshopt_compression', 'KHR_meshopt_compression'])
      await expect(
        openGltf('a.gltf', text({ buffers: [{ byteLength: 9, extensions: { [name]: { fallback: true } } }] })),
      ).resolves.toBeDefined();
    const bytes = Uint8Array.of(9, 8, 7);
    const kept = await openKept([
      {
        name: 'a.gltf',
        bytes: text({ buffers: [{ byteLength: 3, uri: 'a.bin' }], images: [{ uri: 'a.png' }], textures: [{ source: 0 }] }),
      },
      { name: 'a.bin', bytes: new Uint8Array(3) },
      { name: 'a.png', bytes },
    ]);
    const image = kept.document.getRoot().listTextures()[0]!.getImage()!;
    expect([kept.used, [...image], image.buffer === bytes.buffer]).toEqual([['a.bin', 'a.png'], [9, 8, 7], false]);
  });

  it('takes for GLB only what begins so, and its first binary part alone', async () => {
    const glb = await toGlb(gridDocument(1));
    for (let i = 0; i < 4; i++) {
      const other = glb.slice();
      other[i] = 0x20;
      await expect(openGltf('a.glb', other)).rejects.toThrow('it does not read as glTF');
    }
    const more = new Uint8Array([...glb, 4, 0, 0, 0, 0x42, 0x49, 0x4e, 0, 1, 2, 3, 4]);
    expect((await openGltf('a.glb', more)).document.getRoot().listMeshes()).toHaveLength(1);
    // What the package cannot make sense of is said in words of ours.
    const broken = text({ nodes: [{ skin: 0 }], skins: [{ joints: [7] }] });
    await expect(openGltf('a.gltf', broken)).rejects.toThrow(FileError);
    await expect(openGltf('a.gltf', broken)).rejects.toThrow('a.gltf: it cannot be read as glTF');
  });
});
