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
import { finding, type Finding, type ProofInput } from './finding';

/** What is wrong with the variants of a kit: idle ones, like ones, colors that run together in one alone. */
export function variantProblems(input: ProofInput): Finding[] {
  const { kit, patches = byId<never>() } = input;
  const used = [...usesInAll(input).keys()];
  const fillsOf = (variant: Variant | null) => {
    const fills = new Map((variant ? kitOfVariant(kit, variant) : kit).sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
    return JSON.stringify(used.map((id) => fills.get(id)));
  };
  const own = fillsOf(null);
  const looks = kit.variants.map((v) => ({ v, fills: fillsOf(v), said: patches[v.id] ?? byId() }));
  // What the default took over is said still, and differs no more.
  const sitsOtherwise = (said: ById<SeatPatch>) =>
    Object.entries(said).some(
      ([model, patch]) => input.seats[model] && !areSameSeats(input.seats[model], patchedSeats(input.seats[model], patch)),
    );
  const idle = looks.filter(({ fills, said }) => fills === own && !sitsOtherwise(said));
  const alike = looks.filter(
    ({ v, fills, said }, i) =>
      !idle.some((o) => o.v === v) &&
      looks.some((o, k) => k !== i && o.v.model === v.model && o.fills === fills && areSamePatches(o.said, said)),
  );
  const told = (check: 'idle-variant' | 'like-variants', list: typeof looks) =>
    finding(check, { count: list.length, detail: list.map(({ v }) => v.name).join(', ') });
  return [
    told('idle-variant', idle),
    told('like-variants', alike),
    ...kit.variants.flatMap((v) => {
      const cells = twinsThatArise(kit, v, used);
      return cells.length ? [finding('merging-in-variant', { cells, detail: v.name })] : [];
    }),
  ];
}

/** Faces of models that have no color in a variant alone. */
export const bareInVariants = ({ kit, models, patches = byId<never>() }: ProofInput): Finding[] =>
  kit.variants.flatMap((v) =>
    models.flatMap(({ model, seats }) => {
      const patch = patches[v.id]?.[model.id];
      if (!patch) return [];
      const { cell } = patchedSeats(seats, patch);
      const faces = facesWhere(cell.length, (f) => cell[f] === 0 && seats.cell[f] !== 0);
      return faces.length ? [finding('bare-in-variant', { model: model.id, faces, detail: v.name })] : [];
    }),
  );

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
