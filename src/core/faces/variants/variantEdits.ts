import { inherits } from '../../ground/limits';
import { byId } from '../../ground/byId';
import { group, groupForAll, leavesOf, type Edit } from '../../kit/edit/edit';
import { kitAfter } from '../../kit/edit/kitAfter';
import { spansOf } from '../../kit/edit/seatFaces';
import { isPainted } from '../../kit/pixels';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { freeName } from '../../kit/freeName';
import { findVariant, newId, type ColoringRule, type Kit, type KitState, type SeatPatch, type Variant } from '../../kit/kit';
import { copyPatches, patchOf } from '../../kit/patches';
import { cuesWithout } from '../../kit/edit/cueEdits';
import { changeOfPatch, type Said } from './patchEdit';
import { putVariant } from './intoVariant';
import { showingAs } from '../../kit/colorings/keepingLooks';
import { fillsByRules } from '../../kit/colorings/rules';
import { fillsOfVariant, stateOfVariant } from '../../kit/colorings/shown';

/** Adds a variant at the end, or beside the one that it is a copy of. */
export function addVariant(
  state: KitState,
  { name, model, copyOf }: { name: string; model?: string; copyOf?: string },
): { edit: Edit; id: string } {
  const { kit, patches = byId<never>() } = state;
  const from = kit.variants.find((v) => v.id === copyOf);
  const id = newId('v');
  const of = from ? from.model : model;
  const after: Variant = {
    id,
    name: name.trim(),
    ...(of !== undefined && { model: of }),
    ...(from?.rules && { rules: from.rules }),
    fills: { ...from?.fills },
  };
  const index = from ? kit.variants.indexOf(from) + 1 : kit.variants.length;
  const own = from && patches[from.id];
  return {
    id,
    edit: group(`New variant ${after.name}`, [
      { kind: 'put', list: 'variants', of: 'kit', index, before: null, after, ...(own && { patches: copyPatches(own) }) },
    ]),
  };
}

export const freeVariantName = ({ variants }: Kit, wanted: string): string =>
  freeName(
    wanted,
    variants.map((v) => v.name),
  );

export const renameVariant = (state: KitState, variant: Variant, name: string): Edit =>
  group(`Rename ${variant.name}`, [putVariant(state, { ...variant, name: name.trim() })]);

/** Removes a variant with all that it says; where the kit started with it, it starts with the default coloring. */
export function removeVariant({ kit, patches = byId<never>() }: KitState, variant: Variant): Edit {
  const index = kit.variants.indexOf(variant);
  const own = patches[variant.id];
  return group(`Delete ${variant.name}`, [
    ...cuesWithout(kit, { variants: [variant.id] }),
    ...showDefaultInstead(kit, variant.id),
    ...(kit.startsWith === variant.id ? [startWith(kit, null)] : []),
    { kind: 'put', list: 'variants', of: 'kit', index, before: variant, after: null, ...(own && { patches: copyPatches(own) }) },
  ]);
}

/** What stands on the stage in a variant shows the default coloring. */
const showDefaultInstead = ({ placements = [] }: Kit, variant: string): Edit[] =>
  placements.flatMap((before, index): Edit[] => {
    if (before.variant !== variant) return [];
    const { variant: _, ...after } = before;
    return [{ kind: 'put', list: 'placements', of: 'kit', index, before, after }];
  });

/** A variant takes another place in the list. */
export function moveVariant({ kit, patches = byId<never>() }: KitState, variant: Variant, to: number): Edit {
  const own = patches[variant.id];
  const kept = own && { patches: copyPatches(own) };
  return group(`Move ${variant.name}`, [
    { kind: 'put', list: 'variants', of: 'kit', index: kit.variants.indexOf(variant), before: variant, after: null, ...kept },
    { kind: 'put', list: 'variants', of: 'kit', index: to, before: null, after: variant, ...kept },
  ]);
}

/** The variant with which a game starts; `null`: the default coloring. */
export const startWith = ({ startsWith }: Kit, id: string | null): Edit => ({
  kind: 'set',
  of: 'kit',
  before: startsWith === undefined ? {} : { startsWith },
  after: id === null ? {} : { startsWith: id },
});

/** What of a variant an act is about: some cells, some faces of a model, or all of it. */
export type Differences = { cells: readonly number[] } | { model: string; faces: Uint32Array } | 'all';

type FaceStartOf = (model: string) => Uint32Array;

