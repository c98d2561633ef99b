import type { Cell } from '../kit/kit';
import type { Adjacency } from '../mesh/adjacency';
import type { PolyMesh } from '../mesh/polyMesh';
import { marginOf } from './arrangeIslands';
import { boundsOf } from './islandsOf';
import { facing, project } from './project';

/**
 * Some faces in areas that are nearly flat: connected over edges, and no face turned from the first of its area by
 * more than `angle` degrees. The first is the largest that is left.
 */
export function flatAreas(
  { faceStart, neighbour, cornerFace, normals, areas }: Adjacency,
  faces: Uint32Array,
  angle: number,
): Uint32Array[] {
  const isLeft = new Uint8Array(faceStart.length - 1);
  for (const f of faces) isLeft[f] = 1;
  const least = Math.cos((angle * Math.PI) / 180) - 1e-6;
  const found: Uint32Array[] = [];
  for (const first of faces.slice().sort((a, b) => areas[b]! - areas[a]! || a - b)) {
    if (!isLeft[first]) continue;
    isLeft[first] = 0;
    const area = [first];
    for (let i = 0; i < area.length; i++)
      for (let c = faceStart[area[i]!]!; c < faceStart[area[i]! + 1]!; c++) {
        const g = neighbour[c]! < 0 ? -1 : cornerFace[neighbour[c]!]!;
        if (g < 0 || !isLeft[g]) continue;
        const dot = [0, 1, 2].reduce((sum, k) => sum + normals[first * 3 + k]! * normals[g * 3 + k]!, 0);
        if (dot < least) continue;
        isLeft[g] = 0;
        area.push(g);
      }
    found.push(Uint32Array.from(area));
  }
  return found;
}

/** Boxes by width and height, in rows one below the other, the highest first; `null` where they do not fit. */
export function shelves(
  boxes: readonly (readonly [number, number])[],
  width: number,
  height: number,
  margin: number,
): [number, number][] | null {
  const places: [number, number][] = boxes.map(() => [0, 0]);
  let [x, y, row] = [0, 0, 0];
  for (const i of boxes.map((_, k) => k).sort((p, q) => boxes[q]![1] - boxes[p]![1] || boxes[q]![0] - boxes[p]![0] || p - q)) {
    const [w, h] = boxes[i]!;
    if (x > 0 && x + w > width) [x, y, row] = [0, y + row + margin, 0];
    if (x + w > width + 1e-9 || y + h > height + 1e-9) return null;
    places[i] = [x, y];
    x += w + margin;
    row = Math.max(row, h);
  }
  return places;
}

/** Where islands come to lie, and by what they were sized. */
export interface Packed {
  /** Texels for each corner, 2 each; of corners of other faces 0. */
  texels: Float32Array;
  factor: number;
}

/**
 * Lays areas flat on a cell, each as it is seen straight on, all at one size, side by side (see `packIslands`); the
 * factor is in texels a metre.
 */
export function layCharts(
  mesh: PolyMesh,
  { normals, areas }: Adjacency,
  charts: readonly Uint32Array[],
  cell: Cell,
  margin: number,
  clearance: number,
): Packed {
  const metres = new Float32Array(mesh.cornerVertex.length * 2);
  for (const faces of charts) {
    const { right, up } = facing(normals, areas, faces);
    const flat = project(mesh, faces, right, up);
    for (const f of faces) metres.set(flat.subarray(mesh.faceStart[f]! * 2, mesh.faceStart[f + 1]! * 2), mesh.faceStart[f]! * 2);
  }
  return packIslands(charts, mesh.faceStart, metres, cell, margin, clearance);
}

/**
 * Lays islands side by side on a cell, all sized by one factor, as large as they fit with `margin` texels between
 * them and `clearance` to the border. `places`: where their corners lie now, in any unit. Method: shelves, at sizes
 * halved towards the largest that fits.
 */
export function packIslands(
  islands: readonly Uint32Array[],
  faceStart: Uint32Array,
  places: Float32Array,
  cell: Cell,
  margin: number,
  clearance: number,
): Packed {
  const texels = new Float32Array(places.length);
  const bounds = islands.map((faces) => boundsOf(faces, faceStart, places));
  const free = marginOf(cell, clearance);
  const [w, h] = [Math.max(0, cell.rect.w - 2 * free), Math.max(0, cell.rect.h - 2 * free)];
  const at = (size: number) =>
    shelves(
      bounds.map(([x0, x1, y0, y1]) => [(x1 - x0) * size, (y1 - y0) * size] as const),
      w,
      h,
      margin,
    );
  const longest = Math.max(...bounds.map(([x0, x1, y0, y1]) => Math.max(x1 - x0, y1 - y0)), 1e-9);
  let [fits, over] = [0, Math.max(w, h) / longest];
  for (let i = 0; i < 40; i++) {
    const size = i === 0 ? over : (fits + over) / 2;
    if (at(size)) fits = size;
    else over = size;
  }
  // Not even points fit where the margins alone take the room: then they lie as points without them.
  const corners = at(fits) ?? islands.map((): [number, number] => [w / 2, h / 2]);
  islands.forEach((faces, i) => {
    const [x0, , y0] = bounds[i]!;
    for (const f of faces)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        texels[c * 2] = cell.rect.x + free + corners[i]![0] + (places[c * 2]! - x0) * fits;
        texels[c * 2 + 1] = cell.rect.y + free + corners[i]![1] + (places[c * 2 + 1]! - y0) * fits;
      }
  });
  return { texels, factor: fits };
}
