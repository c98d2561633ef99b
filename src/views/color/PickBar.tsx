'use client';
import { useMemo, useState } from 'react';
import { lengthOfEdges } from '@/core/shapes/pick/edges';
import { openNewColor, sourceCell } from '@/state/color/coloring';
import { useColoring } from '@/state/chosen/coloringState';
import { isGradient, layPick } from '@/state/laying/laying';
import { currentOf, useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { carryColorsFrom } from '@/state/files/carrying';
import { isAlteredCopy } from '@/core/faces/carry/isAlteredCopy';
import type { Model } from '@/core/kit/kit';
import { bringBackPick, invertPick, nextBareModel, pickEverything, pickNextUncolored } from '@/state/pick/picking';
import { usePhrase } from '@/state/chosen/phrase';
import { elsewhereCount, letPickGo, usePick } from '@/state/chosen/pickState';
import {
  dropLone,
  fillPickHoles,
  growPick,
  growPickToCreases,
  invertPickInParts,
  keepSeen,
  mirrorPick,
  pickOnLikeParts,
  showBorder,
  shrinkPick,
  takeMissed,
} from '@/state/pick/changePick';
import { setSeams } from '@/state/islands/seams';
import { hidePicked, hideTheRest, showAll, toggleBehind, turnToPick } from '@/state/pick/hiding';
import { frame, useView } from '@/state/chosen/viewState';
import { Menu } from '@/ui/Menu';
import { Key } from '@/ui/Button';
import { hints, hintUsed, nextHint, useHints } from '@/state/chosen/hints';
import { count, metres, number } from '@/ui/words';
import { GrowHandle } from './GrowHandle';
import { LaidBar } from './LaidBar';
import { LitCutWords } from './LitCutWords';
import { NamedPicks } from './NamedPicks';
import { IdleEdges } from './IdleEdges';
import { NeverSeen } from './NeverSeen';

const box = 'flex min-h-[30px] flex-wrap items-center gap-y-1 bg-paper px-3';

/** What is picked, or what there is to do next, in a strip of the viewport that framing leaves free. */
export function PickBar() {
  const picked = usePick((s) => s.count);
  const last = usePick((s) => s.last);
  const hidden = usePick((s) => s.hidden);
  const shown = usePick((s) => s.shown);
  const sharing = usePick((s) => s.sharing);
  const likeness = usePick((s) => s.likeness);
  const face = usePick((s) => s.face);
  const isCut = usePhrase((s) => s.act === 'cut');
  const hint = nextHint(useHints((s) => s.known));
  // Once told it stays, or the way to its button would take it away.
  const [hasPointed, setPointed] = useState(false);
  if (face >= 0 && !hasPointed) setPointed(true);
  const behind = useView((s) => s.behind);
  const current = useCurrent();
  const chosen = useColoring((s) => s.cell);
  const bare = useMemo(() => {
    const cells = current?.cells;
    return cells ? cells.reduce((n, c) => n + (c === 0 ? 1 : 0), 0) : 0;
  }, [current]);
  const likeModel = useLikeModel(bare);
  const state = useEditor((s) => s.state);
  const next = useMemo(() => (bare === 0 && current ? nextBareModel(state, current.model.id) : undefined), [bare, current, state]);
  return (
    // Presses between its words go to the model beneath.
    <div
      role="group"
      aria-label="Pick"
      className="pointer-events-none absolute inset-x-5 top-4 flex flex-wrap items-start gap-2 text-[12.5px] whitespace-nowrap select-none [&_[role=slider]]:pointer-events-auto [&_button]:pointer-events-auto"
    >
      <IdleEdges isOffered={isCut} />
      <LitCutWords />
      {(!isCut || picked > 0) && (
        <div className={`${box} gap-3`}>
          {picked > 0 ? (
            <>
              <strong>{count(picked, 'face')} picked</strong>
              <Elsewhere />
              <Action k="Esc" word="let go" run={letPickGo} />
              <Action k="V" word="the others" run={invertPick} />
              <Action k="Z" word="look closer" run={() => frame('pick')} />
              <Action k="B" word="own color" run={() => openNewColor(sourceCell(), true)} />
              {isGradient(chosen) && <Action k="L" word="lay along the gradient" run={() => void layPick(chosen)} />}
              <GrowHandle />
              <NamedPicks />
              <Menu
                label="Change the pick"
                align="start"
                trigger="more"
                className="border-b border-ink hover:bg-wash"
                items={[
                  { label: 'Grow by a ring of faces', hint: 'Shift W', run: growPick },
                  { label: 'Shrink by a ring of faces', hint: 'Shift Q', run: shrinkPick },
                  { label: 'On to the next crease', run: growPickToCreases },
                  { label: 'The others of its parts', hint: 'Shift V', run: invertPickInParts },
                  { label: 'Fill its holes', run: fillPickHoles },
                  { label: 'Its mirrored twin too', hint: 'Shift M', run: () => void mirrorPick() },
                  { label: 'The same on like parts', run: () => void pickOnLikeParts() },
                  { label: 'Only what is seen now', run: () => void keepSeen() },
                  { label: 'Its border as edges', run: showBorder },
                  'line',
                  { label: 'Hide it', hint: 'K', run: hidePicked },
                  { label: 'Hide the rest', hint: 'Shift K', run: hideTheRest },
                  { label: 'Turn to face it', hint: 'Shift Z', run: turnToPick },
                ]}
              />
            </>
          ) : shown.length > 0 ? (
            <>
              <strong>{count(shown.length, 'face')} shown</strong>
              <Action k="Esc" word="hide" run={() => usePick.setState({ shown: new Uint32Array(0) })} />
            </>
          ) : (
            <>
              {bare > 0 ? (
                <>
                  <span>
                    <strong>{number(bare)}</strong> not yet colored
                  </span>
                  <Action k="R" word="pick the next" run={pickNextUncolored} />
                </>
              ) : (
                <>
                  <strong>Every face is colored</strong>
                  {next && <Action k="R" word={`on to ${next.name}, still bare`} run={pickNextUncolored} />}
                </>
              )}
              {likeModel && (
                <button
                  type="button"
                  onClick={() => void carryColorsFrom(likeModel.id, current!.model.id)}
                  className="border-b border-ink hover:bg-wash"
                >
                  take colors from {likeModel.name}
                </button>
              )}
              {last && <Action k="G" word="give back the pick" run={bringBackPick} />}
              <Action k="Ctrl A" word="everything" run={pickEverything} />
              <NamedPicks />
            </>
          )}
          <NeverSeen isOffered={picked === 0 && shown.length === 0} />
        </div>
      )}
      <MissedWords />
      <LaidBar />
      {picked > 0 && <BorderWords />}
      {hint && hasPointed && picked === 0 && !isCut && (
        <div className={`${box} gap-3`}>
          {hints[hint]}
          <button type="button" onClick={() => hintUsed(hint)} className="border-b border-ink hover:bg-wash">
            I know
          </button>
        </div>
      )}
      {likeness && (
        <div className={box}>
          {likeness.parts === 0
            ? 'No other part is like this one.'
            : `${count(likeness.parts, 'like part')}, ${likeness.difference < 0.0005 ? 'no length differs' : `lengths differ by up to ${(likeness.difference * 100).toFixed(likeness.difference < 0.1 ? 1 : 0)} %`}.`}
        </div>
      )}
      {sharing.length > 0 && (
        <div className={box}>
          The face under the pointer shares its texels with {count(sharing.length, 'other')}: painted there, they change together.
        </div>
      )}
      {behind && (
        <div className={`${box} gap-3`}>
          Faces turned to you are left out
          <Action k="Shift J" word="show them" run={toggleBehind} />
        </div>
      )}
      {hidden && (
        <div className={`${box} gap-3`}>
          {count(
            hidden.reduce((n, h) => n + h, 0),
            'face',
          )}{' '}
          hidden
          <Action k="J" word="show everything" run={showAll} />
        </div>
      )}
    </div>
  );
}

/** For a model of which every face is bare: a colored one of the kit of which it may be an altered copy. */
function useLikeModel(bare: number): Model | null {
  const current = useCurrent();
  const meshes = useEditor((s) => s.meshes);
  const models = useEditor((s) => s.state.kit.models);
  return useMemo(() => {
    if (!current?.loaded || bare < current.model.faces || bare > mostToCompare) return null;
    const { seats } = useEditor.getState().state;
    const { areas } = current.loaded.adjacency;
    const isLike = (m: Model) => {
      const other = meshes[m.mesh];
      return m.faces <= mostToCompare && other && !seats[m.id]!.cell.includes(0) && isAlteredCopy(areas, other.adjacency.areas);
    };
    return models.find((m) => m.id !== current.model.id && isLike(m)) ?? null;
  }, [current, bare, meshes, models]);
}

/** Faces of models that are compared on the page: two milliseconds each. */
const mostToCompare = 20_000;

/** How far the pick goes beyond the model in view. */
function Elsewhere() {
  const { faces, models } = elsewhereCount(usePick((s) => s.elsewhere));
  if (!faces) return null;
  return (
    <span>
      and {number(faces)} on {count(models, 'other model')}
    </span>
  );
}

/** The border of the pick as edges, and what can be made of it. */
function BorderWords() {
  const edges = usePick((s) => s.edges);
  const loaded = useEditor((s) => currentOf(s)?.loaded);
  if (!edges || !loaded) return null;
  return (
    <div className={`${box} gap-4`}>
      <span>
        <strong>{count(edges.length, 'edge')}</strong> around it, {metres(lengthOfEdges(loaded.mesh, loaded.adjacency, edges))}
      </span>
      <button type="button" className="border-b border-ink" onClick={() => setSeams(true)}>
        make them seams
      </button>
      <button type="button" className="border-b border-ink" onClick={() => setSeams(false)}>
        no seams any more
      </button>
    </div>
  );
}

/** Small faces that a drag may have left out, or taken by accident. */
function MissedWords() {
  const missed = usePick((s) => s.missed);
  if (!missed) return null;
  const { left, lone, cell } = missed;
  return (
    <div className={`${box} gap-4`}>
      {left.length > 0 && (
        <button
          type="button"
          onClick={takeMissed}
          // Pointing at the words lights exactly what they would take.
          onPointerEnter={() => usePick.setState({ wouldTake: left })}
          onPointerLeave={() => usePick.setState({ wouldTake: new Uint32Array(0) })}
          onFocus={() => usePick.setState({ wouldTake: left })}
          onBlur={() => usePick.setState({ wouldTake: new Uint32Array(0) })}
          className="flex items-center gap-2 hover:underline"
        >
          {count(left.length, 'small face')} beside them {left.length === 1 ? 'is' : 'are'} not{cell ? ' colored' : ''}.<Key>I</Key>
          {cell ? 'color' : 'take'} {left.length === 1 ? 'it' : 'them'} too
        </button>
      )}
      {lone.length > 0 && (
        <span className="flex items-center gap-2">
          {count(lone.length, 'small face')} stand{lone.length === 1 ? 's' : ''} alone.
          <Action k="Shift I" word="leave them out" run={dropLone} />
        </span>
      )}
    </div>
  );
}

function Action({ k, word, run }: { k: string; word: string; run: () => void }) {
  return (
    <button type="button" onClick={run} className="flex items-center gap-1.5 hover:underline">
      <Key>{k}</Key>
      {word}
    </button>
  );
}
