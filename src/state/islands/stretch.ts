import { create } from 'zustand';
import { islandCells, texelsOf } from '@/core/islands/texels';
import { stretchTones, worstFaces, type Stretch } from '@/core/islands/unwrap/stretch';
import { pickingWorker, longWorker } from '@/workers/client';
import { current, moment, useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';
import { pickFaces } from '../pick/picking';
import { notifyError } from '../told/notices';
import { frame } from '../chosen/viewState';

/** What the model and its islands show in place of their colors. */
export type StretchShown = 'colors' | 'area' | 'angle' | 'checker';

export interface StretchState {
  shown: StretchShown;
  /** Of the faces on art of the model in view; `null` where none lies there, or until it is measured. */
  now: { model: string; stretch: Stretch; worst: Uint32Array } | null;
  /** The figures before faces were laid flat last. */
  before: { model: string; areaStretch: number; angleStretch: number } | null;
}

export const useStretch = perKit(create<StretchState>(() => ({ shown: 'colors', now: null, before: null })));

/** Lightness for each face of a model, by what is shown of its stretch; `null` where its colors are. */
export function tonesOf(modelId: string): Uint8Array | null {
  const { shown, now } = useStretch.getState();
  return now?.model === modelId && (shown === 'area' || shown === 'angle') ? stretchTones(now.stretch, shown) : null;
}

/** Texels a square of the checker that is shown on art. */
export const checkerStep = 4;

let latest = 0;

/** Measures the stretch of the model in view; what was asked before is dropped. */
export async function measureStretch(): Promise<void> {
  const own = ++latest;
  const c = current();
  if (!c?.loaded) return;
  const isNow = moment();
  const { model, sheet } = c;
  const seats = useEditor.getState().state.seats[model.id]!;
  const art = new Set(sheet.cells.flatMap((cell) => (cell.fill.kind === 'art' && islandCells(sheet).has(cell.id) ? [cell.id] : [])));
  const faces = Uint32Array.from(seats.cell.keys()).filter((f) => art.has(seats.cell[f]!));
  if (!faces.length) {
    useStretch.setState({ now: null });
    return;
  }
  try {
    const texels = texelsOf(sheet, seats, c.loaded.mesh.faceStart, faces);
    const [stretch, seen] = await Promise.all([
      longWorker().stretchOn(model.mesh, faces, texels),
      pickingWorker().estimatedVisibleArea(model.mesh),
    ]);
    if (own !== latest || !isNow()) return;
    const { areas } = c.loaded.adjacency;
    const share = seen.map((area, f) => area / (areas[f]! || 1));
    useStretch.setState({ now: { model: model.id, stretch, worst: worstFaces(stretch, areas, share) } });
  } catch (error) {
    if (own === latest && isNow()) notifyError(error);
  }
}

/** Remembers the figures as they are, to be told beside those that come. */
export function keepStretch(): void {
  const { now } = useStretch.getState();
  useStretch.setState({
    before: now && { model: now.model, areaStretch: now.stretch.areaStretch, angleStretch: now.stretch.angleStretch },
  });
}

export function goToFace(face: number): void {
  pickFaces(Uint32Array.of(face));
  frame('pick');
}