/** Differences are the default's again; `null` where there were none. */
export function takeBack(state: KitState, variant: Variant, what: Differences, faceStartOf: FaceStartOf): Edit | null {
  const edits: Edit[] = [];
  const cells = cellsSaid(state.kit, variant, what);
  if (what === 'all' && (cells.length || variant.rules)) {
    const { rules: _, ...rest } = variant;
    edits.push(putVariant(state, { ...rest, fills: {} }));
  } else if (cells.length) edits.push(putVariant(state, withoutCells(state.kit, variant, cells)));
  for (const [model, patch, faces] of patchesIn(state, variant, what)) {
    const edit = changeOfPatch(patch, variant.id, model, faceStartOf(model), () => undefined, faces);
    if (edit) edits.push(edit);
  }
  return edits.length ? group(`Take back what differs in ${variant.name}`, edits) : null;
}

/** Differences become those of another variant too, over what that says of the same; `null` where nothing changes. */
export function copyDifferences(state: KitState, from: Variant, to: Variant, what: Differences, faceStartOf: FaceStartOf): Edit | null {
  const edits: Edit[] = [];
  const said = fillsOfVariant(state.kit, from);
  const after = { ...to.fills, ...Object.fromEntries(cellsSaid(state.kit, from, what).map((id) => [id, said[id]!])) };
  if (JSON.stringify(after) !== JSON.stringify(to.fills)) edits.push(putVariant(state, { ...to, fills: after }));
  for (const [model, patch, faces] of patchesIn(state, from, what)) {
    const told = faces ?? facesSaid(patch, faceStartOf(model));
    const edit = changeOfPatch(
      patchOf(state, to.id, model),
      to.id,
      model,
      faceStartOf(model),
      (f, next) => sayAs(patch, faceStartOf(model), f, next),
      told,
    );
    if (edit) edits.push(edit);
  }
  return edits.length ? group(`Copy differences to ${to.name}`, edits) : null;
}

/**
 * Differences become the default coloring, and so show in every variant that says nothing of the same; `null` where
 * there are none. Faces of locked regions are refused by the door.
 */
export function moveIntoDefault(state: KitState, variant: Variant, what: Differences, faceStartOf: FaceStartOf): Edit | null {
  const edits: Edit[] = [];
  const said = fillsOfVariant(state.kit, variant);
  for (const id of cellsSaid(state.kit, variant, what))
    for (const sheet of state.kit.sheets) {
      const index = sheet.cells.findIndex((c) => c.id === id);
      const before = sheet.cells[index];
      if (!before || before.fill.kind === 'spare') continue;
      const own = said[id]!;
      if (isPainted(before.fill) && isPainted(own)) {
        const texels = texelsIntoDefault(state, before.fill.picture, own.picture);
        if (texels) edits.push(texels);
        continue;
      }
      edits.push({ kind: 'put', list: 'cells', of: sheet.id, index, before, after: { ...before, fill: own } });
    }
  const shown = stateOfVariant(state, variant.id);
  for (const [model, patch, faces] of patchesIn(state, variant, what)) {
    const faceStart = faceStartOf(model);
    edits.push(...seatAs(state, shown, model, faceStart, faces ?? facesSaid(patch, faceStart)));
  }
  const back = takeBack(state, variant, what, faceStartOf);
  if (!edits.length || !back) return null;
  // Its rules may have made other colors of these: they stay as it shows them.
  const kit = kitAfter(
    state.kit,
    edits.filter((e) => e.kind === 'put'),
  );
  const spoken = kitAfter(
    kit,
    leavesOf(back).filter((e) => e.kind === 'put'),
  );
  const silent = findVariant(spoken, variant.id);
  const after = showingAs(state.kit, variant, kit, silent);
  const kept: Edit[] = after === silent ? [] : [putVariant({ kit: spoken }, after)];
  return groupForAll(`Make what differs in ${variant.name} the default`, [...edits, back, ...kept]);
}

/** The edit after which painted art shows what a variant has painted otherwise; `null` where that is nothing. */
function texelsIntoDefault({ pixels }: KitState, art: string, own: string): Edit | null {
  const [before, said] = [pixels?.[art]?.cells, pixels?.[own]?.cells];
  if (!before || before.length !== said?.length) return null;
  const spans = spansOf(
    before,
    facesWhere(before.length, (t) => said[t] !== inherits),
    (_, t) => said[t]!,
  );
  return spans.length ? { kind: 'pixels', art, spans } : null;
}

