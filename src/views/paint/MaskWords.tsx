'use client';
import { DropdownMenu } from 'radix-ui';
import { useMemo } from 'react';
import { findCell } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import { usePaint } from '@/state/chosen/paint';
import { usePick } from '@/state/chosen/pickState';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { artOf } from '@/state/paint/artInHand';
import { colorName } from '@/state/paint/brushSets';
import { itemLook, Radio, Word } from '@/views/color/phraseWords';

/** Under which faces texels may be set. */
export function WhereWord() {
  const { where, isThrough } = usePaint();
  const picked = usePick((s) => s.count);
  const regions = useCurrent()?.model.regions ?? [];
  const region = regions.find((r) => r.id === where);
  const value = region ? String(region.id) : where === 'picked' && picked ? 'picked' : 'all';
  return (
    <>
      <span>on</span>
      <Word
        label="Where"
        value={`${region ? region.name : value === 'picked' ? 'what is picked' : 'all faces'}${isThrough ? ', through all layers' : ''}`}
      >
        <Radio
          value={value}
          options={[
            ['all', 'all faces', 'wherever the art is shown'],
            ['picked', 'what is picked', picked ? 'only texels under picked faces' : 'pick faces in Color or Islands first'],
            ...regions.map(
              (r) => [String(r.id), r.name, r.locked ? 'locked: nothing is set there' : 'only texels under its faces'] as const,
            ),
          ]}
          onChange={(to) => usePaint.setState({ where: to === 'all' || to === 'picked' ? to : Number(to) })}
        />
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        <Radio
          value={isThrough ? 'through' : 'seen'}
          options={[
            ['seen', 'only what is seen', 'on the model the nearest face under the pointer'],
            ['through', 'through all layers', 'what lies behind as well, out to the far side'],
          ]}
          onChange={(to) => usePaint.setState({ isThrough: to === 'through' })}
        />
      </Word>
    </>
  );
}

/** Colors that a menu lists, at most. */
const mostListed = 40;

/** Over which colors texels may be set, and which are spared. */
export function OverWord() {
  const { over, isSparing } = usePaint();
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const meant = usePaint((s) => s.artCell);
  const pixels = useMemo(() => artOf({ state, modelId, meshes }, meant)?.pixels, [state, modelId, meshes, meant]);
  const known = (id: number) => findCell(state.kit, id)?.cell;
  const named = over.filter((id) => id === 0 || known(id));
  const role = (id: number) => colorName(state.kit, id);
  const words = named.length === 1 ? role(named[0]!) : `${named.length} colors`;
  const toggle = (id: number) => usePaint.setState({ over: over.includes(id) ? over.filter((c) => c !== id) : [...named, id] });
  return (
    <>
      <span>{named.length && isSparing ? 'sparing' : 'over'}</span>
      <Word label="Over which colors" value={named.length ? words : 'any color'}>
        <DropdownMenu.RadioGroup
          value={named.length ? (isSparing ? 'sparing' : 'only') : 'any'}
          onValueChange={(to) => usePaint.setState(to === 'any' ? { over: [] } : { isSparing: to === 'sparing' })}
        >
          <DropdownMenu.RadioItem value="any" className={`${itemLook} data-[state=checked]:font-bold`}>
            <span className="w-2.5">{named.length ? '' : '·'}</span>any color
          </DropdownMenu.RadioItem>
          <DropdownMenu.RadioItem
            value="only"
            disabled={!named.length}
            onSelect={(e) => e.preventDefault()}
            className={`${itemLook} data-[disabled]:text-quiet data-[state=checked]:font-bold`}
          >
            <span className="w-2.5">{named.length && !isSparing ? '·' : ''}</span>only over those marked below
          </DropdownMenu.RadioItem>
          <DropdownMenu.RadioItem
            value="sparing"
            disabled={!named.length}
            onSelect={(e) => e.preventDefault()}
            className={`${itemLook} data-[disabled]:text-quiet data-[state=checked]:font-bold`}
          >
            <span className="w-2.5">{named.length && isSparing ? '·' : ''}</span>never over those marked below
          </DropdownMenu.RadioItem>
        </DropdownMenu.RadioGroup>
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        {colorsOn(pixels?.cells).map((id) => {
          const cell = known(id);
          return (
            <DropdownMenu.CheckboxItem
              key={id}
              checked={over.includes(id)}
              onCheckedChange={() => toggle(id)}
              onSelect={(e) => e.preventDefault()}
              className={`${itemLook} data-[state=checked]:font-bold`}
            >
              <span className="w-2.5">{over.includes(id) ? '·' : ''}</span>
              <span aria-hidden className={`h-3.5 w-3.5 ${cell ? '' : 'hatched'}`} style={cell && { background: swatchOf(cell) }} />
              {role(id)}
              {cell?.locked && <span className="ml-auto pl-6 text-small font-normal text-quiet">locked</span>}
            </DropdownMenu.CheckboxItem>
          );
        })}
      </Word>
    </>
  );
}

/** Cells that texels show, the most frequent first. */
function colorsOn(cells: Uint16Array | undefined): number[] {
  const counts = new Map<number, number>();
  for (const c of cells ?? []) counts.set(c, (counts.get(c) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .slice(0, mostListed)
    .map(([id]) => id);
}
