import { create } from 'zustand';
import type { LoadedMesh } from '@/workers/residents';
import { pickingWorker } from '@/workers/client';
import { moment } from '../kit/editor';
import { perKit } from '../chosen/session';
import { castRay, type PointerRay } from '../pick/pointing';
import { notify, notifyError } from '../told/notices';
import { changeSeams } from './seams';

/** The seam that is being drawn. */
export const useSeamPath = perKit(create<{ edges: Uint32Array | null }>(() => ({ edges: null })));

/** The corner of a mesh that lies nearest to where a ray meets it; -1 where it meets nothing. */
async function cornerUnder({ id, mesh }: LoadedMesh, ray: PointerRay): Promise<number> {
  const hit = await castRay(id, ray);
  return hit ? mesh.faceStart[hit.face]! + hit.corner : -1;
}

/**
 * Draws a seam from the point under where a drag began to that under where it is. What is asked for while the way to
 * another point is looked for waits, and only the last of it counts.
 */
export class SeamStroke {
  private readonly from: Promise<number>;
  private readonly isNow = moment();
  private waiting: (() => PointerRay) | null = null;
  private work: Promise<void> = Promise.resolve();
  private isEnded = false;
  private isApart = false;

  constructor(
    private readonly loaded: LoadedMesh,
    ray: PointerRay,
  ) {
    this.from = cornerUnder(loaded, ray);
  }

  moveTo(ray: () => PointerRay): void {
    const isFirst = !this.waiting;
    this.waiting = ray;
    if (isFirst) this.work = this.work.then(() => this.look());
  }

  private async look(): Promise<void> {
    const ray = this.waiting;
    this.waiting = null;
    if (!ray || this.isEnded) return;
    try {
      const [from, to] = [await this.from, await cornerUnder(this.loaded, ray())];
      if (from < 0 || to < 0) return;
      const edges = await pickingWorker().edgePath(this.loaded.id, [from], [to]);
      this.isApart = !edges;
      if (this.isNow() && !this.isEnded) useSeamPath.setState({ edges });
    } catch (error) {
      if (this.isNow()) notifyError(error);
    }
  }

  /** What is shown becomes a seam, or is none any more. */
  async end(isSeam: boolean): Promise<void> {
    await this.work;
    const { edges } = useSeamPath.getState();
    this.cancel();
    if (edges?.length && this.isNow()) changeSeams(edges, isSeam);
    else if (this.isApart) notify('No edges lead from there to here: these are two parts.');
  }

  cancel(): void {
    this.isEnded = true;
    useSeamPath.setState({ edges: null });
  }
}
