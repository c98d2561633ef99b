'use client';
import { useEffect, useMemo, useState } from 'react';
import { findSheet } from '@/core/kit/kit';
import { matchCells, materialColors, nearDistance, type SourceColor, type VertexColors } from '@/core/faces/seat/byMaterial';
import { swatchOf } from '@/core/sheet/cells';
import { useEditor } from '@/state/kit/editor';
import { takeMaterialColors, takeVertexColors, vertexColorsOf } from '@/state/files/importing';
import { Button } from '@/ui/Button';
import { count } from '@/ui/words';
import { PictureOffer } from './PictureOffer';

/** Offers to seat faces on cells of the colors they came with. Declining loses nothing: the model keeps them. */
export function ColorOffers({ id, pictureBytes }: { id: string; pictureBytes: number }) {
  const loaded = useEditor((s) => s.meshes[s.state.kit.models.find((m) => m.id === id)?.mesh ?? '']);
  const seats = useEditor((s) => s.state.seats[id]);
  const bare = useMemo(() => seats?.cell.every((c) => c === 0) ?? false, [seats]);
  const materials = useMemo(() => (loaded ? materialColors(loaded.mesh) : []), [loaded]);
  if (!loaded) return null;
  const hasPicture = loaded.mesh.uvSets.length > 0 && loaded.mesh.slots.some((s) => s.picture);
  if (!bare) return <p className="border-t border-hairline px-5 py-3">Its faces sit on the sheet. Undo takes the colors back.</p>;
  return (
    <>
      {hasPicture && <PictureOffer id={id} pictureBytes={pictureBytes} />}
      {materials.length > 0 && <MaterialOffer id={id} colors={materials} />}
      {loaded.mesh.cornerColors && <VertexOffer id={id} />}
    </>
  );
}

function MaterialOffer({ id, colors }: { id: string; colors: SourceColor[] }) {
  const kit = useEditor((s) => s.state.kit);
  const [mergeNear, setMergeNear] = useState(false);
  const sheet = findSheet(kit, kit.models.find((m) => m.id === id)!.sheet);
  const matches = matchCells(sheet, colors);
  const distinct = new Set(colors.map((c) => c.color)).size;
  const near = matches.filter((m) => m.exact === null && m.distance <= nearDistance).length;
  return (
    <section aria-label="Colors of its materials" className="border-t border-hairline px-5 py-4">
      <h3 className="font-bold">Take over the colors of its {count(colors.length, 'material')}</h3>
      <p className="mb-3 text-[12px] text-quiet">
        {count(distinct, 'different color')}. Each material’s faces sit on a cell of its color; equal colors share one.
      </p>
      <ul className="mb-3 grid max-h-48 grid-cols-2 gap-x-6 gap-y-1 overflow-y-auto">
        {colors.map((c, i) => {
          const m = matches[i]!;
          const cell = sheet.cells.find((x) => x.id === (m.exact ?? m.nearest));
          const isNear = m.exact === null && m.distance <= nearDistance && cell;
          return (
            <li key={c.name} className="flex min-w-0 items-center gap-2">
              <span aria-hidden className="h-4 w-4 shrink-0" style={{ background: c.color }} />
              <span className="truncate">{c.name}</span>
              <span className="ml-auto shrink-0 text-[12px] text-quiet">
                {m.exact !== null ? 'has a cell' : isNear ? `close to ${cell.role}` : count(c.faces.length, 'face')}
                {isNear && <span aria-hidden className="ml-1.5 inline-block h-3 w-3 align-[-1px]" style={{ background: swatchOf(cell) }} />}
              </span>
            </li>
          );
        })}
      </ul>
      <div className="flex items-center gap-4">
        {near > 0 && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={mergeNear} onChange={(e) => setMergeNear(e.target.checked)} className="h-4 w-4 accent-ink" />
            Use the sheet’s color where it is near ({near})
          </label>
        )}
        <Button kind="solid" className="ml-auto" onClick={() => takeMaterialColors(id, mergeNear)}>
          Take these colors
        </Button>
      </div>
    </section>
  );
}

function VertexOffer({ id }: { id: string }) {
  const [most, setMost] = useState(8);
  const [found, setFound] = useState<VertexColors | null>(null);
  useEffect(() => {
    let isLatest = true;
    void vertexColorsOf(id, most).then((v) => isLatest && setFound(v));
    return () => {
      isLatest = false;
    };
  }, [id, most]);
  return (
    <section aria-label="Its vertex colors" className="border-t border-hairline px-5 py-4">
      <h3 className="font-bold">Take over its vertex colors</h3>
      <div className="mt-2 flex items-center gap-4">
        <label className="flex items-center gap-3">
          At most
          <input
            type="range"
            aria-label="At most so many colors"
            min={1}
            max={24}
            value={most}
            onChange={(e) => setMost(Number(e.target.value))}
            className="slider-plain w-44"
          />
          <span className="w-16">{count(most, 'color')}</span>
        </label>
        <span className="text-[12px] text-quiet">
          {found ? `Error at most ${found.maxError.toFixed(3)}, ${found.meanError.toFixed(3)} on average (OKLab)` : 'Grouping…'}
        </span>
      </div>
      <div className="mt-3 flex items-center gap-4">
        <span className="flex h-6 flex-1">
          {found?.colors.map((c) => (
            <span key={c.color} className="flex-1" style={{ background: c.color }} title={c.color} />
          ))}
        </span>
        <Button kind="solid" onClick={() => void takeVertexColors(id, most)}>
          Take these colors
        </Button>
      </div>
    </section>
  );
}
