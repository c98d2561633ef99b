import type { KitState } from '@/core/kit/kit';
import { noDrafts, useColoring, withDrafts } from '../chosen/coloringState';
import { paintArt, type Touched } from '../chosen/pictures';
import { baseState, useEditor } from './editor';

/** The kit itself with the colors that are tried, in the coloring that is shown. */
function tried(): KitState {
  const state = baseState();
  const { drafts } = useColoring.getState();
  if (drafts === noDrafts || !state.pixels) return state;
  const { variant } = useEditor.getState();
  const { kit } = state;
  if (!variant) return { ...state, kit: { ...kit, sheets: kit.sheets.map((s) => withDrafts(s, drafts)) } };
  const variants = kit.variants.map((v) => (v.id === variant ? { ...v, fills: { ...v.fills, ...drafts } } : v));
  return { ...state, kit: { ...kit, variants } };
}

/** Painted art shows the colors as they are now, or are tried. `touched`: what of it alone has changed. */
export const showArt = (touched: Touched | null = null): void => paintArt(tried(), touched);

useColoring.subscribe((now, before) => {
  if (now.drafts !== before.drafts && baseState().pixels) showArt();
});
