'use client';
import { useEffect, useMemo, useState } from 'react';
import { hexFromLch, lchFromHex, parseHex } from '@/core/color/hex';
import type { Lch } from '@/core/color/oklab';
import { usesOfCells } from '@/core/budget/tally';
import { findCell } from '@/core/kit/kit';
import { rampOf } from '@/core/sheet/cells';
import { makeSpare, setCellColor, setCellRole } from '@/state/coloring';
import { closePanel, noDrafts, useColoring } from '@/state/coloringState';
import { useEditor } from '@/state/editor';
import { Button } from '@/ui/Button';
import { count } from '@/ui/words';
import { FacesGoWhere } from './FacesGoWhere';
import { LchSliders } from './LchSliders';
import { SidePanel } from './SidePanel';

/** Role and color of a cell. Every model follows while a slider is dragged; letting go keeps the change as one edit. */
export function EditCell({ id }: { id: number }) {
  const state = useEditor((s) => s.state);
  const recent = useColoring((s) => s.recent);
  const found = findCell(state.kit, id);
  const stored = found?.cell.fill.kind === 'solid' ? found.cell.fill.color : '#000000';
  const [lch, setLch] = useState<Lch>(() => lchFromHex(stored));
  const [basis, setBasis] = useState(stored);
  const [text, setText] = useState<string | null>(null);
  const [isAsking, setAsking] = useState(false);
  const uses = useMemo(() => usesOfCells(state).get(id), [state, id]);
  // Undo and the like change the color under the open panel.
  if (stored !== basis) {
    setBasis(stored);
    if (hexFromLch(lch) !== stored) setLch(lchFromHex(stored));
  }
  useEffect(() => {
    if (!found || found.cell.fill.kind !== 'solid') closePanel();
  }, [found]);
  if (!found) return null;
  const color = hexFromLch(lch);
  const preview = (next: Lch) => {
    setLch(next);
    useColoring.setState({ drafts: { [id]: hexFromLch(next) } });
  };
  const keep = (hex: string) => {
    setLch(lchFromHex(hex));
    setCellColor(id, hex);
  };
  const others = found.sheet.cells.filter((c) => c.id !== id && c.fill.kind !== 'spare');
  return (
    <SidePanel title="Edit color" onClose={closePanel}>
      <div className="flex items-end gap-3">
        <span aria-hidden className="h-14 w-14 shrink-0 border border-ink" style={{ background: color }} />
        <div className="min-w-0 flex-1">
          <RoleField key={found.cell.role} role={found.cell.role} onDone={(role) => setCellRole(id, role)} />
          <label className="mt-1.5 flex items-center gap-2 text-[12px]">
            <span className="w-8">Hex</span>
            <input
              aria-label="Hex"
              value={text ?? color}
              onChange={(e) => {
                setText(e.target.value);
                const hex = parseHex(e.target.value);
                if (hex) useColoring.setState({ drafts: { [id]: hex } });
              }}
              onBlur={() => {
                const hex = text === null ? null : parseHex(text);
                setText(null);
                if (hex) keep(hex);
                else useColoring.setState({ drafts: noDrafts });
              }}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
              aria-invalid={text !== null && !parseHex(text)}
              className="w-full border border-hairline bg-white px-2 py-1 aria-invalid:border-dashed aria-invalid:border-ink"
            />
          </label>
        </div>
      </div>
      <div className="mt-3">
        <LchSliders value={lch} onChange={preview} onDone={(next, join) => setCellColor(id, hexFromLch(next), { join })} />
      </div>
      {recent.length > 0 && (
        <div role="group" aria-label="Recent colors" className="mt-1 flex items-center gap-1.5">
          <span className="mr-1 text-[12px] text-quiet">Recent</span>
          {recent.map((hex) => (
            <button
              key={hex}
              type="button"
              aria-label={`Use ${hex}`}
              title={hex}
              onClick={() => keep(hex)}
              className="h-6 w-6 border border-hairline hover:border-ink"
              style={{ background: hex }}
            />
          ))}
        </div>
      )}
      <div className="mt-3 border-t border-hairline pt-3">
        {!isAsking ? (
          <div className="flex items-center justify-between">
            <span className="text-[12px] text-quiet">
              {uses ? `${count(uses.faces, 'face')} on ${count(uses.models, 'model')} follow` : 'No face uses it'}
            </span>
            <span className="flex">
              {!rampOf(found.sheet, id) && (
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
          <FacesGoWhere
            faces={uses?.faces ?? 0}
            to={others}
            onDone={(to) => {
              setAsking(false);
              if (to !== null) makeSpare(id, to);
            }}
          />
        )}
      </div>
    </SidePanel>
  );
}

export function RoleField({ role, onDone, onType }: { role: string; onDone?: (role: string) => void; onType?: (role: string) => void }) {
  const [text, setText] = useState(role);
  return (
    <label className="flex items-center gap-2 text-[12px]">
      <span className="w-8">Role</span>
      <input
        aria-label="Role"
        value={text}
        maxLength={200}
        placeholder="what it is for"
        onChange={(e) => {
          setText(e.target.value);
          onType?.(e.target.value);
        }}
        onBlur={() => onDone?.(text.trim())}
        onKeyDown={(e) => e.key === 'Enter' && onDone && e.currentTarget.blur()}
        className="w-full border border-hairline bg-white px-2 py-1"
      />
    </label>
  );
}
