'use client';
import { isPicking, usePhrase, type Drag, type PhraseState } from '@/state/chosen/phrase';
import { MirrorWord } from './MirrorWord';
import { NumberWord, Radio, Word } from './phraseWords';

const dragWords: Record<Drag, string> = {
  turn: 'turns the view',
  box: 'takes a box',
  lasso: 'takes a lasso',
  brush: 'brushes',
  line: 'lays the pick along a line',
  seam: 'draws a seam',
};

/** What goes along on the other half, and what a drag does. */
export function DragWords() {
  const { drag, side, reach, brush, brushAngle } = usePhrase();
  const set = (change: Partial<PhraseState>) => usePhrase.setState(change);
  return (
    <>
      <MirrorWord />
      <span className="-ml-1.5">; a drag</span>
      <Word label="A drag" value={dragWords[drag]}>
        <Radio
          value={drag}
          options={[
            ['turn', 'turns the view', 'the right button moves it'],
            ['box', 'takes a box', 'the middle button turns the view', 'Y'],
            ['lasso', 'takes a lasso', 'free hand'],
            ['brush', 'brushes', 'stops at sharp edges'],
            ['line', 'lays the pick along a line', 'with a gradient in use'],
            ['seam', 'draws a seam', 'from point to point; with Alt it is taken away'],
          ]}
          onChange={(d) => set({ drag: d })}
        />
      </Word>
      {isPicking(drag) && (
        <>
          <span>on</span>
          <Word label="Which side" value={side === 'near' ? 'the near side' : 'both sides'}>
            <Radio
              value={side}
              options={[
                ['near', 'the near side', 'only faces that are truly seen'],
                ['through', 'both sides', 'through the model'],
              ]}
              onChange={(s) => set({ side: s })}
            />
          </Word>
          <Word label="How far" value={reach === 'touched' ? 'touched' : 'wholly inside'}>
            <Radio
              value={reach}
              options={[
                ['touched', 'touched', 'as soon as a bit is inside'],
                ['inside', 'wholly inside', 'with all corners'],
              ]}
              onChange={(r) => set({ reach: r })}
            />
          </Word>
        </>
      )}
      {drag === 'brush' && (
        <>
          <span>of</span>
          <NumberWord
            label="Brush"
            value={brush}
            unit=" px"
            least={4}
            most={160}
            onChange={(v) => set({ brush: v })}
            says="Radius of the brush"
          />
          <span>up to</span>
          <NumberWord
            label="Brush stops"
            value={brushAngle}
            unit="°"
            least={2}
            most={180}
            onChange={(v) => set({ brushAngle: v })}
            says="It stops at edges of"
          />
        </>
      )}
      <span className="-ml-1.5">.</span>
    </>
  );
}
