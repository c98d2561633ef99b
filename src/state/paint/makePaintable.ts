import { makePaintable, usualDensity } from '@/core/islands/paintable';
import { announce } from '../told/announce';
import { notify } from '../told/notices';
import { wordsOf } from '@/core/ground/wordsOf';
import { useColoring } from '../chosen/coloringState';
import { baseState, current } from '../kit/editor';
import { dispatch } from '../kit/edits';

/** Texels a metre that are proposed for the model in view; `null` while its mesh is not there. */
export function proposedDensity(): number | null {
  const areas = current()?.loaded?.adjacency.areas;
  return areas ? usualDensity(areas.reduce((sum, a) => sum + a, 0)) : null;
}

/** Gives the model in view an art of its own, in one undo; what stands in the way is said. */
export function makeModelPaintable(density: number): void {
  const now = current();
  if (!now?.loaded) return;
  const { mesh, adjacency, triangles } = now.loaded;
  try {
    const base = baseCell();
    const made = makePaintable(baseState(), now.model.id, { mesh, adjacency, triangles }, density, base, now.model.name);
    if (!made) notify(`All faces of ${now.model.name} lie in locked regions. Unlock them first.`);
    else if (dispatch(made.edit)) announce(`${now.model.name} can be painted: ${made.width} × ${made.height} texels`);
  } catch (error) {
    notify(wordsOf(error, 'The model could not be made paintable.'), { isError: true });
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
