'use client';
import { findCell, spareCells, type Sheet } from '@/core/kit/kit';
import { openNewColor, sourceCell } from '@/state/color/coloring';
import { useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { chooseSheetFor } from '@/state/color/sheets';
import { usePick } from '@/state/chosen/pickState';
import { count } from '@/ui/words';
import type { Uses } from './cellPointing';
import { usageWords } from '@/state/color/usage';
import { describe } from './describe';
import { Select } from '@/ui/Select';

/** Size of the sheet; the cell that is pointed at or chosen, and what can be done with it. */
export function CellPanel({ sheet, uses }: { sheet: Sheet; uses: Uses }) {
  const pointed = useColoring((s) => s.pointedCell);
  const chosen = useColoring((s) => s.cell);
  const drafts = useColoring((s) => s.drafts);
  const face = usePick((s) => s.face);
  const kit = useEditor((s) => s.state.kit);
  const modelId = useEditor((s) => s.modelId);
  const under = useEditor((s) => (s.modelId && face >= 0 ? (s.state.seats[s.modelId]?.cell[face] ?? 0) : 0));
  const id = pointed || under || chosen;
  const cell = findCell(kit, id)?.cell;
  const use = uses.get(id);
  const size = sheet.cells[0]?.rect.w;
  const isEven = sheet.cells.every((c) => c.rect.w === size && c.rect.h === size);
  return (
    <div className="flex min-w-0 flex-1 flex-col pt-3.5 pr-4 pb-3 pl-1">
      {kit.sheets.length > 1 && modelId && (
        <Select
          isQuiet
          label="Sheet of this model"
          value={sheet.id}
          options={kit.sheets.map((s) => ({ value: s.id, word: s.name }))}
          onChange={(to) => chooseSheetFor(modelId, to)}
          className="mb-1 w-full text-[12px]"
        />
      )}
      <button
        type="button"
        title="Lay out the sheet anew: smaller, or with more room"
        aria-label={`${sheet.width} × ${sheet.height} texels: lay out anew`}
        onClick={() => useColoring.setState({ panel: { kind: 'relay', sheet: sheet.id } })}
        className="self-start border-b-2 border-ink font-bold hover:bg-wash"
      >
        {sheet.width} × {sheet.height} texels
      </button>
      <p className="text-[12px] text-quiet">
        {isEven ? `${size}-texel cells, ` : ''}
        {spareCells(sheet).length} spare
      </p>
      {cell ? (
        <div className="mt-3 min-w-0" aria-label="This color" role="group">
          <p className="truncate font-bold" title={cell.role}>
            {cell.role || 'Without a role'}
          </p>
          <p className="text-[12px] text-quiet uppercase">{describe(drafts[id] ?? cell.fill)}</p>
          <p className="text-[12px] text-quiet">
            {use ? [usageWords(use), ...(use.models ? [count(use.models, 'model')] : [])].join(', ') : 'not used yet'}
          </p>
        </div>
      ) : (
        <p className="mt-3 text-[12px] text-quiet">Point at a color to see its faces.</p>
      )}
      <div className="mt-auto flex gap-3 text-[12px] font-medium">
        <button
          type="button"
          disabled={!chosen}
          className="border-b-2 border-ink disabled:border-hairline disabled:text-quiet"
          onClick={() => useColoring.setState({ panel: { kind: 'edit', cell: chosen } })}
        >
          Edit color
        </button>
        <button type="button" className="border-b-2 border-ink" onClick={() => openNewColor(sourceCell(), false)}>
          New color
        </button>
      </div>
    </div>
  );
}
