import { wordsOf } from '@/core/wordsOf';
import { create } from 'zustand';
import { EditRefused } from '@/core/edit/checkEdit';
import { group, type Edit } from '@/core/edit/edit';
import { canRedo, canUndo, emptyHistory, labelOf, performWith, redo, undo, type History, type Step } from '@/core/edit/history';
import { freeName } from '@/core/kit/freeName';
import { newId, type KitState, type Model, type Sheet } from '@/core/kit/kit';
import { putSlots, slotsAfter } from '@/core/slots/slots';
import { Autosave, type SaveStatus } from '@/data/autosave';
import { readBlob } from '@/data/blobs';
import { claimKit, createKit, forgetHistory, listKits, loadKit } from '@/data/kits';
import { withStorageWords } from '@/data/db';
import { askToPersist, dropUnused } from '@/data/storage';
import { lockKit, takeOver, type TabLock } from '@/data/tabLock';
import { coreWorker, onWorkerRestart } from '@/workers/client';
import type { LoadedMesh, Shown } from '@/workers/residents';
import { announce } from './announce';
import { closeColoring } from './coloringState';
import { endSession } from './session';
import { forgetPictures, preparePictures } from './pictures';
import { pickedFaces, usePick } from './pickState';
import { notify, notifyError } from './notices';
import { useView } from './viewState';

export interface EditorState extends Step {
  status: 'none' | 'loading' | 'ready' | 'missing' | 'failed';
  problem: string;
  /** Meshes by address. */
  meshes: Readonly<Record<string, LoadedMesh>>;
  /** The model in the viewport. */
  modelId: string | null;
  save: SaveStatus;
  /** Why the kit may only be looked at: another tab has it, or there is no room even to take it. */
  readOnly: false | 'taken' | 'full';
  /** Models whose mesh is still being prepared. */
  preparing: number;
}

const emptyState: KitState = {
  kit: { id: '', name: '', sheets: [], models: [], variants: [], references: [], handOffs: [], nextCell: 1 },
  seats: {},
};

export const useEditor = create<EditorState>(() => ({
  status: 'none',
  problem: '',
  state: emptyState,
  history: emptyHistory,
  meshes: {},
  modelId: null,
  save: 'saved',
  readOnly: false,
  preparing: 0,
}));

if (typeof window !== 'undefined') {
  // Edits are written at once, so that seldom one is left when the page goes: then the artist is asked.
  window.addEventListener('beforeunload', (event) => {
    const { save } = useEditor.getState();
    if (save !== 'saved') event.preventDefault();
  });
  // Room may have been made in another window.
  window.addEventListener('focus', () => void autosave?.flush());
}

let autosave: Autosave | null = null;
let lock: TabLock | null = null;

/** Opens a kit from storage; the last opened one is closed first. Opening the one that is open does nothing. */
export async function openKit(id: string): Promise<void> {
  const { state, status } = useEditor.getState();
  if (state.kit.id === id && (status === 'ready' || status === 'loading')) return;
  await closeKit();
  useEditor.setState({ status: 'loading', problem: '', state: { ...emptyState, kit: { ...emptyState.kit, id } } });
  try {
    lock = await lockKit(id, letGo);
    await readKit(id, lock === null && 'taken');
  } catch (error) {
    useEditor.setState({ status: 'failed', problem: wordsOf(error, storageProblem) });
  }
}

const storageProblem =
  'The storage of this browser could not be read: site data may be blocked for this address, or damaged. Reload the page; if that does not help, open the kit from its archive.';

