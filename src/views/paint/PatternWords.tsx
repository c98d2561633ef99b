'use client';
import { DropdownMenu } from 'radix-ui';
import { findCell } from '@/core/kit/kit';
import { swatchOf } from '@/core/sheet/cells';
import { colorsInOrder } from '@/core/sheet/order';
import { amongNow, colorName, motifNow, otherColor } from '@/state/paint/brushSets';
import { useColoring } from '@/state/chosen/coloringState';
import { usePaint } from '@/state/chosen/paint';
import { useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { itemLook, NumberWord, Radio, Word } from '@/views/color/phraseWords';

/** Of noise: how far it strays, or among which colors, and whether a stroke has its own. */
export function NoiseWords() {
  const paint = usePaint();
  const { within, isRenewing } = paint;
  const kit = useEditor((s) => s.state.kit);
  const sheet = useCurrent()?.sheet;
  const among = amongNow(kit, paint);
  const weight = (id: number) => among.find((a) => a.cell === id)?.weight ?? 0;
  /** Not there, once, twice, four times, and not there again. */
  const weigh = (id: number) => {
    const next = weight(id) === 0 ? 1 : weight(id) >= 4 ? 0 : weight(id) * 2;
    const others = among.filter((a) => a.cell !== id);
    usePaint.setState({ among: next ? [...others, { cell: id, weight: next }] : others });
  };
  const sum = among.reduce((all, a) => all + a.weight, 0);
  return (
    <>
      <span>{among.length ? 'of' : 'within'}</span>
      <Word
        label="Noise"
        value={
          among.length ? (
            <Swatches cells={among.map((a) => a.cell)} words={`${among.length} ${among.length === 1 ? 'color' : 'colors'}`} />
          ) : within === 1 ? (
            '1 step'
          ) : (
            `${within} steps`
          )
        }
      >
        <Radio
          value={among.length ? 'among' : String(within)}
          options={[1, 2, 3, 4].map((n) => [String(n), n === 1 ? '1 step' : `${n} steps`, 'either way along the ramp'] as const)}
          onChange={(to) => usePaint.setState({ within: Number(to), among: [] })}
        />
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        <DropdownMenu.Label className="px-3 pt-1 text-small text-quiet">or among colors, each as often as it is pressed</DropdownMenu.Label>
        {sheet &&
          colorsInOrder(sheet).map((cell) => (
            <DropdownMenu.CheckboxItem
              key={cell.id}
              checked={weight(cell.id) > 0}
              onCheckedChange={() => weigh(cell.id)}
              onSelect={(e) => e.preventDefault()}
              className={`${itemLook} group data-[state=checked]:font-bold`}
            >
              <span className="w-2.5">{weight(cell.id) ? '·' : ''}</span>
              <span aria-hidden className="h-3.5 w-3.5" style={{ background: swatchOf(cell) }} />
              {colorName(kit, cell.id)}
              <span className="ml-auto pl-6 text-small font-normal text-quiet group-data-[highlighted]:text-[#bbb]">
                {weight(cell.id) ? `${Math.round((weight(cell.id) / sum) * 100)} %` : ''}
              </span>
            </DropdownMenu.CheckboxItem>
          ))}
      </Word>
      <span>,</span>
      <Word label="A second stroke" value={isRenewing ? 'each stroke anew' : 'the same again'}>
        <Radio
          value={isRenewing ? 'anew' : 'same'}
          options={[
            ['same', 'the same again', 'a second stroke changes nothing'],
            ['anew', 'each stroke anew', 'a second stroke renews the noise'],
          ]}
          onChange={(to) => usePaint.setState({ isRenewing: to === 'anew' })}
        />
        <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
        <DropdownMenu.Item className={itemLook} onSelect={() => usePaint.setState(({ seed }) => ({ seed: seed + 1 }))}>
          <span className="w-2.5" />
          another noise, from now on
        </DropdownMenu.Item>
      </Word>
    </>
  );
}

/** Of a checker: the other color, at which share or along which line, and how large its square is. */
export function CheckerWords() {
  const paint = usePaint();
  const { share, grid, isAlong, line, other, toward } = paint;
  const kit = useEditor((s) => s.state.kit);
  const sheet = useCurrent()?.sheet;
  const cell = useColoring((s) => s.cell);
  const to = otherColor(kit, cell, paint);
  const isChosen = to === other;
  return (
    <>
      <span>{isAlong ? 'to' : 'and'}</span>
      <Word
        label="The other color"
        value={isChosen ? <Swatches cells={[to]} words={colorName(kit, to)} /> : toward < 0 ? 'one step darker' : 'one step lighter'}
      >
        <Radio
          value={isChosen ? String(other) : toward < 0 ? 'darker' : 'lighter'}
          options={[
            ['darker', 'one step darker', 'along its ramp'],
            ['lighter', 'one step lighter', 'along its ramp'],
            ...(sheet ? colorsInOrder(sheet).map((c) => [String(c.id), colorName(kit, c.id), ''] as const) : []),
          ]}
          onChange={(v) =>
            usePaint.setState(v === 'darker' ? { other: 0, toward: -1 } : v === 'lighter' ? { other: 0, toward: 1 } : { other: Number(v) })
          }
        />
      </Word>
      {!isAlong && (
        <NumberWord
          label="Share of the other color"
          value={Math.round(share * 1000) / 10}
          unit=" %"
          least={0}
          most={100}
          step={100 / Math.min(16, grid ** 2)}
          says="Texels of the other color:"
          onChange={(v) => usePaint.setState({ share: v / 100 })}
        />
      )}
      <Word label="How it is spread" value={isAlong ? (line ? 'along a line' : 'along a line, drawn next') : `in squares of ${grid}`}>
        <Radio
          value={isAlong ? 'along' : String(grid)}
          options={[
            ...([2, 4, 8] as const).map(
              (n) => [String(n), `in squares of ${n}`, n === 2 ? 'four shares' : n === 4 ? 'sixteen shares' : 'the finest shares'] as const,
            ),
            ['along', 'along a line', 'from one color to the other, over a way drawn on the model'],
          ]}
          onChange={(v) => usePaint.setState(v === 'along' ? { isAlong: true } : { isAlong: false, grid: Number(v) as 2 | 4 | 8 })}
        />
        {isAlong && line && (
          <>
            <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
            <DropdownMenu.Item className={itemLook} onSelect={() => usePaint.setState({ line: null })}>
              <span className="w-2.5" />
              draw another line
            </DropdownMenu.Item>
          </>
        )}
      </Word>
    </>
  );
}

/** Of a motif: around what its steps go. */
export function MotifWords() {
  const { around } = usePaint();
  const kit = useEditor((s) => s.state.kit);
  const cell = useColoring((s) => s.cell);
  const isPlain = findCell(kit, cell)?.cell.fill.kind === 'solid';
  const color = isPlain ? colorName(kit, cell) : 'a color of the tray';
  return (
    <>
      <span>around</span>
      <Word
        label="Around what its steps go"
        value={around === 'there' ? 'what is there' : isPlain ? <Swatches cells={[cell]} words={color} /> : color}
      >
        <Radio
          value={around}
          options={[
            ['there', 'what is there', 'each texel a step along its own ramp, once a stroke'],
            ['color', color, 'the color of the tray where the motif has no step'],
          ]}
          onChange={(to) => usePaint.setState({ around: to })}
        />
      </Word>
    </>
  );
}

/** The motif's name, for “with shingles”. */
export const useMotifName = (): string => {
  const paint = usePaint();
  return useEditor((s) => motifNow(s.state.kit, paint).name);
};

function Swatches({ cells, words }: { cells: readonly number[]; words: string }) {
  const kit = useEditor((s) => s.state.kit);
  return (
    <>
      {cells.slice(0, 4).map((id) => {
        const cell = findCell(kit, id)?.cell;
        return cell && <span key={id} aria-hidden className="mr-0.5 inline-block h-3.5 w-3.5" style={{ background: swatchOf(cell) }} />;
      })}{' '}
      {words}
    </>
  );
}
