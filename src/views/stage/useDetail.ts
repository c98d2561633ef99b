import { addAfterEffect, useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { Matrix4, type WebGLRenderer } from 'three';
import { FramePace, type Pace } from './FramePace';
import type { StageCrowd } from './StageCrowd';

/** What follows on a frame, and after how many milliseconds without a move. */
const then: Partial<Record<Pace, { next: Pace; after: number }>> = {
  moving: { next: 'resting', after: 160 },
  resting: { next: 'settled', after: 1500 },
};
/** A frame at rest is drawn again where so many times as much turns out to be possible. */
const worthAnother = 1.5;
/** How many pixels of the screen one that is drawn becomes, to a side, while the camera moves where the machine is slow. */
const whileSlow = 2;

/** Draws of a crowd what can be drawn in time: little while the camera moves, more once it rests, most when it stays so. */
export function useDetail(crowd: StageCrowd | null): void {
  const { gl, invalidate } = useThree();
  const [frames] = useState(() => new FramePace());
  const last = useRef({ crowd: null as StageCrowd | null, view: new Matrix4(), pace: 'moving' as Pace, due: null as Pace | null });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    if (!crowd) return;
    return addAfterEffect(() => {
      const { pace } = last.current;
      const had = frames.budget(pace);
      frames.watch(gl.getContext() as WebGL2RenderingContext, pace, crowd.triangles, () => {
        const now = last.current;
        if (pace === 'moving' || now.pace !== pace || now.crowd !== crowd || !crowd.isReduced) return;
        if (frames.budget(pace) < had * worthAnother) return;
        now.due = pace;
        invalidate();
      });
    });
  }, [crowd, frames, gl, invalidate]);
  useFrame(({ camera, size }) => {
    if (!crowd) return;
    const now = last.current;
    camera.updateMatrixWorld();
    const view = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
    const isNew = now.crowd !== crowd || !now.view.equals(view);
    const due = isNew ? 'moving' : now.due;
    if (!due) return;
    Object.assign(now, { crowd, view, due: null });
    // What fits into the shortest time needs no more of it.
    now.pace = crowd.fits(frames.budget('moving')) ? 'settled' : due;
    drawLarger(gl, size, now.pace === 'moving' && frames.isSlow ? whileSlow : 1);
    crowd.choose(camera, size.height, frames.budget(now.pace));
    clearTimeout(timer.current);
    const next = now.pace === 'moving' || crowd.isReduced ? then[now.pace] : undefined;
    if (next)
      timer.current = setTimeout(() => {
        now.due = next.next;
        invalidate();
      }, next.after);
  });
}

/** Draws into a corner of the canvas and shows that larger. Fewer pixels of the canvas itself would be waited for on the page. */
function drawLarger(gl: WebGLRenderer, { width, height }: { width: number; height: number }, times: number): void {
  gl.setViewport(0, 0, width / times, height / times);
  const { style } = gl.domElement;
  style.transformOrigin = '0 100%';
  style.transform = times === 1 ? '' : `scale(${times})`;
}
