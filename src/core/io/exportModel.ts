import type { Rgb } from '../color/oklab';
import { findCell, type Kit, type Model, type Seats, type Sheet } from '../kit/kit';
import { meanColor, type Pictures } from '../sheet/raster';
import { leavingSlots } from '../slots/slots';
import { triangulate, type Triangles } from '../mesh/triangulate';
import { measureFaces } from '../mesh/measure';
import { faceCount, type PolyMesh } from '../mesh/polyMesh';
import { layoutUvs } from '../seat/layout';
import type { NamedFile } from './fileKinds';

/** All that leaves with one model. */
export interface ExportModel {
  model: Model;
  mesh: PolyMesh;
  seats: Seats;
  /** The files that the model came with and uses: for glTF its own first. */
  files: readonly NamedFile[];
  /** 1 for each face that does not leave. */
  leaveOut?: Uint8Array;
}

/** How colors leave: on the texture that models share, or as one flat material for each slot. */
export type LeaveAs = 'texture' | 'slots';

export interface FlatMaterial {
  number: number;
  name: string;
  /** sRGB; of gradients and art their mean. */
  color: Rgb;
}

/** Faces that leave with one material: a sheet, or the slot that they came in with. */
export interface FaceGroup {
  sheet: Sheet | null;
  /** The flat material that a group leaves with instead of its sheet. */
  flat?: FlatMaterial;
  slot: number;
  faces: Uint32Array;
}

/** Sheets first, in the kit's order, then slots of faces not yet colored. `among`: only these faces. */
export function groupFaces(
  kit: Kit,
  { mesh, seats, model, leaveOut }: Pick<ExportModel, 'mesh' | 'seats' | 'model' | 'leaveOut'>,
  { among, as = 'texture', pictures }: { among?: Uint32Array; as?: LeaveAs; pictures?: Pictures } = {},
): FaceGroup[] {
  const sheetOf = new Map<number, number>();
  kit.sheets.forEach((sheet, s) => sheet.cells.forEach((cell) => sheetOf.set(cell.id, s)));
  const sheets: number[][] = kit.sheets.map(() => []);
  const slots: number[][] = mesh.slots.map(() => []);
  const faces = among ?? Uint32Array.from({ length: faceCount(mesh) }, (_, f) => f);
  for (const f of faces) {
    if (leaveOut?.[f]) continue;
    const s = sheetOf.get(seats.cell[f]!);
    if (s !== undefined) sheets[s]!.push(f);
    else slots[mesh.faceSlot[f]!]!.push(f);
  }
  const colored =
    as === 'slots'
      ? flatGroups(kit, model, seats, sheets.flat(), pictures)
      : sheets.map((list, s) => ({ sheet: kit.sheets[s]!, slot: -1, faces: Uint32Array.from(list) }));
  return [...colored, ...slots.map((list, slot) => ({ sheet: null, slot, faces: Uint32Array.from(list) }))].filter(
    (g) => g.faces.length > 0,
  );
}

/** One group for each slot number, in their order. */
function flatGroups(kit: Kit, model: Model, seats: Seats, faces: readonly number[], pictures?: Pictures): FaceGroup[] {
  const byNumber = new Map<number, FaceGroup & { list: number[] }>();
  const groupOfCell = new Map<number, number[]>();
  for (const { number, name, cell } of leavingSlots(kit, model, seats)) {
    const found = findCell(kit, cell)!;
    let entry = byNumber.get(number);
    if (!entry) {
      entry = {
        sheet: found.sheet,
        slot: -1,
        faces: new Uint32Array(0),
        list: [],
        flat: { number, name, color: meanColor(found.cell.fill, pictures) },
      };
      byNumber.set(number, entry);
    }
    groupOfCell.set(cell, entry.list);
  }
  for (const f of [...faces].sort((a, b) => a - b)) groupOfCell.get(seats.cell[f]!)?.push(f);
  return [...byNumber.values()].map(({ list, ...rest }) => ({ ...rest, faces: Uint32Array.from(list) }));
}

/** UVs under which a group leaves: those of its seats, or the ones that came in. */
export function groupUvs(group: FaceGroup, mesh: PolyMesh, seats: Seats): Float32Array | undefined {
  if (group.flat) return undefined;
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
