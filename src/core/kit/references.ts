import { byId } from '../ground/byId';
import { patternAfter } from './patterns';
import type { ColoringRule, HandOff, Kit, LeavingSlot, Model, Sheet, Variant } from './kit';

/** What becomes of what a document refers to: of a cell the one that it gives way to (0: none), of all else whether it stays. */
export interface Fate {
  cell: (id: number) => number;
  model: (id: string) => boolean;
  variant: (id: string) => boolean;
}

interface ReferencePlace {
  /** Completes “it has …”. */
  what: string;
  follow: (kit: Kit, fate: Fate) => Kit;
}

/**
 * Every place of a kit's document that refers to a cell, ramp, model or variant and can do without, each with what
 * becomes of it where that goes. Seats and patches of faces refer to cells, too: `moveFaces`. What stands on the stage is
 * checked with what it says (`placementNames`, `cues`).
 */
export const referencePlaces: readonly ReferencePlace[] = [
  {
    what: 'a region with a color that is not there',
    follow: (kit, { cell }) =>
      overModels(kit, (m) =>
        withList(
          m,
          'regions',
          each(m.regions, (r) => moved(r, r.cell && cell(r.cell))),
        ),
      ),
  },
  {
    what: 'a material slot of a color that is not there',
    follow: (kit, { cell }) => overModels(kit, (m) => withList(m, 'slots', slotsOf(m, cell))),
  },
  {
    what: 'a pattern of a color that is not there',
    follow: (kit, { cell }) =>
      overModels(kit, (m) => {
        const picks =
          m.picks &&
          each(m.picks, (p) => {
            const pattern = p.pattern && patternAfter(p.pattern, cell);
            if (pattern === p.pattern) return p;
            const { pattern: _, ...bare } = p;
            return pattern ? { ...p, pattern } : bare;
          });
        return picks === m.picks ? m : { ...m, picks };
      }),
  },
  {
    what: 'a ramp with a step that is not there',
    follow: (kit, { cell }) =>
      overSheets(kit, (s) =>
        withList(
          s,
          'ramps',
          each(s.ramps, (r) => {
            const cells = kept(r.cells, (id) => cell(id) === id);
            return cells === r.cells ? r : cells.length ? { ...r, cells } : null;
          }),
        ),
      ),
  },
  {
    what: 'an added color of a frozen sheet that is not there',
    follow: (kit, { cell }) =>
      overSheets(kit, (s) => {
        const appended = s.frozen?.appended && kept(s.frozen.appended, (id) => cell(id) === id);
        return appended === s.frozen?.appended ? s : { ...s, frozen: { ...s.frozen!, appended: appended! } };
      }),
  },
  {
    what: 'a variant that speaks of a color that is not there',
    follow: (kit, { cell }) =>
      overVariants(kit, (v) => {
        const fills = keptKeys(v.fills, (id) => cell(id) === id);
        return fills === v.fills ? v : { ...v, fills };
      }),
  },
  {
    what: 'a rule of a variant that speaks of what is not there',
    follow: (kit, { cell }) => {
      const ramps = new Set(kit.sheets.flatMap((s) => s.ramps.map((r) => r.id)));
      return overVariants(kit, (v) => {
        const rules = v.rules && each(v.rules, (rule) => ruleAfter(rule, cell, ramps));
        if (rules === v.rules) return v;
        const { rules: _, ...bare } = v;
        return rules!.length ? { ...v, rules: rules! } : bare;
      });
    },
  },
  {
    what: 'a plan for a model that is not there',
    follow: (kit, { model }) => {
      const handOffs = each(kit.handOffs, (plan) => planAfter(plan, model));
      return handOffs === kit.handOffs ? kit : { ...kit, handOffs };
    },
  },
  {
    what: 'a start variant that is not there',
    follow: (kit, { variant }) => {
      if (kit.startsWith === undefined || variant(kit.startsWith)) return kit;
      const { startsWith: _, ...rest } = kit;
      return rest;
    },
  },
  {
    what: 'a remark of Proof on what is not there',
    follow: (kit, { model }) => {
      if (!kit.proof) return kit;
      const waived = kept(kit.proof.waived, (w) => w.model === undefined || model(w.model));
      return waived === kit.proof.waived ? kit : { ...kit, proof: { ...kit.proof, waived } };
    },
  },
];

/** The kit after what it refers to has met its fate; what does not change stays the same object. */
export const followed = (kit: Kit, fate: Partial<Fate>): Kit =>
  referencePlaces.reduce((now, place) => place.follow(now, { ...everythingStays, ...fate }), kit);

