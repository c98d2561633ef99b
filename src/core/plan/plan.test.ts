import { expect, it } from 'vitest';
import { lchFromHex, rgbFromHex } from '../color/hex';
import { labDistance, labFromRgb } from '../color/oklab';
import { applyEdit, inverseOf } from '../edit/editKinds';
import { spareCells, usableCells, type KitState } from '../kit/kit';
import { newKit } from '../sheet/starter';
import { colorOfName, planColors, readRoles } from './planColors';
import { planSheet } from './planEdit';
import { stateWords, thingColors } from './words';

it('reads roles as they are typed or pasted', () => {
  expect(readRoles(' sail, rope 2;\n- brass\n3. wet sand\n* Rope\r\n“tar” x1,,', 3)).toEqual([
    { name: 'sail', steps: 3 },
    { name: 'rope', steps: 2 },
    { name: 'brass', steps: 3 },
    { name: 'wet sand', steps: 3 },
    { name: '“tar”', steps: 1 },
  ]);
  expect(readRoles('ruin 12', 2)).toEqual([{ name: 'ruin 12', steps: 2 }]);
  expect(readRoles(Array.from({ length: 200 }, (_, i) => `role ${i}a`).join('\n'), 1)).toHaveLength(64);
});

it('knows things by their words, singular or plural, last word first, and what a state does to them', () => {
  expect(thingColors.size).toBeGreaterThan(150);
  for (const { l, c } of thingColors.values()) expect(l > 0.15 && l < 0.98 && c < 0.22).toBe(true);
  expect(colorOfName('ropes')).toEqual(thingColors.get('rope'));
  expect(colorOfName('Lime wash')).toEqual(thingColors.get('lime wash'));
  expect(colorOfName('oak leaves')!.h).toBe(thingColors.get('leaves')!.h);
  expect(colorOfName('wet sand')!.l).toBeLessThan(colorOfName('sand')!.l);
  expect(Math.abs(colorOfName('rusty anchor')!.h - stateWords.get('rusty')!.toward!.hue)).toBeLessThan(1);
  expect(colorOfName('gribble')).toBeNull();
});

it('proposes base colors that no one would take for one another, however alike the names', () => {
  const names = ['rope', 'twine', 'straw', 'hay', 'wheat', 'gribble', 'dorro', 'vell', 'oak', 'timber', 'plank', 'wood'];
  const planned = planColors(
    names.map((name) => ({ name, steps: 1 })),
    ['#b5463a'],
  );
  const labs = [...planned.map((p) => p.colors[0]!), '#b5463a'].map((hex) => labFromRgb(rgbFromHex(hex)));
  for (let i = 0; i < labs.length; i++) for (let k = 0; k < i; k++) expect(labDistance(labs[i]!, labs[k]!)).toBeGreaterThan(0.045);
  expect(planned.map((p) => p.from).slice(4, 7)).toEqual(['name', 'spread', 'spread']);
  const [ramp] = planColors([{ name: 'brass', steps: 5 }]);
  const lightness = ramp!.colors.map((c) => lchFromHex(c).l);
  expect(lightness).toEqual([...lightness].sort((a, b) => a - b));
});

it('lays a plan out on the smallest sheet beside the colors in use, as one edit that is undone exactly', () => {
  const state: KitState = { kit: newKit('Skerry'), seats: {} };
  const sheet = state.kit.sheets[0]!;
  const planned = planColors(readRoles('sail, rope, brass, tar, lichen', 3));
  const edit = planSheet(state, sheet.id, planned, new Set([2]), { exactTo: 1, spares: 2, keepUnused: false });
  const after = applyEdit(state, edit).kit.sheets[0]!;
  expect([after.width, after.height]).toEqual([16, 8]);
  expect(usableCells(after)).toHaveLength(16);
  expect(after.cells.find((c) => c.id === 2)!.fill).toEqual(sheet.cells[1]!.fill);
  expect(after.ramps.map((r) => r.name)).toEqual(['Rust', 'sail', 'rope', 'brass', 'tar', 'lichen']);
  expect(spareCells(after).length).toBeGreaterThanOrEqual(2);
  expect(JSON.stringify(applyEdit(applyEdit(state, edit), inverseOf(edit)))).toBe(JSON.stringify(state));
});
