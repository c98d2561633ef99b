import { maxSheetSize } from '../ground/limits';
import { groupForAll, type Edit } from '../kit/edit/edit';
import { ruleEdit, seatFaces } from '../kit/edit/seatFaces';
import { findCell, findModel, findSheet, type KitState, type Rect, type Sheet } from '../kit/kit';
import { emptyPixels, type Pixels } from '../kit/pixels';
import { unlockedFaces } from '../faces/regions/regions';
import { placeCorners } from '../faces/seat/placeFaces';
import { texelsUnder } from '../faces/seat/texelsOnFaces';
import { facesWhere } from '../shapes/mesh/facesWhere';
import { artBeside } from '../sheet/artBeside';
import { boundsOf } from './islandsOf';
import { layOut } from './layOut';
import type { PolyMesh } from '../shapes/mesh/polyMesh';
import type { Surface } from './unwrap/chart';
import type { Unwrapped } from './unwrap/unwrap';

/** Degrees up to which neighbouring faces become one island: blocks keep their sides, bent strips stay together. */
const flatTo = 12;

/** How faces lie on an art of their own. */
export interface PaintLayout {
  width: number;
  height: number;
  islands: Uint32Array[];
  /** Where each island lies, whole texels from the top left of the art. */
  rects: Rect[];
  /** For each corner of the mesh 2 shares of the art, across and down; of corners of other faces 0. */
  at: Float32Array;
}

/**
 * Lays faces flat on an art of their own at so many texels a metre: every flat area a rectangle of whole texels, so that
 * faces which are rectangles lie square to the grid. `gap`: texels between them. Throws where the art would be larger than
 * a sheet can be.
 */
export function layForPainting(surface: Surface, faces: Uint32Array, density: number, gap: number): PaintLayout {
  const { faceStart } = surface.mesh;
  const { islands, places } = layOut(surface, faces, { kind: 'areas', angle: flatTo }) as Unwrapped;
  const bounds = islands.map((list) => boundsOf(list, faceStart, places));
  const whole = (metres: number) => Math.max(1, Math.round(metres * density));
  const sizes = bounds.map(([x0, x1, y0, y1]) => [whole(x1 - x0), whole(y1 - y0)] as const);
  const { width, height, corners } = packBoxes(sizes, gap);
  const at = new Float32Array(places.length);
  const rects = islands.map((list, i): Rect => {
    const [x0, x1, y0, y1] = bounds[i]!;
    const [w, h] = sizes[i]!;
    const [x, y] = corners[i]!;
    const share = (v: number, least: number, most: number) => (most > least ? (v - least) / (most - least) : 0.5);
    for (const f of list)
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) {
        at[c * 2] = (x + share(places[c * 2]!, x0, x1) * w) / width;
        at[c * 2 + 1] = (y + share(places[c * 2 + 1]!, y0, y1) * h) / height;
      }
    return { x, y, w, h };
  });
  return { width, height, islands, rects, at };
}

interface Laid {
  width: number;
  height: number;
  corners: [number, number][];
}

/**
 * Boxes side by side on the smallest of the widths that are powers of two by area, the squarer of nearly equal ones, `gap`
 * texels apart. Throws where that is larger than a sheet can be.
 */
export function packBoxes(sizes: readonly (readonly [number, number])[], gap: number): Laid {
  const widest = sizes.reduce((most, [w]) => Math.max(most, w), 1);
  const side = Math.sqrt(sizes.reduce((sum, [w, h]) => sum + w * h, 0));
  let best: Laid | null = null;
  for (let width = 1; width <= maxSheetSize; width *= 2) {
    // What is far from a square is never the smallest but where it must be.
    if (width < widest || width < side / 4 || (best && width > side * 4)) continue;
    const corners = boxesOn(sizes, width, gap);
    const height = corners.reduce((most, [, y], i) => Math.max(most, y + sizes[i]![1]), 1);
    if (height > maxSheetSize) continue;
    const isSquarer = best && Math.max(width, height) < Math.max(best.width, best.height);
    if (!best || width * height < best.width * best.height * (isSquarer ? 1.1 : 1)) best = { width, height, corners };
  }
  if (!best) throw new Error(`At this density the art would have more than ${maxSheetSize} texels a side. Choose fewer texels a metre.`);
  return best;
}

/**
 * Boxes on a strip of a width, each where it lies highest and then farthest left, the tallest first; `gap` between them.
 * Method: skyline, bottom left.
 */
