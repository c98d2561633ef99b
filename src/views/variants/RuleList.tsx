'use client';
import { ruleLimits } from '@/core/ground/limits';
import { X } from 'lucide-react';
import { exchangedFrom, exchangeRamp, meantCells, newRule } from '@/core/kit/colorings/rules';
import type { ColoringRule, Kit, Variant } from '@/core/kit/kit';
import { addDrawnRule, addRule, setRules } from '@/state/laying/variants';
import { useBase } from '@/state/kit/useCurrent';
import { swatch } from '@/state/chosen/pictures';
import { ColorField } from '@/ui/ColorField';
import { Menu } from '@/ui/Menu';
import { Select } from '@/ui/Select';

const titles: Record<ColoringRule['kind'], string> = {
  shift: 'Shift',
  toward: 'Toward a color',
  exchange: 'Ramps take others’ colors',
  drawn: 'Colors of a picture',
};

/** The rules that make a variant of the default, which can be tuned at any time; the kit shows them at once. */
export function RuleList({ variant }: { variant: Variant }) {
  const { kit } = useBase();
  const { rules = [] } = variant;
  const change = (index: number, rule: ColoringRule | null) =>
    setRules(
      variant.id,
      rules.flatMap((r, i) => (i === index ? (rule ?? []) : r)),
    );
  const ramps = kit.sheets.flatMap((s) => s.ramps);
  return (
    <section aria-label="Rules" className="mt-5">
      <h3 className="flex items-baseline justify-between font-bold">
        By rule
        <Menu
          label="Add a rule"
          trigger="add"
          className="border-b border-ink text-[12px] font-normal hover:bg-wash"
          note="Colors come from the default by rules, and follow when it changes."
          items={[
            { label: 'Shift lightness, strength, hue', run: () => addRule(variant.id, newRule.shift()) },
            { label: 'Toward a color: weather, night, snow', run: () => addRule(variant.id, newRule.toward('#9aa7ad')) },
            ...(ramps.length > 1 ? [{ label: 'Ramps take others’ colors', run: () => addRule(variant.id, newRule.exchange()) }] : []),
            ...kit.references.map((r) => ({ label: `Colors of ${r.name}`, run: () => void addDrawnRule(variant.id, r) })),
          ]}
        />
      </h3>
      <ol className="mt-1.5 space-y-3">
        {rules.map((rule, i) => (
          <li key={i} aria-label={`Rule ${i + 1}: ${titles[rule.kind]}`} className="border-l-2 border-ink pl-2.5">
            <div className="flex items-center justify-between">
              <span className="font-medium">{titles[rule.kind]}</span>
              <button
                type="button"
                aria-label={`Remove rule ${i + 1}`}
                onClick={() => change(i, null)}
                className="flex h-6 w-6 items-center justify-center hover:bg-hairline"
              >
                <X size={13} aria-hidden />
              </button>
            </div>
            <RuleFields rule={rule} kit={kit} onChange={(next) => change(i, next)} />
          </li>
        ))}
      </ol>
    </section>
  );
}

function RuleFields({ rule, kit, onChange }: { rule: ColoringRule; kit: Kit; onChange: (next: ColoringRule) => void }) {
  const percent = (v: number) => `${v > 0 ? '+' : ''}${Math.round(v * 100)} %`;
  switch (rule.kind) {
    case 'shift':
      return (
        <>
          <Slider
            word="Lightness"
            value={rule.lightness}
            limits={ruleLimits.lightness}
            says={percent}
            onChange={(lightness) => onChange({ ...rule, lightness })}
          />
          <Slider
            word="Strength"
            value={rule.strength}
            limits={ruleLimits.strength}
            says={(v) => `${Math.round(v * 100)} %`}
            onChange={(strength) => onChange({ ...rule, strength })}
          />
          <Slider
            word="Hue"
            value={rule.hue}
            limits={ruleLimits.hue}
            step={1}
            says={(v) => `${v}°`}
            onChange={(hue) => onChange({ ...rule, hue })}
          />
          <Meant rule={rule} kit={kit} onChange={onChange} />
        </>
      );
    case 'toward':
      return (
        <>
          <div className="grid grid-cols-[72px_28px_1fr] items-center gap-2 py-0.5">
            Color
            <input
              type="color"
              aria-label="Toward this color"
              value={rule.color}
              onChange={(e) => onChange({ ...rule, color: e.target.value })}
              className="h-6 w-7 border border-hairline bg-white p-0"
            />
            <ColorField label="Toward, as hex or a name" value={rule.color} onKeep={(color) => onChange({ ...rule, color })} />
          </div>
          <Slider
            word="Share"
            value={rule.share}
            limits={ruleLimits.share}
            says={(v) => `${Math.round(v * 100)} %`}
            onChange={(share) => onChange({ ...rule, share })}
          />
          <Meant rule={rule} kit={kit} onChange={onChange} />
        </>
      );
    case 'exchange':
      return <Exchange rule={rule} kit={kit} onChange={onChange} />;
    case 'drawn':
      return (
        <>
          <p className="text-[12px] text-quiet">
            From {kit.references.find((r) => r.id === rule.reference)?.name ?? 'a picture that is gone'}, dark to dark.
          </p>
          <Meant rule={rule} kit={kit} onChange={onChange} />
        </>
      );
  }
}

