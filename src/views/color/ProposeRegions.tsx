'use client';
import { useEffect, useState } from 'react';
import type { RegionProposal } from '@/core/regions/propose';
import { notify } from '@/state/view/notices';
import { proposalsInView, takeProposal, type ShownProposal } from '@/state/pick/regions';
import { Modal } from '@/ui/Modal';
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

/** Ways to divide the model, each shown as a small picture of what comes of it. */
export function ProposeRegions({ onClose }: { onClose: () => void }) {
  const [list, setList] = useState<ShownProposal[] | null>(null);
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
      {!list && <p className="mt-4">Looking at the model…</p>}
      <ul className="mt-4 grid grid-cols-4 gap-3">
        {list?.map((p) => (
          <li key={p.by}>
            <button
              type="button"
              onClick={() => {
                takeProposal(p);
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
