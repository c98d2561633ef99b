import { wordsOf } from '@/core/wordsOf';
import { costOfGltf } from '@/core/budget/costOfGltf';
import { costAsRead, type Cost } from '@/core/budget/tally';
import { cornersBy } from '@/core/carry/carryColors';
import { carryAll, type Carried } from '@/core/carry/carryModel';
import { matchFaces, type FaceMatch } from '@/core/carry/matchFaces';
import { inspectMesh, type Problem } from '@/core/check/inspectMesh';
import { proposedScale, repairMesh, type Repair, type Repaired, type RepairOptions } from '@/core/check/repair';
import { isModelFile, type NamedFile } from '@/core/io/fileKinds';
import { openKept } from '@/core/io/gltf/openGltf';
import { contentAddress, pack, unpack } from '@/core/io/pack';
import { readModel, type ReadModelResult } from '@/core/io/readModel';
import type { Model, Seats } from '@/core/kit/kit';
import { checkMesh } from '@/core/mesh/checkMesh';
import { faceCount, materialCount, triangleCount } from '@/core/mesh/polyMesh';
import { vertexColorGroups, type VertexColors } from '@/core/seat/byMaterial';
import { codecs } from './codecs';
import { readPictures, residents, settle, type LoadedMesh } from './residents';

/** What the import report says of a model. */
export interface ModelReport {
  name: string;
  format: string;
  faces: number;
  triangles: number;
  vertices: number;
  parts: number;
  materials: number;
  uvSets: number;
  vertexColors: boolean;
  /** Metres. */
  size: [number, number, number];
  allTriangles: boolean;
  /** Pairs of triangles that became quads. */
  mended: number;
  problems: Problem[];
  proposedScale: number;
  notes: string[];
  cost: Cost;
}

export interface ImportedModel {
  address: string;
  packed: Uint8Array;
  files: (NamedFile & { content: string })[];
  report: ModelReport;
  format: ReadModelResult['format'];
  name: string;
  triangles: number;
  mended: number;
  fileBytes: number;
}

export interface ImportOutcome {
  models: ImportedModel[];
  errors: { file: string; message: string }[];
}

