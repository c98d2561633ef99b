import { Matrix4, Vector3, type Camera } from 'three';
import { ownersOf, projectVertices } from '@/core/shapes/pick/outline';
import type { PresentView } from '@/core/shapes/view/presentView';
import type { FaceRaster } from '@/core/shapes/view/rasterFaces';
import { usePick } from '@/state/chosen/pickState';
import { useView } from '@/state/chosen/viewState';
import { pickingWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';

export function viewOf(camera: Camera, size: { width: number; height: number }): PresentView {
  camera.updateMatrixWorld();
  return {
    matrix: new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse).toArray(),
    width: Math.round(size.width),
    height: Math.round(size.height),
    eye: camera.getWorldPosition(new Vector3()).toArray(),
    ...('isOrthographicCamera' in camera && { ahead: camera.getWorldDirection(new Vector3()).toArray() }),
  };
}

/** What is seen while the camera rests. */
export interface Resting {
  view: PresentView;
  raster: FaceRaster;
  /** 1 for each face that owns a pixel. */
  owns: Uint8Array;
  /** Where the vertices lie on the screen; computed when it is first asked for. */
  screen: () => Float32Array;
}

/**
 * Keeps the raster of the resting camera, so that a box needs no more than the page: asked for ahead when the
 * camera has come to rest, and made again only when the camera, or what is shown, has changed.
 */
export class RestingView {
  private key = '';
  private latest: Promise<Resting> | null = null;

  constructor(
    private readonly loaded: LoadedMesh,
    private readonly present: () => PresentView,
  ) {}

  get(): Promise<Resting> {
    const view = this.present();
    const { hidden } = usePick.getState();
    const { cut, behind } = useView.getState();
    const key = JSON.stringify([view.matrix, view.width, view.height, cut, behind, hiddenNumber(hidden)]);
    if (!this.latest || key !== this.key) {
      this.key = key;
      const made = this.make(view);
      // What failed is tried again, not kept.
      made.catch(() => {
        if (this.latest === made) this.latest = null;
      });
      this.latest = made;
    }
    return this.latest;
  }

  private async make(view: PresentView): Promise<Resting> {
    const { mesh, id } = this.loaded;
    const raster = await pickingWorker().faceRaster(id, view);
    let screen: Float32Array | null = null;
    return {
      view,
      raster,
      owns: ownersOf(raster, mesh.faceStart.length - 1),
      screen: () => (screen ??= projectVertices(mesh, view.matrix, view.width, view.height)),
    };
  }
}

const numbers = new WeakMap<Uint8Array, number>();
let given = 0;
/** Flags of hidden faces are made anew at each change; a number tells them apart. */
function hiddenNumber(hidden: Uint8Array | null): number {
  if (!hidden) return 0;
  let number = numbers.get(hidden);
  if (!number) numbers.set(hidden, (number = ++given));
  return number;
}
