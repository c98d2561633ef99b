'use client';
import { spareCells, usableCells, type Sheet } from '@/core/kit/kit';
import { useBoard } from '@/state/color/board';
import { useColoring, type ColoringState } from '@/state/chosen/coloringState';
import { Choice } from '@/ui/Choice';
import { count } from '@/ui/words';
import { useFittingText } from '@/views/color/useFittingText';
import { VariantWord } from '@/views/variants/VariantWord';

/** What the sheet is, in one sentence whose underlined words change it. */
export function SheetSentence({ sheet }: { sheet: Sheet }) {
  const mode = useBoard((s) => s.mode);
  const sentence = useFittingText();
  const colors = usableCells(sheet).length;
  const open = (panel: ColoringState['panel']) => useColoring.setState({ panel, drafts: {} });
  return (
    <div className="flex h-[50px] gap-4 shrink-0 items-center border-b border-hairline bg-paper px-5 text-phrase">
      <p ref={sentence} className="min-w-0 flex-1 overflow-hidden whitespace-nowrap">
        <VariantWord /> {sheet.name} is{sheet.frozen ? ' a frozen picture of' : ''}{' '}
        <button
          type="button"
          aria-label={`${sheet.width} × ${sheet.height} texels: lay out anew`}
          title="Lay out the sheet anew: smaller, or with more room"
          onClick={() => open({ kind: 'relay', sheet: sheet.id })}
          className="border-b-2 border-ink font-bold hover:bg-wash"
        >
          {sheet.width} × {sheet.height} texels
        </button>{' '}
        with {count(colors, 'color')}, {count(spareCells(sheet).length, sheet.frozen ? 'empty place' : 'spare cell')}.{' '}
        {!sheet.frozen && (
          <button
            type="button"
            onClick={() => open({ kind: 'plan', sheet: sheet.id })}
            className="border-b-2 border-ink font-bold hover:bg-wash"
          >
            Plan colors
          </button>
        )}
      </p>
      <Choice
        label="Shown"
        value={mode}
        options={[
          ['sheet', 'Sheet'],
          ['line-up', 'Line-up'],
        ]}
        onChange={(next) => useBoard.setState({ mode: next })}
        className="ml-auto shrink-0 border border-hairline"
      />
    </div>
  );
}
