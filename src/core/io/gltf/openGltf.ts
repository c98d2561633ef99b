import { Logger, WebIO, type Document, type GLTF, type JSONDocument } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';
import { FileError } from '../errors';
import type { NamedFile } from '../fileKinds';
import { baseName } from '../text';

/** Decoders that each platform loads in its own way. */
export interface GltfCodecs {
  /** The module of Draco's decoder. */
  draco?: () => Promise<unknown>;
}

export type Sidecars = ReadonlyMap<string, Uint8Array>;

const glbBin = '@glb.bin';
/** A picture that was not among the files: 1 × 1, transparent. */
const missingPicture = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
);

export interface OpenedGltf {
  document: Document;
  /** The names of all side files that it uses. */
  used: string[];
  notes: string[];
  /** Extensions that the file names and that are not known here; what they say is lost. */
  unknownExtensions: string[];
}

/** Opens a glTF that is kept with the files that it uses, its own first. Throws as `openGltf` does. */
export function openKept([main, ...beside]: readonly NamedFile[], codecs?: GltfCodecs): Promise<OpenedGltf> {
  return openGltf(main!.name, main!.bytes, new Map(beside.map((f) => [f.name, f.bytes])), codecs);
}

/**
 * Opens glTF 2.0 or GLB with the files that were dropped beside it (by name, without folders).
 * Source: Khronos glTF 2.0 specification. Throws `FileError` with the chunk or the entry that is wrong.
 */
export async function openGltf(
  file: string,
  bytes: Uint8Array,
  sidecars: Sidecars = new Map(),
  codecs: GltfCodecs = {},
): Promise<OpenedGltf> {
  const isBinary = bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
  const { json, bin } = isBinary ? readChunks(file, bytes) : { json: parseJson(file, bytes, 'the file'), bin: undefined };
  checkDocument(file, json);
  const resources: JSONDocument['resources'] = {};
  if (bin) resources[glbBin] = bin.slice();
  const used: string[] = [];
  const notes: string[] = [];
  const resolve = (uri: string): Uint8Array | null => {
    const name = baseName(decodeUri(uri));
    const found = sidecars.get(name) ?? sidecars.get(name.toLowerCase());
    if (found) used.push(name);
    return found ?? null;
  };
  json.buffers?.forEach((buffer, i) => {
    if (buffer.uri === undefined) {
      // A placeholder for readers that cannot decompress.
      if (buffer.extensions?.EXT_meshopt_compression || buffer.extensions?.KHR_meshopt_compression) return;
      if (i > 0 || !bin) throw new FileError(file, 'its binary part is missing.', `buffer ${i}`);
      return;
    }
    if (buffer.uri.startsWith('data:')) return;
    const found = resolve(buffer.uri);
    if (!found) throw new FileError(file, `it needs “${decodeUri(buffer.uri)}”. Drop both files together.`, `buffer ${i}`);
    resources[buffer.uri] = found.slice();
  });
  json.buffers?.forEach((buffer, i) => {
    const data = buffer.uri !== undefined ? resources[buffer.uri] : i === 0 ? bin : undefined;
    if (data && data.byteLength < buffer.byteLength)
      throw new FileError(
        file,
        `${data.byteLength} bytes are there, ${buffer.byteLength} are announced: the file is cut short.`,
        `buffer ${i}`,
      );
  });
  for (const image of json.images ?? []) {
    if (!image.uri || image.uri.startsWith('data:')) continue;
    const found = resolve(image.uri);
    if (!found) notes.push(`The picture “${decodeUri(image.uri)}” was not among the files.`);
    resources[image.uri] = found?.slice() ?? missingPicture.slice();
    // A stand-in for a missing picture is a PNG, whatever the name says.
    if (!found) image.mimeType = 'image/png';
  }
  const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).registerExtensions(ALL_EXTENSIONS);
  await MeshoptDecoder.ready;
  io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  if (json.extensionsUsed?.includes('KHR_draco_mesh_compression')) {
    if (!codecs.draco) throw new FileError(file, 'its meshes are Draco-compressed, and no decoder is at hand.');
    io.registerDependencies({ 'draco3d.decoder': await codecs.draco() });
  }
  // Extensions that we do not know concern looks, not shapes; the model reads without them.
  const known = new Set<string>(ALL_EXTENSIONS.map((e) => e.EXTENSION_NAME));
  const unknownExtensions = (Array.isArray(json.extensionsUsed) ? json.extensionsUsed : []).filter((name) => !known.has(name));
  if (json.extensionsRequired) {
    json.extensionsRequired = json.extensionsRequired.filter((name) => known.has(name));
  }
  try {
    return { document: await io.readJSON({ json, resources }), used, notes, unknownExtensions };
  } catch (error) {
    throw new FileError(file, `it cannot be read as glTF (${error instanceof Error ? error.message : String(error)}).`);
  }
}

