import { mostIn } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import { group, type Edit } from '@/core/kit/edit/edit';
import type { ColoringRule, KitState, Reference, Variant } from '@/core/kit/kit';
import { problemOfName } from '@/core/kit/variantNames';
import { count } from '@/core/ground/words';
import { putVariant } from '@/core/faces/variants/intoVariant';
import { colorsInOrder, newRule } from '@/core/kit/colorings/rules';
import { fillsOfVariant } from '@/core/kit/colorings/shown';
import {
  addVariant,
  copyDifferences,
  facesSaid,
  freeVariantName,
  moveIntoDefault,
  moveVariant,
  removeVariant,
  renameVariant,
  startWith,
  takeBack,
  withRules,
  type Differences,
} from '@/core/faces/variants/variantEdits';
import { pickingWorker } from '@/workers/client';
import { baseState, kitMoment, shownAs, showModel, useEditor } from '../kit/editor';
import { dispatch, faceStartOf, undoEdit } from '../kit/edits';
import { usePictures } from '../chosen/pictures';
import { letPickGo, pickedFaces, usePick } from '../chosen/pickState';
import { cuesThatLose } from '../stage/cues';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { noDrafts, useColoring } from '../chosen/coloringState';
import { useLaying } from './laying';

export const defaultWord = 'default';

/** Acts change this variant from now on (`null`: the default coloring), and views show it. */
export function chooseVariant(id: string | null): void {
  const { variant: before, modelId } = useEditor.getState();
  if (before === id) return;
  const base = baseState();
  const variant = base.kit.variants.find((v) => v.id === id);
  if (variant?.model !== undefined && variant.model !== modelId) showModel(variant.model);
  useEditor.setState((s) => shownAs(base, id, s.modelId));
  // What is tried was tried on another coloring.
  useColoring.setState({ drafts: noDrafts });
  useLaying.setState({ preview: null, line: null, laid: null });
  announce(variant ? `Coloring ${variant.name}` : 'Coloring the default');
}

/** The variants that can be shown with the model in view, and the default, in turn. */
export function nextVariant(): void {
  const { variant, modelId } = useEditor.getState();
  const list = [
    null,
    ...baseState()
      .kit.variants.filter((v) => v.model === undefined || v.model === modelId)
      .map((v) => v.id),
  ];
  if (list.length < 2) notify('There is no variant yet. Make one at the front of the sentence above the model.');
  else chooseVariant(list[(list.indexOf(variant) + 1) % list.length]!);
}

const variantNow = (id: string): Variant | undefined => baseState().kit.variants.find((v) => v.id === id);

/** Makes a variant and chooses it; `copyOf`: with all that another one says. Returns its id. */
export function makeVariant({ name, copyOf, model }: { name?: string; copyOf?: string; model?: string } = {}): string | null {
  const { kit } = baseState();
  const from = copyOf && variantNow(copyOf);
  const wanted = freeVariantName(kit, name ?? (from ? `${from.name} copy` : 'variant'));
  const problem = problemOfName(kit, wanted);
  if (problem) {
    notify(problem, { isError: true });
    return null;
  }
  const { edit, id } = addVariant(baseState(), { name: wanted, ...(copyOf && { copyOf }), ...(model !== undefined && { model }) });
  if (!dispatch(edit)) return null;
  chooseVariant(id);
  return id;
}

/** Why a variant cannot be called so; `null` where it can. */
export const problemOfVariantName = (id: string, name: string): string | null => problemOfName(baseState().kit, name, id);

export function nameVariant(id: string, name: string): void {
  const variant = variantNow(id);
  if (!variant || variant.name === name.trim()) return;
  const problem = problemOfVariantName(id, name);
  if (problem) notify(problem, { isError: true });
  else dispatch(renameVariant(baseState(), variant, name));
}

export function shiftVariant(id: string, by: -1 | 1): void {
  const variant = variantNow(id);
  const { variants } = baseState().kit;
  const to = variant ? variants.indexOf(variant) + by : -1;
  if (variant && to >= 0 && to < variants.length) dispatch(moveVariant(baseState(), variant, to));
}

/** Deletes a variant, and says what went with it. */
export function deleteVariant(id: string): void {
  const variant = variantNow(id);
  if (!variant) return;
  const lost = differenceWords(baseState(), variant);
  const tell = cuesThatLose({ variants: [id] });
  if (!dispatch(removeVariant(baseState(), variant))) return;
  const said = `“${variant.name}” is deleted${lost ? `: ${lost}` : '; nothing differed in it'}.`;
  notify([said, tell].filter(Boolean).join(' '), { action: { label: 'Undo', run: undoEdit } });
}

/** The variant with which a game starts; `null`: the default coloring. */
export const startGameWith = (id: string | null): Edit | null =>
  dispatch(group('Choose the coloring at the start', [startWith(baseState().kit, id)]));

