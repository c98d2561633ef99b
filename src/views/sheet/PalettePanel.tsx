'use client';
import { useEffect, useMemo, useState } from 'react';
import { solid } from '@/core/kit/kit';
import type { Palette } from '@/core/ground/palettes/palette';
import { missingColors } from '@/core/sheet/palette/usePalette';
import { proposeGoing, type Going } from '@/core/sheet/palette/whereColorsGo';
import { colorsInOrder } from '@/core/sheet/order';
import { closePanel } from '@/state/chosen/coloringState';
import { sheetInHand } from '@/state/color/board';
import { useEditor } from '@/state/kit/editor';
import { previewGoing, takePalette } from '@/state/files/palettes';
import { Button } from '@/ui/Button';
import { RadioCards } from '@/ui/RadioCards';
import { count } from '@/ui/words';
import { SidePanel } from './SidePanel';
import { WhereColorsGo } from './WhereColorsGo';

type Use = 'add' | 'replace';

/**
 * A palette file, and what to do with it: its colors are added, or the sheet's cells take them, which shows
 * on the models first.
 */
export function PalettePanel({ file, palette }: { file: string; palette: Palette }) {
  useEditor((s) => s.state);
  const sheet = sheetInHand();
  const cells = colorsInOrder(sheet);
  const offers = useMemo(() => palette.colors.map(({ color }) => solid(color)), [palette]);
  const [use, setUse] = useState<Use>('add');
  const [going, setGoing] = useState<Going>(() => proposeGoing(cells, offers, 'nearest'));
  useEffect(() => previewGoing(offers, use === 'replace' ? going : null), [offers, use, going]);
  const missing = missingColors(sheet, palette.colors).length;
  const options: [Use, string, string][] = [
    ['add', 'Add its colors', missing ? `${count(missing, 'color')} that the sheet does not have yet` : 'the sheet has them all'],
    ['replace', 'Replace the sheet’s colors', 'you choose which goes where; roles, faces and the layout stay'],
  ];
  return (
    <SidePanel title={palette.name ?? file} onClose={closePanel}>
      <p className="mb-2 text-[12px] text-quiet">
        {file}, {count(palette.colors.length, 'color')}
      </p>
      <div role="img" aria-label={`${palette.colors.length} colors`} className="flex max-h-28 flex-wrap overflow-y-auto">
        {palette.colors.slice(0, 512).map((c, i) => (
          <span key={i} className="h-5 w-5" style={{ background: c.color }} title={`${c.name ?? ''} ${c.color}`} />
        ))}
      </div>
      {palette.notes.map((note) => (
        <p key={note} className="mt-2 text-[12px]">
          {note}
        </p>
      ))}
      <RadioCards label="What to do with it" value={use} options={options} onChange={setUse} />
      {use === 'replace' && <WhereColorsGo cells={cells} offers={offers} going={going} onChange={setGoing} mayStay />}
      <div className="flex justify-end gap-2 border-t border-hairline pt-3">
        <Button onClick={closePanel}>Leave it</Button>
        <Button
          kind="solid"
          disabled={use === 'add' ? missing === 0 : going.size === 0}
          onClick={() => takePalette(file, palette, use === 'replace' ? going : null)}
        >
          {use === 'add' ? 'Add them' : 'Replace them'}
        </Button>
      </div>
    </SidePanel>
  );
}
