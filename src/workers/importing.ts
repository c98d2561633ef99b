import { wordsOf } from '@/core/ground/wordsOf';
import { costOfGltf } from '@/core/files/budget/costOfGltf';
import { costAsRead, type Cost } from '@/core/files/budget/tally';
import { carryAll, type Carried, type OnFaces } from '@/core/faces/carry/carryModel';
import { matchFaces, type FaceMatch } from '@/core/faces/carry/matchFaces';
import { inspectMesh, type Problem } from '@/core/shapes/check/inspectMesh';
import { proposedScale, repairMesh, type Repair, type RepairOptions } from '@/core/shapes/check/repair';
import { isModelFile, type NamedFile } from '@/core/ground/bytes/fileKinds';
import { openKept } from '@/core/files/gltf/openGltf';
import { contentAddress, pack } from '@/core/ground/bytes/pack';
import { readModel, type ReadModelResult } from '@/core/files/formats/readModel';
import type { Seats } from '@/core/kit/kit';
import { adjacencyOf } from '@/core/shapes/mesh/adjacency';
import type { FaceOrigins } from '@/core/shapes/mesh/faceOrigins';
import { faceCount, materialCount, type PolyMesh, triangleCount } from '@/core/shapes/mesh/polyMesh';
import { vertexColorGroups, type VertexColors } from '@/core/faces/seat/byMaterial';
import { codecs } from './codecs';
import { given, meshAt, newMesh, prepareMesh, readMesh, picturesOf } from './meshes';
import type { LoadedMesh } from './residents';

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
  loaded: LoadedMesh;
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
    return given(outcome);
  },

  /** What the page needs of a stored mesh. `files`: the pictures it came with. */
  async prepare(id: string, files: NamedFile[], onProgress: (share: number) => unknown): Promise<LoadedMesh> {
    const mesh = await readMesh(id);
    void onProgress(0.1);
    return given(prepareMesh(id, mesh, await picturesOf(files), (share) => void onProgress(share)));
  },

  async problems(id: string): Promise<{ problems: Problem[]; proposedScale: number }> {
    const mesh = await meshAt(id);
    return { problems: inspectMesh(mesh), proposedScale: proposedScale(mesh) };
  },

  /**
   * Which face of a mesh is which of another, and all that lies on the first one's faces, carried to the
   * other. `looks`: equal numbers for old faces that look the same.
   */
  async matchMeshes(
    before: string,
    after: string,
    looks: Uint32Array,
    model: OnFaces,
    seats: Seats,
    onProgress: (share: number) => unknown,
  ): Promise<{ match: FaceMatch; carried: Carried }> {
    const [old, now] = [await readMesh(before), await readMesh(after)];
    const match = matchFaces(
      old,
      now,
      (f, g) => looks[f] === looks[g],
      (share) => void onProgress(share),
    );
    return given({ match, carried: carryAll(model, seats, old, now, match.origins) });
  },

  /** All that lies on a mesh's faces, carried to what a repair or a cut made of it. */
  async carryRemeshed(before: string, after: string, model: OnFaces, seats: Seats, origins: FaceOrigins): Promise<Carried> {
    return carryAll(model, seats, await readMesh(before), await readMesh(after), origins);
  },

  /** A mesh repaired; the page keeps it. */
  async repair(id: string, files: NamedFile[], repair: Repair, options: RepairOptions) {
    const { mesh, ...repaired } = repairMesh(await meshAt(id), repair, options);
    return given({ ...(await newMesh(mesh, files)), ...repaired });
  },

  /** Vertex colors of a mesh grouped to at most `count`. */
  async vertexColors(id: string, count: number): Promise<VertexColors> {
    return vertexColorGroups(await meshAt(id), count);
  },

  /** What a model costs as it came in. */
  async costBefore(id: string, files: NamedFile[]): Promise<Cost> {
    const mesh = await meshAt(id);
    return costOf(mesh, files);
  },
};

async function finishImport(file: NamedFile, result: ReadModelResult): Promise<ImportedModel> {
  const packed = pack(result.mesh);
  const address = await contentAddress(packed);
  const files = await Promise.all(result.keep.map(async (f) => ({ ...f, content: await contentAddress(f.bytes) })));
  const loaded = prepareMesh(address, result.mesh, await picturesOf(files));
  const { min, max } = loaded.bounds;
  return {
    loaded,
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
      cost: await costOf(loaded.mesh, files),
    },
  };
}

async function costOf(mesh: PolyMesh, files: NamedFile[]): Promise<Cost> {
  if (mesh.source?.primitives && files[0]) {
    return costOfGltf((await openKept(files, codecs)).document);
  }
  const pictures = files.filter((f) => /\.(png|jpe?g|webp|tga|bmp)$/i.test(f.name));
  return costAsRead(
    mesh,
    adjacencyOf(mesh).normals,
    pictures.reduce((sum, f) => sum + f.bytes.length, 0),
  );
}
