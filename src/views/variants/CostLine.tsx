'use client';
import { useEffect, useState } from 'react';
import type { Variant } from '@/core/kit/kit';
import type { VariantCost } from '@/core/files/budget/costOfVariant';
import { costOfVariant } from '@/state/files/exporting';
import { useBase } from '@/state/kit/useCurrent';
import { bytes, count } from '@/ui/words';

/** Milliseconds of rest after which it is measured: a slider that moves has another cost each time. */
const rest = 700;

/** What a variant adds to the file in which the kit leaves, measured on that file. */
export function CostLine({ variant }: { variant: Variant }) {
  const base = useBase();
  const [known, setKnown] = useState<{ of: typeof base; id: string; cost: VariantCost } | null>(null);
  useEffect(() => {
    let isLatest = true;
    const timer = setTimeout(() => {
      costOfVariant(variant.id).then(
        (cost) => isLatest && setKnown({ of: base, id: variant.id, cost }),
        () => undefined,
      );
    }, rest);
    return () => {
      isLatest = false;
      clearTimeout(timer);
    };
  }, [base, variant.id]);
  const cost = known?.of === base && known.id === variant.id ? known.cost : null;
  return (
    <p role="status" aria-label="What the variant costs" className="mt-4 border-t border-hairline pt-3 text-[12px] text-quiet">
      {cost ? wordsOf(cost) : 'Measuring what it costs…'}
    </p>
  );
}

function wordsOf({ pictures, pictureBytes, uvVertices, drawCalls }: VariantCost): string {
  const parts = [
    ...(pictures ? [`${count(pictures, 'more picture')} of ${bytes(pictureBytes)}`] : []),
    ...(uvVertices
      ? [`a further UV set for ${count(uvVertices, 'vertex', 'vertices')} (${bytes(uvVertices * 8)}), which is less than a mesh of its own`]
      : []),
    ...(drawCalls ? [count(drawCalls, 'more draw call')] : []),
  ];
  return parts.length ? `In a glTF of the kit it costs ${parts.join(' and ')}.` : 'In a glTF of the kit it costs nothing.';
}
