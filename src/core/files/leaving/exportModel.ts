import type { ById } from '../../ground/byId';
import type { Rgb } from '../../ground/color/oklab';
import { findCell, type Finish, type Kit, type Model, type SeatPatch, type Seats, type Sheet } from '../../kit/kit';
import { finishOf } from '../../sheet/finish';
import { cutOutCells, opacityOf, seeThroughCells } from '../../sheet/opacity';
import { meanColor } from '../../sheet/raster';
import type { Pictures } from '../../ground/pictures/raster';
import { leavingSlots } from '../../faces/regions/slots';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { smoothNormals, smoothSets } from '../../shapes/mesh/smoothing';
import { triangulate, type Triangles } from '../../shapes/mesh/triangulate';
import { measureFaces } from '../../shapes/mesh/measure';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { isDoubleSided } from '../../kit/sides';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import { layoutUvs } from '../../faces/seat/layout';
import type { NamedFile } from '../../ground/bytes/fileKinds';
import { uniqueNames } from '../../ground/bytes/fileNames';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';

/** All that leaves with one model. */
export interface ExportModel {
  model: Model;
  mesh: PolyMesh;
  seats: Seats;
  /** What variants say of its faces, by variant. */
  patches?: ById<SeatPatch>;
  /** The files that the model came with and uses: for glTF its own first. */
  files: readonly NamedFile[];
  /** 1 for each face that does not leave. */
  leaveOut?: Uint8Array;
  /** What `colorsOfCorners` gives, where it was made already: of a model of many primitives it is asked for again and again. */
  colors?: Uint8Array;
  /** Corners that are shaded as one, where the artist wants it smooth; see `smoothSets`. */
  smooth?: Uint32Array;
}

/** Whether a model came as glTF, whose file is opened again when it leaves. */
export const isGltfModel = ({ model, mesh, files }: Pick<ExportModel, 'model' | 'mesh' | 'files'>): boolean =>
  model.source.format === 'gltf' && mesh.source?.primitives !== undefined && files.length > 0;

/** A model with its shading as it is wanted: without normals of its own where each face is flat. */
export function shadedItem(item: ExportModel, options: Partial<LeaveOptions>): ExportModel {
  const { normals, smoothAngle } = { ...leaveDefaults, ...options };
  if (normals === 'came') return item;
  const { cornerNormals: _, ...bare } = item.mesh;
  if (normals === 'flat') return { ...item, mesh: bare };
  const adjacency = adjacencyOf(item.mesh);
  const { facePrimitive, primitives } = isGltfModel(item) ? (item.mesh.source ?? {}) : {};
  const nodeOf = (f: number) => (facePrimitive && primitives ? primitives[facePrimitive[f]!]!.node : 0);
  const smooth = smoothSets(item.mesh, adjacency, smoothAngle, (f, g) => nodeOf(f) === nodeOf(g));
  return { ...item, smooth, mesh: { ...bare, cornerNormals: smoothNormals(item.mesh, smooth, adjacency, adjacency.normals) } };
}

export interface FlatMaterial {
  number: number;
  name: string;
  /** sRGB; of gradients and art their mean. */
  color: Rgb;
  /** 0..1. */
  alpha: number;
  finish: Finish;
}

/** Faces that leave with one material: a sheet, or the slot that they came in with. */
export interface FaceGroup {
  sheet: Sheet | null;
  /** The flat material that a group leaves with instead of its sheet. */
  flat?: FlatMaterial;
  slot: number;
  faces: Uint32Array;
  /**
   * On cells with opacity below 1: such faces leave with a second material on the same picture, so that the
   * others stay opaque.
   */
  seeThrough: boolean;
  /** Texels are all there or not at all: the material masks instead of blending. */
  isCut?: true;
  /** Seen from behind, too. */
  doubleSided: boolean;
  /** The group leaves with these colors of corners instead of its sheet: sRGB and alpha, 4 for each of the mesh. */
  colors?: Uint8Array;
}

