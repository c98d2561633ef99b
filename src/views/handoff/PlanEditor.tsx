import { templateProblem } from '@/core/files/handoff/manifest';
import { usualIcon, usualList, usualManifest } from '@/core/kit/handOffPlan';
import type { HandOff } from '@/core/kit/kit';
import { changePlan } from '@/state/files/plans';
import { Choice } from '@/ui/Choice';
import { Tick } from '@/ui/Tick';
import { IconFields } from './IconFields';
import { PlanField } from './PlanField';
import { PlanParts } from './PlanParts';

/** All that a plan says, to be changed; each change is seen in the files at once. */
export function PlanEditor({ plan }: { plan: HandOff }) {
  const { manifest, icon, list } = plan;
  const problem = manifest && templateProblem(manifest.template);
  return (
    <section aria-label={`Plan ${plan.name}`} className="flex min-w-0 flex-col border-t border-ink">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-hairline py-4">
        <PlanField label="Name" value={plan.name} onChange={(name) => changePlan(plan, { name })} isWide />
        <PlanField label="Version" value={plan.version} onChange={(version) => changePlan(plan, { version })} />
      </div>
      <PlanParts plan={plan} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-hairline py-4">
        <h2 className="w-full text-phrase font-bold">Names in paths</h2>
        <Choice
          label="Letters"
          value={plan.letters}
          options={[
            ['kept', 'Letters kept'],
            ['small', 'small letters'],
          ]}
          onChange={(letters) => changePlan(plan, { letters })}
          className="border border-ink"
        />
        <Choice
          label="Between words"
          value={plan.between || 'none'}
          options={[
            ['-', 'fog-bell'],
            ['_', 'fog_bell'],
            ['none', 'fogbell'],
          ]}
          onChange={(to) => changePlan(plan, { between: to === 'none' ? '' : to })}
          className="border border-ink"
        />
      </div>
      <div className="border-b border-hairline py-4">
        <h2 className="text-phrase font-bold">
          <Tick
            label="A manifest"
            value={manifest !== undefined}
            onChange={(is) => (is ? changePlan(plan, { manifest: usualManifest }) : changePlan(plan, {}, ['manifest']))}
          />
        </h2>
        <p className="text-[#444]">A JSON file that says what left: version, description, each file with its size and checksum.</p>
        {manifest && (
          <div className="mt-2 flex flex-col gap-2">
            <div className="flex gap-4">
              <PlanField
                label="Path"
                value={manifest.path}
                onChange={(path) => changePlan(plan, { manifest: { ...manifest, path } })}
                isWide
              />
              <PlanField
                label="Description"
                value={plan.description}
                onChange={(description) => changePlan(plan, { description })}
                isWide
              />
            </div>
            <textarea
              aria-label="Template of the manifest"
              aria-invalid={problem ? true : undefined}
              value={manifest.template}
              maxLength={20_000}
              rows={9}
              spellCheck={false}
              onChange={(e) => changePlan(plan, { manifest: { ...manifest, template: e.target.value } })}
              onKeyDown={(e) => e.stopPropagation()}
              className="w-full resize-y border border-hairline bg-white p-2 font-mono text-[12px] leading-[1.45]"
            />
            {problem && (
              <p role="alert" className="font-bold">
                {problem}
              </p>
            )}
          </div>
        )}
      </div>
      <div className="flex items-baseline gap-6 border-b border-hairline py-4">
        <h2 className="shrink-0 text-phrase font-bold">
          <Tick
            label="A list for scripts"
            value={list !== undefined}
            onChange={(is) => (is ? changePlan(plan, { list: usualList }) : changePlan(plan, {}, ['list']))}
          />
        </h2>
        {list ? (
          <PlanField label="Path of the list" value={list.path} onChange={(path) => changePlan(plan, { list: { path } })} isWide />
        ) : (
          <p className="text-[#444]">Models, variants, sheets and their files, so that no name is spelled by hand.</p>
        )}
      </div>
      <div className="border-b border-hairline py-4">
        <h2 className="text-phrase font-bold">
          <Tick
            label="An icon"
            value={icon !== undefined}
            onChange={(is) => (is ? changePlan(plan, { icon: usualIcon }) : changePlan(plan, {}, ['icon']))}
          />
        </h2>
        {icon && <IconFields icon={icon} onChange={(to) => changePlan(plan, { icon: to })} />}
      </div>
      <Tick
        className="pt-4"
        label="Without the faces that cannot be seen from any side"
        value={plan.withoutUnseen === true}
        onChange={(is) => (is ? changePlan(plan, { withoutUnseen: true }) : changePlan(plan, {}, ['withoutUnseen']))}
      />
      <Tick
        className="py-4"
        label="It leaves only when nothing stands open in Proof"
        value={plan.onlyProven === true}
        onChange={(is) => (is ? changePlan(plan, { onlyProven: true }) : changePlan(plan, {}, ['onlyProven']))}
      />
    </section>
  );
}