function boxesOn(sizes: readonly (readonly [number, number])[], width: number, gap: number): [number, number][] {
  const corners: [number, number][] = sizes.map(() => [0, 0]);
  // How far down each column is taken.
  const taken = new Uint32Array(width);
  for (const i of sizes.map((_, k) => k).sort((p, q) => sizes[q]![1] - sizes[p]![1] || sizes[q]![0] - sizes[p]![0] || p - q)) {
    const [w, h] = sizes[i]!;
    let best = { x: 0, y: Infinity };
    for (let x = 0; x + w <= width; x++) {
      let y = 0;
      let column = x;
      for (; column < x + w && y < best.y; column++) y = Math.max(y, taken[column]!);
      if (y < best.y) best = { x, y };
      // Until it has passed what is taken so far down, it lies no higher.
      else x = Math.max(x, column - 1);
      if (best.y === 0) break;
    }
    corners[i] = [best.x, best.y];
    for (let column = Math.max(0, best.x - gap); column < Math.min(width, best.x + w + gap); column++)
      taken[column] = Math.max(taken[column]!, best.y + h + gap);
  }
  return corners;
}

/** The faces of a model that can be laid for painting: those of locked regions stay. Throws where its sheet is frozen. */
export function facesToPaint({ kit, seats }: KitState, modelId: string): Uint32Array {
  const model = findModel(kit, modelId);
  const sheet = findSheet(kit, model.sheet);
  if (sheet.frozen) throw new Error(`“${sheet.name}” is frozen: it has no room for art.`);
  return unlockedFaces(
    model,
    seats[modelId]!,
    facesWhere(model.faces, () => true),
  );
}

/** Texels that must lie between islands, so that colors of one do not show on another. */
export const gapFor = ({ filter }: Pick<Sheet, 'filter'>): number => (filter === 'nearest' ? 0 : 2);

/**
 * The edit after which a model can be painted: its faces lie on art of their own (`layout`, of the faces that
 * `facesToPaint` gives), on their model's sheet, which grows for it, and every texel shows the color that its face had;
 * faces without one, and those on what is no plain color, show `base`. Throws where the sheet would be too large.
 */
export function makePaintable(
  state: KitState,
  modelId: string,
  mesh: PolyMesh,
  layout: PaintLayout,
  base: number,
  role: string,
): { edit: Edit; cell: number } {
  const { kit } = state;
  const model = findModel(kit, modelId);
  const sheet = findSheet(kit, model.sheet);
  const seats = state.seats[modelId]!;
  const faces = facesToPaint(state, modelId);
  const { faceStart } = mesh;
  const pixels = pixelsOf(state, seats.cell, layout, mesh, base);
  const { edits, cell } = artBeside(kit, sheet, pixels, role);
  const place = placeCorners(modelId, seats, faceStart, faces, (out, at, corner) => {
    out[at] = layout.at[corner * 2]!;
    out[at + 1] = layout.at[corner * 2 + 1]!;
  });
  const rules = ruleEdit(modelId, seats, faces, 0);
  edits.push(seatFaces(modelId, seats.cell, faces, cell.id)!, ...(place ? [place] : []), ...(rules ? [rules] : []));
  return { edit: groupForAll(`Make ${model.name} paintable`, edits), cell: cell.id };
}

/** What faces show now, as texels: first every island's rectangle, then each face. */
function pixelsOf(
  { kit }: KitState,
  seated: Uint16Array,
  { width, height, islands, rects, at }: PaintLayout,
  mesh: PolyMesh,
  base: number,
): Pixels {
  const pixels = emptyPixels(width, height, base);
  const plain = (id: number) => (findCell(kit, id)?.cell.fill.kind === 'solid' ? id : base);
  const all = { cell: new Uint16Array(seated.length).fill(1), at };
  islands.forEach((list, i) => {
    const { x, y, w, h } = rects[i]!;
    for (let row = y; row < y + h; row++) pixels.cells.fill(plain(seated[list[0]!]!), row * width + x, row * width + x + w);
    const colors = new Set([...list].map((f) => plain(seated[f]!)));
    if (colors.size > 1)
      for (const f of list) {
        const shows = plain(seated[f]!);
        texelsUnder(mesh, all, { id: 1 }, pixels, [f]).forEach((isUnder, t) => isUnder && (pixels.cells[t] = shows));
      }
  });
  return pixels;
}

/** Texels a metre, a power of two, at which faces of so many square metres have some three thousand. */
export const usualDensity = (area: number): number => 2 ** Math.round(Math.log2(Math.sqrt(3000 / Math.max(area, 1e-9))));
