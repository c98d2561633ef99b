'use client';
import { spareCells, usableCells, type Sheet } from '@/core/kit/kit';
import { useColoring, type ColoringState } from '@/state/coloringState';
import { count } from '@/ui/words';

/** What the sheet is, in one sentence whose underlined words change it. */
export function SheetSentence({ sheet }: { sheet: Sheet }) {
  const colors = usableCells(sheet).length;
  const open = (panel: ColoringState['panel']) => useColoring.setState({ panel, drafts: {} });
  return (
    <div className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5 text-phrase">
      <p className="truncate">
        {sheet.name} is{' '}
        <button
          type="button"
          aria-label={`${sheet.width} × ${sheet.height} texels: lay out anew`}
          title="Lay out the sheet anew: smaller, or with more room"
          onClick={() => open({ kind: 'relay', sheet: sheet.id })}
          className="border-b-2 border-ink font-bold hover:bg-wash"
        >
          {sheet.width} × {sheet.height} texels
        </button>{' '}
        and holds {count(colors, 'color')}, with {count(spareCells(sheet).length, 'spare cell')}.{' '}
        <button
          type="button"
          onClick={() => open({ kind: 'plan', sheet: sheet.id })}
          className="border-b-2 border-ink font-bold hover:bg-wash"
        >
          Plan colors from a list
        </button>
      </p>
    </div>
  );
}
