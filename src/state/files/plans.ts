import { paintedKit } from '@/core/kit/pixels';
import { create } from 'zustand';
import { group, type Edit } from '@/core/kit/edit/edit';
import { freeName } from '@/core/kit/freeName';
import { planFromExample, type ExampleFile } from '@/core/files/handoff/example';
import { iconModel } from '@/core/files/handoff/icon';
import { newHandOff } from '@/core/kit/handOffPlan';
import { isManifest } from '@/core/files/handoff/readExample';
import { exampleLimits } from '@/core/ground/limits';
import type { HandOffReport } from '@/core/files/handoff/report';
import { safeName } from '@/core/ground/bytes/fileNames';
import { contentAddress } from '@/core/ground/bytes/pack';
import { keepBlobs } from '@/data/blobs';
import { newId, type HandOff, type IconOptions } from '@/core/kit/kit';
import { isWaived, type Finding } from '@/core/judging/proof/finding';
import { longWorker, proxy, startTask, type LongTask } from '@/workers/client';
import { dispatch } from '../kit/edits';
import { kitMoment, useEditor } from '../kit/editor';
import { onKitClosed, perKit } from '../chosen/session';
import { findingsOf, proofing, unseenFindings } from '../proof/proof';
import { announce } from '../told/announce';
import { notify } from '../told/notices';
import { pictureFiles } from '../chosen/pictures';
import { keepSlotsOf } from '../color/slots';
import { download } from '../told/download';
import { leavingItems } from './exporting';
import { chooseFolder, listed, putFile } from './folders';
import { keepReplaced } from './restores';
import { useUnseen } from '../proof/unseen';

export interface PlansState {
  /** The plan whose files are seen and changed. */
  open: string;
  /** The plan that is being written, and which share is done. */
  writing: { id: string; done: number } | null;
  /** What left last, by which plan, and how. */
  left: { id: string; report: HandOffReport; words: string } | null;
  /** What stands open in Proof for the whole kit; `null` where it is not known yet. */
  findings: readonly Finding[] | null;
}

export const usePlans = perKit(create<PlansState>(() => ({ open: '', writing: null, left: null, findings: null })));

const plans = () => useEditor.getState().state.kit.handOffs;
export const planOf = (id: string): HandOff | undefined => plans().find((p) => p.id === id);

function put(label: string, index: number, before: HandOff | null, after: HandOff | null, joins: Edit | null = null): Edit | null {
  const edit: Edit = { kind: 'put', list: 'handOffs', of: 'kit', index, before, after };
  return dispatch(group(label, [edit]), { joins });
}

export function addPlan(like?: HandOff): void {
  const names = plans().map((p) => p.name);
  const id = newId('h');
  const made = like ? { ...like, id, name: freeName(like.name, names) } : newHandOff(id, freeName('Game build', names));
  if (put('Add a plan', plans().length, null, made)) usePlans.setState({ open: made.id });
}

/** Makes a plan that writes a tree like that of an archive, or of a folder whose files these are. Throws where it says nothing. */
export async function addPlanFrom(files: File[]): Promise<void> {
  const isNow = kitMoment();
  const [first] = files;
  let left: number = exampleLimits.texts;
  const example =
    files.length === 1 && !first!.webkitRelativePath
      ? await longWorker().readExample(first!.name, new Uint8Array(await first!.arrayBuffer()))
      : await Promise.all(
          files.slice(0, exampleLimits.entries).map(async (f): Promise<ExampleFile> => {
            // The folder itself is where the tree will be put.
            const path = f.webkitRelativePath.split('/').slice(1).join('/') || f.name;
            const isKept = isManifest(path, f.size) && f.size <= left;
            if (isKept) left -= f.size;
            return { path, bytes: f.size, ...(isKept && { text: await f.text() }) };
          }),
        );
  if (!isNow()) return;
  const { kit } = useEditor.getState().state;
  const name = freeName(
    'Like the example',
    plans().map((p) => p.name),
  );
  const plan = planFromExample(kit, example, newId('h'), name);
  if (!plan.parts.length) throw new Error('No file of a format that can be written was found in it: GLB, glTF, OBJ, PLY, STL or PNG.');
  if (put('Add a plan', plans().length, null, plan)) usePlans.setState({ open: plan.id });
}

export function removePlan(plan: HandOff): void {
  put(
    'Remove a plan',
    plans().findIndex((p) => p.id === plan.id),
    plan,
    null,
  );
}

let last: { edit: Edit; id: string; keys: string; at: number } | null = null;
/** Milliseconds within which further changes of the same field are one undo. */
const oneChange = 2000;

/** Changes a plan; typing in one field is one undo. */
export function changePlan(plan: HandOff, to: Partial<HandOff>, without: readonly (keyof HandOff)[] = []): void {
  const index = plans().findIndex((p) => p.id === plan.id);
  if (index < 0) return;
  const after = { ...plans()[index]!, ...to };
  for (const key of without) delete after[key];
  const keys = [...Object.keys(to), ...without].join();
  const joins = last && last.id === plan.id && last.keys === keys && Date.now() - last.at < oneChange ? last.edit : null;
  const edit = put('Change a plan', index, plans()[index]!, after, joins);
  last = edit && { edit, id: plan.id, keys, at: Date.now() };
}

