import { gradientOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexFromRgb } from '../color/hex';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { FileError } from '../bytes/errors';
import { solid, type Cell, type KitState } from '../../kit/kit';
import { newKit } from '../../sheet/starter';
import { addPalette, replaceByPalette } from '../../sheet/palette/usePalette';
import { canTake, proposeGoing } from '../../sheet/palette/whereColorsGo';
import { colorsInOrder } from '../../sheet/order';
import { bytesOf } from '@tests/meshes';
import { parseCssColor } from './css';
import { kindOfExtension, paletteFormats, readPalette, writePalette, writtenFormats, type PaletteKind } from './paletteFile';
import { leftOutOfPalette } from '../../sheet/palette/sheetPalette';

const byte = fc.integer({ min: 0, max: 255 });
const color = fc.tuple(byte, byte, byte).map(hexFromRgb);
/** Each format under its own name, and under one that says nothing. */
const kinds = writtenFormats.flatMap(([kind, { extensions }]): [PaletteKind, string][] => [
  [kind, `a.${extensions[0]}`],
  [kind, 'a.colors'],
]);

describe('palette files', () => {
  it.each(kinds)('%s: what is written is read back, color by color, with names where the format has them', (kind, file) => {
    const palette = fc.array(fc.record({ color, name: fc.constantFrom('sail', 'tar', 'wet rope', 'Fog bell, lit', 'grün', '7') }), {
      minLength: 1,
      maxLength: 300,
    });
    fc.assert(
      fc.property(palette, (colors) => {
        const again = readPalette(file, writePalette(kind, colors, 'Brindle Skerry'));
        expect(again.kind).toBe(kind);
        expect(again.colors.map((c) => c.color)).toEqual(colors.map((c) => c.color));
        if (kind === 'gpl') expect(again.colors.map((c) => c.name)).toEqual(colors.map((c) => c.name));
      }),
      { seed: 14, numRuns: 30 },
    );
  });

  it('are read as they come in the wild', () => {
    const colors = (file: string, text: string | Uint8Array) =>
      readPalette(file, typeof text === 'string' ? bytesOf(text) : text).colors.map((c) => c.color);
    expect(
      colors('a.gpl', '\ufeffGIMP Palette\r\nName:  Two  spaces\r\nColumns: 4\r\n# note\r\n  1   2  3\tdeep  sea\r\n255 255 255\r\n'),
    ).toEqual(['#010203', '#ffffff']);
    expect(readPalette('a.gpl', bytesOf('10 20 30 tar\n'))).toMatchObject({
      colors: [{ name: 'tar' }],
      notes: ['Its title line is missing.'],
    });
    expect(readPalette('a.pal', bytesOf('JASC-PAL\r\n0100\r\n3\r\n1 2 3\r\n4 5 6 128\r\n'))).toMatchObject({
      kind: 'pal-text',
      colors: [{ color: '#010203' }, { alpha: 128 / 255 }],
      notes: ['It announces 3 colors and holds 2.', expect.stringContaining('transparent')],
    });
    // Whatever they are called.
    expect(colors('palette.colors', '# sea\n1 2 3 deep\n4,5,6\n')).toEqual(['#010203', '#040506']);
    expect(colors('notes.txt', '{ "sea": { "$value": "#012" } }')).toEqual(['#001122']);
    expect(() => colors('a.png', 'no picture')).toThrow('does not read as a palette');
    expect(() => colors('a.bmp', 'no palette')).toThrow('palettes are read from');
    expect(colors('a.pal', Uint8Array.of(255, 0, 0, 0, 1, 200))).toEqual(['#ff0000', '#0001c8']);
    expect(colors('a.hex', '#fff\r\n; comment\n# a heading\naabbcc  rope\n0x112233\n\nfa08\n')).toEqual([
      '#ffffff',
      '#aabbcc',
      '#112233',
      '#ffaa00',
    ]);
    expect(colors('a.txt', ';paint\nFF102030\nFFFF0000\n')).toEqual(['#102030', '#ff0000']);
    expect(
      colors(
        'a.css',
        ':root{--sea-deep:#123;--a:rgb(255 0 0 / 50%); --b: oklch(62% 0.1 30deg);--gap:4px;/* --no:#fff; */--h:hsl(120, 100%, 25%)}',
      ),
    ).toEqual(['#112233', '#ff0000', expect.stringMatching(/^#/), '#008000']);
    expect(
      readPalette(
        'a.json',
        bytesOf(
          '{"sea":{"$type":"color","deep":{"$value":"#012"},"foam":{"$value":{"colorSpace":"srgb","components":[1,0.5,0],"alpha":0.5}}},"gap":{"$value":"4px"},"old":{"value":"#abc"}}',
        ),
      ).colors,
    ).toEqual([
      { color: '#001122', name: 'sea deep' },
      { color: '#ff8000', alpha: 0.5, name: 'sea foam' },
      { color: '#aabbcc', name: 'old' },
    ]);
    expect(colors('a.json', '["#000", "#fff"]')).toEqual(['#000000', '#ffffff']);
    expect(colors('many.hex', Array.from({ length: 10_000 }, (_, i) => i.toString(16).padStart(6, '0')).join('\n'))).toHaveLength(10_000);
  });

  it.each([
    ['a.gpl', 'GIMP Palette\n1 2 300 x', /a\.gpl, line 2: “1 2 300 x” is not three numbers/],
    ['a.hex', 'aabbcc\nnot a color', /line 2/],
    ['a.css', 'body { color: red }', /no color was found/],
    ['a.json', '{', /not JSON/],
    ['a.pal', 'RIFF\0\0\0\0WAVE', /no palette/],
    ['a.ase', 'x', /palettes are read from/],
    ['a.hex', '', /empty/],
    ['many.hex', 'ffffff\n'.repeat(20_001), /holds 20001 colors/],
  ])('%s is refused in words', (file, text, message) => {
    expect(() => readPalette(file, bytesOf(text))).toThrow(message);
    expect(() => readPalette(file, bytesOf(text))).toThrow(FileError);
  });

  it.each([
    ['rebeccapurple', '#663399'],
    ['rgb(10% 20% 30%)', '#1a334d'],
    ['rgb(300 -4 0)', '#ff0000'],
    ['hsl(0.5turn 100% 50%)', '#00ffff'],
    ['hsl(3.14159265rad 100% 50%)', '#00ffff'],
    ['hsl(-60 100% 50%)', '#ff00ff'],
    ['hwb(120 20% 20%)', '#33cc33'],
    ['lab(50 0 0)', '#777777'],
    ['oklab(1 0 0)', '#ffffff'],
    ['oklch(none 0 0)', '#000000'],
    ['color(srgb 1 0.5 0)', '#ff8000'],
    ['color(display-p3 0.5 0.5 0.5)', '#808080'],
  ])('reads %s', (text, hex) => {
    expect(parseCssColor(text)).toEqual({ color: hex });
  });

  it('passes over what is no color, and carries opacity where the format has it', () => {
    expect(['blue-ish', 'var(--a)', 'rgb(a b c)', '123', '#12'].map(parseCssColor)).toEqual([null, null, null, null, null]);
    expect(parseCssColor('rgb(1 2 3 / 50%)')).toEqual({ color: '#010203', alpha: 0.5 });
    expect(() => kindOfExtension('a.bmp')).toThrow('palettes are written to');
    const clear = [{ color: '#010203', alpha: 128 / 255 }, { color: '#0a0b0c' }];
    for (const [kind, file] of kinds) {
      const again = readPalette(file, writePalette(kind, clear, 'Skerry')).colors.map((c) => c.alpha);
      expect(again).toEqual(kind === 'gpl' || kind === 'pal-riff' ? [undefined, undefined] : [128 / 255, undefined]);
    }
    const sheet = newKit('Skerry').sheets[0]!;
    sheet.cells[0]!.fill = { kind: 'solid', color: '#112233', alpha: 0.5 };
    sheet.cells[1]!.fill = { kind: 'corners', colors: ['#000000', '#000000', '#000000', '#000000'], mix: 'srgb' };
    expect([leftOutOfPalette(paletteFormats.css, sheet), leftOutOfPalette(paletteFormats.gpl, sheet)]).toEqual([
      ['1 gradient: a palette file holds single colors.'],
      ['1 gradient: a palette file holds single colors.', 'The opacity of 1 color: this format has none.'],
    ]);
  });

  it('reads the good lines of a table, several colors of a line, and tokens in any space or behind aliases', () => {
    const table = readPalette('a.gpl', bytesOf('GIMP Palette\nChannels: RGBA\n#\n1 2 3 128 glass\noops\n4 5 6 255\n'));
    expect(table.colors).toEqual([{ color: '#010203', alpha: 128 / 255, name: 'glass' }, { color: '#040506' }]);
    expect(table.notes[0]).toBe('Line 5 was passed over: “oops” is not three numbers from 0 to 255.');
    // Known by what is in it, whatever it is called; names may stand before colors that have their sign.
    expect(readPalette('skerry.colors', bytesOf('tar #112233\nsea foam: #aabbcc\n"red" = #ff0000;\n')).colors).toEqual([
      { color: '#112233', name: 'tar' },
      { color: '#aabbcc', name: 'sea foam' },
      { color: '#ff0000', name: 'red' },
    ]);
    const hex = (text: string) => readPalette('a.hex', bytesOf(text)).colors.map((c) => c.name ?? c.color);
    expect([hex('aabbcc,ddeeff'), hex('#abc #def'), hex('aabbcc 112233'), hex('aabbcc fade')]).toEqual([
      ['#aabbcc', '#ddeeff'],
      ['#aabbcc', '#ddeeff'],
      ['#aabbcc', '#112233'],
      ['fade'],
    ]);
    const tokens = {
      sea: { $type: 'color', deep: { $value: { colorSpace: 'hsl', components: [240, 100, 50] } }, far: { $value: '{sea.near}' } },
      circle: { $value: '{circle}' },
      foam: { $value: { colorSpace: 'oklch', components: [1, 0, 'none'] } },
      buoy: { $value: { colorSpace: 'display-p3', components: [0.5, 0.5, 0.5], alpha: 0.5 } },
    };
    Object.assign(tokens.sea, { near: { $value: '{sea.deep}' } });
    const read = readPalette('a.json', bytesOf(JSON.stringify(tokens)));
    expect(read.colors).toEqual([
      { color: '#0000ff', name: 'sea deep' },
      { color: '#0000ff', name: 'sea far' },
      { color: '#0000ff', name: 'sea near' },
      { color: '#ffffff', name: 'foam' },
      { color: '#808080', alpha: 0.5, name: 'buoy' },
    ]);
    expect(read.notes[0]).toBe('1 tokens are not plain colors and were passed over.');
    expect(readPalette('a.css', bytesOf(`:root{--a:#fff;${'-'.repeat(100_000)}${'/*'.repeat(50_000)}}`)).colors).toHaveLength(1);
  });
});

describe('a palette on a sheet', () => {
  const start = (): KitState => ({ kit: newKit('Skerry'), seats: byId() });
  const sheetOf = (s: KitState) => s.kit.sheets[0]!;

  it('adds what is missing once, and growing moves nothing', () => {
    const state = start();
    const there = colorsInOrder(sheetOf(state)).map((c) => ({ color: (c.fill as { color: string }).color }));
    const added = ['#010203', '#010203', '#0a0b0c', '#111213', '#141516'].map((color) => ({ color, name: 'sea' }));
    const edit = addPalette(state, sheetOf(state).id, [...there, ...added], 'sea.gpl');
    const after = applyEdit(state, edit);
    expect(colorsInOrder(sheetOf(after))).toHaveLength(there.length + 4);
    expect([sheetOf(after).height, sheetOf(after).cells.slice(0, 14)]).toEqual([32, sheetOf(state).cells.slice(0, 14)]);
    expect(JSON.stringify(applyEdit(after, inverseOf(edit)))).toBe(JSON.stringify(state));
    expect(() =>
      addPalette(
        state,
        sheetOf(state).id,
        Array.from({ length: 2500 }, (_, i) => ({ color: `#${(i + 1).toString(16).padStart(6, '0')}` })),
        'x',
      ),
    ).toThrow('it can hold 2000');
  });

  it('replaces the colors that it is told to, and leaves roles and ramps', () => {
    const state = start();
    const going = proposeGoing(colorsInOrder(sheetOf(state)), [solid('#000001'), solid('#000002')], 'order');
    const after = applyEdit(state, replaceByPalette(state, sheetOf(state).id, [{ color: '#000001' }, { color: '#000002' }], going, 'x'));
    const [first, second, third] = colorsInOrder(sheetOf(after));
    expect([first!.fill, second!.fill, third]).toEqual([
      { kind: 'solid', color: '#000001' },
      { kind: 'solid', color: '#000002' },
      colorsInOrder(sheetOf(state))[2],
    ]);
    expect([first!.role, sheetOf(after).ramps]).toEqual(['rust, in shade', sheetOf(state).ramps]);
  });

  it('proposes the nearest, the darkest for the darkest, or one to one; gradients go to gradients of their way', () => {
    const bar = gradientOf;
    const fills = [solid('#202020'), solid('#c03020'), solid('#f0f0f0'), bar('x', '#101040', '#a0c0ff'), bar('y', '#101040', '#a0c0ff')];
    const cells = fills.map((fill, i): Cell => ({ id: i + 1, role: '', rect: { x: i, y: 0, w: 1, h: 1 }, fill }));
    const offers = [
      bar('x', '#400000', '#ff8080'),
      solid('#ffffff'),
      bar('x', '#000020', '#90b0ff'),
      solid('#b04030'),
      { kind: 'art' as const },
    ];
    const say = (by: 'nearest' | 'lightness' | 'order') => [...proposeGoing(cells, offers, by)].sort((p, q) => p[0] - q[0]);
    expect(say('nearest')).toEqual([[1, 3], [2, 3], [3, 1], [4, 2], [5, 3]]); // prettier-ignore
    // From dark to light: cells 1, 2, 5, 3; of the two colors the first half takes the darker.
    expect(say('lightness')).toEqual([[1, 3], [2, 3], [3, 1], [4, 2], [5, 1]]); // prettier-ignore
    expect(say('order')).toEqual([[1, 1], [2, 3], [4, 2]]); // prettier-ignore
    expect(cells.map((c) => offers.map((o) => canTake(c, o)))).toEqual([
      ...Array(3).fill([false, true, false, true, false]),
      [true, true, true, true, false],
      [false, true, false, true, false],
    ]);
  });
});
