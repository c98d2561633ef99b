import type { ById } from '../../ground/byId';
import type { Edit } from '../../kit/edit/edit';
import type { Kit, KitState, Model, Patches, Proofing, Seats, Sheet } from '../../kit/kit';
import type { Surface } from '../../islands/unwrap/chart';
import type { Pictures } from '../../ground/pictures/raster';
import type { Recoloring } from './recoloring';

/** Where checks begin to speak. */
export type ProofSettings = Omit<ReturnType<typeof proofingOf>, 'waived'>;

export const proofDefaults: Proofing & { playSize: number } = { mipLevels: 2, stretch: 2, materials: 2, playSize: 96, waived: [] };

/** What a kit looks for: what it does not say is as usual. */
export const proofingOf = ({ proof }: Pick<Kit, 'proof'>): Proofing & { playSize: number } => ({ ...proofDefaults, ...proof });

/** What one check found in one model, one sheet, or the kit. */
export interface Finding {
  /** A key of `checks`. */
  check: string;
  model?: string;
  sheet?: string;
  /** Of faces, edges, cells, materials or names. */
  count: number;
  /** Of the model; empty where it is about no faces. */
  faces: Uint32Array;
  /** Cells of the sheet. */
  cells: number[];
  /** The name of the variant in which alone it is so. */
  variant?: string;
  /** What the count alone does not tell. */
  detail?: string;
}

export interface ProofModel extends Surface {
  model: Model;
  seats: Seats;
}

export interface ProofInput {
  kit: Kit;
  /** The models that are looked at. */
  models: readonly ProofModel[];
  /** Of all models: whether a cell is used is told by all of them. */
  seats: ById<Seats>;
  patches?: Patches;
  pictures: Pictures;
  settings: ProofSettings;
  /** What was colored anew since its undo begins. */
  recoloring: Recoloring;
}

/** What a check found, short of what follows from it: its name, and a count where it is that of the faces or cells. */
export type Found = Partial<Omit<Finding, 'check'>>;

export const finding = (check: string, of: Found): Finding => {
  const faces = of.faces ?? new Uint32Array(0);
  const cells = of.cells ?? [];
  return { check, count: faces.length || cells.length, faces, cells, ...of };
};

/**
 * Everything that there is to know of one check. It looks at each model, at each sheet, or once at the kit; what counts
 * none is no finding. One that has no way of looking is told apart from the others, since that takes longer.
 */
export interface Check {
  inModel?: (input: ProofInput, own: ProofModel) => Found[];
  inSheet?: (input: ProofInput, sheet: Sheet) => Found[];
  inKit?: (input: ProofInput) => Found[];
  /** What it says, why that matters, and what is said where all is in order. */
  say: (found: Finding) => string;
  why: string;
  good: string;
  repair?: Repair;
  /** The view in which it is seen to, where no one step repairs it. */
  see?: 'gather' | 'palette' | 'islands' | 'color' | 'paint' | 'hand-off';
}

/** What is done about a finding in one step. */
export interface Repair {
  word: string;
  /** Whether it can be, where that is not always so. */
  can?: (found: Finding) => boolean;
  /**
   * The edit after which the finding is none any more; `null` where nothing can be changed, as in locked regions. `own`:
   * the model that it is about, where it is about one. Throws what stands in the way.
   */
  edit: (state: KitState, found: Finding, settings: ProofSettings, own?: ProofModel) => Edit | null;
}

/** What several checks of one pass share is made once for each. */
export function once<A extends object, B extends object, T>(make: (a: A, b: B) => T): (a: A, b: B) => T {
  const kept = new WeakMap<A, WeakMap<B, T>>();
  return (a, b) => {
    const own = kept.get(a) ?? new WeakMap<B, T>();
    kept.set(a, own);
    if (!own.has(b)) own.set(b, make(a, b));
    return own.get(b)!;
  };
}

/** Down to which mip level solid colors are asked to be exact, as far as a layout can see to it. */
export const exactnessFor = ({ mipLevels }: ProofSettings): 0 | 1 | 2 => (mipLevels > 1 ? 2 : mipLevels > 0 ? 1 : 0);

/** Whether a finding was waived. */
export const isWaived = ({ check, model }: Finding, waived: Proofing['waived']): boolean =>
  waived.some((w) => w.check === check && w.model === model);
