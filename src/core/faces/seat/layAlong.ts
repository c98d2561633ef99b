import { inherits } from '../../ground/limits';
import { withId } from '../../ground/byId';
import { group, type Edit, type PlaceEdit } from '../../kit/edit/edit';
import { patchesOfModel } from '../../kit/patches';
import { applyEdit } from '../../kit/edit/editKinds';
import { findCell, findModel, type Fill, type Kit, type KitState, type Model, type Seats } from '../../kit/kit';
import type { Adjacency } from '../../shapes/mesh/adjacency';
import { facesByPart } from '../../shapes/mesh/facesByPart';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { unlockedFaces } from '../regions/regions';
import { aboutRule } from '../../kit/laying/gradientRules';
import { placeCorners } from './placeFaces';
import { ruleEdit, seatFaces } from '../../kit/edit/seatFaces';
import type { Laying, SeatRule } from '../../kit/laying/seatRule';

/**
 * Where the corners of some faces come to lie on a gradient, 0..1 each: a number for each corner of the mesh, of
 * which only those of these faces mean anything. Faces of no extent lie at the beginning.
 */
export function runOf(mesh: PolyMesh, adjacency: Adjacency, faces: Uint32Array, laying: Laying): Float32Array {
  const run = new Float32Array(mesh.cornerVertex.length);
  const { faceStart } = mesh;
  const { rule, over, screenUp, line } = laying;
  const { measure, range } = aboutRule(rule);
  const sets = over === 'part' ? facesByPart(adjacency, faces).map((p) => p.faces) : [faces];
  for (const set of sets) {
    measure({ mesh, adjacency, faces: set, screenUp, ...(line && { line }) }, run);
    let [least, most] = range ?? [Infinity, -Infinity];
    if (!range)
      for (const f of set)
        for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
          const v = run[c]!;
          if (v < least) least = v;
          if (v > most) most = v;
        }
    const scale = most > least ? 1 / (most - least) : 0;
    for (const f of set)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) run[c] = Math.max(0, Math.min(1, (run[c]! - least) * scale));
  }
  for (const f of faces) settleFace(run.subarray(faceStart[f]!, faceStart[f + 1]!), laying);
  return run;
}

/** From how far corners of one face are along the run to where they lie on the gradient. */
function settleFace(own: Float32Array, { start, end, repeat, offset, tone, bands }: Laying): void {
  let mean = 0;
  for (let i = 0; i < own.length; i++) {
    own[i] = own[i]! * repeat + offset;
    mean += own[i]! / own.length;
  }
  // A face across the place where the run begins again stays on the side of its middle; the very end belongs
  // to the last run.
  const turn = Math.max(0, Math.min(Math.floor(mean), Math.ceil(repeat + offset) - 1));
  for (let i = 0; i < own.length; i++) {
    let t = tone === 'smooth' ? own[i]! : mean;
    t = Math.max(0, Math.min(1, t - turn));
    if (tone === 'bands') t = bands > 1 ? Math.min(bands - 1, Math.floor(t * bands)) / (bands - 1) : 0;
    own[i] = Math.max(0, Math.min(1, start + t * (end - start)));
  }
}

/** Fills along which faces can be laid. */
export const isGradientFill = (fill: Fill): boolean => fill.kind === 'gradient' || fill.kind === 'corners';

/** Where corners come to lie, for each direction of a gradient; see `runOf`. */
export interface Runs {
  along: Float32Array;
  cross?: Float32Array | undefined;
}

/**
 * The edit that lays faces along a gradient cell, where `runs` say; those of locked regions stay as they are. The
 * faces remember the rule: the one of number `rule.id` takes these words, 0 makes a new one; rules that no face
 * remembers any more go. `faceStart`: first corner of each face. `null` where nothing changes. Throws where the
 * cell is no gradient.
 */
