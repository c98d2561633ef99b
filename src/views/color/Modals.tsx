'use client';
import { useColoring } from '@/state/coloringState';
import { EditCell } from './EditCell';
import { NewColor } from './NewColor';
import { ShortcutSheet } from './ShortcutSheet';

export function Modals() {
  const panel = useColoring((s) => s.panel);
  return (
    <>
      {panel?.kind === 'edit' && <EditCell key={panel.cell} id={panel.cell} />}
      {panel?.kind === 'new' && <NewColor key={`${panel.from} ${panel.onlyHere}`} from={panel.from} onlyHere={panel.onlyHere} />}
      <ShortcutSheet />
    </>
  );
}
