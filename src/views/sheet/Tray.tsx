'use client';
import { Lock } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { usesOfCells } from '@/core/kit/colorings/usesOfCells';
import { lchFromHex } from '@/core/ground/color/hex';
import { isTextured, type Cell, type Fill, type Sheet } from '@/core/kit/kit';

import { singleColors } from '@/core/sheet/cells';
import { swatch } from '@/state/chosen/pictures';
import { chooseCell, currentRamp, openNewColor } from '@/state/color/coloring';
import { colorAndName } from '@/state/pick/regions';
import { middle, useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { InTurn } from '@/ui/InTurn';
import { count } from '@/ui/words';
import { CellPanel } from './CellPanel';
import { pointIn, useIsUnderPointer, type Uses } from './cellPointing';
import { PaletteChooser } from './PaletteChooser';
import { usageOf, usageWords } from '@/state/color/usage';
import { describe, roleOf } from './describe';
import { SheetMap } from './SheetMap';
import { useFillStyle } from './useFillStyle';
import { DefaultCorner, useDefaultFill } from '@/views/variants/DefaultCorner';
import { useLayByDrag } from './useLayByDrag';

/**
 * The sheet as a tray of colors: ramps as columns from dark to light, then single colors, then empty wells;
 * beside it the true sheet.
 */
export function Tray({ beside }: { beside?: ReactNode }) {
  const state = useEditor((s) => s.state);
  const uses = useMemo(() => usesOfCells(state), [state]);
  const sheet = useCurrent()?.sheet ?? state.kit.sheets[0]!;
  return (
    <div className="flex h-[192px] shrink-0 border-t border-ink bg-paper">
      <section aria-label="Colors" className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden">
        <InTurn>
          <Columns sheet={sheet} uses={uses} />
        </InTurn>
      </section>
      {beside}
      <section aria-label="Sheet" className="flex w-[316px] shrink-0 border-l border-hairline">
        <InTurn>
          <SheetMap sheet={sheet} uses={uses} />
          <CellPanel sheet={sheet} uses={uses} />
        </InTurn>
      </section>
    </div>
  );
}

function Columns({ sheet, uses }: { sheet: Sheet; uses: Uses }) {
  const byId = useMemo(() => new Map(sheet.cells.map((c) => [c.id, c])), [sheet]);
  const singleIds = singleColors(sheet);
  const single = singleIds.map((id) => byId.get(id)!);
  const bars = sheet.cells.filter((c) => isTextured(c.fill));
  const isClosed = sheet.frozen !== undefined && !sheet.frozen.appended;
  const spare = isClosed ? [] : sheet.cells.filter((c) => c.fill.kind === 'spare');
  const chosen = useColoring((s) => s.cell);
  const numbered = currentRamp(sheet, chosen);
  return (
    <div className="flex h-full min-w-max gap-[18px] px-5 pt-4">
      {sheet.ramps.map((ramp) => (
        <Column
          key={ramp.id}
          ramp={ramp.id}
          name={ramp.name}
          cells={ramp.cells.map((id) => byId.get(id)!)}
          uses={uses}
          numbers={ramp.cells === numbered}
        />
      ))}
      {chunks(single, single.length > 6 ? 5 : 3).map((cells, i) => (
        <Column
          key={`single ${cells[0]!.id}`}
          name={i === 0 ? 'Single colors' : '\u00a0'}
          cells={cells}
          uses={uses}
          numbers={numbered.includes(cells[0]!.id)}
          first={singleIds.indexOf(cells[0]!.id)}
          isNamed
        />
      ))}
      {bars.map((c) => (
        <Column key={c.id} name={roleOf(c)} cells={[c]} uses={uses} />
      ))}
      <div className="w-[84px] shrink-0" role="group" aria-label="Spare cells">
        <div className="flex h-[106px] flex-col gap-0.5">
          {spare.slice(0, 3).map((c) => (
            <Well key={c.id} cell={c} of={Math.min(3, spare.length)} />
          ))}
        </div>
        <p className="mt-1.5 text-[12px] leading-tight">
          {isClosed ? 'Frozen' : spare.length ? count(spare.length, 'spare cell') : 'No spare cell'}
        </p>
        <span className="flex flex-col items-start gap-0.5">
          <button
            type="button"
            onClick={() => useColoring.setState({ panel: { kind: 'new ramp', from: 0 } })}
            className="border-b border-[#999] text-[11px] hover:border-ink"
          >
            New ramp
          </button>
          <PaletteChooser>From a file</PaletteChooser>
        </span>
      </div>
    </div>
  );
}

function chunks<T>(list: readonly T[], size: number): T[][] {
  const out: T[][] = [];
  for (let i = 0; i < list.length; i += size) out.push(list.slice(i, i + size));
  return out;
}

function Column({
  name,
  cells,
  uses,
  ramp,
  numbers = false,
  first = 0,
  isNamed = false,
}: {
  name: string;
  cells: Cell[];
  uses: Uses;
  ramp?: string;
  numbers?: boolean;
  /** How many colors of the row that numbers choose from come before these. */
  first?: number;
  /** Each color shows its role. */
  isNamed?: boolean;
}) {
  const { faces, texels } = usageOf(uses, cells);
  // One below the other, or they would be cut.
  const words = [usageWords({ faces, texels: 0 }), usageWords({ faces: 0, texels })].filter(Boolean);
  return (
    <div className="w-[72px] shrink-0" role="group" aria-label={name.trim() || 'More single colors'}>
      <div className="flex h-[106px] flex-col gap-0.5">
        {cells.map((c, i) => (
          <CellButton
            key={c.id}
            cell={c}
            faces={uses.get(c.id)?.faces ?? 0}
            models={uses.get(c.id)?.models ?? 0}
            digit={numbers ? first + i + 1 : 0}
            isNamed={isNamed}
          />
        ))}
      </div>
      {ramp ? (
        <button
          type="button"
          aria-label={`Ramp ${name}: tune, add steps`}
          title="Tune this ramp, add steps"
          onClick={() => useColoring.setState({ panel: { kind: 'ramp', ramp } })}
          className="mt-1.5 block max-w-full truncate text-left text-[12px] leading-tight hover:underline"
        >
          {name}
        </button>
      ) : (
        <p className="mt-1.5 truncate text-[12px] leading-tight">{name}</p>
      )}
      <p className="text-[11px] leading-tight whitespace-pre text-quiet">{words.join('\n') || 'not used'}</p>
    </div>
  );
}

function CellButton({
  cell,
  faces,
  models,
  digit,
  isNamed,
}: {
  cell: Cell;
  faces: number;
  models: number;
  digit: number;
  isNamed: boolean;
}) {
  const isChosen = useColoring((s) => s.cell === cell.id);
  const draft = useColoring((s) => s.drafts[cell.id]);
  const isUnder = useIsUnderPointer(cell.id);
  const defaultFill = useDefaultFill(cell.id);
  const fill = draft ?? cell.fill;
  const styleOf = useFillStyle();
  const isPlain = fill.kind === 'solid';
  const [run, setRun] = useState<[number, number] | null>(null);
  const { handlers, isDragged } = useLayByDrag(cell.id, fill, setRun);
  return (
    <button
      type="button"
      aria-label={`${cell.role || 'Color without a role'}, ${count(faces, 'face')} on ${count(models, 'model')}${defaultFill ? ', differs from the default' : ''}${cell.locked ? ', locked' : ''}`}
      aria-pressed={isChosen}
      title={`${roleOf(cell)} ${describe(fill)}\n${defaultFill ? `By default ${describe(defaultFill)}. ` : ''}${isPlain ? '' : 'Click where its faces should sit. '}${fill.kind === 'gradient' ? 'Drag to lay the pick along it. ' : ''}Shift click: color the pick and name it so. Double click: edit`}
      {...handlers}
      onPointerEnter={() => useColoring.setState({ pointedCell: cell.id })}
      onPointerLeave={() => useColoring.setState({ pointedCell: 0 })}
      onFocus={(e) => e.currentTarget.matches(':focus-visible') && useColoring.setState({ pointedCell: cell.id })}
      onBlur={() => useColoring.setState({ pointedCell: 0 })}
      onClick={(e) => {
        if (isDragged.current) return;
        if (e.shiftKey) colorAndName(cell.id);
        else chooseCell(cell.id, isPlain ? middle : pointIn(e));
      }}
      onDoubleClick={() => useColoring.setState({ panel: { kind: 'edit', cell: cell.id } })}
      className={`relative min-h-0 flex-1 ${isChosen ? 'z-10 outline-2 outline-offset-2 outline-ink' : ''}`}
      style={styleOf(fill)}
    >
      {defaultFill && <DefaultCorner fill={defaultFill} />}
      {cell.locked && (
        <span aria-hidden title="Locked" className="absolute top-0.5 left-0.5 bg-paper p-px">
          <Lock size={10} strokeWidth={2.2} />
        </span>
      )}
      {isChosen && !isPlain && !run && <SeatPoint fill={fill} />}
      {run && fill.kind === 'gradient' && <Run axis={fill.axis} run={run} />}
      {isNamed && cell.role && (
        <span
          aria-hidden
          className="absolute inset-x-1 top-1/2 -translate-y-1/2 truncate pr-3 text-left text-[10.5px] leading-none"
          style={{ color: lchFromHex(swatch(cell)).l > 0.62 ? '#111' : '#fff' }}
        >
          {cell.role}
        </span>
      )}
      {isUnder && <span aria-hidden className="absolute inset-0 border-2 border-ink shadow-[inset_0_0_0_1.5px_#fff]" />}
      {digit > 0 && digit < 10 && (
        <span
          aria-hidden
          className="absolute right-0.5 bottom-0.5 min-w-[13px] bg-paper px-[3px] text-center text-[10px] leading-[13px] font-medium"
        >
          {digit}
        </span>
      )}
    </button>
  );
}

/** Where on a gradient a drag began, and where it is now. */
function Run({ axis, run: [from, to] }: { axis: 'x' | 'y'; run: [number, number] }) {
  const [least, most] = [Math.min(from, to) * 100, Math.max(from, to) * 100];
  const line =
    axis === 'x'
      ? { left: `${least}%`, width: `${most - least}%`, top: '50%', height: 2 }
      : { top: `${least}%`, height: `${most - least}%`, left: '50%', width: 2 };
  const place = (t: number) => (axis === 'x' ? { left: `${t * 100}%`, top: '50%' } : { top: `${t * 100}%`, left: '50%' });
  return (
    <span aria-hidden>
      <span className="absolute bg-white shadow-[0_0_0_1px_#111]" style={line} />
      <span className="absolute h-2 w-2 -translate-x-1/2 -translate-y-1/2 border-[1.5px] border-ink bg-white" style={place(from)} />
      <span
        className="absolute h-2.5 w-2.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-ink bg-white"
        style={place(to)}
      />
    </span>
  );
}

/** Where in a gradient or picture the phrase seats faces. */
function SeatPoint({ fill }: { fill: Fill }) {
  const [x, y] = useColoring((s) => s.point);
  const along =
    fill.kind === 'gradient' ? (fill.axis === 'x' ? { left: `${x * 100}%`, top: '50%' } : { left: '50%', top: `${y * 100}%` }) : null;
  return (
    <span
      aria-hidden
      className="absolute h-2 w-2 -translate-x-1/2 -translate-y-1/2 rounded-full border-[1.5px] border-ink bg-white"
      style={along ?? { left: `${x * 100}%`, top: `${y * 100}%` }}
    />
  );
}

function Well({ cell, of }: { cell: Cell; of: number }) {
  return (
    <button
      type="button"
      aria-label="Spare cell: make a new color"
      title="Spare: make a new color here"
      onClick={() => openNewColor(useColoring.getState().cell, false)}
      data-cell={cell.id}
      className="hatched min-h-0 border border-dashed border-[#8a8a8a] bg-white hover:border-ink hover:border-solid"
      style={{ height: `${100 / Math.max(3, of)}%` }}
    />
  );
}