async function readKit(id: string, readOnly: EditorState['readOnly']): Promise<void> {
  const stored = await (readOnly
    ? loadKit(id)
    : claimKit(id).catch((error: unknown) => {
        notifyError(withStorageWords(error, 'the kit can only be looked at and exported'));
        readOnly = 'full';
        return loadKit(id);
      }));
  if (!isOpen(id)) return;
  if (!stored) {
    useEditor.setState({ status: 'missing' });
    return;
  }
  const { state, history } = stored;
  autosave?.stop();
  autosave = new Autosave(stored, (save) => useEditor.setState({ save, ...(save === 'lost' && { readOnly: 'taken' }) }));
  const current = useEditor.getState().modelId;
  const modelId = state.kit.models.some((m) => m.id === current) ? current : (state.kit.models[0]?.id ?? null);
  useEditor.setState({ status: 'ready', state, history, modelId, readOnly, save: 'saved' });
  usePick.getState().reset(modelId ? state.kit.models.find((m) => m.id === modelId)!.faces : 0);
  void preparePictures(state.kit);
  await prepareMeshes();
}

/** Another tab takes over: write what is left, then only read. */
async function letGo(): Promise<void> {
  await autosave?.flush();
  lock = null;
  useEditor.setState({ readOnly: 'taken' });
}

export async function takeOverKit(): Promise<void> {
  const { kit } = useEditor.getState().state;
  lock = await takeOver(kit.id, letGo);
  await readKit(kit.id, false);
  notify('This tab now edits the kit; the other one only reads it.');
}

/** Keeps the kit as it stands here, with its history, beside the one that another tab has. Returns the copy's id. */
export async function keepAsCopy(): Promise<string> {
  const { state, history } = useEditor.getState();
  const names = (await listKits()).map((k) => k.name);
  const kit = { ...state.kit, id: newId('k'), name: freeName(`${state.kit.name} copy`, names) };
  try {
    await createKit({ kit, seats: state.seats }, { history });
  } catch (error) {
    throw withStorageWords(error, 'the copy was not kept');
  }
  autosave?.stop();
  useEditor.setState({ save: 'saved' });
  return kit.id;
}

/** Makes room: what was done until now can no longer be undone. */
export async function forgetUndo(): Promise<void> {
  const { id } = useEditor.getState().state.kit;
  await autosave?.flush();
  if (autosave?.hasUnsaved) throw new Error('The last changes are not saved yet, so undo was kept. Make room in another way first.');
  // Nothing may be changed until the history begins anew.
  useEditor.setState({ status: 'loading' });
  autosave?.stop();
  await forgetHistory(id);
  await dropUnused();
  await readKit(id, false);
}

/** Waits until all is written, and tries again at once what could not be. */
export const flushEdits = (): Promise<void> => autosave?.flush() ?? Promise.resolve();

export async function closeKit(): Promise<void> {
  await autosave?.flush();
  autosave?.stop();
  autosave = null;
  lock?.release();
  lock = null;
  for (const mesh of Object.keys(useEditor.getState().meshes)) void coreWorker().forget(mesh);
  useEditor.setState({
    status: 'none',
    state: emptyState,
    history: emptyHistory,
    meshes: {},
    modelId: null,
    save: 'saved',
    readOnly: false,
    preparing: 0,
  });
  underway.clear();
  shown = null;
  forgetPictures();
  endSession();
}

/** Meshes that are being prepared, by address. */
const underway = new Set<string>();

/** Has the worker load the meshes of all models that are not there yet, the one in view first. */
export async function prepareMeshes(): Promise<void> {
  const { state, meshes } = useEditor.getState();
  const missing = state.kit.models.filter(
    (m, i, all) => !meshes[m.mesh] && !underway.has(m.mesh) && all.findIndex((o) => o.mesh === m.mesh) === i,
  );
  const count = () => useEditor.setState({ preparing: underway.size });
  for (const m of missing) underway.add(m.mesh);
  count();
  while (missing.length) {
    // Another model may have come into view meanwhile: it is next.
    const inView = currentOf(useEditor.getState())?.model.mesh;
    const at = Math.max(
      0,
      missing.findIndex((m) => m.mesh === inView),
    );
    const [model] = missing.splice(at, 1) as [Model];
    try {
      const loaded = await coreWorker().load(model.mesh, await readBlob(model.mesh), await filesOf(model));
      if (!isOpen(state.kit.id)) return forgetLate(model.mesh);
      keepMesh(loaded);
    } catch (error) {
      if (!isOpen(state.kit.id)) return;
      notify(`“${model.name}” cannot be shown: ${wordsOf(error)}`, { isError: true });
    }
    underway.delete(model.mesh);
    count();
  }
}

