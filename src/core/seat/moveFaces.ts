import type { Edit } from '../edit/edit';
import { seatFaces } from './seatFaces';
import type { KitState } from '../kit/kit';

/** Every face of the kit that sits on one of these cells moves to another (0: it becomes uncolored). */
export function moveFaces({ kit, seats }: KitState, from: ReadonlySet<number>, to: number): Edit[] {
  return kit.models.flatMap((model) => {
    const { cell } = seats[model.id]!;
    const faces: number[] = [];
    for (let f = 0; f < cell.length; f++) if (from.has(cell[f]!)) faces.push(f);
    return seatFaces(model.id, cell, Uint32Array.from(faces), to) ?? [];
  });
}
