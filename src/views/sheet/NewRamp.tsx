'use client';
import { useState } from 'react';
import { hexFromLch, lchFromHex } from '@/core/ground/color/hex';
import type { Lch } from '@/core/ground/color/oklab';
import { findCell, spareCells } from '@/core/kit/kit';
import { makeRamp, rampDefaults } from '@/core/sheet/ramp/makeRamp';
import { rampOf, swatchOf } from '@/core/sheet/cells';
import { sheetInHand } from '@/state/color/board';
import { closePanel } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { makeNewRamp } from '@/state/color/ramps';
import { Button } from '@/ui/Button';
import { count } from '@/ui/words';
import { LchSliders } from './LchSliders';
import { RampTuning, StepCount, tuningDefaults } from './RampTuning';
import { SidePanel } from './SidePanel';

/**
 * Steps from dark to light around one color: one that is there (it keeps its faces), or a new one. `from` 0:
 * a new one.
 */
export function NewRamp({ from }: { from: number }) {
  const kit = useEditor((s) => s.state.kit);
  const found = findCell(kit, from);
  const sheet = found?.sheet ?? sheetInHand();
  const isTied = found ? rampOf(found.sheet, from) !== null : true;
  const [lch, setLch] = useState<Lch>(() => lchFromHex(found && !isTied ? swatchOf(found.cell) : '#4f7d84'));
  const [name, setName] = useState(found && !isTied ? found.cell.role || 'new ramp' : 'new ramp');
  const [steps, setSteps] = useState(rampDefaults.steps);
  const [tuning, setTuning] = useState(tuningDefaults);
  const { colors, baseIndex } = makeRamp(hexFromLch(lch), { ...tuning, steps });
  const needed = colors.length - (isTied ? 0 : 1);
  const spare = spareCells(sheet).length;
  return (
    <SidePanel title={isTied ? 'A new ramp' : 'A ramp of this color'} onClose={closePanel}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          makeNewRamp(name.trim() || 'ramp', colors, baseIndex, isTied ? undefined : from);
        }}
      >
        <Strip colors={colors} base={baseIndex} />
        <label className="mt-3 flex items-center gap-2 text-[12px]">
          <span className="w-10">Name</span>
          <input
            aria-label="Name"
            value={name}
            maxLength={100}
            onChange={(e) => setName(e.target.value)}
            className="w-full border border-hairline bg-white px-2 py-1"
          />
        </label>
        <div className="my-3">
          <StepCount value={steps} onChange={setSteps} />
        </div>
        {isTied && <LchSliders value={lch} onChange={setLch} onDone={() => undefined} />}
        <RampTuning value={tuning} onChange={setTuning} />
        <div className="mt-3 flex items-center justify-between border-t border-hairline pt-3">
          <span className="max-w-[160px] text-[12px] text-quiet">
            {needed <= spare ? `Takes ${count(needed, 'spare cell')} of ${spare}.` : `Only ${spare} spare: the sheet grows, nothing moves.`}
          </span>
          <Button kind="solid" type="submit">
            Make the ramp
          </Button>
        </div>
      </form>
    </SidePanel>
  );
}

export function Strip({ colors, base }: { colors: readonly string[]; base: number }) {
  return (
    <div role="img" aria-label={`${colors.length} steps: ${colors.join(', ')}`} className="flex h-12">
      {colors.map((c, i) => (
        <span key={i} className="flex flex-1 items-end justify-center pb-1" style={{ background: c }}>
          {i === base && <span className="h-2 w-2 border border-ink bg-white" title="the color itself" />}
        </span>
      ))}
    </div>
  );
}