export function layAlong(
  state: KitState,
  modelId: string,
  faceStart: Uint32Array,
  faces: Uint32Array,
  cellId: number,
  rule: SeatRule,
  runs: Runs,
): Edit | null {
  const cell = findCell(state.kit, cellId)?.cell;
  if (!cell || !isGradientFill(cell.fill)) throw new Error('Faces are laid along a gradient: choose one in the tray.');
  const model = findModel(state.kit, modelId);
  const seats = state.seats[modelId]!;
  const open = unlockedFaces(model, seats, faces);
  if (!open.length) return null;
  const seated = seatFaces(modelId, seats.cell, open, cellId);
  // A gradient along one direction lies in the middle of the other.
  const k = cell.fill.kind === 'gradient' && cell.fill.axis === 'y' ? 1 : 0;
  const cross = cell.fill.kind === 'corners' ? runs.cross : undefined;
  const placed = placeCorners(modelId, seats, faceStart, open, (out, at, corner) => {
    out[at + k] = runs.along[corner]!;
    out[at + 1 - k] = cross ? cross[corner]! : 0.5;
  });
  const id = rule.id || freeRule(model);
  const remembered = ruleEdit(modelId, seats, open, id);
  const edits = [ruleChange(state, model, afterRule(state, model, open, id), { ...rule, id }), seated, placed, remembered].filter(
    (e) => e !== null,
  );
  return edits.length ? group(`Lay faces along ${cell.role || 'a gradient'}`, edits) : null;
}

/** Numbers of rules are kept in 16 bits. */
const mostRules = inherits - 1;
function freeRule({ rules = [] }: Model): number {
  const taken = new Set(rules.map((r) => r.id));
  let id = 1;
  while (taken.has(id)) id++;
  if (id > mostRules) throw new Error(`A model can remember ${mostRules} ways of laying faces, and these are used up.`);
  return id;
}

/** Rules that are remembered by any face, in any coloring, once these faces remember another one. */
function afterRule(state: KitState, { id: model }: Model, faces: Uint32Array, id: number): Set<number> {
  const { rule } = state.seats[model]!;
  const after = rule?.slice() ?? new Uint16Array();
  for (const f of faces) if (rule) after[f] = id;
  const inVariants = Object.values(patchesOfModel(state, model)).flatMap((p) => [...new Set(p.rule)]);
  return new Set([...after, ...inVariants]).add(id);
}

/** The edit by which a model's list has a rule, and no more than faces remember; `null` where it is so. */
function ruleChange({ kit }: KitState, model: Model, used: ReadonlySet<number>, rule: SeatRule): Edit | null {
  const rules = [...(model.rules ?? []).filter((r) => r.id !== rule.id && used.has(r.id)), rule].sort((a, b) => a.id - b.id);
  if (JSON.stringify(rules) === JSON.stringify(model.rules)) return null;
  return { kind: 'put', list: 'models', of: 'kit', index: kit.models.indexOf(model), before: model, after: { ...model, rules } };
}

/** Whether a face is laid along the gradient that it sits on. */
export const isLaid = ({ cell, rule }: Seats, gradients: ReadonlySet<number>, face: number): boolean =>
  (rule?.[face] ?? 0) !== 0 && gradients.has(cell[face]!);

/** Cells along which faces can be laid. */
export const gradientCells = ({ sheets }: Kit): Set<number> =>
  new Set(sheets.flatMap((s) => s.cells.flatMap((c) => (isGradientFill(c.fill) ? [c.id] : []))));

/**
 * The edit by which faces that are laid along gradients lie on another one as they did: where that runs the other
 * way on the sheet, their coordinates change places. `null` where they do not have to.
 */
export function turnedRuns(
  { kit }: KitState,
  modelId: string,
  seats: Seats,
  faceStart: Uint32Array,
  faces: Uint32Array,
  cellId: number,
): PlaceEdit | null {
  const axisOf = (cell: number) => {
    const fill = findCell(kit, cell)?.cell.fill;
    return fill?.kind === 'gradient' && fill.axis === 'y' ? 1 : 0;
  };
  const axis = axisOf(cellId);
  const turned = faces.filter((f) => axisOf(seats.cell[f]!) !== axis);
  if (!turned.length || !seats.at) return null;
  return placeCorners(modelId, seats, faceStart, turned, (out, at, corner) => {
    out[at] = seats.at![corner * 2 + 1]!;
    out[at + 1] = seats.at![corner * 2]!;
  });
}

/** The seats that an edit of one model would give it, without touching those that it has. */
export function seatsAfter(state: KitState, modelId: string, edit: Edit): Seats {
  const { cell, region, rule, at } = state.seats[modelId]!;
  const copy = { cell: cell.slice(), region, ...(rule && { rule: rule.slice() }), ...(at && { at: at.slice() }) };
  return applyEdit({ ...state, seats: withId(state.seats, modelId, copy) }, edit).seats[modelId]!;
}
