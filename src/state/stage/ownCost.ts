import type { Placement } from '@/core/kit/kit';
import type { Cost } from '@/core/files/budget/tally';
import { longWorker } from '@/workers/client';
import { baseState, kitMoment } from '../kit/editor';
import { filesOf } from '../kit/meshes';
import { onKitClosed } from '../chosen/session';

/** What a scene would cost, had its models kept what they came with. */
export interface OwnCost {
  drawCalls: number;
  vertices: number;
  materials: number;
  pictureBytes: number;
}

const known = new Map<string, Promise<Cost>>();
onKitClosed(() => known.clear());

/** `null` where the kit is another one by then. */
export async function ownCostOf(placements: readonly Placement[]): Promise<OwnCost | null> {
  const isNow = kitMoment();
  const counts = new Map<string, number>();
  for (const { model } of placements) counts.set(model, (counts.get(model) ?? 0) + 1);
  const sum: OwnCost = { drawCalls: 0, vertices: 0, materials: 0, pictureBytes: 0 };
  for (const [id, times] of counts) {
    const model = baseState().kit.models.find((m) => m.id === id);
    if (!model) continue;
    let cost = known.get(model.mesh);
    if (!cost) known.set(model.mesh, (cost = filesOf(model).then((files) => longWorker().costBefore(model.mesh, files))));
    const { drawCalls, gpuVertices, materials, textureBytes } = await cost;
    if (!isNow()) return null;
    sum.drawCalls += drawCalls * times;
    sum.vertices += gpuVertices;
    sum.materials += materials;
    sum.pictureBytes += textureBytes;
  }
  return sum;
}
