'use client';
import { Redo2, Undo2 } from 'lucide-react';
import { useEffect } from 'react';
import { canRedo, canUndo } from '@/core/kit/edit/history';
import { labelOf } from '@/core/kit/edit/editKinds';
import { redoEdit, undoEdit } from '@/state/kit/edits';
import { useEditor } from '@/state/kit/editor';
import { isTyping } from '@/ui/isTyping';

/** Undo and redo, in every view of a kit, by button and by key. */
export function UndoButtons() {
  const { edits, cursor } = useEditor((s) => s.history);
  const readOnly = useEditor((s) => s.readOnly);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.altKey || isTyping(e.target)) return;
      const key = e.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      e.preventDefault();
      if (key === 'y' || e.shiftKey) redoEdit();
      else undoEdit();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const undoable = !readOnly && canUndo({ edits, cursor });
  const redoable = !readOnly && canRedo({ edits, cursor });
  const look = 'flex h-8 w-8 items-center justify-center hover:bg-wash disabled:text-[#b4b4b4] disabled:hover:bg-transparent';
  return (
    <span className="flex" role="group" aria-label="History">
      <button
        type="button"
        aria-label="Undo"
        title={undoable ? `Undo: ${labelOf(edits[cursor - 1]!)} (Ctrl Z)` : 'Nothing to undo'}
        disabled={!undoable}
        onClick={undoEdit}
        className={look}
      >
        <Undo2 size={16} aria-hidden />
      </button>
      <button
        type="button"
        aria-label="Redo"
        title={redoable ? `Redo: ${labelOf(edits[cursor]!)} (Ctrl Shift Z)` : 'Nothing to redo'}
        disabled={!redoable}
        onClick={redoEdit}
        className={look}
      >
        <Redo2 size={16} aria-hidden />
      </button>
    </span>
  );
}
