import { byId } from '../../ground/byId';
import { applyEdit, labelOf } from '../../kit/edit/editKinds';
import { group, leavesOf, type Edit, type PutEdit } from '../../kit/edit/edit';
import { EditRefused, isSame } from '../../kit/edit/refused';
import { copySeats, findVariant, type Cell, type Kit, type KitState, type Variant } from '../../kit/kit';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import { areSameSeats, patchOf } from '../../kit/patches';
import { isPainted } from '../../kit/pixels';
import { patchEdit } from './patchEdit';
import { fillsByRules } from '../../kit/colorings/rules';
import { stateOfVariant } from '../../kit/colorings/shown';

type CellEdit = Extract<PutEdit, { list: 'cells' }>;

/**
 * The edit that does to one variant what an edit of the kit as the variant shows it asks for: faces that are
 * colored there become differences of the variant, and so do other fills of cells; what differs no more is the
 * default's again. All else (new cells, names, regions, layouts) is of the kit, and so of every coloring.
 * `faceStartOf`: first corner of each face of a model. Throws `EditRefused` where the edit cannot be done, and
 * where it would move faces for good together with the cells that they sit on.
 */
export function intoVariant(base: KitState, id: string, edit: Edit, faceStartOf: (model: string) => Uint32Array): Edit {
  const variant = findVariant(base.kit, id);
  const shown = stateOfVariant(base, id);
  const asked = leavesOf(edit);
  const colored = [...new Set(asked.flatMap((e) => (isColoring(e) ? [e.model] : [])))];
  if (colored.length && asked.some(isForAll))
    throw new EditRefused(`it changes the sheet of all colorings. Choose the default coloring first`);
  // Arrays are patched in place: what is tried gets its own.
  const touched = new Set(asked.flatMap((leaf) => ('model' in leaf ? [leaf.model] : [])));
  const tried: KitState = {
    ...shown,
    seats: byId(Object.entries(shown.seats).map(([model, own]) => [model, touched.has(model) ? copySeats(own) : own])),
  };
  const wanted = applyEdit(tried, edit);
  const leaves = asked.map((leaf) => withRulesApart(base, shown, id, leaf, wanted, (model) => facesOf(asked, model, wanted)));
  const { edits, kit } = ofTheKit(base, leaves);
  const fills = fillsByHand(kit, variant, wanted.kit);
  if (!isSame(fills, variant.fills)) edits.push(putVariant(base, { ...variant, fills }));
  for (const model of colored) {
    if (variant.model !== undefined && variant.model !== model)
      throw new EditRefused(`“${variant.name}” is a coloring of another model. Choose the default coloring first`);
    const isMoved = !areSameSeats(wanted.seats[model]!, shown.seats[model]!);
    const patch =
      isMoved && patchEdit(base, id, model, wanted.seats[model]!, faceStartOf(model), wanted.kit, facesOf(leaves, model, wanted));
    if (patch) edits.push(patch);
    if (leaves.some((e) => e.kind === 'remesh' && e.model === model)) edits.push(...regionEdits(base, model, wanted));
  }
  return edits.length === 1 ? edits[0]! : group(labelOf(edit), edits);
}

/** The edit by which a variant is another; it keeps its place. */
export function putVariant({ kit }: Pick<KitState, 'kit'>, after: Variant): Edit {
  const index = kit.variants.findIndex((v) => v.id === after.id);
  return { kind: 'put', list: 'variants', of: 'kit', index, before: kit.variants[index]!, after };
}

/**
 * Rules of laying that an edit words anew get a number of their own where faces that it does not touch remember them, in
 * this coloring or another: those lie as they did. `wanted`: with faces that remember the new number from now on.
 */
function withRulesApart(
  base: KitState,
  shown: KitState,
  variant: string,
  edit: Edit,
  wanted: KitState,
  touchedIn: (model: string) => Uint32Array | undefined,
): Edit {
  if (edit.kind !== 'put' || edit.list !== 'models' || !edit.before || !edit.after) return edit;
  const { before, after } = edit;
  const { rule } = wanted.seats[after.id]!;
  const touched = new Set(touchedIn(after.id) ?? rule?.keys());
  const others = base.kit.variants.flatMap((v) => (v.id === variant ? [] : (patchOf(base, v.id, after.id)?.rule ?? [])));
  const rules = after.rules?.flatMap((worded) => {
    const had = before.rules?.find((r) => r.id === worded.id);
    const isRemembered =
      base.seats[after.id]!.rule?.includes(worded.id) ||
      others.some((list) => list.includes(worded.id)) ||
      shown.seats[after.id]!.rule?.some((r, f) => r === worded.id && !touched.has(f));
    if (!had || isSame(had, worded) || !isRemembered) return [worded];
    const taken = new Set([...before.rules!, ...after.rules!].map((r) => r.id));
    let own = 1;
    while (taken.has(own)) own++;
    for (const f of touched) if (rule?.[f] === worded.id) rule[f] = own;
    return [had, { ...worded, id: own }];
  });
  return rules ? { ...edit, after: { ...after, rules: rules.sort((a, b) => a.id - b.id) } } : edit;
}

/** Faces of a model take other colors, on the mesh that it has. */
function isColoring(edit: Edit): edit is Extract<Edit, { model: string }> {
  if (edit.kind === 'remesh') return edit.before.mesh === edit.after.mesh;
  return edit.kind === 'seat' || edit.kind === 'place' || edit.kind === 'rule';
}

