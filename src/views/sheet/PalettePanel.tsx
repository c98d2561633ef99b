'use client';
import { useEffect, useState } from 'react';
import type { Palette } from '@/core/palette/palette';
import { missingColors } from '@/core/palette/usePalette';
import { colorsInOrder } from '@/core/sheet/order';
import { closePanel } from '@/state/color/coloringState';
import { sheetInHand } from '@/state/sheet/board';
import { useEditor } from '@/state/kit/editor';
import { previewPalette, takePalette, type PaletteUse } from '@/state/color/palettes';
import { Button } from '@/ui/Button';
import { RadioCards } from '@/ui/RadioCards';
import { count } from '@/ui/words';
import { SidePanel } from './SidePanel';

/**
 * A palette file, and what to do with it: its colors are added, or take the place of the sheet's, which shows
 * on the models first.
 */
export function PalettePanel({ file, palette }: { file: string; palette: Palette }) {
  useEditor((s) => s.state);
  const sheet = sheetInHand();
  const [use, setUse] = useState<PaletteUse>('add');
  useEffect(() => previewPalette(palette, use), [palette, use]);
  const missing = missingColors(sheet, palette.colors).length;
  const replaced = Math.min(colorsInOrder(sheet).length, palette.colors.length);
  const options: [PaletteUse, string, string][] = [
    ['add', 'Add its colors', missing ? `${count(missing, 'color')} that the sheet does not have yet` : 'the sheet has them all'],
    ['replace', 'Replace the sheet’s colors', `the first ${replaced} one to one, in the order of the tray; roles and faces stay`],
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
      <div className="flex justify-end gap-2 border-t border-hairline pt-3">
        <Button onClick={closePanel}>Leave it</Button>
        <Button kind="solid" disabled={use === 'add' && missing === 0} onClick={() => takePalette(file, palette, use)}>
          {use === 'add' ? 'Add them' : 'Replace them'}
        </Button>
      </div>
    </SidePanel>
  );
}
