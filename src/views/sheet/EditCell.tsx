'use client';
import { usageWords } from '@/state/color/usage';
import { useEffect, useMemo, useState } from 'react';
import { usesInAll } from '@/core/kit/colorings/usesOfCells';
import { hexFromLch, lchFromHex } from '@/core/ground/color/hex';
import { findCell, solid, type Cell, type Fill } from '@/core/kit/kit';
import { isKept, rampOf } from '@/core/sheet/cells';
import { finishOf } from '@/core/sheet/finish';
import { lockColor, makeSpare, setCellFill, setCellRole } from '@/state/color/coloring';
import { closePanel, noDrafts, useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { swatch } from '@/state/chosen/pictures';
import { Button } from '@/ui/Button';
import { Tick } from '@/ui/Tick';
import { Choice } from '@/ui/Choice';
import { count } from '@/ui/words';
import { ArtEditor } from './ArtEditor';
import { FacesGoWhere } from './FacesGoWhere';
import { FinishEditor } from './FinishEditor';
import { CornersEditor, GradientEditor } from './GradientEditor';
import { SidePanel } from './SidePanel';
import { SolidEditor } from './SolidEditor';
import { useFillStyle } from './useFillStyle';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

type Kind = 'solid' | 'gradient' | 'corners';
const kinds: readonly (readonly [Kind, string])[] = [
  ['solid', 'One color'],
  ['gradient', 'Gradient'],
  ['corners', 'Four corners'],
];

/** Role and fill of a cell. Every model follows while it is tried; letting go keeps the change as one edit. */
export function EditCell({ id }: { id: number }) {
  const state = useEditor((s) => s.state);
  const draft = useColoring((s) => s.drafts[id]);
  const styleOf = useFillStyle();
  const found = findCell(state.kit, id);
  const isGone = !found || found.cell.fill.kind === 'spare';
  useEffect(() => {
    if (isGone) closePanel();
  }, [isGone]);
  if (isGone) return null;
  const { cell, sheet } = found;
  const isFixed = isKept(sheet, id);
  const fill = draft ?? cell.fill;
  const editing = {
    rect: cell.rect,
    onTry: (next: Fill) => useColoring.setState({ drafts: { [id]: next } }),
    onKeep: (next: Fill, isGoingOn = false) => setCellFill(id, next, { join: isGoingOn }),
  };
  return (
    <SidePanel title={isFixed ? 'Color' : 'Edit color'} onClose={closePanel}>
      <div className="flex items-stretch gap-3">
        <span aria-hidden className="w-14 shrink-0 border border-ink" style={styleOf(fill)} />
        <div className="min-w-0 flex-1">
          <RoleField key={cell.role} role={cell.role} onDone={(role) => setCellRole(id, role)} />
          {isFixed ? (
            <p className="mt-2 text-[12px] text-quiet uppercase">{swatch(cell)}</p>
          ) : fill.kind === 'art' ? (
            <p className="mt-2 text-[12px] text-quiet">
              Art, kept pixel for pixel: {cell.rect.w} × {cell.rect.h} texels
            </p>
          ) : (
            <Choice
              label="What the cell holds"
              value={fill.kind as Kind}
              options={kinds}
              onChange={(kind) => editing.onKeep(turnInto(kind, cell))}
              className="mt-1.5 border border-hairline [&>button]:px-2 [&>button]:whitespace-nowrap"
            />
          )}
        </div>
      </div>
      {!isFixed && fill.kind === 'solid' && (
        <SolidEditor key={id} id={id} stored={cell.fill.kind === 'solid' ? cell.fill : fill} {...editing} />
      )}
      {fill.kind === 'solid' && (
        <Tick
          label="Locked: no brush paints over its texels"
          value={cell.locked === true}
          onChange={(locked) => lockColor(id, locked)}
          className="mt-3 text-[12px]"
        />
      )}
      {!isFixed && fill.kind === 'art' && <ArtEditor id={id} fill={fill} onKeep={editing.onKeep} />}
      {!isFixed && fill.kind === 'gradient' && <GradientEditor fill={fill} {...editing} />}
      {!isFixed && fill.kind === 'corners' && <CornersEditor fill={fill} {...editing} />}
      {!isFixed && <FinishEditor id={id} finish={finishOf(cell)} color={swatch(cell)} />}
      {!isFixed && <Footer id={id} isStep={rampOf(sheet, id) !== null} isSolid={fill.kind === 'solid'} />}
    </SidePanel>
  );
}

/** The same color in another form, so that nothing jumps. */
function turnInto(kind: Kind, cell: Cell): Fill {
  const hex = swatch(cell);
  const lch = lchFromHex(hex);
  const dark = hexFromLch({ ...lch, l: Math.max(0.15, lch.l - 0.16) });
  const light = hexFromLch({ ...lch, l: Math.min(0.96, lch.l + 0.12) });
  switch (kind) {
    case 'solid':
      return solid(hex);
    case 'gradient': {
      const stops = [
        { at: 0, color: light },
        { at: 1, color: dark },
      ];
      return { kind, axis: cell.rect.w > cell.rect.h ? 'x' : 'y', mix: 'oklab', stops };
    }
    case 'corners':
      return { kind, mix: 'oklab', colors: [light, hex, hex, dark] };
  }
}

function Footer({ id, isStep, isSolid }: { id: number; isStep: boolean; isSolid: boolean }) {
  const state = useEditor((s) => s.state);
  const base = useBase();
  const uses = useMemo(() => usesInAll(base).get(id), [base, id]);
  const [isAsking, setAsking] = useState(false);
  const { sheet } = findCell(state.kit, id)!;
  const others = sheet.cells.filter((c) => c.id !== id && c.fill.kind !== 'spare');
  return (
    <div className="mt-3 border-t border-hairline pt-3">
      {!isAsking ? (
        <div className="flex items-center justify-between">
          <span className="text-[12px] text-quiet">
            {uses ? `${usageWords(uses)}${uses.models ? ` on ${count(uses.models, 'model')}` : ''} follow` : 'No face uses it'}
          </span>
          <span className="flex">
            {!isStep && isSolid && (
              <Button kind="bare" onClick={() => useColoring.setState({ panel: { kind: 'new ramp', from: id }, drafts: noDrafts })}>
                Make a ramp
              </Button>
            )}
            <Button kind="bare" className="-mr-3" onClick={() => (uses ? setAsking(true) : makeSpare(id, 0))}>
              Make it spare
            </Button>
          </span>
        </div>
      ) : (
        <>
          <OfAllColorings what="A cell is made spare, and its faces moved, as a change" className="mb-2" />
          <FacesGoWhere
            use={uses!}
            to={others}
            onDone={(to) => {
              setAsking(false);
              if (to !== null) makeSpare(id, to);
            }}
          />
        </>
      )}
    </div>
  );
}

/** Words that many kits use, offered while a role is typed. */
const roleSuggestions = [
  'in shade',
  'lit',
  'trim',
  'rope',
  'wood',
  'metal',
  'stone',
  'cloth',
  'glass',
  'skin',
  'leaf',
  'near black',
  'glow',
];

export function RoleField({ role, onDone, onType }: { role: string; onDone?: (role: string) => void; onType?: (role: string) => void }) {
  const [text, setText] = useState(role);
  const kit = useEditor((s) => s.state.kit);
  const roles = [...new Set([...kit.sheets.flatMap((s) => s.ramps.map((r) => r.name.toLowerCase())), ...roleSuggestions])];
  return (
    <label className="flex items-center gap-2 text-[12px]">
      <span className="w-8">Role</span>
      <input
        aria-label="Role"
        value={text}
        maxLength={200}
        placeholder="what it is for"
        list="role-suggestions"
        onChange={(e) => {
          setText(e.target.value);
          onType?.(e.target.value);
        }}
        onBlur={() => onDone?.(text.trim())}
        onKeyDown={(e) => e.key === 'Enter' && onDone && e.currentTarget.blur()}
        className="w-full border border-hairline bg-white px-2 py-1"
      />
      <datalist id="role-suggestions">
        {roles.map((r) => (
          <option key={r} value={r} />
        ))}
      </datalist>
    </label>
  );
}
