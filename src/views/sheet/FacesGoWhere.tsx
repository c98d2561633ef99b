'use client';
import type { Cell } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import type { Use } from '@/core/kit/colorings/usesOfCells';
import { usageWords } from '@/state/color/usage';
import { Button } from '@/ui/Button';

/** Asked before a color goes that faces or texels have: another color, none (0), or not at all (`null`). */
export function FacesGoWhere({ use, to, onDone }: { use: Use; to: readonly Cell[]; onDone: (cell: number | null) => void }) {
  return (
    <div role="group" aria-label="Where should its faces go?">
      <p className="font-bold">Where should {usageWords(use)} go?</p>
      <div className="mt-2 flex max-h-28 flex-wrap gap-1.5 overflow-y-auto">
        {to.map((c) => (
          <button
            key={c.id}
            type="button"
            aria-label={`To ${c.role || swatchOf(c)}`}
            title={c.role}
            onClick={() => onDone(c.id)}
            className="h-7 w-7 border border-hairline hover:border-ink"
            style={{ background: swatchOf(c) }}
          />
        ))}
      </div>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => onDone(0)}>{use.texels ? 'Leave them without a color' : 'Leave them uncolored'}</Button>
        <Button kind="bare" onClick={() => onDone(null)}>
          Keep the color
        </Button>
      </div>
    </div>
  );
}