/** A mesh of a kit that was closed meanwhile goes, unless the kit that is open now has it as well. */
function forgetLate(mesh: string): void {
  if (!useEditor.getState().meshes[mesh] && !underway.has(mesh)) void coreWorker().forget(mesh);
}

// A new worker is given the meshes that the page has, the one in view first.
onWorkerRestart(async (remote) => {
  notify('The part of the page that computes had stopped; it was started again, and nothing is lost.');
  const { state, meshes, modelId } = useEditor.getState();
  const held = state.kit.models.filter((m) => meshes[m.mesh]);
  for (const model of held.sort((a, b) => Number(b.id === modelId) - Number(a.id === modelId)))
    await remote.load(model.mesh, await readBlob(model.mesh), await filesOf(model));
  if (shown) await remote.setShown(...shown);
});

let shown: [string, Shown] | null = null;
/** From now on only what is shown of a mesh is met by rays and outlines. */
export function setShown(mesh: string, what: Shown): void {
  shown = [mesh, what];
  void coreWorker().setShown(mesh, what);
}

const isOpen = (kit: string): boolean => useEditor.getState().state.kit.id === kit;

/** Remembers kit, model and mesh in view; tells later whether they are still the same. What was awaited for others is dropped. */
export function moment(): () => boolean {
  const now = () => {
    const { state, modelId } = useEditor.getState();
    return [state.kit.id, modelId, state.kit.models.find((m) => m.id === modelId)?.mesh];
  };
  const then = now();
  return () => now().every((v, i) => v === then[i]);
}

/** The same for what concerns the kit alone. */
export function kitMoment(): () => boolean {
  const { id } = useEditor.getState().state.kit;
  return () => isOpen(id);
}

export const keepMesh = (loaded: LoadedMesh): void => useEditor.setState((s) => ({ meshes: { ...s.meshes, [loaded.id]: loaded } }));

/** The model's mesh as soon as it is prepared, as it may not yet be just after the kit was opened. */
export function meshOf(model: Model): Promise<LoadedMesh> {
  return new Promise((resolve, reject) => {
    const look = () => {
      const { meshes, preparing } = useEditor.getState();
      const loaded = meshes[model.mesh];
      if (!loaded && preparing) return;
      stop();
      if (loaded) resolve(loaded);
      else reject(new Error(`“${model.name}” could not be prepared, so nothing can be done with it.`));
    };
    const stop = useEditor.subscribe(look);
    look();
  });
}

export const filesOf = (model: Model) =>
  Promise.all(model.source.files.map(async ({ name, content }) => ({ name, bytes: await readBlob(content) })));

/**
 * Applies an edit and has it saved. `joins`: the edit with which it is one undo, while that is still the last. Returns what stands in the history; `null` where the kit may only be
 * read or the edit was refused, which is said.
 */
