'use client';
import { DropdownMenu } from 'radix-ui';
import { swatchOf } from '@/core/sheet/cells';
import { useColoring } from '@/state/chosen/coloringState';
import { useCurrent } from '@/state/kit/useCurrent';
import { itemLook, Word } from './phraseWords';

/** The color of the phrase. */
export function ColorWord() {
  const cellId = useColoring((s) => s.cell);
  const cells = useCurrent()?.sheet.cells.filter((c) => c.fill.kind !== 'spare') ?? [];
  const cell = cells.find((c) => c.id === cellId);
  return (
    <Word
      label="Which color"
      value={
        <>
          <span
            aria-hidden
            className="mr-1.5 inline-block h-3.5 w-3.5"
            style={cell ? { background: swatchOf(cell) } : { border: '1px dashed #777' }}
          />
          {cell ? cell.role || 'a color without a role' : 'a color of the tray'}
        </>
      }
    >
      {cells.map((c) => (
        <DropdownMenu.Item key={c.id} onSelect={() => useColoring.setState({ cell: c.id })} className={itemLook}>
          <span aria-hidden className="h-4 w-4" style={{ background: swatchOf(c) }} />
          {c.role || 'without a role'}
        </DropdownMenu.Item>
      ))}
    </Word>
  );
}
