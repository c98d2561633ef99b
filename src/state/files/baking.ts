import { create } from 'zustand';
import type { LayoutSize } from '@/core/files/bake/fillLayout';
import { safeName } from '@/core/ground/bytes/fileNames';
import { startTask, type LongTask } from '@/workers/client';
import type { BakedPicture } from '@/workers/baking';
import { moment, useEditor } from '../kit/editor';
import { filesOf } from '../kit/meshes';
import { onKitClosed, perKit } from '../chosen/session';
import { pickFaces } from '../pick/picking';
import { pictureFiles } from '../chosen/pictures';
import { notifyError } from '../told/notices';
import { download } from '../told/download';

export interface LayoutState extends LayoutSize {
  /** The model whose nearest surface gives the colors; '' its own. */
  from: string;
  /** What was filled last, and for which model; its address is to be shown. */
  made: { model: string; url: string; picture: BakedPicture; size: LayoutSize } | null;
  isBusy: boolean;
}

export const useLayout = perKit(
  create<LayoutState>(() => ({ width: 256, height: 256, padding: 4, from: '', made: null, isBusy: false })),
  ['width', 'height', 'padding'],
);

let running: LongTask<unknown> | null = null;
export const cancelBaking = (): void => running?.cancel();
onKitClosed(cancelBaking);

/** Fills the layout of a model's own UVs, in a worker of its own; what was under way ends. */
export async function bakeLayout(modelId: string): Promise<void> {
  cancelBaking();
  const { state } = useEditor.getState();
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!model) return;
  const { width, height, padding, from } = useLayout.getState();
  const size = { width, height, padding };
  const other = state.kit.models.find((m) => m.id === from);
  const of = async (m: typeof model) => ({ mesh: m.mesh, seats: state.seats[m.id]!, files: await filesOf(m) });
  const isNow = moment();
  useLayout.setState({ isBusy: true });
  let task: LongTask<BakedPicture> | null = null;
  try {
    const pictures = await pictureFiles(state.kit);
    const [own, nearest] = [await of(model), other ? await of(other) : null];
    task = startTask((worker) => worker.bakeLayout(state.kit, own, nearest, pictures, size));
    running = task;
    const picture = await task.done;
    if (!picture || !isNow()) return;
    forgetMade();
    const url = URL.createObjectURL(new Blob([picture.png as Uint8Array<ArrayBuffer>], { type: 'image/png' }));
    useLayout.setState({ made: { model: modelId, url, picture, size } });
  } catch (error) {
    if (isNow()) notifyError(error);
  } finally {
    if (running === task) {
      running = null;
      useLayout.setState({ isBusy: false });
    }
  }
}

/** What was filled is of before: a color changed, or another size was chosen. */
export function forgetMade(): void {
  const { made } = useLayout.getState();
  if (made) URL.revokeObjectURL(made.url);
  useLayout.setState({ made: null });
}

export function downloadLayout(): void {
  const { made } = useLayout.getState();
  const model = useEditor.getState().state.kit.models.find((m) => m.id === made?.model);
  if (made && model) download(made.picture.png, `${safeName(model.name, 'model')}-uvs.png`, 'image/png');
}

/** Picks the faces that share texels and differ in color. */
export function pickClashes(): void {
  const { made } = useLayout.getState();
  if (made) pickFaces(made.picture.faces);
}
