'use client';
import { MoreHorizontal, Play } from 'lucide-react';
import { useState } from 'react';
import type { Variant } from '@/core/kit/kit';
import { closePanel } from '@/state/chosen/coloringState';
import {
  chooseVariant,
  defaultWord,
  deleteVariant,
  differenceWords,
  makeVariant,
  nameVariant,
  problemOfVariantName,
  shiftVariant,
  startGameWith,
} from '@/state/laying/variants';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { SidePanel } from '@/views/sheet/SidePanel';
import { CostLine } from './CostLine';
import { DifferenceList } from './DifferenceList';
import { RuleList } from './RuleList';

/** The colorings of the kit: which one is changed, and what differs in it. `naming`: the one that is being given a name. */
export function VariantsPanel({ naming }: { naming?: string | undefined }) {
  const base = useBase();
  const chosen = useEditor((s) => s.variant);
  const modelId = useEditor((s) => s.modelId);
  const [renaming, setRenaming] = useState<string | null>(naming ?? null);
  const { variants, models, startsWith } = base.kit;
  const variant = variants.find((v) => v.id === chosen);
  const model = models.find((m) => m.id === modelId);
  const make = (wanted: Parameters<typeof makeVariant>[0]) => setRenaming(makeVariant(wanted));
  return (
    <SidePanel title="Variants" onClose={closePanel}>
      <ul aria-label="Colorings" className="-mx-4 border-y border-hairline">
        <Row
          name={defaultWord}
          hint="what variants start from"
          isChosen={chosen === null}
          isStart={!variants.some((v) => v.id === startsWith)}
          onChoose={() => chooseVariant(null)}
          items={startsWith === undefined ? [] : [{ label: 'Start a game with it', run: () => startGameWith(null) }]}
        />
        {variants.map((v, i) =>
          renaming === v.id ? (
            <NameField key={v.id} variant={v} onDone={() => setRenaming(null)} />
          ) : (
            <Row
              key={v.id}
              name={v.name}
              hint={[
                v.model === undefined ? '' : `of ${models.find((m) => m.id === v.model)?.name}`,
                differenceWords(base, v) || 'as the default',
              ]
                .filter(Boolean)
                .join(', ')}
              isChosen={v.id === chosen}
              isStart={startsWith === v.id}
              onChoose={() => chooseVariant(v.id)}
              items={[
                { label: 'Rename', run: () => setRenaming(v.id) },
                { label: 'Duplicate', run: () => make({ copyOf: v.id }) },
                ...(startsWith === v.id ? [] : [{ label: 'Start a game with it', run: () => startGameWith(v.id) }]),
                ...(i > 0 ? [{ label: 'Move up', run: () => shiftVariant(v.id, -1) }] : []),
                ...(i < variants.length - 1 ? [{ label: 'Move down', run: () => shiftVariant(v.id, 1) }] : []),
                'line',
                { label: 'Delete', run: () => deleteVariant(v.id) },
              ]}
            />
          ),
        )}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button {...(!renaming && { 'data-first': true })} kind={variants.length ? 'line' : 'solid'} onClick={() => make({})}>
          New variant
        </Button>
        {model && models.length > 1 && (
          <Button onClick={() => make({ name: `${model.name} variant`, model: model.id })} className="min-w-0">
            <span className="truncate">Only of {model.name}</span>
          </Button>
        )}
      </div>
      {variant ? (
        <>
          <RuleList variant={variant} />
          <DifferenceList variant={variant} />
          <CostLine variant={variant} />
        </>
      ) : (
        <p className="mt-4 text-quiet">
          {variants.length
            ? 'What you color now is the default. A variant shows it, too, wherever it says nothing else.'
            : 'A variant is another coloring of the same models: other colors in some cells, other cells under some faces. What it does not mention it takes from the default.'}
        </p>
      )}
    </SidePanel>
  );
}

function Row({
  name,
  hint,
  isChosen,
  isStart,
  onChoose,
  items,
}: {
  name: string;
  hint: string;
  isChosen: boolean;
  isStart: boolean;
  onChoose: () => void;
  items: Parameters<typeof Menu>[0]['items'];
}) {
  return (
    <li className={`flex items-center ${isChosen ? 'bg-ink text-paper' : 'hover:bg-wash'}`}>
      <button
        type="button"
        aria-pressed={isChosen}
        aria-label={`Color ${name}${isStart ? ', with which a game starts' : ''}`}
        onClick={onChoose}
        className="flex min-w-0 flex-1 items-center gap-2 py-1.5 pl-4 text-left"
      >
        <span className="min-w-0 flex-1">
          <span className="block truncate font-medium">{name}</span>
          <span className={`block truncate text-small ${isChosen ? 'text-[#bbb]' : 'text-quiet'}`}>{hint}</span>
        </span>
        {isStart && (
          <span title="A game starts with it" className="flex items-center gap-1 text-small">
            <Play size={11} aria-hidden /> start
          </span>
        )}
      </button>
      <span className="w-9 shrink-0 text-center">
        {items.length > 0 && (
          <Menu
            label={`More about ${name}`}
            trigger={<MoreHorizontal size={15} aria-hidden />}
            items={items}
            className={`inline-flex h-7 w-7 items-center justify-center ${isChosen ? 'hover:bg-[#333]' : 'hover:bg-hairline'}`}
          />
        )}
      </span>
    </li>
  );
}

/** The name is checked as it is typed; what cannot be kept is not. */
function NameField({ variant, onDone }: { variant: Variant; onDone: () => void }) {
  const [text, setText] = useState(variant.name);
  const problem = problemOfVariantName(variant.id, text);
  const finish = () => {
    if (!problem) nameVariant(variant.id, text);
    onDone();
  };
  return (
    <li className="px-4 py-1.5">
      <input
        autoFocus
        aria-label="Name of the variant"
        aria-invalid={problem !== null}
        aria-describedby="variant-name-problem"
        value={text}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setText(e.target.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter' && !problem) finish();
          if (e.key === 'Escape') onDone();
        }}
        className="w-full border-b-2 border-ink bg-white px-1"
      />
      <p id="variant-name-problem" role="status" className="min-h-[18px] pt-0.5 text-small text-quiet">
        {problem}
      </p>
    </li>
  );
}
