'use client';
import { useCallback, useMemo, useState } from 'react';
import { usesInAll, weightOf } from '@/core/kit/colorings/usesOfCells';
import { parseHex } from '@/core/ground/color/hex';
import type { Cell, Sheet } from '@/core/kit/kit';
import { variantsApartIn } from '@/core/judging/judge/twins';
import { contrastsWith, judgePalette, type Remark } from '@/core/judging/judge/judgePalette';
import { mergeInto, selectCells } from '@/state/color/board';
import { useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { swatch } from '@/state/chosen/pictures';
import { count } from '@/ui/words';

/** What may be worth a look, calmly; nothing here is an error. */
export function Remarks({ sheet }: { sheet: Sheet }) {
  const base = useBase();
  const uses = useMemo(() => usesInAll(base), [base]);
  const facesOn = useCallback((id: number) => weightOf(uses.get(id)), [uses]);
  const remarks = useMemo(() => judgePalette(sheet, facesOn), [sheet, facesOn]);
  return (
    <>
      {remarks.length === 0 ? (
        <p className="text-quiet">Nothing to remark: no twins, no pure black or white, every ramp in step, every color in use.</p>
      ) : (
        <ul aria-label="Remarks" className="divide-y divide-hairline border-y border-hairline">
          {remarks.slice(0, 40).map((r, i) => (
            <li key={i} className="py-2">
              <RemarkRow remark={r} facesOn={facesOn} isFrozen={sheet.frozen !== undefined} />
            </li>
          ))}
        </ul>
      )}
      {remarks.length > 40 && <p className="mt-1 text-[12px] text-quiet">and {remarks.length - 40} more</p>}
      <Contrasts sheet={sheet} />
    </>
  );
}

/** Why two colors of one look are not made one here; empty where they can be. */
function useReasonApart(cells: readonly number[]): string {
  const { kit } = useBase();
  const chosen = useEditor((s) => s.variant);
  const apart = useMemo(() => variantsApartIn(kit, cells), [kit, cells]);
  if (apart.length) return `They differ in ${apart.map((v) => v.name).join(', ')}.`;
  return chosen ? 'Colors are made one in the default coloring.' : '';
}

function RemarkRow({ remark, facesOn, isFrozen }: { remark: Remark; facesOn: (id: number) => number; isFrozen: boolean }) {
  const ids = useMemo(() => remark.cells.map((c) => c.id), [remark]);
  const apart = useReasonApart(ids);
  return (
    <div className="flex items-start gap-2.5">
      <Swatches cells={remark.cells} />
      <span className="min-w-0 flex-1">
        <span className="block">{words(remark)}</span>
        <span className="flex gap-3 text-[12px] font-medium">
          <button type="button" className="border-b border-ink" onClick={() => selectCells(ids)}>
            Show
          </button>
          {remark.kind === 'twins' && apart && <span className="font-normal text-quiet">{apart}</span>}
          {remark.kind === 'twins' && !isFrozen && !apart && (
            <button
              type="button"
              className="border-b border-ink"
              title="All faces move to the color that more faces use"
              onClick={() => {
                const [a, b] = remark.cells;
                const keep = facesOn(b.id) > facesOn(a.id) ? b : a;
                mergeInto(keep.id, ids);
              }}
            >
              Merge them
            </button>
          )}
        </span>
      </span>
    </div>
  );
}

function Swatches({ cells }: { cells: readonly Cell[] }) {
  return (
    <span className="flex w-12 shrink-0 flex-wrap pt-0.5">
      {cells.slice(0, 6).map((c) => (
        <span
          key={c.id}
          className={cells.length < 3 ? 'h-6 flex-1' : 'h-4 w-4'}
          style={{ background: swatch(c) }}
          onPointerEnter={() => useColoring.setState({ pointedCell: c.id })}
          onPointerLeave={() => useColoring.setState({ pointedCell: 0 })}
        />
      ))}
    </span>
  );
}

const name = (cell: Cell) => `“${cell.role || swatch(cell)}”`;

function words(r: Remark): string {
  switch (r.kind) {
    case 'twins':
      return r.distance < 1e-6
        ? `${name(r.cells[0])} and ${name(r.cells[1])} are the same color.`
        : `${name(r.cells[0])} and ${name(r.cells[1])} are hard to tell apart (${r.distance.toFixed(3)}).`;
    case 'extreme':
      return r.extreme === 'black'
        ? `${name(r.cells[0])} is as good as black: no shade shows on it.`
        : `${name(r.cells[0])} is as good as white: no light shows on it.`;
    case 'out of step':
      return r.problem === 'order'
        ? `${name(r.cells[0])} is no lighter than the step before it in ${r.ramp}.`
        : `${name(r.cells[0])} stands close to one of its neighbours in ${r.ramp}.`;
    case 'unused':
      return `${r.cells.length === 1 ? 'No face uses ' + name(r.cells[0]!) : `No face uses these ${count(r.cells.length, 'color')}`}.`;
    case 'rare':
      return `Only ${count(r.faces, 'face')} on ${name(r.cells[0])}.`;
  }
}

/** How each color stands out from what will be behind it. */
function Contrasts({ sheet }: { sheet: Sheet }) {
  const [background, setBackground] = useState('#9fb8c8');
  const rows = useMemo(() => contrastsWith(sheet, background).slice(0, 100), [sheet, background]);
  return (
    <section aria-label="Contrast" className="mt-5">
      <div className="mb-2 flex items-center justify-between">
        <h3 className="font-bold">Contrast before</h3>
        <input
          type="color"
          aria-label="Background for contrast"
          value={background}
          onChange={(e) => setBackground(parseHex(e.target.value) ?? background)}
          className="h-7 w-12 border border-hairline bg-white"
        />
      </div>
      <ul className="grid grid-cols-5 gap-1">
        {rows.map(({ cell, contrast }) => (
          <li key={cell.id}>
            <button
              type="button"
              onClick={() => selectCells([cell.id])}
              title={`${cell.role || swatch(cell)}: ${contrast.toFixed(1)} to 1`}
              className="block w-full p-1.5 hover:outline-1 hover:outline-ink"
              style={{ background }}
            >
              <span className="block h-5" style={{ background: swatch(cell) }} />
              <span className="mt-1 block bg-paper text-center text-[11px]">
                {contrast.toFixed(1)}
                {contrast < 1.25 && <strong> low</strong>}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