/** Sheets first, in the kit's order, then slots of faces not yet colored. `among`: only these faces; `rasters`: of art, which may be seen through. */
export function groupFaces(
  kit: Kit,
  { mesh, seats, model, leaveOut, colors: made }: Pick<ExportModel, 'mesh' | 'seats' | 'model' | 'leaveOut' | 'colors'>,
  { among, rasters, ...options }: { among?: Uint32Array; rasters?: Pictures } & Partial<LeaveOptions> = {},
): FaceGroup[] {
  const { as, numbered } = { ...leaveDefaults, ...options };
  const sheetOf = new Map<number, number>();
  kit.sheets.forEach((sheet, s) => sheet.cells.forEach((cell) => sheetOf.set(cell.id, s)));
  const clear = seeThroughCells(kit, rasters);
  // Colors of corners know no texels: what is cut away is blended there.
  const cut = as === 'texture' ? cutOutCells(kit, rasters) : new Set<number>();
  const sided = mesh.slots.map((_, slot) => isDoubleSided(model, mesh, slot));
  const sheets = new Map<number, number[]>();
  const slots: number[][] = mesh.slots.map(() => []);
  const faces = among ?? Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f);
  const colored: number[] = [];
  for (const f of faces) {
    if (leaveOut?.[f]) continue;
    const cell = seats.cell[f]!;
    const s = sheetOf.get(cell);
    if (s === undefined) slots[mesh.faceSlot[f]!]!.push(f);
    else if (as === 'slots') colored.push(f);
    else {
      const key = (as === 'colors' ? 0 : s) * 8 + (cut.has(cell) ? 4 : clear.has(cell) ? 2 : 0) + (sided[mesh.faceSlot[f]!] ? 1 : 0);
      const list = sheets.get(key);
      if (list) list.push(f);
      else sheets.set(key, [f]);
    }
  }
  const colors = as === 'colors' && sheets.size ? (made ?? colorsOfCorners(kit, mesh, seats, rasters ?? new Map())) : undefined;
  const onSheets = [...sheets]
    .sort(([a], [b]) => a - b)
    .map(([key, list]): FaceGroup => ({
      sheet: kit.sheets[key >> 3]!,
      slot: -1,
      faces: Uint32Array.from(list),
      seeThrough: (key & 6) > 0,
      ...((key & 4) > 0 && { isCut: true as const }),
      doubleSided: (key & 1) > 0,
      ...(colors && { colors }),
    }));
  const flat =
    as === 'slots' ? flatGroups(kit, model, seats, colored, { pictures: rasters, numbered }, (f) => sided[mesh.faceSlot[f]!]!) : [];
  const bare = slots.flatMap((list, slot): FaceGroup[] =>
    list.length
      ? [
          {
            sheet: null,
            slot,
            faces: Uint32Array.from(list),
            seeThrough: (mesh.slots[slot]!.alpha ?? 1) < 1,
            doubleSided: sided[slot]!,
          },
        ]
      : [],
  );
  return [...onSheets, ...flat, ...bare];
}

/** One group for each slot number, in their order; seen from both sides where one of its faces is. */
function flatGroups(
  kit: Kit,
  model: Model,
  seats: Seats,
  faces: readonly number[],
  { pictures, numbered }: { pictures?: Pictures | undefined; numbered: boolean },
  isSided: (face: number) => boolean,
): FaceGroup[] {
  const byNumber = new Map<number, FaceGroup & { list: number[] }>();
  const groupOfCell = new Map<number, FaceGroup & { list: number[] }>();
  const slots = leavingSlots(kit, model, seats);
  const numbers = [...new Set(slots.map((s) => s.number))];
  // Materials are known by their names; two of one name would be one.
  const plain = uniqueNames(numbers.map((n) => slots.find((s) => s.number === n)!.name));
  const names = numbered ? plain.map((name, i) => `${numbers[i]}-${name}`) : plain;
  for (const { number, cell } of slots) {
    const name = names[numbers.indexOf(number)]!;
    const found = findCell(kit, cell)!;
    let entry = byNumber.get(number);
    if (!entry) {
      const alpha = opacityOf(found.cell.fill, pictures);
      entry = {
        sheet: found.sheet,
        slot: -1,
        faces: new Uint32Array(0),
        list: [],
        flat: { number, name, color: meanColor(found.cell.fill, pictures), alpha, finish: finishOf(found.cell) },
        seeThrough: alpha < 1,
        doubleSided: false,
      };
      byNumber.set(number, entry);
    }
    groupOfCell.set(cell, entry);
  }
  for (const f of faces) {
    const group = groupOfCell.get(seats.cell[f]!);
    if (!group) continue;
    group.list.push(f);
    group.doubleSided ||= isSided(f);
  }
  return [...byNumber.values()].flatMap(({ list, ...rest }) => (list.length ? [{ ...rest, faces: Uint32Array.from(list) }] : []));
}

/** UVs under which a group leaves: those of its seats, or the ones that came in. */
export function groupUvs(group: FaceGroup, mesh: PolyMesh, seats: Seats): Float32Array | undefined {
  if (group.flat || group.colors) return undefined;
  return group.sheet ? layoutUvs(mesh, seats, group.sheet) : mesh.uvSets[0];
}

/** Triangles of each face, to be gathered for a group: `start[f] .. start[f + 1]` in `triangles`. */
export function trianglesByFace(mesh: PolyMesh): { triangles: Triangles; start: Uint32Array; normals: Float32Array } {
  const { normals } = measureFaces(mesh);
  const triangles = triangulate(mesh, normals);
  const start = new Uint32Array(faceCount(mesh) + 1);
  for (const f of triangles.face) start[f + 1]!++;
  for (let f = 0; f < faceCount(mesh); f++) start[f + 1]! += start[f]!;
  return { triangles, start, normals };
}
