import type { ById } from '../../ground/byId';
import type { Pixels } from '../pixels';
import type { Motif } from '../patterns';
import type { TexelChange } from '../texelChange';
import type { Cell, Cue, HandOff, Kit, KitState, Model, Placement, Ramp, Reference, SeatPatch, Seats, Sheet, Variant } from '../kit';

/** A change of a kit as a small value. Applying its inverse restores the state exactly. */
export type Edit =
  | PutEdit
  | SetEdit
  | StandEdit
  | SeatEdit
  | PlaceEdit
  | RegionEdit
  | RuleEdit
  | PatchEdit
  | PixelEdit
  | CanvasEdit
  | RemeshEdit
  | GroupEdit;

/**
 * Adds, replaces or removes one entry of a list: of the kit, or of a sheet (`of`: its id). `patches`: what
 * variants say of the faces of a model that comes or goes, by variant; or what a variant that comes or goes
 * says of faces, by model.
 */
export type PutEdit = { kind: 'put'; index: number } & (
  | { list: 'cells'; of: string; before: Cell | null; after: Cell | null }
  | { list: 'ramps'; of: string; before: Ramp | null; after: Ramp | null }
  | { list: 'sheets'; of: 'kit'; before: Sheet | null; after: Sheet | null }
  | { list: 'models'; of: 'kit'; before: Model | null; after: Model | null; seats?: Seats; patches?: ById<SeatPatch> }
  | { list: 'variants'; of: 'kit'; before: Variant | null; after: Variant | null; patches?: ById<SeatPatch> }
  | { list: 'placements'; of: 'kit'; before: Placement | null; after: Placement | null }
  | { list: 'cues'; of: 'kit'; before: Cue | null; after: Cue | null }
  | { list: 'motifs'; of: 'kit'; before: Motif | null; after: Motif | null }
  | { list: 'references'; of: 'kit'; before: Reference | null; after: Reference | null }
  | { list: 'handOffs'; of: 'kit'; before: HandOff | null; after: HandOff | null }
);

/** Models come to stand on the stage, stand otherwise or leave it: one after the other, each as a `PutEdit`, in one go. */
export interface StandEdit {
  kind: 'stand';
  label: string;
  puts: { index: number; before: Placement | null; after: Placement | null }[];
}

/** Sets plain fields of the kit, or of a sheet (`of`: its id). */
export type SetEdit =
  | { kind: 'set'; of: 'kit'; before: Partial<KitFields>; after: Partial<KitFields> }
  | { kind: 'set'; of: string; before: Partial<SheetFields>; after: Partial<SheetFields> };
type KitFields = Pick<Kit, 'name' | 'nextCell' | 'allowed' | 'slotsFrom' | 'startsWith' | 'proof'>;
type SheetFields = Omit<Sheet, 'id' | 'cells' | 'ramps'>;

/**
 * Faces move to other cells: spans of 4 numbers (first face, count, cell before, cell after), ascending and
 * disjoint.
 */
export interface SeatEdit {
  kind: 'seat';
  model: string;
  spans: Uint32Array;
}

/**
 * Corners move inside their cells: spans of 2 numbers (first corner, count), ascending and disjoint; 2
 * coordinates for each corner in them. `null`: the model has no coordinates there at all (all corners stand
 * in the middle); `corners` is their number in the model.
 */
export interface PlaceEdit {
  kind: 'place';
  model: string;
  corners: number;
  spans: Uint32Array;
  /** Pairs of first face and count: the faces whose corners these are. */
  faces?: Uint32Array;
  before: Float32Array | null;
  after: Float32Array | null;
}

/** Faces move to other regions; spans as in `SeatEdit`. */
export interface RegionEdit {
  kind: 'region';
  model: string;
  spans: Uint32Array;
}

/** Faces remember other rules; spans as in `SeatEdit`. */
export interface RuleEdit {
  kind: 'rule';
  model: string;
  spans: Uint32Array;
}

/**
 * Faces sit otherwise in a variant, or again as in the default coloring. `cells` and `rules` as the spans of
 * `SeatEdit`, with `inherits` for the default's; `corners`: pairs of first corner and count, ascending, with 2
 * coordinates a corner in `before` and `after`, NaN for the default's.
 */
export interface PatchEdit {
  kind: 'patch';
  variant: string;
  model: string;
  /** Corners of the model in all. */
  cornerCount: number;
  cells: Uint32Array;
  rules: Uint32Array;
  corners: Uint32Array;
  before: Float32Array;
  after: Float32Array;
}

/** Texels of painted art show other cells. `art`: the number of its pixels. */
export type PixelEdit = { kind: 'pixels'; art: string } & TexelChange;
/** The pixels of an art come, go, or are others as a whole. */
export interface CanvasEdit {
  kind: 'canvas';
  art: string;
  before: Pixels | null;
  after: Pixels | null;
}

/** A model takes another mesh, with seats carried over. */
export interface RemeshEdit {
  kind: 'remesh';
  model: string;
  before: Remeshed;
  after: Remeshed;
}
export interface Remeshed {
  mesh: string;
  faces: number;
  seats: Seats;
  /** What variants say of its faces, by variant; absent where none does. */
  patches?: ById<SeatPatch>;
  /** Absent: the model has none. */
  placement?: Model['placement'];
  /** Absent: they stay as they are. */
  source?: Model['source'];
  seams?: Model['seams'];
  picks?: Model['picks'];
}

export interface GroupEdit {
  kind: 'group';
  label: string;
  edits: Edit[];
  /** It is of every coloring, whatever is in it: a layout, a mesh, colors that come or go. */
  forAll?: true;
}

export function group(label: string, edits: Edit[]): Edit {
  return { kind: 'group', label, edits };
}

/** What an edit does, group by group, in its order. */
export const leavesOf = (edit: Edit): Edit[] => (edit.kind === 'group' ? edit.edits.flatMap(leavesOf) : [edit]);

/** A group that is of every coloring, made for the kit itself. */
export const groupForAll = (label: string, edits: Edit[]): Edit => ({ kind: 'group', label, edits, forAll: true });

export interface ApplyOptions {
  /** Undo and redo bring back what was, whatever has been locked since. */
  ignoreLocks?: boolean;
  /** Stored edits are done again on the state that they were made for: only that they fit into it is checked. */
  isReplay?: boolean;
}

/** Everything that there is to know of one kind of edit; `editKinds.ts` has the table of them. */
export interface EditKind<E> {
  /** The state after it. Throws `EditRefused`, and leaves the state as it was, where the edit does not fit. */
  apply: (state: KitState, edit: E, options: ApplyOptions) => KitState;
  inverse: (edit: E) => E;
  /** What it did, in words, for “Undo: …”. */
  label: (edit: E) => string;
  /** Bytes that it takes to keep, about. */
  size: (edit: E) => number;
  /** Addresses of what it may bring back: meshes, files, pictures. They are kept as long as the edit is. */
  contents: (edit: E) => string[];
  /** Models whose faces may sit on other cells after it. */
  recolors: (edit: E) => string[];
  /** Whether it is of every coloring, made for the kit itself; else a variant in hand takes what it says of colors. */
  ofAll: (edit: E) => boolean;
}

/** Before and after change places. */
export const swapped = <E extends { before: unknown; after: unknown }>(edit: E): E => ({ ...edit, before: edit.after, after: edit.before });