/** The faces of a model whose colors these may change, ascending; `undefined`: all of them. */
function facesOf(leaves: readonly Edit[], model: string, { seats }: KitState): Uint32Array | undefined {
  const isTouched = new Uint8Array(seats[model]!.cell.length);
  for (const leaf of leaves) {
    if (!isColoring(leaf) || leaf.model !== model) continue;
    const faces = leaf.kind === 'seat' || leaf.kind === 'rule' ? leaf.spans : leaf.kind === 'place' ? leaf.faces : undefined;
    if (!faces) return undefined;
    const width = leaf.kind === 'place' ? 2 : 4;
    for (let i = 0; i < faces.length; i += width) isTouched.fill(1, faces[i]!, faces[i]! + faces[i + 1]!);
  }
  return facesWhere(isTouched.length, (f) => isTouched[f]);
}

/** What would leave faces of other colorings on cells that are gone, or without their mesh. */
function isForAll(edit: Edit): boolean {
  if (edit.kind === 'remesh') return edit.before.mesh !== edit.after.mesh;
  if (edit.kind !== 'put') return false;
  if (edit.list === 'sheets') return edit.before !== null;
  return edit.list === 'cells' && edit.before !== null && !isSpare(edit.before) && (!edit.after || isSpare(edit.after));
}

const isSpare = (cell: Cell): boolean => cell.fill.kind === 'spare';

/** What a variant says by hand, so that with its rules it shows the cells of a kit as they are wanted. */
export function fillsByHand(kit: Kit, variant: Variant, wanted: Kit): Variant['fills'] {
  const made = fillsByRules(kit, variant.rules);
  const own = new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  const fills: Variant['fills'] = {};
  for (const { cells } of wanted.sheets)
    for (const { id, fill } of cells) {
      if (fill.kind === 'spare') continue;
      // Painted art shows the cells of its texels, in every coloring: of those that a variant has of its own it goes on to.
      if (isPainted(fill) && isPainted(own.get(id))) {
        if (isPainted(variant.fills[id])) fills[id] = variant.fills[id]!;
        continue;
      }
      if (!isSame(fill, made[id] ?? own.get(id))) fills[id] = fill;
    }
  return fills;
}

/** Edits of a group are followed one by one: whether all of them hold together is seen when they are done. */
const oneByOne = { ignoreLocks: true };

/** The leaves that are of every coloring, as edits of the kit itself, and the kit after them. */
function ofTheKit(base: KitState, leaves: readonly Edit[]): { edits: Edit[]; kit: Kit } {
  const edits: Edit[] = [];
  // Cells alone are followed from edit to edit: nothing here touches seats, which would change in place.
  let now: KitState = { kit: base.kit, seats: byId() };
  for (const leaf of leaves) {
    if (isColoring(leaf)) continue;
    const own = leaf.kind === 'put' && leaf.list === 'cells' ? ofCell(now, leaf) : ofModel(leaf);
    if (!own) continue;
    edits.push(own);
    if (own.kind === 'set' || (own.kind === 'put' && own.list !== 'models')) now = applyEdit(now, own, oneByOne);
  }
  return { edits, kit: now.kit };
}

/** A change of a cell as the variant shows it, without its fill, which goes to the variant. */
function ofCell({ kit }: KitState, edit: CellEdit): Edit | null {
  const { before, after, of } = edit;
  const cells = kit.sheets.find((s) => s.id === of)?.cells ?? [];
  const index = before ? cells.findIndex((c) => c.id === before.id) : edit.index;
  const own = before ? (cells[index] ?? null) : null;
  // A color that comes to be, or is no more, does so for all.
  if (!before || !after || !own || isSpare(own) || isSpare(after)) return { ...edit, index, before: own };
  const kept = { ...after, fill: own.fill };
  return isSame(kept, own) ? null : { ...edit, index, before: own, after: kept };
}

/**
 * What is said of a model is of all colorings, but for the color that a region is to have: that stays. Rules of laying
 * that faces forget in a variant may be remembered by others. `null` where nothing is left of it.
 */
function ofModel(edit: Edit): Edit | null {
  if (edit.kind !== 'put' || edit.list !== 'models' || !edit.before || !edit.after) return edit;
  const { before } = edit;
  const { rules = [], regions } = edit.after;
  const forgotten = (before.rules ?? []).filter((r) => !rules.some((n) => n.id === r.id));
  const after = {
    ...edit.after,
    regions: regions.map((r) => ({ ...r, cell: before.regions.find((was) => was.id === r.id)?.cell ?? r.cell })),
    ...(forgotten.length && { rules: [...rules, ...forgotten].sort((a, b) => a.id - b.id) }),
  };
  return isSame(after, before) ? null : { ...edit, after };
}

/** Regions are of every coloring: where they came to faces together with colors of another model, they do so for all. */
function regionEdits(base: KitState, model: string, wanted: KitState): Edit[] {
  const [now, then] = [base.seats[model]!.region, wanted.seats[model]!.region];
  const spans: number[] = [];
  for (let f = 0; f < now.length; f++) if (now[f] !== then[f]) spans.push(f, 1, now[f]!, then[f]!);
  return spans.length ? [{ kind: 'region', model, spans: Uint32Array.from(spans) }] : [];
}
