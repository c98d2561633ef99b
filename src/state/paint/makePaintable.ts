import { equalArrays } from '@/core/ground/equalArrays';
import { facesToPaint, gapFor, makePaintable, usualDensity } from '@/core/islands/paintable';
import { longWorker } from '@/workers/client';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { useColoring } from '../chosen/coloringState';
import { baseState, current, moment } from '../kit/editor';
import { dispatch } from '../kit/edits';

/** Texels a metre that are proposed for the model in view; `null` while its mesh is not there. */
export function proposedDensity(): number | null {
  const areas = current()?.loaded?.adjacency.areas;
  return areas ? usualDensity(areas.reduce((sum, a) => sum + a, 0)) : null;
}

/** Gives the model in view an art of its own, in one undo; what stands in the way is said. */
export async function makeModelPaintable(density: number): Promise<void> {
  const now = current();
  if (!now?.loaded) return;
  const { model, sheet, loaded } = now;
  const isNow = moment();
  try {
    const faces = facesToPaint(baseState(), model.id);
    if (!faces.length) return void notify(`All faces of ${model.name} lie in locked regions. Unlock them first.`);
    const layout = await longWorker().layForPainting(model.mesh, faces, density, gapFor(sheet));
    if (!isNow() || !equalArrays(faces, facesToPaint(baseState(), model.id))) return;
    const { edit } = makePaintable(baseState(), model.id, loaded.mesh, layout, baseCell(), model.name);
    if (dispatch(edit)) announce(`${model.name} can be painted: ${layout.width} × ${layout.height} texels`);
  } catch (error) {
    notifyError(error);
  }
}

/** What faces without a color begin with: the color of the phrase, else the middle step of the first ramp. */
function baseCell(): number {
  const { sheet } = current()!;
  const plain = sheet.cells.filter((c) => c.fill.kind === 'solid');
  const { cell } = useColoring.getState();
  const steps = sheet.ramps[0]?.cells ?? [];
  return plain.some((c) => c.id === cell) ? cell : (steps[steps.length >> 1] ?? plain[0]?.id ?? 0);
}
