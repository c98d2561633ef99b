import { byId } from '@/core/ground/byId';
import { create } from 'zustand';
import { tallyOf } from '@/core/files/budget/tally';
import { copySeats, type KitState } from '@/core/kit/kit';
import { stateOfVariant } from '@/core/kit/colorings/shown';
import { copyAllPixels } from '@/core/kit/pixels';
import { withDrafts, useColoring } from '../chosen/coloringState';
import { chooseVariant, defaultWord } from '../laying/variants';
import { useHandOff } from '../chosen/handOff';
import { baseState, useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';
import { usePictures } from '../chosen/pictures';
import { frame } from '../chosen/viewState';

/** What one pane shows: a variant by its id, the default coloring, the coloring as it was held, or what is tried now. */
export type Pane = string;
export const defaultPane = 'default coloring';
export const heldPane = 'held coloring';
export const triedPane = 'tried coloring';
/** Panes side by side, least and most. */
export const paneBounds = [2, 4] as const;

export interface CompareState {
  /** `null`: one coloring is shown, as always. */
  panes: readonly Pane[] | null;
  /** The pane that the keyboard is at. */
  at: number;
  /** A coloring as it was when it was held. */
  held: KitState | null;
}

export const useCompare = perKit(create<CompareState>(() => ({ panes: null, at: 0, held: null })));

const paneNow = (): Pane => useEditor.getState().variant ?? defaultPane;

/** Panes that can be shown for the model in view, and their words. */
export function panesToChoose(): { pane: Pane; word: string }[] {
  const { modelId } = useEditor.getState();
  const { variants } = baseState().kit;
  return [
    { pane: defaultPane, word: defaultWord },
    ...variants.filter((v) => v.model === undefined || v.model === modelId).map((v) => ({ pane: v.id, word: v.name })),
    ...(useCompare.getState().held ? [{ pane: heldPane, word: 'as held' }] : []),
    ...(Object.keys(useColoring.getState().drafts).length ? [{ pane: triedPane, word: 'as tried' }] : []),
  ];
}

/** The present coloring beside as many others as there are, up to four. */
export function compare(): void {
  const now = paneNow();
  const others = panesToChoose().flatMap(({ pane }) => (pane === now ? [] : [pane]));
  if (!others.length) holdColoring();
  const panes = [now, ...(others.length ? others : [heldPane])].slice(0, paneBounds[1]);
  const order = panesToChoose().map((p) => p.pane);
  panes.sort((a, b) => order.indexOf(a) - order.indexOf(b));
  useCompare.setState({ panes, at: panes.indexOf(now) });
  frame('model');
}

export function endCompare(): void {
  if (!useCompare.getState().panes) return;
  useCompare.setState({ panes: null });
  frame('model');
}

/** Shows a pane, or no longer; two stay. */
export function togglePane(pane: Pane): void {
  const { panes } = useCompare.getState();
  if (!panes) return;
  const order = panesToChoose().map((p) => p.pane);
  const next = panes.includes(pane)
    ? panes.filter((p) => p !== pane)
    : [...panes, pane].sort((a, b) => order.indexOf(a) - order.indexOf(b));
  if (next.length < paneBounds[0] || next.length > paneBounds[1]) return;
  useCompare.setState({ panes: next, at: Math.min(useCompare.getState().at, next.length - 1) });
  frame('model');
}

/** Keeps the present coloring to be held beside others. */
export function holdColoring(): void {
  const { kit, seats, pixels } = useEditor.getState().state;
  const own = byId(Object.entries(seats).map(([id, s]) => [id, copySeats(s)]));
  useCompare.setState({ held: { kit, seats: own, ...(pixels && { pixels: copyAllPixels(pixels) }) } });
}

/** The next pane, or the one before. */
export const stepPane = (by: 1 | -1): void =>
  useCompare.setState(({ panes, at }) => (panes ? { at: (at + by + panes.length) % panes.length } : {}));

/** Goes on with the coloring of a pane. What is held is only looked at. */
export function goOnWith(pane: Pane): void {
  if (pane !== heldPane && pane !== triedPane) chooseVariant(pane === defaultPane ? null : pane);
  endCompare();
}

/** The kit as a pane shows it. */
export function stateOfPane(pane: Pane): KitState {
  const { state } = useEditor.getState();
  if (pane === heldPane) return useCompare.getState().held ?? state;
  if (pane === triedPane) {
    const { drafts } = useColoring.getState();
    return { ...state, kit: { ...state.kit, sheets: state.kit.sheets.map((s) => withDrafts(s, drafts)) } };
  }
  return pane === paneNow() ? state : stateOfVariant(baseState(), pane === defaultPane ? null : pane);
}

/** What the model in view costs as a pane shows it; the bytes of its sheets are for the worker to tell. */
export function tallyOfPane(pane: Pane): { colors: number; drawCalls: number } {
  const state = stateOfPane(pane);
  const { modelId, meshes } = useEditor.getState();
  const { as, meshes: way, nodes } = useHandOff.getState();
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!model) return { colors: 0, drawCalls: 0 };
  return tallyOf(state, [model], (m) => meshes[m.mesh]?.mesh, { as, meshes: way, nodes, pictures: usePictures.getState().rasters });
}
