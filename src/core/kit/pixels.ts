import { type ById, byId, withId } from '../ground/byId';
import { equalArrays } from '../ground/equalArrays';
import { inherits } from '../ground/limits';
import type { Fill, Kit, KitState, Variant } from './kit';
import { eachRun, type TexelChange } from './texelChange';

/**
 * The texels of painted art, row by row from the top left: a cell of the kit each, whose color they show in every
 * coloring; 0 nothing. Of what a variant has painted otherwise, `inherits` where it shows the default's. They are state, as seats are: patched in place by edits, under a new wrapper.
 */
export interface Pixels {
  width: number;
  height: number;
  cells: Uint16Array;
}

/** Pixels by the number that a fill has in the place of a picture's address. */
export type PixelsById = ById<Pixels>;

export const emptyPixels = (width: number, height: number, cell = 0): Pixels => ({
  width,
  height,
  cells: new Uint16Array(width * height).fill(cell),
});

/** A copy with an array of its own. */
export const copyPixels = ({ width, height, cells }: Pixels): Pixels => ({ width, height, cells: cells.slice() });
export const copyAllPixels = (pixels: PixelsById): PixelsById => byId(Object.entries(pixels).map(([id, p]) => [id, copyPixels(p)]));

export const areSamePixels = (a: Pixels, b: Pixels): boolean =>
  a.width === b.width && a.height === b.height && equalArrays(a.cells, b.cells);

/** As a fill names them: as long as an address, so that both are checked alike. */
export const newPixelsId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('');

/** The state with these pixels under their number; `undefined` takes them away. The field is absent where there are none. */
export function withPixels({ pixels = byId(), ...state }: KitState, id: string, own: Pixels | undefined): KitState {
  const next = withId<Pixels>(pixels, id, own);
  return { ...state, ...(Object.keys(next).length && { pixels: next }) };
}

type PaintedArt = Extract<Fill, { kind: 'art' }> & { painted: true };
export const isPainted = (fill: Fill | undefined): fill is PaintedArt => fill?.kind === 'art' && fill.painted === true;

/** What stands in the place of a picture's address where a variant shows painted art: its colors may be others there. */
export const shownPixels = (art: string, variant: string): string => `${art} ${variant}`;
/** The number of the pixels that stand there, in whichever coloring. */
export const pixelsOf = (key: string): string => key.split(' ')[0]!;

/** The numbers of all pixels that a variant has of its own, by the cell that shows them. */
export const paintedByVariant = ({ fills }: Pick<Variant, 'fills'>): [cell: number, art: string][] =>
  Object.entries(fills).flatMap(([cell, fill]) => (isPainted(fill) ? [[Number(cell), fill.picture] as [number, string]] : []));

/** The numbers of all pixels that a kit shows in any coloring, each once. */
export const paintedInAll = (kit: Pick<Kit, 'sheets' | 'variants'>): string[] => [
  ...new Set([...paintedIn(kit), ...kit.variants.flatMap((v) => paintedByVariant(v).map(([, art]) => art))]),
];

const laidOver = new WeakMap<Pixels, { over: Pixels; full: Pixels }>();
/** What a variant shows: its own texels, and those that it inherits; the same again while neither changes. */
export function overPixels(over: Pixels, own: Pixels): Pixels {
  const known = laidOver.get(own);
  if (known?.over === over) return known.full;
  // Of art that has another size by now nothing is known.
  const fits = over.width === own.width && over.height === own.height;
  const full = fits ? { ...over, cells: own.cells.map((c, t) => (c === inherits ? over.cells[t]! : c)) } : over;
  laidOver.set(own, { over, full });
  return full;
}

/** All pixels as a variant shows them: under the numbers of its own what it shows there. */
export function pixelsOfVariant({ kit, pixels = byId() }: Pick<KitState, 'kit' | 'pixels'>, variant: Pick<Variant, 'fills'>): PixelsById {
  const own = paintedByVariant(variant);
  if (!own.length) return pixels;
  const fills = new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  const shown = own.flatMap(([cell, art]): [string, Pixels][] => {
    const fill = fills.get(cell);
    const [over, said] = [isPainted(fill) && fill.picture !== art ? pixels[fill.picture] : undefined, pixels[art]];
    return over && said ? [[art, overPixels(over, said)]] : [];
  });
  return byId([...Object.entries(pixels), ...shown]);
}

/** The numbers of all pixels that cells of a kit show, each once. */
export const paintedIn = ({ sheets }: Pick<Kit, 'sheets'>): string[] => [
  ...new Set(sheets.flatMap((s) => s.cells.flatMap((c) => (isPainted(c.fill) ? [c.fill.picture] : [])))),
];

/** A kit's document with the texels of its art. */
export type PaintedKit = Pick<KitState, 'kit' | 'pixels'>;
export const paintedKit = ({ kit, pixels }: KitState): PaintedKit => ({ kit, ...(pixels && { pixels }) });

/** How many texels show each cell, in all art of a kit. */
export function texelsOfCells({ kit, pixels = byId() }: PaintedKit): Map<number, number> {
  return texelsShowingCells(
    paintedIn(kit).flatMap((key) => pixels[pixelsOf(key)] ?? []),
    kit.nextCell,
  );
}

const counted = new WeakMap<Pixels, Uint32Array>();
/** How many texels show each cell, by its number. */
function countsOf(pixels: Pixels): Uint32Array {
  let own = counted.get(pixels);
  if (!own) {
    own = new Uint32Array(65536);
    for (const cell of pixels.cells) own[cell]!++;
    counted.set(pixels, own);
  }
  return own;
}

/** Pixels that were patched in place keep what was counted in them. */
export function carryCounts(before: Pixels, after: Pixels, change: TexelChange): void {
  const own = counted.get(before);
  if (!own) return;
  eachRun(change, (_, count, was, is) => {
    own[was]! -= count;
    own[is]! += count;
  });
  counted.delete(before);
  counted.set(after, own);
}

/** How many texels of some art show each cell of a number below `end`. */
export function texelsShowingCells(art: readonly Pixels[], end: number): Map<number, number> {
  const counts = new Uint32Array(65536);
  for (const own of art) {
    const some = countsOf(own);
    for (let id = 1; id < end; id++) counts[id]! += some[id]!;
  }
  const uses = new Map<number, number>();
  for (let id = 1; id < end; id++) if (counts[id]) uses.set(id, counts[id]!);
  return uses;
}
