'use client';
import { useState } from 'react';
import type { Sheet } from '@/core/kit/kit';
import { useEditor } from '@/state/kit/editor';
import { allowAppending, chooseSheetFor, removeSheet, renameSheet, setFilter } from '@/state/color/sheets';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

/** Name, filter, which models are colored on it, and what a frozen sheet allows. */
export function SheetSettings({ sheet }: { sheet: Sheet }) {
  const { models, sheets } = useEditor((s) => s.state.kit);
  const [name, setName] = useState(sheet.name);
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="w-14">Name</span>
        <input
          aria-label="Name of the sheet"
          value={name}
          maxLength={100}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => renameSheet(sheet, name.trim())}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="w-full border border-hairline bg-white px-2 py-1"
        />
      </label>
      <div className="mt-3 flex items-center justify-between">
        <span>Engines sample it</span>
        <Choice
          label="Engines sample it"
          value={sheet.filter}
          options={[
            ['nearest', 'to the texel'],
            ['linear', 'mixing texels'],
          ]}
          onChange={(filter) => setFilter(sheet, filter)}
          className="border border-hairline"
        />
      </div>
      {sheet.frozen && (
        <label className="mt-3 flex items-start gap-2">
          <input
            type="checkbox"
            checked={sheet.frozen.appended !== undefined}
            disabled={Boolean(sheet.frozen.appended?.length)}
            onChange={(e) => allowAppending(sheet, e.target.checked)}
            className="mt-0.5 h-4 w-4 accent-ink"
          />
          <span>
            Colors may be added in its empty places
            <span className="block text-[12px] text-quiet">
              {sheet.frozen.appended?.length
                ? `${sheet.frozen.appended.length} were; it now leaves as a new PNG.`
                : 'Until one is, it leaves as the very file that came in.'}
            </span>
          </span>
        </label>
      )}
      {sheets.length > 1 && (
        <fieldset className="mt-4">
          <legend className="mb-1 font-bold">Models colored on it</legend>
          {models.map((m) => (
            <label key={m.id} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                checked={m.sheet === sheet.id}
                onChange={(e) => chooseSheetFor(m.id, e.target.checked ? sheet.id : sheets.find((s) => s.id !== sheet.id)!.id)}
                className="h-4 w-4 accent-ink"
              />
              <span className="truncate">{m.name}</span>
            </label>
          ))}
          <p className="mt-1 text-[12px] text-quiet">
            Faces stay on the colors that they have; each sheet that a model uses is one draw call.
          </p>
        </fieldset>
      )}
      {sheets.length > 1 && (
        <Button className="mt-4" onClick={() => removeSheet(sheet)}>
          Remove this sheet
        </Button>
      )}
    </>
  );
}
