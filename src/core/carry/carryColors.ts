import { facesWhere } from '../mesh/facesWhere';
import { copySeats, group, type Edit } from '../edit/edit';
import { findModel, type KitState, type Region, type Seats } from '../kit/kit';
import type { PolyMesh } from '../mesh/polyMesh';
import { unlockedFaces } from '../regions/regions';
import { carryEdgesAndPicks, remeshedFrom } from './carryModel';
import { carrySeats, type OldCorner } from './carrySeats';
import { matchKinds, type FaceMatch } from './matchFaces';

/** Equal numbers for faces that look the same: same cell, same region, and in a cell that differs from place to place only the face itself. */
export function looksOf(seats: Seats): Uint32Array {
  return Uint32Array.from(seats.cell, (cell, f) => (seats.at ? f : cell * 65536 + seats.region[f]!));
}

/** On parts that moved corners go by their order; elsewhere by their places. */
const cornersBy =
  ({ by }: FaceMatch): OldCorner =>
  (f, corner) =>
    by[f] === matchKinds.indexOf('moved') + 1 || by[f] === matchKinds.indexOf('order') + 1 ? corner : -1;

/** A model takes the mesh that its file holds now, with everything that is known of its faces. What was not matched is uncolored. */
export function reread(
  state: KitState,
  modelId: string,
  match: FaceMatch,
  old: PolyMesh,
  now: { mesh: PolyMesh; address: string; source: NonNullable<Extract<Edit, { kind: 'remesh' }>['after']['source']> },
): Edit {
  const model = findModel(state.kit, modelId);
  const seats = state.seats[modelId]!;
  return group(`Read ${model.name} again`, [
    {
      kind: 'remesh',
      model: modelId,
      before: remeshedFrom(model, seats),
      after: {
        mesh: now.address,
        faces: match.from.length,
        seats: carrySeats(seats, old, now.mesh, match.from, cornersBy(match)),
        source: now.source,
        ...carryEdgesAndPicks(model, old, now.mesh, match.from, cornersBy(match)),
        ...(model.placement && { placement: model.placement }),
      },
    },
  ]);
}

/**
 * The colors and regions of one model come to another, face by face as they were matched. Faces without a match, or whose match has no color, stay as they are, and so do
 * those of locked regions. Regions are taken for the same where they have the same name.
 */
export function carryColors(
  state: KitState,
  fromId: string,
  toId: string,
  match: FaceMatch,
  meshes: { from: PolyMesh; to: PolyMesh },
): { edit: Edit; carried: number } {
  const [from, to] = [findModel(state.kit, fromId), findModel(state.kit, toId)];
  const [given, own] = [state.seats[fromId]!, state.seats[toId]!];
  const brought = carrySeats(given, meshes.from, meshes.to, match.from, cornersBy(match));
  const regions = [...to.regions];
  const idOf = new Map(from.regions.map((r) => [r.id, idIn(regions, r, new Set(brought.region))]));
  const matched = facesWhere(match.from.length, (f) => match.from[f]! >= 0 && given.cell[match.from[f]!] !== 0);
  const faces = unlockedFaces(to, own, matched);
  const seats = copySeats(own);
  if (brought.at) seats.at ??= new Float32Array(meshes.to.cornerVertex.length * 2).fill(0.5);
  for (const f of faces) {
    seats.cell[f] = brought.cell[f]!;
    if (brought.region[f]) seats.region[f] = idOf.get(brought.region[f]!) ?? 0;
    if (brought.at) {
      const [start, end] = [meshes.to.faceStart[f]! * 2, meshes.to.faceStart[f + 1]! * 2];
      seats.at!.set(brought.at.subarray(start, end), start);
    }
  }
  const before = remeshedFrom(to, own);
  const edits: Edit[] = [
    { kind: 'put', list: 'models', of: 'kit', index: state.kit.models.indexOf(to), before: to, after: { ...to, regions } },
    { kind: 'remesh', model: toId, before, after: { ...before, seats } },
  ];
  return { edit: group(`Carry colors from ${from.name}`, edits), carried: faces.length };
}

/** The region of this name among the others; it joins them where there is none yet and any face needs it. */
function idIn(regions: Region[], region: Region, needed: ReadonlySet<number>): number {
  const same = regions.find((r) => r.name === region.name);
  if (same) return same.id;
  const id = 1 + Math.max(0, ...regions.map((r) => r.id));
  if (needed.has(region.id)) regions.push({ id, name: region.name, cell: region.cell });
  return id;
}
