'use client';
import type { Axis } from '@/core/shapes/pick/symmetry';
import { mostRingCuts } from '@/core/shapes/cut/ringCut';
import { usePhrase, type PhraseState } from '@/state/chosen/phrase';
import { ColorWord } from './ColorWord';
import { MirrorWord } from './MirrorWord';
import { NumberWord, Radio, Word } from './phraseWords';
import { BorderWords, CutMetresWord, StampWords } from './DrawnCutWords';

const whereWords: Record<PhraseState['cutWhere'], string> = {
  pointed: 'where I point',
  even: 'in even steps',
  metres: 'along its nearer border',
};

const alongWords: Record<PhraseState['cutAlong'], string> = {
  ring: 'along the ring',
  y: 'level',
  x: 'upright, across x',
  z: 'upright, across z',
  border: 'inside the outline',
  stamp: 'by a stamp',
};
const beyondWords: Record<Axis, string> = { y: 'what is above', x: 'what is at its right', z: 'what is before it' };
const reachWords: Record<PhraseState['cutReach'], string> = { part: 'the part', model: 'the whole model', pick: 'what is picked' };

/** What a click cuts, where, and what becomes of the faces between. */
export function CutWords() {
  const { cutAlong, cutThen } = usePhrase();
  return (
    <>
      <Word label="How it is cut" value={alongWords[cutAlong]}>
        <Radio
          value={cutAlong}
          options={[
            ['ring', alongWords.ring, 'of faces with four corners'],
            ['y', alongWords.y, 'at the height of the pointer'],
            ['x', alongWords.x, 'from front to back'],
            ['z', alongWords.z, 'from side to side'],
            ['border', alongWords.border, 'for frames, stripes and panels'],
            ['stamp', alongWords.stamp, 'a window, a plate, a row of them, on what is flat'],
          ]}
          onChange={(to) => usePhrase.setState({ cutAlong: to })}
        />
      </Word>
      {cutAlong === 'ring' ? (
        <RingWords />
      ) : cutAlong === 'border' ? (
        <BorderWords />
      ) : cutAlong === 'stamp' ? (
        <StampWords />
      ) : (
        <PlaneWords />
      )}
      <MirrorWord />
      <span className="-ml-1.5">, and</span>
      <Word label="The faces between" value={cutThen === 'pick' ? 'pick' : 'color'}>
        <Radio
          value={cutThen}
          options={[
            ['pick', 'pick', 'the new faces that are named here'],
            ['color', 'color', 'them at once'],
          ]}
          onChange={(to) => usePhrase.setState({ cutThen: to })}
        />
      </Word>
      <BetweenWords />
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

/** Which of the new faces are meant. */
function BetweenWords() {
  const { cutAlong, cutBand, borderTakes } = usePhrase();
  if (cutAlong === 'border')
    return (
      <Word label="Which of the new faces" value={borderTakes === 'inside' ? 'what is inside' : 'the border'}>
        <Radio
          value={borderTakes}
          options={[
            ['inside', 'what is inside', 'of the last line'],
            ['stripes', 'the border', 'of several, every other one'],
          ]}
          onChange={(to) => usePhrase.setState({ borderTakes: to })}
        />
      </Word>
    );
  if (cutAlong === 'stamp') return <span>it</span>;
  return <span>{cutAlong === 'ring' || cutBand ? 'what is between' : beyondWords[cutAlong]}</span>;
}

function RingWords() {
  const { cutWhere, cutTimes } = usePhrase();
  return (
    <>
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
      {cutWhere === 'metres' && <CutMetresWord label="How far from it" says="From the border" />}
    </>
  );
}

function PlaneWords() {
  const { cutBand, cutReach } = usePhrase();
  return (
    <>
      <Word label="How many planes" value={cutBand ? 'twice' : 'once'}>
        <Radio
          value={cutBand ? 'twice' : 'once'}
          options={[
            ['once', 'once', 'where I point'],
            ['twice', 'twice', 'a band around where I point'],
          ]}
          onChange={(to) => usePhrase.setState({ cutBand: to === 'twice' })}
        />
      </Word>
      {cutBand && (
        <>
          <CutMetresWord label="How far apart" says="Two cuts lie apart by" />
          <span>apart</span>
        </>
      )}
      <span>through</span>
      <Word label="Of what" value={reachWords[cutReach]}>
        <Radio
          value={cutReach}
          options={[
            ['part', reachWords.part, 'that I point at'],
            ['model', reachWords.model, 'all its parts'],
            ['pick', reachWords.pick, 'all, where nothing is'],
          ]}
          onChange={(to) => usePhrase.setState({ cutReach: to })}
        />
      </Word>
    </>
  );
}
