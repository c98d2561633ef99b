'use client';
import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { findCell } from '@/core/kit/kit';
import { addReferences } from '@/state/sheet/adopting';
import { useColoring } from '@/state/chosen/coloringState';
import { useDropper } from '@/state/sheet/drawing';
import { useEditor } from '@/state/kit/editor';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { roleOf } from '@/views/sheet/describe';
import { DropperOptions, ReferenceBoard } from '@/views/sheet/ReferenceBoard';
import { Select } from '@/ui/Select';

/** A reference that floats over the model, to take colors from while coloring. */
export function ReferenceWindow() {
  const open = useDropper((s) => s.floating);
  const references = useEditor((s) => s.state.kit.references);
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const [place, setPlace] = useState({ x: 20, y: 60 });
  const grip = useRef<{ x: number; y: number } | null>(null);
  if (open === null) return null;
  const reference = references.find((r) => r.id === open) ?? references[0];
  const cell = findCell(kit, chosen)?.cell;
  const close = () => useDropper.setState({ floating: null, under: null });
  return (
    <div
      role="dialog"
      aria-label="References"
      className="absolute z-20 flex h-[380px] w-[320px] flex-col border border-ink bg-paper"
      style={{ left: place.x, top: place.y }}
      onKeyDown={(e) => e.key === 'Escape' && close()}
    >
      <div
        className="flex h-9 shrink-0 cursor-move touch-none items-center gap-2 pl-3"
        onPointerDown={(e) => {
          if (e.target !== e.currentTarget) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          grip.current = { x: e.clientX - place.x, y: e.clientY - place.y };
        }}
        onPointerMove={(e) =>
          grip.current && setPlace({ x: Math.max(0, e.clientX - grip.current.x), y: Math.max(0, e.clientY - grip.current.y) })
        }
        onPointerUp={() => (grip.current = null)}
      >
        {references.length > 0 ? (
          <Select
            isQuiet
            label="Which reference"
            value={reference?.id ?? ''}
            options={references.map((r) => ({ value: r.id, word: r.name }))}
            onChange={(to) => useDropper.setState({ floating: to })}
            className="min-w-0 flex-1"
          />
        ) : (
          <span className="flex-1 font-bold">References</span>
        )}
        <button type="button" aria-label="Close" onClick={close} className="flex h-9 w-9 items-center justify-center hover:bg-wash">
          <X size={15} aria-hidden />
        </button>
      </div>
      {reference ? (
        <>
          <ReferenceBoard key={reference.id} id={reference.id} small />
          <div className="p-3">
            <DropperOptions hasCell={cell?.fill.kind === 'solid' ? roleOf(cell) : null} />
          </div>
        </>
      ) : (
        <div className="m-auto p-6 text-center">
          <p>Pictures to take colors from stay with the kit.</p>
          <FileChooser
            label="Bring in reference pictures"
            accept={pictureFiles}
            multiple
            onFiles={(files) => void addReferences(files)}
            className="mt-3 min-h-8 border border-ink bg-ink px-3 font-medium text-paper hover:bg-[#333]"
          >
            Bring in a picture
          </FileChooser>
        </div>
      )}
    </div>
  );
}
