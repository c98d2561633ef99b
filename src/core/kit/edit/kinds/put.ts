import { mostCellIds, mostIn } from '../../../ground/limits';
import { type ById, byId, withId } from '../../../ground/byId';
import { contentsOf } from '../../contents';
import { copySeats, findCell, sizeOfSeats, type Cue, type Kit, type KitState, type Model, type SeatPatch } from '../../kit';
import { areSamePatches, copyPatch, patchesOfModel, sizeOfPatches, withPatch } from '../../patches';
import { swapped, type ApplyOptions, type EditKind, type PutEdit } from '../edit';
import { problemOfCueName, strangerIn } from '../../cues';
import { isSameName } from '../../variantNames';
import { areSame, checkSizes, EditRefused, isSame } from '../refused';
import { standing } from './stand';

const entryWords: Record<PutEdit['list'], string> = {
  cells: 'a cell',
  ramps: 'a ramp',
  sheets: 'a sheet',
  models: 'a model',
  variants: 'a variant',
  placements: 'a placement',
  cues: 'a cue',
  motifs: 'a motif',
  references: 'a reference',
  handOffs: 'a hand-off',
};

export const put: EditKind<PutEdit> = {
  apply: applyPut,
  inverse: swapped,
  label: ({ list, before, after }) => `${before ? (after ? 'Change' : 'Remove') : 'Add'} ${entryWords[list]}`,
  size: (edit) =>
    256 + ('seats' in edit && edit.seats ? sizeOfSeats(edit.seats) : 0) + ('patches' in edit ? sizeOfPatches(edit.patches) : 0),
  contents: ({ list, before, after }) => [before, after].flatMap((entry) => (entry ? contentsOf[list](entry as never) : [])),
  recolors: () => [],
  ofAll: ({ list, before, after }) => (list === 'models' ? !before || !after : list !== 'cells'),
};

function applyPut(state: KitState, edit: PutEdit, options: ApplyOptions): KitState {
  const { kit } = state;
  if (edit.list === 'placements') return standing(state, [edit], options);
  checkPut(state, edit);
  if (edit.of !== 'kit') {
    const sheets = kit.sheets.map((s) =>
      s.id === edit.of ? { ...s, [edit.list]: putInto(s[edit.list as 'cells'], edit as never, options) } : s,
    );
    return { ...state, kit: { ...kit, sheets } };
  }
  const key = edit.list as KitList;
  const list = putInto((kit[key] ?? []) as Model[], edit as never, options);
  const { [key]: _, ...others } = kit;
  // A list that may be absent is so again where it is empty.
  const next = { ...state, kit: (list.length || !canBeAbsent.has(key) ? { ...kit, [key]: list } : others) as Kit };
  if (edit.list !== 'models' && edit.list !== 'variants') return next;
  const [gone, come] = edit.before?.id === edit.after?.id ? [] : [edit.before?.id, edit.after?.id];
  if (edit.list === 'variants') return movePatches(next, edit, (model) => [(gone ?? come)!, model], come !== undefined);
  let { seats } = state;
  if (gone !== undefined) seats = withId(seats, gone, undefined);
  if (come !== undefined) seats = withId(seats, come, copySeats(edit.seats!));
  return movePatches({ ...next, seats }, edit, (variant) => [variant, (gone ?? come)!], come !== undefined);
}

type KitList = Exclude<PutEdit['list'], 'cells' | 'ramps'>;
const canBeAbsent: ReadonlySet<KitList> = new Set(['cues', 'motifs']);

/** What variants say of faces comes and goes with the model or variant that it is about. */
function movePatches(
  state: KitState,
  { patches = byId() }: { patches?: ById<SeatPatch> },
  placeOf: (key: string) => [variant: string, model: string],
  comes: boolean,
): KitState {
  return Object.entries(patches).reduce(
    (now, [key, patch]) => withPatch(now, ...placeOf(key), comes ? copyPatch(patch) : undefined),
    state,
  );
}

