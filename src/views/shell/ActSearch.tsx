'use client';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useCallback, useMemo, useState } from 'react';
import { useEditor } from '@/state/kit/editor';
import { Key } from '@/ui/Button';
import { actGroups, type Act, type ActGroup } from './acts';
import { useGo } from '@/views/shell/ViewLink';

/** By what the list knows an act. */
const nameOf = ({ says, key = '' }: Act): string => `${says} ${key}`.trim();

/** How well words fit an act: all of them must be in it, better at the beginning of a word, and in fewer words. */
function fit({ says, words = '' }: Act, typed: string): number {
  const text = ` ${says} ${words}`.toLowerCase();
  const terms = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const scores = terms.map((t) => (text.includes(` ${t}`) ? 1 : text.includes(t) ? 0.5 : 0));
  return scores.reduce<number>((product, s) => product * s, 1 - Math.min(0.4, says.length / 500));
}

/** Acts that typed words fit, the best first; all by subject where nothing is typed. */
function found(groups: readonly ActGroup[], typed: string): readonly ActGroup[] {
  if (!typed.trim()) return groups;
  const acts = groups.flatMap((g) => g.acts).map((act) => ({ act, score: fit(act, typed) }));
  const fitting = acts.filter((a) => a.score > 0).sort((a, b) => b.score - a.score);
  return fitting.length ? [{ name: 'Found', acts: fitting.map((a) => a.act) }] : [];
}

/** All that can be done, to be found by its words; it runs, and shows the key by which it goes faster. */
export default function ActSearch({
  begin,
  onClose,
  onRun,
}: {
  /** What was typed before it stood there. */
  begin: () => string;
  onClose: () => void;
  onRun: (act: Act) => void;
}) {
  const [typed, setTyped] = useState('');
  const [chosen, setChosen] = useState('');
  const kit = useEditor((s) => s.state.kit.id);
  const go = useGo();
  const groups = useMemo(() => actGroups((view) => void go(`/kit/${kit}/${view}`)), [kit, go]);
  const type = useCallback(
    (text: string) => {
      setTyped(text);
      const [first] = found(groups, text).flatMap((g) => g.acts);
      setChosen(first ? nameOf(first) : '');
    },
    [groups],
  );
  return (
    <Dialog.Root open onOpenChange={(is) => !is && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[560px] -translate-x-1/2 border border-ink bg-paper outline-none"
        >
          <Dialog.Title className="sr-only">What can be done</Dialog.Title>
          <Command label="What can be done" loop shouldFilter={false} value={chosen} onValueChange={setChosen}>
            <Command.Input
              value={typed}
              onValueChange={type}
              // From here on it is typed into by itself.
              onFocus={() => {
                const early = begin();
                if (early) type(early);
              }}
              autoFocus
              placeholder="grow, mirror, spare, lasso, undo…"
              className="h-12 w-full border-b border-ink bg-white px-4 text-[15px] outline-none placeholder:text-[#767676]"
            />
            <Command.List className="max-h-[54vh] overflow-y-auto p-2">
              <Command.Empty className="px-2 py-4 text-quiet">Nothing is called so. Try another word for it.</Command.Empty>
              {found(groups, typed).map(({ name, acts }) => (
                <Command.Group
                  key={name}
                  heading={name}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-quiet"
                >
                  {acts.map((act) => (
                    <Command.Item
                      key={nameOf(act)}
                      value={nameOf(act)}
                      onSelect={() => onRun(act)}
                      className="flex h-8 cursor-pointer items-center justify-between gap-4 px-2 data-[selected=true]:bg-ink data-[selected=true]:text-paper"
                    >
                      <span className="truncate">{act.says}</span>
                      {act.key && <Key>{act.key}</Key>}
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
