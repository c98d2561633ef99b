'use client';
import { Popover } from 'radix-ui';
import type { ProposedAngles } from '@/core/shapes/pick/proposeAngles';
import { usualLikeness } from '@/core/shapes/pick/likeParts';
import { aboutScope, scopeList, type ScopeAngle } from '@/core/shapes/pick/scopes';
import { useCurrent } from '@/state/kit/useCurrent';
import { useHelp } from '@/state/told/help';
import { angleFor } from '@/state/pick/picking';
import { usePhrase, type PhraseState } from '@/state/chosen/phrase';
import { ColorWord } from './ColorWord';
import { CutWords } from './CutWords';
import { DragWords } from './DragWords';
import { NumberWord, Radio, Word } from './phraseWords';
import { VariantWord } from '@/views/variants/VariantWord';
import { useFittingText } from './useFittingText';

const actWords: Record<PhraseState['act'], string> = { pick: 'Pick', add: 'Add', take: 'Take away', color: 'Color', cut: 'Cut' };

/** One sentence that says what a click will do; each underlined word is a choice. */
export function Phrase() {
  const act = usePhrase((s) => s.act);
  const sentence = useFittingText();
  return (
    <div className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5">
      <p
        ref={sentence}
        aria-label="What a click does"
        className="flex min-w-0 flex-1 items-baseline gap-x-[0.35em] overflow-hidden text-phrase whitespace-nowrap"
      >
        <VariantWord canCompare />
        <Word label="What to do" value={actWords[act]} isSmall>
          <Radio
            value={act}
            options={(['pick', 'add', 'take', 'color', 'cut'] as const).map((a) => [a, actWords[a], actHints[a]])}
            onChange={(a) => usePhrase.setState({ act: a })}
          />
        </Word>
        {act === 'cut' ? <CutWords /> : <PickWords />}
      </p>
      <button
        type="button"
        aria-label="Shortcuts"
        title="Shortcuts"
        onClick={() => useHelp.setState({ isOpen: true })}
        className="ml-3 h-5 w-5 shrink-0 border border-[#777] bg-white text-[12px] font-medium hover:bg-wash"
      >
        ?
      </button>
    </div>
  );
}

/** How much a click takes, what it does with it, and what a drag does. */
function PickWords() {
  const { act, scope, flat, smooth, facing, inward, patchEnds, likeWithin, likeEnds } = usePhrase();
  const proposed = useCurrent()?.loaded?.angles;
  const { word, angle, asks } = aboutScope(scope);
  return (
    <>
      <Word label="How much" value={word}>
        <Radio
          value={scope}
          options={scopeList.map((s) => [s, aboutScope(s).word, aboutScope(s).hint, aboutScope(s).key])}
          onChange={(s) => usePhrase.setState({ scope: s })}
        />
      </Word>
      {angle && asks && (
        <>
          <span>{asks.before}</span>
          <AngleWord of={angle} says={asks.says} angle={angleFor(angle, { flat, smooth, facing, inward })} proposed={proposed} />
        </>
      )}
      {scope === 'patch' && (
        <>
          <span>up to</span>
          <Word
            label="Where a patch ends"
            value={patchEnds === 'seams' ? 'seams' : `seams and creases of ${angleFor('smooth', { flat, smooth, facing, inward })}°`}
          >
            <Radio
              value={patchEnds}
              options={[
                ['seams', 'seams', 'of its UVs, and those that you marked'],
                ['creases', 'seams and creases', 'of the smooth area’s angle'],
              ]}
              onChange={(p) => usePhrase.setState({ patchEnds: p })}
            />
          </Word>
        </>
      )}
      {scope === 'like' && (
        <>
          <Word label="Which faces of like parts" value={likeEnds === 'same' ? 'as it lies' : 'and their other ends'}>
            <Radio
              value={likeEnds}
              options={[
                ['same', 'as it lies', 'the face that lies as this one'],
                ['all', 'and their other ends', 'turned and mirrored ones, too'],
              ]}
              onChange={(to) => usePhrase.setState({ likeEnds: to })}
            />
          </Word>
          <Word label="What like parts have in common" value={Number.isFinite(likeWithin) ? 'alike in lengths' : 'built alike'}>
            <Radio
              value={Number.isFinite(likeWithin) ? 'lengths' : 'build'}
              options={[
                ['lengths', 'alike in lengths', 'moved, turned, mirrored, larger or smaller'],
                ['build', 'built alike', 'as many faces that hang together in the same way'],
              ]}
              onChange={(to) => usePhrase.setState({ likeWithin: to === 'build' ? Infinity : usualLikeness })}
            />
          </Word>
          {Number.isFinite(likeWithin) && (
            <>
              <span>within</span>
              <NumberWord
                label="Like within"
                value={Math.round(likeWithin * 1000) / 10}
                unit=" %"
                least={0.5}
                most={20}
                step={0.5}
                says="Lengths of like parts may differ by"
                onChange={(v) => usePhrase.setState({ likeWithin: v / 100 })}
              />
            </>
          )}
        </>
      )}
      {act === 'take' && <span>from the pick</span>}
      {act === 'add' && <span>to the pick</span>}
      {act === 'color' && (
        <>
          <span>with</span>
          <ColorWord />
          <span>as I click</span>
        </>
      )}
      <DragWords />
    </>
  );
}

const actHints = {
  pick: 'a new pick',
  add: 'also with Shift held',
  take: 'also with Alt or Ctrl held',
  color: 'faces take the color at once',
  cut: 'new edges: along a ring of faces, or by a plane',
};

function AngleWord({ of, says, angle, proposed }: { of: ScopeAngle; says: string; angle: number; proposed: ProposedAngles | undefined }) {
  const set = (value: number | null) => usePhrase.setState({ [of]: value });
  const proposal = of === 'flat' || of === 'smooth' ? proposed?.[of] : undefined;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Angle: ${angle} degrees`}
        className="border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper"
      >
        {angle}°
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="z-50 w-64 border border-ink bg-white p-4 text-panel">
          <label className="block font-medium" htmlFor="angle">
            {says} {angle}°
          </label>
          <input
            id="angle"
            type="range"
            min={0}
            max={90}
            value={angle}
            onChange={(e) => set(Number(e.target.value))}
            className="slider-plain mt-2"
          />
          <button type="button" className="mt-2 border-b border-ink" onClick={() => set(null)}>
            Use {of === 'flat' || of === 'smooth' ? 'the one proposed for this model' : 'the usual one'}
            {proposal === undefined ? '' : `, ${proposal}°`}
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
