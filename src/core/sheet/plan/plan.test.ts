import { byId } from '@/core/ground/byId';
import { mostIn } from '../../ground/limits';
import { expect, it } from 'vitest';
import { hexFromLch, lchFromHex, rgbFromHex } from '../../ground/color/hex';
import { fitToGamut, labDistance, labFromLch, labFromRgb, type Lab, type Lch } from '../../ground/color/oklab';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { spareCells, usableCells, type KitState } from '../../kit/kit';
import { newKit } from '../starter';
import { colorOfName, knownThings, readColor } from './nameColor';
import { planColors, readRoles } from './planColors';
import { planSheet } from './planEdit';
import { colorWords, stateWords, thingColors } from './words';
import { wordOfColor } from './wordOfColor';

it('reads roles as they are typed or pasted', () => {
  expect(readRoles(' sail, rope 2;\n- brass\n3. wet sand\n* Rope\r\n“tar” x1,,', 3).roles).toEqual([
    { name: 'sail', steps: 3 },
    { name: 'rope', steps: 2 },
    { name: 'brass', steps: 3 },
    { name: 'wet sand', steps: 3 },
    { name: '“tar”', steps: 1 },
  ]);
  expect(readRoles('ruin 12', 2).roles).toEqual([{ name: 'ruin 12', steps: 2 }]);
  expect(readRoles(Array.from({ length: 200 }, (_, i) => `role ${i}a`).join('\n'), 1).roles).toHaveLength(64);
});

it('reads colors, steps and spares out of a list or the rows of a table', () => {
  expect(readRoles('skin #5D7F3C, hat #abc 2; 3 spare\nrope 4 steps', 1)).toEqual({
    roles: [
      { name: 'skin', steps: 1, color: '#5d7f3c' },
      { name: 'hat', steps: 2, color: '#aabbcc' },
      { name: 'rope', steps: 4 },
    ],
    spares: 3,
  });
  expect(readRoles('role\t#112233\t3\n| dark blue trousers | 2 |\nspare\t2', 1)).toEqual({
    roles: [
      { name: 'role', steps: 3, color: '#112233' },
      { name: 'dark blue trousers', steps: 2 },
    ],
    spares: 2,
  });
  expect(readRoles('#102030', 1).roles).toEqual([{ name: '#102030', steps: 1, color: '#102030' }]);
  expect(readRoles('spare tyre 2', 1)).toEqual({ roles: [{ name: 'spare tyre', steps: 2 }] });
});

it('reads spares and steps however they are written, and nothing else as such', () => {
  for (const [text, spares] of [
    ['3 spare', 3],
    ['12 spares', 12],
    ['12   spare cells', 12],
    ['1 spare cell', 1],
    ['spare 4', 4],
    ['spares x 14', 14],
    ['spare cells: 5', 5],
    ['Spare cell×6', 6],
  ] as const)
    expect([text, readRoles(text, 1)]).toEqual([text, { roles: [], spares }]);
  for (const text of ['spare', 'spare 123', '100 spare', 'a 3 spare', '3 spare tyres', 'spares xx 4'])
    expect([text, readRoles(text, 1).spares]).toEqual([text, undefined]);
  for (const [text, name, steps] of [
    ['rope x3', 'rope', 3],
    ['rope × 4', 'rope', 4],
    ['rope: 5', 'rope', 5],
    ['rope 6 tones', 'rope', 6],
    ['wet   rope 7 shade', 'wet rope', 7],
    ['rope 8 step', 'rope', 8],
    ['max 3', 'max', 3],
    ['ropex3', 'ropex3', 2],
    ['rope 0', 'rope 0', 2],
    ['rope 10', 'rope 10', 2],
    ['rope 3 things', 'rope 3 things', 2],
    ['1) rope 9', 'rope', 9],
  ] as const)
    expect([text, readRoles(text, 2).roles]).toEqual([text, [{ name, steps }]]);
  expect(readRoles(`${'o'.repeat(90)} 3`, 1).roles).toEqual([{ name: 'o'.repeat(80), steps: 3 }]);
  expect(readRoles('#ABCDEF, #abcdef, ##abcdef, x#abcdef', 1).roles.map((r) => [r.name, r.color])).toEqual([
    ['#abcdef', '#abcdef'],
    ['##abcdef', undefined],
    ['x#abcdef', undefined],
  ]);
});

