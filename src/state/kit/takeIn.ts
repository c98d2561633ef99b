import { mergeKit } from '@/core/files/takeIn/mergeKit';
import { count } from '@/core/ground/words';
import { keepBlobs } from '@/data/blobs';
import { withStorageWords } from '@/data/db';
import { startTask, type LongTask } from '@/workers/client';
import { notify } from '../told/notices';
import { dispatch, refusedAsReadOnly } from './edits';
import { baseState, kitMoment } from './editor';
import { onKitClosed } from '../chosen/session';

let running: LongTask<unknown> | null = null;
onKitClosed(() => running?.cancel());

/** Takes another kit's models and colors into the open one, from its archive, as one edit. Throws where it cannot be read. */
export async function takeInKit(file: File): Promise<void> {
  if (refusedAsReadOnly()) return;
  const isNow = kitMoment();
  const bytes = new Uint8Array(await file.arrayBuffer());
  const task = startTask((worker) => worker.readArchive(file.name, bytes));
  running = task;
  try {
    const opened = await task.done;
    if (!opened || !isNow()) return;
    await keepBlobs([...opened.blobs].map(([id, b]) => ({ id, bytes: b })));
    if (!isNow()) return;
    const { edit, models, met, came } = mergeKit(baseState(), opened.state);
    if (!dispatch(edit)) return;
    notify(
      `${count(models, 'model')} came from “${opened.state.kit.name}”, and ${count(came, 'color')}; ${met} ${met === 1 ? 'was' : 'were'} there already.`,
    );
    for (const words of opened.leftOut) notify(words, { isError: true });
  } catch (error) {
    throw withStorageWords(error, 'nothing was taken in');
  } finally {
    running = null;
  }
}
