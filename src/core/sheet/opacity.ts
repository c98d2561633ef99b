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

const cut = new WeakMap<Raster, boolean>();

/** Whether every texel of a fill is either all there or not at all, and some are not: then it leaves masked, not blended. */
export function isCutOut(fill: Fill, pictures?: Pictures): boolean {
  const raster = fill.kind === 'art' ? pictures?.get(fill.picture) : undefined;
  if (!raster || opacityOf(fill, pictures) === 1) return false;
  let is = cut.get(raster);
  if (is === undefined) {
    is = true;
    for (let i = 3; i < raster.data.length && is; i += 4) is = raster.data[i] === 0 || raster.data[i] === 255;
    cut.set(raster, is);
  }
  return is;
}

/** What is known of a raster is so of another one that differs from it in opaque texels alone. */
export function carryOpacity(from: Raster, to: Raster): void {
  for (const known of [means, cut] as WeakMap<Raster, number | boolean>[]) {
    const own = known.get(from);
    if (own !== undefined) known.set(to, own);
  }
}

/** The ids of all cells with texels that are cut away, and none that are half there. */
export const cutOutCells = (kit: Kit, pictures?: Pictures): Set<number> =>
  new Set(kit.sheets.flatMap((sheet) => sheet.cells.flatMap(({ id, fill }) => (isCutOut(fill, pictures) ? [id] : []))));

/** The ids of all cells through which something shows. */
export function seeThroughCells(kit: Kit, pictures?: Pictures): Set<number> {
  return new Set(kit.sheets.flatMap((sheet) => sheet.cells.flatMap(({ id, fill }) => (opacityOf(fill, pictures) < 1 ? [id] : []))));
}
