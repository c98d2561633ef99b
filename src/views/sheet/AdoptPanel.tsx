'use client';
import { useState } from 'react';
import { describeFinding } from '@/core/picture/adopt';
import { colorsOfFinding } from '@/core/picture/readBlocks';
import { addColorsOf, adopt, keepReference, mayReplace, takeWholePicture } from '@/state/sheet/adopting';
import { sheetOnBoard, useBoard } from '@/state/sheet/board';
import { closePanel, type ColoringState } from '@/state/color/coloringState';
import { useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { RadioCards } from '@/ui/RadioCards';
import { count } from '@/ui/words';
import { SidePanel } from './SidePanel';

type Use = 'sheet' | 'frozen' | 'colors' | 'reference';

/** What to do with a picture in which a palette was found. */
export function AdoptPanel({ panel }: { panel: Extract<ColoringState['panel'], { kind: 'adopt' }> }) {
  const { file, finding, bytes } = panel;
  const state = useEditor((s) => s.state);
  const sheetId = useBoard((s) => s.sheetId);
  const sheet = sheetOnBoard(state, sheetId);
  const isPicture = finding.kind === 'picture';
  const [use, setUse] = useState<Use>(isPicture ? 'reference' : 'sheet');
  const [replace, setReplace] = useState(true);
  const canReplace = mayReplace(sheet);
  const colors = colorsOfFinding(finding).length;
  const options: [Use, string, string][] = [
    [
      'sheet',
      'As a sheet',
      isPicture
        ? 'one piece of art over the whole picture; faces are seated at the point you click'
        : 'laid out at the smallest size that keeps every color and gradient',
    ],
    ['frozen', 'As a frozen sheet', 'the picture stays byte for byte as it is; only seats are made on it'],
    ['colors', 'Only its colors', `${count(colors, 'color')} added to ${sheet.name}`],
    ['reference', 'As a reference', 'kept with the kit, to take colors from'],
  ];
  const take = () => {
    if (use === 'colors') addColorsOf(panel);
    else if (use === 'reference') void keepReference(file, bytes);
    else void adopt(panel, use === 'frozen', canReplace && replace);
  };
  return (
    <SidePanel title={file} onClose={closePanel}>
      <p className="text-[12px]">{describeFinding(finding)}</p>
      <div role="img" aria-label={`${colors} colors`} className="mt-2 flex max-h-24 flex-wrap overflow-y-auto">
        {colorsOfFinding(finding)
          .slice(0, 512)
          .map((c, i) => (
            <span key={i} className="h-5 w-5" style={{ background: c }} title={c} />
          ))}
      </div>
      <RadioCards
        label="What to do with it"
        value={use}
        options={options.filter(([key]) => key !== 'colors' || colors > 0)}
        onChange={setUse}
      />
      {canReplace && (use === 'sheet' || use === 'frozen') && (
        <label className="mb-3 flex items-center gap-2">
          <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} className="h-4 w-4 accent-ink" />
          In the place of {sheet.name}, which no face uses
        </label>
      )}
      <div className="flex items-center justify-between border-t border-hairline pt-3">
        {!isPicture ? (
          <Button kind="bare" className="-ml-3" onClick={takeWholePicture} title="One piece of art over the whole picture">
            Nothing of this
          </Button>
        ) : (
          <span />
        )}
        <span className="flex gap-2">
          <Button onClick={closePanel}>Leave it</Button>
          <Button kind="solid" onClick={take}>
            Use it
          </Button>
        </span>
      </div>
    </SidePanel>
  );
}
