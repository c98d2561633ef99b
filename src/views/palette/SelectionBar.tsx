'use client';
import { useState } from 'react';
import { usesOfCells, weightOf } from '@/core/kit/colorings/usesOfCells';
import { usageOf, usageWords } from '@/state/color/usage';
import { isTextured, type Cell, type Sheet } from '@/core/kit/kit';
import { commonCellSize } from '@/core/sheet/cells';
import type { Band } from '@/core/sheet/arrange';
import { colorsInBand, deleteOnBoard, insertOnBoard, mergeSelected, spareSelected, splitOnBoard, useBoard } from '@/state/color/board';
import { makeCellAt } from '@/state/sheet/adopting';
import { colorFaces, openNewColor } from '@/state/color/coloring';
import { useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { letPickGo, pickedFaces, usePick } from '@/state/chosen/pickState';
import { Menu } from '@/ui/Menu';
import { count } from '@/ui/words';
import { FacesGoWhere } from '@/views/sheet/FacesGoWhere';
import { SizeForm } from './SizeForm';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

type Asking = { what: 'spare' } | { what: 'delete'; band: Band };

/** What is selected on the sheet, and what can be done with it. */
export function SelectionBar({ sheet }: { sheet: Sheet }) {
  const ids = useBoard((s) => s.selected);
  const outlined = useBoard((s) => s.outlined);
  const picked = usePick((s) => s.count);
  const state = useEditor((s) => s.state);
  const [asking, setAsking] = useState<Asking | null>(null);
  const cells = sheet.cells.filter((c) => ids.includes(c.id));
  if (outlined)
    return (
      <div role="group" aria-label="Selection" className="absolute top-4 left-5 flex items-center bg-paper">
        <span className="px-4 py-2">
          <strong>
            {outlined.w} × {outlined.h} texels
          </strong>{' '}
          outlined
        </span>
        <button type="button" className="h-9 px-3 font-medium hover:bg-wash" onClick={() => void makeCellAt(outlined)}>
          Make it a cell
        </button>
      </div>
    );
  if (!cells.length)
    return (
      <div className="absolute top-4 left-5 bg-paper px-4 py-2">
        {sheet.frozen
          ? 'This sheet is frozen: its picture stays as it is. Drag over a place without a cell to make one there.'
          : 'Click a cell to edit it. Drag to move it, Shift click for several.'}
        <OfAllColorings what="Where cells lie is" className="mt-1" />
      </div>
    );
  const uses = usesOfCells(state);
  const usageIn = (list: readonly Cell[]) => usageOf(uses, list);
  const isUsed = (list: readonly Cell[]) => weightOf(usageIn(list)) > 0;
  const colored = cells.filter((c) => c.fill.kind !== 'spare');
  const only = cells.length === 1 ? cells[0] : undefined;
  const size = commonCellSize(sheet);
  const from = (axis: 'x' | 'y') => Math.min(...cells.map((c) => c.rect[axis]));
  const to = (axis: 'x' | 'y') => Math.max(...cells.map((c) => c.rect[axis] + (axis === 'x' ? c.rect.w : c.rect.h)));
  const insert = (axis: 'x' | 'y', at: number) => insertOnBoard({ axis, at, texels: axis === 'x' ? size.w : size.h });
  const remove = (axis: 'x' | 'y') => {
    const band: Band = { axis, at: from(axis), texels: to(axis) - from(axis) };
    if (isUsed(colorsInBand(band))) setAsking({ what: 'delete', band });
    else deleteOnBoard(band, 0);
  };
  const gone = asking?.what === 'delete' ? colorsInBand(asking.band) : colored;
  const look = 'h-8 px-3 font-medium hover:bg-wash';
  return (
    <div role="group" aria-label="Selection" className="absolute top-4 left-5 z-30 max-w-[calc(100%-40px)] bg-paper">
      <div className="flex min-h-9 items-center">
        <span className="max-w-[220px] truncate px-4 font-bold">
          {only ? (only.fill.kind === 'spare' ? 'Spare cell' : only.role || 'Without a role') : count(cells.length, 'cell')}
        </span>
        <span className="pr-2 text-quiet">{only ? `${only.rect.w} × ${only.rect.h} texels` : usageWords(usageIn(cells))}</span>
        {only?.fill.kind === 'spare' && !sheet.frozen && (
          <button type="button" className={look} onClick={() => openNewColor(useColoring.getState().cell, false)}>
            New color
          </button>
        )}
        {only && only.fill.kind !== 'spare' && picked > 0 && (
          <button
            type="button"
            className={look}
            title={isTextured(only.fill) ? 'At the point that is marked' : undefined}
            onClick={() => {
              colorFaces(pickedFaces(), only.id);
              letPickGo();
            }}
          >
            Seat {count(picked, 'picked face')} here
          </button>
        )}
        {!sheet.frozen && (
          <>
            {cells.length > 1 && (
              <button type="button" className={look} onClick={mergeSelected}>
                Merge
              </button>
            )}
            {only && (
              <SizeForm
                label="Split"
                fields={['Columns', 'Rows']}
                start={[Math.min(2, only.rect.w), Math.min(2, only.rect.h)]}
                most={[only.rect.w, only.rect.h]}
                action="Split it"
                onDone={(columns, rows) => splitOnBoard(only.id, columns, rows)}
                className={look}
              />
            )}
            {colored.length > 0 && (
              <button type="button" className={look} onClick={() => (isUsed(colored) ? setAsking({ what: 'spare' }) : spareSelected(0))}>
                Make spare
              </button>
            )}
            <Menu
              label="Rows and columns"
              align="start"
              className={look}
              trigger="Rows, columns"
              items={[
                { label: 'Insert a row above', run: () => insert('y', from('y')) },
                { label: 'Insert a row below', run: () => insert('y', to('y')) },
                { label: 'Insert a column before', run: () => insert('x', from('x')) },
                { label: 'Insert a column after', run: () => insert('x', to('x')) },
                'line',
                { label: 'Delete these rows', run: () => remove('y') },
                { label: 'Delete these columns', run: () => remove('x') },
              ]}
            />
          </>
        )}
      </div>
      {asking && gone.length > 0 && (
        <div className="w-[380px] border-t border-hairline p-4">
          <FacesGoWhere
            use={usageIn(gone)}
            to={sheet.cells.filter((c) => c.fill.kind !== 'spare' && !gone.includes(c))}
            onDone={(to) => {
              setAsking(null);
              if (to === null) return;
              if (asking.what === 'spare') spareSelected(to);
              else deleteOnBoard(asking.band, to);
            }}
          />
        </div>
      )}
    </div>
  );
}
