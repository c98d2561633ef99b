'use client';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { Matrix4, Vector3 } from 'three';
import { facesUnderBrush } from '@/core/pick/brush';
import type { Outline } from '@/core/pick/outline';
import type { FaceRaster } from '@/core/view/rasterFaces';
import { takeDragged, useDrag } from '@/state/dragging';
import { notify } from '@/state/notices';
import { usePhrase } from '@/state/phrase';
import { usePick } from '@/state/pickState';
import { coreWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/core.worker';

/** Pixels between press and drag. */
const slack = 4;

interface Stroke {
  kind: 'box' | 'lasso' | 'brush';
  from: [number, number];
  points: number[];
  before: Uint8Array;
  isOn: boolean;
  /** Which face owns each pixel, for the brush; asked for when it is first put down. */
  raster: Promise<FaceRaster> | null;
  taken: Set<number>;
}

/** Box, lasso and brush: drags with the first button, where the phrase says so. */
export function DragPick({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);
  useEffect(() => {
    let stroke: Stroke | null = null;
    const place = (e: PointerEvent): [number, number] => {
      const box = surface.getBoundingClientRect();
      return [e.clientX - box.left, e.clientY - box.top];
    };
    const view = () => {
      const { camera, size } = get();
      camera.updateMatrixWorld();
      const matrix = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse).toArray();
      const isParallel = 'isOrthographicCamera' in camera;
      return {
        matrix,
        width: Math.round(size.width),
        height: Math.round(size.height),
        eye: camera.getWorldPosition(new Vector3()).toArray(),
        ...(isParallel && { ahead: camera.getWorldDirection(new Vector3()).toArray() }),
      };
    };
    const outlineOf = ({ kind, from, points }: Stroke): Outline => {
      if (kind === 'lasso') return Float32Array.from(points);
      const [x, y] = [points.at(-2)!, points.at(-1)!];
      return Float32Array.from([from[0], from[1], x, from[1], x, y, from[0], y]);
    };
    const onDown = (e: PointerEvent) => {
      const { drag } = usePhrase.getState();
      if (e.button !== 0 || drag === 'turn') return;
      const from = place(e);
      stroke = {
        kind: drag,
        from,
        points: [...from],
        before: usePick.getState().picked.slice(),
        isOn: false,
        raster: null,
        taken: new Set(),
      };
      surface.setPointerCapture(e.pointerId);
    };
    const paint = async (s: Stroke, at: [number, number], isTaking: boolean) => {
      const { matrix, width, height } = view();
      s.raster ??= coreWorker().faceRaster(loaded.id, matrix, width, height);
      const raster = await s.raster;
      const { brush, brushAngle, act } = usePhrase.getState();
      for (const f of facesUnderBrush(raster, loaded.adjacency, at[0], at[1], brush, brushAngle)) s.taken.add(f);
      // What is taken so far shows at once.
      if (stroke === s && act !== 'color')
        usePick.getState().set((picked) => {
          for (const f of s.taken) picked[f] = isTaking ? 0 : 1;
        });
    };
    const onMove = (e: PointerEvent) => {
      const at = place(e);
      const { drag } = usePhrase.getState();
      useDrag.setState({ circle: drag === 'brush' ? { x: at[0], y: at[1] } : null });
      if (!stroke) return;
      stroke.isOn ||= Math.hypot(at[0] - stroke.from[0], at[1] - stroke.from[1]) > slack;
      if (!stroke.isOn) return;
      stroke.points.push(...at);
      if (stroke.kind === 'brush') void paint(stroke, at, e.altKey || e.ctrlKey || usePhrase.getState().act === 'take');
      else useDrag.setState({ outline: outlineOf(stroke) });
    };
    const onUp = async (e: PointerEvent) => {
      const s = stroke;
      if (!s?.isOn) {
        stroke = null;
        return;
      }
      const keys = { add: e.shiftKey, take: e.altKey || e.ctrlKey };
      try {
        if (s.kind === 'brush') {
          await paint(s, place(e), keys.take);
          stroke = null;
          const { faces } = await s.raster!;
          const seen = new Uint8Array(s.before.length);
          for (const f of faces) if (f >= 0) seen[f] = 1;
          await takeDragged(Uint32Array.from(s.taken), s.before, keys, seen);
          return;
        }
        stroke = null;
        useDrag.setState({ outline: null });
        const { side, reach } = usePhrase.getState();
        const { faces, seen } = await coreWorker().facesInOutline(loaded.id, { outline: outlineOf(s), side, reach, ...view() });
        await takeDragged(faces, s.before, keys, seen);
      } catch (error) {
        notify(error instanceof Error ? error.message : String(error), { isError: true });
      }
    };
    const stop = () => {
      stroke = null;
      useDrag.setState({ outline: null, circle: null });
    };
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || !stroke) return;
      e.stopPropagation();
      const { before } = stroke;
      usePick.getState().set((picked) => picked.set(before));
      stop();
    };
    const onLeave = () => useDrag.setState({ circle: null });
    surface.addEventListener('pointerdown', onDown);
    surface.addEventListener('pointermove', onMove);
    surface.addEventListener('pointerup', onUp);
    surface.addEventListener('pointercancel', stop);
    surface.addEventListener('pointerleave', onLeave);
    surface.addEventListener('keydown', onKey);
    return () => {
      stop();
      surface.removeEventListener('pointerdown', onDown);
      surface.removeEventListener('pointermove', onMove);
      surface.removeEventListener('pointerup', onUp);
      surface.removeEventListener('pointercancel', stop);
      surface.removeEventListener('pointerleave', onLeave);
      surface.removeEventListener('keydown', onKey);
    };
  }, [loaded, surface, get]);
  return null;
}

/** The box, lasso or brush itself, in ink with a paper rim. */
export function DragShape() {
  const { outline, circle } = useDrag();
  const radius = usePhrase((s) => s.brush);
  const points = outline ? Array.from({ length: outline.length / 2 }, (_, i) => `${outline[i * 2]},${outline[i * 2 + 1]}`).join(' ') : '';
  if (!outline && !circle) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full">
      {outline && (
        <>
          <polygon points={points} fill="rgb(255 255 255 / 0.18)" stroke="#fff" strokeWidth={3} />
          <polygon points={points} fill="none" stroke="#111" strokeWidth={1.2} strokeDasharray="5 4" />
        </>
      )}
      {circle && (
        <>
          <circle cx={circle.x} cy={circle.y} r={radius} fill="none" stroke="#fff" strokeWidth={3} />
          <circle cx={circle.x} cy={circle.y} r={radius} fill="none" stroke="#111" strokeWidth={1.2} />
        </>
      )}
    </svg>
  );
}
