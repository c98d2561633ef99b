import * as Comlink from 'comlink';
import type { Rgb } from '@/core/ground/color/oklab';
import { encodePng } from '@/core/ground/pictures/png';
import type { Kit } from '@/core/kit/kit';
import { proposeRegions, type RegionProposal } from '@/core/faces/regions/propose';
import { colorsOfFaces, hasTexturedFaces, texturedCells } from '@/core/faces/seat/colorsOfFaces';
import { rastersOf } from '@/core/sheet/encode';
import type { Pictures, Raster } from '@/core/ground/pictures/raster';
import { type Rows, type Sitter, lineUpAtScale, lineUpFilling } from '@/core/shapes/view/lineUp';
import { rasterInputOf } from '@/core/shapes/view/rasterFaces';
import { sideBySide, thumbnail } from '@/core/shapes/view/thumbnail';
import { openPictures, type PictureFile } from './pictures';
import { residents } from './residents';

/** What is portrayed: a mesh by its address, and the cell of each face. */
export interface Portrait {
  mesh: string;
  cells: Uint16Array;
  /** Coordinates inside the cells, 2 for each corner. */
  at?: Float32Array;
}

/** What cells that differ from place to place are drawn from: the kit's sheets, and the pictures that these name. */
export interface Paint {
  kit: Kit;
  pictures: PictureFile[];
}

/** Pictures of models, rastered on the processor. */
export const portraits = {
  /** A PNG of a model as it stands. */
  async thumbnail(of: Portrait, cellColors: Uint8Array, size: number, paint: Paint | null): Promise<Uint8Array> {
    return encodePng(portray(of, cellColors, size, faceColorsOf(of, paint, await rastersFor(paint))));
  },

  /** One PNG of up to four models side by side. */
  async groupPortrait(models: Portrait[], cellColors: Uint8Array, size: number, paint: Paint | null): Promise<Uint8Array> {
    const rasters = await rastersFor(paint);
    return encodePng(
      sideBySide(
        models.map((m) => portray(m, cellColors, size, faceColorsOf(m, paint, rasters))),
        4,
      ),
    );
  },

  /**
   * Ways to divide a model into regions, each with a PNG of `size` pixels that shows every region in a color
   * of its own, or in these colors in turn.
   */
  proposeRegions(
    id: string,
    cell: Uint16Array,
    kit: Kit,
    creaseAngle: number,
    flatAngle: number,
    size: number,
    colors: readonly Rgb[],
  ): (RegionProposal & { png: Uint8Array })[] {
    const { mesh, adjacency } = residents.get(id)!.loaded;
    return proposeRegions(mesh, adjacency, { cell }, kit, creaseAngle, flatAngle).map((proposal) => {
      const faceColors = new Uint8Array(cell.length * 4);
      proposal.regions.forEach(({ faces }, i) => {
        const color = [...(colors.length ? colors[i % colors.length]! : apart(i)), 255];
        for (const f of faces) faceColors.set(color, f * 4);
      });
      const png = encodePng(portray({ mesh: id, cells: new Uint16Array(cell.length) }, new Uint8Array(1024), size, faceColors));
      return { ...proposal, png };
    });
  },

  /** Models side by side at one scale; see `lineUpAtScale`. */
  async lineUp(models: Portrait[], cellColors: Uint8Array, height: number, flat: boolean, paint: Paint | null): Promise<Raster> {
    const rasters = await rastersFor(paint);
    const raster = lineUpAtScale(
      models.map((m) => sitterOf(m, cellColors, faceColorsOf(m, paint, rasters))),
      height,
      flat,
    );
    return Comlink.transfer(raster, [raster.data.buffer]);
  },

  /** The same, as large as a stage allows; see `lineUpFilling`. */
  async lineUpFilling(
    models: Portrait[],
    cellColors: Uint8Array,
    stage: { width: number; height: number },
    flat: boolean,
    paint: Paint | null,
  ): Promise<Rows> {
    const rasters = await rastersFor(paint);
    const sitters = models.map((m) => sitterOf(m, cellColors, faceColorsOf(m, paint, rasters)));
    const rows = lineUpFilling(sitters, stage.width, stage.height, flat);
    return Comlink.transfer(rows, [rows.data.buffer]);
  },
};

/** Colors well apart in lightness and hue, since neighbours in number are often neighbours in place. */
function apart(i: number): [number, number, number] {
  const turn = (i * 0.618034) % 1;
  const level = [0.55, 0.8, 0.35][i % 3]!;
  const channel = (k: number) => Math.max(0, Math.min(255, Math.round(255 * (level + 0.28 * Math.sin(2 * Math.PI * (turn + k / 3))))));
  return [channel(0), channel(1), channel(2)];
}

/** Bare faces without any color of their own. */
const bare = [205, 205, 203];

const rastersFor = async (paint: Paint | null): Promise<Pictures> => rastersOf(await openPictures(paint?.pictures ?? []));

/** Colors of faces on cells that differ from place to place, 4 bytes for each face; alpha 0 for the others. */
function faceColorsOf({ mesh, cells, at }: Portrait, paint: Paint | null, pictures: Pictures): Uint8Array | undefined {
  const resident = residents.get(mesh);
  const seats = { cell: cells, region: new Uint16Array(0), ...(at && { at }) };
  if (!paint || !resident || !hasTexturedFaces(texturedCells(paint.kit), seats)) return undefined;
  return colorsOfFaces(paint.kit, resident.loaded.mesh, seats, pictures);
}

function portray(of: Portrait, cellColors: Uint8Array, size: number, faceColors?: Uint8Array): Raster {
  const { input, bounds, normals, colorOf } = sitterOf(of, cellColors, faceColors);
  return thumbnail(input, bounds, normals, colorOf, size);
}

function sitterOf({ mesh: id, cells }: Portrait, cellColors: Uint8Array, faceColors?: Uint8Array): Sitter {
  const { loaded } = residents.get(id)!;
  const { asRead, bounds, adjacency } = loaded;
  const colorOf = (f: number) => {
    const cell = cells[f]!;
    if (faceColors?.[f * 4 + 3]) return faceColors.subarray(f * 4, f * 4 + 3);
    if (cell) return cellColors.subarray(cell * 4, cell * 4 + 3);
    return asRead[f * 4 + 3] ? asRead.subarray(f * 4, f * 4 + 3) : bare;
  };
  return { input: rasterInputOf(loaded.mesh, loaded.triangles), bounds, normals: adjacency.normals, colorOf };
}
