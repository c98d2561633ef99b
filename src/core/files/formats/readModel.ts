import { limits } from '../../ground/limits';
import { takeFaces } from '../../shapes/mesh/build';
import { isAllTriangles, mendQuads } from '../../shapes/mesh/mendQuads';
import { faceCount, triangleCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { checkMesh } from '../../shapes/mesh/checkMesh';
import { checkCornerLimits, checkFaceLimit, FileError, fileErrorOf, type ReadContext } from '../../ground/bytes/errors';
import { modelExtensions, type NamedFile } from '../../ground/bytes/fileKinds';
import { openGltf, type GltfCodecs } from '../gltf/openGltf';
import { readGltf } from '../gltf/readGltf';
import { readMtl, type MtlMaterial } from './readMtl';
import { readObj } from './readObj';
import { readPly } from './readPly';
import { readStl } from './readStl';
import { baseName, extensionOf, stemOf } from '../../ground/bytes/text';
import { count } from '../../ground/words';

export type ModelFormat = 'obj' | 'gltf' | 'ply' | 'stl';

export interface ReadModelOptions extends ReadContext {
  codecs?: GltfCodecs;
  /** Turn triangles that were cut from quads back into quads. */
  mendQuads?: boolean;
}

export interface ReadModelResult {
  name: string;
  format: ModelFormat;
  mesh: PolyMesh;
  /** Faces and triangles as they stand in the file, before mending. */
  facesRead: number;
  trianglesRead: number;
  /** Whether every face read was a triangle, so that mending was possible. */
  allTriangles: boolean;
  /** Pairs of triangles that became quads. */
  mended: number;
  /** The model's file (glTF only) and those that it uses, to keep with the kit. */
  keep: NamedFile[];
  notes: string[];
}

/**
 * Reads one model with the files that were dropped beside it. Throws `FileError`; nothing is changed by a
 * file that cannot be read.
 */
export async function readModel(
  main: NamedFile,
  beside: readonly NamedFile[] = [],
  options: ReadModelOptions = {},
): Promise<ReadModelResult> {
  const file = baseName(main.name);
  checkFile(file, main.bytes);
  const {
    format,
    mesh: raw,
    keep,
    notes,
  } = await readAs(file, main, beside, options).catch((error: unknown) => {
    throw fileErrorOf(file, error, 'it cannot be read');
  });
  checkFaceLimit(file, faceCount(raw));
  checkCornerLimits(file, raw.faceStart);
  const { mesh, dropped } = dropUnusable(raw);
  if (dropped) notes.push(`${count(dropped, 'face')} with positions that are not numbers: left out.`);
  if (!faceCount(mesh)) throw new FileError(file, 'none of its faces has usable positions.');
  options.onProgress?.(0.9, 'Mending quads of');
  const mended = options.mendQuads === false ? mesh : mendQuads(mesh);
  try {
    // Whatever is let in has passed the same check as what is opened again.
    checkMesh(mended);
  } catch (error) {
    throw fileErrorOf(file, error, 'it cannot be read');
  }
  return {
    name: stemOf(file) || file,
    format,
    mesh: mended,
    facesRead: faceCount(raw),
    trianglesRead: triangleCount(raw),
    allTriangles: isAllTriangles(mesh),
    mended: faceCount(mesh) - faceCount(mended),
    keep,
    notes,
  };
}

function checkFile(file: string, bytes: Uint8Array): void {
  const megabytes = (n: number) => Math.round(n / 1024 / 1024);
  if (bytes.length === 0) throw new FileError(file, 'the file is empty.');
  if (bytes.length > limits.bytes)
    throw new FileError(file, `it has ${megabytes(bytes.length)} MB; files up to ${megabytes(limits.bytes)} MB can be read.`);
  const kinds: [number[], string][] = [
    [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
    [[0xff, 0xd8, 0xff], 'a JPEG picture'],
    [[0x50, 0x4b, 3, 4], 'a zip archive'],
    [[0x25, 0x50, 0x44, 0x46], 'a PDF document'],
    [[0x1f, 0x8b], 'a gzip archive'],
  ];
  for (const [magic, kind] of kinds) if (magic.every((b, i) => bytes[i] === b)) throw new FileError(file, `it is ${kind}, not a model.`);
}

async function readAs(file: string, main: NamedFile, beside: readonly NamedFile[], options: ReadModelOptions) {
  const notes: string[] = [];
  const named = new Map(beside.map((f) => [baseName(f.name), f.bytes]));
  for (const f of beside) named.set(baseName(f.name).toLowerCase(), named.get(baseName(f.name).toLowerCase()) ?? f.bytes);
  const find = (name: string) => named.get(baseName(name)) ?? named.get(baseName(name).toLowerCase());
  switch (extensionOf(file)) {
    case 'gltf':
    case 'glb': {
      const opened = await openGltf(file, main.bytes, named, options.codecs);
      notes.push(...opened.notes);
      if (opened.unknownExtensions.length)
        notes.push(`What these extensions say is not kept, since they are not known here: ${opened.unknownExtensions.join(', ')}.`);
      const keep = [{ name: file, bytes: main.bytes }, ...[...new Set(opened.used)].map((name) => ({ name, bytes: find(name)! }))];
      return { format: 'gltf' as const, mesh: readGltf(file, opened.document, options), keep, notes };
    }
    case 'obj': {
      if (main.bytes.subarray(0, 512).includes(0) && main.bytes[0] !== 0xff && main.bytes[0] !== 0xfe)
        throw new FileError(file, 'this does not read as an OBJ model.', 'line 1');
      const keep: NamedFile[] = [];
      const findMaterials = (libraries: string[]): MtlMaterial[] => {
        const found: MtlMaterial[] = [];
        // A statement may name several files, and names may hold spaces: the whole is tried first.
        for (const names of libraries.map((l) => (find(l) ? [l] : l.split(/\s+/))))
          for (const name of names) {
            const bytes = find(name);
            if (!bytes) notes.push(`The materials file “${baseName(name)}” was not among the files.`);
            else if (!keep.some((k) => k.name === baseName(name))) {
              keep.push({ name: baseName(name), bytes });
              found.push(...readMtl(bytes));
            }
          }
        return found;
      };
      const { mesh, leftOut } = readObj(file, main.bytes, findMaterials, options);
      if (leftOut) notes.push(`${leftOut} lines, points or faces of fewer than three corners were left out.`);
      for (const name of new Set(mesh.slots.flatMap((s) => s.picture ?? []))) {
        const bytes = find(name);
        if (bytes) keep.push({ name: baseName(name), bytes });
        else notes.push(`The picture “${name}” was not among the files.`);
      }
      return { format: 'obj' as const, mesh, keep, notes };
    }
    case 'ply':
      return { format: 'ply' as const, mesh: readPly(file, main.bytes, options), keep: [], notes };
    case 'stl':
      return { format: 'stl' as const, mesh: readStl(file, main.bytes, options), keep: [], notes };
    default:
      throw new FileError(file, `models are read from ${modelExtensions.map((e) => '.' + e).join(', ')} files.`);
  }
}

/**
 * Without the faces that use a position that is not finite; such vertices become the origin, so that nothing
 * computes with them.
 */
function dropUnusable(mesh: PolyMesh): { mesh: PolyMesh; dropped: number } {
  const { positions } = mesh;
  const bad = new Set<number>();
  for (let i = 0; i < positions.length; i++) if (!Number.isFinite(positions[i]!)) bad.add(Math.floor(i / 3));
  if (!bad.size) return { mesh, dropped: 0 };
  const keep: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    let usable = true;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) usable &&= !bad.has(mesh.cornerVertex[c]!);
    if (usable) keep.push(f);
  }
  const clean = positions.map((p) => (Number.isFinite(p) ? p : 0));
  return { mesh: { ...takeFaces(mesh, Uint32Array.from(keep)), positions: clean }, dropped: faceCount(mesh) - keep.length };
}
