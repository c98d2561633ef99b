import { byId } from '../ground/byId';
import type { Edit } from '../kit/edit/edit';
import { facesWhere } from '../shapes/mesh/facesWhere';
import { seatFaces, spansOf } from '../kit/edit/seatFaces';
import type { KitState } from '../kit/kit';

/** Every face of the kit that sits on one of these cells, in any coloring, moves to the other (0: it becomes uncolored). */
export function moveFaces({ kit, seats, patches = byId<never>() }: KitState, to: ReadonlyMap<number, number>): Edit[] {
  const on = (cell: Uint16Array) => facesWhere(cell.length, (f) => to.has(cell[f]!));
  const next = (cell: number) => to.get(cell)!;
  return kit.models.flatMap((model): Edit[] => {
    const { cell } = seats[model.id]!;
    const seated = seatFaces(model.id, cell, on(cell), next);
    const inVariants = kit.variants.flatMap(({ id }): Edit[] => {
      const patch = patches[id]?.[model.id];
      const cells = patch && spansOf(patch.cell, on(patch.cell), next);
      if (!cells?.length) return [];
      const none = { rules: new Uint32Array(), corners: new Uint32Array(), before: new Float32Array(), after: new Float32Array() };
      return [{ kind: 'patch', variant: id, model: model.id, cornerCount: (patch?.at?.length ?? 0) / 2, cells, ...none }];
    });
    return [...(seated ? [seated] : []), ...inVariants];
  });
}
