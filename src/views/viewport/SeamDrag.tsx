'use client';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { SeamStroke } from '@/state/islands/seamPath';
import { usePhrase } from '@/state/chosen/phrase';
import type { LoadedMesh } from '@/workers/residents';
import { followDrag } from './followDrag';
import { rayUnderPointer } from './rayUnderPointer';

/** Where the phrase says so, a drag draws a seam along edges from point to point; with Alt it takes it away. */
export function SeamDrag({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);
  useEffect(() => {
    const rayUnder = rayUnderPointer(surface, () => get().camera);
    let stroke: SeamStroke | null = null;
    const onDown = (e: PointerEvent) => {
      if (e.button !== 0 || usePhrase.getState().drag !== 'seam') return;
      surface.setPointerCapture(e.pointerId);
      stroke = new SeamStroke(loaded, rayUnder(e.clientX, e.clientY));
    };
    const onMove = ({ clientX, clientY }: PointerEvent) => stroke?.moveTo(() => rayUnder(clientX, clientY));
    const onUp = (e: PointerEvent) => {
      void stroke?.end(!(e.altKey || e.ctrlKey));
      stroke = null;
    };
    const stop = () => {
      stroke?.cancel();
      stroke = null;
    };
    return followDrag(surface, { onDown, onMove, onUp, stop, isUnderWay: () => stroke !== null });
  }, [loaded, surface, get]);
  return null;
}
