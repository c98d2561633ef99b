import { type ById, byId, withId } from '@/core/ground/byId';
import { create } from 'zustand';
import { emptyHistory, type Step } from '@/core/kit/edit/history';
import type { KitState, Model, Sheet } from '@/core/kit/kit';
import { stateOfVariant } from '@/core/kit/colorings/shown';
import type { SaveStatus } from '@/data/autosave';
import type { LoadedMesh } from '@/workers/residents';
import { closeColoring } from '../chosen/coloringState';
import { pickedFaces, usePick } from '../chosen/pickState';
import { useView } from '../chosen/viewState';

export interface EditorState extends Step {
  /** The kit as the variant in hand shows it, or as it is; what views show and acts start from. */
  state: KitState;
  /** The variant that acts change; `null`: the default coloring. */
  variant: string | null;
  /** The kit itself, while a variant is shown in its place. */
  base: KitState | null;
  status: 'none' | 'loading' | 'ready' | 'missing' | 'failed';
  problem: string;
  /** Meshes by address. */
  meshes: ById<LoadedMesh>;
  /** The model in the viewport. */
  modelId: string | null;
  save: SaveStatus;
  /** Why the kit may only be looked at: another tab has it, or there is no room even to take it. */
  readOnly: false | 'taken' | 'full';
  /** Models whose mesh is still being prepared. */
  preparing: number;
  /** Share of the one that is being prepared now. */
  prepared: number;
}

export const emptyState: KitState = {
  kit: { id: '', name: '', sheets: [], models: [], variants: [], references: [], handOffs: [], nextCell: 1 },
  seats: byId(),
};

export const useEditor = create<EditorState>(() => ({
  status: 'none',
  problem: '',
  state: emptyState,
  variant: null,
  base: null,
  history: emptyHistory,
  meshes: byId(),
  modelId: null,
  save: 'saved',
  readOnly: false,
  preparing: 0,
  prepared: 0,
}));

/** The kit itself, whichever variant is shown. */
export function baseState(): KitState {
  const { base, state } = useEditor.getState();
  return base ?? state;
}

/** A kit as one of its variants shows it, where it has that variant, and that may be shown with a model. */
export function shownAs(base: KitState, wanted: string | null, modelId: string | null): Pick<EditorState, 'state' | 'variant' | 'base'> {
  const variant = base.kit.variants.find((v) => v.id === wanted && (v.model === undefined || v.model === modelId));
  return variant ? { state: stateOfVariant(base, variant.id), variant: variant.id, base } : { state: base, variant: null, base: null };
}

/** Whether this kit is the one that is open. */
export const isOpen = (kit: string): boolean => useEditor.getState().state.kit.id === kit;

/**
 * Remembers kit, model, mesh and variant in view; tells later whether they are still the same. What was awaited for
 * others is dropped.
 */
export function moment(): () => boolean {
  const now = () => {
    const { state, modelId, variant } = useEditor.getState();
    return [state.kit.id, modelId, variant, state.kit.models.find((m) => m.id === modelId)?.mesh];
  };
  const then = now();
  return () => now().every((v, i) => v === then[i]);
}

/** The same for what concerns the kit alone. */
export function kitMoment(): () => boolean {
  const { id } = useEditor.getState().state.kit;
  return () => isOpen(id);
}

export function showModel(modelId: string | null): void {
  const faces = useEditor.getState().state.kit.models.find((m) => m.id === modelId)?.faces ?? 0;
  const before = useEditor.getState().modelId;
  const { elsewhere } = usePick.getState();
  const left = pickedFaces();
  // A coloring of one model is not shown with another.
  useEditor.setState({ modelId, ...shownAs(baseState(), useEditor.getState().variant, modelId) });
  useView.setState({ cut: null, behind: false });
  usePick.getState().reset(faces);
  closeColoring();
  if (!modelId || !before || !elsewhere[modelId]) return;
  // A pick that goes through the whole kit comes along.
  const here = elsewhere[modelId];
  const others = withId(elsewhere, modelId, undefined);
  usePick.getState().set((picked) => here!.forEach((f) => f < faces && (picked[f] = 1)));
  usePick.setState({ elsewhere: left.length ? withId(others, before, left) : others });
}

export interface CurrentModel {
  model: Model;
  sheet: Sheet;
  cells: Uint16Array;
  regions: Uint16Array;
  loaded: LoadedMesh | undefined;
}

export function currentOf({ state, modelId, meshes }: Pick<EditorState, 'state' | 'modelId' | 'meshes'>): CurrentModel | null {
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!model) return null;
  return {
    model,
    sheet: state.kit.sheets.find((s) => s.id === model.sheet)!,
    cells: state.seats[model.id]!.cell,
    regions: state.seats[model.id]!.region,
    loaded: meshes[model.mesh],
  };
}

export const current = (): CurrentModel | null => currentOf(useEditor.getState());
