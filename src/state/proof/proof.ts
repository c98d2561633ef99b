import type { ById } from '@/core/ground/byId';
import { create } from 'zustand';
import { group } from '@/core/kit/edit/edit';
import type { Model, Proofing } from '@/core/kit/kit';
import { finding, proofingOf, type Finding } from '@/core/judging/proof/finding';
import { recoloringOf } from '@/core/judging/proof/recoloring';
import { longWorker } from '@/workers/client';
import { unseenFaces } from './unseen';
import { meshOf } from '../kit/meshes';
import { selectCells } from '../color/board';
import { pictureFiles } from '../chosen/pictures';
import { announce } from '../told/announce';
import { notify, notifyError } from '../told/notices';
import { frame } from '../chosen/viewState';
import { dispatch, refusedAsReadOnly } from '../kit/edits';
import { baseState, kitMoment, showModel, useEditor } from '../kit/editor';
import { perKit } from '../chosen/session';
import { pickFaces } from '../pick/picking';

export interface ProofState {
  /** Of the model in view, or of all. */
  of: 'model' | 'kit';
  shows: 'findings' | 'costs';
  findings: readonly Finding[] | null;
  isBusy: boolean;
}

export const useProof = perKit(
  create<ProofState>(() => ({ of: 'model', shows: 'findings', findings: null, isBusy: false })),
  ['of', 'shows'],
);

export const proofing = () => proofingOf(useEditor.getState().state.kit);

/** What is wrong with these models, and with sheets and names, as they are now. */
export async function findingsOf(models: readonly string[]): Promise<Finding[]> {
  const { state, history } = useEditor.getState();
  const { waived: _, ...settings } = proofing();
  const recoloring = recoloringOf(history.edits.slice(0, history.cursor));
  return longWorker().prove(state, models, await pictureFiles(state.kit), settings, recoloring);
}

/** Faces of these models that are known to be seen from no side. Looking for them takes longer, and runs apart. */
export const unseenFindings = (models: readonly Model[], known: ById<Uint32Array>): Finding[] =>
  models.flatMap(({ id, mesh }) => (known[mesh]?.length ? [finding('unseen', { model: id, faces: known[mesh] })] : []));

/** Models of up to so many faces are looked at for faces never seen without being asked. */
const quickFaces = 50_000;

/** Looks for faces never seen, in models of up to so many faces. */
export async function lookForUnseen(models: readonly Model[], most = quickFaces): Promise<void> {
  for (const model of models) {
    if (model.faces > most) continue;
    const isNow = kitMoment();
    const loaded = await meshOf(model);
    if (!isNow() || (await unseenFaces(loaded)) === null || !isNow()) return;
  }
}

let latest = 0;

/** Looks at everything anew, in the worker; of what was asked meanwhile only the last counts. */
export async function prove(): Promise<void> {
  const own = ++latest;
  const isNow = kitMoment();
  const { state, modelId } = useEditor.getState();
  const models = useProof.getState().of === 'kit' ? state.kit.models.map((m) => m.id) : modelId ? [modelId] : [];
  useProof.setState({ isBusy: true });
  try {
    const findings = await findingsOf(models);
    if (own === latest && isNow()) useProof.setState({ findings });
  } catch (error) {
    if (own === latest && isNow()) notifyError(error);
  } finally {
    if (own === latest) useProof.setState({ isBusy: false });
  }
}

/** Picks the faces of a finding and frames them; its cells are chosen for Palette. */
export function showFinding({ model, faces, cells }: Finding): void {
  if (model && useEditor.getState().modelId !== model) showModel(model);
  if (cells.length) selectCells(cells);
  if (!faces.length) return;
  pickFaces(faces);
  frame('pick');
}

/** Repairs a finding in one step. What changed while it was looked at is not overwritten. */
export async function repairFinding(found: Finding, words: string): Promise<void> {
  if (refusedAsReadOnly()) return;
  const state = baseState();
  const { waived: _, ...settings } = proofing();
  try {
    const edit = await longWorker().repairFinding(state, found, settings);
    if (baseState() !== state) return notify('Something changed meanwhile, so nothing was repaired. Try again.');
    if (!edit) return notify('Nothing of it can be changed: its faces are of locked regions.');
    if (dispatch(edit)) announce(`Repaired: ${words}`);
  } catch (error) {
    if (useEditor.getState().state.kit.id === state.kit.id) notifyError(error);
  }
}

function change(label: string, to: Partial<Proofing>): void {
  const { proof } = useEditor.getState().state.kit;
  const after = { ...proofing(), ...to };
  dispatch(group(label, [{ kind: 'set', of: 'kit', before: proof ? { proof } : {}, after: { proof: after } }]));
}

/** Outlines are no longer looked at. */
export function dropBackground(): void {
  const { proof } = useEditor.getState().state.kit;
  if (!proof) return;
  const after = { ...proof };
  delete after.background;
  dispatch(group('Change what Proof looks for', [{ kind: 'set', of: 'kit', before: { proof }, after: { proof: after } }]));
}

export const changeProofing = (to: Partial<Omit<Proofing, 'waived'>>): void => change('Change what Proof looks for', to);

/** Lets a finding be, with a reason; it stays listed. */
export const waive = ({ check, model }: Finding, reason: string): void =>
  change('Let a finding be', { waived: [...proofing().waived, { check, ...(model && { model }), reason }] });

export const takeBackWaiver = (check: string, model?: string): void =>
  change('Look at it again', { waived: proofing().waived.filter((w) => w.check !== check || w.model !== model) });
