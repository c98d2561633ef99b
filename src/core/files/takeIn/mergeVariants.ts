import { inherits, mostIn } from '../../ground/limits';
import { type ById, byId } from '../../ground/byId';
import type { Edit } from '../../kit/edit/edit';
import { fillsOfVariant } from '../../kit/colorings/shown';
import { withColorings } from '../../kit/cueActs';
import { newId, type Cell, type Coloring, type Cue, type Fill, type Kit, type KitState, type SeatPatch, type Variant } from '../../kit/kit';
import { isSameName } from '../../kit/variantNames';

/** What becomes of another kit's variants where it is taken into this one. */
export interface MergedVariants {
  /** Those of the whole kit, which come before the models; and those of one model, which come after them. */
  ofKit: Edit[];
  ofModels: Edit[];
  /** For a variant of the other kit the one in this kit. */
  variantOf: ReadonlyMap<string, string>;
  /** What the variants of the whole kit say of the faces of one of the other kit's models, by variant of this kit. */
  patchesOf: (model: string) => ById<SeatPatch>;
}

/** The variants of another kit, each with all that it says of cells. */
const saidBy = (kit: Kit): { variant: Variant; fills: Record<number, Fill> }[] =>
  kit.variants.map((variant) => ({ variant, fills: fillsOfVariant(kit, variant) }));

/** A variant of the whole kit goes on in one of the same name. */
const goesOnIn = (kit: Kit, variant: Variant): Variant | undefined =>
  variant.model === undefined ? kit.variants.find((v) => v.model === undefined && isSameName(v.name, variant.name)) : undefined;

/**
 * Which cells of two kits can be one: those that every variant which goes on shows alike, and of the other kit's cells only
 * those on one that all of its variants show alike.
 */
export function cellMeeting(kit: Kit, other: Kit): (own: number | null, ownFill: Fill, cell: Cell) => string | null {
  const theirs = saidBy(other);
  const mine = saidBy(kit);
  const shared = theirs.flatMap(({ variant, fills }) => {
    const own = goesOnIn(kit, variant);
    return own ? [{ theirs: fills, mine: mine.find((m) => m.variant === own)!.fills }] : [];
  });
  return (own, ownFill, cell) => {
    const isAlike = own === null || shared.every((s) => isSameFill(s.mine[own] ?? ownFill, s.theirs[cell.id] ?? cell.fill));
    return isAlike ? JSON.stringify(theirs.map(({ fills }) => fills[cell.id] ?? cell.fill)) : null;
  };
}

const isSameFill = (a: Fill, b: Fill): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * `cellOf`, `modelOf`: what the other kit's cells and models are in this one; `came`: cells of the other kit that came.
 * Rules that made colors come as the colors that they made. Throws where there would be too many variants.
 */
export function mergeVariants(
  { kit }: KitState,
  { kit: other, patches = byId<never>() }: KitState,
  { cellOf, came, modelOf }: { cellOf: ReadonlyMap<number, number>; came: ReadonlySet<number>; modelOf: ReadonlyMap<string, string> },
): MergedVariants {
  const variantOf = new Map<string, string>();
  const [ofKit, ofModels]: [Edit[], Edit[]] = [[], []];
  const names = kit.variants.map((v) => v.name);
  const defaultOf = new Map(other.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  const patchIn = (patch: SeatPatch): SeatPatch => ({
    ...patch,
    cell: patch.cell.map((c) => (c === inherits ? inherits : (cellOf.get(c) ?? 0))),
  });
  let index = kit.variants.length;
  // Those of the whole kit come first, since models come between them and the others.
  const isOfModel = ({ variant }: { variant: Variant }) => Number(variant.model !== undefined);
  for (const { variant, fills } of saidBy(other).sort((a, b) => isOfModel(a) - isOfModel(b))) {
    const own = goesOnIn(kit, variant);
    const said: Record<number, Fill> = {};
    for (const [id, cell] of cellOf) {
      if (own && !came.has(id)) continue;
      const fill = fills[id] ?? defaultOf.get(id)!;
      // Rules of the variant that goes on would change what it is silent about.
      if (own?.rules?.length || !isSameFill(fill, defaultOf.get(id)!)) said[cell] = fill;
    }
    if (own) {
      variantOf.set(variant.id, own.id);
      if (Object.keys(said).length) {
        const after = { ...own, fills: { ...own.fills, ...said } };
        ofKit.push({ kind: 'put', list: 'variants', of: 'kit', index: kit.variants.indexOf(own), before: own, after });
      }
      continue;
    }
    const { rules: _, model, ...rest } = variant;
    let name = variant.name;
    for (let n = 2; names.some((taken) => isSameName(taken, name)); n++) name = `${variant.name} ${n}`;
    names.push(name);
    const after: Variant = { ...rest, id: newId('v'), name, fills: said, ...(model !== undefined && { model: modelOf.get(model)! }) };
    variantOf.set(variant.id, after.id);
    const put = { kind: 'put', list: 'variants', of: 'kit', index: index++, before: null, after } as const;
    if (model === undefined) ofKit.push(put);
    else {
      const patch = patches[variant.id]?.[model];
      ofModels.push({ ...put, ...(patch && { patches: byId({ [after.model!]: patchIn(patch) }) }) });
    }
  }
  if (index > mostIn.variants) throw new Error(`A kit has at most ${mostIn.variants} variants; there would be ${index}.`);
  const ofAll = other.variants.filter((v) => v.model === undefined);
  return {
    ofKit,
    ofModels,
    variantOf,
    patchesOf: (model) =>
      byId(ofAll.flatMap((v) => (patches[v.id]?.[model] ? [[variantOf.get(v.id)!, patchIn(patches[v.id]![model]!)] as const] : []))),
  };
}

/** What stands on the other kit's stage and its cues, in terms of this kit, with numbers of their own. */
export function stageIn(
  { placements = [], cues = [] }: Kit,
  modelOf: ReadonlyMap<string, string>,
  variantOf: ReadonlyMap<string, string>,
): { placements: NonNullable<Kit['placements']>; cues: Cue[] } {
  const placementOf = new Map(placements.map((p) => [p.id, newId('o')]));
  const cueOf = new Map(cues.map((c) => [c.id, newId('q')]));
  // What is gone there is gone here, too.
  const into = (map: ReadonlyMap<string, string>, id: string) => map.get(id) ?? id;
  const coloring = (c: Coloring): Coloring => (c === null ? null : into(variantOf, c));
  return {
    placements: placements.map((p) => ({
      ...p,
      id: placementOf.get(p.id)!,
      model: modelOf.get(p.model)!,
      ...(p.variant !== undefined && { variant: variantOf.get(p.variant)! }),
    })),
    cues: cues.map(({ when, who, does, onlyIf, ...cue }): Cue => ({
      ...cue,
      id: cueOf.get(cue.id)!,
      when:
        when.kind === 'start'
          ? when
          : when.kind === 'cue'
            ? { ...when, cue: into(cueOf, when.cue) }
            : { ...when, placement: into(placementOf, when.placement) },
      who:
        who.placement !== undefined
          ? { placement: into(placementOf, who.placement) }
          : who.model !== undefined
            ? { model: into(modelOf, who.model) }
            : {},
      does: withColorings(does, coloring, (among) => among.map(coloring)),
      ...(onlyIf && { onlyIf: { placement: into(placementOf, onlyIf.placement), coloring: coloring(onlyIf.coloring) } }),
    })),
  };
}