/** How much differs in a variant. */
export interface DifferenceCount {
  cells: number;
  /** Faces by model. */
  faces: { model: string; faces: Uint32Array }[];
}

/** Models whose mesh is not there yet are left out. */
export function differencesOf({ patches = byId<never>() }: Pick<KitState, 'patches'>, variant: Variant): DifferenceCount {
  const { meshes } = useEditor.getState();
  const faces = Object.entries(patches[variant.id] ?? {}).flatMap(([model, patch]) => {
    const mesh = baseState().kit.models.find((m) => m.id === model)?.mesh;
    const loaded = mesh && meshes[mesh];
    return loaded ? [{ model, faces: facesSaid(patch, loaded.mesh.faceStart) }] : [];
  });
  return { cells: Object.keys(fillsOfVariant(baseState().kit, variant)).length, faces };
}

/** “3 colors, 120 faces”; empty where nothing differs. */
export function differenceWords(state: Pick<KitState, 'patches'>, variant: Variant): string {
  const { cells, faces } = differencesOf(state, variant);
  const all = faces.reduce((sum, f) => sum + f.faces.length, 0);
  return [cells && count(cells, 'color'), all && count(all, 'face')].filter(Boolean).join(', ');
}

/** Picked faces of the model in view, as what an act on differences is about. */
export const pickedDifferences = (): Differences | null => {
  const { modelId } = useEditor.getState();
  return modelId && usePick.getState().count ? { model: modelId, faces: pickedFaces() } : null;
};

function attempt(make: (variant: Variant) => Edit | null, id: string, done: string): void {
  const variant = variantNow(id);
  if (!variant) return;
  try {
    const edit = make(variant);
    if (!edit) notify(`Nothing of that differs in “${variant.name}”.`);
    else if (dispatch(edit)) announce(done);
  } catch (error) {
    notifyError(error);
  }
}

/** What differs is as in the default again. */
export const takeDifferencesBack = (id: string, what: Differences): void =>
  attempt((variant) => takeBack(baseState(), variant, what, faceStartOf), id, 'As in the default again');

/** What differs becomes the default coloring. */
export const makeDifferencesDefault = (id: string, what: Differences): void =>
  attempt((variant) => moveIntoDefault(baseState(), variant, what, faceStartOf), id, 'Part of the default now');

/** What differs is so in another variant, too. */
export function giveDifferences(id: string, to: string, what: Differences): void {
  const target = variantNow(to);
  if (target) attempt((variant) => copyDifferences(baseState(), variant, target, what, faceStartOf), id, `Also in ${target.name}`);
}

/** Picks the faces of a model that differ. */
export function pickDifferences(model: string, faces: Uint32Array): void {
  if (useEditor.getState().modelId !== model) showModel(model);
  letPickGo();
  usePick.getState().set((picked) => faces.forEach((f) => (picked[f] = 1)));
}

/** The last change of a rule, which a slider that goes on joins. */
let lastRule: { variant: string; edit: Edit; at: number } | null = null;
/** Milliseconds within which further changes of a variant's rules are one undo. */
const oneChange = 1500;

/** A variant takes other rules, and shows them at once. */
export function setRules(id: string, rules: readonly ColoringRule[]): void {
  const variant = variantNow(id);
  if (!variant) return;
  const joins = lastRule?.variant === id && Date.now() - lastRule.at < oneChange ? lastRule.edit : null;
  const edit = dispatch(putVariant(baseState(), withRules(variant, rules)), { joins });
  lastRule = edit && { variant: id, edit, at: Date.now() };
}

/** One more rule, which stands alone in the history. */
export function addRule(id: string, rule: ColoringRule): void {
  const { rules = [] } = variantNow(id) ?? {};
  lastRule = null;
  if (rules.length >= mostIn.rules) notify(`A variant has at most ${mostIn.rules} rules.`, { isError: true });
  else setRules(id, [...rules, rule]);
  lastRule = null;
}

/** One more rule by which plain colors are those of a reference picture, dark to dark. */
export async function addDrawnRule(id: string, reference: Reference): Promise<void> {
  const isNow = kitMoment();
  const raster = usePictures.getState().rasters.get(reference.picture);
  if (!raster) return notify(`“${reference.name}” is still being read. Try again.`);
  const colors = Object.keys(colorsInOrder(baseState().kit, ['#000000'])).length;
  try {
    const series = await pickingWorker().drawColors(raster, Math.min(mostDrawn, Math.max(2, colors)), []);
    const drawn = series.at(-1)?.colors.map((c) => c.color) ?? [];
    if (isNow() && drawn.length) addRule(id, newRule.drawn(reference.id, colorsInOrder(baseState().kit, drawn)));
  } catch (error) {
    notifyError(error);
  }
}
/** Colors that are drawn from one picture. */
const mostDrawn = 32;
