'use client';
import { useRef } from 'react';
import { mostBorderLines } from '@/core/shapes/cut/borderInside';
import { mostInRow } from '@/core/shapes/cut/stampOutlines';
import { usePick } from '@/state/chosen/pickState';
import { usePhrase, type StampState } from '@/state/chosen/phrase';
import { stampFromSvg } from '@/state/cut/drawnStamp';
import { MetresWord, NumberWord, Radio, Word } from './phraseWords';

/** Metres from a border, between planes, or of a border's width. */
export function CutMetresWord({ label, says }: { label: string; says: string }) {
  const metres = usePhrase((s) => s.cutMetres);
  return <MetresWord label={label} says={says} value={metres} onChange={(to) => usePhrase.setState({ cutMetres: to })} />;
}

/** Whether like flat areas get the same. */
function AlikeWord() {
  const cutAlike = usePhrase((s) => s.cutAlike);
  return (
    <Word label="Where else" value={cutAlike ? 'and all like it' : 'alone'}>
      <Radio
        value={cutAlike ? 'alike' : 'alone'}
        options={[
          ['alone', 'alone', 'the flat area that I point at'],
          ['alike', 'and all like it', 'flat areas with the same outline: walls, boards, lids'],
        ]}
        onChange={(to) => usePhrase.setState({ cutAlike: to === 'alike' })}
      />
    </Word>
  );
}

const borderOfWords = { flat: 'the flat area', pick: 'what is picked' } as const;

/** Of what, how wide, how often. */
export function BorderWords() {
  const { borderOf, borderLines } = usePhrase();
  const isPicked = usePick((s) => s.count > 0);
  const now = isPicked ? borderOf : 'flat';
  return (
    <>
      <span>of</span>
      <Word label="Of what" value={borderOfWords[now]}>
        <Radio
          value={borderOf}
          options={[
            ['pick', borderOfWords.pick, 'while nothing is, the flat area'],
            ['flat', borderOfWords.flat, 'of one color that I point at'],
          ]}
          onChange={(to) => usePhrase.setState({ borderOf: to })}
        />
      </Word>
      {now === 'flat' && <AlikeWord />}
      <span className="-ml-1.5">,</span>
      <CutMetresWord label="How far in" says="Inside the outline by" />
      <span>in,</span>
      <NumberWord
        label="How many lines"
        value={borderLines}
        unit={borderLines === 1 ? ' line' : ' lines'}
        least={1}
        most={mostBorderLines}
        says="Inside run"
        onChange={(lines) => usePhrase.setState({ borderLines: lines })}
      />
    </>
  );
}

const shapeWords = { rectangle: 'a rectangle', round: 'a round shape' } as const;

/** What is stamped, how large, where and how often. */
export function StampWords() {
  const { stamp } = usePhrase();
  const field = useRef<HTMLInputElement>(null);
  const set = (to: Partial<StampState>) => usePhrase.setState({ stamp: { ...stamp, ...to } });
  const isMany = stamp.columns * stamp.rows > 1;
  const number = (
    label: string,
    says: string,
    value: number,
    unit: string,
    least: number,
    most: number,
    to: (n: number) => Partial<StampState>,
  ) => <NumberWord label={label} says={says} value={value} unit={unit} least={least} most={most} onChange={(n) => set(to(n))} />;
  return (
    <>
      <span className="-ml-1.5">:</span>
      <Word
        label="What is stamped"
        value={stamp.shape === 'drawn' && stamp.drawn ? stamp.drawn.name : stamp.shape === 'round' ? 'a shape of' : shapeWords.rectangle}
      >
        <Radio
          value={stamp.shape}
          options={[
            ['rectangle', shapeWords.rectangle, 'windows, doors, plates'],
            ['round', shapeWords.round, 'with so many sides, one at its bottom'],
            ['drawn', 'an outline from a file…', 'paths of an SVG file'],
          ]}
          onChange={(shape) => (shape === 'drawn' ? field.current?.click() : set({ shape }))}
        />
      </Word>
      <input
        ref={field}
        type="file"
        hidden
        accept=".svg,image/svg+xml"
        aria-label="An outline to be stamped"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          // So that the same file can be chosen again.
          e.target.value = '';
          if (file) void stampFromSvg(file);
        }}
      />
      {stamp.shape === 'round' && number('How many sides', 'The shape has', stamp.sides, ' sides', 3, 32, (sides) => ({ sides }))}
      <MetresWord label="How wide" says="Wide" value={stamp.width} onChange={(width) => set({ width })} />
      <span>by</span>
      <MetresWord label="How high" says="High" value={stamp.height} onChange={(height) => set({ height })} />
      <span className="-ml-1.5">, turned</span>
      {number('How it is turned', 'Turned to the left by', stamp.turn, '°', -180, 180, (turn) => ({ turn }))}
      <span className="-ml-1.5">,</span>
      {number('How many side by side', 'Side by side stand', stamp.columns, '', 1, mostInRow, (columns) => ({ columns }))}
      <span>×</span>
      {number('How many above each other', 'Above each other stand', stamp.rows, '', 1, mostInRow, (rows) => ({ rows }))}
      {isMany && (
        <>
          <MetresWord label="How far apart" says="Between two of them lie" value={stamp.gap} onChange={(gap) => set({ gap })} />
          <span>apart,</span>
        </>
      )}
      <Word label="Where it is stamped" value={stamp.at === 'point' ? 'where I point' : 'in the middle'}>
        <Radio
          value={stamp.at}
          options={[
            ['point', 'where I point', 'its middle is there'],
            ['middle', 'in the middle', 'of the flat area that I point at'],
          ]}
          onChange={(at) => set({ at })}
        />
      </Word>
      <AlikeWord />
    </>
  );
}
