import { isTextured, type Cell, type Seats, type Sheet } from '../kit/kit';

/** Where a coordinate inside a cell lies on the sheet, in texels from the top left; a solid cell is its middle. */
export function texelOf({ rect: { x, y, w, h }, fill }: Cell, sx: number, sy: number): [number, number] {
  const between = (start: number, size: number, t: number) => start + 0.5 + t * (size - 1);
  switch (fill.kind) {
    case 'art':
      return [x + sx * w, y + sy * h];
    case 'corners':
      return [between(x, w, sx), between(y, h, sy)];
    case 'gradient':
      return fill.axis === 'x' ? [between(x, w, sx), y + h / 2] : [x + w / 2, between(y, h, sy)];
    default:
      return [x + w / 2, y + h / 2];
  }
}

/**
 * The coordinate inside a cell that lies at these texels; the way back from `texelOf`. Inside of the cell, but on art
 * that repeats.
 */
export function seatAt({ rect: { x, y, w, h }, fill }: Cell, tx: number, ty: number): [number, number] {
  const within = (t: number) => Math.max(0, Math.min(1, t));
  const between = (start: number, size: number, t: number) => (size > 1 ? within((t - start - 0.5) / (size - 1)) : 0.5);
  switch (fill.kind) {
    case 'art':
      return fill.repeats ? [(tx - x) / w, (ty - y) / h] : [within((tx - x) / w), within((ty - y) / h)];
    case 'corners':
      return [between(x, w, tx), between(y, h, ty)];
    case 'gradient':
      return fill.axis === 'x' ? [between(x, w, tx), 0.5] : [0.5, between(y, h, ty)];
    default:
      return [0.5, 0.5];
  }
}

/** Texels of the sheet on which each corner of the faces lies, 2 each, at the corner's number. */
export function texelsOf(
  sheet: Sheet,
  { cell, at }: Pick<Seats, 'cell' | 'at'>,
  faceStart: Uint32Array,
  faces: Iterable<number>,
): Float32Array {
  const out = new Float32Array(faceStart[faceStart.length - 1]! * 2);
  const cells = new Map(sheet.cells.map((c) => [c.id, c]));
  for (const f of faces) {
    const own = cells.get(cell[f]!);
    if (!own) continue;
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
      const [x, y] = texelOf(own, at?.[c * 2] ?? 0.5, at?.[c * 2 + 1] ?? 0.5);
      out[c * 2] = x;
      out[c * 2 + 1] = y;
    }
  }
  return out;
}

/** Cells on which faces lie as islands, not at one point. */
export const islandCells = (sheet: Sheet): Set<number> => new Set(sheet.cells.flatMap((c) => (isTextured(c.fill) ? [c.id] : [])));
