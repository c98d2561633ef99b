import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fullKit, furArt, furOfFresh } from '@tests/savedKits';
import { mergeKit } from '../../files/takeIn/mergeKit';
import { stateOfVariant } from '../../kit/colorings/shown';
import { usesInAll } from '../../kit/colorings/usesOfCells';
import type { PixelEdit } from '../../kit/edit/edit';
import type { TexelSpans } from '../../kit/texelChange';
import { emptyHistory, perform, performWith, redo, undo, type Step } from '../../kit/edit/history';
import { spansOf } from '../../kit/edit/seatFaces';
import { isPainted, pixelsOf } from '../../kit/pixels';
import { findCell, solid, type Cell, type KitState } from '../../kit/kit';
import { editCell } from '../../sheet/cells';
import { mergeColors } from '../../sheet/mergeColors';
import { withPainted } from '../../sheet/painted';
import { putVariant } from './intoVariant';
import { intoVariant } from './intoVariant';
import { paintInVariant } from './paintInVariant';
import { addVariant, moveIntoDefault, takeBack } from './variantEdits';

const fur = (state: KitState): Cell => state.kit.sheets[0]!.cells.find((c) => c.role === 'fur')!;
const faceStart = () => Uint32Array.from({ length: 7 }, (_, f) => f * 4);
/** The cells that a coloring shows on the art, texel by texel. */
function shown(state: KitState, variant: string | null): number[] {
  const now = stateOfVariant(state, variant);
  return [...now.pixels![pixelsOf((fur(now).fill as { picture: string }).picture)]!.cells];
}
/** What a brush asks for: some texels become a cell, as the coloring shows them. */
const asked = (state: KitState, variant: string | null, texels: number[], cell: number): PixelEdit & TexelSpans => {
  const now = stateOfVariant(state, variant);
  const art = pixelsOf((fur(now).fill as { picture: string }).picture);
  return { kind: 'pixels', art, spans: spansOf(now.pixels![art]!.cells, Uint32Array.from(texels), cell) };
};
const painted = (step: Step, variant: string | null, texels: number[], cell: number): Step => {
  const brush = asked(step.state, variant, texels, cell);
  const edit = variant ? paintInVariant(step.state, variant, fur(step.state).id, brush) : brush.spans.length ? brush : null;
  return edit ? perform(step, edit) : step;
};
const start = (): Step => ({ state: fullKit(), history: emptyHistory });
const twoMore = (): Step => {
  const step = start();
  const copy = addVariant(step.state, { name: 'Fresh too', copyOf: 'vFresh' });
  return perform(step, copy.edit);
};
const variantsOf = ({ state }: Step) => state.kit.variants.filter((v) => v.model === undefined).map((v) => v.id);

it('each coloring shows what was painted in it, and where nothing was what the default shows; undo restores all', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(2), fc.uniqueArray(fc.nat(5), { minLength: 1, maxLength: 4 }), fc.nat(3)), { maxLength: 8 }),
      (strokes) => {
        let step = twoMore();
        const before = [null, ...variantsOf(step)].map((v) => shown(step.state, v));
        const names = [null, ...variantsOf(step)];
        const of = (v: string | null) => {
          const own = v && step.state.kit.variants.find((k) => k.id === v)!.fills[fur(step.state).id];
          return own && isPainted(own) ? step.state.pixels![own.picture]!.cells : null;
        };
        const expected = names.map((v) => (v ? [...of(v)!].map((c) => (c === 65535 ? undefined : c)) : shown(step.state, null)));
        for (const [which, texels, cell] of strokes) {
          const changed = texels.filter((t) => shown(step.state, names[which]!)[t] !== cell);
          step = painted(step, names[which]!, texels, cell);
          for (const t of changed) {
            expected[which]![t] = cell;
            // What is as the default shows it is the default's again, and follows it.
            if (which && expected[0]![t] === cell) expected[which]![t] = undefined;
          }
          names.forEach((v, i) => expect(shown(step.state, v)).toEqual(expected[i]!.map((c, t) => c ?? expected[0]![t])));
        }
        const after = names.map((v) => shown(step.state, v));
        const done = step.history.cursor;
        while (step.history.cursor > 1) step = undo(step);
        expect(names.map((v) => shown(step.state, v))).toEqual(before);
        while (step.history.cursor < done) step = redo(step);
        expect(names.map((v) => shown(step.state, v))).toEqual(after);
      },
    ),
    { seed: 11, numRuns: 60 },
  ));

