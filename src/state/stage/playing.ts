import { create } from 'zustand';
import type { Coloring, Placement } from '@/core/kit/kit';
import { startPlay, type Play } from '@/core/stage/play';
import { before, looked, walked, type Steps, type Visitor } from '@/core/stage/walk';
import { baseState } from '../kit/editor';
import { perKit } from '../chosen/session';
import { announce } from '../told/announce';
import { useStage } from './stage';
import { gate } from './stageView';

export interface Playing {
  play: Play | null;
  /** Grows whenever something in the play has changed: what is shown, asked or logged. */
  revision: number;
  visitor: Visitor;
  /** How the visitor sees the stage: with their own eyes, or themselves from above. */
  sees: 'walk' | 'above';
  /** The placement under the pointer that a click would meet. */
  pointed: string | null;
  seed: number;
}

const nowhere: Visitor = { x: 0, z: 12, yaw: 0, pitch: 0, goal: null };

export const usePlaying = perKit(
  create<Playing>(() => ({ play: null, revision: 0, visitor: nowhere, pointed: null, sees: 'walk', seed: 1 })),
  ['sees'],
);

/** Keys that are held down. */
const steps: Steps = { ahead: 0, aside: 0, turn: 0 };
export const setStep = (step: Partial<Steps>): void => void Object.assign(steps, step);
export const standStill = (): void => setStep({ ahead: 0, aside: 0, turn: 0 });

/** Cues run from now on, from the beginning; nothing of it changes the kit. */
export function beginPlay(): void {
  const { seed } = usePlaying.getState();
  const play = startPlay(baseState().kit, seed);
  standStill();
  useStage.setState({ act: 'choose', chosen: [] });
  usePlaying.setState(({ revision }) => ({ play, pointed: null, visitor: gate(), revision: revision + 1 }));
  lookAgain();
  announce('Play begins. Arrow keys walk and turn, Escape ends it.');
}

export function endPlay(): void {
  if (!usePlaying.getState().play) return;
  standStill();
  usePlaying.setState(({ revision }) => ({ play: null, pointed: null, revision: revision + 1 }));
  lookAgain();
  announce('Play has ended. Nothing of the kit has changed.');
}

/** The camera of what comes now is framed. */
const lookAgain = (): void => useStage.setState(({ wish }) => ({ wish: wish + 1 }));

export const see = (sees: Playing['sees']): void => {
  usePlaying.setState({ sees });
  if (sees === 'above') lookAgain();
};

/** Does something in the play, and tells views and readers of the screen what it changed. */
function during(act: (play: Play) => void): void {
  const { play } = usePlaying.getState();
  if (!play) return;
  const [version, logged, asked] = [play.version, play.log.at(-1), play.question];
  act(play);
  const last = play.log.at(-1);
  if (play.version === version && last === logged && play.question === asked) return;
  usePlaying.setState(({ revision }) => ({ revision: revision + 1 }));
  if (last && last !== logged) announce(`${last.cue}: ${last.says}`);
}

export const clickInPlay = (placement: string): void => during((play) => play.click(placement));
export const answerInPlay = (coloring: Coloring | undefined): void => during((play) => play.answer(coloring));

/** Seconds that pass at most between two frames: a page that slept does not catch up. */
const longestPass = 1;

/** Time passes: the visitor walks, and cues come due. */
export function pass(seconds: number): void {
  const { visitor } = usePlaying.getState();
  const gone = Math.min(longestPass, seconds);
  const next = walked(visitor, steps, gone);
  if (next !== visitor) setVisitor(next);
  during((play) => play.pass(gone, [next.x, next.z]));
}

function setVisitor(visitor: Visitor): void {
  usePlaying.setState({ visitor });
  useStage.getState().moved();
}
export const placeVisitor = (visitor: Partial<Visitor>): void => setVisitor({ ...usePlaying.getState().visitor, ...visitor });
export const lookAround = (left: number, up: number): void => setVisitor(looked(usePlaying.getState().visitor, left, up));

/** The visitor walks there; at once where motion is not wanted. */
export function walkTo(x: number, z: number): void {
  const isStill = matchMedia('(prefers-reduced-motion: reduce)').matches;
  placeVisitor(isStill ? { x, z, goal: null } : { goal: [x, z] });
}

/** Metres before what one goes to. */
const near = 3;
export const goBefore = (placement: Placement): void => setVisitor(before(usePlaying.getState().visitor, placement.at, near));

/** Whether a click on a placement would run something. */
export const answersClicks = (play: Play, placement: string): boolean =>
  (play.kit.cues ?? []).some((c) => c.when.kind === 'click' && c.when.placement === placement);
