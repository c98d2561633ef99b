import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexFromRgb, lchFromHex, rgbFromHex } from '../../ground/color/hex';
import { isInGamut, labDistance, labFromRgb } from '../../ground/color/oklab';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { spareCells, type KitState } from '../../kit/kit';
import { newKit } from '../starter';
import { makeRamp, readTuning, stepBetween, stepBeyond, turnToward } from './makeRamp';
import { addStep, createRamp, rampColors, recolorRamp, stepRoles } from './rampEdits';

const byte = fc.integer({ min: 0, max: 255 });
const color = fc.tuple(byte, byte, byte).map(hexFromRgb);

describe('a ramp from one color', () => {
  it('holds the color itself, runs from dark to light without a step back, and stays in gamut', () => {
    const options = fc.record({
      steps: fc.integer({ min: 2, max: 9 }),
      dark: fc.double({ min: 0.15, max: 0.45, noNaN: true }),
      light: fc.double({ min: 0.7, max: 0.97, noNaN: true }),
      coolShade: fc.integer({ min: 0, max: 60 }),
      warmLight: fc.integer({ min: 0, max: 60 }),
      endChroma: fc.double({ min: 0, max: 1.5, noNaN: true }),
    });
    fc.assert(
      fc.property(color, options, (base, o) => {
        const { colors, baseIndex } = makeRamp(base, o);
        expect(colors).toHaveLength(o.steps);
        expect(colors[baseIndex]).toBe(base);
        const ls = colors.map((c) => lchFromHex(c).l);
        // Bytes round lightness by up to about half a hundredth.
        for (let i = 1; i < ls.length; i++) expect(ls[i]! - ls[i - 1]!).toBeGreaterThan(-0.012);
        for (const c of colors) expect(isInGamut(lchFromHex(c))).toBe(true);
      }),
      { seed: 13 },
    );
  });

  it('drifts toward cool shades and warm lights, the short way round and never past', () => {
    const { colors } = makeRamp('#a04a3a', { steps: 5, coolShade: 40, warmLight: 30 });
    const [first, , , , last] = colors.map((c) => lchFromHex(c).h);
    const base = lchFromHex('#a04a3a').h;
    // From red, blue lies the short way over purple.
    expect(((base - first! + 540) % 360) - 180).toBeGreaterThan(20);
    expect(last! - base).toBeGreaterThan(15);
    expect([turnToward(350, 10, 50), turnToward(10, 350, 5), turnToward(80, 90, 4)]).toEqual([10, 5, 84]);
  });

  it('reads from a ramp how it runs, so that tuning goes on from there', () => {
    const o = { steps: 5, dark: 0.3, light: 0.86, coolShade: 24, warmLight: 12, endChroma: 0.6 };
    for (const base of ['#a5763a', '#4f7d84', '#7f8b40']) {
      const { colors, baseIndex } = makeRamp(base, o);
      const again = makeRamp(base, { steps: 5, baseIndex, ...readTuning(colors, baseIndex) }).colors;
      again.forEach((c, i) => expect(labDistance(labFromRgb(rgbFromHex(c)), labFromRgb(rgbFromHex(colors[i]!)))).toBeLessThan(0.025));
    }
  });

  it('goes on beyond its ends until there is no color left, and between two steps', () => {
    let colors = makeRamp('#4d6a80').colors;
    for (let n = 0; n < 20; n++) {
      const next = stepBeyond(colors, -1);
      if (!next) break;
      expect(lchFromHex(next).l).toBeLessThan(lchFromHex(colors[0]!).l);
      colors = [next, ...colors];
    }
    expect(stepBeyond(colors, -1)).toBeNull();
    expect(lchFromHex(colors[0]!).l).toBeGreaterThan(0.08);
    const [a, b] = [lchFromHex('#2d3446'), lchFromHex('#7088a0')];
    const between = lchFromHex(stepBetween('#2d3446', '#7088a0'));
    expect(between.l).toBeCloseTo((a.l + b.l) / 2, 1);
  });
});

describe('ramps on a sheet', () => {
  const start = (): KitState => ({ kit: newKit('Skerry'), seats: byId() });

  it('land on spare cells, grow the sheet where they must, and are undone in one', () => {
    const state = start();
    const { id } = state.kit.sheets[0]!;
    const { colors, baseIndex } = makeRamp('#5a7d8c', { steps: 5 });
    const { edit, ramp } = createRamp(state, { sheet: id, name: 'sea', colors, baseIndex });
    const after = applyEdit(state, edit);
    const sheet = after.kit.sheets[0]!;
    expect([sheet.width, sheet.height, spareCells(sheet).length]).toEqual([16, 32, 13]);
    expect(rampColors(sheet, sheet.ramps.at(-1)!)).toEqual(colors);
    expect(sheet.cells.find((c) => c.id === ramp.cells[baseIndex])!.role).toBe('sea');
    expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(JSON.stringify(state));
  });

  it('take a step more at either end or between, and other colors for all steps', () => {
    let state = start();
    const { id } = state.kit.sheets[0]!;
    const [rust] = state.kit.sheets[0]!.ramps;
    for (const at of [0, 4, 2]) state = applyEdit(state, addStep(state, id, rust!.id, at)!.edit);
    const sheet = state.kit.sheets[0]!;
    const ramp = sheet.ramps[0]!;
    const ls = rampColors(sheet, ramp).map((c) => lchFromHex(c).l);
    expect(ls).toEqual([...ls].sort((a, b) => a - b));
    expect(ramp.cells).toHaveLength(6);
    expect(ramp.cells.slice(1).filter((c) => rust!.cells.includes(c))).toEqual(rust!.cells);
    const { colors } = makeRamp('#356b52', { steps: 6 });
    const tuned = applyEdit(state, recolorRamp(sheet, ramp, colors));
    expect(rampColors(tuned.kit.sheets[0]!, tuned.kit.sheets[0]!.ramps[0]!)).toEqual(colors);
    expect(() => recolorRamp(sheet, ramp, colors.slice(1))).toThrow('6 steps');
  });

  it('name their steps', () => {
    expect(stepRoles('sail', 3, 1)).toEqual(['sail, in shade', 'sail', 'sail, lit']);
    expect(stepRoles('tar', 4, 3)).toEqual(['tar, in shade 3', 'tar, in shade 2', 'tar, in shade 1', 'tar']);
  });
});
