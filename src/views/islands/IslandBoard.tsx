'use client';
import { arrows } from '@/ui/arrows';
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { islandsOf, type Island } from '@/core/islands/islandsOf';
import type { Sheet } from '@/core/kit/kit';
import { useLaying } from '@/state/laying/laying';
import { endMove, islandsInView, movePicked, pickIsland, pointAtIsland, previewMove } from '@/state/islands/islands';
import { useEditor } from '@/state/kit/editor';
import { tonesOf, useStretch } from '@/state/islands/stretch';
import { usePick } from '@/state/chosen/pickState';
import { useSize } from '@/ui/useSize';
import { count } from '@/ui/words';
import { SheetPicture } from '@/views/sheet/SheetPicture';
import { Cells, Points } from './BoardCells';
import { Handles } from './Handles';
import { IslandShape } from './IslandShape';

/** Pixels between press and drag. */
const slack = 4;
interface Drag {
  island: Island;
  x: number;
  y: number;
  isOn: boolean;
  keys: { add: boolean; take: boolean };
}

/** The sheet, large, with the islands of the model in view; they are picked, dragged, and moved by arrow keys. */
export function IslandBoard({ sheet }: { sheet: Sheet }) {
  const area = useRef<HTMLDivElement>(null);
  const board = useRef<SVGSVGElement>(null);
  const room = useSize(area);
  useEditor((s) => s.state.seats);
  useEditor((s) => s.modelId);
  const preview = useLaying((s) => s.preview);
  const view = islandsInView();
  // While something is dragged it is drawn where it would lie.
  const drawn = useMemo(() => {
    if (!view) return { islands: [], texels: new Float32Array() };
    return preview?.model === view.of.model.id ? islandsOf(view.of.loaded!.adjacency, preview.seats, view.sheet) : view;
  }, [view, preview]);
  useEffect(() => () => pointAtIsland(null), []);
  const drag = useRef<Drag | null>(null);
  const frame = useRef(0);
  const scale = Math.max(0.05, Math.min((room.width - 48) / sheet.width, (room.height - 48) / sheet.height));
  const loaded = view?.of.loaded;
  const places = useMemo(() => (loaded ? { loaded, texels: drawn.texels, scale } : null), [loaded, drawn.texels, scale]);
  const stretch = useStretch();
  // While islands are moved, what was measured is of before.
  const tones = useMemo(() => (view && !preview ? tonesOf(view.of.model.id) : null), [view, preview, stretch]); // eslint-disable-line react-hooks/exhaustive-deps
  const texelAt = (e: { clientX: number; clientY: number }): [number, number] => {
    const box = board.current!.getBoundingClientRect();
    return [(e.clientX - box.left) / scale, (e.clientY - box.top) / scale];
  };

  const onDown = (island: Island) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    const keys = { add: e.shiftKey, take: e.altKey || e.ctrlKey };
    board.current!.setPointerCapture(e.pointerId);
    drag.current = { island, x: e.clientX, y: e.clientY, isOn: false, keys };
  };
  const onMove = (e: PointerEvent<SVGElement>) => {
    const d = drag.current;
    if (!d) return;
    if (!d.isOn && Math.hypot(e.clientX - d.x, e.clientY - d.y) > slack) {
      d.isOn = true;
      // A drag takes what is picked; one that begins elsewhere picks that island first.
      const { picked } = usePick.getState();
      if (!d.island.faces.every((f) => picked[f])) pickIsland(d.island, { add: e.shiftKey, take: false });
    }
    if (!d.isOn) return;
    const at = texelAt(e);
    const by = snapped(d, e);
    cancelAnimationFrame(frame.current);
    frame.current = requestAnimationFrame(() => previewMove({ by }, at));
  };
  /** Whole texels, but with Shift. */
  const snapped = (d: Drag, e: PointerEvent): [number, number] => {
    const by = [(e.clientX - d.x) / scale, (e.clientY - d.y) / scale] as const;
    return e.shiftKey ? [by[0], by[1]] : [Math.round(by[0]), Math.round(by[1])];
  };
  const onUp = (e: PointerEvent<SVGElement>) => {
    const d = drag.current;
    drag.current = null;
    cancelAnimationFrame(frame.current);
    if (!d) return;
    if (d.isOn) movePicked({ by: snapped(d, e) }, { at: texelAt(e) });
    else pickIsland(d.island, d.keys);
  };
  const cancel = () => {
    drag.current = null;
    cancelAnimationFrame(frame.current);
    endMove();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const arrow = arrows.get(e.key);
    if (e.key === 'Escape' && drag.current) {
      e.stopPropagation();
      cancel();
      return;
    }
    if (!arrow || !usePick.getState().count) return;
    e.preventDefault();
    e.stopPropagation();
    const step = e.shiftKey ? 4 : e.altKey ? 0.25 : 1;
    movePicked({ by: [arrow[0] * step, arrow[1] * step] }, { isStep: true });
  };
  const [w, h] = [sheet.width * scale, sheet.height * scale];
  return (
    <div ref={area} className="relative min-h-0 flex-1 overflow-hidden">
      {room.width > 0 && (
        <div className="absolute" style={{ left: (room.width - w) / 2, top: (room.height - h) / 2 }}>
          <SheetPicture sheet={sheet} side={Math.max(w, h)} className="absolute block" />
          <svg
            ref={board}
            width={w}
            height={h}
            className="relative block overflow-visible outline-none focus-visible:outline-2 focus-visible:outline-offset-4 focus-visible:outline-ink"
            tabIndex={0}
            role="group"
            aria-label={`The sheet, ${sheet.width} × ${sheet.height} texels, ${count(drawn.islands.length, 'island')}. Arrow keys move what is picked by a texel.`}
            onPointerMove={onMove}
            onPointerUp={onUp}
            onPointerCancel={cancel}
            onKeyDown={onKeyDown}
          >
            <defs>
              <pattern id="island-hatch" width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <rect width={6} height={6} fill="rgb(255 255 255 / 0.35)" />
                <line x1={0} y1={0} x2={0} y2={6} stroke="#111" strokeWidth={1.4} />
              </pattern>
            </defs>
            <Cells sheet={sheet} scale={scale} />
            {view && <Points view={view} scale={scale} />}
            {places &&
              drawn.islands.map((island, i) => (
                <IslandShape
                  key={`${island.cell} ${island.faces[0]} ${i}`}
                  island={island}
                  places={places}
                  tones={tones}
                  onPointerDown={onDown(island)}
                />
              ))}
            <Handles scale={scale} texelAt={texelAt} />
          </svg>
        </div>
      )}
    </div>
  );
}
