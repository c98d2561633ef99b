'use client';
import { useState } from 'react';
import { hexFromLch, lchFromHex } from '@/core/ground/color/hex';
import type { Lch } from '@/core/ground/color/oklab';
import { findCell, spareCells } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import { sheetInHand } from '@/state/color/board';
import { addColor, proposeColor } from '@/state/color/coloring';
import { closePanel } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/chosen/pickState';
import { Button } from '@/ui/Button';
import { ColorField } from '@/ui/ColorField';
import { count } from '@/ui/words';
import { RoleField } from './EditCell';
import { LchSliders } from './LchSliders';
import { SidePanel } from './SidePanel';

/** A new color from one that is there: nudged, named, and landed on a spare cell in one act; picked faces take it. */
export function NewColor({ from, onlyHere }: { from: number; onlyHere: boolean }) {
  const kit = useEditor((s) => s.state.kit);
  const picked = usePick((s) => s.count);
  const found = findCell(kit, from);
  const proposal = proposeColor(found?.cell);
  const source = found ? swatchOf(found.cell) : proposal.color;
  const [lch, setLch] = useState<Lch>(() => lchFromHex(onlyHere ? source : proposal.color));
  const [role, setRole] = useState(onlyHere ? `${found?.cell.role || 'color'}, only here` : proposal.role);
  const color = hexFromLch(lch);
  const sheet = sheetInHand();
  const spares = spareCells(sheet).length;
  return (
    <SidePanel title={onlyHere ? 'A color only here' : 'A new color from this one'} onClose={closePanel}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          addColor(color, role.trim(), from);
        }}
      >
        <div className="mb-3 flex items-stretch">
          <span className="h-14 flex-1 border border-r-0 border-ink" style={{ background: source }} title={found?.cell.role} />
          <span className="h-14 flex-[2] border border-ink" style={{ background: color }} />
        </div>
        <RoleField role={role} onType={setRole} />
        <label className="mt-2 flex items-center gap-2 text-[12px]">
          <span className="w-8 shrink-0">Hex</span>
          <ColorField
            label="Hex or name"
            value={color}
            onKeep={(hex) => setLch(lchFromHex(hex))}
            onTry={(hex) => hex && setLch(lchFromHex(hex))}
          />
        </label>
        <div className="mt-3">
          <LchSliders value={lch} onChange={setLch} onDone={() => undefined} />
        </div>
        <div className="mt-2 flex items-center justify-between border-t border-hairline pt-3">
          <span className="max-w-[150px] text-[12px] text-quiet">
            {picked ? `${count(picked, 'picked face')} will take it. ` : ''}
            {spares ? `${spares} spare.` : 'None spare: the sheet grows, nothing moves.'}
          </span>
          <Button kind="solid" type="submit">
            Make the color
          </Button>
        </div>
      </form>
    </SidePanel>
  );
}