/** Keeps a picture of the artist's as an icon; gives its address. Throws where it is none. */
export async function keepIconPicture(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  await longWorker().decodePicture(file.name, bytes);
  const address = await contentAddress(bytes);
  await keepBlobs([{ id: address, bytes }]);
  return address;
}

/** The icon as it would leave; `null` where there is nothing to draw, or the kit is another one by now. */
export async function iconNow(icon: IconOptions): Promise<Uint8Array | null> {
  const { kit } = useEditor.getState().state;
  const model = iconModel(kit, icon);
  if (!model) return null;
  const isNow = kitMoment();
  const items = await leavingItems([model]);
  const bytes = await longWorker().icon(kit, items, await pictureFiles(kit, icon.picture ? [icon.picture] : []), icon);
  return isNow() ? bytes : null;
}

let latest = 0;
/** Looks at the whole kit, so that what stands open is told before anything leaves. */
export async function proveAll(): Promise<void> {
  const own = ++latest;
  const isNow = kitMoment();
  const { state } = useEditor.getState();
  const { waived } = proofing();
  const found = [...(await findingsOf(state.kit.models.map((m) => m.id))), ...unseenFindings(state.kit.models, useUnseen.getState().faces)];
  if (own === latest && isNow()) usePlans.setState({ findings: found.filter((f) => !isWaived(f, waived)) });
}

let running: LongTask<unknown> | null = null;
export const cancelPlan = (): void => running?.cancel();
onKitClosed(cancelPlan);

/** Writes a plan's files in a worker of its own. Throws where it cannot be written; `null`: it was cancelled. */
async function write(plan: HandOff, as: 'zip' | 'files') {
  if (usePlans.getState().writing) throw new Error('A plan is being written already; wait for it or cancel it.');
  const isNow = kitMoment();
  const tell = (done: number) => usePlans.setState({ writing: { id: plan.id, done } });
  tell(0);
  try {
    const { models } = useEditor.getState().state.kit;
    const isInSlots = (id: string) => plan.parts.some((p) => (p.ways?.[id] ?? p.options.as) === 'slots');
    keepSlotsOf(models.filter((m) => isInSlots(m.id)));
    // What stays behind is said by the plan, not by what is chosen for single files.
    const items = (await leavingItems(models)).map(({ leaveOut: _, ...item }) => item);
    const { state } = useEditor.getState();
    const { kit } = state;
    const pictures = await pictureFiles(kit, plan.icon?.picture ? [plan.icon.picture] : []);
    if (!isNow()) return null;
    const onStep = proxy((done: number) => running && tell(done));
    const task = startTask((worker) => worker.handOff(paintedKit(state), plan, items, pictures, as, onStep));
    running = task;
    const written = await task.done;
    if (!written) announce('This was cancelled; no file was written.');
    return written && isNow() ? { ...written, kit } : null;
  } finally {
    running = null;
    usePlans.setState({ writing: null });
  }
}

const remember = (plan: HandOff, report: HandOffReport, words: string): void => {
  usePlans.setState({ left: { id: plan.id, report, words } });
  announce(words);
};

/** All files of a plan as one zip. */
export async function downloadPlan(plan: HandOff): Promise<void> {
  const written = await write(plan, 'zip');
  if (!written) return;
  const name = `${safeName(written.kit.name, 'kit')}-${safeName(plan.name.toLowerCase(), 'plan')}.zip`;
  download(written.files[0]!.bytes, name, 'application/zip');
  remember(plan, written.report, `${name} left.`);
}

/** Writes a plan's files into a folder that the artist chooses; files that are the same already are left alone. */
export async function writePlanIntoFolder(plan: HandOff): Promise<void> {
  const folder = await chooseFolder();
  if (!folder) return;
  const written = await write(plan, 'files');
  if (!written) return;
  const changed: string[] = [];
  const keep = keepReplaced(written.kit.id, folder.name);
  for (const file of written.files) if (await putFile(folder, file, keep)) changed.push(file.name);
  const same = written.files.length - changed.length;
  remember(
    plan,
    written.report,
    changed.length
      ? `Written into “${folder.name}”: ${listed(changed)}. ${same} were the same already.`
      : `All ${same} files in “${folder.name}” were the same already.`,
  );
}

/** Writes the plan that left last, or else the first, once more. */
export async function repeatPlan(): Promise<void> {
  const plan = planOf(usePlans.getState().left?.id ?? '') ?? plans()[0];
  if (!plan) return notify('There is no plan yet: make one at Hand-off.');
  const reason = await whyNot(plan);
  if (reason) return notify(reason, { isError: true });
  await downloadPlan(plan);
  const { left } = usePlans.getState();
  if (left?.id === plan.id) notify(left.words);
}

/** Why a plan may not be written now; empty where it may. */
export async function whyNot(plan: HandOff): Promise<string> {
  if (!plan.onlyProven) return '';
  await proveAll();
  const open = usePlans.getState().findings?.length ?? 0;
  return open ? `“${plan.name}” leaves only when nothing stands open in Proof; ${open} do.` : '';
}
