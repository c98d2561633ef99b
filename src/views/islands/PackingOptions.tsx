'use client';
import { Popover } from 'radix-ui';
import { useIslands } from '@/state/islands/islands';
import { Tick } from '@/ui/Tick';
import { NumberField } from '@/ui/NumberField';

const groups = [
  ['none', 'nothing'],
  ['regions', 'regions'],
  ['materials', 'materials'],
] as const;

/** How islands are laid side by side. */
export function PackingOptions() {
  const { mayTurn, stacksLike, keepsDensity, margin, groupsBy, groupMargin } = useIslands();
  return (
    <Popover.Root>
      <Popover.Trigger className="border-b border-ink hover:bg-wash">how they are packed</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="How islands are packed"
          className="z-50 w-80 border border-ink bg-white p-4 text-[12.5px]"
        >
          <div className="flex flex-col gap-2.5">
            <Tick
              label="As many texels a metre as what lies there"
              value={keepsDensity}
              onChange={(is) => useIslands.setState({ keepsDensity: is })}
            />
            <Tick label="May be turned by quarters" value={mayTurn} onChange={(is) => useIslands.setState({ mayTurn: is })} />
            <Tick
              label="Islands of one shape share their texels"
              value={stacksLike}
              onChange={(is) => useIslands.setState({ stacksLike: is })}
            />
            <NumberField
              label="Texels between islands"
              value={margin}
              least={0}
              most={64}
              onChange={(v) => useIslands.setState({ margin: v })}
            />
            <label className="flex items-center gap-1.5">
              Farther apart between
              <select
                value={groupsBy}
                onChange={(e) => useIslands.setState({ groupsBy: e.target.value as (typeof groups)[number][0] })}
                className="h-7 border border-hairline bg-white px-1"
              >
                {groups.map(([value, word]) => (
                  <option key={value} value={value}>
                    {word}
                  </option>
                ))}
              </select>
            </label>
            {groupsBy !== 'none' && (
              <NumberField
                label="Texels between those"
                value={groupMargin}
                least={0}
                most={64}
                onChange={(v) => useIslands.setState({ groupMargin: v })}
              />
            )}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