export function dispatch(edit: Edit | null, { joins = null }: { joins?: Edit | null } = {}): Edit | null {
  const { state, history } = useEditor.getState();
  if (!edit) return null;
  if (refusedAsReadOnly()) return null;
  const used = usedCells(state, edit);
  const step = guarded(() => {
    const done = performWith({ state, history }, edit, joins);
    const follow = slotEdits(done.state, used);
    const last = done.history.edits[done.history.cursor - 1]!;
    return follow.length ? performWith(done, group(labelOf(last), follow), last) : done;
  });
  if (!step) return null;
  settle(step);
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

/** The cells that faces sit on now, of the models whose faces an edit moves. Seats change in place, so this is asked before. */
function usedCells({ seats }: KitState, edit: Edit): Map<string, Set<number>> {
  const models = (e: Edit): string[] =>
    e.kind === 'group' ? e.edits.flatMap(models) : e.kind === 'seat' || e.kind === 'remesh' ? [e.model] : [];
  return new Map([...new Set(models(edit))].flatMap((id) => (seats[id] ? [[id, new Set(seats[id].cell)] as const] : [])));
}

/** Material slots follow the colors, in the same undo. */
function slotEdits(state: KitState, used: ReadonlyMap<string, Set<number>>): Edit[] {
  return [...used].flatMap(([id, before]) => {
    const model = state.kit.models.find((m) => m.id === id);
    const slots = model && slotsAfter(state.kit, model, before, new Set(state.seats[id]!.cell));
    return slots ? [putSlots(state, id, slots)] : [];
  });
}

/** What the door refuses is said, and nothing has changed. */
function guarded(make: () => Step): Step | null {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    notify(error.message, { isError: true });
    return null;
  }
}

function settle(step: { state: KitState; history: History }): void {
  const { modelId } = useEditor.getState();
  const stays = step.state.kit.models.some((m) => m.id === modelId);
  // The disk writes while the page draws.
  autosave?.changed(step);
  useEditor.setState(step);
  if (!stays) showModel(step.state.kit.models[0]?.id ?? null);
  else if (usePick.getState().picked.length !== step.state.kit.models.find((m) => m.id === modelId)!.faces) showModel(modelId);
  void preparePictures(step.state.kit);
  if (step.state.kit.models.some((m) => !useEditor.getState().meshes[m.mesh])) void prepareMeshes();
}

export function undoEdit(): void {
  const { state, history, readOnly } = useEditor.getState();
  if (readOnly || !canUndo(history)) return;
  const label = labelOf(history.edits[history.cursor - 1]!);
  const step = guarded(() => undo({ state, history }));
  if (!step) return;
  settle(step);
  announce(`Undone: ${label}`);
}

export function redoEdit(): void {
  const { state, history, readOnly } = useEditor.getState();
  if (readOnly || !canRedo(history)) return;
  const label = labelOf(history.edits[history.cursor]!);
  const step = guarded(() => redo({ state, history }));
  if (!step) return;
  settle(step);
  announce(`Done again: ${label}`);
}

export function showModel(modelId: string | null): void {
  const faces = useEditor.getState().state.kit.models.find((m) => m.id === modelId)?.faces ?? 0;
  const before = useEditor.getState().modelId;
  const { elsewhere } = usePick.getState();
  const left = pickedFaces();
  useEditor.setState({ modelId });
  useView.setState({ cut: null, behind: false });
  usePick.getState().reset(faces);
  closeColoring();
  if (!modelId || !before || !elsewhere[modelId]) return;
  // A pick that goes through the whole kit comes along.
  const { [modelId]: here, ...others } = elsewhere;
  usePick.getState().set((picked) => here!.forEach((f) => f < faces && (picked[f] = 1)));
  usePick.setState({ elsewhere: left.length ? { ...others, [before]: left } : others });
}

export interface CurrentModel {
  model: Model;
  sheet: Sheet;
  cells: Uint16Array;
  regions: Uint16Array;
  loaded: LoadedMesh | undefined;
}

export function currentOf({ state, modelId, meshes }: Pick<EditorState, 'state' | 'modelId' | 'meshes'>): CurrentModel | null {
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!model) return null;
  return {
    model,
    sheet: state.kit.sheets.find((s) => s.id === model.sheet)!,
    cells: state.seats[model.id]!.cell,
    regions: state.seats[model.id]!.region,
    loaded: meshes[model.mesh],
  };
}

export const current = (): CurrentModel | null => currentOf(useEditor.getState());
