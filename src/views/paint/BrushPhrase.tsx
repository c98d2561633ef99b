'use client';
import { DropdownMenu } from 'radix-ui';
import { findCell } from '@/core/kit/kit';
import { nudges } from '@/core/sheet/ramp/nudge';
import { nudgeColor } from '@/state/paint/painting';
import { swatchOf } from '@/core/sheet/cells';
import { useColoring } from '@/state/chosen/coloringState';
import { usePaint, type PaintState } from '@/state/chosen/paint';
import { amongNow, formNow } from '@/state/paint/brushSets';
import { useEditor } from '@/state/kit/editor';
import { MirrorWord } from '@/views/color/MirrorWord';
import { itemLook, NumberWord, Radio, Word } from '@/views/color/phraseWords';
import { useFittingText } from '@/views/color/useFittingText';
import { VariantWord } from '@/views/variants/VariantWord';
import { OverWord, WhereWord } from './MaskWords';
import { CheckerWords, MotifWords, NoiseWords, useMotifName } from './PatternWords';

const forms = [
  ['dots', 'dots', 'one after the other, in a line without gaps'],
  ['stamps', 'stamps', 'one tile of the motif a press; a drag rows them, side by side'],
  ['rectangle', 'a rectangle', 'from corner to corner'],
  ['touching', 'what touches', 'texels of one color that hang together, across seams too'],
  ['everywhere', 'all of a color', 'every texel of it on this art'],
  ['onSheet', 'all of a color on the sheet', 'every texel of it, on all art of the sheet'],
  ['face', 'a face', 'all texels that it shows'],
  ['part', 'a part', 'all texels of what hangs together on the model'],
  ['picked', 'what is picked', 'all texels under the picked faces, wherever it is pressed'],
] as const satisfies readonly (readonly [PaintState['form'], string, string])[];

/** One sentence that says what a press sets; each underlined word is a choice. */
export function BrushPhrase() {
  const { sets, size, shape } = usePaint();
  const form = usePaint(formNow);
  const motif = useMotifName();
  const sentence = useFittingText();
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const cell = findCell(kit, chosen)?.cell;
  const isPlain = cell?.fill.kind === 'solid';
  const color = isPlain ? cell.role || 'a color without a role' : 'a color of the tray';
  const hasAmong = usePaint((s) => amongNow(kit, s).length > 0);
  const setsWord = {
    color,
    darker: 'one step darker',
    lighter: 'one step lighter',
    noise: hasAmong ? 'noise' : `noise around ${color}`,
    checker: `a checker of ${color}`,
    motif,
    nothing: 'nothing',
  }[sets];
  const hasColor = sets === 'color' || (sets === 'noise' && !hasAmong) || sets === 'checker';
  return (
    <div className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5">
      <p
        ref={sentence}
        aria-label="What a press sets"
        className="flex min-w-0 flex-1 items-baseline gap-x-[0.35em] overflow-hidden text-phrase whitespace-nowrap"
      >
        <VariantWord />
        <span>paint</span>
        <Word label="What is painted" value={forms.find(([key]) => key === form)![1]}>
          <Radio
            value={form}
            options={forms.filter(([key]) => key !== 'stamps' || sets === 'motif')}
            onChange={(to) => usePaint.setState({ form: to })}
          />
        </Word>
        {form === 'dots' && (
          <>
            <span>of</span>
            <NumberWord
              label="Texels across"
              value={size}
              unit={size === 1 ? ' texel' : ' texels'}
              least={1}
              most={16}
              says="Texels across:"
              onChange={(to) => usePaint.setState({ size: to })}
            />
            {size > 2 && (
              <Word label="Shape of a dot" value={shape}>
                <Radio
                  value={shape}
                  options={[
                    ['square', 'square', 'hard edges along the grid'],
                    ['round', 'round', 'hard edges, without its corners'],
                  ]}
                  onChange={(to) => usePaint.setState({ shape: to })}
                />
              </Word>
            )}
          </>
        )}
        <span>with</span>
        <Word
          label="What it sets"
          value={
            <>
              {hasColor && (
                <span
                  aria-hidden
                  className="mr-1.5 inline-block h-3.5 w-3.5"
                  style={isPlain ? { background: swatchOf(cell) } : { border: '1px dashed #777' }}
                />
              )}
              {setsWord}
            </>
          }
        >
          <Radio
            value={sets}
            options={[
              ['color', color, 'choose it in the tray below, or Alt press a texel'],
              ['lighter', 'one step lighter', 'along the ramp of what is there, once a stroke'],
              ['darker', 'one step darker', 'along the ramp of what is there, once a stroke'],
              ['noise', 'noise', 'steps at random around the color, the same wherever a stroke repeats'],
              ['checker', 'a checker', 'the color and another one, which together feign a third'],
              ['motif', 'a motif', `small tiles of steps: ${motif}, or another one of the tray`],
              ['nothing', 'nothing', 'cut away: masked in glTF, a hole; grey where a game does not heed that'],
            ]}
            onChange={(to) => usePaint.setState({ sets: to })}
          />
          {isPlain && hasColor && (
            <>
              <DropdownMenu.Separator className="my-1 h-px bg-hairline" />
              <DropdownMenu.Label className="px-3 pt-1 text-small text-quiet">
                {color} was taken; go on with one beside it
              </DropdownMenu.Label>
              {nudges.map((to) => (
                <DropdownMenu.Item key={to} className={itemLook} onSelect={() => nudgeColor(to)}>
                  <span className="w-2.5" />a little {to}
                </DropdownMenu.Item>
              ))}
            </>
          )}
        </Word>
        {sets === 'noise' && <NoiseWords />}
        {sets === 'checker' && <CheckerWords />}
        {sets === 'motif' && <MotifWords />}
        <WhereWord />
        <OverWord />
        <MirrorWord />
        <span className="-ml-1.5">.</span>
      </p>
    </div>
  );
}
