import { useRef, type PointerEvent } from 'react';
import type { Fill } from '@/core/kit/kit';
import { endPreview, layPick, previewLaying } from '@/state/laying/laying';
import { usePick } from '@/state/chosen/pickState';

/** Pixels between press and drag. */
const slack = 4;
/** Within this share of an end the end is meant. */
const snap = 0.06;

interface Drag {
  from: number;
  to: number;
  x: number;
  y: number;
  isOn: boolean;
  frame: number;
}

/**
 * A drag along a gradient in the tray lays the picked faces along it, from where it begins to where it ends, and
 * shows them so meanwhile. `onRun`: from and to, 0..1, or nothing any more.
 */
export function useLayByDrag(cell: number, fill: Fill, onRun: (run: [number, number] | null) => void) {
  const drag = useRef<Drag | null>(null);
  const isDragged = useRef(false);
  if (fill.kind !== 'gradient') return { handlers: {}, isDragged };
  const placeIn = (e: PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const t = fill.axis === 'x' ? (e.clientX - box.left) / box.width : (e.clientY - box.top) / box.height;
    return t < snap ? 0 : t > 1 - snap ? 1 : t;
  };
  const end = () => {
    if (drag.current) cancelAnimationFrame(drag.current.frame);
    drag.current = null;
    onRun(null);
    endPreview();
  };
  const handlers = {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      isDragged.current = false;
      if (e.button !== 0 || !usePick.getState().count) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      const at = placeIn(e);
      drag.current = { from: at, to: at, x: e.clientX, y: e.clientY, isOn: false, frame: 0 };
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const d = drag.current;
      if (!d) return;
      d.isOn ||= Math.hypot(e.clientX - d.x, e.clientY - d.y) > slack;
      if (!d.isOn) return;
      isDragged.current = true;
      d.to = placeIn(e);
      onRun([d.from, d.to]);
      cancelAnimationFrame(d.frame);
      d.frame = requestAnimationFrame(() => previewLaying(cell, { start: d.from, end: d.to }));
    },
    onPointerUp: () => {
      const d = drag.current;
      end();
      if (d?.isOn) void layPick(cell, { start: d.from, end: d.to });
    },
    onPointerCancel: end,
  };
  return { handlers, isDragged };
}
