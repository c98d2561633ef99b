import type { ById } from '../ground/byId';
import type { Hex } from '../ground/color/hex';
import type { CueActId } from './cueActs';
import type { LeaveOptions } from './leaveOptions';
import type { SeatRule } from './laying/seatRule';
import type { Motif, Pattern } from './patterns';
import type { PixelsById } from './pixels';

/** A kit: models that share a sheet. Plain JSON; meshes, seats and pictures are kept beside it under their ids. */
export interface Kit {
  id: string;
  name: string;
  sheets: Sheet[];
  models: Model[];
  variants: Variant[];
  references: Reference[];
  handOffs: HandOff[];
  /** What stands on the stage; absent where nothing does. */
  placements?: Placement[];
  /** The rules of play on the stage; absent where there are none. */
  cues?: Cue[];
  /** Tiles of steps that were drawn for it; absent where there are none. */
  motifs?: Motif[];
  /** What is looked for before the kit leaves. */
  proof?: Proofing;
  /** A list of colors to keep to: new ones take the nearest of it. */
  allowed?: AllowedColors;
  /** The number of a model's first material slot; 0 where it is not told. */
  slotsFrom?: 0 | 1;
  /** The variant that is shown at the start of a game; the default coloring where none is told. */
  startsWith?: string;
  /** The next cell id to give out: ids are unique in the kit and never used again. 0 means "as it came in". */
  nextCell: number;
}

export interface AllowedColors {
  name: string;
  colors: Hex[];
}

/** Where checks begin to speak, and which are let be. */
export interface Proofing {
  /** Mip levels at which colors and islands must still be right. */
  mipLevels: number;
  /** How many times more or fewer texels than the mean, or longer one way than the other, a face on art may have. */
  stretch: number;
  /** Materials with which a model may leave. */
  materials: number;
  /** Pixels each way at which a model is seen in play; 96 where it is not told. */
  playSize?: number;
  /** The color before which models must stand out. */
  background?: Hex;
  /** Of a model, or of a sheet or the kit where none is named. */
  waived: { check: string; model?: string; reason: string }[];
}

