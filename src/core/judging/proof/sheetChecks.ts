import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { count } from '../../ground/words';
import { sheetInColorings } from '../../kit/colorings/shown';
import { usesInAll, weightOf } from '../../kit/colorings/usesOfCells';
import type { Edit } from '../../kit/edit/edit';
import { findSheet, type KitState, type Sheet } from '../../kit/kit';
import { mergeColors, spareColors } from '../../sheet/mergeColors';
import { cutOutCells, seeThroughCells } from '../../sheet/opacity';
import { rasterSheet } from '../../sheet/raster';
import { planRelay, relaySheet } from '../../sheet/relay';
import { judgePalette } from '../judge/judgePalette';
import { variantsApartIn } from '../judge/twins';
import { exactnessFor, once, type Check, type Finding, type Found, type ProofInput, type ProofSettings } from './finding';
import { mipOf, sample } from './mips';

/** Pairs that are told, the nearest first. */
const mostTwins = 8;
/** OKLab distance from which a color that a mip level shows is another one. */
const seenAsOther = 0.02;

const usesOf = once((input: ProofInput, _: Sheet) => usesInAll(input));
const isUsed = (input: ProofInput, sheet: Sheet) => (id: number) => usesOf(input, sheet).has(id);
const remarksOf = once((input: ProofInput, sheet: Sheet) =>
  judgePalette(sheet, (id) => weightOf(usesOf(input, sheet).get(id))).map((r) => ({ ...r, ids: r.cells.map((c) => c.id) })),
);
/** The cells of all remarks of a kind. */
const remarked =
  (kind: 'extreme' | 'unused'): NonNullable<Check['inSheet']> =>
  (input, sheet) => [{ cells: [...new Set(remarksOf(input, sheet).flatMap((r) => (r.kind === kind ? r.ids : [])))] }];
const isPower = (n: number) => Number.isInteger(Math.log2(n));

/** What is wrong with a sheet, as textures are sampled. */
export const sheetChecks = {
  bleeding: {
    inSheet: (input, sheet) => [{ cells: bleeding(input, sheet).filter(isUsed(input, sheet)), detail: String(input.settings.mipLevels) }],
    say: (f) => `${count(f.cells.length, 'color')} changed by their neighbours up to mip level ${f.detail}`,
    why: 'Seen from afar, an engine mixes texels, and colors this small take on what lies beside them.',
    good: 'colors at mip levels',
    repair: { word: 'give them more texels', edit: layAnew },
  },
  twins: {
    inSheet: (input, sheet) =>
      remarksOf(input, sheet)
        .flatMap((r) => (r.kind === 'twins' ? [{ cells: r.ids }] : []))
        .slice(0, mostTwins),
    say: () => 'Two colors that hardly differ',
    why: 'One would do, and a change of it would reach all faces.',
    good: 'no twins',
    repair: { word: 'merge them', edit: mergeTwins },
  },
  extreme: {
    inSheet: remarked('extreme'),
    say: (f) => `${count(f.count, 'color')} at pure black or white`,
    why: 'No light can make it darker or lighter, so that shading dies on it.',
    good: 'no pure black or white',
    see: 'palette',
  },
  unused: {
    inSheet: remarked('unused'),
    say: (f) => `${count(f.count, 'color')} that no face uses`,
    why: 'They take room on the sheet.',
    good: 'every color used',
    repair: {
      word: 'make them spare',
      edit: (state, { sheet, cells }) => spareColors(state, findSheet(state.kit, sheet!), new Set(cells), 0),
    },
  },
  'see-through': {
    inSheet: (input, sheet) => {
      const through = seeThroughCells(input.kit, input.pictures);
      const cut = cutOutCells(input.kit, input.pictures);
      return [{ cells: sheet.cells.flatMap((c) => (through.has(c.id) && !cut.has(c.id) && isUsed(input, sheet)(c.id) ? [c.id] : [])) }];
    },
    say: (f) => `${count(f.count, 'color')} that light goes through`,
    why: 'Faces on it leave as a second material, and are drawn after all others.',
    good: 'opaque',
    see: 'palette',
  },
  'too-large': {
    inSheet: tooLarge,
    say: (f) => `The sheet is larger than its colors need: they fit on ${f.detail} texels`,
    why: 'Every texel costs memory, and a smaller sheet loads sooner.',
    good: 'size of the sheet',
    repair: { word: 'lay it out smaller', edit: layAnew },
  },
  'odd-size': {
    inSheet: (_, { width, height }) => [{ count: [width, height].filter((n) => !isPower(n)).length }],
    say: (f) => `${count(f.count, 'side')} of the sheet no power of two`,
    why: 'Some engines resize such pictures, and colors are exact only on powers of two.',
    good: 'powers of two',
    repair: { word: 'lay it out anew', edit: layAnew },
  },
} satisfies Record<string, Check>;

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
function tooLarge(input: ProofInput, sheet: Sheet): Found[] {
  if (sheet.frozen) return [];
  try {
    const plan = planRelay(sheetInColorings(input.kit, sheet), new Set(), {
      exactTo: exactnessFor(input.settings),
      spares: 0,
      dropUnused: false,
      padding: sheet.padding,
    });
    const isSmaller = plan.width * plan.height < sheet.width * sheet.height;
    return isSmaller ? [{ count: 1, detail: `${plan.width} × ${plan.height}` }] : [];
  } catch {
    // What cannot be laid out anew is as small as it gets.
    return [];
  }
}

function mergeTwins(state: KitState, { cells }: Finding): Edit | null {
  const [apart] = variantsApartIn(state.kit, cells);
  if (apart) throw new Error(`They differ in the variant “${apart.name}”, which would change. Merge them in Palette if that is meant.`);
  return mergeColors(state, mostUsed(state, cells), cells);
}

function mostUsed(state: KitState, cells: readonly number[]): number {
  const uses = usesInAll(state);
  const weight = (id: number) => weightOf(uses.get(id));
  return cells.reduce((best, id) => (weight(id) > weight(best) ? id : best));
}

function layAnew(state: KitState, found: Finding, settings: ProofSettings): Edit {
  const sheet = findSheet(state.kit, found.sheet!);
  return relaySheet(
    state.kit,
    sheet,
    planRelay(sheetInColorings(state.kit, sheet), new Set(), {
      exactTo: exactnessFor(settings),
      spares: 0,
      dropUnused: false,
      padding: sheet.padding,
    }),
  );
}
