import { byId } from '../ground/byId';
import type { Edit } from '../kit/edit/edit';
import { spansOf } from '../kit/edit/seatFaces';
import type { KitState } from '../kit/kit';
import { facesWhere } from '../shapes/mesh/facesWhere';

/** Every texel of painted art that shows one of these cells shows the other (0: nothing). */
export function moveTexels({ pixels = byId() }: KitState, to: ReadonlyMap<number, number>): Edit[] {
  return Object.entries(pixels).flatMap(([art, { cells }]): Edit[] => {
    const on = facesWhere(cells.length, (t) => to.has(cells[t]!));
    const spans = spansOf(cells, on, (cell) => to.get(cell)!);
    return spans.length ? [{ kind: 'pixels', art, spans }] : [];
  });
}
