'use client';
import { proofDefaults } from '@/core/proof/finding';
import { useEditor } from '@/state/kit/editor';
import { changeProofing } from '@/state/proof/proof';
import { NumberField } from '@/ui/NumberField';

/** Where checks begin to speak; kept with the kit. */
export function ProofSettings() {
  const { mipLevels, stretch, materials } = useEditor((s) => s.state.kit.proof) ?? proofDefaults;
  return (
    <div
      role="group"
      aria-label="Where checks begin to speak"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-t border-ink px-5 py-2.5 text-[12.5px]"
    >
      <NumberField
        label="Up to mip level"
        value={mipLevels}
        least={0}
        most={12}
        onChange={(v) => changeProofing({ mipLevels: Math.round(v) })}
      />
      <NumberField label="Stretch" value={stretch} least={1.05} most={100} step={0.05} onChange={(v) => changeProofing({ stretch: v })} />
      <NumberField
        label="Materials"
        value={materials}
        least={1}
        most={10_000}
        onChange={(v) => changeProofing({ materials: Math.round(v) })}
      />
    </div>
  );
}
