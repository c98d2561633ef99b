import type { ById } from '../../ground/byId';
import type { Kit, KitState, Seats } from '../kit';

/** Faces of each cell over models: cell id to counts by model. */
export function usesOfCells({
  kit,
  seats,
}: {
  kit: Kit;
  seats: ById<Pick<Seats, 'cell'>>;
}): Map<number, { faces: number; models: number }> {
  const uses = new Map<number, { faces: number; models: number }>();
  const counts = new Uint32Array(65536);
  for (const { cell } of Object.values(seats)) {
    counts.fill(0);
    for (let f = 0; f < cell.length; f++) counts[cell[f]!]!++;
    for (let id = 1; id < kit.nextCell; id++) {
      if (!counts[id]) continue;
      const use = uses.get(id) ?? { faces: 0, models: 0 };
      use.faces += counts[id]!;
      use.models++;
      uses.set(id, use);
    }
  }
  return uses;
}

/** The same with cells that only variants use: of those, the faces that sit on them there. */
export function usesInAll(state: KitState): Map<number, { faces: number; models: number }> {
  const uses = usesOfCells(state);
  for (const own of Object.values(state.patches ?? {}))
    for (const [cell, use] of usesOfCells({ kit: state.kit, seats: own })) if (!uses.has(cell)) uses.set(cell, use);
  return uses;
}
