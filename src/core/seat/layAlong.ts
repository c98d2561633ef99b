import { group, type Edit } from '../edit/edit';
import { applyEdit } from '../edit/editKinds';
import { findCell, findModel, type KitState } from '../kit/kit';
import type { Adjacency } from '../mesh/adjacency';
import { facesByPart } from '../mesh/facesByPart';
import type { PolyMesh } from '../mesh/polyMesh';
import { unlockedFaces } from '../regions/regions';
import { aboutRule, type RuleContext, type RuleName } from './gradientRules';
import { placeCorners } from './placeFaces';
import { seatFaces } from './seatFaces';

/** How faces are laid along a gradient. */
export interface Laying {
  rule: RuleName;
  /** Where on the gradient the run begins and ends, 0..1; the end may come first. */
  start: number;
  end: number;
  /** Smooth over each face, or each face in one tone. */
  tone: 'smooth' | 'face';
  /** One run over all of the faces, or one over what of them lies on each part. */
  over: 'pick' | 'part';
  screenUp: RuleContext['screenUp'];
}

/**
 * Where the corners of some faces lie along a run, 0..1 each: a number for each corner of the mesh, of which
 * only those of these faces mean anything. Faces of no extent lie at the beginning.
 */
export function runOf(mesh: PolyMesh, adjacency: Adjacency, faces: Uint32Array, { rule, tone, over, screenUp }: Laying): Float32Array {
  const run = new Float32Array(mesh.cornerVertex.length);
  const { faceStart } = mesh;
  const { measure, range } = aboutRule(rule);
  const sets = over === 'part' ? facesByPart(adjacency, faces).map((p) => p.faces) : [faces];
  for (const set of sets) {
    measure({ mesh, adjacency, faces: set, screenUp }, run);
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
  if (tone === 'face')
    for (const f of faces) {
      const own = run.subarray(faceStart[f]!, faceStart[f + 1]!);
      own.fill(own.reduce((sum, v) => sum + v, 0) / own.length);
    }
  return run;
}

/**
 * The edit that lays faces along a gradient cell, where `run` says (see `runOf`); those of locked regions stay as
 * they are. `faceStart`: first corner of each face. `null` where nothing changes. Throws where the cell is no
 * gradient.
 */
export function layAlong(
  state: KitState,
  modelId: string,
  faceStart: Uint32Array,
  faces: Uint32Array,
  cellId: number,
  run: Float32Array,
  { start, end }: Pick<Laying, 'start' | 'end'>,
): Edit | null {
  const cell = findCell(state.kit, cellId)?.cell;
  if (cell?.fill.kind !== 'gradient') throw new Error('Faces are laid along a gradient: choose one in the tray.');
  const { axis } = cell.fill;
  const seats = state.seats[modelId]!;
  const open = unlockedFaces(findModel(state.kit, modelId), seats, faces);
  const seated = seatFaces(modelId, seats.cell, open, cellId);
  const k = axis === 'x' ? 0 : 1;
  const placed = placeCorners(modelId, seats, faceStart, open, (out, at, corner) => {
    out[at + k] = Math.max(0, Math.min(1, start + run[corner]! * (end - start)));
    out[at + 1 - k] = 0.5;
  });
  const edits = [seated, placed].filter((e) => e !== null);
  return edits.length ? group(`Lay faces along ${cell.role || 'a gradient'}`, edits) : null;
}

/** The seats that an edit of one model would give it, without touching those that it has. */
export function seatsAfter(state: KitState, modelId: string, edit: Edit): KitState['seats'][string] {
  const { cell, region, rule, at } = state.seats[modelId]!;
  const copy = { cell: cell.slice(), region, ...(rule && { rule }), ...(at && { at: at.slice() }) };
  return applyEdit({ ...state, seats: { ...state.seats, [modelId]: copy } }, edit).seats[modelId]!;
}
