'use client';
import { useEffect, useMemo, useRef } from 'react';
import { textureMemory } from '@/core/files/budget/textureMemory';
import { useEditor } from '@/state/kit/editor';
import {
  changeWay,
  closeReducing,
  enlargements,
  shownOutcome,
  sizesFor,
  takeWay,
  useReducing,
  type Outcome,
  type Source,
  type Way,
} from '@/state/paint/reducing';
import { frame } from '@/state/chosen/viewState';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Waiting } from '@/ui/Waiting';
import { bytes, count, number } from '@/ui/words';
import { Viewport } from '@/views/viewport/lazyViewport';
import type { LoadedMesh } from '@/workers/residents';

/** A picture in few colors and few big texels: four ways side by side on the model, of which one is taken. */
export function ReduceView({ loaded, modelId, name }: { loaded: LoadedMesh; modelId: string; name: string }) {
  const { source, problem, ways, outcomes } = useReducing();
  const state = useEditor((s) => s.state);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  const shown = useMemo(
    () => outcomes.map((o) => (o && !('problem' in o) ? shownOutcome(o) : null)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [outcomes, state],
  );
  // A way that is worked out shows the model as it is until then.
  const rasters = useMemo(() => new Map(), []);
  const tried = useMemo(() => shown.map((s) => s ?? { state, rasters }), [shown, state, rasters]);
  const panes = tried.length;
  useEffect(() => frame('model'), [panes]);
  return (
    <section
      aria-label="Few colors and big texels"
      className="flex min-w-0 flex-1 flex-col"
      onKeyDown={(e) => e.key === 'Escape' && !e.defaultPrevented && closeReducing()}
    >
      <div className="flex h-[50px] shrink-0 items-center gap-3 border-b border-hairline bg-paper px-5">
        <h1 ref={heading} tabIndex={-1} className="min-w-0 flex-1 truncate text-phrase outline-none">
          <b className="font-bold">{source?.name ?? name}</b> in few colors and big texels
          {source && (
            <span className="ml-3 text-panel text-quiet">
              {source.width} × {source.height} texels and {bytes(source.bytes)} now
              {source.left > 0 && `; ${count(source.left, 'face')} beyond its edges stay as they came`}
            </span>
          )}
        </h1>
        <Button onClick={closeReducing}>Leave it as it is</Button>
      </div>
      {problem && <p className="m-auto w-80 border border-ink bg-paper p-5">{problem}</p>}
      {!problem && !source && <div className="relative flex-1 bg-surround">{<Waiting>Looking at its picture…</Waiting>}</div>}
      {source && (
        <>
          <div className="relative min-h-0 flex-1 bg-surround">
            <Viewport loaded={loaded} modelId={modelId} name={name} tried={tried} />
            {ways.slice(1).map((_, i) => (
              <span
                key={i}
                aria-hidden
                className="pointer-events-none absolute inset-y-0 w-px bg-ink"
                style={{ left: `${((i + 1) / ways.length) * 100}%` }}
              />
            ))}
          </div>
          <div
            className="grid shrink-0 border-t border-ink bg-paper"
            style={{ gridTemplateColumns: `repeat(${ways.length}, minmax(0, 1fr))` }}
          >
            {ways.map((way, i) => (
              <WayColumn key={i} i={i} way={way} source={source} outcome={outcomes[i] ?? null} />
            ))}
          </div>
        </>
      )}
    </section>
  );
}

const samplings = [
  { value: 'area', word: 'their mean' },
  { value: 'majority', word: 'the most frequent' },
  { value: 'nearest', word: 'the one in the middle' },
] as const;
const checkerings = [
  { value: 'none', word: 'plain' },
  { value: 'ordered', word: 'an even checker' },
  { value: 'diffusion', word: 'scattered' },
] as const;

function WayColumn({ i, way, source, outcome }: { i: number; way: Way; source: Source; outcome: Outcome | { problem: string } | null }) {
  const allowed = useEditor((s) => s.state.kit.allowed);
  const set = (change: Partial<Way>) => changeWay(i, change);
  const density = (across: number) =>
    source.density > 0 ? `, ${number(Math.max(1, Math.round((source.density * across) / source.width)))} a metre` : '';
  return (
    <section aria-label={`Way ${i + 1}`} className={`min-w-0 px-4 pt-3 pb-4 ${i ? 'border-l border-ink' : ''}`}>
      <div className="flex flex-col gap-1.5 text-[12px]">
        <Row word="Colors">
          <NumberField label="at most" value={way.colors} least={1} most={256} onChange={(v) => set({ colors: Math.round(v) })} />
        </Row>
        <Row word="taken from">
          <Select
            label="Colors taken from"
            isQuiet
            className="w-full"
            value={way.from}
            options={[
              { value: 'any', word: 'the picture' },
              { value: 'sheet', word: 'the sheet' },
              { value: 'list', word: allowed ? allowed.name : 'a list (none is set)', isDisabled: !allowed },
            ]}
            onChange={(from) => set({ from })}
          />
        </Row>
        <Row word="Across">
          <Select
            label="Texels across"
            isQuiet
            className="w-full"
            value={String(way.across)}
            options={sizesFor(source).map((s) => ({ value: String(s), word: `${s} texels${density(s)}` }))}
            onChange={(across) => set({ across: Number(across) })}
          />
        </Row>
        <Row word="Of many">
          <Select
            label="Of many texels"
            isQuiet
            className="w-full"
            value={way.sampling}
            options={samplings}
            onChange={(sampling) => set({ sampling })}
          />
        </Row>
        <Row word="Between">
          <Select
            label="Between two colors"
            isQuiet
            className="w-full"
            value={way.checkering}
            options={checkerings}
            onChange={(checkering) => set({ checkering })}
          />
        </Row>
        <Row word="On the sheet">
          <Select
            label="Size of a texel on the sheet"
            isQuiet
            className="w-full"
            value={String(way.times)}
            options={enlargements(source, way).map((t) => ({ value: String(t), word: t === 1 ? 'one texel each' : `${t} × ${t} each` }))}
            onChange={(times) => set({ times: Number(times) })}
          />
        </Row>
      </div>
      <div role="status" className="mt-3 min-h-[92px] text-[12px]">
        {!outcome && <p className="text-quiet">Working it out…</p>}
        {outcome && 'problem' in outcome && <p className="font-medium">{outcome.problem}</p>}
        {outcome && !('problem' in outcome) && <Figures outcome={outcome} source={source} />}
      </div>
      <button
        type="button"
        aria-label={`Take way ${i + 1}`}
        disabled={!outcome || 'problem' in outcome}
        onClick={() => takeWay(i)}
        className="min-h-8 w-full border border-ink bg-ink font-medium text-paper hover:bg-[#333] disabled:border-hairline disabled:bg-transparent disabled:text-quiet"
      >
        Take this one
      </button>
    </section>
  );
}

const Row = ({ word, children }: { word: string; children: React.ReactNode }) => (
  <div className="grid grid-cols-[82px_minmax(0,1fr)] items-center">
    <span className="text-quiet">{word}</span>
    {children}
  </div>
);

function Figures({ outcome: { reduced, sheet }, source }: { outcome: Outcome; source: Source }) {
  const memory = textureMemory(sheet.width, sheet.height);
  const isSmaller = sheet.bytes < source.bytes;
  return (
    <>
      <p className="text-panel">
        <b className="font-bold">{count(reduced.colors.length, 'color')}</b>, {reduced.width} × {reduced.height} texels
      </p>
      <p>
        off by {reduced.mean.toFixed(3)}, at most {reduced.worst.toFixed(3)} <span className="text-quiet">OKLab</span>
      </p>
      <p className="mt-1 text-quiet">
        sheet {sheet.width} × {sheet.height}: {bytes(sheet.bytes)} file, {bytes(memory.plain)} in memory, {bytes(memory.blocks8)} in blocks
      </p>
      <p className={isSmaller ? 'text-quiet' : 'font-medium'}>
        {isSmaller
          ? `${Math.max(1, Math.round(source.bytes / sheet.bytes))} times smaller than now`
          : `Not smaller: ${bytes(source.bytes)} leave now`}
      </p>
    </>
  );
}
