'use client';
import { proofDefaults } from '@/core/judging/proof/finding';
import { useEditor } from '@/state/kit/editor';
import { changeProofing, dropBackground } from '@/state/proof/proof';
import { NumberField } from '@/ui/NumberField';
import { Tick } from '@/ui/Tick';

/** Where checks begin to speak; kept with the kit. */
export function ProofSettings() {
  const proof = useEditor((s) => s.state.kit.proof);
  const { mipLevels, stretch, materials, playSize, background } = { ...proofDefaults, ...proof };
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
      <NumberField
        label="Seen at px"
        hint="Pixels each way at which a model is seen in play"
        value={playSize}
        least={16}
        most={1024}
        onChange={(v) => changeProofing({ playSize: Math.round(v) })}
      />
      <Tick
        label="in front of"
        value={background !== undefined}
        onChange={(is) => (is ? changeProofing({ background: '#8fa3ad' }) : dropBackground())}
      />
      {background && (
        <input
          type="color"
          aria-label="Color behind the models"
          value={background}
          onChange={(e) => changeProofing({ background: e.target.value })}
          className="h-7 w-9 border border-ink bg-white"
        />
      )}
    </div>
  );
}
