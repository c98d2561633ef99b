'use client';
import { Popover, RadioGroup } from 'radix-ui';
import { useState } from 'react';
import type { Cell } from '@/core/kit/kit';
import { canTake, proposeGoing, type Going, type GoingBy, type Offer } from '@/core/sheet/palette/whereColorsGo';
import { Choice } from '@/ui/Choice';
import { roleOf } from './describe';
import { useFillStyle } from './useFillStyle';

const proposals = [
  ['nearest', 'the nearest'],
  ['lightness', 'dark to dark'],
  ['order', 'in order'],
] as const;

/** What stands for a color that stays as it is. */
const stays = 'stays';

/**
 * Which of the offered colors each color of a sheet takes: a proposal, and a choice for each. Those that something
 * sits on cannot be left out where their sheet goes (`mayStay` is false).
 */
export function WhereColorsGo({
  cells,
  offers,
  going,
  onChange,
  mayStay,
}: {
  cells: readonly Cell[];
  offers: readonly Offer[];
  going: Going;
  onChange: (going: Going) => void;
  mayStay: boolean;
}) {
  const [by, setBy] = useState<GoingBy | ''>('nearest');
  const change = (cell: number, to: number | null) => {
    const next = new Map(going);
    if (to === null) next.delete(cell);
    else next.set(cell, to);
    setBy('');
    onChange(next);
  };
  return (
    <section aria-label="Which color goes where" className="my-3 border-t border-hairline pt-3">
      <h3 className="font-bold">Which goes where</h3>
      <div className="mt-1 mb-2 flex items-center justify-between gap-2 text-[12px]">
        <span className="text-quiet">Proposed</span>
        <Choice
          label="Propose"
          value={by}
          options={proposals.filter(([key]) => mayStay || key !== 'order')}
          onChange={(next) => {
            setBy(next);
            if (next) onChange(proposeGoing(cells, offers, next));
          }}
          className="border border-hairline"
        />
      </div>
      <ul className="max-h-64 overflow-y-auto">
        {cells.map((cell) => (
          <Row key={cell.id} cell={cell} offers={offers} to={going.get(cell.id) ?? null} onChange={change} mayStay={mayStay} />
        ))}
      </ul>
    </section>
  );
}

function Row({
  cell,
  offers,
  to,
  onChange,
  mayStay,
}: {
  cell: Cell;
  offers: readonly Offer[];
  to: number | null;
  onChange: (cell: number, to: number | null) => void;
  mayStay: boolean;
}) {
  const [isOpen, setOpen] = useState(false);
  const styleOf = useFillStyle();
  const paintOf = (offer: Offer) => (offer.kind === 'art' ? {} : styleOf(offer));
  const role = roleOf(cell);
  const word = to === null ? (mayStay ? 'stays' : 'choose') : nameOf(offers[to]!);
  return (
    <li className="flex items-center gap-2 py-[3px]">
      <span className="h-6 w-8 shrink-0" style={styleOf(cell.fill)} />
      <span className="min-w-0 flex-1 truncate text-[12px]" title={role}>
        {role}
      </span>
      <Popover.Root open={isOpen} onOpenChange={setOpen}>
        <Popover.Trigger
          aria-label={`${role} becomes ${word}`}
          className="flex h-7 w-[104px] shrink-0 items-center gap-1.5 border border-hairline bg-white px-1.5 text-[12px] hover:border-ink"
        >
          {to !== null && <span className="h-5 w-6 shrink-0" style={paintOf(offers[to]!)} />}
          <span className="truncate">{word}</span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="end" sideOffset={3} className="z-50 w-[292px] border border-ink bg-white p-2">
            <RadioGroup.Root
              aria-label={`What ${role} becomes`}
              value={to === null ? stays : String(to)}
              onValueChange={(value) => onChange(cell.id, value === stays ? null : Number(value))}
              className="flex max-h-56 flex-wrap gap-1 overflow-y-auto p-px"
            >
              {mayStay && (
                <RadioGroup.Item
                  value={stays}
                  onClick={(e) => e.detail > 0 && setOpen(false)}
                  className="h-7 w-full border border-hairline text-[12px] hover:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-paper"
                >
                  stays as it is
                </RadioGroup.Item>
              )}
              {offers.map((offer, i) =>
                canTake(cell, offer) ? (
                  <RadioGroup.Item
                    key={i}
                    value={String(i)}
                    aria-label={nameOf(offer)}
                    title={nameOf(offer)}
                    onClick={(e) => e.detail > 0 && setOpen(false)}
                    className="h-7 w-7 border border-hairline hover:border-ink data-[state=checked]:outline-2 data-[state=checked]:outline-offset-[-4px] data-[state=checked]:outline-white data-[state=checked]:border-[3px] data-[state=checked]:border-ink"
                    style={paintOf(offer)}
                  />
                ) : null,
              )}
            </RadioGroup.Root>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </li>
  );
}

const nameOf = (offer: Offer): string =>
  offer.kind === 'solid'
    ? offer.color
    : offer.kind === 'gradient'
      ? `${offer.stops[0]!.color} to ${offer.stops.at(-1)!.color}`
      : offer.kind;
