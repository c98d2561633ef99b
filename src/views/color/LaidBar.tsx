'use client';
import { X } from 'lucide-react';
import { findCell } from '@/core/kit/kit';
import { aboutRule, ruleNames } from '@/core/seat/gradientRules';
import { lastLaid, layAgain, useLaying } from '@/state/color/laying';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/pick/pickState';
import { count } from '@/ui/words';
import { NumberWord, Radio, Word } from './phraseWords';

/** What was just laid along a gradient, as a sentence whose words can still be changed. */
export function LaidBar() {
  const { rule, tone, over } = useLaying();
  const { kit } = useEditor((s) => s.state);
  useEditor((s) => s.history);
  useEditor((s) => s.modelId);
  const picked = usePick((s) => s.count);
  const laid = lastLaid();
  if (!laid || picked) return null;
  const percent = (t: number) => Math.round(t * 100);
  return (
    <section
      aria-label="Laid along a gradient"
      className="pointer-events-auto flex min-h-[30px] flex-wrap items-center gap-x-1.5 bg-paper px-3"
    >
      <span>
        {count(laid.faces.length, 'face')} laid along <strong>{findCell(kit, laid.cell)?.cell.role || 'a gradient'}</strong> by
      </span>
      <Word label="What the gradient runs along" value={aboutRule(rule).word}>
        <Radio
          value={rule}
          options={ruleNames.map((r) => [r, aboutRule(r).word, aboutRule(r).hint])}
          onChange={(r) => void layAgain({ rule: r })}
        />
      </Word>
      <Word label="Tones" value={tone === 'smooth' ? 'smoothly' : 'a tone for each face'}>
        <Radio
          value={tone}
          options={[
            ['smooth', 'smoothly', 'it runs across each face'],
            ['face', 'a tone for each face', 'each face in one color of it'],
          ]}
          onChange={(t) => void layAgain({ tone: t })}
        />
      </Word>
      <span>over</span>
      <Word label="Over what" value={over === 'pick' ? 'all of them' : 'each part'}>
        <Radio
          value={over}
          options={[
            ['pick', 'all of them', 'one run from end to end'],
            ['part', 'each part', 'each part has the whole run'],
          ]}
          onChange={(o) => void layAgain({ over: o })}
        />
      </Word>
      <span>from</span>
      <NumberWord
        label="The run begins at"
        value={percent(laid.start)}
        unit=" %"
        least={0}
        most={100}
        says="The run begins at"
        onChange={(v) => void layAgain({ start: v / 100 })}
      />
      <span>to</span>
      <NumberWord
        label="The run ends at"
        value={percent(laid.end)}
        unit=" %"
        least={0}
        most={100}
        says="The run ends at"
        onChange={(v) => void layAgain({ end: v / 100 })}
      />
      <button
        type="button"
        onClick={() => void layAgain({ start: laid.end, end: laid.start })}
        className="ml-1 border-b border-ink hover:bg-wash"
      >
        the other way
      </button>
      <button
        type="button"
        aria-label="Close"
        onClick={() => useLaying.setState({ laid: null })}
        className="-mr-1.5 ml-1 flex h-6 w-6 items-center justify-center hover:bg-wash"
      >
        <X size={13} aria-hidden />
      </button>
    </section>
  );
}
