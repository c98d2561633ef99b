import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { checkMesh } from '../../shapes/mesh/checkMesh';
import { boundsOf } from '../../shapes/mesh/measure';
import { triangulate } from '../../shapes/mesh/triangulate';
import { arraysIn, unpack } from '../../ground/bytes/pack';

/** Component types of glTF; it has none for whole numbers below zero. */
const components = { Float32Array: 5126, Uint32Array: 5125, Uint16Array: 5123, Uint8Array: 5121, Int32Array: undefined } as const;
const magic = { glb: 0x46546c67, json: 0x4e4f534a, bin: 0x004e4942 };

/**
 * A packed mesh as a GLB that any viewer shows, with the packed bytes in it as they are: the first buffer view. The
 * arrays lie in them as accessors under their names, so that faces with all their corners can be read without knowing
 * how they are packed. Source: Khronos glTF 2.0. Throws where the bytes are no mesh.
 */
export function meshAsGlb(packed: Uint8Array): Uint8Array {
  const mesh = checkMesh(unpack(packed));
  const { corners } = triangulate(mesh, adjacencyOf(mesh).normals);
  const indices = corners.map((c) => mesh.cornerVertex[c]!);
  const { min, max } = boundsOf(mesh);
  const start = aligned(packed.length);
  const views: object[] = [{ buffer: 0, byteOffset: 0, byteLength: packed.length, name: 'packed mesh' }];
  const accessors: object[] = [];
  const accessor = (of: object, byteOffset: number, byteLength: number, target?: number): number => {
    views.push({ buffer: 0, byteOffset, byteLength, ...(target && { target }) });
    return accessors.push({ bufferView: views.length - 1, byteOffset: 0, ...of }) - 1;
  };
  const vec3 = { componentType: 5126, count: mesh.positions.length / 3, type: 'VEC3', min, max, name: 'POSITION' };
  const arrays = arraysIn(packed);
  const at = arrays.find((a) => a.name === 'positions')!;
  const position = accessor(vec3, at.at, at.size, 34962);
  const drawn = accessor(
    { componentType: 5125, count: indices.length, type: 'SCALAR', name: 'triangles' },
    start,
    indices.length * 4,
    34963,
  );
  for (const { name, kind, at: from, length, size } of arrays) {
    const componentType = components[kind];
    if (!componentType || !length || name === 'positions') continue;
    accessor({ componentType, count: length, type: 'SCALAR', name }, from, size);
  }
  const json = {
    asset: { version: '2.0', generator: 'Oligochrome' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: position }, indices: drawn }] }],
    buffers: [{ byteLength: start + indices.length * 4 }],
    bufferViews: views,
    accessors,
  };
  const text = new TextEncoder().encode(JSON.stringify(json));
  const [textLength, binLength] = [aligned(text.length), start + indices.length * 4];
  const out = new Uint8Array(12 + 8 + textLength + 8 + binLength).fill(0x20, 20, 20 + textLength);
  const view = new DataView(out.buffer);
  [magic.glb, 2, out.length, textLength, magic.json].forEach((v, i) => view.setUint32(i * 4, v, true));
  out.set(text, 20);
  view.setUint32(20 + textLength, binLength, true);
  view.setUint32(24 + textLength, magic.bin, true);
  out.set(packed, 28 + textLength);
  out.set(new Uint8Array(indices.buffer, indices.byteOffset, indices.byteLength), 28 + textLength + start);
  return out;
}

/** The packed mesh out of such a GLB. Throws where it is none. */
export function meshFromGlb(glb: Uint8Array): Uint8Array {
  const broken = () => new Error('It is no mesh of a kit.');
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  if (glb.length < 28 || view.getUint32(0, true) !== magic.glb || view.getUint32(16, true) !== magic.json) throw broken();
  const textLength = view.getUint32(12, true);
  if (28 + textLength > glb.length || view.getUint32(24 + textLength, true) !== magic.bin) throw broken();
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + textLength))) as { bufferViews?: { byteLength?: unknown }[] };
  const length = json.bufferViews?.[0]?.byteLength;
  if (!Number.isSafeInteger(length) || (length as number) < 0 || 28 + textLength + (length as number) > glb.length) throw broken();
  return glb.slice(28 + textLength, 28 + textLength + (length as number));
}

const aligned = (n: number) => (n + 7) & ~7;
