import { byId, type ById } from '../../ground/byId';
import { rgbFromHex } from '../../ground/color/hex';
import { labDistance, labFromRgb } from '../../ground/color/oklab';
import { judgeDefaults } from '../judge/judgePalette';
import { isSame } from '../../kit/edit/refused';
import type { Cell, Kit, SeatPatch, Variant } from '../../kit/kit';
import { areSamePatches, areSameSeats, patchedSeats } from '../../kit/patches';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { finishOf } from '../../sheet/finish';
import { kitOfVariant } from '../../kit/colorings/shown';
import type { Check, Found, ProofInput } from './finding';
import { count } from '../../ground/words';

/** What is wrong with variants: colors missing or run together in one alone, idle ones, like ones. */
export const variantChecks = {
  'bare-in-variant': {
    inModel: ({ kit, patches }, { model, seats }) =>
      kit.variants.flatMap((v): Found[] => {
        const patch = patches?.[v.id]?.[model.id];
        if (!patch) return [];
        const { cell } = patchedSeats(seats, patch);
        return [{ faces: facesWhere(cell.length, (f) => cell[f] === 0 && seats.cell[f] !== 0), detail: v.name }];
      }),
    say: (f) => `${count(f.count, 'face')} uncolored in ${f.detail} alone`,
    why: 'Where the game shows that variant, they look as they do by default.',
    good: 'colored in every variant',
    see: 'color',
  },
  'merging-in-variant': {
    inKit: (input) => {
      const used = [...usesInAll(input).keys()];
      return input.kit.variants.map((v) => ({ cells: twinsThatArise(input.kit, v, used), detail: v.name }));
    },
    say: (f) => `${count(f.cells.length, 'color')} that hardly differ in ${f.detail}`,
    why: 'By default they are told apart; there they run together.',
    good: 'colors apart in every variant',
    see: 'palette',
  },
  'idle-variant': {
    inKit: (input) => [named(looksOf(input).filter(({ isIdle }) => isIdle))],
    say: (f) => `${count(f.count, 'variant')} in which nothing differs: ${f.detail}`,
    why: 'A game that asks for it shows the default.',
    good: 'every variant differs',
    see: 'color',
  },
  'like-variants': {
    inKit: (input) => {
      const looks = looksOf(input);
      const isLike = (a: Look, b: Look) => a !== b && a.v.model === b.v.model && a.fills === b.fills && areSamePatches(a.said, b.said);
      return [named(looks.filter((look) => !look.isIdle && looks.some((other) => isLike(look, other))))];
    },
    say: (f) => `${count(f.count, 'variant')} that look alike: ${f.detail}`,
    why: 'One of them would do.',
    good: 'no two alike',
    see: 'color',
  },
} satisfies Record<string, Check>;

/** What a variant shows in the cells that are used, what it says of faces, and whether nothing of it differs. */
interface Look {
  v: Variant;
  fills: string;
  said: ById<SeatPatch>;
  isIdle: boolean;
}
const named = (looks: readonly Look[]): Found => ({ count: looks.length, detail: looks.map(({ v }) => v.name).join(', ') });

function looksOf(input: ProofInput): Look[] {
  const { kit, patches = byId<never>() } = input;
  const used = [...usesInAll(input).keys()];
  const fillsOf = (variant: Variant | null) => {
    const fills = new Map((variant ? kitOfVariant(kit, variant) : kit).sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
    return JSON.stringify(used.map((id) => fills.get(id)));
  };
  const own = fillsOf(null);
  // What the default took over is said still, and differs no more.
  const sitsOtherwise = (said: ById<SeatPatch>) =>
    Object.entries(said).some(
      ([model, patch]) => input.seats[model] && !areSameSeats(input.seats[model], patchedSeats(input.seats[model], patch)),
    );
  return kit.variants.map((v) => {
    const [fills, said] = [fillsOf(v), patches[v.id] ?? byId<never>()];
    return { v, fills, said, isIdle: fills === own && !sitsOtherwise(said) };
  });
}

/** Plain colors that are told apart by default, and in a variant hardly from each other. */
function twinsThatArise(kit: Kit, variant: Variant, used: readonly number[]): number[] {
  const plain = (shown: Kit) =>
    new Map(
      shown.sheets.flatMap((s) =>
        s.cells.flatMap((c) =>
          c.fill.kind === 'solid' && used.includes(c.id) ? [[c.id, { cell: c, lab: labFromRgb(rgbFromHex(c.fill.color)) }] as const] : [],
        ),
      ),
    );
  const [before, now] = [plain(kit), plain(kitOfVariant(kit, variant))];
  const ids = [...now.keys()].filter((id) => before.has(id));
  const isApart = (of: typeof now, a: number, b: number) => labDistance(of.get(a)!.lab, of.get(b)!.lab) >= judgeDefaults.twins;
  const sameFinish = (a: Cell, b: Cell) => isSame(finishOf(a), finishOf(b));
  const found = new Set<number>();
  ids.forEach((a, i) => {
    for (const b of ids.slice(i + 1))
      if (isApart(before, a, b) && !isApart(now, a, b) && sameFinish(now.get(a)!.cell, now.get(b)!.cell)) found.add(a).add(b);
  });
  return [...found];
}
