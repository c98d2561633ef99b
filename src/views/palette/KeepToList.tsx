'use client';
import type { Sheet } from '@/core/kit/kit';
import { colorsOffList } from '@/core/sheet/allowedColors';
import { forgetList, moveAllToList, openList, moveColor } from '@/state/sheet/keeping';
import { useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { FileChooser, paletteFiles } from '@/ui/FileChooser';
import { count } from '@/ui/words';

/** A list of colors that the game allows: what is off it is shown with its nearest; new colors snap to it. */
export function KeepToList({ sheet }: { sheet: Sheet }) {
  const list = useEditor((s) => s.state.kit.allowed);
  const off = list ? colorsOffList(sheet, list.colors) : [];
  return (
    <>
      {list ? (
        <>
          <p>
            Keeping to <strong>{list.name}</strong>, {count(list.colors.length, 'color')}. New colors take the nearest of them.
          </p>
          <div className="mt-2 flex max-h-20 flex-wrap overflow-y-auto">
            {list.colors.slice(0, 512).map((c, i) => (
              <span key={i} className="h-4 w-4" style={{ background: c }} title={c} />
            ))}
          </div>
        </>
      ) : (
        <p className="text-quiet">
          Where a game or a printer allows only certain colors, open their list (any palette file): colors that are off it are shown with
          the nearest allowed ones, and new colors snap to it.
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <FileChooser
          label="Open a list of allowed colors"
          accept={paletteFiles}
          onFiles={([file]) => void openList(file!)}
          className={`min-h-8 border border-ink px-3 font-medium ${list ? 'bg-white hover:bg-wash' : 'bg-ink text-paper hover:bg-[#333]'}`}
        >
          {list ? 'Another list' : 'Open a list'}
        </FileChooser>
        {list && (
          <Button kind="bare" onClick={forgetList}>
            Let go of it
          </Button>
        )}
      </div>
      {list && (
        <section aria-label="Colors off the list" className="mt-4">
          <div className="mb-1 flex items-center justify-between">
            <h3 className="font-bold">{off.length ? `${count(off.length, 'color')} off the list` : 'Every color is on the list.'}</h3>
            {off.length > 0 && <Button onClick={() => moveAllToList(sheet, list.colors)}>Move all</Button>}
          </div>
          <ul className="divide-y divide-hairline">
            {off.map(({ cell, color, nearest }) => (
              <li key={cell.id} className="flex items-center gap-2 py-1.5">
                <span className="h-6 w-8 shrink-0" style={{ background: color }} />
                <span className="min-w-0 flex-1 truncate" title={cell.role}>
                  {cell.role || color}
                </span>
                {nearest.map((n) => (
                  <button
                    key={n.color}
                    type="button"
                    aria-label={`Make ${cell.role || color} ${n.color}, ${n.distance.toFixed(3)} away`}
                    title={`${n.color}, ${n.distance.toFixed(3)} away`}
                    onClick={() => moveColor(cell.id, n.color)}
                    className="h-6 w-8 border border-hairline hover:border-ink"
                    style={{ background: n.color }}
                  />
                ))}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
