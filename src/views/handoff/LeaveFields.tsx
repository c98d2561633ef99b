import { leaveOptions, toAsk, type LeaveOption, type LeaveOptions } from '@/core/kit/leaveOptions';
import { useEditor } from '@/state/kit/editor';
import { Choice } from '@/ui/Choice';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Tick } from '@/ui/Tick';

/** How models leave: those of the options that a format heeds, as far as they make a difference. */
export function LeaveFields({
  options,
  heeds,
  onChange,
}: {
  options: LeaveOptions;
  heeds: readonly (keyof LeaveOptions)[];
  onChange: (to: Partial<LeaveOptions>) => void;
}) {
  const variants = useEditor((s) => s.state.kit.variants.length > 0);
  const nodes = useEditor((s) => s.state.kit.models.some(({ source }) => source.format === 'gltf' && source.files.length > 0));
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
      {toAsk(options, heeds, { variants, nodes }).map((key) => (
        <LeaveField
          key={key}
          option={leaveOptions[key] as LeaveOption<unknown>}
          value={options[key]}
          onChange={(to) => onChange({ [key]: to })}
        />
      ))}
    </div>
  );
}

function LeaveField({ option, value, onChange }: { option: LeaveOption<unknown>; value: unknown; onChange: (to: unknown) => void }) {
  const { label, asks, values } = option;
  switch (asks) {
    case 'row':
      return (
        <Choice
          label={label}
          value={value as string}
          options={values as [string, string][]}
          onChange={onChange}
          className="border border-ink"
        />
      );
    case 'tick': {
      const [on, off] = values.map(([own]) => own);
      return <Tick label={label} value={value === on} onChange={(is) => onChange(is ? on : off)} />;
    }
    case 'angle':
      return <NumberField label={label} value={value as number} least={0} most={180} onChange={onChange} />;
    default:
      return (
        <Select
          label={label}
          value={String(value)}
          options={values.map(([own, word]) => ({ value: String(own), word }))}
          {...(asks === 'unit' && { placeholder: `${value} to a metre` })}
          onChange={(to) => onChange(values.find(([own]) => String(own) === to)![0])}
          isQuiet
        />
      );
  }
}
