'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { parseHex } from '@/core/ground/color/hex';
import type { Rows } from '@/core/shapes/view/lineUp';
import { noDrafts, useColoring } from '@/state/chosen/coloringState';
import { defaultWord } from '@/state/laying/variants';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { usePictures } from '@/state/chosen/pictures';
import type { Kit, KitState, Model } from '@/core/kit/kit';
import { stateOfVariant } from '@/core/kit/colorings/shown';
import { notify } from '@/state/told/notices';
import { cellTable, paintOf, portraitOf } from '@/state/shown/thumbnails';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { pickingWorker } from '@/workers/client';
import { Select } from '@/ui/Select';
import { Tick } from '@/ui/Tick';
import { useSize } from '@/ui/useSize';

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
  const rasters = usePictures((s) => s.settled);
  const [size, setSize] = useState<'fill' | 'play'>('fill');
  const [height, setHeight] = useState(220);
  const [sky, setSky] = useState('#b9cbd6');
  const [ground, setGround] = useState('#7f8a6c');
  const [behind, setBehind] = useState('');
  const [light, setLight] = useState<'flat' | 'lit'>('flat');
  const [held, setHeld] = useState<Held | null>(null);
  const [byVariant, setByVariant] = useState(false);
  const base = useBase();
  const { variants } = base.kit;
  const models = state.kit.models.filter((m) => meshes[m.mesh]);
  const now = useMemo<Held>(
    () => stateAsHeld(state, models, drafts),
    // The portraits follow the seats, the meshes and the pictures.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [state, meshes, drafts, rasters],
  );
  /** Each coloring in a row of its own. */
  const rows = useMemo(
    () => {
      if (!byVariant || !variants.length) return null;
      const whole = variants.filter((v) => v.model === undefined).slice(0, mostRows - 1);
      return [{ id: null, name: defaultWord }, ...whole].map(({ id, name }) => ({
        name,
        of: stateAsHeld(stateOfVariant(base, id), models),
      }));
    },
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [byVariant, base, meshes, rasters],
  );
  const look: Look = { height: size === 'play' ? height : null, flat: light === 'flat' };
  const reference = state.kit.references.find((r) => r.id === behind);
  const backdrop = reference ? { background: `center / cover url(${urls[reference.picture]})` } : null;
  const stand = { look, backdrop, sky, ground };
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      {rows ? (
        <div className="grid min-h-0 flex-1" style={{ background: sky, gridTemplateRows: `repeat(${rows.length}, minmax(0, 1fr))` }}>
          {rows.map(({ name, of }, i) => (
            <Stand key={name} of={of} {...stand} label={`The models in ${name}`} title={name} isBelow={i > 0} />
          ))}
        </div>
      ) : (
        <div className={`grid min-h-0 flex-1 ${held ? 'grid-rows-2' : 'grid-rows-1'}`} style={{ background: sky }}>
          {held && <Stand of={held} {...stand} label="The state that is held" />}
          <Stand of={now} {...stand} label="The palette as it is" isBelow={held !== null} />
        </div>
      )}
      {models.length > 0 && !rows && (
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
        <Choice
          label="Size"
          value={size}
          options={[
            ['fill', 'Large'],
            ['play', 'As in play'],
          ]}
          onChange={setSize}
          className="border border-hairline"
        />
        {size === 'play' && (
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
        )}
        {variants.length > 0 && <Tick label="A row a variant" value={byVariant} onChange={setByVariant} />}
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

/** Rows of colorings, at most: more would be too low to see anything. */
const mostRows = 4;

const stateAsHeld = (state: KitState, models: readonly Model[], drafts = noDrafts): Held => ({
  table: cellTable(state.kit, drafts),
  portraits: models.map((m) => portraitOf(m, { state })),
  kit: state.kit,
});

/** Seats are patched in place, so that what is held must be a copy. */
const copyOf = ({ table, portraits, kit }: Held): Held => ({
  table,
  kit,
  portraits: portraits.map((p) => ({ ...p, cells: p.cells.slice(), ...(p.at && { at: p.at.slice() }) })),
});

interface Look {
  /** Pixels of the tallest model; `null`: as large as the stage allows. */
  height: number | null;
  flat: boolean;
}

/** The models as they are drawn, and where those of each row stand. */
function useLineUp(of: Held, { height, flat }: Look, stage: { width: number; height: number }): Rows | null {
  const [raster, setRaster] = useState<Rows | null>(null);
  const { width: wide, height: tall } = stage;
  useEffect(() => {
    if (!of.portraits.length || !wide || !tall) return;
    let isLatest = true;
    const draw = async (): Promise<Rows> => {
      const paint = await paintOf(of.kit);
      if (height === null) return pickingWorker().lineUpFilling(of.portraits, of.table, { width: wide, height: tall }, flat, paint);
      const row = await pickingWorker().lineUp(of.portraits, of.table, height, flat, paint);
      return { ...row, grounds: [] };
    };
    draw().then(
      (next) => isLatest && setRaster(next),
      (e: Error) => isLatest && notify(e.message, { isError: true }),
    );
    return () => {
      isLatest = false;
    };
  }, [of, height, flat, wide, tall]);
  return of.portraits.length ? raster : null;
}

/** Each row stands on a strip of ground before its own sky. */
function strips(grounds: readonly number[], sky: string, ground: string): string {
  let from = 0;
  const stops = grounds.flatMap((y) => {
    const edge = y - (y - from) * 0.14;
    const to = y + (y - from) * 0.04;
    const own = [`${sky} ${from}px ${edge}px`, `${ground} ${edge}px ${to}px`];
    from = to;
    return own;
  });
  return `linear-gradient(180deg, ${[...stops, `${ground} ${from}px`].join(', ')})`;
}

function Stand({
  of,
  look,
  backdrop,
  sky,
  ground,
  label,
  title,
  isBelow = false,
}: {
  of: Held;
  look: Look;
  backdrop: React.CSSProperties | null;
  sky: string;
  ground: string;
  label: string;
  /** Said over it. */
  title?: string;
  isBelow?: boolean;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const stage = useRef<HTMLDivElement>(null);
  const raster = useLineUp(of, look, useSize(stage));
  useEffect(() => {
    if (raster)
      canvas.current?.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(raster.data), raster.width, raster.height), 0, 0);
  }, [raster]);
  const isFilled = look.height === null;
  const background = raster?.grounds.length
    ? strips(raster.grounds, sky, ground)
    : `linear-gradient(180deg, ${sky} 0 78%, ${ground} 78% 100%)`;
  return (
    <div
      ref={stage}
      className={`relative min-h-0 ${isFilled ? 'overflow-hidden' : 'overflow-auto'} ${isBelow ? 'border-t border-ink' : ''}`}
      style={backdrop ?? { background }}
    >
      {title && <p className="absolute top-2 left-3 z-10 bg-paper px-2.5 py-0.5 text-[12px] font-bold">{title}</p>}
      {raster && (
        <div className={isFilled ? 'absolute inset-0' : 'flex min-h-[87%] w-max min-w-full items-end justify-center'}>
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
