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

const alongWords: Record<PhraseState['cutAlong'], string> = {
  ring: 'along the ring',
  y: 'level',
  x: 'upright, across x',
  z: 'upright, across z',
};
const beyondWords: Record<PhraseState['cutAlong'], string> = {
  ring: 'what is between',
  y: 'what is above',
  x: 'what is at its right',
  z: 'what is before it',
};
const reachWords: Record<PhraseState['cutReach'], string> = { part: 'the part', model: 'the whole model', pick: 'what is picked' };

/** What a click cuts, where, and what becomes of the faces between. */
export function CutWords() {
  const { cutAlong, cutThen, cutBand } = usePhrase();
  return (
    <>
      <Word label="Along what" value={alongWords[cutAlong]}>
        <Radio
          value={cutAlong}
          options={[
            ['ring', alongWords.ring, 'of faces with four corners'],
            ['y', alongWords.y, 'at the height of the pointer'],
            ['x', alongWords.x, 'from front to back'],
            ['z', alongWords.z, 'from side to side'],
          ]}
          onChange={(to) => usePhrase.setState({ cutAlong: to })}
        />
      </Word>
      {cutAlong === 'ring' ? <RingWords /> : <PlaneWords />}
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
      <span>{cutBand && cutAlong !== 'ring' ? 'what is between' : beyondWords[cutAlong]}</span>
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
      {cutWhere === 'metres' && <MetresWord label="How far from it" says="From the border" />}
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
          <MetresWord label="How far apart" says="Two cuts lie apart by" />
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

function MetresWord({ label, says }: { label: string; says: string }) {
  const metres = usePhrase((s) => s.cutMetres);
  return (
    <NumberWord
      label={label}
      value={metres}
      unit=" m"
      least={0.01}
      most={2}
      step={0.01}
      says={says}
      onChange={(to) => usePhrase.setState({ cutMetres: to })}
    />
  );
}
