import { paintedKit } from '@/core/kit/pixels';
import { plannedFiles } from '@/core/files/handoff/tree';
import type { HandOffReport } from '@/core/files/handoff/report';
import type { NamedFile } from '@/core/ground/bytes/fileKinds';
import type { HandOff, KitState } from '@/core/kit/kit';
import type { RestoreRow } from '@/data/db';
import { longWorker, proxy } from '@/workers/client';
import { noDrafts, useColoring, withDrafts } from '../chosen/coloringState';
import { baseState, kitMoment, useEditor } from '../kit/editor';
import { onKitClosed } from '../chosen/session';
import { pictureFiles } from '../chosen/pictures';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { leavingItems } from './exporting';
import { chooseFolder, listed, putFile } from './folders';
import { useLiveFolder } from '../chosen/liveState';
import { planOf } from './plans';
import { keepReplaced } from './restores';

/** Milliseconds between one writing and the next while something is dragged. */
const rest = 200;

/** Writes into the folder what a change touches, for as long as it runs. */
class Writer {
  private written: { state: KitState; plan: HandOff; report: HandOffReport } | null = null;
  private readonly keep: ReturnType<typeof keepReplaced>;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isBusy = false;
  private isOver = false;
  private readonly stops = [
    useEditor.subscribe((now, before) => {
      if (now.state !== before.state) this.soon();
    }),
    useColoring.subscribe((now, before) => {
      if (now.drafts !== before.drafts) this.soon();
    }),
  ];

  constructor(
    private readonly folder: FileSystemDirectoryHandle,
    private readonly planId: string,
  ) {
    this.keep = keepReplaced(useEditor.getState().state.kit.id, folder.name);
  }

  stop(): void {
    this.isOver = true;
    clearTimeout(this.timer);
    this.stops.forEach((stop) => stop());
  }

  private soon(): void {
    this.timer ??= setTimeout(() => void this.run(), rest);
  }

  async run(): Promise<void> {
    this.timer = undefined;
    if (this.isBusy) return this.soon();
    this.isBusy = true;
    const isNow = kitMoment();
    try {
      await this.write(() => !this.isOver && isNow());
    } catch (error) {
      if (this.isOver || !isNow()) return;
      stopLive();
      notifyError(error);
    } finally {
      this.isBusy = false;
    }
  }

  private async write(isNow: () => boolean): Promise<void> {
    const plan = planOf(this.planId);
    if (!plan) return stopLive();
    const state = shownState();
    const same = this.written?.plan === plan ? this.written : null;
    if (
      same?.state.kit === state.kit &&
      same.state.seats === state.seats &&
      same.state.patches === state.patches &&
      same.state.pixels === state.pixels
    )
      return;
    const problem = plannedFiles(state, plan).find((f) => f.problem);
    if (problem) throw new Error(`The live folder stopped: ${problem.path}: ${problem.problem}`);
    const items = (await leavingItems(state.kit.models)).map(({ leaveOut: _, ...item }) => item);
    const pictures = await pictureFiles(state.kit, plan.icon?.picture ? [plan.icon.picture] : []);
    if (!isNow()) return;
    const { files, report } = await longWorker().handOff(
      paintedKit(state),
      plan,
      items,
      pictures,
      'files',
      proxy(() => undefined),
      this.written?.report,
    );
    if (!isNow()) return;
    const changed = await this.put(files);
    this.written = { state, plan, report };
    if (!isNow()) return;
    if (changed.length) useLiveFolder.setState({ last: `Wrote ${listed(changed)}.` });
    else if (!same) useLiveFolder.setState({ last: `All ${files.length} files were the same already.` });
  }

  private async put(files: readonly NamedFile[]): Promise<string[]> {
    const changed: string[] = [];
    for (const file of files) if (await putFile(this.folder, file, this.keep)) changed.push(file.name);
    return changed;
  }

  /** Puts a file back as it was; the next change writes it anew. */
  putBack(row: RestoreRow): Promise<boolean> {
    return putFile(this.folder, { name: row.path, bytes: row.bytes }, () => Promise.resolve());
  }
}

/** The kit as it is seen: with the colors that are being tried. */
function shownState(): KitState {
  const state = baseState();
  const { drafts } = useColoring.getState();
  // Colors that are tried in a variant are not those that leave.
  if (drafts === noDrafts || useEditor.getState().variant) return state;
  return { ...state, kit: { ...state.kit, sheets: state.kit.sheets.map((s) => withDrafts(s, drafts)) } };
}

let writer: Writer | null = null;

/** From now on every change writes into a folder what it touches of a plan's files. */
export async function startLive(plan: HandOff): Promise<void> {
  const isNow = kitMoment();
  const folder = await chooseFolder();
  if (!folder || !isNow()) return;
  writer?.stop();
  writer = new Writer(folder, plan.id);
  useLiveFolder.setState({ live: { plan: plan.id, folder: folder.name }, last: '' });
  announce(`“${folder.name}” follows every change from now on.`);
  await writer.run();
}

export function stopLive(): void {
  writer?.stop();
  writer = null;
  useLiveFolder.setState({ live: null });
}
onKitClosed(stopLive);

/** Puts a replaced file back into its folder, which is asked for where it is not the live one. Live writing ends with it. */
export async function putBack(row: RestoreRow): Promise<void> {
  const isLive = writer && useLiveFolder.getState().live?.folder === row.folder;
  const folder = isLive ? null : await chooseFolder();
  if (!isLive && !folder) return;
  if (isLive) await writer!.putBack(row);
  else await putFile(folder!, { name: row.path, bytes: row.bytes }, () => Promise.resolve());
  const wasLive = writer !== null;
  stopLive();
  notify(`${row.path} is as it was.${wasLive ? ' The folder is no longer live, or the next change would replace it again.' : ''}`);
}
