'use client';
import { ViewLink } from '@/views/shell/ViewLink';
import { useEffect, useState, type PointerEvent } from 'react';
import { maxLayoutSize, type LayoutSize } from '@/core/files/bake/fillLayout';
import type { Model } from '@/core/kit/kit';
import { bakeLayout, cancelBaking, downloadLayout, forgetMade, pickClashes, useLayout } from '@/state/files/baking';
import { useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { count } from '@/ui/words';

const set = (change: Partial<LayoutSize>): void => useLayout.setState(change);

/** A picture of a prescribed size in which every face of a model is filled in where its own UVs have it. */
export function OwnUvs({ model, hasUvs }: { model: Model; hasUvs: boolean }) {
  const { models, id } = useEditor((s) => s.state.kit);
  const seats = useEditor((s) => s.state.seats);
  const sheets = useEditor((s) => s.state.kit.sheets);
  const { width, height, padding, from, made, isBusy } = useLayout();
  // What was filled tells nothing of what has changed since.
  useEffect(() => forgetMade, [model.id, seats, sheets, width, height, padding, from]);
  return (
    <li className="flex items-start gap-4 border-b border-hairline py-4">
      <div className="min-w-0 flex-1">
        <h2 className="text-phrase font-bold">Picture for its own UVs</h2>
        <p className="text-[#444]">
          Where a game or another file prescribes the UVs of “{model.name}”: every face filled in where they have it, with padding around.
        </p>
        {hasUvs ? (
          <>
            <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
              <NumberField label="Width" value={width} least={1} most={maxLayoutSize} onChange={(v) => set({ width: Math.round(v) })} />
              <NumberField label="Height" value={height} least={1} most={maxLayoutSize} onChange={(v) => set({ height: Math.round(v) })} />
              <NumberField label="Padding" value={padding} least={0} most={64} onChange={(v) => set({ padding: Math.round(v) })} />
              {models.length > 1 && (
                <Select
                  label="Colors come from"
                  value={from}
                  options={[
                    { value: '', word: 'its own colors' },
                    ...models.filter((m) => m.id !== model.id).map((m) => ({ value: m.id, word: `nearest on ${m.name}` })),
                  ]}
                  onChange={(to) => useLayout.setState({ from: to })}
                />
              )}
            </div>
            {made?.model === model.id && <Made kit={id} />}
          </>
        ) : (
          <p className="mt-2 text-quiet">It came without UVs.</p>
        )}
      </div>
      {hasUvs &&
        (isBusy ? (
          <span className="flex shrink-0 items-center gap-3">
            <span role="status">Filling…</span>
            <Button aria-label="Cancel filling" onClick={cancelBaking}>
              Cancel
            </Button>
          </span>
        ) : made?.model === model.id ? (
          <Button kind="solid" aria-label="Download the picture for its own UVs" onClick={downloadLayout}>
            Download
          </Button>
        ) : (
          <Button kind="solid" onClick={() => void bakeLayout(model.id)}>
            Fill it in
          </Button>
        ))}
    </li>
  );
}

/** What was filled in, and what shares texels; the texel that is pointed at says which faces do. */
function Made({ kit }: { kit: string }) {
  const made = useLayout((s) => s.made)!;
  const [pointed, setPointed] = useState<number | null>(null);
  const { url, size, picture } = made;
  const scale = Math.min(220 / size.width, 220 / size.height);
  const onPointer = (e: PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const [x, y] = [Math.floor((e.clientX - box.left) / scale), Math.floor((e.clientY - box.top) / scale)];
    setPointed(x >= 0 && y >= 0 && x < size.width && y < size.height ? y * size.width + x : null);
  };
  const clash = pointed === null ? -1 : picture.clashTexels.indexOf(pointed);
  const clashes = picture.clashTexels.length;
  return (
    <div className="mt-3 flex items-start gap-4">
      {/* eslint-disable-next-line @next/next/no-img-element -- a picture out of memory */}
      <img
        src={url}
        alt={`The picture, ${size.width} × ${size.height} texels`}
        width={size.width * scale}
        height={size.height * scale}
        onPointerMove={onPointer}
        onPointerLeave={() => setPointed(null)}
        className="border border-hairline bg-white [image-rendering:pixelated]"
      />
      <div className="min-w-0 flex-1 text-[12.5px]">
        <p>
          {clashes === 0 ? (
            'No two faces of different colors share a texel.'
          ) : (
            <>
              <strong>{count(clashes, 'texel')}</strong> shared by {count(picture.faces.length, 'face')} of different colors: the first one
              is shown.{' '}
              <ViewLink href={`/kit/${kit}/color`} onClick={pickClashes} className="border-b border-ink hover:bg-wash">
                pick them in Color
              </ViewLink>
            </>
          )}
        </p>
        {picture.thin > 0 && (
          <p className="mt-1">{count(picture.thin, 'triangle')} thinner than texels are apart: each has one texel, where it is free.</p>
        )}
        <p className="mt-1 min-h-5 text-quiet" aria-live="polite">
          {pointed !== null && `Texel ${pointed % size.width}, ${Math.floor(pointed / size.width)}`}
          {clash >= 0 && `: shared by faces ${picture.clashFaces[clash * 2]! + 1} and ${picture.clashFaces[clash * 2 + 1]! + 1}`}
        </p>
      </div>
    </div>
  );
}
