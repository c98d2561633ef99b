'use client';
import { Maximize, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { hexFromRgb } from '@/core/ground/color/hex';
import { meanInCircle } from '@/core/sheet/picture/meanColor';
import { takeColor, useDropper } from '@/state/sheet/drawing';
import { useEditor } from '@/state/kit/editor';
import { usePictures } from '@/state/chosen/pictures';
import { useSize } from '@/ui/useSize';
import { Select } from '@/ui/Select';

interface View {
  /** Screen pixels a picture's pixel takes. */
  scale: number;
  x: number;
  y: number;
}

/** A reference: wheel zooms, dragging moves it, a click takes the mean color under the circle. */
export function ReferenceBoard({ id, small = false }: { id: string; small?: boolean }) {
  const reference = useEditor((s) => s.state.kit.references.find((r) => r.id === id));
  const raster = usePictures((s) => (reference ? s.rasters.get(reference.picture) : undefined));
  const url = usePictures((s) => (reference ? s.urls[reference.picture] : undefined));
  const radius = useDropper((s) => s.radius);
  const area = useRef<HTMLDivElement>(null);
  const room = useSize(area);
  const [view, setView] = useState<View | null>(null);
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);
  const fitted: View | null =
    raster && room.width
      ? (() => {
          const scale = Math.min((room.width - 40) / raster.width, (room.height - 40) / raster.height);
          return { scale, x: (room.width - raster.width * scale) / 2, y: (room.height - raster.height * scale) / 2 };
        })()
      : null;
  const shown = view ?? fitted;
  const zoomAt = (factor: number, px: number, py: number) => {
    if (!shown) return;
    const scale = Math.max(0.02, Math.min(64, shown.scale * factor));
    const k = scale / shown.scale;
    setView({ scale, x: px - (px - shown.x) * k, y: py - (py - shown.y) * k });
  };
  const latestZoom = useRef(zoomAt);
  useEffect(() => {
    latestZoom.current = zoomAt;
  });
  useEffect(() => {
    const element = area.current!;
    // React listens passively; zooming must keep the page from scrolling.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const box = element.getBoundingClientRect();
      latestZoom.current(Math.exp(-e.deltaY * 0.0015), e.clientX - box.left, e.clientY - box.top);
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, []);
  const inPicture = (px: number, py: number) => shown && { x: (px - shown.x) / shown.scale, y: (py - shown.y) / shown.scale };
  const colorAt = (px: number, py: number): string | null => {
    const at = inPicture(px, py);
    if (!at || !raster || at.x < 0 || at.y < 0 || at.x >= raster.width || at.y >= raster.height) return null;
    return hexFromRgb(meanInCircle(raster, at.x, at.y, radius));
  };
  const look = (next: { x: number; y: number } | null) => {
    setPointer(next);
    useDropper.setState({ under: next && colorAt(next.x, next.y) });
  };
  const local = (e: PointerEvent) => {
    const box = area.current!.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };
  if (!reference) return null;
  const under = pointer && colorAt(pointer.x, pointer.y);
  const middle = { x: room.width / 2, y: room.height / 2 };
  const tool = 'flex h-[26px] w-[30px] items-center justify-center bg-paper hover:bg-wash';
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        ref={area}
        role="application"
        aria-label={`Reference ${reference.name}: arrows move the circle, Enter takes its color`}
        tabIndex={0}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, y: e.clientY, moved: false };
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (d && shown && (d.moved || Math.hypot(e.clientX - d.x, e.clientY - d.y) > 4)) {
            setView({ ...shown, x: shown.x + e.clientX - d.x, y: shown.y + e.clientY - d.y });
            drag.current = { x: e.clientX, y: e.clientY, moved: true };
          }
          look(local(e));
        }}
        onPointerUp={(e) => {
          const isClick = drag.current && !drag.current.moved;
          drag.current = null;
          const at = local(e);
          const color = colorAt(at.x, at.y);
          if (isClick && color) takeColor(color, reference.name);
        }}
        onPointerLeave={() => look(null)}
        onKeyDown={(e) => {
          if (!shown) return;
          const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
          const from = pointer ?? middle;
          const step = e.shiftKey ? 40 : 8;
          if (way) look({ x: from.x + way[0]! * step, y: from.y + way[1]! * step });
          else if (e.key === 'Enter' && under) takeColor(under, reference.name);
          else if (e.key === '+') zoomAt(1.25, from.x, from.y);
          else if (e.key === '-') zoomAt(0.8, from.x, from.y);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
        className="relative min-h-0 flex-1 cursor-crosshair touch-none overflow-hidden bg-surround select-none focus-visible:-outline-offset-4"
      >
        {shown && raster && (
          // Pictures of the kit are addresses made by the application; there is nothing to optimize.
          // eslint-disable-next-line @next/next/no-img-element
          <img
            src={url}
            alt=""
            draggable={false}
            className="pointer-events-none absolute top-0 left-0 max-w-none origin-top-left"
            style={{
              width: raster.width,
              height: raster.height,
              transform: `translate(${shown.x}px, ${shown.y}px) scale(${shown.scale})`,
              imageRendering: shown.scale > 2 ? 'pixelated' : 'auto',
            }}
          />
        )}
        {!raster && <p className="absolute inset-0 m-auto h-fit w-fit bg-paper px-4 py-2">Opening {reference.name}…</p>}
        {pointer && under && shown && (
          <>
            <span
              aria-hidden
              className="pointer-events-none absolute rounded-full border-2 border-ink outline-2 outline-white"
              style={{
                width: Math.max(4, radius * 2 * shown.scale),
                height: Math.max(4, radius * 2 * shown.scale),
                left: pointer.x - Math.max(2, radius * shown.scale),
                top: pointer.y - Math.max(2, radius * shown.scale),
              }}
            />
            <span
              aria-hidden
              className="pointer-events-none absolute flex items-center gap-2 border border-ink bg-paper pr-2 text-[12px]"
              style={{ left: Math.min(pointer.x + 18, room.width - 100), top: Math.max(4, pointer.y - 40) }}
            >
              <span className="h-7 w-7" style={{ background: under }} />
              {under}
            </span>
          </>
        )}
      </div>
      <div className={`absolute flex ${small ? 'right-2 bottom-2' : 'right-5 bottom-4'}`} role="group" aria-label="Zoom">
        <button type="button" aria-label="Nearer" className={tool} onClick={() => zoomAt(1.4, middle.x, middle.y)}>
          <ZoomIn size={14} aria-hidden />
        </button>
        <button type="button" aria-label="Farther" className={tool} onClick={() => zoomAt(1 / 1.4, middle.x, middle.y)}>
          <ZoomOut size={14} aria-hidden />
        </button>
        <button type="button" aria-label="Show the whole picture" className={tool} onClick={() => setView(null)}>
          <Maximize size={14} aria-hidden />
        </button>
      </div>
    </div>
  );
}

