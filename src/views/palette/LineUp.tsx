'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { parseHex } from '@/core/color/hex';
import type { Raster } from '@/core/sheet/raster';
import { useColoring } from '@/state/color/coloringState';
import { useEditor } from '@/state/kit/editor';
import { usePictures } from '@/state/sheet/pictures';
import type { Kit } from '@/core/kit/kit';
import { notify } from '@/state/view/notices';
import { cellTable, paintOf, portraitOf } from '@/state/view/thumbnails';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { pickingWorker } from '@/workers/client';
import { Select } from '@/ui/Select';

/** A state of the palette, kept to be held beside the present one. */
interface Held {
  table: Uint8Array;
  portraits: ReturnType<typeof portraitOf>[];
  kit: Kit;
}

/** The models side by side at true scale, before a backdrop, as tall as they will appear in play. */
export function LineUp() {
  const state = useEditor((s) => s.state);
  const meshes = useEditor((s) => s.meshes);
  const drafts = useColoring((s) => s.drafts);
  const urls = usePictures((s) => s.urls);
  const rasters = usePictures((s) => s.rasters);
  const [height, setHeight] = useState(220);
  const [sky, setSky] = useState('#b9cbd6');
  const [ground, setGround] = useState('#7f8a6c');
  const [behind, setBehind] = useState('');
  const [light, setLight] = useState<'flat' | 'lit'>('flat');
  const [held, setHeld] = useState<Held | null>(null);
  const models = state.kit.models.filter((m) => meshes[m.mesh]);
  const now = useMemo<Held>(
    () => ({ table: cellTable(state.kit, drafts), portraits: models.map((m) => portraitOf(m, { state })), kit: state.kit }),
    // The portraits follow the seats, the meshes and the pictures.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [state, meshes, drafts, rasters],
  );
  const present = useLineUp(now, height, light === 'flat');
  const before = useLineUp(held, height, light === 'flat');
  const reference = state.kit.references.find((r) => r.id === behind);
  const backdrop = reference
    ? { background: `center / cover url(${urls[reference.picture]})` }
    : { background: `linear-gradient(180deg, ${sky} 0 78%, ${ground} 78% 100%)` };
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div className={`grid min-h-0 flex-1 ${held ? 'grid-rows-2' : 'grid-rows-1'}`} style={{ background: sky }}>
        {held && <Stand raster={before} backdrop={backdrop} label="The state that is held" />}
        <Stand raster={present} backdrop={backdrop} label="The palette as it is" isBelow={held !== null} />
      </div>
      {models.length > 0 && (
        <Button className="absolute top-4 right-5" onClick={() => setHeld(held ? null : copyOf(now))}>
          {held ? 'Let the held state go' : 'Hold this state'}
        </Button>
      )}
      {models.length === 0 && (
        <p className="absolute inset-0 m-auto h-fit w-fit bg-paper px-4 py-2">Bring in models to see them side by side.</p>
      )}
      <div
        role="group"
        aria-label="Line-up"
        className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-hairline bg-paper px-5 py-2.5"
      >
        <label className="flex items-center gap-2">
          Tallest
          <input
            type="range"
            aria-label="Height of the tallest model in pixels"
            min={48}
            max={400}
            step={4}
            value={height}
            onChange={(e) => setHeight(Number(e.target.value))}
            className="slider-plain !w-20"
          />
          <span className="w-10 text-[12px]">{height} px</span>
        </label>
        <Swatch label="Sky" value={sky} onChange={setSky} />
        <Swatch label="Ground" value={ground} onChange={setGround} />
        {state.kit.references.length > 0 && (
          <span className="flex items-center gap-2">
            Behind
            <Select
              isQuiet
              label="Behind"
              value={behind}
              options={[{ value: '', word: 'sky and ground' }, ...state.kit.references.map((r) => ({ value: r.id, word: r.name }))]}
              onChange={setBehind}
              className="w-32"
            />
          </span>
        )}
        <Choice
          label="Light"
          value={light}
          options={[
            ['flat', 'True color'],
            ['lit', 'In light'],
          ]}
          onChange={setLight}
          className="border border-hairline"
        />
      </div>
    </div>
  );
}

/** Seats are patched in place, so that what is held must be a copy. */
const copyOf = ({ table, portraits, kit }: Held): Held => ({
  table,
  kit,
  portraits: portraits.map((p) => ({ ...p, cells: p.cells.slice(), ...(p.at && { at: p.at.slice() }) })),
});

function useLineUp(of: Held | null, height: number, flat: boolean): Raster | null {
  const [raster, setRaster] = useState<Raster | null>(null);
  useEffect(() => {
    if (!of?.portraits.length) return;
    let isLatest = true;
    void paintOf(of.kit)
      .then((paint) => pickingWorker().lineUp(of.portraits, of.table, height, flat, paint))
      .then(
        (next) => isLatest && setRaster(next),
        (e: Error) => isLatest && notify(e.message, { isError: true }),
      );
    return () => {
      isLatest = false;
    };
  }, [of, height, flat]);
  return of?.portraits.length ? raster : null;
}

function Stand({
  raster,
  backdrop,
  label,
  isBelow = false,
}: {
  raster: Raster | null;
  backdrop: React.CSSProperties;
  label: string;
  isBelow?: boolean;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (raster)
      canvas.current?.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(raster.data), raster.width, raster.height), 0, 0);
  }, [raster]);
  return (
    <div className={`relative min-h-0 overflow-auto ${isBelow ? 'border-t border-ink' : ''}`} style={backdrop}>
      {raster && (
        <div className="flex min-h-[87%] w-max min-w-full items-end justify-center">
          <canvas ref={canvas} width={raster.width} height={raster.height} role="img" aria-label={label} className="shrink-0" />
        </div>
      )}
    </div>
  );
}

function Swatch({ label, value, onChange }: { label: string; value: string; onChange: (hex: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      {label}
      <input
        type="color"
        value={value}
        onChange={(e) => onChange(parseHex(e.target.value) ?? value)}
        className="h-7 w-9 border border-hairline bg-white"
      />
    </label>
  );
}
