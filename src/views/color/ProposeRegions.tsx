'use client';
import { RadioGroup } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import type { RegionProposal } from '@/core/faces/regions/propose';
import type { Sheet } from '@/core/kit/kit';
import { singleColors } from '@/core/sheet/cells';
import { colorsInOrder } from '@/core/sheet/order';
import { currentOf, useEditor } from '@/state/kit/editor';
import { swatch } from '@/state/chosen/pictures';
import { notify } from '@/state/told/notices';
import { proposalsInView, takeProposal, type ShownProposal } from '@/state/pick/regions';
import { Modal } from '@/ui/Modal';
import { count } from '@/ui/words';

const words: Record<RegionProposal['by'], string> = {
  parts: 'By parts',
  creases: 'By creases',
  flats: 'By flat areas',
  materials: 'By material',
  objects: 'By object',
  groups: 'By group',
  colors: 'By present color',
  height: 'By height',
};

/** The colors that regions take in turn. */
function cellsFor(sheet: Sheet, colors: string): readonly number[] {
  if (colors === 'none') return [];
  if (colors === 'single') return singleColors(sheet);
  if (colors === 'all') return colorsInOrder(sheet).map((c) => c.id);
  return sheet.ramps.find((r) => r.id === colors)?.cells ?? [];
}

/** Ways to divide the model, each shown as a small picture of what comes of it. */
export function ProposeRegions({ onClose }: { onClose: () => void }) {
  const [list, setList] = useState<ShownProposal[] | null>(null);
  const [colors, setColors] = useState('none');
  const sheet = useEditor((s) => currentOf(s)?.sheet);
  const choices = [
    { value: 'none', word: 'not at all' },
    { value: 'all', word: 'each with another' },
    ...(sheet?.ramps ?? []).map((r) => ({ value: r.id, word: r.name })),
    ...(sheet && singleColors(sheet).length ? [{ value: 'single', word: 'single colors' }] : []),
  ];
  const cells = useMemo(() => (sheet ? cellsFor(sheet, colors) : []), [sheet, colors]);
  useEffect(() => {
    let shown: ShownProposal[] = [];
    let isOpen = true;
    proposalsInView(cells).then(
      (found) => {
        shown = found;
        if (isOpen) setList(found);
      },
      (error: unknown) => notify(String(error), { isError: true }),
    );
    return () => {
      isOpen = false;
      for (const p of shown) URL.revokeObjectURL(p.picture);
    };
  }, [cells]);
  return (
    <Modal open width="wide" onClose={onClose} title="Regions to start from" description="Faces that are in a region already keep it.">
      <RadioGroup.Root
        aria-label="How they are colored"
        value={colors}
        onValueChange={setColors}
        className="mt-3 flex max-h-28 flex-wrap items-center gap-1.5 overflow-y-auto"
      >
        <span className="mr-1">They are colored</span>
        {choices.map(({ value, word }) => (
          <RadioGroup.Item
            key={value}
            value={value}
            className="flex h-8 items-center gap-2 border border-hairline bg-white px-2.5 hover:border-ink data-[state=checked]:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-paper"
          >
            {word}
            {sheet && value !== 'none' && (
              <span aria-hidden className="flex h-4">
                {cellsFor(sheet, value)
                  .slice(0, 14)
                  .map((id) => (
                    <span key={id} className="w-2.5" style={{ background: swatch(sheet.cells.find((c) => c.id === id)!) }} />
                  ))}
              </span>
            )}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      {/* As high as a row of proposals: nothing moves under the pointer when they come. */}
      {!list && <p className="mt-4 h-[200px]">Looking at the model…</p>}
      <ul className={`mt-4 grid grid-cols-5 gap-3 ${list ? '' : 'hidden'}`}>
        {list?.map((p) => (
          <li key={p.by}>
            <button
              type="button"
              onClick={() => {
                takeProposal(p, cells);
                onClose();
              }}
              className="block w-full border border-hairline text-left hover:border-ink"
            >
              <span className="flex h-[136px] items-center justify-center bg-surround">
                {/* Pictures are addresses made by the application; there is nothing to optimize. */}
                {/* eslint-disable-next-line @next/next/no-img-element */}
                <img src={p.picture} alt="" width={132} height={132} />
              </span>
              <span className="block truncate px-3 pt-2 font-medium">{words[p.by]}</span>
              <span className="block px-3 pb-2 text-[12px] text-quiet">{count(p.regions.length, 'region')}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
