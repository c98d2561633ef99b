'use client';
import { useColoring } from '@/state/chosen/coloringState';
import { AdoptPanel } from './AdoptPanel';
import { ArtRoomPanel } from './ArtRoomPanel';
import { EditCell } from './EditCell';
import { EditRamp } from './EditRamp';
import { NewColor } from './NewColor';
import { NewRamp } from './NewRamp';
import { PalettePanel } from './PalettePanel';
import { PlanPanel } from './PlanPanel';
import { ReferencePanel } from './ReferencePanel';
import { RelayPanel } from './RelayPanel';
import { VariantsPanel } from '@/views/variants/VariantsPanel';

/** The open panel about colors, beside the sheet. */
export function SheetPanels() {
  const panel = useColoring((s) => s.panel);
  return (
    <>
      {panel?.kind === 'edit' && <EditCell key={panel.cell} id={panel.cell} />}
      {panel?.kind === 'new' && <NewColor key={`${panel.from} ${panel.onlyHere}`} from={panel.from} onlyHere={panel.onlyHere} />}
      {panel?.kind === 'ramp' && <EditRamp key={panel.ramp} id={panel.ramp} />}
      {panel?.kind === 'new ramp' && <NewRamp key={panel.from} from={panel.from} />}
      {panel?.kind === 'palette' && <PalettePanel key={panel.file} file={panel.file} palette={panel.palette} />}
      {panel?.kind === 'plan' && <PlanPanel sheetId={panel.sheet} />}
      {panel?.kind === 'adopt' && <AdoptPanel panel={panel} />}
      {panel?.kind === 'reference' && <ReferencePanel key={panel.reference} id={panel.reference} />}
      {panel?.kind === 'relay' && <RelayPanel sheetId={panel.sheet} />}
      {panel?.kind === 'variants' && <VariantsPanel key={panel.naming} naming={panel.naming} />}
      {panel?.kind === 'art room' && <ArtRoomPanel sheetId={panel.sheet} />}
    </>
  );
}
