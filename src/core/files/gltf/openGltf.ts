import { Logger, WebIO, type Document, type GLTF, type JSONDocument } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';
import { FileError, fileErrorOf, parseJson } from '../../ground/bytes/errors';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { baseName } from '../../ground/bytes/text';
import { checkGltf } from './checkGltf';

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
  const { json, bin } = isBinary ? readChunks(file, bytes) : { json: readDocument(file, bytes, 'the file'), bin: undefined };
  checkGltf(file, json);
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
  const unknownExtensions = (json.extensionsUsed ?? []).filter((name) => !known.has(name));
  if (json.extensionsRequired) {
    json.extensionsRequired = json.extensionsRequired.filter((name) => known.has(name));
  }
  try {
    return { document: await io.readJSON({ json, resources }), used, notes, unknownExtensions };
  } catch (error) {
    throw fileErrorOf(file, error, 'it cannot be read as glTF');
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
    if (type === 0x4e4f534a && !json) json = readDocument(file, data, where);
    else if (type === 0x004e4942 && !bin) bin = data;
    at += 8 + length;
  }
  if (!json) throw new FileError(file, 'its JSON part is missing.', 'chunk 1');
  return bin ? { json, bin } : { json };
}

function readDocument(file: string, bytes: Uint8Array, where: string): GLTF.IGLTF {
  const problem = 'it does not read as glTF';
  const json = parseJson(file, new TextDecoder().decode(bytes), problem, where);
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw new FileError(file, `${problem}.`, where);
  return json as GLTF.IGLTF;
}