/** The edits after which faces sit in the default as another state of the same kit shows them. */
function seatAs(state: KitState, shown: KitState, model: string, faceStart: Uint32Array, faces: Uint32Array): Edit[] {
  const [own, wanted] = [state.seats[model]!, shown.seats[model]!];
  const cells: number[] = [];
  const rules: number[] = [];
  const [corners, faceSpans, before, after]: number[][] = [[], [], [], []];
  for (const f of faces) {
    if (own.cell[f] !== wanted.cell[f]) cells.push(f, 1, own.cell[f]!, wanted.cell[f]!);
    const [was, is] = [own.rule?.[f] ?? 0, wanted.rule?.[f] ?? 0];
    if (was !== is) rules.push(f, 1, was, is);
    if (!wanted.at) continue;
    corners!.push(faceStart[f]!, faceStart[f + 1]! - faceStart[f]!);
    faceSpans!.push(f, 1);
    for (let i = faceStart[f]! * 2; i < faceStart[f + 1]! * 2; i++) {
      before!.push(own.at?.[i] ?? 0.5);
      after!.push(wanted.at[i]!);
    }
  }
  const edits: Edit[] = [];
  if (cells.length) edits.push({ kind: 'seat', model, spans: Uint32Array.from(cells) });
  if (before!.some((v, i) => v !== after![i]))
    edits.push({
      kind: 'place',
      model,
      corners: faceStart.at(-1)!,
      spans: Uint32Array.from(corners!),
      faces: Uint32Array.from(faceSpans!),
      before: own.at ? Float32Array.from(before!) : null,
      after: Float32Array.from(after!),
    });
  if (rules.length) edits.push({ kind: 'rule', model, spans: Uint32Array.from(rules) });
  return edits;
}

/** The cells of which a variant speaks, by hand or by its rules, of those that are meant. */
function cellsSaid(kit: Kit, variant: Variant, what: Differences): number[] {
  const own = Object.keys(fillsOfVariant(kit, variant)).map(Number);
  if (what === 'all') return own;
  return 'cells' in what ? own.filter((id) => what.cells.includes(id)) : [];
}

function patchesIn(
  { patches = byId<never>() }: KitState,
  { id }: Variant,
  what: Differences,
): [model: string, patch: SeatPatch, faces: Uint32Array | undefined][] {
  const own = Object.entries(patches[id] ?? {});
  if (what === 'all') return own.map(([model, patch]) => [model, patch, undefined]);
  if ('cells' in what) return [];
  return own.filter(([model]) => model === what.model).map(([model, patch]) => [model, patch, what.faces]);
}

/** Whether a patch says anything of a face. */
export function saysOf({ cell, rule, at }: SeatPatch, faceStart: Uint32Array, f: number): boolean {
  return cell[f] !== inherits || (rule !== undefined && rule[f] !== inherits) || (at !== undefined && !Number.isNaN(at[faceStart[f]! * 2]));
}

/** The faces that sit otherwise in a variant. */
export function facesSaid(patch: SeatPatch | undefined, faceStart: Uint32Array): Uint32Array {
  const out: number[] = [];
  if (patch) for (let f = 0; f < patch.cell.length; f++) if (saysOf(patch, faceStart, f)) out.push(f);
  return Uint32Array.from(out);
}

function sayAs({ cell, rule, at }: SeatPatch, faceStart: Uint32Array, f: number, next: Said): void {
  next.cell = cell[f]!;
  next.rule = rule?.[f] ?? inherits;
  if (at && !Number.isNaN(at[faceStart[f]! * 2])) next.at = (i) => at[i]!;
}

/** A variant that says nothing of some cells: what rules make of them they leave alone from now on. */
function withoutCells(kit: Kit, variant: Variant, cells: readonly number[]): Variant {
  const made = fillsByRules(kit, variant.rules);
  const alone = cells.filter((id) => made[id]);
  const fills = Object.fromEntries(Object.entries(variant.fills).filter(([id]) => !cells.includes(Number(id))));
  const rules = alone.length ? variant.rules!.map((r) => ({ ...r, except: [...new Set([...(r.except ?? []), ...alone])] })) : variant.rules;
  return { ...variant, fills, ...(rules && { rules }) };
}

/** A variant with other rules; what is said by hand stays. Rules are left out where there are none. */
export function withRules({ rules: _, ...variant }: Variant, rules: readonly ColoringRule[]): Variant {
  return rules.length ? { ...variant, rules: [...rules] } : variant;
}
