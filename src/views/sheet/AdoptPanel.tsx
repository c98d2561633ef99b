'use client';
import { useEffect, useMemo, useState } from 'react';
import { describeFinding } from '@/core/sheet/picture/adopt';
import { colorsOfFinding } from '@/core/sheet/picture/readBlocks';
import { missingColors } from '@/core/sheet/palette/usePalette';
import { canTake, proposeGoing, type Going } from '@/core/sheet/palette/whereColorsGo';
import { colorsInOrder } from '@/core/sheet/order';
import { addColorsOf, adopt, cellsInUse, keepReference, takeColorsOf, takeWholePicture } from '@/state/sheet/adopting';
import { sheetInHand } from '@/state/color/board';
import { closePanel, type ColoringState } from '@/state/chosen/coloringState';
import { previewGoing } from '@/state/files/palettes';
import { useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { RadioCards } from '@/ui/RadioCards';
import { count } from '@/ui/words';
import { SidePanel } from './SidePanel';
import { WhereColorsGo } from './WhereColorsGo';

type Use = 'sheet' | 'frozen' | 'colors' | 'replace' | 'reference';

/** What to do with a picture in which a palette was found. */
export function AdoptPanel({ panel }: { panel: Extract<ColoringState['panel'], { kind: 'adopt' }> }) {
  const { file, finding, bytes } = panel;
  const state = useEditor((s) => s.state);
  const sheet = sheetInHand();
  const isPicture = finding.kind === 'picture';
  const [use, setUse] = useState<Use>(isPicture ? 'reference' : finding.kind === 'pixels' ? 'colors' : 'sheet');
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const inUse = useMemo(() => cellsInUse(sheet), [sheet, state.seats, state.kit.models]);
  const [isInPlace, setInPlace] = useState(inUse.length === 0 && !sheet.frozen);
  const isSheet = use === 'sheet' || use === 'frozen';
  const offers = useMemo(() => finding.blocks.map((b) => b.fill), [finding]);
  const cells = use === 'replace' ? colorsInOrder(sheet) : isSheet && isInPlace ? inUse : [];
  const [chosen, setChosen] = useState<{ offers: typeof offers; use: Use; going: Going } | null>(null);
  const proposed = useMemo(
    () => proposeGoing(cells, offers, 'nearest'),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [offers, use, isInPlace, sheet, inUse],
  );
  const going = chosen && chosen.offers === offers && chosen.use === use ? chosen.going : proposed;
  const isChoosing = cells.length > 0;
  useEffect(() => previewGoing(offers, isChoosing ? going : null), [offers, going, isChoosing]);
  const homeless = isSheet ? cells.filter((c) => !offers.some((o) => canTake(c, o))).length : 0;
  const colors = colorsOfFinding(finding);
  const missing = missingColors(
    sheet,
    colors.map((color) => ({ color })),
  ).length;
  const options: [Use, string, string][] = [
    [
      'sheet',
      'As a sheet',
      isPicture
        ? 'one piece of art over the whole picture; faces are seated at the point you click'
        : 'laid out at the smallest size that keeps every color and gradient',
    ],
    ['frozen', 'As a frozen sheet', 'the picture stays byte for byte as it is; only seats are made on it'],
    ['colors', 'Add its colors', missing ? `${count(missing, 'color')} that ${sheet.name} does not have yet` : 'the sheet has them all'],
    ['replace', 'Replace the sheet’s colors', 'you choose which goes where; roles, faces and the layout stay'],
    ['reference', 'As a reference', 'kept with the kit, to take colors from'],
  ];
  const take = () => {
    if (use === 'colors') addColorsOf(panel);
    else if (use === 'replace') takeColorsOf(panel, going);
    else if (use === 'reference') void keepReference(file, bytes);
    else void adopt(panel, use === 'frozen', isInPlace ? going : null);
  };
  const hasSolid = offers.some((o) => o.kind === 'solid');
  return (
    <SidePanel title={file} onClose={closePanel}>
      <p className="text-[12px]">{describeFinding(finding)}</p>
      <div role="img" aria-label={`${colors.length} colors`} className="mt-2 flex max-h-24 flex-wrap overflow-y-auto">
        {colors.slice(0, 512).map((c, i) => (
          <span key={i} className="h-5 w-5" style={{ background: c }} title={c} />
        ))}
      </div>
      <RadioCards
        label="What to do with it"
        value={use}
        options={options.filter(([key]) => (key === 'colors' ? colors.length > 0 : key !== 'replace' || (hasSolid && !sheet.frozen)))}
        onChange={setUse}
      />
      {isSheet && (
        <label className="mb-3 flex items-start gap-2">
          <input
            type="checkbox"
            checked={isInPlace}
            onChange={(e) => setInPlace(e.target.checked)}
            className="mt-px h-4 w-4 shrink-0 accent-ink"
          />
          <span>
            In the place of {sheet.name}, {inUse.length ? `of which ${count(inUse.length, 'color')} are in use` : 'which no face uses'}
          </span>
        </label>
      )}
      {homeless > 0 ? (
        <p role="alert" className="mb-3 font-medium">
          The picture has no plain color that they could go to; use it beside {sheet.name}.
        </p>
      ) : (
        cells.length > 0 && (
          <WhereColorsGo
            key={use}
            cells={cells}
            offers={offers}
            going={going}
            onChange={(next) => setChosen({ offers, use, going: next })}
            mayStay={use === 'replace'}
          />
        )
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
          <Button
            kind="solid"
            disabled={homeless > 0 || (use === 'replace' && going.size === 0) || (use === 'colors' && missing === 0)}
            onClick={take}
          >
            Use it
          </Button>
        </span>
      </div>
    </SidePanel>
  );
}
