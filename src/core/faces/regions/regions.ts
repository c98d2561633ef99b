import { mostIn } from '../../ground/limits';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { applyEdit } from '../../kit/edit/editKinds';
import { group, type Edit } from '../../kit/edit/edit';
import { seatFaces, spansOf } from '../../kit/edit/seatFaces';
import { findCell, findModel, type KitState, type Model, type Region, type Seats } from '../../kit/kit';
import { count } from '../../ground/words';

const replaceModel = (state: KitState, before: Model, after: Model): Edit => ({
  kind: 'put',
  list: 'models',
  of: 'kit',
  index: state.kit.models.indexOf(before),
  before,
  after,
});

function withRegions(state: KitState, modelId: string, change: (list: Region[]) => Region[]): Edit {
  const model = findModel(state.kit, modelId);
  return replaceModel(state, model, { ...model, regions: change(model.regions) });
}

/** Faces change their region (0: none); `null` where nothing changes. */
function move(model: string, seats: Seats, faces: Uint32Array, to: number): Edit | null {
  const spans = spansOf(seats.region, faces, to);
  return spans.length ? { kind: 'region', model, spans } : null;
}

const present = (...edits: (Edit | null)[]): Edit[] => edits.filter((e): e is Edit => e !== null);

/** Faces become a region with a name; with a color (`cell`, 0: none) they take it in the same act. Returns the edit and the region's id. Throws where the model can
 * have no more regions, and where all of the faces are locked. */
export function makeRegion(
  state: KitState,
  modelId: string,
  faces: Uint32Array,
  name: string,
  cell: number,
): { edit: Edit; region: number } {
  const model = findModel(state.kit, modelId);
  const seats = state.seats[modelId]!;
  if (model.regions.length >= mostIn.regions)
    throw new Error(`“${model.name}” has ${mostIn.regions} regions; that is as many as it can have.`);
  const region = 1 + Math.max(0, ...model.regions.map((r) => r.id));
  const open = openFaces(model, seats, faces);
  const edits = present(
    withRegions(state, modelId, (list) => [...list, { id: region, name, cell }]),
    move(modelId, seats, open, region),
    cell ? seatFaces(modelId, seats.cell, open, cell) : null,
  );
  return { edit: group(`Name the region ${name}`, edits), region };
}

/** Several regions at once, each with its faces; faces that are in one already keep it. */
export function makeRegions(state: KitState, modelId: string, list: readonly { name: string; faces: Uint32Array; cell?: number }[]): Edit {
  const edits: Edit[] = [];
  let next = state;
  const region = state.seats[modelId]!.region;
  for (const { name, faces, cell = 0 } of list) {
    const free = faces.filter((f) => region[f] === 0);
    if (!free.length) continue;
    const made = makeRegion(next, modelId, free, name, cell);
    edits.push(made.edit);
    // Only the model's list changes what comes after; its faces are apart.
    const [put] = (made.edit as { edits: Edit[] }).edits;
    next = applyEdit(next, put!);
  }
  return group(`Make ${count(edits.length, 'region')}`, edits);
}

/** Faces join a region and take its color, where that is one still. */
export function joinRegion(state: KitState, modelId: string, id: number, faces: Uint32Array): Edit | null {
  const { name, cell: own } = regionOf(state, modelId, id);
  const fill = findCell(state.kit, own)?.cell.fill;
  const cell = fill && fill.kind !== 'spare' ? own : 0;
  const seats = state.seats[modelId]!;
  const open = openFaces(findModel(state.kit, modelId), seats, faces, id);
  // A locked region takes faces in, but nothing colors them there; so they come with the color that they have.
  const seated = cell
    ? seatFaces(
        modelId,
        seats.cell,
        open.filter((f) => seats.region[f] !== id),
        cell,
      )
    : null;
  const edits = present(seated, move(modelId, seats, open, id));
  return edits.length ? group(`Add to ${name}`, edits) : null;
}

