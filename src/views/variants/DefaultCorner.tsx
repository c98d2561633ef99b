'use client';
import { findCell, type Fill } from '@/core/kit/kit';
import { useEditor } from '@/state/kit/editor';
import { useFillStyle } from '@/views/sheet/useFillStyle';

/** What a cell shows in the default coloring, where the variant in hand has something else there; else `null`. */
export const useDefaultFill = (cell: number): Fill | null =>
  useEditor(({ state, base }) => {
    if (!base) return null;
    const own = findCell(base.kit, cell)?.cell.fill;
    return own && own !== findCell(state.kit, cell)?.cell.fill ? own : null;
  });

/** A turned-down corner of a cell that differs from the default, under which that shows. */
export function DefaultCorner({ fill }: { fill: Fill }) {
  const styleOf = useFillStyle();
  return (
    <span aria-hidden className="pointer-events-none absolute top-0 left-0 h-4 w-4 bg-ink [clip-path:polygon(0_0,100%_0,0_100%)]">
      <span className="absolute inset-0 bg-white [clip-path:polygon(0_0,calc(100%-1px)_0,0_calc(100%-1px))]" />
      <span className="absolute inset-0 [clip-path:polygon(0_0,calc(100%-3px)_0,0_calc(100%-3px))]" style={styleOf(fill)} />
    </span>
  );
}