it('a stroke in a variant that has no texels of its own yet is one undo, and short in memory', () => {
  const step = start();
  const { state } = perform(step, putVariant(step.state, { ...step.state.kit.variants[0]!, fills: {} }));
  const first = paintInVariant(state, 'vFresh', fur(state).id, asked(state, 'vFresh', [0], 2))!;
  let now = perform({ state, history: emptyHistory }, first);
  const was = shown(state, null);
  for (const t of [1, 2, 1]) {
    const edit = paintInVariant(now.state, 'vFresh', fur(now.state).id, asked(now.state, 'vFresh', [t], 2));
    if (edit) now = performWith(now, edit, now.history.edits[0]!);
  }
  expect(now.history.edits).toHaveLength(1);
  expect((now.history.edits[0] as { edits: unknown[] }).edits).toHaveLength(3);
  expect(shown(now.state, 'vFresh').slice(0, 3)).toEqual([2, 2, 2]);
  expect(shown(now.state, null)).toEqual(was);
  expect(shown(undo(now).state, 'vFresh')).toEqual(was);
  expect(paintInVariant(state, 'vFresh', 1, asked(state, null, [0], 2))).toBeNull();
  expect(paintInVariant(state, 'vFresh', fur(state).id, asked(state, null, [0], was[0]!))).toBeNull();
});

it('is held as a use of its cells, follows them when they are merged, recolored and taken in elsewhere', () => {
  const state = fullKit();
  const [, , third] = state.kit.sheets[0]!.cells.map((c) => c.id);
  const own = state.pixels![furOfFresh]!.cells;
  expect(own.includes(third!)).toBe(true);
  // Cells that only a variant's texels show are in use.
  let step = start();
  step = painted(step, 'vFresh', [5], 9);
  expect(usesInAll(step.state).get(9)).toEqual({ faces: 0, models: 0, texels: 1 });
  step = perform(step, mergeColors(step.state, 4, [9]));
  expect(shown(step.state, 'vFresh')[5]).toBe(4);
  expect(shown(step.state, null)[5]).toBe(fullKit().pixels![furArt]!.cells[5]);

  step = perform(step, editCell(step.state.kit.sheets[0]!, 4, { fill: solid('#00ff00') }));
  const now = stateOfVariant(step.state, 'vFresh');
  const key = (fur(now).fill as { picture: string }).picture;
  const raster = withPainted(new Map(), step.state).get(key)!;
  const fill = findCell(now.kit, 4)!.cell.fill as { color: string };
  expect(`#${[20, 21, 22].map((i) => raster.data[i]!.toString(16).padStart(2, '0')).join('')}`).toBe(fill.color);

  const { state: into } = start();
  const merged = perform({ state: into, history: emptyHistory }, mergeKit(into, step.state).edit).state;
  const came = merged.kit.sheets.flatMap((s) => s.cells).filter((c) => c.role === 'fur')[1]!;
  const variant = merged.kit.variants.find((v) => isPainted(v.fills[came.id]) && v.fills[came.id] !== came.fill)!;
  const there = stateOfVariant(merged, variant.id);
  const pixels = there.pixels![pixelsOf((findCell(there.kit, came.id)!.cell.fill as { picture: string }).picture)]!;
  const colors = (kit: KitState, cells: Iterable<number>) =>
    [...cells].map((c) => (c ? JSON.stringify(findCell(stateOfVariant(kit, null).kit, c)!.cell.fill) : ''));
  expect(colors(merged, pixels.cells)).toEqual(colors(step.state, shown(step.state, 'vFresh')));
});

it('becomes the default, or is taken back, texel by texel; other changes of the variant leave it', () => {
  const state = fullKit();
  const variant = state.kit.variants[0]!;
  const wanted = shown(state, 'vFresh');
  expect(wanted).not.toEqual(shown(state, null));
  const moved = perform({ state, history: emptyHistory }, moveIntoDefault(state, variant, { cells: [fur(state).id] }, faceStart)!);
  expect(shown(moved.state, null)).toEqual(wanted);
  expect(isPainted(fur(moved.state).fill) && fur(moved.state).fill).toMatchObject({ picture: furArt });
  expect(moved.state.kit.variants[0]!.fills).toEqual({});
  expect(shown(undo(moved).state, null)).toEqual(shown(fullKit(), null));

  const back = fullKit();
  const taken = perform({ state: back, history: emptyHistory }, takeBack(back, variant, { cells: [fur(back).id] }, faceStart)!);
  expect(shown(taken.state, 'vFresh')).toEqual(shown(back, null));

  const shownKit = stateOfVariant(back, 'vFresh');
  const recolor = intoVariant(back, 'vFresh', editCell(shownKit.kit.sheets[0]!, 1, { fill: solid('#123456') }), faceStart);
  const recolored = perform({ state: back, history: emptyHistory }, recolor).state;
  expect(shown(recolored, 'vFresh')).toEqual(wanted);
});
