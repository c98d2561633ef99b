'use client';
import { useState } from 'react';
import { useCurrent } from '@/state/kit/useCurrent';
import { hasPicture, openReducing } from '@/state/paint/reducing';
import { makeModelPaintable, proposedDensity } from '@/state/paint/makePaintable';
import { NumberField } from '@/ui/NumberField';
import { number } from '@/ui/words';

/** What there is to do before a model can be painted: texels of its own. */
export function MakePaintable() {
  const current = useCurrent();
  const [isBusy, setBusy] = useState(false);
  const [density, setDensity] = useState(() => proposedDensity() ?? 16);
  const areas = current?.loaded?.adjacency.areas;
  const texels = (areas?.reduce((sum, a) => sum + a, 0) ?? 0) * density ** 2;
  if (!current) return null;
  if (hasPicture()) return <FromItsPicture name={current.model.name} />;
  return (
    <div className="m-auto w-[330px] border border-ink bg-paper p-6">
      <h1 className="text-phrase font-bold">{current.model.name} has no texels of its own</h1>
      <p className="mt-2 text-quiet">
        Its faces lie on plain colors, which is all that most models need. To set single texels it gets art: every flat side a rectangle of
        whole texels, beside the colors of the sheet. It looks as before, and one undo takes it back.
      </p>
      <div className="mt-4 font-medium">
        <NumberField label="Texels a metre" value={density} least={0.1} most={4096} onChange={setDensity} />
      </div>
      <p className="mt-1 text-small text-quiet">some {number(Math.round(texels))} texels in all</p>
      <button
        type="button"
        className="mt-4 min-h-8 w-full border border-ink bg-ink px-4 font-medium text-paper hover:bg-[#333]"
        disabled={isBusy}
        onClick={() => {
          setBusy(true);
          void makeModelPaintable(density).finally(() => setBusy(false));
        }}
      >
        {isBusy ? 'Laying its faces flat…' : 'Make it paintable'}
      </button>
    </div>
  );
}

/** A model with a picture is painted on that, once its texels know their colors. */
function FromItsPicture({ name }: { name: string }) {
  const isArt = hasPicture() === 'art';
  return (
    <div className="m-auto w-[330px] border border-ink bg-paper p-6">
      <h1 className="text-phrase font-bold">{isArt ? `${name} lies on a picture` : `${name} came with a picture`}</h1>
      <p className="mt-2 text-quiet">
        Its texels can be painted once they are colors of the kit: as many as you choose, in the size that you choose. You see four ways
        side by side on the model and take one; one undo takes it back.
      </p>
      <button
        type="button"
        className="mt-4 min-h-8 w-full border border-ink bg-ink px-4 font-medium text-paper hover:bg-[#333]"
        onClick={() => void openReducing()}
      >
        Few colors, big texels
      </button>
    </div>
  );
}
