import { freeName } from '@/core/kit/freeName';
import { newId } from '@/core/kit/kit';
import { emptyHistory } from '@/core/kit/edit/history';
import { wordsOf } from '@/core/ground/wordsOf';
import { Autosave } from '@/data/autosave';
import { withStorageWords } from '@/data/db';
import { claimKit, createKit, listKits, loadKit } from '@/data/kits';
import { dropUnused } from '@/data/storage';
import { lockKit, takeOver, type TabLock } from '@/data/tabLock';
import { baseState, emptyState, isOpen, kitMoment, shownAs, useEditor, type EditorState } from './editor';
import { forgetMeshes, prepareMeshes } from './meshes';
import { notify, notifyError } from '../told/notices';
import { forgetPictures, preparePictures } from '../chosen/pictures';
import { showArt } from './paintedArt';
import { usePick } from '../chosen/pickState';
import { saving } from './saving';
import { endSession } from '../chosen/session';
import { pickingWorker } from '@/workers/client';

if (typeof window !== 'undefined') {
  // Edits are written at once, so that seldom one is left when the page goes: then the artist is asked.
  window.addEventListener('beforeunload', (event) => {
    const { save } = useEditor.getState();
    if (save !== 'saved') event.preventDefault();
  });
  // Room may have been made in another window.
  window.addEventListener('focus', () => void saving.autosave?.flush());
}
let lock: TabLock | null = null;

/** Opens a kit from storage; the last opened one is closed first. Opening the one that is open does nothing. */
export async function openKit(id: string): Promise<void> {
  const { state, status } = useEditor.getState();
  if (state.kit.id === id && (status === 'ready' || status === 'loading')) return;
  // Starts while the kit is read.
  void pickingWorker().ping();
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
  saving.autosave?.stop();
  saving.autosave = new Autosave(stored, (save) => useEditor.setState({ save, ...(save === 'lost' && { readOnly: 'taken' }) }));
  const current = useEditor.getState().modelId;
  const modelId = state.kit.models.some((m) => m.id === current) ? current : (state.kit.models[0]?.id ?? null);
  const { variant } = useEditor.getState();
  useEditor.setState({ status: 'ready', history, modelId, readOnly, save: 'saved', ...shownAs(state, variant, modelId) });
  showArt();
  usePick.getState().reset(modelId ? state.kit.models.find((m) => m.id === modelId)!.faces : 0);
  void preparePictures(state.kit);
  await prepareMeshes();
}

/** Another tab takes over: write what is left, then only read. */
async function letGo(): Promise<void> {
  await saving.autosave?.flush();
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
  const { history } = useEditor.getState();
  const state = baseState();
  const names = (await listKits()).map((k) => k.name);
  const kit = { ...state.kit, id: newId('k'), name: freeName(`${state.kit.name} copy`, names) };
  try {
    await createKit({ ...state, kit }, { history });
  } catch (error) {
    throw withStorageWords(error, 'the copy was not kept');
  }
  saving.autosave?.stop();
  useEditor.setState({ save: 'saved' });
  return kit.id;
}

/** Makes room: what was done until now can no longer be undone. */
export async function forgetUndo(): Promise<void> {
  const { autosave } = saving;
  const isNow = kitMoment();
  await autosave?.flush();
  if (!autosave || !isNow()) return;
  if (autosave.hasUnsaved) throw new Error('The last changes are not saved yet, so undo was kept. Make room in another way first.');
  // Nothing may be changed until the history begins anew.
  useEditor.setState({ status: 'loading' });
  try {
    await autosave.forgetHistory();
    if (isNow()) useEditor.setState({ history: emptyHistory });
    await dropUnused();
  } catch (error) {
    throw withStorageWords(error, 'what can be undone was kept');
  } finally {
    if (isNow()) useEditor.setState({ status: 'ready' });
  }
}

export async function closeKit(): Promise<void> {
  await saving.autosave?.flush();
  saving.autosave?.stop();
  saving.autosave = null;
  lock?.release();
  lock = null;
  forgetMeshes();
  useEditor.setState(useEditor.getInitialState(), true);
  forgetPictures();
  endSession();
}
