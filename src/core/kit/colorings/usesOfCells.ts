import { type ById, byId } from '../../ground/byId';
import type { Kit, KitState, Seats } from '../kit';
import { paintedByVariant, texelsOfCells, texelsShowingCells, type PixelsById } from '../pixels';

/** Faces that sit on a cell, of how many models, and texels of painted art that show it. */
export interface Use {
  faces: number;
  models: number;
  texels: number;
}

/** How much a cell is used: faces and texels alike. */
export const weightOf = (use: Use | undefined): number => (use ? use.faces + use.texels : 0);

/** What uses each cell, over models and art, by cell; cells that nothing uses are not there. */
export function usesOfCells({
  kit,
  seats,
  pixels = byId(),
}: {
  kit: Kit;
  seats: ById<Pick<Seats, 'cell'>>;
  pixels?: PixelsById;
}): Map<number, Use> {
  const uses = new Map<number, Use>();
  const useOf = (id: number) => {
    const use = uses.get(id) ?? { faces: 0, models: 0, texels: 0 };
    uses.set(id, use);
    return use;
  };
  const counts = new Uint32Array(65536);
  for (const { cell } of Object.values(seats)) {
    counts.fill(0);
    for (let f = 0; f < cell.length; f++) counts[cell[f]!]!++;
    for (let id = 1; id < kit.nextCell; id++) {
      if (!counts[id]) continue;
      const use = useOf(id);
      use.faces += counts[id]!;
      use.models++;
    }
  }
  for (const [id, texels] of texelsOfCells({ kit, pixels })) useOf(id).texels = texels;
  return uses;
}

/** The same with cells that only variants use: of those, the faces that sit on them there, and the texels. */
export function usesInAll(state: KitState): Map<number, Use> {
  const uses = usesOfCells(state);
  for (const own of Object.values(state.patches ?? {}))
    for (const [cell, use] of usesOfCells({ kit: state.kit, seats: own })) if (!uses.has(cell)) uses.set(cell, use);
  const arts = new Set(state.kit.variants.flatMap((v) => paintedByVariant(v).map(([, art]) => art)));
  const own = [...arts].flatMap((art) => state.pixels?.[art] ?? []);
  for (const [cell, texels] of texelsShowingCells(own, state.kit.nextCell))
    if (!uses.has(cell)) uses.set(cell, { faces: 0, models: 0, texels });
  return uses;
}