/** Texels from the top left. */
export interface Rect {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A small texture as a document. Cells are disjoint; their order is for display only. */
export interface Sheet {
  id: string;
  name: string;
  width: number;
  height: number;
  /** Texels of a cell's own color kept free around seats of art and gradients. */
  padding: number;
  filter: 'nearest' | 'linear';
  /**
   * A picture that is kept byte for byte: only seats are made on it. `appended`: cells that the artist had
   * added in empty places.
   */
  frozen?: { picture: string; appended?: number[] };
  cells: Cell[];
  ramps: Ramp[];
}

export interface Cell {
  id: number;
  rect: Rect;
  role: string;
  fill: Fill;
  finish?: Finish;
  /** No brush paints over texels of it. */
  locked?: true;
}

export type Fill =
  | { kind: 'solid'; color: Hex; alpha?: number }
  | { kind: 'gradient'; axis: 'x' | 'y'; stops: GradientStop[]; mix: 'oklab' | 'srgb'; bands?: number }
  | { kind: 'corners'; colors: [topLeft: Hex, topRight: Hex, bottomLeft: Hex, bottomRight: Hex]; mix: 'oklab' | 'srgb' }
  /** `picture`: its address; of painted art the number of its texels (`KitState.pixels`), which are kept as cells. */
  | { kind: 'art'; picture: string; painted?: true; repeats?: boolean }
  | { kind: 'spare' };

export const solid = (color: Hex): Fill => ({ kind: 'solid', color });

/** Whether a cell looks different from place to place, so that its faces must be drawn from the sheet's texels. */
export const isTextured = (fill: Fill): boolean => fill.kind === 'gradient' || fill.kind === 'corners' || fill.kind === 'art';

export interface GradientStop {
  /** 0..1 from the left or the top. */
  at: number;
  color: Hex;
}

/** How a surface answers light; each of its rasters has the sheet's layout. */
export interface Finish {
  roughness: number;
  metalness: number;
  glow?: Hex;
}

/** Cells of one hue, dark to light: what "one step darker" walks along. */
export interface Ramp {
  id: string;
  name: string;
  cells: number[];
}

export interface Model {
  id: string;
  name: string;
  /** Content address of the mesh. */
  mesh: string;
  faces: number;
  /** The sheet that its faces are colored on. */
  sheet: string;
  regions: Region[];
  /** Material slots by which the model may leave instead of a texture. */
  slots: LeavingSlot[];
  source: ModelSource;
  /** The corrections of axis and scale, for a source whose vertices stay as they are. */
  placement?: { upFromZ: boolean; scale: number };
  /** Corners whose edges are seams, ascending; of the two corners at an edge the lower one. */
  seams: number[];
  /** How faces were laid inside their cells: what `Seats.rule` names. */
  rules?: SeatRule[];
  /** Picks that were given a name, to be brought back. */
  picks?: NamedPick[];
  /** From which sides its faces are seen in a game. Absent: as each material came in. */
  sides?: 'front' | 'both';
}

export interface NamedPick {
  id: number;
  name: string;
  /** Pairs of first face and count, ascending. */
  spans: number[];
  /** What its texels are filled with, to be tuned and done anew. */
  pattern?: Pattern;
}

export interface ModelSource {
  format: 'obj' | 'gltf' | 'ply' | 'stl' | 'made';
  name: string;
  /** The file as it came, and those beside it; content addresses. */
  files: { name: string; content: string }[];
  /** Size of the model's file, for the account of before and after. */
  bytes?: number;
  /** Triangles before mending, for the report. */
  triangles?: number;
  mended?: number;
}

export interface Region {
  id: number;
  name: string;
  /** The color that faces take when they join; 0 none. */
  cell: number;
  /** Nothing colors its faces. */
  locked?: boolean;
}

export interface LeavingSlot {
  number: number;
  name: string;
  cell: number;
  /** The artist gave it its name; else it is called as its color is. */
  named?: true;
}

/**
 * Named, sparse differences from the default coloring; what it does not mention, it inherits. Faces that sit
 * otherwise in it are kept beside the document (`KitState.patches`).
 */
export interface Variant {
  id: string;
  name: string;
  /** The model that it belongs to; without one it is of the whole kit. */
  model?: string;
  /** Rules that make its colors of the default's, one after the other. */
  rules?: ColoringRule[];
  /** Other fills, by cell, over what rules make. */
  fills: Record<number, Fill>;
}

/**
 * How the colors of a variant come from those of the default. `only`: ids of the ramps that are meant, all cells
 * where it is not told; `except`: cells that are left alone.
 */
export type ColoringRule = { only?: string[]; except?: number[] } & (
  | {
      kind: 'shift';
      /** Added to OKLCH lightness. */ lightness: number;
      /** Times the chroma. */ strength: number;
      /** Degrees. */ hue: number;
    }
  | { kind: 'toward'; color: Hex; /** 0..1 of the way. */ share: number }
  /** Cells that take the colors of other cells. */
  | { kind: 'exchange'; cells: Record<number, number> }
  /** Colors of a reference picture, by cell. */
  | { kind: 'drawn'; reference: string; colors: Record<number, Hex> }
);

/** A model that stands on the stage. */
export interface Placement {
  id: string;
  /** Its own among all that stand there. */
  name: string;
  model: string;
  /** The variant that it shows at the start; the default coloring where none is told. */
  variant?: string;
  /** Where its origin stands, metres. */
  at: [x: number, y: number, z: number];
  /** Degrees about the vertical, counter-clockwise seen from above. */
  turn: number;
  /** Times its size. */
  scale: number;
}

/** A coloring: the id of a variant, or `null` for the default. */
export type Coloring = string | null;

/**
 * A rule of play: when something happens, placements change their coloring. What it speaks of is named by id, and by
 * an empty one where that is gone: then it does not run until another is chosen.
 */
export interface Cue {
  id: string;
  /** Its own among all cues. */
  name: string;
  when: CueWhen;
  /** Seconds that pass between that and what it does. */
  after?: number;
  /** What changes: one placement, all of a model, or (with neither) all that stands there. */
  who: { placement?: string; model?: string };
  does: CueAct;
  /** It runs once in a play. */
  once?: true;
  /** It runs only while this placement shows this coloring. */
  onlyIf?: { placement: string; coloring: Coloring };
}

export type CueWhen =
  | { kind: 'click'; placement: string }
  /** The visitor comes within so many metres, over the ground. */
  | { kind: 'near'; placement: string; metres: number }
  | { kind: 'start' }
  /** Another cue has run. */
  | { kind: 'cue'; cue: string };

/** What a cue does, and what its act holds (`cueActs`): nothing else is there. */
export interface CueAct {
  kind: CueActId;
  coloring?: Coloring;
  /** The colorings that are meant, in the kit's order; all where it is not told. */
  among?: Coloring[];
  question?: string;
}
export type Held = Exclude<keyof CueAct, 'kind'>;

export interface Reference {
  id: string;
  name: string;
  picture: string;
}

/** A saved way of leaving: what is written, where it lies, and what is said of it. */
export interface HandOff {
  id: string;
  name: string;
  parts: HandOffPart[];
  /** What becomes of names that are filled into paths: their letters, and what stands between their words. */
  letters: 'kept' | 'small';
  between: '-' | '_' | '';
  version: string;
  description: string;
  manifest?: { path: string; template: string };
  /** A list of all that left, for scripts. */
  list?: { path: string };
  icon?: IconOptions;
  /** Nothing is written while Proof has something open. */
  onlyProven?: true;
  /** Faces that cannot be seen from any side stay behind. */
  withoutUnseen?: true;
}

/** Files of one format. */
export interface HandOffPart {
  /** A key of `partFormats`. */
  format: string;
  each: 'model' | 'kit';
  /** With fields in braces, from the top of what leaves; folders end with a slash. */
  path: string;
  /** What differs from `leaveDefaults`. */
  options: Partial<LeaveOptions>;
  /** Models whose colors leave in another way than the options say. */
  ways?: ById<LeaveOptions['as']>;
  /** Of glTF in files: where pictures lie that several may name. */
  pictures?: string;
  /** Of a sheet: texels become blocks of so many each way. */
  times?: number;
  /** Of a palette: the kind of its file. */
  palette?: string;
  /** A file for each coloring, the default and every variant, instead of one. */
  variants?: 'apart';
}

/** A small picture of the kit beside its files. */
export interface IconOptions {
  path: string;
  /** Pixels each way. */
  size: number;
  from: 'corner' | 'front' | 'right' | 'back' | 'left' | 'top';
  /** The model that is shown; the first where it is not told. */
  model?: string;
  /** What lies behind it; transparent where it is not told. */
  ground?: Hex;
  /** The artist's own picture instead, by its address. */
  picture?: string;
}

/** Where the faces of one model sit. */
export interface Seats {
  /** Cell of each face; 0 as it came in. */
  cell: Uint16Array;
  /** Region of each face; 0 none. */
  region: Uint16Array;
  /** How `at` was made, for each face: the id of one of the model's rules; 0 by hand. Absent where all are. */
  rule?: Uint16Array;
  /** Coordinate inside the cell, 2 for each corner. Absent until a face sits on something not solid. */
  at?: Float32Array;
}

export const emptySeats = (faces: number): Seats => ({ cell: new Uint16Array(faces), region: new Uint16Array(faces) });

/** A copy with arrays of its own: those of a kit that is open are patched in place. */
export const copySeats = (seats: Seats): Seats => ({
  cell: seats.cell.slice(),
  region: seats.region.slice(),
  ...(seats.rule && { rule: seats.rule.slice() }),
  ...(seats.at && { at: seats.at.slice() }),
});

/** Rules are not there where no face has one, so that what is equal looks equal. */
export function withoutIdleRules({ rule, ...seats }: Seats): Seats {
  return rule?.some((r) => r !== 0) ? { ...seats, rule } : seats;
}

export const sizeOfSeats = ({ cell, region, rule, at }: Seats): number =>
  cell.byteLength + region.byteLength + (rule?.byteLength ?? 0) + (at?.byteLength ?? 0);

/** Where the faces of one model sit otherwise in a variant; there is none where no face does. */
export interface SeatPatch {
  /** Cell of each face; `inherits` as in the default. */
  cell: Uint16Array;
  /** Rule of each face, or `inherits`. Absent where all inherit. */
  rule?: Uint16Array;
  /** Coordinates of each corner, 2 each; NaN as in the default. Absent where all are. */
  at?: Float32Array;
}

/** Patches by variant, then by model. */
export type Patches = ById<ById<SeatPatch>>;

/** A kit with the seats of its models: what edits act on. */
export interface KitState {
  kit: Kit;
  seats: ById<Seats>;
  /** Absent where no variant seats any face otherwise. */
  patches?: Patches;
  /** The texels of painted art; absent where there is none. */
  pixels?: PixelsById;
}

export function findCell(kit: Kit, id: number): { sheet: Sheet; cell: Cell } | null {
  for (const sheet of kit.sheets) {
    const cell = sheet.cells.find((c) => c.id === id);
    if (cell) return { sheet, cell };
  }
  return null;
}

/** Throws where the kit has none of this id. */
export function findModel(kit: Kit, id: string): Model {
  const model = kit.models.find((m) => m.id === id);
  if (!model) throw new Error(`The kit has no model “${id}”.`);
  return model;
}

/** Throws where the kit has none of this id. */
export function findVariant(kit: Kit, id: string): Variant {
  const variant = kit.variants.find((v) => v.id === id);
  if (!variant) throw new Error(`The kit has no variant “${id}”.`);
  return variant;
}

/** Throws where the kit has none of this id. */
export function findSheet(kit: Kit, id: string): Sheet {
  const sheet = kit.sheets.find((s) => s.id === id);
  if (!sheet) throw new Error(`The kit has no sheet “${id}”.`);
  return sheet;
}

export const usableCells = (sheet: Sheet): Cell[] => sheet.cells.filter((c) => c.fill.kind !== 'spare');
export const spareCells = (sheet: Sheet): Cell[] => sheet.cells.filter((c) => c.fill.kind === 'spare');

/** Random and unlikely to meet itself; letters only first, so that it can name things in any format. */
export function newId(prefix: string): string {
  const bytes = crypto.getRandomValues(new Uint8Array(8));
  return prefix + Array.from(bytes, (b) => (b % 36).toString(36)).join('');
}
