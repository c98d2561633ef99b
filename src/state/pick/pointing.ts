import { pickingWorker } from '@/workers/client';
import type { Hit } from '@/workers/picking';
import { moment } from '../kit/editor';
import { pointAtFace } from './picking';

export interface PointerRay {
  /** Both in the model's frame. */
  origin: [number, number, number];
  direction: [number, number, number];
}

/** What a ray meets in the mesh in view; undefined when kit, model or mesh changed while it was under way. */
export async function castRay(mesh: string, { origin, direction }: PointerRay): Promise<Hit | null | undefined> {
  const isNow = moment();
  const hit = await pickingWorker().faceAt(mesh, origin, direction);
  return isNow() ? hit : undefined;
}

/** All that a ray meets in the mesh in view, the nearest first. */
export async function castThrough(mesh: string, { origin, direction }: PointerRay): Promise<Pick<Hit, 'face' | 'point'>[]> {
  const isNow = moment();
  const hits = await pickingWorker().facesAlong(mesh, origin, direction);
  return isNow() ? hits : [];
}

/**
 * Points at what lies under a moving pointer. Rays are cast one at a time; of the moves meanwhile only the
 * last counts.
 */
export class Hovering {
  private isCasting = false;
  /** Whether the pointer is still there when an answer comes. */
  private isOver = false;
  private waiting: (() => PointerRay) | null = null;

  constructor(private readonly mesh: string) {}

  /** `ray` is asked for when its turn comes, since the camera may have moved by then. */
  async moveTo(ray: () => PointerRay): Promise<void> {
    this.waiting = ray;
    this.isOver = true;
    if (this.isCasting) return;
    this.isCasting = true;
    try {
      while (this.waiting) {
        const next: () => PointerRay = this.waiting;
        this.waiting = null;
        const hit = await castRay(this.mesh, next());
        if (hit !== undefined && this.isOver) await pointAtFace(hit?.face ?? -1, hit ?? undefined);
      }
    } catch (error) {
      // One ray that fails must not end pointing for good.
      console.warn('What lies under the pointer could not be told.', error);
    } finally {
      this.isCasting = false;
    }
  }

  leave(): void {
    this.waiting = null;
    this.isOver = false;
    void pointAtFace(-1);
  }
}
