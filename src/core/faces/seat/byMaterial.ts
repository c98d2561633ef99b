import { rgbFromHex, hexFromRgb, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Rgb } from '../../ground/color/oklab';
import { quantize } from '../../ground/color/quantize';
import { applyEdit } from '../../kit/edit/editKinds';
import { group, type Edit } from '../../kit/edit/edit';
import { seatFaces } from '../../kit/edit/seatFaces';
import { findModel, findSheet, usableCells, type KitState, type Sheet } from '../../kit/kit';
import { measureFaces } from '../../shapes/mesh/measure';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { unlockedFaces } from '../regions/regions';
import { newColor } from '../../sheet/newColor';

/** A color that faces came in with, and the faces. */
export interface SourceColor {
  name: string;
  color: Hex;
  faces: Uint32Array;
}

/** OKLab distance under which two colors are shown as near. */
export const nearDistance = 0.04;

/** The flat materials of a mesh with their faces; empty slots are left out. */
export function materialColors(mesh: PolyMesh): SourceColor[] {
  const faces: number[][] = mesh.slots.map(() => []);
  for (let f = 0; f < faceCount(mesh); f++) faces[mesh.faceSlot[f]!]!.push(f);
  return mesh.slots.flatMap(({ name, color, given, picture }, i) =>
    given && !picture && faces[i]!.length ? [{ name, color, faces: Uint32Array.from(faces[i]!) }] : [],
  );
}

export interface VertexColors {
  colors: SourceColor[];
  /** OKLab distances between faces' colors and their group's. */
  maxError: number;
  meanError: number;
}

/** The mean color of each face's corners, grouped to at most `count` colors by area. */
export function vertexColorGroups(mesh: PolyMesh, count: number): VertexColors {
  if (!mesh.cornerColors) return { colors: [], maxError: 0, meanError: 0 };
  const { areas } = measureFaces(mesh);
  const faces = faceCount(mesh);
  const input = Array.from({ length: faces }, (_, f) => ({ rgb: faceVertexColor(mesh, f), weight: areas[f]! }));
  const { colors, assignment, maxError, meanError } = quantize(input, count);
  const members: number[][] = colors.map(() => []);
  assignment.forEach((c, f) => members[c]!.push(f));
  return {
    colors: colors
      .map((rgb, i) => ({ name: `vertex color ${i + 1}`, color: hexFromRgb(rgb), faces: Uint32Array.from(members[i]!) }))
      .filter((c) => c.faces.length),
    maxError,
    meanError,
  };
}

export function faceVertexColor(mesh: PolyMesh, face: number): Rgb {
  const colors = mesh.cornerColors!;
  const start = mesh.faceStart[face]!;
  const size = mesh.faceStart[face + 1]! - start;
  const sum = [0, 0, 0];
  for (let c = start; c < start + size; c++) for (let k = 0; k < 3; k++) sum[k]! += colors[c * 4 + k]!;
  return [Math.round(sum[0]! / size), Math.round(sum[1]! / size), Math.round(sum[2]! / size)];
}

/** For each color, the sheet's cell that has it exactly, and the nearest one with its OKLab distance. */
export function matchCells(
  sheet: Sheet,
  colors: readonly { color: Hex }[],
): { exact: number | null; nearest: number | null; distance: number }[] {
  const solids = usableCells(sheet).flatMap((c) =>
    c.fill.kind === 'solid' ? [{ id: c.id, color: c.fill.color, lab: labFromRgb(rgbFromHex(c.fill.color)) }] : [],
  );
  return colors.map(({ color }) => {
    const lab = labFromRgb(rgbFromHex(color));
    let nearest: number | null = null;
    let distance = Infinity;
    for (const s of solids) {
      const d = labDistance(lab, s.lab);
      if (d < distance) [nearest, distance] = [s.id, d];
    }
    return { exact: solids.find((s) => s.color === color)?.id ?? null, nearest, distance };
  });
}

/**
 * One edit that seats each color's faces, but for those of locked regions, on a cell of exactly that color: a
 * cell that is there, or a new one on a spare. `mergeNear`: use a near cell (`nearDistance`) of the sheet
 * instead of a new one.
 */
export function seatColors(state: KitState, modelId: string, colors: readonly SourceColor[], { mergeNear = false } = {}): Edit | null {
  const model = findModel(state.kit, modelId);
  const sheetId = model.sheet;
  const edits: Edit[] = [];
  let next = state;
  const take = (edit: Edit | null) => {
    if (!edit) return;
    edits.push(edit);
    if (edit.kind !== 'seat') next = applyEdit(next, edit);
  };
  for (const source of colors) {
    const open = unlockedFaces(model, state.seats[modelId]!, source.faces);
    if (source.faces.length && !open.length) continue;
    const [match] = matchCells(findSheet(next.kit, sheetId), [source]);
    let cell = match!.exact ?? (mergeNear && match!.distance <= nearDistance ? match!.nearest : null);
    if (cell === null) {
      const made = newColor(next, { sheet: sheetId, color: source.color, role: source.name });
      take(made.edit);
      cell = made.cell;
    }
    take(seatFaces(modelId, state.seats[modelId]!.cell, open, cell));
  }
  return edits.length ? group('Take the colors it came with', edits) : null;
}
