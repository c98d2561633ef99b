import type { Fill, Kit } from '../kit/kit';
import type { Pictures, Raster } from '../ground/pictures/raster';

const means = new WeakMap<Raster, number>();

/** The mean opacity of a fill, 0..1; art without its picture counts as opaque. */
export function opacityOf(fill: Fill, pictures?: Pictures): number {
  if (fill.kind === 'solid') return fill.alpha ?? 1;
  const raster = fill.kind === 'art' ? pictures?.get(fill.picture) : undefined;
  if (!raster) return 1;
  let mean = means.get(raster);
  if (mean === undefined) {
    let sum = 0;
    for (let i = 3; i < raster.data.length; i += 4) sum += raster.data[i]!;
    means.set(raster, (mean = sum / 255 / (raster.data.length / 4)));
  }
  return mean;
}

/** The ids of all cells through which something shows. */
export function seeThroughCells(kit: Kit, pictures?: Pictures): Set<number> {
  return new Set(kit.sheets.flatMap((sheet) => sheet.cells.flatMap(({ id, fill }) => (opacityOf(fill, pictures) < 1 ? [id] : []))));
}
