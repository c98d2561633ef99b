'use client';
import { useMemo } from 'react';
import { useEditor } from '@/state/kit/editor';
import { useHandOff } from '@/state/chosen/handOff';
import { usePictures } from '@/state/chosen/pictures';
import { isCounting, tallyNow } from '@/state/shown/tally';
import { useThumbnails } from '@/state/shown/thumbnails';
import { bytes, number } from '@/ui/words';

/** What the kit costs, always in view. */
export function TallyLine() {
  const state = useEditor((s) => s.state);
  const meshes = useEditor((s) => s.meshes);
  const sheetBytes = useThumbnails((s) => s.sheetBytes);
  const { as, meshes: way, nodes } = useHandOff();
  const pictures = usePictures((s) => s.settled);
  const isWaiting = useEditor(isCounting);
  // While meshes come one after another it is counted once, and again when all are there.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const tally = useMemo(() => tallyNow(), [state, isWaiting, isWaiting || meshes, as, way, nodes, pictures]);
  const { sheets } = state.kit;
  const isOne = sheets.length === 1;
  const size = isOne ? `${sheets[0]!.width}×${sheets[0]!.height}` : number(sheets.length);
  const isLess = !isWaiting && tally.whenColored !== tally.drawCalls;
  const entries: [string, string, string, string?][] = [
    [
      isWaiting ? '…' : number(tally.drawCalls),
      isWaiting ? 'counting draw calls' : tally.drawCalls === 1 ? 'draw call' : 'draw calls',
      `Draw calls of all models as they leave: ${as === 'slots' ? 'as flat materials' : 'on the sheet, see-through colors and faces seen from both sides apart'}, ${way === 'joined' ? 'meshes joined' : 'shared meshes kept'}.${isLess ? ` Then: when all is colored.` : ''}`,
      isLess ? number(tally.whenColored) : '',
    ],
    [
      size,
      `${isOne ? 'texels' : 'sheets'}${sheetBytes ? `, ${bytes(sheetBytes)}` : ''}`,
      isOne ? 'Size of the sheet, and of its picture file.' : sheets.map((s) => `${s.name}: ${s.width} × ${s.height} texels`).join('\n'),
    ],
    [number(tally.colors), tally.colors === 1 ? 'color' : 'colors', 'Colors that faces sit on.'],
    [number(tally.uncolored), 'uncolored', 'Faces of all models that are not yet colored.'],
  ];
  return (
    <ul aria-label="Tally" className="flex items-center gap-3">
      {entries.map(([value, unit, hint, then]) => (
        <li key={hint} title={hint} className="text-[12px] whitespace-nowrap text-[#444]">
          <strong className="text-[13.5px] text-ink">{value}</strong> {unit}
          {then && (
            <>
              {' → '}
              <strong className="text-[13.5px] text-ink">{then}</strong>
              <span className="sr-only"> when all is colored</span>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
