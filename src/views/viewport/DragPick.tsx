'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { alongStroke, facesUnderBrush } from '@/core/shapes/pick/brush';
import { facesSeenInside, isNearLine, projectVertices, type Outline } from '@/core/shapes/pick/outline';
import type { PresentView } from '@/core/shapes/view/presentView';
import { takeDragged, useDrag, type DragKeys } from '@/state/pick/dragging';
import { moment } from '@/state/kit/editor';
import { notifyError } from '@/state/told/notices';
import { isPicking, usePhrase, type PickingDrag } from '@/state/chosen/phrase';
import { usePick } from '@/state/chosen/pickState';
import { provideView } from '@/state/chosen/viewState';
import { listen } from '@/ui/listen';
import { pickingWorker } from '@/workers/client';
import type { LoadedMesh } from '@/workers/residents';
import { boxByKeys } from './boxByKeys';
import { RestingView, viewOf } from './restingView';

/** Pixels within which a face that a drag left out may have been meant. */
const margin = 12;
/** Pixels between press and drag. */
const slack = 4;
/** Milliseconds without a new frame after which the camera rests. */
const rest = 150;

interface Stroke {
  kind: PickingDrag;
  from: [number, number];
  points: number[];
  before: Uint8Array;
  isOn: boolean;
  taken: Set<number>;
  /** Places of the brush wait for those before them. */
  work: Promise<void>;
  /** Whether kit, model and mesh are still those on which it began. */
  isNow: () => boolean;
}

/** Box, lasso and brush: drags with the first button, where the phrase says so; the box by keys, too. */
export function DragPick({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);
  const drag = usePhrase((s) => s.drag);
  const resting = useMemo(() => new RestingView(loaded, () => viewOf(get().camera, get().size)), [loaded, get]);

  useEffect(() => {
    provideView(() => viewOf(get().camera, get().size));
    return () => provideView(null);
  }, [get]);

  // What is seen is looked up ahead, as soon as the camera rests.
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useFrame(() => {
    clearTimeout(timer.current);
    if (isPicking(drag)) timer.current = setTimeout(() => void resting.get(), rest);
  });
  useEffect(() => () => clearTimeout(timer.current), []);

  useEffect(() => {
    let stroke: Stroke | null = null;
    const place = (e: PointerEvent): [number, number] => {
      const box = surface.getBoundingClientRect();
      return [e.clientX - box.left, e.clientY - box.top];
    };
    const takeOutline = async (outline: Outline, { before, isNow }: Pick<Stroke, 'before' | 'isNow'>, keys: DragKeys) => {
      const { side, reach } = usePhrase.getState();
      if (side === 'through') {
        const through = viewOf(get().camera, get().size);
        const faces = await pickingWorker().facesThrough(loaded.id, through, outline, reach);
        if (!isNow()) return;
        const at = onScreen(through);
        await takeDragged(faces, before, keys, null, undefined, (f) => isNearLine(loaded.mesh, at(), f, outline, margin));
        return;
      }
      const { view, raster, owns, screen } = await resting.get();
      if (!isNow()) return;
      const seen = facesSeenInside(loaded.mesh, raster, outline, reach, screen);
      const small = pickingWorker().smallFacesInOutline(loaded.id, view, outline, reach, owns);
      await takeDragged(seen, before, keys, owns, small, (f) => isNearLine(loaded.mesh, screen(), f, outline, margin));
    };
    /** Where vertices lie in a view, computed when it is first asked for. */
    const onScreen = ({ matrix, width, height }: PresentView) => {
      let screen: Float32Array | null = null;
      return () => (screen ??= projectVertices(loaded.mesh, matrix, width, height));
    };
    const paint = async (s: Stroke, places: [number, number][], isTaking: boolean) => {
      const { brush: radius, brushAngle: angle, act, side, reach } = usePhrase.getState();
      const brush = { radius, angle, reach };
      if (side === 'through')
        for (const f of await pickingWorker().brushThrough(loaded.id, viewOf(get().camera, get().size), brush, places)) s.taken.add(f);
      else {
        const { raster, screen } = await resting.get();
        const at = reach === 'inside' ? screen() : undefined;
        for (const [x, y] of places)
          for (const f of facesUnderBrush(loaded.mesh, raster, loaded.adjacency, { ...brush, x, y }, at)) s.taken.add(f);
      }
      // What is taken so far shows at once.
      if (stroke === s && act !== 'color' && s.isNow())
        usePick.getState().set((picked) => {
          for (const f of s.taken) picked[f] = isTaking ? 0 : 1;
        });
    };

    const onDown = (e: PointerEvent) => {
      const { drag: kind } = usePhrase.getState();
      if (e.button !== 0 || !isPicking(kind)) return;
      const from = place(e);
      const before = usePick.getState().picked.slice();
      stroke = { kind, from, points: [...from], before, isOn: false, taken: new Set(), work: Promise.resolve(), isNow: moment() };
      surface.setPointerCapture(e.pointerId);
    };
    const onMove = (e: PointerEvent) => {
      const at = place(e);
      useDrag.setState({ circle: usePhrase.getState().drag === 'brush' ? { x: at[0], y: at[1] } : null });
      const s = stroke;
      if (!s) return;
      s.isOn ||= Math.hypot(at[0] - s.from[0], at[1] - s.from[1]) > slack;
      if (!s.isOn) return;
      const last: [number, number] = [s.points.at(-2)!, s.points.at(-1)!];
      const places =
        s.points.length === 2
          ? [last, ...alongStroke(last, at, usePhrase.getState().brush)]
          : alongStroke(last, at, usePhrase.getState().brush);
      s.points.push(...at);
      if (s.kind === 'brush') {
        const isTaking = e.altKey || e.ctrlKey || usePhrase.getState().act === 'take';
        s.work = s.work.then(() => paint(s, places, isTaking));
      } else useDrag.setState({ outline: outlineOf(s) });
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
          await s.work;
          stroke = null;
          const owns = usePhrase.getState().side === 'near' ? (await resting.get()).owns : null;
          if (!s.isNow()) return;
          const line = Float32Array.from(s.points);
          const wide = usePhrase.getState().brush + margin;
          const at = onScreen(viewOf(get().camera, get().size));
          const isNear = (f: number) => isNearLine(loaded.mesh, at(), f, line, wide, false);
          await takeDragged(Uint32Array.from(s.taken), s.before, keys, owns, undefined, isNear);
          return;
        }
        stroke = null;
        useDrag.setState({ outline: null });
        await takeOutline(outlineOf(s), s, keys);
      } catch (error) {
        notifyError(error);
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
    const stopKeys = boxByKeys(
      surface,
      (outline, keys) => void takeOutline(outline, { before: usePick.getState().picked.slice(), isNow: moment() }, keys),
    );
    const stopListening = listen(surface, {
      pointerdown: onDown,
      pointermove: onMove,
      pointerup: onUp,
      pointercancel: stop,
      pointerleave: onLeave,
      keydown: onKey,
    });
    return () => {
      stop();
      stopKeys();
      stopListening();
    };
  }, [loaded, surface, get, resting]);
  return null;
}

function outlineOf({ kind, from, points }: Stroke): Outline {
  if (kind === 'lasso') return Float32Array.from(points);
  const [x, y] = [points.at(-2)!, points.at(-1)!];
  return Float32Array.from([from[0], from[1], x, from[1], x, y, from[0], y]);
}