/** How large the circle is, and where its color goes. */
export function DropperOptions({ hasCell }: { hasCell: string | null }) {
  const { radius, target, under } = useDropper();
  return (
    <div className="space-y-2">
      <label className="grid grid-cols-[88px_1fr_44px] items-center gap-2">
        Circle
        <input
          type="range"
          aria-label="Radius of the circle in pixels"
          min={0}
          max={48}
          value={radius}
          onChange={(e) => useDropper.setState({ radius: Number(e.target.value) })}
          className="slider-plain"
        />
        <span className="text-right text-[12px]">{radius} px</span>
      </label>
      <div className="flex items-center gap-2">
        <span className="h-7 w-7 shrink-0 border border-ink" style={{ background: under ?? '#fff' }} />
        <span className="flex min-w-0 flex-1 items-center gap-2">
          <span className="whitespace-nowrap">A click makes it</span>
          <Select
            isQuiet
            label="A click makes it"
            value={target}
            options={[
              { value: 'new', word: 'a new color' },
              { value: 'cell', word: hasCell ? `“${hasCell}”` : 'the chosen color', isDisabled: !hasCell },
            ]}
            onChange={(to) => useDropper.setState({ target: to })}
            className="min-w-0 flex-1"
          />
        </span>
      </div>
    </div>
  );
}