function decodeUri(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

function readChunks(file: string, bytes: Uint8Array): { json: GLTF.IGLTF; bin?: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20) throw new FileError(file, 'the file is cut short.', 'header');
  const version = view.getUint32(4, true);
  if (version !== 2) throw new FileError(file, `it is GLB version ${version}; version 2 can be read. Save it as glTF 2.0.`, 'header');
  let json: GLTF.IGLTF | undefined;
  let bin: Uint8Array | undefined;
  for (let at = 12, chunk = 1; at + 8 <= bytes.length; chunk++) {
    const length = view.getUint32(at, true);
    const type = view.getUint32(at + 4, true);
    const where = `chunk ${chunk} at byte ${at}`;
    if (at + 8 + length > bytes.length)
      throw new FileError(file, `${length} bytes are announced, ${bytes.length - at - 8} are there: the file is cut short.`, where);
    const data = bytes.subarray(at + 8, at + 8 + length);
    if (type === 0x4e4f534a && !json) json = parseJson(file, data, where);
    else if (type === 0x004e4942 && !bin) bin = data;
    at += 8 + length;
  }
  if (!json) throw new FileError(file, 'its JSON part is missing.', 'chunk 1');
  return bin ? { json, bin } : { json };
}

function parseJson(file: string, bytes: Uint8Array, where: string): GLTF.IGLTF {
  try {
    const json = JSON.parse(new TextDecoder().decode(bytes)) as GLTF.IGLTF;
    if (typeof json !== 'object' || json === null || Array.isArray(json)) throw new Error('not an object');
    return json;
  } catch (error) {
    throw new FileError(file, `it does not read as glTF (${error instanceof Error ? error.message : String(error)}).`, where);
  }
}

/** What the library below takes for granted: versions, indices within their lists, a node graph without cycles, lengths that fit. */
function checkDocument(file: string, json: GLTF.IGLTF): void {
  const version = json.asset?.version;
  if (typeof version !== 'string' || !version.startsWith('2'))
    throw new FileError(file, `it is glTF version ${version ?? 'unknown'}; version 2.0 can be read. Save it as glTF 2.0.`, 'asset');
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
  for (const name of lists)
    if (json[name] !== undefined && !Array.isArray(json[name])) throw new FileError(file, 'it is not a list.', name);
  const check = (index: unknown, list: (typeof lists)[number], where: string) => {
    if (index === undefined) return;
    if (!Number.isInteger(index) || (index as number) < 0 || (index as number) >= (json[list]?.length ?? 0))
      throw new FileError(file, `it names entry ${String(index)} of “${list}”, which does not exist.`, where);
  };
  const nodes = json.nodes ?? [];
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
  nodes.forEach((_, i) => {
    let steps = 0;
    for (let n = i; n >= 0; n = parents[n]!) if (steps++ > nodes.length) throw new FileError(file, 'it is its own ancestor.', `node ${i}`);
  });
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
  const widths: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
  const bytesOf: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
  json.accessors?.forEach((accessor, i) => {
    const where = `accessor ${i}`;
    check(accessor.bufferView, 'bufferViews', where);
    const element = (widths[accessor.type] ?? 0) * (bytesOf[accessor.componentType] ?? 0);
    if (!element || !Number.isInteger(accessor.count) || accessor.count < 0 || accessor.count > 50_000_000)
      throw new FileError(file, 'its type or count makes no sense.', where);
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
