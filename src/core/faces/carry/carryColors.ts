import { facesWhere } from '../../shapes/mesh/facesWhere';
import { copySeats, findModel, withoutIdleRules, type Kit, type KitState, type Region, type Seats } from '../../kit/kit';
import { group, groupForAll, type Edit } from '../../kit/edit/edit';
import { unlockedFaces } from '../regions/regions';
import { texturedCells } from '../seat/colorsOfFaces';
import { remeshedFrom, type Carried } from './carryModel';
import type { FaceOrigins } from '../../shapes/mesh/faceOrigins';

/**
 * Equal numbers for faces that look the same: same cell, same region and, on a cell that differs from place
 * to place, at the same point. A face laid out along such a cell looks like no other.
 */
export function looksOf(kit: Kit, { cell, region, at }: Seats, faceStart: Uint32Array): Uint32Array {
  const textured = texturedCells(kit);
  const numbers = new Map<number | string, number>();
  let next = 0;
  const numberOf = (key: number | string) => {
    let n = numbers.get(key);
    if (n === undefined) numbers.set(key, (n = next++));
    return n;
  };
  const looks = new Uint32Array(cell.length);
  for (let f = 0; f < cell.length; f++) {
    const c = cell[f]!;
    const plain = c * 65536 + region[f]!;
    if (!at || !textured[c]) {
      looks[f] = numberOf(plain);
      continue;
    }
    const [from, to] = [faceStart[f]! * 2, faceStart[f + 1]! * 2];
    let isPoint = true;
    for (let i = from + 2; i < to && isPoint; i++) isPoint = at[i] === at[from + (i & 1)];
    looks[f] = isPoint ? numberOf(`${plain} ${at[from]} ${at[from + 1]}`) : next++;
  }
  return looks;
}

/**
 * A model takes the mesh that its file holds now, with everything that is known of its faces (`carried`, see
 * `carryAll`). What was not matched is uncolored.
 */
export function reread(
  state: KitState,
  modelId: string,
  carried: Carried,
  now: { address: string; source: NonNullable<Extract<Edit, { kind: 'remesh' }>['after']['source']> },
): Edit {
  const model = findModel(state.kit, modelId);
  return groupForAll(`Read ${model.name} again`, [
    {
      kind: 'remesh',
      model: modelId,
      before: remeshedFrom(state, model),
      after: {
        mesh: now.address,
        faces: carried.seats.cell.length,
        ...carried,
        source: now.source,
        ...(model.placement && { placement: model.placement }),
      },
    },
  ]);
}

/**
 * The colors and regions of one model come to another, face by face as they were matched; `brought`: the
 * first one's seats, carried to the other's mesh. Faces without a match, or whose match has no color, stay as
 * they are, and so do those of locked regions. Regions are taken for the same where they have the same name.
 */
export function carryColors(
  state: KitState,
  fromId: string,
  toId: string,
  { from: matchedFrom }: Pick<FaceOrigins, 'from'>,
  brought: Seats,
  faceStart: Uint32Array,
): { edit: Edit; carried: number } {
  const [from, to] = [findModel(state.kit, fromId), findModel(state.kit, toId)];
  const [given, own] = [state.seats[fromId]!, state.seats[toId]!];
  const regions = [...to.regions];
  const idOf = new Map(from.regions.map((r) => [r.id, idIn(regions, r, new Set(brought.region))]));
  const matched = facesWhere(matchedFrom.length, (f) => matchedFrom[f]! >= 0 && given.cell[matchedFrom[f]!] !== 0);
  const faces = unlockedFaces(to, own, matched);
  const seats = copySeats(own);
  if (brought.at) seats.at ??= new Float32Array(faceStart[to.faces]! * 2).fill(0.5);
  for (const f of faces) {
    seats.cell[f] = brought.cell[f]!;
    // The other model's rules are not known here.
    if (seats.rule) seats.rule[f] = 0;
    if (brought.region[f]) seats.region[f] = idOf.get(brought.region[f]!) ?? 0;
    const [start, end] = [faceStart[f]! * 2, faceStart[f + 1]! * 2];
    // Without coordinates of its own a face sits in the middle, whatever it had here.
    if (brought.at) seats.at!.set(brought.at.subarray(start, end), start);
    else seats.at?.fill(0.5, start, end);
  }
  const before = remeshedFrom(state, to);
  const edits: Edit[] = [
    { kind: 'put', list: 'models', of: 'kit', index: state.kit.models.indexOf(to), before: to, after: { ...to, regions } },
    { kind: 'remesh', model: toId, before, after: { ...before, seats: withoutIdleRules(seats) } },
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
