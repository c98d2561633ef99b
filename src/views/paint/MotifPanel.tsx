'use client';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { largestMotif } from '@/core/ground/limits';
import type { Edit } from '@/core/kit/edit/edit';
import { findCell } from '@/core/kit/kit';
import type { Motif } from '@/core/kit/patterns';
import { rampOf, swatchOf } from '@/core/sheet/cells';
import { isEmptyMotif, resizedMotif, withStep } from '@/core/sheet/paint/motifs';
import { motifsOf } from '@/state/paint/brushSets';
import { changeMotif, isOfKit, removeMotif } from '@/state/paint/motifs';
import { closePanel, useColoring } from '@/state/chosen/coloringState';
import { announce } from '@/state/told/announce';
import { useEditor } from '@/state/kit/editor';
import { arrows } from '@/ui/arrows';
import { Choice } from '@/ui/Choice';
import { NumberField } from '@/ui/NumberField';
import { SidePanel } from '@/views/sheet/SidePanel';
import { greyOf, MotifPicture } from './MotifPicture';

type Step = '-' | '0' | '+';
const stepWords: readonly (readonly [Step, string])[] = [
  ['-', 'Darker'],
  ['0', 'As it is'],
  ['+', 'Lighter'],
];
const wordOf = new Map(stepWords.map(([step, word]) => [step, word.toLowerCase()]));

/** A motif, drawn texel by texel; every press is an edit of its own. */
export function MotifPanel({ id }: { id: string }) {
  const kit = useEditor((s) => s.state.kit);
  const motif = motifsOf(kit).find((m) => m.id === id);
  const [ink, setInk] = useState<Step>('-');
  // It went by an undo, or with its kit.
  useEffect(() => {
    if (!motif) closePanel();
  }, [motif]);
  if (!motif) return null;
  const [width, height] = [motif.rows[0]!.length, motif.rows.length];
  const change = (after: Motif) => void changeMotif(after);
  return (
    <SidePanel title={`Motif: ${motif.name}`} onClose={closePanel}>
      {isOfKit(motif) ? (
        <label className="mb-3 flex items-center gap-2 text-[12px]">
          <span className="w-10">Name</span>
          <input
            key={motif.name}
            aria-label="Name"
            defaultValue={motif.name}
            maxLength={100}
            onBlur={(e) => e.target.value.trim() && change({ ...motif, name: e.target.value.trim() })}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            className="w-full border border-hairline bg-white px-2 py-1"
          />
        </label>
      ) : (
        <p className="mb-3 text-[12px] text-quiet">It came along. What you draw becomes a motif of your own.</p>
      )}
      <div className="mb-2 flex items-center justify-between text-[12px]">
        <span>A press sets</span>
        <Choice label="A press sets" value={ink} options={stepWords} onChange={setInk} className="border border-ink" />
      </div>
      <Grid key={id} motif={motif} ink={ink} />
      <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-2 text-[12px] [&_label]:justify-between">
        <NumberField label="Across" value={width} least={1} most={largestMotif} onChange={(w) => change(resizedMotif(motif, w, height))} />
        <NumberField label="Down" value={height} least={1} most={largestMotif} onChange={(h) => change(resizedMotif(motif, width, h))} />
        <NumberField
          label="Rows shift by"
          hint="Texels by which each row of tiles lies farther right than the one above"
          value={motif.shift ?? 0}
          least={0}
          most={largestMotif - 1}
          onChange={(shift) => change({ ...motif, shift })}
        />
        <NumberField
          label="and overlap by"
          hint="Texels by which rows lie over each other, every second one above its neighbours"
          value={motif.overlap ?? 0}
          least={0}
          most={height - 1}
          onChange={(overlap) => change({ ...motif, overlap })}
        />
      </div>
      <p className="mt-4 mb-1.5 text-[12px] font-medium">Side by side</p>
      <SideBySide motif={motif} />
      {isEmptyMotif(motif) && (
        <p role="status" className="mt-2 text-[12px] text-quiet">
          It has no step yet: painting with it changes nothing.
        </p>
      )}
      {isOfKit(motif) && (
        <button type="button" className="mt-4 border-b-2 border-ink text-[12px] font-medium hover:bg-wash" onClick={() => removeMotif(id)}>
          Delete this motif
        </button>
      )}
    </SidePanel>
  );
}

