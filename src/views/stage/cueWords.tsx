'use client';
import { Command } from 'cmdk';
import { DropdownMenu, Popover } from 'radix-ui';
import { useState } from 'react';
import type { Coloring, Cue, Kit } from '@/core/kit/kit';
import { choicesOf, gone } from '@/core/kit/cues';
import { itemLook, Radio, Word } from '@/views/color/phraseWords';

type Option = readonly [key: string, word: string];

/** Longer lists are searched. */
const mostListed = 24;
/** What a search shows at most. */
const mostFound = 60;

/** A word of a cue that is one of a list of what is there; what is gone stands out until another is chosen. */
export function ListWord({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange: (key: string) => void;
}) {
  const word = options.find(([key]) => key === value)?.[1];
  const shown = word ?? (options.length ? 'choose…' : 'nothing');
  if (options.length > mostListed) return <SearchWord label={label} shown={shown} isOpen={word === undefined} {...{ options, onChange }} />;
  return (
    <span className={word === undefined ? 'bg-ink px-1 text-paper' : ''}>
      <Word label={label} value={shown}>
        <Radio value={value} options={options.map(([key, w]) => [key, w, ''] as const)} onChange={onChange} />
      </Word>
    </span>
  );
}

function SearchWord({
  label,
  shown,
  isOpen,
  options,
  onChange,
}: {
  label: string;
  shown: string;
  isOpen: boolean;
  options: readonly Option[];
  onChange: (key: string) => void;
}) {
  const [typed, setTyped] = useState('');
  const [is, setIs] = useState(false);
  const wanted = typed.trim().toLowerCase();
  const found = options.filter(([, word]) => word.toLowerCase().includes(wanted));
  return (
    <Popover.Root open={is} onOpenChange={setIs}>
      <Popover.Trigger
        aria-label={`${label}: ${shown}`}
        className={`border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper ${isOpen ? 'bg-ink text-paper' : ''}`}
      >
        {shown}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="z-50 w-64 border border-ink bg-white">
          <Command label={label} shouldFilter={false} loop>
            <Command.Input
              autoFocus
              value={typed}
              onValueChange={setTyped}
              placeholder="type to find"
              className="h-9 w-full border-b border-hairline px-3 outline-none"
            />
            <Command.List className="max-h-64 overflow-y-auto py-1">
              <Command.Empty className="px-3 py-2 text-quiet">Nothing is called so.</Command.Empty>
              {found.slice(0, mostFound).map(([key, word]) => (
                <Command.Item
                  key={key}
                  value={key}
                  onSelect={() => {
                    onChange(key);
                    setIs(false);
                  }}
                  className="flex min-h-7 cursor-pointer items-center px-3 data-[selected=true]:bg-ink data-[selected=true]:text-paper"
                >
                  {word}
                </Command.Item>
              ))}
              {found.length > mostFound && <p className="px-3 py-1 text-small text-quiet">and {found.length - mostFound} more</p>}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const defaultKey = 'default of the kit';
export const keyOf = (coloring: Coloring): string => coloring ?? defaultKey;
export const coloringOf = (key: string): Coloring => (key === defaultKey ? null : key);
export const wordOfColoring = ({ variants }: Pick<Kit, 'variants'>, coloring: Coloring): string =>
  coloring === null ? 'default' : (variants.find((v) => v.id === coloring)?.name ?? gone);

/** Names that stand in a sentence before the rest is counted. */
const mostNamed = 3;

/** Which colorings are meant, each to be ticked. */
export function ColoringsWord({ kit, cue, onChange }: { kit: Kit; cue: Cue; onChange: (among: Coloring[] | undefined) => void }) {
  const { all, meant } = choicesOf(kit, cue);
  const names = meant.slice(0, mostNamed).map((c) => wordOfColoring(kit, c));
  const more = meant.length - names.length;
  const shown =
    meant.length === 0
      ? 'choose…'
      : meant.length === all.length
        ? 'all colorings'
        : [...names, ...(more ? [`${more} more`] : [])].join(', ');
  return (
    <span className={meant.length ? '' : 'bg-ink px-1 text-paper'}>
      <Word label="Colorings" value={shown}>
        {all.map((c) => {
          const is = meant.includes(c);
          return (
            <DropdownMenu.CheckboxItem
              key={keyOf(c)}
              checked={is}
              onSelect={(e) => e.preventDefault()}
              onCheckedChange={() => {
                const next = all.filter((o) => (o === c ? !is : meant.includes(o)));
                onChange(next.length === all.length ? undefined : next);
              }}
              className={itemLook}
            >
              <span
                aria-hidden
                className="flex h-3.5 w-3.5 shrink-0 items-center justify-center border border-current text-[11px] leading-none"
              >
                {is ? '×' : ''}
              </span>
              {wordOfColoring(kit, c)}
            </DropdownMenu.CheckboxItem>
          );
        })}
      </Word>
    </span>
  );
}

/** A number within a sentence. */
export function NumberInSentence({
  label,
  value,
  unit,
  bounds: [least, most],
  onChange,
}: {
  label: string;
  value: number;
  unit: string;
  bounds: readonly [number, number];
  onChange: (value: number) => void;
}) {
  const take = (field: HTMLInputElement) => {
    const wanted = Number(field.value);
    const kept = Math.round(Math.max(least, Math.min(most, wanted)) * 10) / 10;
    const isNumber = field.value !== '' && Number.isFinite(wanted);
    field.value = String(isNumber ? kept : value);
    if (isNumber && kept !== value) onChange(kept);
  };
  return (
    <span className="whitespace-nowrap">
      <input
        key={value}
        type="number"
        aria-label={label}
        defaultValue={value}
        min={least}
        max={most}
        step={0.5}
        onBlur={(e) => take(e.currentTarget)}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') take(e.currentTarget);
        }}
        className="w-[38px] [appearance:textfield] border-b-2 border-ink bg-transparent text-center font-bold [&::-webkit-inner-spin-button]:hidden"
      />{' '}
      {unit}
    </span>
  );
}
