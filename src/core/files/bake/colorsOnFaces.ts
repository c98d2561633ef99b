import { rgbFromHex } from '../../ground/color/hex';
import { isTextured, type Cell, type Kit, type Seats } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import type { Triangles } from '../../shapes/mesh/triangulate';
import { layoutUvs } from '../../faces/seat/layout';
import { meanColor, rasterSheet } from '../../sheet/raster';
import type { Pictures, Raster } from '../../ground/pictures/raster';
import type { ColorAt } from './fillLayout';

/**
 * The colors of a model's faces, place by place: that of its cell; on gradients and art the sheet's texel under it;
 * on a face without a cell what it came with: the file's picture, its vertex colors, or its material's color. `came`:
 * the file's pictures by their names in small letters.
 */
export function colorsOnFaces(
  kit: Kit,
  mesh: PolyMesh,
  seats: Seats,
  triangles: Triangles,
  pictures: Pictures,
  came: ReadonlyMap<string, Raster> = new Map(),
): ColorAt {
  const sheets = new Map(kit.sheets.flatMap((sheet) => sheet.cells.map((cell) => [cell.id, { cell, sheet }] as const)));
  const rasters = new Map(
    kit.sheets.map((sheet) => [sheet.id, { raster: rasterSheet(sheet, pictures), uvs: null as Float32Array | null }]),
  );
  const flat = new Map<number, number[]>();
  const flatOf = (cell: Cell) => {
    const alpha = cell.fill.kind === 'solid' ? (cell.fill.alpha ?? 1) : 1;
    const color = flat.get(cell.id) ?? [...meanColor(cell.fill, pictures), Math.round(alpha * 255)];
    flat.set(cell.id, color);
    return color;
  };
  const slots = mesh.slots.map((s) => [...rgbFromHex(s.color), Math.round((s.alpha ?? 1) * 255)]);
  const corner = (t: number, k: number) => triangles.corners[t * 3 + k]!;
  return (t, ...shares) => {
    const f = triangles.face[t]!;
    const found = sheets.get(seats.cell[f]!);
    if (!found)
      return pictureColor(mesh, triangles, t, shares, came) ?? vertexColor(mesh, triangles, t, shares) ?? slots[mesh.faceSlot[f]!]!;
    const { cell, sheet } = found;
    if (!isTextured(cell.fill)) return flatOf(cell);
    const own = rasters.get(sheet.id)!;
    const uvs = (own.uvs ??= layoutUvs(mesh, seats, sheet));
    const { width, height, data } = own.raster;
    const [u, v] = [0, 1].map((a) => shares.reduce((sum, share, k) => sum + share * uvs[corner(t, k) * 2 + a]!, 0)) as [number, number];
    const at = (clamped(v * height, height) * width + clamped(u * width, width)) * 4;
    return data.subarray(at, at + 4);
  };
}

const clamped = (t: number, size: number): number => Math.max(0, Math.min(size - 1, Math.floor(t)));

/** The texel of the file's picture under a place of a triangle, which repeats; `null` where it shows none. */
function pictureColor(
  mesh: PolyMesh,
  { corners, face }: Triangles,
  t: number,
  shares: readonly number[],
  came: ReadonlyMap<string, Raster>,
): ArrayLike<number> | null {
  const picture = came.get(mesh.slots[mesh.faceSlot[face[t]!]!]!.picture?.toLowerCase() ?? '');
  const uvs = mesh.uvSets[0];
  if (!picture || !uvs) return null;
  const { width, height, data } = picture;
  const [u, v] = [0, 1].map((a) => shares.reduce((sum, share, k) => sum + share * uvs[corners[t * 3 + k]! * 2 + a]!, 0)) as [
    number,
    number,
  ];
  const at = (clamped((v - Math.floor(v)) * height, height) * width + clamped((u - Math.floor(u)) * width, width)) * 4;
  return data.subarray(at, at + 4);
}

/** Vertex colors of the file, mixed by the shares of three corners; `null` where it has none. */
function vertexColor({ cornerColors }: PolyMesh, { corners }: Triangles, t: number, shares: readonly number[]): number[] | null {
  if (!cornerColors) return null;
  return [0, 1, 2, 3].map((a) => Math.round(shares.reduce((sum, share, k) => sum + share * cornerColors[corners[t * 3 + k]! * 4 + a]!, 0)));
}
