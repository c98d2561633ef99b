import * as Comlink from 'comlink';
import { Ray, Vector3 } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import { inspectMesh, type Problem } from '@/core/check/inspectMesh';
import { proposedScale, repairMesh, type Repair, type RepairOptions } from '@/core/check/repair';
import { matchFaces, type FaceMatch } from '@/core/carry/matchFaces';
import { costOfGltf } from '@/core/budget/costOfGltf';
import { costAsRead, type Cost } from '@/core/budget/tally';
import type { ExportModel, LeaveAs } from '@/core/io/exportModel';
import { safeName, uniqueNames } from '@/core/io/fileNames';
import { openGltf } from '@/core/io/gltf/openGltf';
import { writeGlb } from '@/core/io/gltf/writeGlb';
import { contentAddress, pack, unpack } from '@/core/io/pack';
import { decodePicture } from '@/core/io/decodePicture';
import { probePicture, type KitPictures } from '@/core/io/picture';
import { encodePng } from '@/core/io/png';
import { isModelFile, type NamedFile } from '@/core/io/fileKinds';
import { readModel, type ReadModelResult } from '@/core/io/readModel';
import { writeObj } from '@/core/io/writeObj';
import type { Kit, Sheet } from '@/core/kit/kit';
import { adjacencyOf, type Adjacency } from '@/core/mesh/adjacency';
import { checkMesh } from '@/core/mesh/checkMesh';
import { colorsAsRead, stackPictures, type PictureStack } from '@/core/mesh/colorsAsRead';
import { boundsOf, type Bounds } from '@/core/mesh/measure';
import { faceCount, materialCount, triangleCount, type PolyMesh } from '@/core/mesh/polyMesh';
import { triangulate, type Triangles } from '@/core/mesh/triangulate';
import { missedFaces, ringsFrom, type Missed } from '@/core/pick/change';
import { facesThroughBrush, type Brush } from '@/core/pick/brush';
import { likeFaces } from '@/core/pick/likeParts';
import { projectVertices, type Outline } from '@/core/pick/outline';
import { nearestCorner, nearestEdge } from '@/core/pick/ring';
import { facesOf, type PickRequest } from '@/core/pick/scopes';
import { mirrorPlanes, twinsAcross, type MirrorPlane, type Symmetry } from '@/core/pick/symmetry';
import { proposeAngles, type ProposedAngles } from '@/core/pick/proposeAngles';
import { vertexColorGroups, type VertexColors } from '@/core/seat/byMaterial';
import { encodeSheet, type EncodedSheet } from '@/core/sheet/encode';
import type { Raster } from '@/core/sheet/raster';
import { countColors, drawSeries, type DrawnPalette } from '@/core/picture/drawColors';
import type { Lines } from '@/core/picture/findLines';
import { readBlocks, recognise, type Finding } from '@/core/picture/readBlocks';
import { lineUpAtScale, type Sitter } from '@/core/view/lineUp';
import type { PresentView } from '@/core/view/presentView';
import type { FaceRaster, RasterInput } from '@/core/view/rasterFaces';
import { buildTree, firstShown, hiddenFaces } from './rays';
import { facesThrough, rasterOf, seenFaces, smallFacesInOutline, type Reach } from './facesInOutline';
import { visibleArea } from '@/core/view/visibleArea';
import { sideBySide, thumbnail } from '@/core/view/thumbnail';
import { readPalette, writePalette } from '@/core/palette/paletteFile';
import { readArchive, writeArchive } from '@/data/archive';
import { zipSync } from 'fflate';
import type { Hex } from '@/core/color/hex';
import { codecs, pictureDecoder } from './codecs';

/** A mesh with all that the page needs to show it and to pick on it. */
export interface LoadedMesh {
  id: string;
  mesh: PolyMesh;
  adjacency: Adjacency;
  triangles: Triangles;
  bounds: Bounds;
  angles: ProposedAngles;
  /** The color that each face came in with, 4 bytes, and the pictures. */
  asRead: Uint8Array;
  pictures: PictureStack | null;
}

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

/** What is portrayed: a mesh by its address, and the cell of each face. */
export interface Portrait {
  mesh: string;
  cells: Uint16Array;
  /** Colors of faces on cells that differ from place to place, 4 bytes for each face; alpha 0 for the others. */
  faceColors?: Uint8Array;
}

/** A picture that sheets are drawn from, by its address. */
export interface PictureFile {
  address: string;
  bytes: Uint8Array;
}

/** What a ray meets: a face, and the numbers of its nearest edge and corner. */
export interface Hit {
  face: number;
  edge: number;
  corner: number;
}

