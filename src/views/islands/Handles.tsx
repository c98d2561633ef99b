'use client';
import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Move } from '@/core/islands/arrangeIslands';
import { endMove, movePicked, pickedBounds, previewMove } from '@/state/islands/islands';
import { useLaying } from '@/state/laying/laying';
import { usePick } from '@/state/chosen/pickState';

/** Degrees of a step of turning, but with Shift. */
const turnStep = 15;
/** Smaller than this nothing is made by a handle. */
const leastSize = 0.02;

type Handle = { kind: 'size'; x: 0 | 1; y: 0 | 1 } | { kind: 'turn' };
interface Drag {
  handle: Handle;
  /** Texels at which it was taken. */
  from: [number, number];
}

const corners: { x: 0 | 1; y: 0 | 1; name: string }[] = [
  { x: 0, y: 0, name: 'upper left' },
  { x: 1, y: 0, name: 'upper right' },
  { x: 1, y: 1, name: 'lower right' },
  { x: 0, y: 1, name: 'lower left' },
];

/** Handles around what is picked: its corners size it, in its proportions but with Shift; the one above turns it. */
export function Handles({ scale, texelAt }: { scale: number; texelAt: (e: { clientX: number; clientY: number }) => [number, number] }) {
  usePick((s) => s.version);
  const isPreview = useLaying((s) => s.preview !== null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const bounds = pickedBounds();
  if (!bounds) return null;
  const [x0, x1, y0, y1] = bounds;
  const isThin = Math.min(x1 - x0, y1 - y0) * scale < 4;
  const middle = [(x0 + x1) / 2, (y0 + y1) / 2] as const;

  const moveTo = ({ handle, from }: Drag, to: [number, number], isFree: boolean): Partial<Move> => {
    if (handle.kind === 'turn') {
      const angle = ([x, y]: [number, number]) => (Math.atan2(y - middle[1], x - middle[0]) * 180) / Math.PI;
      const turn = angle(to) - angle(from);
      return { turn: isFree ? turn : Math.round(turn / turnStep) * turnStep };
    }
    return sized(handle, [(to[0] - from[0]) * (handle.x ? 1 : -1), (to[1] - from[1]) * (handle.y ? 1 : -1)], isFree);
  };
  /** Grown by so many texels at a corner, the one across from it held. */
  const sized = ({ x, y }: { x: 0 | 1; y: 0 | 1 }, [dx, dy]: [number, number], isFree: boolean): Partial<Move> => {
    const [w, h] = [x1 - x0, y1 - y0];
    const factors = [w > 0 ? Math.max(leastSize, 1 + dx / w) : 1, h > 0 ? Math.max(leastSize, 1 + dy / h) : 1] as const;
    const one = Math.abs(dx) * h > Math.abs(dy) * w ? factors[0] : factors[1];
    const size = isFree ? factors : ([one, one] as const);
    return { size, by: [((size[0] - 1) * w * (x ? 1 : -1)) / 2, ((size[1] - 1) * h * (y ? 1 : -1)) / 2] };
  };
  const onDown = (handle: Handle) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ handle, from: texelAt(e) });
  };
  const onMove = (e: PointerEvent<SVGElement>) => {
    if (!drag) return;
    e.stopPropagation();
    previewMove(moveTo(drag, texelAt(e), e.shiftKey));
  };
  const onUp = (e: PointerEvent<SVGElement>) => {
    if (!drag) return;
    setDrag(null);
    e.stopPropagation();
    movePicked(moveTo(drag, texelAt(e), e.shiftKey));
  };
  const cancel = () => {
    setDrag(null);
    endMove();
  };
  const onKeyDown = (handle: Handle) => (e: KeyboardEvent<SVGElement>) => {
    const step = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[e.key];
    if (!step) return;
    e.preventDefault();
    e.stopPropagation();
    if (handle.kind === 'turn') movePicked({ turn: step * (e.shiftKey ? 1 : turnStep) }, { isStep: true });
    else movePicked(sized(handle, [step, ((y1 - y0) / (x1 - x0 || 1)) * step], false), { isStep: true });
  };
  const shape = 'cursor-pointer fill-white stroke-ink [stroke-width:1.6] outline-none focus-visible:[stroke-width:3.5]';
  return (
    <g className={isPreview ? 'opacity-0' : ''} onPointerMove={onMove} onPointerUp={onUp} onPointerCancel={cancel}>
      {!isThin && (
        <rect
          x={x0 * scale}
          y={y0 * scale}
          width={(x1 - x0) * scale}
          height={(y1 - y0) * scale}
          fill="none"
          stroke="#111"
          strokeDasharray="1 3"
          pointerEvents="none"
        />
      )}
      <line x1={middle[0] * scale} x2={middle[0] * scale} y1={y0 * scale} y2={y0 * scale - 18} stroke="#111" pointerEvents="none" />
      <circle
        role="button"
        tabIndex={0}
        aria-label="Turn what is picked"
        cx={middle[0] * scale}
        cy={y0 * scale - 20}
        r={5}
        className={shape}
        onPointerDown={onDown({ kind: 'turn' })}
        onKeyDown={onKeyDown({ kind: 'turn' })}
      />
      {!isThin &&
        corners.map(({ x, y, name }) => (
          <rect
            key={name}
            role="button"
            tabIndex={0}
            aria-label={`Size what is picked at its ${name} corner`}
            x={(x ? x1 : x0) * scale - 4.5}
            y={(y ? y1 : y0) * scale - 4.5}
            width={9}
            height={9}
            className={shape}
            onPointerDown={onDown({ kind: 'size', x, y })}
            onKeyDown={onKeyDown({ kind: 'size', x, y })}
          />
        ))}
    </g>
  );
}
