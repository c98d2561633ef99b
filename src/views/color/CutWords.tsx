'use client';
import { mostRingCuts } from '@/core/shapes/cut/ringCut';
import { usePhrase, type PhraseState } from '@/state/chosen/phrase';
import { ColorWord } from './ColorWord';
import { MirrorWord } from './MirrorWord';
import { NumberWord, Radio, Word } from './phraseWords';

const whereWords: Record<PhraseState['cutWhere'], string> = {
  pointed: 'where I point',
  even: 'in even steps',
  metres: 'along its nearer border',
};

/** What a click cuts, where, and what becomes of the faces between. */
export function CutWords() {
  const { cutWhere, cutTimes, cutMetres, cutThen } = usePhrase();
  return (
    <>
      <span>along the ring</span>
      <Word label="Where it is cut" value={whereWords[cutWhere]}>
        <Radio
          value={cutWhere}
          options={[
            ['pointed', whereWords.pointed, 'once, across the edge that is nearest'],
            ['even', whereWords.even, 'as often as is said'],
            ['metres', whereWords.metres, 'once, metres from it'],
          ]}
          onChange={(to) => usePhrase.setState({ cutWhere: to })}
        />
      </Word>
      {cutWhere === 'even' && (
        <NumberWord
          label="How often"
          value={cutTimes}
          unit={cutTimes === 1 ? ' time' : ' times'}
          least={1}
          most={mostRingCuts}
          says="It is cut"
          onChange={(times) => usePhrase.setState({ cutTimes: times })}
        />
      )}
      {cutWhere === 'metres' && (
        <NumberWord
          label="How far from it"
          value={cutMetres}
          unit=" m"
          least={0.01}
          most={2}
          step={0.01}
          says="From the border"
          onChange={(metres) => usePhrase.setState({ cutMetres: metres })}
        />
      )}
      <MirrorWord />
      <span className="-ml-1.5">, and</span>
      <Word label="The faces between" value={cutThen === 'pick' ? 'pick' : 'color'}>
        <Radio
          value={cutThen}
          options={[
            ['pick', 'pick', 'what then lies between the cuts, or at the narrower side of one'],
            ['color', 'color', 'it at once'],
          ]}
          onChange={(to) => usePhrase.setState({ cutThen: to })}
        />
      </Word>
      <span>what is between</span>
      {cutThen === 'color' && (
        <>
          <span>with</span>
          <ColorWord />
        </>
      )}
      <span className="-ml-1.5">.</span>
    </>
  );
}
