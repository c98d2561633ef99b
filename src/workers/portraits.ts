import * as Comlink from 'comlink';
import { encodePng } from '@/core/io/png';
import type { Raster } from '@/core/sheet/raster';
import { type Sitter, lineUpAtScale } from '@/core/view/lineUp';
import { sideBySide, thumbnail } from '@/core/view/thumbnail';
import { rasterInputOf, residents } from './residents';

/** What is portrayed: a mesh by its address, and the cell of each face. */
export interface Portrait {
  mesh: string;
  cells: Uint16Array;
  /** Colors of faces on cells that differ from place to place, 4 bytes for each face; alpha 0 for the others. */
  faceColors?: Uint8Array;
}

/** Pictures of models, rastered on the processor. */
export const portraits = {
  /** A PNG of a model as it stands. */
  thumbnail(of: Portrait, cellColors: Uint8Array, size: number): Uint8Array {
    return encodePng(portray(of, cellColors, size));
  },

  /** One PNG of up to four models side by side. */
  groupPortrait(models: Portrait[], cellColors: Uint8Array, size: number): Uint8Array {
    return encodePng(
      sideBySide(
        models.map((m) => portray(m, cellColors, size)),
        4,
      ),
    );
  },

  /** Models side by side at one scale; see `lineUpAtScale`. */
  lineUp(models: Portrait[], cellColors: Uint8Array, height: number, flat: boolean): Raster {
    const raster = lineUpAtScale(
      models.map((m) => sitterOf(m, cellColors)),
      height,
      flat,
    );
    return Comlink.transfer(raster, [raster.data.buffer]);
  },
};

/** Bare faces without any color of their own. */
const bare = [205, 205, 203];

function portray(of: Portrait, cellColors: Uint8Array, size: number): Raster {
  const { input, bounds, normals, colorOf } = sitterOf(of, cellColors);
  return thumbnail(input, bounds, normals, colorOf, size);
}

function sitterOf({ mesh: id, cells, faceColors }: Portrait, cellColors: Uint8Array): Sitter {
  const { loaded } = residents.get(id)!;
  const { asRead, bounds, adjacency } = loaded;
  const colorOf = (f: number) => {
    const cell = cells[f]!;
    if (faceColors?.[f * 4 + 3]) return faceColors.subarray(f * 4, f * 4 + 3);
    if (cell) return cellColors.subarray(cell * 4, cell * 4 + 3);
    return asRead[f * 4 + 3] ? asRead.subarray(f * 4, f * 4 + 3) : bare;
  };
  return { input: rasterInputOf(loaded), bounds, normals: adjacency.normals, colorOf };
}