function putInto<T extends { id: unknown }>(
  list: T[],
  { index, before, after }: { index: number; before: T | null; after: T | null },
  { isReplay }: ApplyOptions,
): T[] {
  const fits = before ? list[index]?.id === before.id && (isReplay || isSame(list[index], before)) : index >= 0 && index <= list.length;
  if (!fits)
    throw new EditRefused(
      before ? `it expects entry ${index} to be “${String(before.id)}”, but the list has changed` : `there is no place ${index}`,
    );
  const next = [...list];
  next.splice(index, before ? 1 : 0, ...(after ? [after] : []));
  return next;
}

/** That a list's entry can be there: its sheet exists, its id is its own, a model comes with seats that fit it. */
function checkPut(state: KitState, edit: PutEdit): void {
  const { kit, seats } = state;
  if (edit.of !== 'kit' && !kit.sheets.some((s) => s.id === edit.of)) throw new EditRefused('the kit has no such sheet any more');
  const { before, after } = edit;
  if (after && after.id !== before?.id && isTaken(kit, edit)) throw new EditRefused(`the number “${after.id}” is taken`);
  if (edit.list === 'cells' && after && !(Number(after.id) >= 1 && Number(after.id) <= mostCellIds))
    throw new EditRefused(`a kit can give out ${mostCellIds} cells in all, and these are used up`);
  if (edit.list === 'variants') checkVariant(state, edit);
  if (edit.list === 'cues' && edit.after) checkCue(kit, edit.after, edit.before);
  if (edit.list !== 'models') return;
  // What is removed is kept in the edit as it was, or it could not come back.
  if (!edit.after && !areSamePatches(patchesOfModel(state, edit.before!.id), edit.patches))
    throw new EditRefused(`what variants say of “${edit.before!.name}” would be lost`);
  if (edit.after && edit.after.sheet !== edit.before?.sheet && !kit.sheets.some((s) => s.id === edit.after!.sheet))
    throw new EditRefused(`“${edit.after.name}” names a sheet that is not there`);
  if (edit.after && edit.after.id !== edit.before?.id) {
    if (!edit.seats) throw new EditRefused(`the model “${edit.after.name}” would come without seats`);
    checkSizes(edit.after.faces, edit.seats, edit.after.name);
  } else if (edit.after && edit.after.faces !== edit.before!.faces) throw new EditRefused('a model would change its faces without a mesh');
  if (!edit.after && !edit.seats) throw new EditRefused(`the model “${edit.before?.name}” would go without its seats being kept`);
  if (!edit.after && seats[edit.before!.id] && !areSame(seats[edit.before!.id]!, edit.seats!))
    throw new EditRefused(`the colors of “${edit.before!.name}” have changed`);
}

/** That its name is its own, the model that it belongs to is there, and nothing that it says is lost with it. */
function checkVariant({ kit, patches }: KitState, { before, after, patches: kept }: Extract<PutEdit, { list: 'variants' }>): void {
  if (after && after.model !== undefined && !kit.models.some((m) => m.id === after.model))
    throw new EditRefused(`“${after.name}” names a model that is not there`);
  if (after && kit.variants.some((v) => v.id !== (before ?? after).id && isSameName(v.name, after.name)))
    throw new EditRefused(`another variant is called “${after.name}”`);
  if (!after && !areSamePatches(patches?.[before!.id], kept)) throw new EditRefused(`what “${before!.name}” says of faces would be lost`);
}

function checkCue(kit: Kit, after: Cue, before: Cue | null): void {
  const problem = strangerIn(kit, after) ?? problemOfCueName(kit, after.name, (before ?? after).id);
  if (problem) throw new EditRefused(problem.replace(/\.$/, ''));
  if (!before && (kit.cues?.length ?? 0) >= mostIn.cues) throw new EditRefused(`a stage has at most ${mostIn.cues} cues`);
}

function isTaken(kit: Kit, { list, of, after }: PutEdit): boolean {
  if (list === 'cells') return findCell(kit, Number(after!.id)) !== null;
  const entries: readonly { id: unknown }[] = list === 'ramps' ? kit.sheets.find((s) => s.id === of)!.ramps : (kit[list] ?? []);
  return entries.some((e) => e.id === after!.id);
}
