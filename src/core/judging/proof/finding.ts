import type { ById } from '../../ground/byId';
import type { Kit, Model, Patches, Proofing, Seats } from '../../kit/kit';
import type { Surface } from '../../islands/unwrap/chart';
import type { Pictures } from '../../ground/pictures/raster';
import type { Recoloring } from './recoloring';

/** What is looked for; the order is that in which it is shown. */
export const checkIds = [
  'uncolored',
  'half-colored',
  'region-without-color',
  'leftover',
  'near-border',
  'shared-texels',
  'stretched',
  'merging',
  'vanishing',
  'bleeding',
  'twins',
  'extreme',
  'unused',
  'bare-in-variant',
  'merging-in-variant',
  'idle-variant',
  'like-variants',
  'see-through',
  'too-large',
  'odd-size',
  'flipped',
  'degenerate',
  'duplicate',
  'open-border',
  'lone-part',
  'unseen',
  'materials',
  'names',
  'refused-names',
] as const;
export type CheckId = (typeof checkIds)[number];

/** Where checks begin to speak. */
export type ProofSettings = Omit<ReturnType<typeof proofingOf>, 'waived'>;

export const proofDefaults: Proofing & { playSize: number } = { mipLevels: 2, stretch: 2, materials: 2, playSize: 96, waived: [] };

/** What a kit looks for: what it does not say is as usual. */
export const proofingOf = ({ proof }: Pick<Kit, 'proof'>): Proofing & { playSize: number } => ({ ...proofDefaults, ...proof });

/** What one check found in one model, one sheet, or the kit. */
export interface Finding {
  check: CheckId;
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

export const finding = (check: CheckId, of: Partial<Finding>): Finding => {
  const faces = of.faces ?? new Uint32Array(0);
  const cells = of.cells ?? [];
  return { check, count: faces.length || cells.length, faces, cells, ...of };
};

/** Down to which mip level solid colors are asked to be exact, as far as a layout can see to it. */
export const exactnessFor = ({ mipLevels }: ProofSettings): 0 | 1 | 2 => (mipLevels > 1 ? 2 : mipLevels > 0 ? 1 : 0);

/** Whether a finding was waived. */
export const isWaived = ({ check, model }: Finding, waived: Proofing['waived']): boolean =>
  waived.some((w) => w.check === check && w.model === model);
