'use client';
import { proofDefaults } from '@/core/proof/finding';
import { useEditor } from '@/state/kit/editor';
import { changeProofing } from '@/state/proof/proof';

/** Where checks begin to speak; kept with the kit. */
export function ProofSettings() {
  const { mipLevels, stretch, materials } = useEditor((s) => s.state.kit.proof) ?? proofDefaults;
  const field = (label: string, key: 'mipLevels' | 'stretch' | 'materials', value: number, least: number, most: number, step = 1) => (
    <label className="flex items-center gap-1.5">
      {label}
      <input
        key={value}
        type="number"
        min={least}
        max={most}
        step={step}
        defaultValue={value}
        onBlur={(e) => {
          const wanted = Math.max(least, Math.min(most, Number(e.target.value) || least));
          if (wanted !== value) changeProofing({ [key]: step === 1 ? Math.round(wanted) : wanted });
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="h-7 w-[48px] border border-hairline px-1.5 text-right"
      />
    </label>
  );
  return (
    <div
      role="group"
      aria-label="Where checks begin to speak"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-t border-ink px-5 py-2.5 text-[12.5px]"
    >
      {field('Up to mip level', 'mipLevels', mipLevels, 0, 12)}
      {field('Stretch', 'stretch', stretch, 1.05, 100, 0.05)}
      {field('Materials', 'materials', materials, 1, 10_000)}
    </div>
  );
}
