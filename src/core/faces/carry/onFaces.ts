import { inherits } from '../../ground/limits';
import type { KitState, Model, SeatPatch, Seats } from '../../kit/kit';
import { patchesOfModel } from '../../kit/patches';
import type { OnFaces } from '../../shapes/dissolve/partingEdges';
import { facesOfSpans } from '../../shapes/pick/namedPicks';
import { texturedCells } from '../seat/colorsOfFaces';

/**
 * What lies on a model's faces, for all that would join some of them: faces look the same that have the same cell, rule and region, in
 * every variant, and are in the same named picks. Coordinates count where a cell differs from place to place; `faceStart`: of its mesh.
 */
export function onFacesOf(state: KitState, model: Model, faceStart: Uint32Array): OnFaces {
  const seats = state.seats[model.id]!;
  const patches = Object.values(patchesOfModel(state, model.id));
  const said = [seats, ...patches].flatMap(({ cell, rule }: Pick<Seats | SeatPatch, 'cell' | 'rule'>) => [cell, ...(rule ? [rule] : [])]);
  const inPicks = (model.picks ?? []).map((pick) => {
    const own = new Uint16Array(seats.cell.length);
    for (const f of facesOfSpans(pick.spans)) own[f] = 1;
    return own;
  });
  const lists = [...said, seats.region, ...inPicks];
  const numbers = new Map<string, number>();
  const looks = Uint32Array.from(seats.cell, (_, f) => {
    const key = lists.map((list) => list[f]).join(' ');
    if (!numbers.has(key)) numbers.set(key, numbers.size);
    return numbers.get(key)!;
  });
  const textured = texturedCells(state.kit);
  const placed = (cellOf: (f: number) => number, at: Float32Array): Float32Array => {
    const out = at.slice();
    for (let f = 0; f + 1 < faceStart.length; f++) if (!textured[cellOf(f)]) out.fill(NaN, faceStart[f]! * 2, faceStart[f + 1]! * 2);
    return out;
  };
  const at = [
    ...(seats.at ? [placed((f) => seats.cell[f]!, seats.at)] : []),
    ...patches.flatMap((p) => (p.at ? [placed((f) => (p.cell[f] === inherits ? seats.cell[f]! : p.cell[f]!), p.at)] : [])),
  ];
  return { looks, at, seams: model.seams };
}
