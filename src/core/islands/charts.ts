import type { Cell } from '../kit/kit';
import type { Adjacency } from '../shapes/mesh/adjacency';
import type { Triangles } from '../shapes/mesh/triangulate';
import { trianglesOfFaces, type Surface } from './unwrap/chart';
import { marginOf } from './arrangeIslands';
import { boundsOf, type Island } from './islandsOf';
import { packPieces, quarter, type Piece, type Placed } from './pack';
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

/** How islands are packed; in texels. */
export interface Packing {
  /** Between islands at least, and between those of different groups. */
  margin: number;
  groupMargin?: number;
  /** To the border of the cell at least. */
  clearance: number;
  /** Whether islands may be turned by quarters. */
  mayTurn?: boolean;
  /** The group of each island. */
  groups?: ArrayLike<number>;
  /** What lies on the cell already and stays: see `piecesOn`. */
  fixed?: readonly Piece[];
  /** Texels a unit at most. */
  most?: number;
}

/**
 * Lays areas flat on a cell, each as it is seen straight on, all at one size, side by side (see `packIslands`); the
 * factor is in texels a metre.
 */
export function layCharts(surface: Surface, charts: readonly Uint32Array[], cell: Cell, packing: Packing): Packed {
  const { mesh, adjacency } = surface;
  const metres = new Float32Array(mesh.cornerVertex.length * 2);
  for (const faces of charts) {
    const { right, up } = facing(adjacency.normals, adjacency.areas, faces);
    const flat = project(mesh, faces, right, up);
    for (const f of faces) metres.set(flat.subarray(mesh.faceStart[f]! * 2, mesh.faceStart[f + 1]! * 2), mesh.faceStart[f]! * 2);
  }
  return packIslands(surface, charts, metres, cell, packing);
}

/**
 * Lays islands side by side on a cell, all sized by one factor, as large as they find room. `places`: where their
 * corners lie now, in any unit. Method: shelves, exact for boxes, and pieces on a grid (see `packPieces`); what is
 * larger is taken.
 */
export function packIslands(
  { mesh: { faceStart }, triangles }: Surface,
  islands: readonly Uint32Array[],
  places: Float32Array,
  cell: Cell,
  packing: Packing,
): Packed {
  const texels = new Float32Array(places.length);
  const bounds = islands.map((faces) => boundsOf(faces, faceStart, places));
  const free = marginOf(cell, packing.clearance);
  const [width, height] = [Math.max(0, cell.rect.w - 2 * free), Math.max(0, cell.rect.h - 2 * free)];
  const [left, top] = [cell.rect.x + free, cell.rect.y + free];
  const onShelves = packing.fixed?.length || packing.groupMargin ? null : packOnShelves(bounds, width, height, packing);
  const fixed = packing.fixed?.map((piece) => piece.map((v, i) => v - (i % 2 ? top : left)));
  const { size, places: onGrid } = packPieces(piecesOn(triangles, faceStart.length - 1, islands, places), {
    width,
    height,
    margin: packing.margin,
    mayTurn: packing.mayTurn ?? false,
    ...(packing.groups && { groups: packing.groups }),
    ...(packing.groupMargin !== undefined && { groupMargin: packing.groupMargin }),
    ...(fixed && { fixed }),
    ...(packing.most !== undefined && { most: packing.most }),
  });
  const isGrid = size > (onShelves?.size ?? 0);
  const factor = isGrid ? size : (onShelves?.size ?? 0);
  islands.forEach((faces, i) => {
    // Not even points find room where the margins alone take it: then they lie as points in the middle.
    const { quarters, x, y } = isGrid ? onGrid[i]! : (onShelves?.places[i] ?? { quarters: 0, x: width / 2, y: height / 2 });
    for (const f of faces)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        const [px, py] = quarter(places[c * 2]! * factor, places[c * 2 + 1]! * factor, quarters);
        texels[c * 2] = left + x + px;
        texels[c * 2 + 1] = top + y + py;
      }
  });
  return { texels, factor };
}

/** Islands as what packing takes: their triangles, where their corners lie. `faces`: how many the mesh has. */
export function piecesOn(triangles: Triangles, faces: number, islands: readonly Uint32Array[], places: Float32Array): Piece[] {
  const start = trianglesOfFaces(triangles, faces);
  return islands.map((list) => {
    const own: number[] = [];
    for (const f of list)
      for (let t = start[f]! * 3; t < start[f + 1]! * 3; t++) {
        const c = triangles.corners[t]! * 2;
        own.push(places[c]!, places[c + 1]!);
      }
    return Float64Array.from(own);
  });
}

/** The same on shelves; `null` where they do not fit at any size. */
function packOnShelves(
  bounds: readonly Island['bounds'][],
  width: number,
  height: number,
  { margin, most = Infinity }: Packing,
): { size: number; places: Placed[] } | null {
  const at = (size: number) =>
    shelves(
      bounds.map(([x0, x1, y0, y1]) => [(x1 - x0) * size, (y1 - y0) * size] as const),
      width,
      height,
      margin,
    );
  const longest = Math.max(...bounds.map(([x0, x1, y0, y1]) => Math.max(x1 - x0, y1 - y0)), 1e-9);
  let [fits, over] = [0, Math.min(most, Math.max(width, height) / longest)];
  for (let i = 0; i < 40; i++) {
    const size = i === 0 ? over : (fits + over) / 2;
    if (at(size)) fits = size;
    else over = size;
  }
  const found = at(fits);
  return (
    found && { size: fits, places: found.map(([x, y], i) => ({ quarters: 0, x: x - bounds[i]![0] * fits, y: y - bounds[i]![2] * fits })) }
  );
}
