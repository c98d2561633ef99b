'use client';
import { useEffect } from 'react';
import { closePanel, useColoring } from '@/state/chosen/coloringState';
import { sheetOnBoard, useBoard } from '@/state/color/board';
import { useEditor } from '@/state/kit/editor';
import { Docked } from '@/views/sheet/SidePanel';
import { SheetPanels } from '@/views/sheet/SheetPanels';
import { ReferenceBoard } from '@/views/sheet/ReferenceBoard';
import { FindingBoard } from './FindingBoard';
import { LineUp } from './LineUp';
import { Overview } from './Overview';
import { SheetBoard } from './SheetBoard';
import { SheetSentence } from './SheetSentence';
import { Sources } from './Sources';

/**
 * Where the sheet is designed: what colors come from at the left, the sheet in the middle, the chosen color
 * at the right.
 */
export function PaletteView() {
  const state = useEditor((s) => s.state);
  const sheetId = useBoard((s) => s.sheetId);
  const mode = useBoard((s) => s.mode);
  const panel = useColoring((s) => s.panel);
  const sheet = sheetOnBoard(state, sheetId);
  useEffect(() => {
    useBoard.setState({ isOpen: true });
    return () => {
      useBoard.setState({ isOpen: false });
      closePanel();
    };
  }, []);
  return (
    <div className="flex min-h-0 flex-1">
      <Sources sheet={sheet} />
      <section aria-label="Sheet" className="relative flex min-w-0 flex-1 flex-col">
        {panel?.kind === 'adopt' ? (
          <FindingBoard raster={panel.raster} finding={panel.finding} file={panel.file} />
        ) : panel?.kind === 'reference' ? (
          <ReferenceBoard key={panel.reference} id={panel.reference} />
        ) : (
          <>
            <SheetSentence sheet={sheet} />
            {mode === 'sheet' ? <SheetBoard key={sheet.id} sheet={sheet} /> : <LineUp />}
          </>
        )}
      </section>
      <aside aria-label="Colors" className="w-[332px] shrink-0 overflow-y-auto border-l border-hairline bg-paper">
        <Docked value={true}>
          <SheetPanels />
        </Docked>
        {!panel && <Overview sheet={sheet} />}
      </aside>
    </div>
  );
}