/** What a view leaves out: faces that are hidden, and what lies before a plane. */
export interface Shown {
  hidden: Uint8Array | null;
  cut: { axis: 0 | 1 | 2; offset: number } | null;
  /** Faces turned to the eye are left out, so that those behind show. */
  behind?: boolean;
}

interface Resident {
  loaded: LoadedMesh;
  bvh?: MeshBVH;
  visible?: Float32Array;
  /** What is not shown, and must not be met. */
  shown?: Shown;
}
const residents = new Map<string, Resident>();
/** The tree for rays, built when the first one is cast. */
const treeOf = (resident: Resident): MeshBVH => (resident.bvh ??= buildTree(resident.loaded));
let palettePicture: Raster | null = null;

const api = {
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
        outcome.errors.push({ file: file.name, message: error instanceof Error ? error.message : String(error) });
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

  /** The face that a ray meets first, and which of its edges and corners are nearest; `null` where there is none. World coordinates in metres. */
  faceAt(id: string, origin: [number, number, number], direction: [number, number, number]): Hit | null {
    const resident = residents.get(id);
    if (!resident) return null;
    const ray = new Ray(new Vector3(...origin), new Vector3(...direction));
    const hit = firstShown(treeOf(resident), ray, resident.loaded, resident.shown);
    if (hit?.faceIndex == null) return null;
    const { mesh, adjacency, triangles } = resident.loaded;
    const face = triangles.face[hit.faceIndex]!;
    const start = mesh.faceStart[face]!;
    const point = hit.point.toArray();
    return { face, edge: nearestEdge(mesh, adjacency, face, point) - start, corner: nearestCorner(mesh, adjacency, face, point) - start };
  },

  /** Floods that are too large for the page. */
  pick(id: string, cells: Uint16Array, seams: readonly number[], request: PickRequest): Uint32Array {
    const { loaded } = residents.get(id)!;
    const faces = facesOf({ mesh: loaded.mesh, adjacency: loaded.adjacency, cells, seams }, request)!;
    return Comlink.transfer(faces, [faces.buffer]);
  },

  /** The same faces on all parts that are like theirs. */
  likeFaces(id: string, faces: Uint32Array, tolerance: number): Uint32Array {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return likeFaces(mesh, adjacency, faces, tolerance);
  },

  /** What a drag may have left out or taken by accident, on meshes too large for the page. */
  missedFaces: (id: string, picked: Uint8Array): Missed => missedFaces(residents.get(id)!.loaded.adjacency, picked),

  /** How many rings each face lies from the pick, on such meshes. */
  ringsFrom: (id: string, picked: Uint8Array): Float32Array => ringsFrom(residents.get(id)!.loaded.adjacency, picked),

  /** From now on only what is shown is met by rays and outlines. */
  setShown(id: string, shown: Shown): void {
    const resident = residents.get(id);
    if (resident) resident.shown = shown;
  },

  mirrorPlanes(id: string, tolerance: number): (MirrorPlane & { share: number })[] {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return mirrorPlanes(mesh, adjacency, tolerance);
  },

  twinsAcross(id: string, plane: MirrorPlane, tolerance: number): Symmetry {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return twinsAcross(mesh, adjacency, plane, tolerance);
  },

  /** Which face owns each pixel under a camera. */
  faceRaster(id: string, view: PresentView): FaceRaster {
    const { loaded, shown } = residents.get(id)!;
    const raster = rasterOf(loaded, view, shown);
    return Comlink.transfer(raster, [raster.faces.buffer]);
  },

  /** All faces that an outline on the screen takes through the model. */
  facesThrough(id: string, view: PresentView, outline: Outline, reach: Reach): Uint32Array {
    const { loaded, shown } = residents.get(id)!;
    return facesThrough(loaded, view, outline, reach, shown);
  },

  /** Faces under a brush through the model, at each of its places. */
  brushThrough(id: string, view: PresentView, brush: Omit<Brush, 'x' | 'y'>, places: [number, number][]): number[] {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    const { hidden } = residents.get(id)!.shown ?? {};
    const screen = projectVertices(mesh, view.matrix, view.width, view.height);
    const taken = new Set(places.flatMap(([x, y]) => facesThroughBrush(mesh, adjacency, screen, { ...brush, x, y })));
    return [...taken].filter((f) => !hidden?.[f]);
  },

  /** Faces in an outline that own no pixel (`owns`: 1 for those that do) and are seen all the same. */
  smallFacesInOutline(id: string, view: PresentView, outline: Outline, reach: Reach, owns: Uint8Array): Uint32Array {
    const resident = residents.get(id)!;
    return smallFacesInOutline(resident.loaded, treeOf(resident), view, outline, reach, owns, resident.shown);
  },

  /** Those of some faces that are truly seen. */
  seenFaces(id: string, view: PresentView, faces: Uint32Array): Uint32Array {
    const resident = residents.get(id)!;
    return seenFaces(resident.loaded, treeOf(resident), view, faces, resident.shown);
  },

  /** Faces that cannot be seen from any side. */
  hiddenFaces(id: string): Uint32Array {
    const resident = residents.get(id)!;
    const { loaded } = resident;
    return hiddenFaces(loaded, treeOf(resident), loaded.adjacency.normals);
  },

  /** A PNG of a model as it stands. */
  thumbnail(of: Portrait, cellColors: Uint8Array, size: number): Uint8Array {
    return encodePng(portray(of, cellColors, size));
  },

  /** One PNG of up to four models side by side. */
  groupPortrait(models: Portrait[], cellColors: Uint8Array, size: number): Uint8Array {
    return encodePng(
      sideBySide(
        models.map((m) => portray(m, cellColors, size)),
        4,
      ),
    );
  },

  /** Models side by side at one scale; see `lineUpAtScale`. */
  lineUp(models: Portrait[], cellColors: Uint8Array, height: number, flat: boolean): Raster {
    const raster = lineUpAtScale(
      models.map((m) => sitterOf(m, cellColors)),
      height,
      flat,
    );
    return Comlink.transfer(raster, [raster.data.buffer]);
  },

  /** Square metres of each face that are seen from around; computed once for a mesh. */
  visibleArea(id: string): Float32Array {
    const resident = residents.get(id)!;
    const { loaded } = resident;
    return (resident.visible ??= visibleArea(rasterInputOf(loaded), loaded.bounds, faceCount(loaded.mesh)));
  },

  problems(id: string): { problems: Problem[]; proposedScale: number } {
    const { mesh } = residents.get(id)!.loaded;
    return { problems: inspectMesh(mesh), proposedScale: proposedScale(mesh) };
  },

  /** Which face of a mesh is which of another; `looks`: equal numbers for old faces that look the same. */
  matchMeshes(before: string, after: string, looks: Uint32Array): FaceMatch {
    return matchFaces(residents.get(before)!.loaded.mesh, residents.get(after)!.loaded.mesh, (f, g) => looks[f] === looks[g]);
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

  async exportGlb(
    kit: Kit,
    models: ExportModel[],
    pictures: PictureFile[],
    { unlit, as }: { unlit: boolean; as: LeaveAs },
  ): Promise<{ bytes: Uint8Array; cost: Cost }> {
    const bytes = await writeGlb(kit, models, { unlit, as, codecs, pictures: await openPictures(pictures) });
    return { bytes, cost: costOfGltf((await openGltf('export.glb', bytes)).document) };
  },

  async exportObjZip(kit: Kit, models: ExportModel[], pictures: PictureFile[], name: string, as: LeaveAs): Promise<Uint8Array> {
    const files = writeObj(kit, models, safeName(name), { pictures: await openPictures(pictures), as });
    return zipSync(Object.fromEntries(uniqueNames(files.map((f) => f.name)).map((n, i) => [n, files[i]!.bytes])));
  },

  readPalette,
  writePalette,
  writeArchive,
  readArchive,
  encodePng: (raster: Raster) => encodePng(raster),

  /** Each sheet as the file that it leaves as. */
  async encodeSheets(sheets: Sheet[], pictures: PictureFile[]): Promise<EncodedSheet[]> {
    const opened = await openPictures(pictures);
    return sheets.map((s) => encodeSheet(s, opened));
  },

  /** Recognises what a palette picture holds; it stays open for `readBlocks`. */
  async openPalettePicture(name: string, bytes: Uint8Array): Promise<{ raster: Raster; finding: Finding }> {
    await pictureDecoder();
    palettePicture = decodePicture(name, bytes);
    return { raster: palettePicture, finding: recognise(palettePicture) };
  },

  /** What lies between lines that were moved by hand. */
  readBlocks(lines: Lines): Finding {
    if (!palettePicture) throw new Error('No palette picture is open.');
    return readBlocks(palettePicture, lines);
  },

  /** Palettes of 1 to `most` colors that stand for a picture. */
  drawColors(raster: Raster, most: number, locked: Hex[]): DrawnPalette[] {
    return drawSeries(countColors(raster), most, locked);
  },

  async decodePicture(name: string, bytes: Uint8Array): Promise<Raster> {
    await pictureDecoder();
    const raster = decodePicture(name, bytes);
    return Comlink.transfer(raster, [raster.data.buffer]);
  },
};

export type CoreWorker = typeof api;
Comlink.expose(api);

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
    const { document } = await openGltf(files[0].name, files[0].bytes, new Map(files.slice(1).map((f) => [f.name, f.bytes])), codecs);
    return costOfGltf(document);
  }
  const pictures = files.filter((f) => /\.(png|jpe?g|webp|tga|bmp)$/i.test(f.name));
  return costAsRead(
    loaded.mesh,
    loaded.adjacency.normals,
    pictures.reduce((sum, f) => sum + f.bytes.length, 0),
  );
}

