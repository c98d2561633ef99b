import { rgbFromHex } from '../ground/color/hex';
import type { Cell, Finish, Sheet } from '../kit/kit';
import type { Raster } from '../ground/pictures/raster';

/** Of a cell that says nothing of it: it scatters all light, and is no metal. */
export const usualFinish: Finish = { roughness: 1, metalness: 0 };

export const finishOf = ({ finish }: Pick<Cell, 'finish'>): Finish => finish ?? usualFinish;

export const isUsualFinish = ({ roughness, metalness, glow }: Finish): boolean => roughness === 1 && metalness === 0 && !glow;

/** How the surfaces on a sheet answer light. Rasters have the sheet's layout. */
export interface SheetFinish {
  /** Of all cells, where they agree; else 1 each, by which `surface` is multiplied. */
  roughness: number;
  metalness: number;
  /** As glTF has it: roughness in green, metalness in blue. Absent where all cells agree. */
  surface?: Raster;
  /** The color that each place gives off, sRGB. Absent where nothing glows. */
  glow?: Raster;
}

/** What leaves beside a sheet's colors. Source: Khronos glTF 2.0, metallic-roughness and emissive textures. */
export function finishOfSheet(sheet: Sheet): SheetFinish {
  const cells = sheet.cells.filter((c) => c.fill.kind !== 'spare');
  const finishes = cells.map(finishOf);
  const [first = usualFinish] = finishes;
  const isOne = finishes.every((f) => f.roughness === first.roughness && f.metalness === first.metalness);
  const glows = finishes.some((f) => f.glow);
  const byte = (share: number) => Math.round(share * 255);
  const draw = (usual: readonly [number, number, number], of: (finish: Finish) => readonly [number, number, number] | null): Raster => {
    const { width, height } = sheet;
    const data = new Uint8Array(width * height * 4);
    for (let i = 0; i < data.length; i += 4) data.set([...usual, 255], i);
    cells.forEach(({ rect: { x, y, w, h } }, i) => {
      const own = of(finishes[i]!);
      if (!own) return;
      for (let row = y; row < y + h; row++) for (let column = x; column < x + w; column++) data.set(own, (row * width + column) * 4);
    });
    return { width, height, data };
  };
  return {
    roughness: isOne ? first.roughness : 1,
    metalness: isOne ? first.metalness : 1,
    ...(!isOne && { surface: draw([255, 255, 0], (f) => [255, byte(f.roughness), byte(f.metalness)]) }),
    ...(glows && { glow: draw([0, 0, 0], (f) => (f.glow ? rgbFromHex(f.glow) : null)) }),
  };
}

/** The pictures that leave beside that of a sheet's colors. */
export const finishLayers = ['surface', 'glow'] as const;
export type FinishLayer = (typeof finishLayers)[number];
