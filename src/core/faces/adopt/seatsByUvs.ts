import { group, type Edit } from '../../kit/edit/edit';
import { findModel, type Cell, type Fill, type KitState, type Sheet } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { unlockedFaces } from '../regions/regions';
import { placeCorners } from '../seat/placeFaces';
import { ruleEdit, seatFaces } from '../../kit/edit/seatFaces';
import { faceTexels, type FaceTexels } from './uvTexels';

/** Where faces come to sit by their UVs. */
export interface UvSeats {
  /** Cell of each face; 0 where it gets none. */
  cell: Uint16Array;
  /** Coordinate inside the cell, 2 for each corner. */
  at: Float32Array;
  /** Faces that lie on more than one cell, or on none. */
  across: number;
}

/** Texels by which a corner may lie beyond its cell. */
const slack = 0.02;

/**
 * Seats faces of a mesh on the cells of a sheet on which their UVs lie. `faces`: those that show the sheet's
 * picture. A face on several cells gets none; nor does one on an empty cell.
 */
export function seatsByUvs(mesh: PolyMesh, faces: Uint32Array, sheet: Sheet): UvSeats {
  const { width, height } = sheet;
  const seats: UvSeats = {
    cell: new Uint16Array(mesh.faceStart.length - 1),
    at: new Float32Array(mesh.cornerVertex.length * 2).fill(0.5),
    across: 0,
  };
  const owner = new Int32Array(width * height).fill(-1);
  sheet.cells.forEach(({ rect, fill }, i) => {
    if (fill.kind === 'spare') return;
    for (let y = rect.y; y < rect.y + rect.h; y++) owner.fill(i, y * width + rect.x, y * width + rect.x + rect.w);
  });
  for (const f of faces) {
    const texels = faceTexels(mesh, f, width, height);
    const [x, y] = texels.middle.map((t, k) => Math.min((k ? height : width) - 1, Math.floor(t))) as [number, number];
    const cell = sheet.cells[owner[y * width + x] ?? -1];
    if (!cell || !isOn(texels, cell)) {
      seats.across++;
      continue;
    }
    seats.cell[f] = cell.id;
    placeIn(cell.fill, cell.rect, texels, seats.at, mesh.faceStart[f]! * 2);
  }
  return seats;
}

function isOn({ points }: FaceTexels, { rect: { x, y, w, h }, fill }: Cell): boolean {
  if (fill.kind === 'art' && fill.repeats) return true;
  for (let i = 0; i < points.length; i += 2) {
    const [px, py] = [points[i]! - x, points[i + 1]! - y];
    if (px < -slack || py < -slack || px > w + slack || py > h + slack) return false;
  }
  return true;
}

/** Writes the coordinates that lie at these texels: the way back from `placeOn`. */
export function placeIn(fill: Fill, { x, y, w, h }: Cell['rect'], { points }: FaceTexels, out: Float32Array, at: number): void {
  // From the middle of the first texel to that of the last; a single texel has no length.
  const between = (t: number, size: number) => (size > 1 ? Math.max(0, Math.min(1, (t - 0.5) / (size - 1))) : 0.5);
  for (let i = 0; i < points.length; i += 2) {
    const [px, py] = [points[i]! - x, points[i + 1]! - y];
    let [sx, sy] = [0.5, 0.5];
    if (fill.kind === 'art') [sx, sy] = [px / w, py / h];
    else if (fill.kind === 'corners') [sx, sy] = [between(px, w), between(py, h)];
    else if (fill.kind === 'gradient') [sx, sy] = fill.axis === 'x' ? [between(px, w), 0.5] : [0.5, between(py, h)];
    out[at + i] = sx;
    out[at + i + 1] = sy;
  }
}

/**
 * The edit that seats faces of a model so, but for those of locked regions; the model comes to the sheet.
 * `null` where no face gets a cell.
 */
export function seatByUvs(state: KitState, modelId: string, sheetId: string, faceStart: Uint32Array, { cell, at }: UvSeats): Edit | null {
  const model = findModel(state.kit, modelId);
  const seats = state.seats[modelId]!;
  const faces = unlockedFaces(
    model,
    seats,
    Uint32Array.from(cell.keys()).filter((f) => cell[f] !== 0),
  );
  if (!faces.length) return null;
  const textured = new Set(
    state.kit.sheets.flatMap((s) => s.cells.flatMap((c) => (c.fill.kind === 'solid' || c.fill.kind === 'spare' ? [] : [c.id]))),
  );
  const placed = placeCorners(
    modelId,
    seats,
    faceStart,
    faces.filter((f) => textured.has(cell[f]!)),
    (out, i, corner) => {
      out[i] = at[corner * 2]!;
      out[i + 1] = at[corner * 2 + 1]!;
    },
  );
  const edits: (Edit | null)[] = [
    model.sheet === sheetId
      ? null
      : {
          kind: 'put',
          list: 'models',
          of: 'kit',
          index: state.kit.models.indexOf(model),
          before: model,
          after: { ...model, sheet: sheetId },
        },
    seatFaces(modelId, seats.cell, faces, (_, f) => cell[f]!),
    placed,
    ruleEdit(modelId, seats, faces, 0),
  ];
  const done = edits.filter((e) => e !== null);
  return done.length ? group(`Seat ${model.name} by its UVs`, done) : null;
}
