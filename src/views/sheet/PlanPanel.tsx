'use client';
import { sheetInColorings } from '@/core/kit/colorings/shown';
import { useBase } from '@/state/kit/useCurrent';
import { type ById, byId, withId } from '@/core/ground/byId';
import { wordsOf } from '@/core/ground/wordsOf';
import { Minus, Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { usesInAll } from '@/core/kit/colorings/usesOfCells';
import { planColors, readRoles, type PlannedColor, type PlannedRole } from '@/core/sheet/plan/planColors';
import { planSheet } from '@/core/sheet/plan/planEdit';
import { applyEdit } from '@/core/kit/edit/editKinds';
import type { Edit } from '@/core/kit/edit/edit';
import { findSheet } from '@/core/kit/kit';
import { exactnessOf } from '@/core/sheet/relay';
import { colorsInOrder } from '@/core/sheet/order';
import { attempt, selectCells } from '@/state/color/board';
import { closePanel } from '@/state/chosen/coloringState';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { ColorField } from '@/ui/ColorField';
import { count } from '@/ui/words';
import { SheetPicture } from './SheetPicture';
import { SidePanel } from './SidePanel';

const stepChoices = (['1', '2', '3', '4', '5'] as const).map((n) => [n, n] as const);
const origins: Record<PlannedColor['from'], string> = {
  name: 'from its name',
  given: 'as given',
  spread: 'no word known: apart from the others',
};

/** Spare cells, where the list asks for no other number. */
const usualSpares = 2;

/** Roles typed or pasted become ramps on the smallest sheet that holds them. */
export function PlanPanel({ sheetId }: { sheetId: string }) {
  const state = useBase();
  const sheet = findSheet(state.kit, sheetId);
  const used = useMemo(() => new Set(usesInAll(state).keys()), [state]);
  const [text, setText] = useState('');
  const [steps, setSteps] = useState(3);
  const [own, setOwn] = useState<ById<Partial<PlannedRole>>>(byId());
  const [keepUnused, setKeepUnused] = useState(false);
  const unused = colorsInOrder(sheet).filter((c) => !used.has(c.id)).length;
  const present = colorsInOrder(sheet)
    .filter((c) => keepUnused || used.has(c.id))
    .map((c) => (c.fill.kind === 'solid' ? c.fill.color : ''));
  const list = readRoles(text, steps);
  const spares = list.spares ?? usualSpares;
  const roles: PlannedRole[] = list.roles.map((r) => ({ ...r, ...own[r.name.toLowerCase()] }));
  const change = (name: string, to: Partial<PlannedRole>) => setOwn(withId(own, name.toLowerCase(), { ...own[name.toLowerCase()], ...to }));
  const planned = planColors(roles, present);
  const total = planned.reduce((sum, p) => sum + p.colors.length, 0);
  const outcome = total
    ? tryPlan(() =>
        planSheet(state, sheetId, planned, used, { exactTo: exactnessOf(sheetInColorings(state.kit, sheet)), spares, keepUnused }),
      )
    : null;
  const after = outcome && typeof outcome !== 'string' ? findSheet(applyEdit(state, outcome).kit, sheetId) : null;
  return (
    <SidePanel title="Plan colors from a list" onClose={closePanel}>
      <label className="block">
        <span className="mb-1 block text-[12px] text-quiet">Roles, one a line or divided by commas</span>
        <textarea
          aria-label="Roles"
          value={text}
          onChange={(e) => setText(e.target.value)}
          rows={4}
          placeholder={'sail, rope, brass, tar, lichen, wet sand'}
          className="w-full resize-y border border-hairline bg-white px-2 py-1.5"
        />
      </label>
      <div className="mt-2 flex items-center justify-between">
        <span>Steps of each, dark to light</span>
        <Choice
          label="Steps of each"
          value={String(steps) as '3'}
          options={stepChoices}
          onChange={(v) => setSteps(Number(v))}
          className="border border-hairline"
        />
      </div>
      {planned.length === 0 ? (
        <p className="mt-3 text-[12px] text-quiet">
          Words for things, materials and colors bring their color along: sail, wet sand, rusty iron, dark blue trousers. Others are given
          colors that stay apart. “rope 2” has two steps, “skin #5d7f3c” its color, “3 spare” leaves room. A table can be pasted.
        </p>
      ) : (
        <ul aria-label="Planned colors" className="mt-3 max-h-[266px] space-y-1 overflow-y-auto">
          {planned.map((p, i) => (
            <PlannedRow key={p.name} planned={p} steps={roles[i]!.steps} onChange={(to) => change(p.name, to)} />
          ))}
        </ul>
      )}
      {unused > 0 && (
        <label className="mt-3 flex items-center gap-2">
          <input type="checkbox" checked={keepUnused} onChange={(e) => setKeepUnused(e.target.checked)} className="h-4 w-4 accent-ink" />
          Keep {count(unused, 'color')} that no face uses
        </label>
      )}
      <div className="mt-3 flex items-end justify-between border-t border-hairline pt-3">
        {after ? (
          <span className="flex items-end gap-3">
            <SheetPicture sheet={after} side={56} className="border border-ink bg-white" />
            <span className="text-[12px]">
              <strong className="block">
                {after.width} × {after.height} texels
              </strong>
              <span className="text-quiet">
                {count(total, 'new color')}, {count(spares, 'spare cell')}
              </span>
            </span>
          </span>
        ) : (
          <span className="max-w-[170px] text-[12px]">{outcome as string | null}</span>
        )}
        <Button
          kind="solid"
          disabled={!after}
          onClick={() => {
            if (!attempt(() => outcome as Edit, `${count(total, 'color')} planned`)) return;
            closePanel();
            selectCells([]);
          }}
        >
          Lay them out
        </Button>
      </div>
    </SidePanel>
  );
}

function tryPlan(make: () => Edit): Edit | string {
  try {
    return make();
  } catch (error) {
    return wordsOf(error);
  }
}

function PlannedRow({ planned, steps, onChange }: { planned: PlannedColor; steps: number; onChange: (to: Partial<PlannedRole>) => void }) {
  const [isOpen, setOpen] = useState(false);
  const button = 'flex h-6 w-6 items-center justify-center border border-hairline bg-white hover:border-ink disabled:text-[#b4b4b4]';
  return (
    <li className="flex items-center gap-2">
      <span className="min-w-0 flex-1">
        <span className="block truncate" title={planned.name}>
          {planned.name}
        </span>
        <span className="block truncate text-[11px] text-quiet">{origins[planned.from]}</span>
      </span>
      {isOpen ? (
        <span className="w-[96px] shrink-0">
          <ColorField
            label={`Color of ${planned.name}`}
            value={planned.colors[planned.baseIndex]!}
            onKeep={(color) => onChange({ color })}
            onLeave={() => setOpen(false)}
            isFocused
          />
        </span>
      ) : (
        <button
          type="button"
          aria-label={`${planned.name}: ${planned.colors.join(', ')}. Change its color`}
          title="Change its color"
          onClick={() => setOpen(true)}
          className="flex h-7 w-[96px] shrink-0 border border-transparent hover:border-ink"
        >
          {planned.colors.map((c, i) => (
            <span key={i} className="h-full flex-1" style={{ background: c }} />
          ))}
        </button>
      )}
      <span className="flex shrink-0">
        <button
          type="button"
          aria-label={`Fewer steps of ${planned.name}`}
          disabled={steps <= 1}
          onClick={() => onChange({ steps: steps - 1 })}
          className={button}
        >
          <Minus size={11} aria-hidden />
        </button>
        <button
          type="button"
          aria-label={`More steps of ${planned.name}`}
          disabled={steps >= 9}
          onClick={() => onChange({ steps: steps + 1 })}
          className={`${button} -ml-px`}
        >
          <Plus size={11} aria-hidden />
        </button>
      </span>
    </li>
  );
}
