import { useEffect, useState } from 'react';
import type { Sheet } from '@/core/kit/kit';
import { pictureFiles, swatch } from '@/state/chosen/pictures';
import { kitMoment, useEditor } from '@/state/kit/editor';
import { notifyError } from '@/state/told/notices';
import { count } from '@/ui/words';
import { longWorker } from '@/workers/client';
import type { BlockErrors } from '@/workers/proving';

/** OKLab distance from which two flat colors side by side are told apart. */
const seen = 0.02;
/** Sheets of more texels a side are not tried. */
const largest = 1024;
const formats = [
  ['bc1', 'BC1'],
  ['etc1', 'ETC1'],
] as const;

/** What compression in blocks makes of the colors of a sheet. */
export function InBlocks({ sheet }: { sheet: Sheet }) {
  const [found, setFound] = useState<BlockErrors | null>(null);
  const isLarge = Math.max(sheet.width, sheet.height) > largest;
  useEffect(() => {
    if (isLarge) return;
    let isLatest = true;
    const isNow = kitMoment();
    const look = async () => {
      const errors = await longWorker().blockErrors(sheet, await pictureFiles(useEditor.getState().state.kit));
      if (isLatest && isNow()) setFound(errors);
    };
    look().catch((e: unknown) => isLatest && notifyError(e));
    return () => {
      isLatest = false;
    };
  }, [sheet, isLarge]);
  if (isLarge)
    return (
      <p className="mt-2 text-quiet">
        What blocks do to the colors is tried on sheets of up to {largest.toLocaleString('en')} texels a side.
      </p>
    );
  return (
    <section aria-label={`“${sheet.name}” in blocks`} className="mt-3 border-t border-hairline pt-2">
      <h2 className="font-bold">“{sheet.name}” in blocks</h2>
      {!found && <p className="text-quiet">Looking…</p>}
      {found &&
        formats.map(([format, word]) => {
          const changed = found[format].filter((c) => c.error > seen);
          return (
            <div key={format} className="mt-1">
              <p>
                <strong>{word}</strong>{' '}
                {changed.length
                  ? `changes ${count(changed.length, 'color')} of ${found[format].length} so that it shows:`
                  : 'keeps all colors.'}
              </p>
              <ul>
                {changed.slice(0, 3).map(({ cell: id, error, shown }) => {
                  const cell = sheet.cells.find((c) => c.id === id);
                  if (!cell) return null;
                  return (
                    <li key={id} className="flex items-center gap-2 leading-6">
                      <span aria-hidden className="flex h-4 w-8 border border-ink">
                        <span className="flex-1" style={{ background: swatch(cell) }} />
                        <span className="flex-1" style={{ background: shown }} />
                      </span>
                      <span className="min-w-0 flex-1 truncate">{cell.role || 'a color'}</span>
                      <span className="text-quiet">by {error.toFixed(2)}</span>
                    </li>
                  );
                })}
                {changed.length > 3 && <li className="text-quiet">and {changed.length - 3} more</li>}
              </ul>
            </div>
          );
        })}
    </section>
  );
}