/** As it will look, on the ramp of the chosen color, in greys where that has none. */
function SideBySide({ motif }: { motif: Motif }) {
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const found = findCell(kit, chosen);
  const ramp = found && rampOf(found.sheet, chosen);
  const own = ramp && [-1, 0, 1].map((by) => ramp.cells[Math.max(0, Math.min(ramp.cells.length - 1, ramp.cells.indexOf(chosen) + by))]!);
  const colors = own?.map((c) => swatchOf(findCell(kit, c)!.cell));
  return <MotifPicture motif={motif} across={50} down={22} size={6} {...(colors && { colors })} />;
}

/** The texels of a motif: painted by dragging, or by keys. */
function Grid({ motif, ink }: { motif: Motif; ink: Step }) {
  const [width, height] = [motif.rows[0]!.length, motif.rows.length];
  const size = Math.min(28, Math.floor(300 / Math.max(width, height)));
  const [cursor, setCursor] = useState<readonly [number, number]>([0, 0]);
  const [isKeyed, setKeyed] = useState(false);
  const at: readonly [number, number] = [Math.min(cursor[0], width - 1), Math.min(cursor[1], height - 1)];
  const drag = useRef<{ step: Step; joins: Edit | null } | null>(null);
  const latest = () => motifsOf(useEditor.getState().state.kit).find((m) => m.id === motif.id);
  const set = ([x, y]: readonly [number, number], step: Step, joins: Edit | null = null): Edit | null => {
    const now = latest();
    const after = now && withStep(now, [[x, y]], step);
    return after && after !== now ? changeMotif(after, joins) : joins;
  };
  const texelUnder = (e: PointerEvent<HTMLElement>): readonly [number, number] => {
    const box = e.currentTarget.getBoundingClientRect();
    return [Math.floor((e.clientX - box.left) / size), Math.floor((e.clientY - box.top) / size)];
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const arrow = arrows.get(e.key);
    const typed = ['-', '0', '+'].find((s) => s === e.key) as Step | undefined;
    if (arrow) {
      const next = [Math.max(0, Math.min(width - 1, at[0] + arrow[0])), Math.max(0, Math.min(height - 1, at[1] + arrow[1]))] as const;
      setCursor(next);
      announce(`row ${next[1] + 1}, place ${next[0] + 1}: ${wordOf.get(motif.rows[next[1]]![next[0]] as Step)}`);
    } else if (typed) set(at, typed);
    else if (e.key === 'Enter' || e.key === ' ') set(at, motif.rows[at[1]]![at[0]] === ink ? '0' : ink);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      tabIndex={0}
      role="application"
      aria-label={`The motif, ${width} × ${height} texels. Arrow keys move, Enter sets, minus is darker, plus is lighter, 0 as it is.`}
      className="relative inline-block touch-none outline-none focus-visible:outline-2 focus-visible:outline-offset-2 focus-visible:outline-ink"
      style={{ width: width * size, height: height * size }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const [x, y] = texelUnder(e);
        // A second press on the same takes it back.
        const step = motif.rows[y]?.[x] === ink ? '0' : ink;
        drag.current = { step, joins: set([x, y], step) };
        setCursor([x, y]);
      }}
      onPointerMove={(e) => {
        // Of a motif that came along the first texel made a copy, which the panel shows in its place.
        if (drag.current && isOfKit(motif)) drag.current.joins = set(texelUnder(e), drag.current.step, drag.current.joins);
      }}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
      onKeyDown={onKeyDown}
      onFocus={(e) => setKeyed(e.currentTarget.matches(':focus-visible'))}
      onBlur={() => setKeyed(false)}
    >
      <svg width={width * size} height={height * size} className="block" aria-hidden>
        {motif.rows.flatMap((row, y) =>
          [...row].map((step, x) => (
            <g key={`${x} ${y}`}>
              <rect x={x * size} y={y * size} width={size} height={size} fill={greyOf[step as Step]} stroke="#fff" strokeWidth={1} />
              {step !== '0' && (
                <text
                  x={(x + 0.5) * size}
                  y={(y + 0.5) * size}
                  dy="0.35em"
                  textAnchor="middle"
                  fontSize={Math.min(13, size * 0.7)}
                  fill={step === '-' ? '#fff' : '#111'}
                >
                  {step === '-' ? '−' : '+'}
                </text>
              )}
            </g>
          )),
        )}
        {isKeyed && (
          <rect
            x={at[0] * size + 1.5}
            y={at[1] * size + 1.5}
            width={size - 3}
            height={size - 3}
            fill="none"
            stroke="#111"
            strokeWidth={2.5}
          />
        )}
      </svg>
    </div>
  );
}
