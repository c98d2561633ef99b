import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { modelOf } from '@tests/parts';
import { mergeKit } from '../files/takeIn/mergeKit';
import { byId } from '../ground/byId';
import { rgbFromHex } from '../ground/color/hex';
import { mergeColors } from '../sheet/mergeColors';
import { rasterOfPixels, withPainted } from '../sheet/painted';
import { planRelay, relaySheet } from '../sheet/relay';
import { rasterSheet } from '../sheet/raster';
import { newKit } from '../sheet/starter';
import { sheetInColorings, stateOfVariant } from './colorings/shown';
import { usesInAll } from './colorings/usesOfCells';
import type { Edit } from './edit/edit';
import { applyEdit, inverseOf, labelOf, sizeOfEdit } from './edit/editKinds';
import { emptyHistory, perform, redo, undo, type Step } from './edit/history';
import { spansOf } from './edit/seatFaces';
import { emptySeats, solid, type Cell, type KitState } from './kit';
import { emptyPixels, newPixelsId, paintedIn, texelsOfCells, type Pixels } from './pixels';

const art = newPixelsId();
const all = Uint32Array.from({ length: 32 }, (_, t) => t);
/** A sheet with 8 × 4 texels of painted art at its right end, all of cell 1; one variant recolors cells 1 and 2. */
function start(): KitState {
  const kit = newKit('Skerry');
  const [sheet] = kit.sheets;
  const cell: Cell = {
    id: 90,
    rect: { x: sheet!.width, y: 0, w: 8, h: 4 },
    role: 'fur',
    fill: { kind: 'art', picture: art, painted: true },
  };
  const wide = { ...sheet!, width: sheet!.width + 8, cells: [...sheet!.cells, cell] };
  const variants = [{ id: 'v', name: 'Wet', fills: { 1: solid('#010203'), 2: { kind: 'solid' as const, color: '#040506', alpha: 0.5 } } }];
  const models = [modelOf('m', 2, wide.id)];
  return {
    kit: { ...kit, sheets: [wide], variants, models, nextCell: 91 },
    seats: byId({ m: emptySeats(2) }),
    pixels: byId({ [art]: emptyPixels(8, 4, 1) }),
  };
}
const paint = ({ pixels }: KitState, texels: number[], cell: number): Edit => ({ kind: 'pixels', art, spans: spansOf(pixels![art]!.cells, Uint32Array.from(texels), cell) }); // prettier-ignore
/** What a coloring shows of the art on the sheet, texel by texel. */
function shown(state: KitState, variant: string | null): string[] {
  const now = stateOfVariant(state, variant);
  const [sheet] = now.kit.sheets;
  const { width, data } = rasterSheet(sheet!, withPainted(new Map(), state));
  const { rect } = sheet!.cells.find((c) => c.role === 'fur')!;
  return Array.from(all, (t) => {
    const at = ((rect.y + (t >> 3)) * width + rect.x + (t & 7)) * 4;
    return data.slice(at, at + 4).join();
  });
}
const colorOf = (state: KitState, variant: string | null, cell: number) => {
  const fill = stateOfVariant(state, variant).kit.sheets[0]!.cells.find((c) => c.id === cell)?.fill;
  return fill?.kind === 'solid' ? [...rgbFromHex(fill.color), Math.round((fill.alpha ?? 1) * 255)].join() : '128,128,128,0';
};

