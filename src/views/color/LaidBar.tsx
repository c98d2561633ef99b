'use client';
import { mostBands, mostRepeats } from '@/core/ground/limits';
import { X } from 'lucide-react';
import { findCell } from '@/core/kit/kit';
import { aboutRule, ruleNames } from '@/core/kit/laying/gradientRules';
import { type Laying } from '@/core/kit/laying/seatRule';
import { copyLaid, laidInHand, layAgain, useLaying } from '@/state/laying/laying';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/chosen/pickState';
import { Menu } from '@/ui/Menu';
import { count } from '@/ui/words';
import { NumberWord, Radio, Word } from './phraseWords';

const look = 'pointer-events-auto flex min-h-[30px] flex-wrap items-center gap-x-1.5 gap-y-1.5 bg-paper px-3 py-1';
const action = 'ml-1 border-b border-ink hover:bg-wash';

/** What was just laid along a gradient, or the picked faces were, as a sentence whose words can be changed. */
export function LaidBar() {
  useLaying((s) => s.laid);
  const { kit } = useEditor((s) => s.state);
  useEditor((s) => s.history);
  useEditor((s) => s.modelId);
  usePick((s) => s.version);
  const picked = usePick((s) => s.count);
  const laid = laidInHand();
  if (!laid) return null;
  const { along, cross } = laid.rule;
  const { cell, sheet } = findCell(kit, laid.cell)!;
  // Without filtering a short cell shows few tones, whatever its stops.
  const texels = cell.fill.kind === 'gradient' && cell.fill.axis === 'y' ? cell.rect.h : cell.rect.w;
  const isStepped = along.tone === 'smooth' && sheet.filter === 'nearest' && texels < 12;
  const isFlat = cell.fill.kind === 'corners';
  return (
    <section aria-label="Laid along a gradient" className={look}>
      <span>
        {count(laid.faces.length, 'face')} laid along <strong>{cell.role || 'a gradient'}</strong>
        {isFlat ? ', across' : ''} by
      </span>
      <RunWords laying={along} which="along" />
      {isFlat && (
        <>
          <span>and down by</span>
          <RunWords laying={cross ?? along} which="cross" />
        </>
      )}
      <Menu
        label="Lay others the same"
        align="start"
        trigger="the same on"
        className={action}
        items={[
          { label: 'Their mirrored twins', run: () => void copyLaid('twin') },
          { label: 'Like parts', run: () => void copyLaid('like') },
        ]}
      />
      {isStepped && (
        <span className="text-quiet">
          {texels} texels: {texels} tones
        </span>
      )}
      {picked > 0 && (
        <button type="button" title="As the mesh is now" onClick={() => void layAgain()} className={action}>
          lay anew
        </button>
      )}
      {picked === 0 && (
        <button
          type="button"
          aria-label="Close"
          onClick={() => useLaying.setState({ laid: null })}
          className="-mr-1.5 ml-1 flex h-6 w-6 items-center justify-center hover:bg-wash"
        >
          <X size={13} aria-hidden />
        </button>
      )}
    </section>
  );
}

/** The words of one direction. */
function RunWords({ laying, which }: { laying: Laying; which: 'along' | 'cross' }) {
  const { rule, tone, bands, over, start, end, repeat, offset } = laying;
  const set = (change: Partial<Laying>) => void layAgain(change, which);
  const down = which === 'cross' ? ', down' : '';
  const share = (t: number) => Math.round(t * 100);
  return (
    <>
      <Word label={`What the gradient runs along${down}`} value={aboutRule(rule).word}>
        <Radio value={rule} options={ruleNames.map((r) => [r, aboutRule(r).word, aboutRule(r).hint])} onChange={(r) => set({ rule: r })} />
      </Word>
      <Word label={`Tones${down}`} value={tone === 'bands' ? 'in' : tones[tone]}>
        <Radio
          value={tone}
          options={[
            ['smooth', tones.smooth, 'it runs across each face'],
            ['face', tones.face, 'each face in one color of it'],
            ['bands', tones.bands, 'each face in one of a few colors'],
          ]}
          onChange={(t) => set({ tone: t })}
        />
      </Word>
      {tone === 'bands' && (
        <NumberWord
          label={`Number of bands${down}`}
          value={bands}
          unit=" bands"
          least={2}
          most={mostBands}
          says="Bands:"
          onChange={(v) => set({ bands: v })}
        />
      )}
      <span>over</span>
      <Word label={`Over what${down}`} value={over === 'pick' ? 'all of them' : 'each part'}>
        <Radio
          value={over}
          options={[
            ['pick', 'all of them', 'one run from end to end'],
            ['part', 'each part', 'each part has the whole run'],
          ]}
          onChange={(o) => set({ over: o })}
        />
      </Word>
      <span>from</span>
      <NumberWord
        label={`The run begins at${down}`}
        value={share(start)}
        unit=" %"
        least={0}
        most={100}
        says="The run begins at"
        onChange={(v) => set({ start: v / 100 })}
      />
      <span>to</span>
      <NumberWord
        label={`The run ends at${down}`}
        value={share(end)}
        unit=" %"
        least={0}
        most={100}
        says="The run ends at"
        onChange={(v) => set({ end: v / 100 })}
      />
      <NumberWord
        label={`The run is repeated${down}`}
        value={repeat}
        unit={repeat === 1 ? ' time' : ' times'}
        least={1}
        most={Math.min(12, mostRepeats)}
        says="It runs from start to end"
        onChange={(v) => set({ repeat: v })}
      />
      <span>shifted by</span>
      <NumberWord
        label={`The run is shifted by${down}`}
        value={share(offset)}
        unit=" %"
        least={0}
        most={100}
        says="It is shifted by"
        onChange={(v) => set({ offset: v / 100 })}
      />
      <button type="button" aria-label={`The other way${down}`} onClick={() => set({ start: end, end: start })} className={action}>
        the other way
      </button>
    </>
  );
}

const tones: Record<Laying['tone'], string> = { smooth: 'smoothly', face: 'a tone for each face', bands: 'in bands' };
