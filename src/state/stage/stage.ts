import { create } from 'zustand';
import type { Edit } from '@/core/kit/edit/edit';
import type { Placement } from '@/core/kit/kit';
import { problemOfPlacementName } from '@/core/kit/placementNames';
import {
  changePlacements,
  placeModels,
  removePlacements,
  scattered,
  snapped,
  type Scatter,
  type Standing,
} from '@/core/kit/edit/placements';
import { count } from '@/core/ground/words';
import { dispatch, refusedAsReadOnly, undoEdit } from '../kit/edits';
import { baseState } from '../kit/editor';
import { perKit } from '../chosen/session';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { cuesThatLose } from './cues';

export type StageCamera = 'above' | 'side' | 'eye' | 'free';

export interface StageState {
  /** What a click does: a model is placed, or what stands there is chosen. */
  act: 'place' | 'choose';
  /** The model and the coloring that a click places. */
  model: string | null;
  variant: string | null;
  turn: number;
  /** Metres of the grid; 0: none. */
  step: number;
  /** Degrees of one turn by key. */
  turnStep: number;
  chosen: readonly string[];
  camera: StageCamera;
  /** Grows with each wish for a camera, also for the same one again. */
  wish: number;
  /** Grows whenever the camera has moved. */
  view: number;
  moved: () => void;
  /** Models of one coloring are drawn in one go. */
  instanced: boolean;
  /** A scene leaves with lists of places for what stands there several times. */
  leavesInstanced: boolean;
  /** What was copied. */
  copied: readonly Standing[];
  /** The table of cues stands below the stage. */
  showsCues: boolean;
}

export const useStage = perKit(
  create<StageState>((set) => ({
    act: 'choose',
    model: null,
    variant: null,
    turn: 0,
    step: 1,
    turnStep: 15,
    chosen: [],
    camera: 'above',
    wish: 0,
    view: 0,
    moved: () => set(({ view }) => ({ view: view + 1 })),
    instanced: true,
    leavesInstanced: false,
    copied: [],
    showsCues: false,
  })),
  ['step', 'turnStep', 'camera', 'instanced', 'leavesInstanced', 'showsCues'],
);

export const placementsNow = (): readonly Placement[] => baseState().kit.placements ?? [];
export const chosenPlacements = (): Placement[] => {
  const { chosen } = useStage.getState();
  return placementsNow().filter((p) => chosen.includes(p.id));
};

export const lookFromCamera = (camera: StageCamera): void => useStage.setState(({ wish }) => ({ camera, wish: wish + 1 }));

/** Clicks place this model from now on. */
export function holdModel(model: string): void {
  const { variants } = baseState().kit;
  useStage.setState(({ variant }) => {
    const own = variants.find((v) => v.id === variant);
    return { act: 'place', model, variant: own && (own.model === undefined || own.model === model) ? variant : null, chosen: [] };
  });
}

/** Where the model in hand would stand, if it were placed at a point of the ground or of what stands there. */
export function standingAt(point: Placement['at']): Standing | null {
  const { model, variant, turn, step } = useStage.getState();
  return model ? { model, ...(variant && { variant }), at: snapped(point, step), turn, scale: 1 } : null;
}

function place(standings: readonly Standing[], label?: string): void {
  if (refusedAsReadOnly()) return;
  try {
    const { edit, ids } = placeModels(baseState().kit, standings, label);
    if (!dispatch(edit)) return;
    useStage.setState({ chosen: ids });
    announce(`${count(ids.length, 'model')} placed`);
  } catch (error) {
    notifyError(error);
  }
}

export function placeAt(point: Placement['at']): void {
  const standing = standingAt(point);
  if (standing) place([standing]);
}

export const scatter = (wanted: Scatter): void => place(scattered(wanted), 'Scatter models');

/** Chooses one of what stands there (`null`: none); `more`: also, or no longer. */
export function choosePlacement(id: string | null, more = false): void {
  useStage.setState(({ chosen }) => ({
    act: 'choose',
    chosen: id === null ? (more ? chosen : []) : !more ? [id] : chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id],
  }));
}

/** The last change, which a drag or a key that goes on joins. */
let last: { edit: Edit; key: string; at: number } | null = null;
/** Milliseconds within which further changes of one kind are one undo. */
const oneChange = 1200;

function change(label: string, make: (placement: Placement) => Partial<Placement>): void {
  const { chosen } = useStage.getState();
  const edit = changePlacements(baseState().kit, chosen, label, make);
  const key = `${label} ${chosen.join()}`;
  const joins = last?.key === key && Date.now() - last.at < oneChange ? last.edit : null;
  const done = dispatch(edit, { joins });
  if (done) last = { edit: done, key, at: Date.now() };
}

/** Moves what is chosen; onto the grid where there is one. */
export function moveChosen(dx: number, dy: number, dz: number): void {
  const { step } = useStage.getState();
  change('Move on the stage', ({ at }) => ({ at: snapped([at[0] + dx, at[1] + dy, at[2] + dz], step) }));
}

export const turnChosen = (degrees: number): void => change('Turn on the stage', ({ turn }) => ({ turn: turn + degrees }));
export const scaleChosen = (times: number): void => change('Scale on the stage', ({ scale }) => ({ scale: scale * times }));
export const setChosen = (label: string, to: Partial<Placement>): void => change(label, () => to);
/** What is chosen becomes another model where it stands; a coloring that is of the one before alone is let go. */
export function makeChosen(model: string): void {
  const { variants } = baseState().kit;
  const fits = (id: string | undefined) => variants.every((v) => v.id !== id || v.model === undefined || v.model === model);
  change(
    'Change the model on the stage',
    ({ variant }) => ({ model, ...(!fits(variant) && { variant: undefined }) }) as Partial<Placement>,
  );
}

/** `null`: the default coloring. */
export const startChosenIn = (variant: string | null): void =>
  change('Choose a coloring on the stage', () => ({ variant: variant ?? undefined }) as Partial<Placement>);

export const problemOfName = (id: string, name: string): string | null => problemOfPlacementName(baseState().kit, name, id);
export function namePlacement(id: string, name: string): void {
  if (!problemOfName(id, name)) dispatch(changePlacements(baseState().kit, [id], 'Rename on the stage', () => ({ name: name.trim() })));
}

export function removeChosen(): void {
  const { chosen } = useStage.getState();
  const tell = cuesThatLose({ placements: chosen });
  if (dispatch(removePlacements(baseState().kit, chosen))) {
    const said = `${count(chosen.length, 'model')} taken off the stage`;
    if (tell) notify(`${said}. ${tell}`, { action: { label: 'Undo', run: undoEdit } });
    else announce(said);
  }
  useStage.setState({ chosen: [] });
}

export const copyChosen = (): void => useStage.setState({ copied: chosenPlacements().map(({ id: _, name: __, ...standing }) => standing) });

/** What was copied stands a step beside where it was copied from. */
export function pasteCopied(): void {
  const { copied, step } = useStage.getState();
  const beside = step || 1;
  const next = copied.map((s): Standing => ({ ...s, at: [s.at[0] + beside, s.at[1], s.at[2] + beside] }));
  if (!next.length) return;
  place(next, 'Copy on the stage');
  useStage.setState({ copied: next, act: 'choose' });
}
