import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Lab } from '../../ground/color/oklab';
import { count } from '../../ground/words';
import { unlockedFaces } from '../../faces/regions/regions';
import { group, type Edit } from '../../kit/edit/edit';
import { seatFaces } from '../../kit/edit/seatFaces';
import type { Kit, KitState } from '../../kit/kit';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { meanColor } from '../../sheet/raster';
import type { Pictures } from '../../ground/pictures/raster';
import { bordersInView, nothing } from './bordersInView';
import { once, type Check, type Finding, type Found, type ProofInput, type ProofModel, type ProofSettings } from './finding';

/** OKLab distance below which two colors side by side are taken for one at a small size. */
const runTogether = 0.045;
/** The same for a color before the background, which lies all along its outline. */
const vanishes = 0.09;
/** Pixels along which two colors must meet, as a share of the size at which the model is seen. */
const leastBorder = 1 / 6;
/** Pairs that are told of a model, those that meet the longest first. */
const mostPairs = 6;

/** How a model reads at the size at which it is seen in play. */
export const playSizeChecks = {
  merging: {
    inModel: (input, own) => atPlaySize(input, own).merging,
    say: (f) => `${count(f.count, 'face')} of a color that runs into its neighbour at ${f.detail} pixels`,
    why: 'At the size at which it is seen in play, the two read as one.',
    good: 'colors apart in play',
    repair: { word: 'take the next step of its ramp', edit: stepOn },
  },
  vanishing: {
    inModel: (input, own) => atPlaySize(input, own).vanishing,
    say: (f) => `${count(f.count, 'face')} of an outline that vanishes before ${f.detail}`,
    why: 'The shape is read by its outline, and here it has none.',
    good: 'outlines',
    see: 'palette',
  },
} satisfies Record<string, Check>;

/**
 * Colors of a model that run into each other at the size at which it is seen in play, and those that vanish before
 * the background, where one is chosen.
 */
const atPlaySize = once(
  ({ kit, settings, pictures }: ProofInput, { seats, mesh }: ProofModel): Record<'merging' | 'vanishing', Found[]> => {
    const size = settings.playSize;
    const { first, second, pixels } = bordersInView(mesh, size);
    const meetings = new Map<number, number>();
    const outline = new Map<number, number>();
    const onOutline = new Set<number>();
    for (let i = 0; i < first.length; i++) {
      const p = seats.cell[first[i]!]!;
      if (second[i] === nothing) {
        onOutline.add(first[i]!);
        outline.set(p, (outline.get(p) ?? 0) + pixels[i]!);
        continue;
      }
      const q = seats.cell[second[i]!]!;
      if (p === q || !p || !q) continue;
      const key = Math.min(p, q) * 65536 + Math.max(p, q);
      meetings.set(key, (meetings.get(key) ?? 0) + pixels[i]!);
    }
    const labs = labsOf(kit, pictures);
    const least = size * leastBorder;
    const merging = [...meetings]
      .map(([key, pixels]) => ({ pair: [Math.floor(key / 65536), key % 65536] as const, pixels }))
      .filter(({ pair: [p, q], pixels }) => pixels >= least && labDistance(labs.get(p)!, labs.get(q)!) < runTogether)
      .sort((a, b) => b.pixels - a.pixels)
      .slice(0, mostPairs);
    const { background } = settings;
    const ground = background && labFromRgb(rgbFromHex(background));
    const lost = ground
      ? [...outline]
          .flatMap(([id, n]) => (id && n >= least && labDistance(labs.get(id)!, ground) < vanishes ? [id] : []))
          .sort((a, b) => a - b)
      : [];
    return {
      merging: merging.map(({ pair }) => {
        const few = fewer(seats.cell, pair);
        return { faces: facesOn(seats.cell, [few]), cells: [few, pair[0] === few ? pair[1] : pair[0]], detail: String(size) };
      }),
      vanishing: [
        { faces: facesOn(seats.cell, lost).filter((f) => onOutline.has(f)), cells: lost, ...(background && { detail: background }) },
      ],
    };
  },
);

const labsOf = (kit: Kit, pictures: Pictures): Map<number, Lab> =>
  new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, labFromRgb(meanColor(c.fill, pictures))] as const)));

const facesOn = (cell: Uint16Array, ids: readonly number[]): Uint32Array => facesWhere(cell.length, (f) => ids.includes(cell[f]!));

function fewer(cell: Uint16Array, [p, q]: readonly [number, number]): number {
  let more = 0;
  for (const c of cell) more += c === p ? 1 : c === q ? -1 : 0;
  return more > 0 ? q : p;
}

/**
 * The nearest step of the first color's ramp that is told from the second: what parts them with the smallest
 * change. `null` where there is none.
 */
function stepApart(kit: Kit, [own, other]: readonly [number, number]): number | null {
  const labs = labsOf(kit, new Map());
  for (const { ramps } of kit.sheets)
    for (const { cells } of ramps) {
      const at = cells.indexOf(own);
      if (at < 0) continue;
      const steps = cells.filter((c) => c !== own && labDistance(labs.get(c)!, labs.get(other)!) >= runTogether);
      return steps.sort((a, b) => Math.abs(cells.indexOf(a) - at) - Math.abs(cells.indexOf(b) - at))[0] ?? null;
    }
  return null;
}

/** Faces of the color that fewer have go to the nearest step of its ramp that is told from the other. */
function stepOn(state: KitState, { faces, cells }: Finding, _: ProofSettings, own?: ProofModel): Edit | null {
  if (!own) return null;
  const { model } = own;
  const to = stepApart(state.kit, [cells[0]!, cells[1]!]);
  if (to === null) throw new Error('Its ramp has no step that would be told from the other. Change one of the two colors in Palette.');
  const seats = state.seats[model.id]!;
  const edit = seatFaces(model.id, seats.cell, unlockedFaces(model, seats, faces), to);
  return edit && group('Part two colors', [edit]);
}
