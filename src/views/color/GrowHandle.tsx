'use client';
import { useRef, useState } from 'react';
import { beginGrowth, endGrowth, growTo, isGrowing, type Growth } from '@/state/pick/changePick';
import { count } from '@/ui/words';

/** Pixels of a drag for one ring of faces. */
const perRing = 14;
const most = 99;
const least = -most;

/**
 * A handle that is dragged to the right to grow the pick ring by ring, and to the left to shrink it; arrow
 * keys do the same.
 */
export function GrowHandle() {
  const [rings, setRings] = useState(0);
  const growth = useRef<Growth | null>(null);
  /** Rings are being counted; what is asked for meanwhile waits. */
  const beginning = useRef<Promise<void> | null>(null);
  const wanted = useRef(0);
  const from = useRef(0);
  const to = async (n: number) => {
    wanted.current = Math.max(least, Math.min(most, n));
    setRings(wanted.current);
    if (!growth.current) {
      beginning.current ??= beginGrowth().then((begun) => {
        growth.current = begun;
        beginning.current = null;
      });
      await beginning.current;
    }
    if (growth.current && isGrowing(growth.current)) growTo(growth.current, wanted.current);
  };
  const end = () => {
    if (growth.current && rings !== 0) endGrowth(growth.current);
    growth.current = null;
    setRings(0);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Grow the pick by rings of faces"
      aria-valuenow={rings}
      aria-valuemin={least}
      aria-valuemax={most}
      aria-valuetext={rings ? `${rings > 0 ? 'grown' : 'shrunk'} by ${count(Math.abs(rings), 'ring')}` : 'as it was'}
      title="Drag to the right to grow, to the left to shrink"
      onPointerDown={(e) => {
        end();
        from.current = e.clientX;
        e.currentTarget.setPointerCapture(e.pointerId);
        void to(0);
      }}
      onPointerMove={(e) => {
        if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
        const n = Math.round((e.clientX - from.current) / perRing);
        if (n !== rings) void to(n);
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onBlur={end}
      onKeyDown={(e) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        const isStale = growth.current && !isGrowing(growth.current);
        if (isStale) growth.current = null;
        void to((isStale ? 0 : rings) + by);
      }}
      className="flex h-[22px] cursor-ew-resize touch-none items-center gap-1.5 px-0.5 select-none hover:bg-wash"
    >
      <span aria-hidden className="flex gap-[2px]">
        {[3, 7, 11].map((h) => (
          <span key={h} className="w-[2px] self-center bg-ink" style={{ height: h }} />
        ))}
      </span>
      {rings === 0 ? 'grow' : <strong>{`${rings > 0 ? '+' : '−'}${count(Math.abs(rings), 'ring')}`}</strong>}
    </div>
  );
}