it('lets a color win over the thing beside it, and a material over what has none by nature', () => {
  const at = (name: string) => colorOfName(name)!;
  for (const [name, as] of [
    ['red tunic', 'red'],
    ['tunic red', 'red'],
    ['white horse', 'white'],
    ['brick wall', 'brick'],
    ['iron doors', 'iron'],
    ['oak leaves', 'leaves'],
    ['pale skin', 'pale skin'],
    ['cuirass', 'armor'],
    ['loaves', 'bread'],
    ['tarred rigging', 'tarred rope'],
  ] as const)
    expect(at(name), name).toMatchObject({ h: at(as).h });
  expect(at('red tunic')).toEqual(at('red'));
  expect(at('dark blue trousers')).toEqual(at('dark blue'));
  expect(at('dark blue').l).toBeLessThan(at('blue').l);
  expect(at('light')).toEqual(thingColors.get('light'));
  expect(at('light blue').h).toBe(at('blue').h);
  expect(new Set(knownThings()).size).toBeGreaterThanOrEqual(600);
  expect(knownThings().length).toBe(new Set(knownThings()).size);
  for (const word of knownThings()) expect(colorOfName(word), word).not.toBeNull();
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

it('keeps what is given, moves what would be its twin by the nearest step, and spreads the rest the farthest', () => {
  const lchOf = (hex: string) => lchFromHex(hex);
  const lab = (hex: string) => labFromRgb(rgbFromHex(hex));
  const plain = (name: string, color?: string) => ({ name, steps: 1, ...(color && { color }) });
  const [first, twin, given, gone] = planColors(
    [plain('brick'), plain('brick wall'), plain('brick', '#a04030'), plain('gribble')],
    ['#203040'],
  );
  expect(first!.colors).toEqual(planColors([plain('brick')])[0]!.colors);
  // Lighter first: hue and strength stay.
  const [a, b] = [lchOf(first!.colors[0]!), lchOf(twin!.colors[0]!)];
  const rings = (b.l - a.l) / 0.035;
  expect([rings, b.c / a.c]).toEqual([expect.closeTo(Math.round(rings), 1), expect.closeTo(1, 1)]);
  expect(labDistance(lab(twin!.colors[0]!), lab(first!.colors[0]!))).toBeGreaterThan(0.059);
  expect(rings).toBeLessThan(2.5);
  expect([given!.colors, given!.from, gone!.from]).toEqual([['#a04030'], 'given', 'spread']);
  // No calm color lies farther from all others than the one that is chosen.
  const others = ['#203040', ...[first!, twin!, given!].map((p) => p.colors[0]!)].map(lab);
  const farFrom = (of: Lab) => Math.min(...others.map((other) => labDistance(of, other)));
  const chosen = farFrom(lab(gone!.colors[0]!));
  for (let h = 10; h < 360; h += 15)
    for (const l of [0.46, 0.58, 0.7, 0.82])
      for (const c of [0.06, 0.1]) expect(farFrom(labFromLch(fitToGamut({ l, c, h })))).toBeLessThan(chosen + 0.004);
  expect(planColors([plain('gribble')])[0]!.colors).toEqual([hexFromLch({ l: 0.58, c: 0.1, h: 235 })]);
});

it('tries lighter and darker first, then other hues, then other strengths, nearer before farther; where all are twins, the farthest', () => {
  const away = (at: Lch, others: readonly Lch[]) => Math.min(...others.map((o) => labDistance(labFromLch(at), labFromLch(o))));
  const base = fitToGamut(colorOfName('brick')!);
  const tries = [1, 2, 3, 4].flatMap((ring) =>
    [[1, 0, 0], [-1, 0, 0], [1, 1, 0], [-1, -1, 0], [1, -1, 1], [-1, 1, 1], [0, 1, 1], [0, -1, 1]].map(([l, h, c]) =>
      fitToGamut({
        l: Math.max(0.2, Math.min(0.96, base.l + l! * ring * 0.035)),
        h: (base.h + h! * ring * 6 + 360) % 360,
        c: Math.max(0, base.c * (1 + c! * ring * 0.15)),
      }),
    ),
  ); // prettier-ignore
  const near = (hex: string, to: Lch) => expect(labDistance(labFromRgb(rgbFromHex(hex)), labFromLch(to))).toBeLessThan(0.004);
  for (let taken = 0; taken < tries.length; taken++) {
    const present = [base, ...tries.slice(0, taken)].map(hexFromLch);
    const others = present.map(lchFromHex);
    const free = tries.find((at) => away(at, others) >= 0.06);
    const best = free ?? [...tries].sort((p, q) => away(q, others) - away(p, others))[0]!;
    near(planColors([{ name: 'brick', steps: 1 }], present)[0]!.colors[0]!, best);
  }
});

it('changes a thing by each state beside it: lightness, strength, and a stain or a turn of hue', () => {
  const turned = (h: number, to: number, most: number) => {
    const by = ((to - h + 540) % 360) - 180;
    return (h + Math.max(-most, Math.min(most, by)) + 360) % 360;
  };
  for (const [state, { l, chroma, toward }] of stateWords)
    for (const thing of ['rope', 'lime wash', 'moss', 'snow', 'brick']) {
      const own = thingColors.get(thing) ?? colorOfName(thing)!;
      const made = colorOfName(`${state} ${thing}`)!;
      expect([state, thing, made.l]).toEqual([state, thing, expect.closeTo(Math.min(0.96, Math.max(0.2, own.l + l)), 6)]);
      const stain = toward && chroma > 0.6 ? toward.degrees * 0.0006 : 0;
      expect([state, thing, made.c]).toEqual([state, thing, expect.closeTo(Math.max(own.c * chroma, stain), 6)]);
      const hue = !toward ? own.h : own.c < 0.03 ? toward.hue : turned(own.h, toward.hue, toward.degrees);
      expect([state, thing, (made.h + 360) % 360]).toEqual([state, thing, expect.closeTo((hue + 360) % 360, 4)]);
    }
  for (const [many, one] of [
    ['sails', 'sail'],
    ['stones', 'stone'],
    ['glasses', 'glass'],
    ['skies', 'sky'],
    ['berries', 'berry'],
    ['wooden', 'wood'],
    ['mossy stones', 'mossy stone'],
  ] as const)
    // prettier-ignore
    expect([many, colorOfName(many)]).toEqual([many, colorOfName(one)]);
  expect(readRoles('3.rope', 1).roles[0]!.name).toBe('rope');
});

it('makes as many steps as are asked for, from darker to lighter by so much each, and none past black or white', () => {
  const lightness = (steps: number, color: string) =>
    planColors([{ name: 'rope', steps, color }])[0]!.colors.map((c) => Math.round(lchFromHex(c).l * 100) / 100);
  const { l } = lchFromHex('#8a6f4d');
  expect(lightness(1, '#8a6f4d')).toEqual([Math.round(l * 100) / 100]);
  expect([lightness(2, '#8a6f4d').at(0), lightness(2, '#8a6f4d').at(-1)]).toEqual([expect.closeTo(l - 0.13, 1), expect.closeTo(l, 1)]);
  const four = lightness(4, '#8a6f4d');
  expect([four.length, four[0], four[3]]).toEqual([4, expect.closeTo(Math.max(0.16, l - 0.39), 1), expect.closeTo(l + 0.27, 1)]);
  expect(Math.min(...lightness(9, '#202020'))).toBeGreaterThan(0.14);
  expect(Math.max(...lightness(9, '#e0e0e0'))).toBeLessThan(0.98);
  expect(planColors([{ name: 'rope', steps: 3, color: '#8a6f4d' }])[0]).toMatchObject({ name: 'rope', from: 'given', baseIndex: 1 });
});

it('lays a plan out on the smallest sheet beside the colors in use, as one edit that is undone exactly', () => {
  const state: KitState = { kit: newKit('Skerry'), seats: byId() };
  const sheet = state.kit.sheets[0]!;
  const planned = planColors(readRoles('sail, rope, brass, tar, lichen', 3).roles);
  const edit = planSheet(state, sheet.id, planned, new Set([2]), { exactTo: 1, spares: 2, keepUnused: false });
  const after = applyEdit(state, edit).kit.sheets[0]!;
  expect([after.width, after.height]).toEqual([16, 8]);
  expect(usableCells(after)).toHaveLength(16);
  expect(after.cells.find((c) => c.id === 2)!.fill).toEqual(sheet.cells[1]!.fill);
  expect(after.ramps.map((r) => r.name)).toEqual(['Rust', 'sail', 'rope', 'brass', 'tar', 'lichen']);
  expect(spareCells(after).length).toBeGreaterThanOrEqual(2);
  expect(JSON.stringify(applyEdit(applyEdit(state, edit), inverseOf(edit)))).toBe(JSON.stringify(state));
});

it('makes what no face sits on spare when it is told to, and refuses what a sheet cannot hold', () => {
  const state: KitState = { kit: newKit('Skerry'), seats: byId() };
  const sheet = state.kit.sheets[0]!;
  const options = { exactTo: 1 as const, spares: 2, keepUnused: false };
  const used = new Set([sheet.ramps[0]!.cells[1]!, ...sheet.ramps[1]!.cells]);
  const sail = planColors([{ name: 'sail', steps: 1 }]);
  const edit = planSheet(state, sheet.id, sail, used, options);
  expect(edit).toMatchObject({ label: 'Plan sail', forAll: true });
  const after = applyEdit(state, edit).kit.sheets[0]!;
  expect(after.ramps.map((r) => [r.name, r.cells])).toEqual([
    [sheet.ramps[0]!.name, [sheet.ramps[0]!.cells[1]]],
    [sheet.ramps[1]!.name, sheet.ramps[1]!.cells],
  ]);
  const colored = after.cells.filter((c) => c.fill.kind === 'solid');
  // The new color takes the room of one that went.
  expect(colored.flatMap((c) => (c.role === 'sail' ? [] : [c.id])).sort()).toEqual([...used].sort());
  expect(colored.filter((c) => c.role === 'sail')).toHaveLength(1);
  expect(after.cells.filter((c) => c.fill.kind === 'spare').every((c) => c.role === '')).toBe(true);
  const kept = applyEdit(state, planSheet(state, sheet.id, sail, used, { ...options, keepUnused: true })).kit.sheets[0]!;
  expect(kept.ramps).toEqual(sheet.ramps);
  const many = (n: number) => [{ name: 'rope', from: 'given' as const, colors: Array<'#8a6f4d'>(n).fill('#8a6f4d'), baseIndex: 0 }];
  expect(() => planSheet(state, sheet.id, many(mostIn.cells - sheet.cells.length + 1), used, options)).toThrow(
    'The sheet would hold more than',
  );
  const two = [...many(mostIn.cells / 2), ...many(mostIn.cells / 2)];
  expect(() => planSheet(state, sheet.id, two, used, options)).toThrow('The sheet would hold more than');
});

it('calls a color by the word that leads back to it, plain where a plain one is as near', () => {
  const lab = (name: string) => labFromRgb(rgbFromHex(readColor(name)!));
  for (const word of colorWords)
    for (const name of [word, `dark ${word}`, `light ${word}`])
      expect(labDistance(lab(name), lab(wordOfColor(readColor(name)!))), name).toBeLessThan(
        /(dark|light) (black|white|cream|beige|khaki|taupe|sepia|tan)/.test(name) ? 0.1 : 0.016,
      );
  expect(['#ffffff', '#0d0d0d', '#7f7f7f', '#1f6f78', '#d8342a', '#10204a', '#9db5a0'].map(wordOfColor)).toEqual([
    'white',
    'black',
    'grey',
    'dark teal',
    'scarlet',
    'dark indigo',
    'pale grey',
  ]);
});