/** Reading, checking and repairing meshes. */
export const importing = {
  /** Reads every model among the files; the others are looked at where a model names them. */
  async importFiles(
    files: NamedFile[],
    mend: boolean,
    onProgress: (share: number, doing: string) => Promise<void>,
  ): Promise<ImportOutcome> {
    const outcome: ImportOutcome = { models: [], errors: [] };
    const models = files.filter((f) => isModelFile(f.name));
    const beside = files.filter((f) => !isModelFile(f.name));
    for (const [i, file] of models.entries()) {
      try {
        await onProgress(i / models.length, `Reading ${file.name}`);
        const result = await readModel(file, beside, {
          codecs,
          mendQuads: mend,
          // Not awaited: the message leaves although this worker goes on reading.
          onProgress: (share, doing) => void onProgress((i + share * 0.7) / models.length, `${doing} ${file.name}`),
        });
        await onProgress((i + 0.7) / models.length, `Checking ${file.name}`);
        outcome.models.push(await finishImport(file, result));
      } catch (error) {
        outcome.errors.push({ file: file.name, message: wordsOf(error) });
      }
    }
    return outcome;
  },

  /** Loads a mesh from its stored bytes. `files`: the pictures it came with. */
  async load(id: string, packed: Uint8Array, files: NamedFile[]): Promise<LoadedMesh> {
    const resident = residents.get(id) ?? settle(id, checkMesh(unpack(packed)), await readPictures(files));
    return resident.loaded;
  },

  forget(id: string): void {
    residents.delete(id);
  },

  problems(id: string): { problems: Problem[]; proposedScale: number } {
    const { mesh } = residents.get(id)!.loaded;
    return { problems: inspectMesh(mesh), proposedScale: proposedScale(mesh) };
  },

  /** Which face of a mesh is which of another, and all that lies on the first one's faces, carried to the other. `looks`: equal numbers for old faces that look the same. */
  matchMeshes(
    before: string,
    after: string,
    looks: Uint32Array,
    model: Pick<Model, 'seams' | 'picks'>,
    seats: Seats,
  ): { match: Omit<FaceMatch, 'frame'>; carried: Carried } {
    const [old, now] = [residents.get(before)!.loaded.mesh, residents.get(after)!.loaded.mesh];
    const { frame, ...match } = matchFaces(old, now, (f, g) => looks[f] === looks[g]);
    // Places are compared where the match was found.
    const carried = carryAll(model, seats, { ...old, positions: frame }, now, match.from, cornersBy(match));
    return { match, carried };
  },

  /** All that lies on a mesh's faces, carried to what a repair made of it. */
  carryRepaired(
    before: string,
    after: string,
    model: Pick<Model, 'seams' | 'picks'>,
    seats: Seats,
    { oldFaces, turned }: Pick<Repaired, 'oldFaces' | 'turned'>,
  ): Carried {
    const [old, now] = [residents.get(before)!.loaded.mesh, residents.get(after)!.loaded.mesh];
    return carryAll(model, seats, old, now, oldFaces, (f, corner, size) => (turned?.[f] ? (size - corner) % size : corner));
  },

  async repair(id: string, files: NamedFile[], repair: Repair, options: RepairOptions) {
    const { mesh, ...repaired } = repairMesh(residents.get(id)!.loaded.mesh, repair, options);
    const packed = pack(mesh);
    const address = await contentAddress(packed);
    const { loaded } = settle(address, mesh, await readPictures(files));
    return { address, packed, loaded, ...repaired };
  },

  /** Vertex colors of a mesh grouped to at most `count`. */
  vertexColors(id: string, count: number): VertexColors {
    return vertexColorGroups(residents.get(id)!.loaded.mesh, count);
  },

  /** What a model costs as it came in. */
  async costBefore(id: string, files: NamedFile[]): Promise<Cost> {
    return costBefore(residents.get(id)!.loaded, files);
  },
};

async function finishImport(file: NamedFile, result: ReadModelResult): Promise<ImportedModel> {
  const packed = pack(result.mesh);
  const address = await contentAddress(packed);
  const files = await Promise.all(result.keep.map(async (f) => ({ ...f, content: await contentAddress(f.bytes) })));
  const { loaded } = settle(address, result.mesh, await readPictures(files));
  const { min, max } = loaded.bounds;
  return {
    address,
    packed,
    files,
    format: result.format,
    name: result.name,
    triangles: result.trianglesRead,
    mended: result.mended,
    fileBytes: file.bytes.length,
    report: {
      name: file.name,
      format: result.format,
      faces: faceCount(loaded.mesh),
      triangles: triangleCount(loaded.mesh),
      vertices: loaded.adjacency.pointCount,
      parts: loaded.adjacency.partStart.length - 1,
      materials: materialCount(loaded.mesh),
      uvSets: loaded.mesh.uvSets.length,
      vertexColors: loaded.mesh.cornerColors !== undefined,
      size: [max[0] - min[0], max[1] - min[1], max[2] - min[2]],
      allTriangles: result.allTriangles,
      mended: result.mended,
      problems: inspectMesh(loaded.mesh),
      proposedScale: proposedScale(loaded.mesh),
      notes: result.notes,
      cost: await costBefore(loaded, files),
    },
  };
}

async function costBefore(loaded: LoadedMesh, files: NamedFile[]): Promise<Cost> {
  if (loaded.mesh.source?.primitives && files[0]) {
    return costOfGltf((await openKept(files, codecs)).document);
  }
  const pictures = files.filter((f) => /\.(png|jpe?g|webp|tga|bmp)$/i.test(f.name));
  return costAsRead(
    loaded.mesh,
    loaded.adjacency.normals,
    pictures.reduce((sum, f) => sum + f.bytes.length, 0),
  );
}
