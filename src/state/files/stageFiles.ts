import { create } from 'zustand';
import { safeName } from '@/core/ground/bytes/fileNames';
import { takeStage, writeStage, type Stage } from '@/core/files/leaving/stageFile';
import type { Kit } from '@/core/kit/kit';
import { count } from '@/core/ground/words';
import { longWorker } from '@/workers/client';
import type { Leaving } from '@/workers/leaving';
import type { PictureFile } from '@/workers/pictures';
import { keepSlotsOf } from '../color/slots';
import { download } from '../told/download';
import { leavingItems, writeFile } from './exporting';
import { useHandOff } from '../chosen/handOff';
import { dispatch, refusedAsReadOnly, undoEdit } from '../kit/edits';
import { baseState, kitMoment } from '../kit/editor';
import { pictureFiles } from '../chosen/pictures';
import { notify, notifyError } from '../told/notices';
import { perKit } from '../chosen/session';
import { useStage } from '../stage/stage';

export const sceneEnding = '-stage.glb';

const modelsThatStand = ({ models, placements = [] }: Kit) => models.filter((m) => placements.some((p) => p.model === m.id));

/** The stage as one GLB, its models as they are chosen to leave at Hand-off. Throws where it cannot be written. */
export async function downloadScene(instanced: boolean): Promise<void> {
  const options = { ...useHandOff.getState(), instanced };
  if (options.as === 'slots') keepSlotsOf(modelsThatStand(baseState().kit));
  const isNow = kitMoment();
  let kit: Kit;
  let items: Leaving[];
  let pictures: PictureFile[];
  // What is changed while meshes are read is read again, so that all of it is of one moment.
  do {
    ({ kit } = baseState());
    items = await leavingItems(modelsThatStand(kit));
    pictures = await pictureFiles(kit);
    if (!isNow()) return;
  } while (baseState().kit !== kit);
  await writeFile(`${safeName(kit.name, 'kit')}${sceneEnding}`, 'model/gltf-binary', (worker) =>
    worker.exportScene(kit, items, pictures, options),
  );
}

/** What stands there and the cues, for engines and scripts. Throws where two of its models have one name. */
export function downloadStage(): void {
  download(new TextEncoder().encode(writeStage(baseState().kit)), 'stage.json', 'application/json');
}

/** A stage out of a file, in terms of the kit that it was read for. */
export interface ReadStage {
  file: string;
  stage: Stage;
  of: Kit;
}

/** A stage that was read while another stood there: the artist is asked what becomes of that. */
export const useReadStage = perKit(create<{ read: ReadStage | null }>(() => ({ read: null })));

/** Reads a stage and takes it in where none stands there yet. The kit is as it was where the file cannot be read. */
export async function bringInStage(file: File): Promise<void> {
  if (refusedAsReadOnly()) return;
  const of = baseState().kit;
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const read = { file: file.name, stage: await longWorker().readStageFile(file.name, bytes, of), of };
    if (!isStill(read)) return;
    if (of.placements?.length || of.cues?.length) useReadStage.setState({ read });
    else takeInStage(read, 'instead');
  } catch (error) {
    notifyError(error);
  }
}

function isStill({ file, of }: ReadStage): boolean {
  const { kit } = baseState();
  if (kit !== of && kit.id === of.id) notify(`${file}: the kit was changed while it was read. Bring it in again.`, { isError: true });
  return kit === of;
}

/** What was read stands instead of what stood there, or beside it. */
export function takeInStage(read: ReadStage, how: 'instead' | 'beside'): void {
  useReadStage.setState({ read: null });
  if (!isStill(read)) return;
  const { file, stage } = read;
  const edit = takeStage(read.of, stage, how);
  if (edit && !dispatch(edit)) return;
  useStage.setState({ chosen: [], act: 'choose' });
  const came = [count(stage.placements.length, 'model'), ...(stage.cues.length ? [count(stage.cues.length, 'cue')] : [])].join(' and ');
  notify(
    edit ? `${came} came from ${file}.` : `${file} is of an empty stage, as this one is.`,
    edit ? { action: { label: 'Undo', run: undoEdit } } : {},
  );
}
