import { limits } from '../../ground/limits';
import type { GLTF } from '@gltf-transform/core';
import { FileError } from '../../ground/bytes/errors';

/** Numbers of an element, by its type, and bytes of a number; by what a file says. */
const widths = new Map<unknown, number>([
  ['SCALAR', 1],
  ['VEC2', 2],
  ['VEC3', 3],
  ['VEC4', 4],
  ['MAT2', 4],
  ['MAT3', 9],
  ['MAT4', 16],
]);
const bytesOf = new Map<unknown, number>([
  [5120, 1],
  [5121, 1],
  [5122, 2],
  [5123, 2],
  [5125, 4],
  [5126, 4],
]);
const indexTypes = new Set<unknown>([5121, 5123, 5125]);

/**
 * What the library takes for granted: versions, indices within their lists, a node graph without cycles and
 * not too deep, lengths that fit. Throws `FileError`.
 */
export function checkGltf(file: string, json: GLTF.IGLTF): void {
  const version: unknown = json.asset?.version;
  if (typeof version !== 'string' || !version.startsWith('2'))
    throw new FileError(
      file,
      `it is glTF version ${typeof version === 'string' || typeof version === 'number' ? version : 'unknown'}; version 2.0 can be read. Save it as glTF 2.0.`,
      'asset',
    );
  const lists = [
    'nodes',
    'meshes',
    'accessors',
    'bufferViews',
    'buffers',
    'materials',
    'textures',
    'images',
    'scenes',
    'skins',
    'samplers',
    'cameras',
    'animations',
  ] as const;
  for (const name of [...lists, 'extensionsUsed', 'extensionsRequired'] as const)
    if (json[name] !== undefined && !Array.isArray(json[name])) throw new FileError(file, 'it is not a list.', name);
  const check = (index: unknown, list: (typeof lists)[number], where: string) => {
    if (index === undefined) return;
    if (!Number.isInteger(index) || (index as number) < 0 || (index as number) >= (json[list]?.length ?? 0))
      throw new FileError(
        file,
        `it names entry ${typeof index === 'number' ? index : 'without a number'} of “${list}”, which does not exist.`,
        where,
      );
  };
  const nodes = json.nodes ?? [];
  if (nodes.length > limits.nodes)
    throw new FileError(file, `it has ${nodes.length} nodes; up to ${limits.nodes} are read. Join some of its pieces first.`, 'nodes');
  const parents = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, i) => {
    check(node.mesh, 'meshes', `node ${i}`);
    check(node.skin, 'skins', `node ${i}`);
    for (const child of node.children ?? []) {
      check(child, 'nodes', `node ${i}`);
      if (parents[child]! >= 0) throw new FileError(file, `it has two parents.`, `node ${child}`);
      parents[child] = i;
    }
  });
  checkDepth(file, json, parents);
  json.scenes?.forEach((scene, i) => scene.nodes?.forEach((n) => check(n, 'nodes', `scene ${i}`)));
  check(json.scene, 'scenes', 'scene');
  json.meshes?.forEach((mesh, i) => {
    if (!Array.isArray(mesh.primitives)) throw new FileError(file, 'it has no list of primitives.', `mesh ${i}`);
    mesh.primitives.forEach((primitive, k) => {
      const where = `mesh ${i}, primitive ${k}`;
      check(primitive.indices, 'accessors', where);
      check(primitive.material, 'materials', where);
      for (const accessor of Object.values(primitive.attributes ?? {})) check(accessor, 'accessors', where);
    });
  });
  json.accessors?.forEach((accessor, i) => {
    const where = `accessor ${i}`;
    check(accessor.bufferView, 'bufferViews', where);
    const element = (widths.get(accessor.type) ?? 0) * (bytesOf.get(accessor.componentType) ?? 0);
    if (!element || !Number.isInteger(accessor.count) || accessor.count < 0 || accessor.count > 50_000_000)
      throw new FileError(file, 'its type or count makes no sense.', where);
    checkSparse(json, accessor, element, fail(file, where));
    const view = accessor.bufferView === undefined ? undefined : json.bufferViews![accessor.bufferView]!;
    if (!view || view.extensions) return;
    const stride = view.byteStride ?? element;
    if (accessor.count > 0 && (accessor.byteOffset ?? 0) + (accessor.count - 1) * stride + element > view.byteLength)
      throw new FileError(file, 'it reaches past the end of its data.', where);
  });
  json.bufferViews?.forEach((view, i) => {
    check(view.buffer, 'buffers', `buffer view ${i}`);
    const buffer = json.buffers?.[view.buffer];
    if (buffer && !view.extensions && (view.byteOffset ?? 0) + view.byteLength > buffer.byteLength)
      throw new FileError(file, 'it reaches past the end of its buffer.', `buffer view ${i}`);
  });
}

/** From each root downward: what is never reached hangs in a circle. */
function checkDepth(file: string, { nodes = [] }: GLTF.IGLTF, parents: Int32Array): void {
  let level = nodes.flatMap((_, n) => (parents[n]! < 0 ? [n] : []));
  const reached = new Uint8Array(nodes.length);
  for (let depth = 1; level.length; depth++) {
    if (depth > limits.nodeDepth)
      throw new FileError(
        file,
        `nodes hang more than ${limits.nodeDepth} deep below each other. Flatten the model first.`,
        `node ${level[0]}`,
      );
    for (const n of level) reached[n] = 1;
    level = level.flatMap((n) => nodes[n]!.children ?? []);
  }
  const inCircle = reached.indexOf(0);
  if (inCircle >= 0) throw new FileError(file, 'it is its own ancestor.', `node ${inCircle}`);
}

/** Sparse values take as much room as they say only where their own data is there. */
function checkSparse(json: GLTF.IGLTF, { sparse, count }: GLTF.IAccessor, element: number, refuse: (what: string) => never): void {
  if (sparse === undefined) return;
  const [indices, values] = [json.bufferViews?.[sparse.indices?.bufferView], json.bufferViews?.[sparse.values?.bufferView]];
  const type: unknown = sparse.indices?.componentType;
  const size = indexTypes.has(type) ? bytesOf.get(type)! : 0;
  if (!indices || !values || !size || !Number.isInteger(sparse.count) || sparse.count < 1 || sparse.count > count)
    refuse('its sparse values make no sense.');
  else if (
    (sparse.indices.byteOffset ?? 0) + sparse.count * size > indices.byteLength ||
    (sparse.values.byteOffset ?? 0) + sparse.count * element > values.byteLength
  )
    refuse('its sparse values reach past the end of their data.');
}

const fail =
  (file: string, where: string) =>
  (what: string): never => {
    throw new FileError(file, what, where);
  };
