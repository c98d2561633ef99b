// Painting at 2,048² texels, and pictures brought to few colors beside two libraries for it: called by `npm run bench`.
import * as imageQ from 'image-q';
import quantizeMedian from 'quantize';
import { byId } from '@/core/ground/byId';
import { labDistance, labFromRgb } from '@/core/ground/color/oklab';
import type { Raster } from '@/core/ground/pictures/raster';
import { applyEdit } from '@/core/kit/edit/editKinds';
import type { Cell, KitState } from '@/core/kit/kit';
import { emptyPixels } from '@/core/kit/pixels';
import { brushEdit, type Sets } from '@/core/sheet/paint/brush';
import { dabsAlong } from '@/core/sheet/paint/dabs';
import { touchingTexels } from '@/core/sheet/paint/fills';
import { carryRasters, rasterOfPixels } from '@/core/sheet/painted';
import { reducePicture } from '@/core/sheet/reduce/reduce';
import { newKit } from '@/core/sheet/starter';

type Row = [what: string, ours: number, baseline: string, theirs: number, goal: string];
type Time = (runs: number, work: () => unknown) => number;
const side = 2048;

function paintedKit(): KitState {
  const kit = newKit('Bench');
  const [sheet] = kit.sheets;
  const rect = { x: 0, y: sheet!.height, w: side, h: side };
  const cell: Cell = { id: kit.nextCell, rect, role: 'art', fill: { kind: 'art', picture: 'art', painted: true } };
  const sheets = [{ ...sheet!, width: side, height: 4096, cells: [...sheet!.cells, cell] }];
  return { kit: { ...kit, sheets, nextCell: cell.id + 1 }, seats: byId(), pixels: byId({ art: emptyPixels(side, side, 2) }) };
}

/** A line of dabs from texels to the picture that is drawn of them, and fills of all texels. */
export function benchPaint(time: Time): Row[] {
  let state = paintedKit();
  rasterOfPixels(state.pixels!.art!, state.kit);
  let n = 0;
  const stroke = (sets: Sets) => () => {
    const y = 100 + (n++ % 1800);
    const edit = brushEdit(
      state,
      'art',
      dabsAlong({ width: side, height: side }, [100, y], [400, y + 60], { size: 4, shape: 'round' }),
      sets,
    )!;
    const before = state.pixels!.art!;
    state = applyEdit(state, edit);
    carryRasters(before, state.pixels!.art!, edit);
    return rasterOfPixels(state.pixels!.art!, state.kit);
  };
  const color = () => stroke({ kind: 'cell', cell: 3 + (n % 2) })();
  const whole = time(5, () => rasterOfPixels({ ...state.pixels!.art! }, state.kit));
  const all = Uint32Array.from({ length: side * side }, (_, t) => t);
  const kit = state.kit;
  const fresh = { kit, seats: byId<never>(), pixels: byId({ art: emptyPixels(side, side, 2) }) };
  const copy = time(5, () => fresh.pixels.art!.cells.slice());
  return [
    ['300 dabs of 4 texels on 2,048² texels, to their raster (goal 8 ms)', time(30, color), 'the raster drawn as a whole', whole, ''],
    ['the same with noise', time(30, stroke({ kind: 'noise', cell: 5, within: 1, seed: 3 })), 'the raster drawn as a whole', whole, ''],
    ['texels that touch, 4 million (goal 50 ms)', time(5, () => touchingTexels(fresh.pixels.art!, 5)), 'a copy of them', copy, ''],
    ['noise on 4 million texels, as an edit', time(3, () => brushEdit(fresh, 'art', all, { kind: 'noise', cell: 5, within: 1, seed: 9 })), 'a copy of them', copy, ''],
  ]; // prettier-ignore
}

/** Every texel of a picture in few colors, with its error, beside two libraries; and how large the errors are. */
export function benchReduce(photo: Raster, time: Time): { rows: Row[]; errors: string[] } {
  const { width, height, data } = photo;
  const counts = [16, 64];
  const own = (colors: number) => reducePicture(photo, { width, height, sampling: 'nearest', colors, checkering: 'none' });
  // Before millions of lists are made for the others, in which collecting garbage takes its time.
  const times = counts.map((colors) => time(5, () => own(colors)));
  const points = () => imageQ.utils.PointContainer.fromUint8Array(data, width, height);
  const listed = () =>
    Array.from({ length: width * height }, (_, t): [number, number, number] => [data[t * 4]!, data[t * 4 + 1]!, data[t * 4 + 2]!]);
  const list = listed();
  const off = (shown: (t: number) => ArrayLike<number>) =>
    list.reduce((sum, c, t) => sum + labDistance(labFromRgb(c), labFromRgb([shown(t)[0]!, shown(t)[1]!, shown(t)[2]!])), 0) / list.length;
  const rows: Row[] = [];
  const errors: string[] = [];
  counts.forEach((colors, n) => {
    const wu = () => {
      const palette = imageQ.buildPaletteSync([points()], { colors, paletteQuantization: 'wuquant' });
      return imageQ.applyPaletteSync(points(), palette, { imageQuantization: 'nearest' }).toUint8Array();
    };
    const median = (list = listed()) => {
      const map = quantizeMedian(list, colors) as { map: (c: [number, number, number]) => number[] };
      return list.map((c) => map.map(c));
    };
    const what = `${width}² texels in ${colors} colors, with the error`;
    rows.push(
      [what, times[n]!, 'image-q, wuquant and nearest', time(1, wu), '4'],
      [what, times[n]!, 'quantize', time(2, () => median()), '4'],
      [what, times[n]!, 'quantize, its list of colors given', time(2, () => median(list)), ''],
    );
    const [byWu, byMedian] = [wu(), median(list)];
    const their = [off((t) => byWu.subarray(t * 4, t * 4 + 3)), off((t) => byMedian[t]!)];
    errors.push(
      `${colors} colors: ours ${own(colors).mean.toFixed(4)}, image-q ${their[0]!.toFixed(4)}, quantize ${their[1]!.toFixed(4)} (OKLab)`,
    );
  });
  return { rows, errors };
}
