import { usesInAll } from '../../kit/colorings/usesOfCells';
import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { judgePalette } from '../judge/judgePalette';
import type { Sheet } from '../../kit/kit';
import { seeThroughCells } from '../../sheet/opacity';
import { rasterSheet } from '../../sheet/raster';
import { planRelay } from '../../sheet/relay';
import { sheetInColorings } from '../../kit/colorings/shown';
import { mipOf, sample } from './mips';
import { leftoverTexels } from './leftovers';
import { exactnessFor, finding, type Finding, type ProofInput } from './finding';

/** Pairs that are told, the nearest first. */
const mostTwins = 8;
/** OKLab distance from which a color that a mip level shows is another one. */
const seenAsOther = 0.02;

/** What is wrong with a sheet, as textures are sampled. */
export function sheetProblems(input: ProofInput, sheet: Sheet): Finding[] {
  const at = { sheet: sheet.id };
  const uses = usesInAll(input);
  const isUsed = (id: number) => (uses.get(id)?.faces ?? 0) > 0;
  const remarks = judgePalette(sheet, (id) => uses.get(id)?.faces ?? 0);
  const cellsOf = (kind: 'extreme' | 'unused') => [
    ...new Set(remarks.filter((r) => r.kind === kind).flatMap((r) => r.cells.map((c) => c.id))),
  ];
  const through = seeThroughCells(input.kit, input.pictures);
  const isPower = (n: number) => Number.isInteger(Math.log2(n));
  return [
    ...leftoverTexels(input, sheet, isUsed),
    finding('bleeding', { ...at, cells: bleeding(input, sheet).filter(isUsed), detail: String(input.settings.mipLevels) }),
    ...remarks
      .flatMap((r) => (r.kind === 'twins' ? [finding('twins', { ...at, cells: r.cells.map((c) => c.id) })] : []))
      .slice(0, mostTwins),
    finding('extreme', { ...at, cells: cellsOf('extreme') }),
    finding('unused', { ...at, cells: cellsOf('unused') }),
    finding('see-through', { ...at, cells: sheet.cells.flatMap((c) => (through.has(c.id) && isUsed(c.id) ? [c.id] : [])) }),
    ...tooLarge(input, sheet),
    finding('odd-size', { ...at, count: [sheet.width, sheet.height].filter((n) => !isPower(n)).length }),
  ];
}

/** Solid cells that show another color in their middle at one of the mip levels, out of the sheet as it is really filtered. */
function bleeding({ pictures, settings }: ProofInput, sheet: Sheet): number[] {
  const solids = sheet.cells.flatMap((c) =>
    c.fill.kind === 'solid' ? [{ id: c.id, rect: c.rect, lab: labFromRgb(rgbFromHex(c.fill.color)) }] : [],
  );
  const other = new Set<number>();
  let raster = rasterSheet(sheet, pictures);
  for (let level = 0; level <= settings.mipLevels; level++) {
    if (level > 0) raster = mipOf(raster, 1);
    for (const { id, rect, lab } of solids) {
      const seen = sample(raster, (rect.x + rect.w / 2) / sheet.width, (rect.y + rect.h / 2) / sheet.height, sheet.filter);
      if (labDistance(labFromRgb(seen), lab) > seenAsOther) other.add(id);
    }
  }
  return [...other];
}

/** Whether the colors would lie on a smaller sheet and still be exact at the mip levels asked for. */
function tooLarge(input: ProofInput, sheet: Sheet): Finding[] {
  if (sheet.frozen) return [];
  try {
    const plan = planRelay(sheetInColorings(input.kit, sheet), new Set(), {
      exactTo: exactnessFor(input.settings),
      spares: 0,
      dropUnused: false,
      padding: sheet.padding,
    });
    const isSmaller = plan.width * plan.height < sheet.width * sheet.height;
    return isSmaller ? [finding('too-large', { sheet: sheet.id, count: 1, detail: `${plan.width} × ${plan.height}` })] : [];
  } catch {
    // What cannot be laid out anew is as small as it gets.
    return [];
  }
}