const everythingStays: Fate = {
  cell: (id) => id,
  model: () => true,
  variant: () => true,
};

/** What is there in a kit stays, and nothing else. */
function whatIsThere({ sheets, models, variants }: Kit): Fate {
  const cells = new Set(sheets.flatMap((s) => s.cells.map((c) => c.id)));
  const has = (list: readonly { id: string }[]) => {
    const ids = new Set(list.map((e) => e.id));
    return (id: string) => ids.has(id);
  };
  return {
    cell: (id) => (cells.has(id) ? id : 0),
    model: has(models),
    variant: has(variants),
  };
}

/** The first thing of which the kit speaks though it is not there, as “it has …”; `null` where all is there. */
export function strangerInKit(kit: Kit): string | null {
  const fate = whatIsThere(kit);
  return referencePlaces.find(({ follow }) => follow(kit, fate) !== kit)?.what ?? null;
}

/** The kit without what it says of things that are not there. */
export const withoutStrangers = (kit: Kit): Kit => followed(kit, whatIsThere(kit));

/** A list with what becomes of each entry; the same list where all stay. */
function each<T>(list: readonly T[], change: (entry: T) => T | null): T[] {
  const after = list.map(change);
  return after.every((e, i) => e === list[i]) ? (list as T[]) : after.filter((e) => e !== null);
}

const kept = <T>(list: readonly T[], stays: (entry: T) => boolean): T[] => each(list, (e) => (stays(e) ? e : null));

function keptKeys<T>(table: Record<number, T>, stays: (id: number, value: T) => boolean): Record<number, T> {
  const entries = Object.entries(table);
  const left = entries.filter(([id, value]) => stays(Number(id), value));
  return left.length === entries.length ? table : Object.fromEntries(left);
}

const withList = <T, K extends keyof T>(of: T, key: K, list: T[K]): T => (of[key] === list ? of : { ...of, [key]: list });
const moved = <T extends { cell: number }>(entry: T, cell: number): T => (entry.cell === cell ? entry : { ...entry, cell });

const overModels = (kit: Kit, change: (m: Model) => Model): Kit => withList(kit, 'models', each(kit.models, change));
const overSheets = (kit: Kit, change: (s: Sheet) => Sheet): Kit => withList(kit, 'sheets', each(kit.sheets, change));
const overVariants = (kit: Kit, change: (v: Variant) => Variant): Kit => withList(kit, 'variants', each(kit.variants, change));

/** A number goes along to the color that takes over, unless that has one of its own. */
function slotsOf({ slots }: Model, cell: Fate['cell']): LeavingSlot[] {
  const has = new Set(slots.flatMap((s) => (cell(s.cell) === s.cell ? [s.cell] : [])));
  return each(slots, (s) => {
    const to = cell(s.cell);
    if (to === s.cell) return s;
    if (to === 0 || has.has(to)) return null;
    has.add(to);
    return moved(s, to);
  });
}

/** `null` where a rule would have nothing left to do. */
function ruleAfter(rule: ColoringRule, cell: Fate['cell'], ramps: ReadonlySet<string>): ColoringRule | null {
  const stays = (id: number) => cell(id) === id;
  let next = rule;
  if (rule.only)
    next = withList(
      next,
      'only',
      kept(rule.only, (id) => ramps.has(id)),
    );
  if (rule.only?.length && !next.only!.length) return null;
  if (rule.except) next = withList(next, 'except', kept(rule.except, stays));
  if (next.kind === 'exchange')
    return withList(
      next,
      'cells',
      keptKeys(next.cells, (id, from) => stays(id) && stays(from)),
    );
  // Its picture may be gone: the colors are kept.
  return next.kind === 'drawn' ? withList(next, 'colors', keptKeys(next.colors, stays)) : next;
}

function planAfter(plan: HandOff, model: Fate['model']): HandOff {
  const parts = each(plan.parts, (part) => {
    const entries = Object.entries(part.ways ?? {});
    const left = entries.filter(([id]) => model(id));
    if (left.length === entries.length) return part;
    const { ways: _, ...bare } = part;
    return left.length ? { ...bare, ways: byId(left) } : bare;
  });
  const { icon } = plan;
  if (icon?.model === undefined || model(icon.model)) return withList(plan, 'parts', parts);
  const { model: _, ...from } = icon;
  return { ...plan, parts, icon: from };
}
