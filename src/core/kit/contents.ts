import type { Motif } from './patterns';
import type { Cell, Cue, Fill, HandOff, Kit, Model, Placement, Ramp, Reference, Sheet, Variant } from './kit';

export const archiveExtension = '.oligochrome.zip';

/** Painted art has no picture: its texels are state. */
const ofFill = (fill: Fill): string[] => (fill.kind === 'art' && !fill.painted ? [fill.picture] : []);
export const ofFrozen = (frozen: Sheet['frozen']): string[] => (frozen ? [frozen.picture] : []);
export const ofModel = ({ mesh, source }: Pick<Model, 'mesh'> & { source?: Model['source'] }): string[] => [
  mesh,
  ...(source?.files.map((f) => f.content) ?? []),
];

/** Addresses of the pictures that a sheet is drawn from. */
export const picturesOfSheet = (sheet: Sheet): string[] => [...ofFrozen(sheet.frozen), ...sheet.cells.flatMap((c) => ofFill(c.fill))];

/** Addresses of what an entry of each list of a kit or sheet keeps beside the document. */
export const contentsOf = {
  cells: (cell: Cell): string[] => ofFill(cell.fill),
  ramps: (_: Ramp): string[] => [],
  sheets: picturesOfSheet,
  models: (model: Model): string[] => ofModel(model),
  variants: (variant: Variant): string[] => Object.values(variant.fills).flatMap(ofFill),
  placements: (_: Placement): string[] => [],
  cues: (_: Cue): string[] => [],
  motifs: (_: Motif): string[] => [],
  references: (reference: Reference): string[] => [reference.picture],
  handOffs: ({ icon }: HandOff): string[] => (icon?.picture ? [icon.picture] : []),
};

/** Addresses of everything that a kit keeps beside its document: meshes, files and pictures. */
export const contentsOfKit = (kit: Kit): string[] => [
  ...new Set([
    ...kit.models.flatMap(contentsOf.models),
    ...kit.sheets.flatMap(contentsOf.sheets),
    ...kit.references.flatMap(contentsOf.references),
    ...kit.variants.flatMap(contentsOf.variants),
    ...kit.handOffs.flatMap(contentsOf.handOffs),
  ]),
];