describe('painted art', () => {
  it('shows its cells in every coloring, follows them when they are recolored, and is clear where it shows nothing', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0, 1, 2, 3), { minLength: 32, maxLength: 32 }), fc.constantFrom(1, 2, 3), (cells, recolored) => {
        let state = start();
        for (const cell of [0, 1, 2, 3]) state = applyEdit(state, paint(state, cells.flatMap((c, t) => (c === cell ? [t] : [])), cell)); // prettier-ignore
        const expected = (v: string | null) => cells.map((c) => colorOf(state, v, c));
        for (const v of [null, 'v']) expect(shown(state, v)).toEqual(expected(v));
        const [sheet] = state.kit.sheets;
        const index = sheet!.cells.findIndex((c) => c.id === recolored);
        const before = sheet!.cells[index]!;
        state = applyEdit(state, {
          kind: 'put',
          list: 'cells',
          of: sheet!.id,
          index,
          before,
          after: { ...before, fill: solid('#abcdef') },
        });
        for (const v of [null, 'v']) expect(shown(state, v)).toEqual(expected(v));
        expect(texelsOfCells(state).get(2) ?? 0).toBe(cells.filter((c) => c === 2).length);
      }),
      { seed: 5, numRuns: 40 },
    );
  });

  it('looks alike whether a cell is recolored or its texels are repainted, in every coloring, and wherever it is laid', () => {
    const cells = fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 32, maxLength: 32 });
    fc.assert(
      fc.property(cells, fc.integer({ min: 1, max: 4 }), (list, cell) => {
        const before = start();
        before.pixels![art]!.cells.set(list);
        const [sheet] = before.kit.sheets;
        const index = sheet!.cells.findIndex((c) => c.id === cell);
        const put = (own: Cell | null, after: Cell): Edit => ({ kind: 'put', list: 'cells', of: sheet!.id, index: own ? index : sheet!.cells.length, before: own, after }); // prettier-ignore
        const other: Cell = { id: 91, rect: { x: sheet!.width - 8, y: 4, w: 1, h: 1 }, role: 'moss', fill: solid('#5a7a3c') };
        const recolored = applyEdit(before, put(sheet!.cells[index]!, { ...sheet!.cells[index]!, fill: other.fill }));
        const texels = [...all].filter((t) => list[t] === cell);
        const next = applyEdit(applyEdit(before, { kind: 'set', of: 'kit', before: { nextCell: 91 }, after: { nextCell: 92 } }), put(null, other)); // prettier-ignore
        const repainted = texels.length ? applyEdit({ ...next, pixels: byId({ [art]: { width: 8, height: 4, cells: Uint16Array.from(list) } }) }, paint(before, texels, 91)) : next; // prettier-ignore
        expect(shown(recolored, null)).toEqual(shown(repainted, null));
        // A variant that says nothing of the cell follows alike; one that does shows its own wherever the texels know the cell.
        if (cell > 2) expect(shown(recolored, 'v')).toEqual(shown(repainted, 'v'));
        else expect(shown(recolored, 'v')).toEqual(shown(before, 'v'));
        const [grown] = before.kit.sheets;
        const plan = planRelay(sheetInColorings(before.kit, grown!), new Set(grown!.cells.map((c) => c.id)), { exactTo: 0, spares: 0, dropUnused: false }); // prettier-ignore
        const laid = applyEdit(before, relaySheet(before.kit, grown!, plan));
        for (const coloring of [null, 'v']) expect(shown(laid, coloring)).toEqual(shown(before, coloring));
      }),
      { seed: 9, numRuns: 30 },
    );
  });

  it('is undone and done again to the texel, whatever was painted', () => {
    const strokes = fc.array(fc.tuple(fc.uniqueArray(fc.nat(31), { minLength: 1, maxLength: 12 }), fc.constantFrom(0, 1, 2, 3)), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(strokes, (list) => {
        let step: Step = { state: start(), history: emptyHistory };
        const states = [[...step.state.pixels![art]!.cells]];
        for (const [texels, cell] of list) {
          step = perform(step, paint(step.state, texels, cell));
          states.push([...step.state.pixels![art]!.cells]);
        }
        for (let k = states.length - 1; k >= 0; k--) {
          expect([...step.state.pixels![art]!.cells]).toEqual(states[k]);
          step = undo(step);
        }
        while (step.history.cursor < step.history.edits.length) step = redo(step);
        expect([...step.state.pixels![art]!.cells]).toEqual(states.at(-1));
      }),
      { seed: 6, numRuns: 60 },
    );
  });

  it('goes along when colors are merged, counts as their use, and comes with numbers of its own into another kit, each time', () => {
    let state = start();
    state = applyEdit(state, paint(state, [0, 1, 9], 2));
    expect(usesInAll(state).get(2)).toEqual({ faces: 0, models: 0, texels: 3 });
    const before = shown(state, null);
    const edit = mergeColors(state, 3, [2]);
    const merged = applyEdit(state, edit);
    expect([...merged.pixels![art]!.cells].flatMap((c, t) => (c === 3 ? [t] : []))).toEqual([0, 1, 9]);
    const back = applyEdit(merged, inverseOf(edit));
    expect(shown(back, null)).toEqual(before);

    let host: KitState = { kit: newKit('Islet'), seats: byId() };
    for (const n of [1, 2]) {
      host = applyEdit(host, mergeKit(host, back).edit);
      expect(new Set(paintedIn(host.kit)).size).toBe(n);
    }
    for (const v of [null, host.kit.variants[0]!.id]) expect(shown(host, v)).toEqual(shown(back, v && 'v'));
  });

  it('is the same raster again while neither its texels nor a color changes', () => {
    const state = start();
    const first = rasterOfPixels(state.pixels![art]!, state.kit);
    expect(rasterOfPixels(state.pixels![art]!, { ...state.kit, name: 'Other' })).toBe(first);
    const painted = applyEdit(state, paint(state, [3], 2));
    expect(rasterOfPixels(painted.pixels![art]!, painted.kit)).not.toBe(first);
  });
});

