'use client';
import { useEffect, useState } from 'react';
import type { RegionProposal } from '@/core/regions/propose';
import type { Sheet } from '@/core/kit/kit';
import { singleColors } from '@/core/sheet/cells';
import { colorsInOrder } from '@/core/sheet/order';
import { currentOf, useEditor } from '@/state/kit/editor';
import { swatch } from '@/state/sheet/pictures';
import { notify } from '@/state/view/notices';
import { proposalsInView, takeProposal, type ShownProposal } from '@/state/pick/regions';
import { Modal } from '@/ui/Modal';
import { Select } from '@/ui/Select';
import { count } from '@/ui/words';

const words: Record<RegionProposal['by'], string> = {
  parts: 'By parts',
  creases: 'By creases',
  materials: 'By material',
  objects: 'By object of the file',
  groups: 'By group of the file',
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
    ...(sheet?.ramps ?? []).map((r) => ({ value: r.id, word: `by the steps of ${r.name}` })),
    ...(sheet && singleColors(sheet).length ? [{ value: 'single', word: 'by the single colors' }] : []),
    { value: 'all', word: 'each with another color' },
  ];
  const cells = sheet ? cellsFor(sheet, colors) : [];
  useEffect(() => {
    let shown: ShownProposal[] = [];
    let isOpen = true;
    proposalsInView().then(
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
  }, []);
  return (
    <Modal open width="wide" onClose={onClose} title="Regions to start from" description="Faces that are in a region already keep it.">
      <label className="mt-3 flex items-center gap-2">
        They are colored
        <Select label="How they are colored" value={colors} options={choices} onChange={setColors} isQuiet />
        {cells.length > 0 && (
          <span role="img" aria-label={`${count(cells.length, 'color')}`} className="flex h-6">
            {cells.slice(0, 16).map((id) => (
              <span key={id} className="w-4" style={{ background: swatch(sheet!.cells.find((c) => c.id === id)!) }} />
            ))}
          </span>
        )}
      </label>
      {!list && <p className="mt-4">Looking at the model…</p>}
      <ul className="mt-4 grid grid-cols-4 gap-3">
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
              <span className="flex h-[140px] items-center justify-center bg-surround">
                {/* Pictures are addresses made by the application; there is nothing to optimize. */}
                {/* eslint-disable-next-line @next/next/no-img-element */}
                <img src={p.picture} alt="" width={132} height={132} />
              </span>
              <span className="block px-3 pt-2 font-medium">{words[p.by]}</span>
              <span className="block px-3 pb-2 text-[12px] text-quiet">{count(p.regions.length, 'region')}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
