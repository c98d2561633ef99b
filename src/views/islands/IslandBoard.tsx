'use client';
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { islandsOf, type Island } from '@/core/islands/islandsOf';
import { isTextured, type Sheet } from '@/core/kit/kit';
import { useColoring } from '@/state/color/coloringState';
import { useLaying } from '@/state/color/laying';
import {
  endMove,
  islandsInView,
  movePicked,
  pickIsland,
  pointAtIsland,
  previewMove,
  useIslands,
  clearanceOf,
  type IslandsInView,
} from '@/state/islands/islands';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/pick/pickState';
import { useSize } from '@/ui/useSize';
import { count } from '@/ui/words';
import { SheetPicture } from '@/views/sheet/SheetPicture';

/** Pixels between press and drag. */
const slack = 4;
const arrows: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

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
    frame.current = requestAnimationFrame(() => previewMove(by, at));
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
    const arrow = arrows[e.key];
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
  const faceStart = view?.of.loaded?.mesh.faceStart;
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
            {faceStart &&
              drawn.islands.map((island, i) => (
                <IslandShape
                  key={`${island.cell} ${island.faces[0]} ${i}`}
                  island={island}
                  scale={scale}
                  path={pathOf(island, faceStart, drawn.texels, scale)}
                  onPointerDown={onDown(island)}
                />
              ))}
          </svg>
        </div>
      )}
    </div>
  );
}

function pathOf({ faces }: Island, faceStart: Uint32Array, texels: Float32Array, scale: number): string {
  let path = '';
  for (const f of faces) {
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++)
      path += `${c === faceStart[f] ? 'M' : 'L'}${(texels[c * 2]! * scale).toFixed(1)} ${(texels[c * 2 + 1]! * scale).toFixed(1)}`;
    path += 'Z';
  }
  return path;
}

/** One island: its faces in outline, hatched where it is picked; as a dot where it is smaller than that. */
function IslandShape({
  island,
  path,
  scale,
  onPointerDown,
}: {
  island: Island;
  path: string;
  scale: number;
  onPointerDown: (e: PointerEvent<SVGElement>) => void;
}) {
  usePick((s) => s.version);
  const { picked, count: most } = usePick.getState();
  const isPicked = most > 0 && island.faces.every((f) => picked[f]);
  // On a gradient faces lie on a line, too thin to be met.
  const [x0, x1, y0, y1] = island.bounds;
  const isThin = Math.min(x1 - x0, y1 - y0) * scale < 8;
  const isPart = !isPicked && most > 0 && island.faces.some((f) => picked[f]);
  const pick = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    pickIsland(island, { add: e.shiftKey, take: e.altKey || e.ctrlKey });
  };
  const handlers = {
    onPointerDown,
    onPointerEnter: () => pointAtIsland(island),
    onPointerLeave: () => pointAtIsland(null),
    onFocus: () => pointAtIsland(island),
    onBlur: () => pointAtIsland(null),
    onKeyDown: pick,
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Island of ${count(island.faces.length, 'face')}`}
      aria-pressed={isPicked ? true : isPart ? 'mixed' : false}
      className="cursor-move outline-none [&:focus-visible>path]:stroke-[4px] [&:hover>path:last-child]:stroke-[2.4px]"
      {...handlers}
    >
      {isThin && (
        <rect x={x0 * scale - 4} y={y0 * scale - 4} width={(x1 - x0) * scale + 8} height={(y1 - y0) * scale + 8} fill="transparent" />
      )}
      <path d={path} fill="none" stroke="#fff" strokeWidth={7} strokeOpacity={0.01} strokeLinejoin="round" strokeLinecap="round" />
      <path d={path} fill="none" stroke="#fff" strokeWidth={3} strokeLinejoin="round" strokeLinecap="round" />
      <path
        d={path}
        fill={isPicked || isPart ? 'url(#island-hatch)' : 'rgb(255 255 255 / 0.001)'}
        stroke="#111"
        strokeWidth={1.2}
        strokeLinejoin="round"
        strokeLinecap="round"
      />
    </g>
  );
}

/** Faces on solid cells: all at one point, the middle of the cell. */
function Points({ view: { of, sheet }, scale }: { view: IslandsInView; scale: number }) {
  usePick((s) => s.version);
  const { picked } = usePick.getState();
  const lists = useMemo(() => {
    const own = new Map(
      sheet.cells.flatMap((c) => (isTextured(c.fill) || c.fill.kind === 'spare' ? [] : [[c.id, [] as number[]] as const])),
    );
    of.cells.forEach((id, f) => own.get(id)?.push(f));
    return own;
  }, [of.cells, sheet]);
  return sheet.cells.flatMap(({ id, role, rect: { x, y, w, h } }) => {
    const list = lists.get(id);
    if (!list?.length) return [];
    const island: Island = { cell: id, faces: Uint32Array.from(list), bounds: [x + w / 2, x + w / 2, y + h / 2, y + h / 2] };
    const isPicked = list.every((f) => picked[f]);
    const radius = Math.max(2.5, Math.min(7, (Math.min(w, h) * scale) / 4));
    const pick = (keys: { shiftKey: boolean; altKey: boolean; ctrlKey: boolean }) =>
      pickIsland(island, { add: keys.shiftKey, take: keys.altKey || keys.ctrlKey });
    return [
      <circle
        key={id}
        role="button"
        tabIndex={0}
        aria-label={`${count(list.length, 'face')} on ${role || 'a color'}`}
        aria-pressed={isPicked}
        cx={(x + w / 2) * scale}
        cy={(y + h / 2) * scale}
        r={radius}
        fill={isPicked ? '#111' : '#fff'}
        stroke={isPicked ? '#fff' : '#111'}
        strokeWidth={1.6}
        className="cursor-pointer outline-none hover:stroke-[3px] focus-visible:stroke-[3.5px]"
        onPointerEnter={() => pointAtIsland(island)}
        onPointerLeave={() => pointAtIsland(null)}
        onFocus={() => pointAtIsland(island)}
        onBlur={() => pointAtIsland(null)}
        onClick={pick}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' && e.key !== ' ') return;
          e.preventDefault();
          pick(e);
        }}
      />,
    ];
  });
}

/** Borders of cells, and the strip of art in which no island should come. */
function Cells({ sheet, scale }: { sheet: Sheet; scale: number }) {
  useIslands();
  const chosen = useColoring((s) => s.cell);
  const clear = clearanceOf(sheet);
  return (
    <>
      {sheet.cells.map(({ id, rect: { x, y, w, h }, fill }) => (
        <g key={id} onClick={() => isTextured(fill) && useColoring.setState({ cell: id })}>
          <rect
            x={x * scale}
            y={y * scale}
            width={w * scale}
            height={h * scale}
            fill="transparent"
            stroke="#111"
            strokeOpacity={0.35}
            strokeWidth={1}
          />
          {fill.kind === 'art' && clear > 0 && w > 2 * clear && h > 2 * clear && (
            <rect
              x={(x + clear) * scale}
              y={(y + clear) * scale}
              width={(w - 2 * clear) * scale}
              height={(h - 2 * clear) * scale}
              fill="none"
              stroke="#111"
              strokeOpacity={0.5}
              strokeDasharray="2 4"
            />
          )}
          {id === chosen && isTextured(fill) && (
            <rect
              x={x * scale - 2}
              y={y * scale - 2}
              width={w * scale + 4}
              height={h * scale + 4}
              fill="none"
              stroke="#111"
              strokeWidth={2.5}
            />
          )}
        </g>
      ))}
    </>
  );
}
