'use client';
import { cueBounds, longestQuestion } from '@/core/ground/limits';
import { useState } from 'react';
import { choicesOf, gone } from '@/core/kit/cues';
import { aboutAct, actOf, cueActIds } from '@/core/kit/cueActs';
import type { Cue, CueWhen, Kit } from '@/core/kit/kit';
import { setCue } from '@/state/stage/cues';
import { Radio, Word } from '@/views/color/phraseWords';
import { coloringOf, ColoringsWord, keyOf, ListWord, NumberInSentence, wordOfColoring } from './cueWords';

const whenWords: Record<CueWhen['kind'], string> = {
  click: 'the visitor clicks',
  near: 'the visitor comes within',
  start: 'the stage starts',
  cue: 'another cue has run',
};
/** A cue as a sentence whose words are chosen from lists of what is there. */
export function CueSentence({ kit, cue }: { kit: Kit; cue: Cue }) {
  const { placements = [], cues = [], models } = kit;
  const { when, who, does, onlyIf, after = 0 } = cue;
  const set = (change: Partial<Cue>) => setCue({ ...cue, ...change });
  const standing = placements.map((p) => [p.id, p.name] as const);
  const others = cues.filter((c) => c.id !== cue.id).map((c) => [c.id, c.name] as const);
  const stands = new Set(placements.map((p) => p.model));
  const subjects = [
    ...standing.map(([id, word]) => [`placement ${id}`, word] as const),
    ...models.filter((m) => stands.has(m.id)).map((m) => [`model ${m.id}`, `all of ${m.name}`] as const),
    ['all', 'all that stands there'] as const,
  ];
  const subject = who.placement !== undefined ? `placement ${who.placement}` : who.model !== undefined ? `model ${who.model}` : 'all';
  const { all } = choicesOf(kit, cue);
  const colorings = all.map((c) => [keyOf(c), wordOfColoring(kit, c)] as const);
  return (
    <p className="leading-[2.05] [&_button]:leading-[1.3] [&_input]:leading-[1.3]">
      When{' '}
      <Word label="When" value={whenWords[when.kind]}>
        <Radio
          value={when.kind}
          options={(['click', 'near', 'start', 'cue'] as const)
            .filter((k) => k === when.kind || k === 'start' || (k === 'cue' ? others.length : standing.length))
            .map((k) => [k, whenWords[k], ''] as const)}
          onChange={(kind) => set({ when: whenOf(kind, cue, kit) })}
        />
      </Word>{' '}
      {when.kind === 'near' && (
        <>
          <NumberInSentence
            label="Metres"
            value={when.metres}
            unit="m of"
            bounds={cueBounds.metres}
            onChange={(metres) => set({ when: { ...when, metres } })}
          />{' '}
        </>
      )}
      {(when.kind === 'click' || when.kind === 'near') && (
        <ListWord
          label={when.kind === 'click' ? 'What is clicked' : 'What is approached'}
          value={when.placement}
          options={standing}
          onChange={(placement) => set({ when: { ...when, placement } })}
        />
      )}
      {when.kind === 'cue' && (
        <ListWord label="Which cue" value={when.cue} options={others} onChange={(id) => set({ when: { ...when, cue: id } })} />
      )}
      , after{' '}
      <NumberInSentence
        label="Seconds"
        value={after}
        unit="s"
        bounds={cueBounds.after}
        onChange={(seconds) => {
          const { after: _, ...rest } = cue;
          setCue(seconds ? { ...rest, after: seconds } : rest);
        }}
      />
      ,{' '}
      <ListWord
        label="What changes"
        value={subject}
        options={subjects}
        onChange={(key) => {
          const [kind, id] = key.split(' ');
          set({ who: kind === 'all' ? {} : kind === 'model' ? { model: id! } : { placement: id! } });
        }}
      />{' '}
      <Word label="What it does" value={aboutAct(does.kind).word}>
        <Radio
          value={does.kind}
          options={cueActIds.map((k) => [k, aboutAct(k).word, ''] as const)}
          onChange={(kind) => set({ does: actOf(kind, does, all.find((c) => c !== null) ?? null) })}
        />
      </Word>{' '}
      {does.coloring !== undefined && (
        <ListWord
          label="Coloring"
          value={keyOf(does.coloring)}
          options={colorings}
          onChange={(key) => set({ does: { ...does, coloring: coloringOf(key) } })}
        />
      )}
      {aboutAct(does.kind).holds.includes('among') && (
        <>
          of{' '}
          <ColoringsWord
            kit={kit}
            cue={cue}
            onChange={(among) => {
              const { among: _, ...rest } = does;
              set({ does: among ? { ...rest, among } : rest });
            }}
          />
        </>
      )}
      {does.question !== undefined && <QuestionField key={does.question} cue={cue} question={does.question} />};{' '}
      <Word label="How often" value={cue.once ? 'once' : 'each time'}>
        <Radio
          value={cue.once ? 'once' : 'each'}
          options={[
            ['each', 'each time', ''],
            ['once', 'once', 'in a play'],
          ]}
          onChange={(key) => {
            const { once: _, ...rest } = cue;
            setCue(key === 'once' ? { ...rest, once: true } : rest);
          }}
        />
      </Word>
      ,{' '}
      <Word label="On what condition" value={onlyIf ? 'only if' : 'in any case'}>
        <Radio
          value={onlyIf ? 'if' : 'any'}
          options={[['any', 'in any case', ''], ...(standing.length ? [['if', 'only if', 'something shows a coloring'] as const] : [])]}
          onChange={(key) => {
            const { onlyIf: _, ...rest } = cue;
            setCue(key === 'if' ? { ...rest, onlyIf: { placement: who.placement || standing[0]![0], coloring: null } } : rest);
          }}
        />
      </Word>
      {onlyIf && (
        <>
          {' '}
          <ListWord
            label="What must show it"
            value={onlyIf.placement}
            options={standing}
            onChange={(placement) => set({ onlyIf: { ...onlyIf, placement } })}
          />{' '}
          shows{' '}
          <ListWord
            label="Coloring it must show"
            value={keyOf(onlyIf.coloring)}
            options={choicesOf(kit, { who: { placement: onlyIf.placement }, does: { kind: 'next' } }).all.map(
              (c) => [keyOf(c), wordOfColoring(kit, c)] as const,
            )}
            onChange={(key) => set({ onlyIf: { ...onlyIf, coloring: coloringOf(key) } })}
          />
        </>
      )}
      .
    </p>
  );
}

/** The same beginning of another kind, with what still fits. */
function whenOf(kind: CueWhen['kind'], { id, when, who }: Cue, { placements = [], cues = [] }: Kit): CueWhen {
  if (kind === 'start') return { kind };
  if (kind === 'cue') return { kind, cue: cues.find((c) => c.id !== id)?.id ?? gone };
  const placement = ('placement' in when && when.placement) || who.placement || placements[0]?.id || gone;
  return kind === 'click' ? { kind, placement } : { kind, placement, metres: 3 };
}

function QuestionField({ cue, question }: { cue: Cue; question: string }) {
  const [text, setText] = useState(question);
  const take = () => {
    if (text !== question) setCue({ ...cue, does: { ...cue.does, question: text.trim() } });
  };
  return (
    <span className="whitespace-nowrap">
      : “
      <input
        aria-label="Question"
        value={text}
        maxLength={longestQuestion}
        placeholder="write a question"
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setText(question);
        }}
        className="field-sizing-content max-w-[44ch] min-w-[12ch] border-b-2 border-ink bg-transparent font-bold"
      />
      ”
    </span>
  );
}
