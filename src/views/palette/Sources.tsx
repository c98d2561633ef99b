'use client';
import { Plus } from 'lucide-react';
import type { Sheet } from '@/core/kit/kit';
import { addReferences } from '@/state/sheet/adopting';
import { useBoard } from '@/state/color/board';
import { closePanel, useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { addSheet } from '@/state/color/sheets';
import { usePictures } from '@/state/chosen/pictures';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { SheetPicture } from '@/views/sheet/SheetPicture';
import { PaletteChooser } from '@/views/sheet/PaletteChooser';

/** What the kit's colors are kept on and come from. */
export function Sources({ sheet }: { sheet: Sheet }) {
  const sheets = useEditor((s) => s.state.kit.sheets);
  const models = useEditor((s) => s.state.kit.models);
  const references = useEditor((s) => s.state.kit.references);
  const urls = usePictures((s) => s.urls);
  const open = useColoring((s) => (s.panel?.kind === 'reference' ? s.panel.reference : null));
  return (
    <aside aria-label="Sheets and sources" className="flex w-[204px] shrink-0 flex-col overflow-y-auto border-r border-hairline bg-paper">
      <Heading title="Sheets" number={sheets.length} />
      <ul>
        {sheets.map((s) => {
          const isHere = s.id === sheet.id;
          const users = models.filter((m) => m.sheet === s.id).length;
          return (
            <li key={s.id}>
              <button
                type="button"
                aria-current={isHere || undefined}
                onClick={() => {
                  closePanel();
                  useBoard.setState({ sheetId: s.id, selected: [] });
                }}
                className={`flex w-full items-center gap-2.5 py-[5px] pl-4 text-left ${isHere ? 'bg-ink text-paper' : 'hover:bg-wash'}`}
              >
                <span className="flex h-10 w-10 shrink-0 items-center justify-center bg-surround">
                  <SheetPicture sheet={s} side={32} />
                </span>
                <span className="min-w-0">
                  <span className="block truncate font-medium">{s.name}</span>
                  <span className={`block truncate text-small ${isHere ? 'text-[#bbb]' : 'text-quiet'}`}>
                    {s.width} × {s.height}, {users === 1 ? '1 model' : `${users} models`}
                  </span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <div className="flex flex-col items-start gap-1 px-4 pt-1">
        <SourceButton onClick={addSheet}>Another sheet</SourceButton>
        {!sheet.frozen && (
          <SourceButton onClick={() => useColoring.setState({ panel: { kind: 'art room', sheet: sheet.id }, drafts: {} })}>
            Room for art
          </SourceButton>
        )}
      </div>
      <Heading title="Colors from" />
      <div className="flex flex-col items-start gap-1 px-4">
        <SourceButton onClick={() => useColoring.setState({ panel: { kind: 'plan', sheet: sheet.id }, drafts: {} })}>
          A list of roles
        </SourceButton>
        <SourceButton onClick={() => useColoring.setState({ panel: { kind: 'new ramp', from: 0 }, drafts: {} })}>A new ramp</SourceButton>
        <PaletteChooser className="flex items-center gap-1.5 py-0.5 hover:underline">
          <Plus size={13} aria-hidden /> A palette file or picture
        </PaletteChooser>
      </div>
      <Heading title="References" number={references.length} />
      <ul>
        {references.map((r) => (
          <li key={r.id}>
            <button
              type="button"
              aria-current={open === r.id || undefined}
              onClick={() => useColoring.setState({ panel: { kind: 'reference', reference: r.id }, drafts: {} })}
              className={`flex w-full items-center gap-2.5 py-[3px] pl-4 text-left ${open === r.id ? 'bg-ink text-paper' : 'hover:bg-wash'}`}
            >
              {/* Pictures of the kit are addresses made by the application; there is nothing to optimize. */}
              {/* eslint-disable-next-line @next/next/no-img-element */}
              <img src={urls[r.picture]} alt="" className="h-8 w-10 shrink-0 bg-surround object-cover" />
              <span className="truncate">{r.name}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="px-4 pt-1 pb-4">
        <FileChooser
          label="Bring in reference pictures"
          accept={pictureFiles}
          multiple
          onFiles={(files) => void addReferences(files)}
          className="flex items-center gap-1.5 py-0.5 hover:underline"
        >
          <Plus size={13} aria-hidden /> Pictures to look at
        </FileChooser>
      </div>
    </aside>
  );
}

export function Heading({ title, number }: { title: string; number?: number }) {
  return (
    <div className="flex items-baseline justify-between px-4 pt-3 pb-2">
      <h2 className="text-[12px] font-bold">{title}</h2>
      {number !== undefined && <span className="text-small text-quiet">{number}</span>}
    </div>
  );
}

export function SourceButton({ onClick, children }: { onClick: () => void; children: string }) {
  return (
    <button type="button" onClick={onClick} className="flex items-center gap-1.5 py-0.5 hover:underline">
      <Plus size={13} aria-hidden /> {children}
    </button>
  );
}