/** Faces of a region leave it; they keep their color. */
export function leaveRegion(state: KitState, modelId: string, id: number, faces: Uint32Array): Edit | null {
  const seats = state.seats[modelId]!;
  const own = faces.filter((f) => seats.region[f] === id);
  const edit = move(modelId, seats, own, 0);
  return edit && group(`Take from ${regionOf(state, modelId, id).name}`, [edit]);
}

export function renameRegion(state: KitState, modelId: string, id: number, name: string): Edit {
  return group('Rename a region', [changeRegion(state, modelId, id, { name })]);
}

export function lockRegion(state: KitState, modelId: string, id: number, locked: boolean): Edit {
  return group(locked ? 'Lock a region' : 'Unlock a region', [changeRegion(state, modelId, id, { locked })]);
}

/** The region's color, which all its faces take. */
export function colorRegion(state: KitState, modelId: string, id: number, cell: number): Edit {
  const seats = state.seats[modelId]!;
  const edits = present(
    changeRegion(state, modelId, id, { cell }),
    cell ? seatFaces(modelId, seats.cell, facesOfRegion(seats, id), cell) : null,
  );
  return group(`Color ${regionOf(state, modelId, id).name}`, edits);
}

/** One region's faces go to another, and it is gone. Throws where it is locked. */
export function mergeRegion(state: KitState, modelId: string, from: number, into: number): Edit {
  const { locked, name } = regionOf(state, modelId, from);
  if (locked) throw new Error(`“${name}” is locked: unlock it first.`);
  const seats = state.seats[modelId]!;
  const edits = present(
    move(modelId, seats, facesOfRegion(seats, from), into),
    withRegions(state, modelId, (list) => list.filter((r) => r.id !== from)),
  );
  return group(`Merge into ${regionOf(state, modelId, into).name}`, edits);
}

/** The name goes; its faces keep their color. */
export function removeRegion(state: KitState, modelId: string, id: number): Edit {
  const seats = state.seats[modelId]!;
  const { name } = regionOf(state, modelId, id);
  const edits = present(
    move(modelId, seats, facesOfRegion(seats, id), 0),
    withRegions(state, modelId, (list) => list.filter((r) => r.id !== id)),
  );
  return group(`Remove the region ${name}`, edits);
}

/** A region moves up (-1) or down (1) in the list. */
export function reorderRegion(state: KitState, modelId: string, id: number, by: -1 | 1): Edit | null {
  const { regions } = findModel(state.kit, modelId);
  const at = regions.findIndex((r) => r.id === id);
  const other = regions[at + by];
  if (!other) return null;
  return group('Reorder regions', [
    withRegions(state, modelId, (list) => list.map((r, i) => (i === at ? other : i === at + by ? list[at]! : r))),
  ]);
}

export function facesOfRegion({ region }: Seats, id: number): Uint32Array {
  return facesWhere(region.length, (f) => region[f] === id);
}

/** Faces without those of locked regions, except for one region. */
export function unlockedFaces(model: Model, { region }: Pick<Seats, 'region'>, faces: Uint32Array, except = 0): Uint32Array {
  const locked = new Set(model.regions.filter((r) => r.locked && r.id !== except).map((r) => r.id));
  return locked.size ? faces.filter((f) => !locked.has(region[f]!)) : faces;
}

/** The faces that may go to a region: not those of other, locked ones. Throws where none is left. */
function openFaces(model: Model, seats: Seats, faces: Uint32Array, into = 0): Uint32Array {
  const open = unlockedFaces(model, seats, faces, into);
  if (faces.length && !open.length) throw new Error('All of these faces lie in locked regions. Unlock them first.');
  return open;
}

function regionOf(state: KitState, modelId: string, id: number): Region {
  const found = findModel(state.kit, modelId).regions.find((r) => r.id === id);
  if (!found) throw new Error('The model has no such region any more.');
  return found;
}

function changeRegion(state: KitState, modelId: string, id: number, change: Partial<Region>): Edit {
  regionOf(state, modelId, id);
  return withRegions(state, modelId, (list) => list.map((r) => (r.id === id ? cleaned({ ...r, ...change }) : r)));
}

/** An open region carries no word about locks. */
function cleaned({ locked, ...rest }: Region): Region {
  return locked ? { ...rest, locked } : rest;
}