function Slider({
  word,
  value,
  limits: [least, most],
  step = 0.01,
  says,
  onChange,
}: {
  word: string;
  value: number;
  limits: readonly [number, number];
  step?: number;
  says: (value: number) => string;
  onChange: (value: number) => void;
}) {
  return (
    <label className="grid grid-cols-[72px_1fr_48px] items-center gap-2">
      {word}
      <input
        type="range"
        min={least}
        max={most}
        step={step}
        value={value}
        onChange={(e) => onChange(Number(e.target.value))}
        className="slider-plain"
      />
      <span className="text-right text-[12px]">{says(value)}</span>
    </label>
  );
}

/** Which ramps a rule is about, and which of their colors it leaves alone. */
function Meant({ rule, kit, onChange }: { rule: ColoringRule; kit: Kit; onChange: (next: ColoringRule) => void }) {
  const ramps = kit.sheets.flatMap((s) => s.ramps);
  const except = new Set(rule.except);
  const cells = meantCells(kit, rule).filter((c) => c.fill.kind !== 'spare' && c.fill.kind !== 'art');
  const { only: _, except: __, ...rest } = rule;
  const withMeant = (only: readonly string[] | undefined, left: ReadonlySet<number>) =>
    onChange({ ...rest, ...(only?.length && { only: [...only] }), ...(left.size && { except: [...left] }) } as ColoringRule);
  return (
    <>
      {ramps.length > 1 && (
        <div role="group" aria-label="Ramps that are meant" className="mt-1 flex flex-wrap gap-x-2.5 text-[12px]">
          {ramps.map((r) => {
            const isMeant = !rule.only || rule.only.includes(r.id);
            return (
              <button
                key={r.id}
                type="button"
                aria-pressed={isMeant}
                title={rule.only ? 'Also this ramp, or not' : 'Only this ramp'}
                onClick={() => {
                  const now = rule.only ?? [];
                  withMeant(now.includes(r.id) ? now.filter((id) => id !== r.id) : [...now, r.id], except);
                }}
                className="border-b border-transparent text-quiet aria-pressed:border-ink aria-pressed:text-ink"
              >
                {r.name}
              </button>
            );
          })}
          {rule.only && (
            <button type="button" onClick={() => withMeant(undefined, except)} className="border-b border-transparent hover:border-ink">
              all colors
            </button>
          )}
        </div>
      )}
      <div role="group" aria-label="Colors that are meant" className="mt-1.5 flex flex-wrap gap-1">
        {cells.map((c) => {
          const isMeant = !except.has(c.id);
          return (
            <button
              key={c.id}
              type="button"
              aria-pressed={isMeant}
              aria-label={c.role || 'a color without a role'}
              title={`${c.role || 'without a role'}: ${isMeant ? 'leave it alone' : 'take it, too'}`}
              onClick={() => {
                const next = new Set(except);
                if (isMeant) next.add(c.id);
                else next.delete(c.id);
                withMeant(rule.only, next);
              }}
              className={`relative h-5 w-5 ${isMeant ? '' : 'outline-1 -outline-offset-1 outline-ink'}`}
              style={{ background: swatch(c) }}
            >
              {!isMeant && (
                <X
                  size={18}
                  aria-hidden
                  className="absolute inset-px text-ink [filter:drop-shadow(0_0_1px_#fff)_drop-shadow(0_0_1px_#fff)]"
                />
              )}
            </button>
          );
        })}
      </div>
    </>
  );
}

/** For each ramp the one whose colors it takes. */
function Exchange({
  rule,
  kit,
  onChange,
}: {
  rule: Extract<ColoringRule, { kind: 'exchange' }>;
  kit: Kit;
  onChange: (next: ColoringRule) => void;
}) {
  const ramps = kit.sheets.flatMap((s) => s.ramps);
  return (
    <div className="space-y-1 pt-0.5">
      {ramps.map((r) => (
        <div key={r.id} className="grid grid-cols-[92px_1fr] items-center gap-2">
          <span className="truncate">{r.name}</span>
          <Select
            isQuiet
            label={`${r.name} takes the colors of`}
            value={exchangedFrom(kit, rule.cells, r)?.id ?? ''}
            options={[{ value: '', word: 'its own' }, ...ramps.filter((o) => o.id !== r.id).map((o) => ({ value: o.id, word: o.name }))]}
            onChange={(from) => onChange({ ...rule, cells: exchangeRamp(rule.cells, r, ramps.find((o) => o.id === from) ?? null) })}
          />
        </div>
      ))}
    </div>
  );
}