describe('an edit of texels', () => {
  const attempt = (edit: Edit, options = {}, state = start()) => {
    const before = [...state.pixels![art]!.cells];
    try {
      return applyEdit(state, edit, options);
    } catch (error) {
      expect([...state.pixels![art]!.cells]).toEqual(before);
      return (error as Error).message;
    }
  };
  const spans = (...list: number[]): Edit => ({ kind: 'pixels', art, spans: Uint32Array.from(list) });
  const canvas = (before: Pixels | null, after: Pixels | null, number = art): Edit => ({ kind: 'canvas', art: number, before, after });

  it('is refused where it does not fit, and leaves all as it was', () => {
    const refused: [Edit, string, object?][] = [
      [{ kind: 'pixels', art: 'none', spans: new Uint32Array() }, 'not there any more'],
      [spans(30, 3, 1, 2), 'texels that the art does not have'],
      [spans(4, 2, 1, 2, 5, 1, 1, 2), 'texels that the art does not have'],
      [spans(4, 2, 1, 2, 5, 1, 1, 2), 'texels that the art does not have', { isReplay: true }],
      [spans(0, 1, 1, 2, 4, 1, 3, 2), 'texel 5 of the art has changed'],
      [spans(0, 1, 1, 2, 4, 1, 1, 800), 'no cell 800'],
      [canvas(null, emptyPixels(2, 2)), 'the art has changed meanwhile'],
      [canvas(emptyPixels(8, 4, 2), null), 'the art has changed meanwhile'],
      [canvas(emptyPixels(8, 4, 1), null), 'the texels of its art are not there'],
      [canvas(null, emptyPixels(2, 2, 800), 'b'), 'no cell 800'],
      [canvas(null, { width: 2, height: 3, cells: new Uint16Array(5) }, 'b'), '2 × 3 is none'],
      [canvas(null, { width: 0, height: 3, cells: new Uint16Array(0) }, 'b'), '0 × 3 is none'],
      [canvas(null, { width: 4097, height: 1, cells: new Uint16Array(4097) }, 'b'), '4097 × 1 is none'],
    ];
    for (const [edit, why, options] of refused) expect(attempt(edit, options), why).toContain(why);
    expect(attempt(spans(28, 4, 1, 0))).toBeTypeOf('object');
    expect(attempt(spans(0, 1, 3, 800), { isReplay: true })).toBeTypeOf('object');
    const state = start();
    const [sheet] = state.kit.sheets;
    const index = sheet!.cells.length - 1;
    const strange = { ...sheet!.cells[index]!, fill: { kind: 'art' as const, picture: newPixelsId(), painted: true as const } };
    expect(attempt({ kind: 'put', list: 'cells', of: sheet!.id, index, before: sheet!.cells[index]!, after: strange }, {}, state)).toContain('the texels of its art are not there'); // prettier-ignore
  });

  it('comes and goes whole, keeps arrays of its own, and tells what it did', () => {
    const made = emptyPixels(2, 2, 3);
    const after = applyEdit(start(), canvas(null, made, 'b'));
    made.cells.fill(1);
    expect([...after.pixels!.b!.cells]).toEqual([3, 3, 3, 3]);
    expect(Object.keys(applyEdit(after, canvas(emptyPixels(2, 2, 3), null, 'b')).pixels!)).toEqual([art]);
    const words = [spans(0, 1, 1, 2), canvas(null, made), canvas(made, made), canvas(made, null)].map((e) => [labelOf(e), sizeOfEdit(e)]);
    expect(words).toEqual([['Paint', 80], ['Make art', 136], ['Change art', 144], ['Remove art', 136]]); // prettier-ignore
  });
});
