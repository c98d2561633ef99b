'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { create } from 'zustand';
import { boundsOf } from '@/core/shapes/mesh/measure';
import { aboutRule, type Point3 } from '@/core/kit/laying/gradientRules';
import { useColoring } from '@/state/chosen/coloringState';
import { endPreview, laidInHand, layAgain, layPick, previewAgain, previewLaying, useLaying } from '@/state/laying/laying';
import { usePhrase } from '@/state/chosen/phrase';
import { pickedFaces, usePick } from '@/state/chosen/pickState';
import { notify } from '@/state/told/notices';
import type { LoadedMesh } from '@/workers/residents';
import { followDrag } from './followDrag';
import { onScreen, pointUnder } from './linePlane';
import { viewOf } from './restingView';

/** The line that is drawn or in hand, as it lies on the screen: its two ends in pixels. */
export const useLineOnScreen = create<{
  ends: readonly [[number, number], [number, number]] | null;
  /** Moves an end to a place of the screen, 0..1 from the top left; `isDone`: it stays there. */
  move: (end: 0 | 1, x: number, y: number, isDone: boolean) => void;
}>(() => ({ ends: null, move: () => undefined }));

/** The line to be shown: the one being drawn, else that of what is in hand. */
function shownLine(): readonly [Point3, Point3] | null {
  const { line } = useLaying.getState();
  if (line) return line;
  const along = laidInHand()?.rule.along;
  return (along && aboutRule(along.rule).needsLine && along.line) || null;
}

/** Keeps the line where it belongs on the screen, and its ends movable. */
export function LineOnScreen() {
  const get = useThree((s) => s.get);
  const invalidate = useThree((s) => s.invalidate);
  useLaying((s) => s.line);
  usePick((s) => s.version);
  useEffect(() => invalidate());
  useEffect(() => {
    useLineOnScreen.setState({
      move: (end, x, y, isDone) => {
        const line = shownLine();
        if (!line) return;
        const moved = pointUnder(get().camera, x, y, line[end]);
        const change = { line: end ? ([line[0], moved] as const) : ([moved, line[1]] as const) };
        if (isDone) void layAgain(change);
        else previewAgain(change);
      },
    });
    return () => useLineOnScreen.setState({ ends: null, move: () => undefined });
  }, [get]);
  useFrame(() => {
    const line = shownLine();
    const view = line && viewOf(get().camera, get().size);
    const ends = line && ([onScreen(view!, line[0]), onScreen(view!, line[1])] as const);
    if (JSON.stringify(ends) !== JSON.stringify(useLineOnScreen.getState().ends)) useLineOnScreen.setState({ ends });
  });
  return null;
}

/** Pixels between press and drag. */
const slack = 4;

/** Where the phrase says so, a drag draws a line along which the picked faces are laid. */
export function LineDrag({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);
  useEffect(() => {
    let began: { x: number; y: number; from: Point3 } | null = null;
    let isOn = false;
    const place = (e: PointerEvent): [number, number] => {
      const box = surface.getBoundingClientRect();
      return [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
    };
    const onDown = (e: PointerEvent) => {
      if (e.button !== 0 || usePhrase.getState().drag !== 'line') return;
      const faces = pickedFaces();
      const { min, max } = boundsOf(loaded.mesh, faces.length ? faces : undefined);
      const middle = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2) as unknown as Point3;
      began = { x: e.clientX, y: e.clientY, from: pointUnder(get().camera, ...place(e), middle) };
      isOn = false;
      surface.setPointerCapture(e.pointerId);
    };
    const lineTo = (e: PointerEvent) => ({
      rule: 'line' as const,
      line: [began!.from, pointUnder(get().camera, ...place(e), began!.from)] as const,
    });
    const onMove = (e: PointerEvent) => {
      if (!began) return;
      isOn ||= Math.hypot(e.clientX - began.x, e.clientY - began.y) > slack;
      if (isOn && usePick.getState().count) previewLaying(useColoring.getState().cell, lineTo(e));
    };
    const onUp = (e: PointerEvent) => {
      if (began && isOn) {
        if (!usePick.getState().count) notify('Pick the faces first, then draw a line: they are laid along it.');
        else void layPick(useColoring.getState().cell, lineTo(e));
      }
      began = null;
    };
    const stop = () => {
      if (began) endPreview();
      began = null;
    };
    return followDrag(surface, { onDown, onMove, onUp, stop, isUnderWay: () => began !== null });
  }, [loaded, surface, get]);
  return null;
}