/** Bare faces without any color of their own. */
const bare = [205, 205, 203];

function portray(of: Portrait, cellColors: Uint8Array, size: number): Raster {
  const { input, bounds, normals, colorOf } = sitterOf(of, cellColors);
  return thumbnail(input, bounds, normals, colorOf, size);
}

function rasterInputOf({ mesh, triangles }: LoadedMesh): RasterInput {
  return {
    positions: mesh.positions,
    triangleVertices: triangles.corners.map((c) => mesh.cornerVertex[c]!),
    triangleFace: triangles.face,
  };
}

function sitterOf({ mesh: id, cells, faceColors }: Portrait, cellColors: Uint8Array): Sitter {
  const { loaded } = residents.get(id)!;
  const { asRead, bounds, adjacency } = loaded;
  const colorOf = (f: number) => {
    const cell = cells[f]!;
    if (faceColors?.[f * 4 + 3]) return faceColors.subarray(f * 4, f * 4 + 3);
    if (cell) return cellColors.subarray(cell * 4, cell * 4 + 3);
    return asRead[f * 4 + 3] ? asRead.subarray(f * 4, f * 4 + 3) : bare;
  };
  return { input: rasterInputOf(loaded), bounds, normals: adjacency.normals, colorOf };
}

/** Keeps a mesh in this worker. */
function settle(id: string, mesh: PolyMesh, pictures: Map<string, Raster>): Resident {
  const adjacency = adjacencyOf(mesh);
  const triangles = triangulate(mesh, adjacency.normals);
  const stack = stackPictures(mesh, pictures);
  const resident: Resident = {
    loaded: {
      id,
      mesh,
      adjacency,
      triangles,
      bounds: boundsOf(mesh),
      angles: proposeAngles(adjacency),
      asRead: colorsAsRead(mesh, pictures, stack?.names),
      pictures: stack,
    },
  };
  residents.set(id, resident);
  return resident;
}

