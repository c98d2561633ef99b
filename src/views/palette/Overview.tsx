'use client';
import { useState } from 'react';
import type { Sheet } from '@/core/kit/kit';
import { Choice } from '@/ui/Choice';
import { KeepToList } from './KeepToList';
import { Remarks } from './Remarks';
import { SheetSettings } from './SheetSettings';
import { UseOfColor } from './UseOfColor';

type Page = 'remarks' | 'use' | 'list' | 'sheet';
const pages: readonly (readonly [Page, string])[] = [
  ['remarks', 'Remarks'],
  ['use', 'Use'],
  ['list', 'Keep to a list'],
  ['sheet', 'Sheet'],
];

/** What stands at the right while no cell is chosen: the palette as a whole. */
export function Overview({ sheet }: { sheet: Sheet }) {
  const [page, setPage] = useState<Page>('remarks');
  return (
    <div className="p-4">
      <Choice label="About the palette" value={page} options={pages} onChange={setPage} className="mb-4 border border-hairline" />
      {page === 'remarks' && <Remarks sheet={sheet} />}
      {page === 'use' && <UseOfColor sheet={sheet} />}
      {page === 'list' && <KeepToList sheet={sheet} />}
      {page === 'sheet' && <SheetSettings key={sheet.id} sheet={sheet} />}
    </div>
  );
}
