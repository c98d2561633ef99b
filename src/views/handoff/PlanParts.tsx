import { byId, withId } from '@/core/ground/byId';
import { useState } from 'react';
import { ChevronDown, ChevronRight, Plus, X } from 'lucide-react';
import { leaveDefaults } from '@/core/kit/leaveOptions';
import { formatIds, newPart, partFormats, pathFields, withEach, withVariants, type FormatId } from '@/core/kit/handOffPlan';
import type { HandOff, HandOffPart, Model } from '@/core/kit/kit';
import { writtenFormats } from '@/core/ground/palettes/paletteFile';
import { useEditor } from '@/state/kit/editor';
import { changePlan } from '@/state/files/plans';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { LeaveFields } from './LeaveFields';
import { PlanField } from './PlanField';

/** The files of a plan, format by format. */
export function PlanParts({ plan }: { plan: HandOff }) {
  const put = (parts: HandOffPart[]) => changePlan(plan, { parts });
  return (
    <div className="border-b border-hairline py-4">
      <h2 className="text-phrase font-bold">Files</h2>
      <p className="text-[#444]">A path may name {pathFields.map((f) => `{${f}}`).join(', ')}; a slash makes a folder.</p>
      <ul>
        {plan.parts.map((part, i) => (
          <Part
            key={i}
            part={part}
            number={i + 1}
            onChange={(to) => put(plan.parts.map((p, k) => (k === i ? to : p)))}
            onRemove={() => put(plan.parts.filter((_, k) => k !== i))}
          />
        ))}
      </ul>
      <Menu
        label="Add files"
        align="start"
        className="mt-3 inline-flex min-h-8 items-center gap-2 border border-ink bg-white px-3 font-medium hover:bg-wash"
        trigger={
          <>
            <Plus size={15} aria-hidden /> Add files
          </>
        }
        items={formatIds.map((id) => ({ label: partFormats[id].word, run: () => put([...plan.parts, newPart(id)]) }))}
      />
    </div>
  );
}

interface PartProps {
  part: HandOffPart;
  number: number;
  onChange: (to: HandOffPart) => void;
  onRemove: () => void;
}

function Part({ part, number, onChange, onRemove }: PartProps) {
  const [isOpen, setOpen] = useState(false);
  const hasVariants = useEditor((s) => s.state.kit.variants.length > 0);
  const format = partFormats[part.format as FormatId];
  const heeds: readonly (keyof typeof leaveDefaults)[] = format.heeds;
  return (
    <li className="border-t border-hairline py-2.5 first:mt-2">
      <div role="group" aria-label={`${format.word}, ${number}`} className="flex items-center gap-2">
        <span className="w-[92px] shrink-0 font-bold">{format.word}</span>
        {format.of === 'models' && (
          <Select
            label={`${format.word}: files`}
            value={part.each}
            options={[
              { value: 'model', word: 'each model' },
              { value: 'kit', word: 'all in one' },
            ]}
            onChange={(each) => onChange(withEach(part, each))}
            isQuiet
            className="w-[112px] shrink-0"
          />
        )}
        {hasVariants && part.format === 'sheet' && <Colorings part={part} onChange={onChange} />}
        <PlanField label="at" value={part.path} onChange={(path) => onChange({ ...part, path })} isWide />
        {part.format === 'sheet' && (
          <NumberField
            label="times"
            value={part.times ?? 1}
            least={1}
            most={64}
            onChange={(n) => onChange({ ...part, times: Math.round(n) })}
          />
        )}
        {part.format === 'palette' && (
          <Select
            label="Kind of palette"
            value={part.palette ?? 'gpl'}
            options={writtenFormats.map(([value, { words }]) => ({ value: value as string, word: words }))}
            onChange={(palette) => onChange({ ...part, palette })}
            isQuiet
            className="w-[130px] shrink-0"
          />
        )}
        {heeds.length > 0 && (
          <Button
            kind="bare"
            className="px-1"
            aria-expanded={isOpen}
            aria-label={`How ${format.word} leaves`}
            onClick={() => setOpen(!isOpen)}
          >
            {isOpen ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />} how
          </Button>
        )}
        <Button kind="bare" className="px-1.5" aria-label={`Remove ${format.word}, ${number}`} onClick={onRemove}>
          <X size={15} aria-hidden />
        </Button>
      </div>
      {isOpen && (
        <div className="mt-2 flex flex-col gap-2.5 pl-[100px]">
          {hasVariants && <Colorings part={part} onChange={onChange} />}
          <LeaveFields
            options={{ ...leaveDefaults, ...part.options }}
            heeds={heeds}
            onChange={(to) => onChange({ ...part, options: { ...part.options, ...to } })}
          />
          {part.format === 'gltf' && (
            <PlanField label="Pictures at" value={part.pictures ?? ''} onChange={(pictures) => onChange({ ...part, pictures })} isWide />
          )}
          {part.each === 'model' && heeds.includes('as') && <Ways part={part} onChange={onChange} />}
        </div>
      )}
    </li>
  );
}

/** One file for all colorings, or for the default; or a file for each. */
function Colorings({ part, onChange }: Pick<PartProps, 'part' | 'onChange'>) {
  const { word, heeds } = partFormats[part.format as FormatId];
  const holdsAll = (heeds as readonly string[]).includes('variants');
  return (
    <Select
      label={`${word}: colorings`}
      value={part.variants ?? 'one'}
      options={[
        { value: 'one', word: holdsAll ? 'One file for all colorings' : 'The default coloring' },
        { value: 'apart', word: 'A file for each variant' },
      ]}
      onChange={(to) => onChange(withVariants(part, to === 'apart'))}
      isQuiet
      className="shrink-0 self-start"
    />
  );
}

const wayWords = { texture: 'on the texture', slots: 'as flat materials', colors: 'in the vertices' } as const;
type Way = keyof typeof wayWords;

/** Models whose colors leave in another way than the others. */
function Ways({ part, onChange }: Pick<PartProps, 'part' | 'onChange'>) {
  const models = useEditor((s) => s.state.kit.models);
  const own = models.filter((m) => part.ways?.[m.id]);
  const others = models.filter((m) => !part.ways?.[m.id]);
  const set = (model: Model, way: Way | null) => {
    const ways = withId<Way>(part.ways ?? byId(), model.id, way ?? undefined);
    const { ways: _, ...rest } = part;
    onChange(Object.keys(ways).length ? { ...rest, ways } : rest);
  };
  return (
    <ul className="flex flex-col gap-1.5">
      {own.map((m) => (
        <li key={m.id} className="flex items-center gap-2">
          <span className="min-w-0 truncate">{m.name} leaves</span>
          <Select
            label={`How ${m.name} leaves`}
            value={part.ways![m.id]!}
            options={(Object.keys(wayWords) as Way[]).map((value) => ({ value, word: wayWords[value] }))}
            onChange={(way) => set(m, way)}
            isQuiet
          />
          <Button kind="bare" className="px-1.5" aria-label={`${m.name} like the others`} onClick={() => set(m, null)}>
            <X size={14} aria-hidden />
          </Button>
        </li>
      ))}
      {others.length > 0 && models.length > 1 && (
        <li>
          <Select
            label="A model that leaves otherwise"
            value=""
            placeholder="a model that leaves otherwise…"
            options={others.map((m) => ({ value: m.id, word: m.name }))}
            onChange={(id) =>
              set(
                others.find((m) => m.id === id)!,
                (part.options.as ?? 'texture') === 'slots' ? 'texture' : 'slots',
              )
            }
            isQuiet
          />
        </li>
      )}
    </ul>
  );
}