/** Pictures that the platform can decode, by lower-case name; others are passed over. */
async function readPictures(files: NamedFile[]): Promise<Map<string, Raster>> {
  const out = new Map<string, Raster>();
  for (const { name, bytes } of files) {
    try {
      if (/\.(png|jpe?g|webp)$/i.test(name)) {
        await pictureDecoder();
        out.set(name.toLowerCase(), decodePicture(name, bytes));
      } else if (/\.(gltf|glb)$/i.test(name)) for (const [n, raster] of await gltfPictures(name, bytes, files)) out.set(n, raster);
    } catch (error) {
      console.warn(`The picture “${name}” cannot be shown.`, error);
    }
  }
  return out;
}

async function gltfPictures(name: string, bytes: Uint8Array, files: NamedFile[]): Promise<[string, Raster][]> {
  const { document } = await openGltf(name, bytes, new Map(files.map((f) => [f.name, f.bytes])), codecs);
  const out: [string, Raster][] = [];
  for (const [i, material] of document.getRoot().listMaterials().entries()) {
    const texture = material.getBaseColorTexture();
    const image = texture?.getImage();
    if (!texture || !image) continue;
    if (!probePicture(image)) continue;
    await pictureDecoder();
    const raster = decodePicture(texture.getName() || name, image);
    out.push([(texture.getName() || texture.getURI() || `picture ${i + 1}`).toLowerCase(), raster]);
  }
  return out;
}

/** Pictures decoded lately, for sheets that are encoded again and again. */
const decoded = new Map<string, Raster>();

async function openPictures(files: PictureFile[]): Promise<KitPictures> {
  if (files.length) await pictureDecoder();
  const wanted = new Set(files.map((f) => f.address));
  for (const address of decoded.keys()) if (!wanted.has(address)) decoded.delete(address);
  const out = new Map<string, { bytes: Uint8Array; raster: Raster }>();
  for (const { address, bytes } of files) {
    const raster = decoded.get(address) ?? decodePicture('A picture of the sheet', bytes);
    decoded.set(address, raster);
    out.set(address, { bytes, raster });
  }
  return out;
}
