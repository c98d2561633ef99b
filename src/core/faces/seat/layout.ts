import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Cell, Seats, Sheet } from '../../kit/kit';

/** Where a face's seat puts it on the sheet; UVs from the top left, as in glTF. */
export type Place = (out: Float32Array, at: number, seatX: number, seatY: number) => void;

/**
 * uv = layout(cell) ∘ seat. A solid cell is its middle, which is exact in float32 on power-of-two sheets; a
 * gradient runs between the centres of its first and last texel along its axis and stays in the middle across
 * it; art runs edge to edge.
 */
export function placeOn(sheet: Sheet, cell: Cell): Place {
  const { x, y, w, h } = cell.rect;
  const { width, height } = sheet;
  const middleX = (x + w / 2) / width;
  const middleY = (y + h / 2) / height;
  const between = (start: number, size: number, t: number) => {
    const v = start + 0.5 + t * (size - 1);
    // On the border of two texels a face would flicker between them; a hair beyond it is always the second.
    return Math.abs(v - Math.round(v)) < 1 / 256 ? Math.round(v) + 1 / 128 : v;
  };
  const set = (out: Float32Array, at: number, u: number, v: number) => {
    out[at] = u;
    out[at + 1] = v;
  };
  switch (cell.fill.kind) {
    case 'solid':
    case 'spare':
      return (out, at) => set(out, at, middleX, middleY);
    case 'gradient': {
      const along = cell.fill.axis;
      return (out, at, sx, sy) =>
        along === 'x' ? set(out, at, between(x, w, sx) / width, middleY) : set(out, at, middleX, between(y, h, sy) / height);
    }
    case 'corners':
      return (out, at, sx, sy) => set(out, at, between(x, w, sx) / width, between(y, h, sy) / height);
    case 'art':
      return (out, at, sx, sy) => set(out, at, (x + sx * w) / width, (y + sy * h) / height);
  }
}

/**
 * UVs of every corner that sits on one of the sheet's cells, 2 for each corner; `undefined` UVs (faces on no
 * cell of this sheet) are left as `base` has them, or zero.
 */
export function layoutUvs(mesh: PolyMesh, seats: Seats, sheet: Sheet, base?: Float32Array): Float32Array {
  const uvs = base ? base.slice() : new Float32Array(mesh.cornerVertex.length * 2);
  const places: (Place | undefined)[] = [];
  for (const own of sheet.cells) places[own.id] = placeOn(sheet, own);
  const { cell, at } = seats;
  for (let f = 0; f < cell.length; f++) {
    const place = places[cell[f]!];
    if (!place) continue;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) place(uvs, c * 2, at ? at[c * 2]! : 0.5, at ? at[c * 2 + 1]! : 0.5);
  }
  return uvs;
}
