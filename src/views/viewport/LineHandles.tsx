'use client';
import { arrows } from '@/ui/arrows';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { endPreview } from '@/state/laying/laying';
import { useLineOnScreen } from './LineDrag';

/** Pixels of a step by keys, and of a large one. */
const step = { small: 4, large: 24 };
/** The line along which faces are laid: a ring where it begins, a disc where it ends, both to be moved. */
export function LineHandles() {
  const { ends, move } = useLineOnScreen();
  const box = useRef<HTMLDivElement>(null);
  if (!ends) return null;
  const place = (x: number, y: number): [number, number] => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    return [(x - left) / width, (y - top) / height];
  };
  const [[x1, y1], [x2, y2]] = ends;
  return (
    <div ref={box} className="pointer-events-none absolute inset-0 overflow-hidden">
      <svg aria-hidden className="h-full w-full">
        <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="#fff" strokeWidth={3.5} />
        <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="#111" strokeWidth={1.4} />
      </svg>
      {([0, 1] as const).map((end) => (
        <Handle
          key={end}
          label={end ? 'End of the line' : 'Beginning of the line'}
          isFilled={end === 1}
          at={ends[end]}
          onMove={(x, y, isDone) => move(end, ...place(x, y), isDone)}
          origin={() => box.current!.getBoundingClientRect()}
        />
      ))}
    </div>
  );
}

function Handle({
  label,
  isFilled,
  at: [x, y],
  onMove,
  origin,
}: {
  label: string;
  isFilled: boolean;
  at: readonly [number, number];
  /** To a place of the window, in pixels. */
  onMove: (x: number, y: number, isDone: boolean) => void;
  origin: () => DOMRect;
}) {
  const isHeld = useRef(false);
  const frame = useRef(0);
  const onPointerDown = (e: PointerEvent<HTMLButtonElement>) => {
    e.stopPropagation();
    isHeld.current = true;
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const onPointerMove = (e: PointerEvent) => {
    if (!isHeld.current) return;
    const { clientX, clientY } = e;
    cancelAnimationFrame(frame.current);
    frame.current = requestAnimationFrame(() => onMove(clientX, clientY, false));
  };
  const onPointerUp = (e: PointerEvent) => {
    cancelAnimationFrame(frame.current);
    if (isHeld.current) onMove(e.clientX, e.clientY, true);
    isHeld.current = false;
  };
  const stop = () => {
    cancelAnimationFrame(frame.current);
    isHeld.current = false;
    endPreview();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const arrow = arrows.get(e.key);
    if (!arrow) return;
    e.preventDefault();
    e.stopPropagation();
    const by = e.shiftKey ? step.large : step.small;
    const { left, top } = origin();
    onMove(left + x + arrow[0] * by, top + y + arrow[1] * by, true);
  };
  return (
    <button
      type="button"
      aria-label={`${label}; arrow keys move it`}
      title={label}
      style={{ left: x - 12, top: y - 12 }}
      className="pointer-events-auto absolute flex h-6 w-6 cursor-grab touch-none items-center justify-center active:cursor-grabbing"
      {...{ onPointerDown, onPointerMove, onPointerUp, onKeyDown, onPointerCancel: stop }}
    >
      <span
        aria-hidden
        className={`h-3.5 w-3.5 rounded-full border-2 border-ink outline-2 outline-white outline-solid ${isFilled ? 'bg-ink' : 'bg-white'}`}
      />
    </button>
  );
}
