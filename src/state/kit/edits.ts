import { EditRefused } from '@/core/kit/edit/refused';
import { group, type Edit } from '@/core/kit/edit/edit';
import { canRedo, canUndo, performWith, redo, undo, type History } from '@/core/kit/edit/history';
import { isOfAll, labelOf, recoloredModels } from '@/core/kit/edit/editKinds';
import type { KitState } from '@/core/kit/kit';
import { putSlots, slotsAfter } from '@/core/faces/regions/slots';
import { intoVariant } from '@/core/faces/variants/intoVariant';
import { askToPersist } from '@/data/storage';
import { announce } from '../told/announce';
import { baseState, showModel, shownAs, useEditor } from './editor';
import { prepareMeshes } from './meshes';
import { notify } from '../told/notices';
import { boundsOfChange, carryRasters } from '@/core/sheet/painted';
import { preparePictures, type Touched } from '../chosen/pictures';
import { showArt } from './paintedArt';
import { usePick } from '../chosen/pickState';
import { saving } from './saving';

/**
 * Applies an edit and has it saved. While a variant is in hand, what the edit says of colors becomes the
 * variant's, unless its kind is of every coloring (`isOfAll`): such an edit is made for the kit itself (`baseState`). `joins`: the edit with which it is one undo, while that is still the last. Returns what stands in
 * the history; `null` where nothing changes, the kit may only be read or the edit was refused, which is said.
 */
export function dispatch(edit: Edit | null, options: { joins?: Edit | null } = {}): Edit | null {
  const { variant } = useEditor.getState();
  if (!edit || !variant || isOfAll(edit)) return changeKit(edit, options);
  return changeKit(
    guarded(() => intoVariant(baseState(), variant, edit, faceStartOf)),
    options,
  );
}

function changeKit(edit: Edit | null, { joins = null }: { joins?: Edit | null }): Edit | null {
  const { history } = useEditor.getState();
  const state = baseState();
  if (!edit || (edit.kind === 'group' && !edit.edits.length)) return null;
  if (refusedAsReadOnly()) return null;
  const used = usedCells(state, edit);
  const step = guarded(() => {
    const done = performWith({ state, history }, edit, joins);
    const follow = slotEdits(done.state, used);
    const last = done.history.edits[done.history.cursor - 1]!;
    return follow.length ? performWith(done, group(labelOf(last), follow), last) : done;
  });
  if (!step) return null;
  settle(step, touchedBy(state, edit, step.state));
  persistOnce();
  return step.history.edits[step.history.cursor - 1]!;
}

/** Says so where the kit may only be looked at. */
export function refusedAsReadOnly(): boolean {
  const { readOnly } = useEditor.getState();
  if (readOnly)
    notify(
      readOnly === 'taken'
        ? 'This kit is open in another tab. Take over to edit it here.'
        : 'There was no room to open this kit for editing. Make room, then choose to edit it.',
      { isError: true },
    );
  return readOnly !== false;
}

let hasAsked = false;
/** The browser is asked once, when there is something to keep. */
function persistOnce(): void {
  if (!hasAsked && typeof navigator !== 'undefined') void askToPersist().catch(() => undefined);
  hasAsked = true;
}

/**
 * The cells that faces sit on now, of the models whose faces an edit moves. Seats change in place, so this is
 * asked before.
 */
function usedCells({ seats }: KitState, edit: Edit): Map<string, Set<number>> {
  return new Map([...new Set(recoloredModels(edit))].flatMap((id) => (seats[id] ? [[id, new Set(seats[id].cell)] as const] : [])));
}

/** Material slots follow the colors, in the same undo. */
function slotEdits(state: KitState, used: ReadonlyMap<string, Set<number>>): Edit[] {
  return [...used].flatMap(([id, before]) => {
    const model = state.kit.models.find((m) => m.id === id);
    const slots = model && slotsAfter(state.kit, model, before, new Set(state.seats[id]!.cell));
    return slots ? [putSlots(state, id, slots)] : [];
  });
}

/** First corner of each face of a model. Throws `EditRefused` while its mesh is not there. */
export function faceStartOf(model: string): Uint32Array {
  const { meshes } = useEditor.getState();
  const of = baseState().kit.models.find((m) => m.id === model);
  const loaded = of && meshes[of.mesh];
  if (!loaded) throw new EditRefused(`“${of?.name ?? model}” is still being prepared`);
  return loaded.mesh.faceStart;
}

/** What the door refuses is said, and nothing has changed. */
function guarded<T>(make: () => T): T | null {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    notify(error.message, { isError: true });
    return null;
  }
}

/** The texels that an edit alone has changed, where it is about nothing else; what was drawn of the others stays. */
function touchedBy(before: KitState, edit: Edit, { pixels }: KitState): Touched | null {
  if (edit.kind !== 'pixels') return null;
  const [was, is] = [before.pixels?.[edit.art], pixels?.[edit.art]];
  if (!was || !is) return null;
  carryRasters(was, is, edit);
  const rect = boundsOfChange(edit, is.width);
  return rect && { art: edit.art, rect };
}

function settle(step: { state: KitState; history: History }, touched: Touched | null = null): void {
  const { modelId, variant } = useEditor.getState();
  const stays = step.state.kit.models.some((m) => m.id === modelId);
  // The disk writes while the page draws.
  saving.autosave?.changed(step);
  useEditor.setState({ history: step.history, ...shownAs(step.state, variant, modelId) });
  showArt(touched);
  if (!stays) showModel(step.state.kit.models[0]?.id ?? null);
  else if (usePick.getState().picked.length !== step.state.kit.models.find((m) => m.id === modelId)!.faces) showModel(modelId);
  void preparePictures(step.state.kit);
  if (step.state.kit.models.some((m) => !useEditor.getState().meshes[m.mesh])) void prepareMeshes();
}

export function undoEdit(): void {
  const { history, readOnly } = useEditor.getState();
  if (readOnly || !canUndo(history)) return;
  const label = labelOf(history.edits[history.cursor - 1]!);
  const step = guarded(() => undo({ state: baseState(), history }));
  if (!step) return;
  settle(step);
  announce(`Undone: ${label}`);
}

export function redoEdit(): void {
  const { history, readOnly } = useEditor.getState();
  if (readOnly || !canRedo(history)) return;
  const label = labelOf(history.edits[history.cursor]!);
  const step = guarded(() => redo({ state: baseState(), history }));
  if (!step) return;
  settle(step);
  announce(`Done again: ${label}`);
}
