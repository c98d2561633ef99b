'use client';
import { useMemo } from 'react';
import type { Island } from '@/core/islands/islandsOf';
import { isTextured, type Sheet } from '@/core/kit/kit';
import { useColoring } from '@/state/chosen/coloringState';
import { clearanceOf, pickIsland, pointAtIsland, useIslands, type IslandsInView } from '@/state/islands/islands';
import { usePick } from '@/state/chosen/pickState';
import { count } from '@/ui/words';

/** Faces on solid cells: all at one point, the middle of the cell. */
export function Points({ view: { of, sheet }, scale }: { view: IslandsInView; scale: number }) {
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
export function Cells({ sheet, scale }: { sheet: Sheet; scale: number }) {
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
