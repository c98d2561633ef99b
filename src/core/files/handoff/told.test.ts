import { expect, it } from 'vitest';
import { box } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { byId } from '../../ground/byId';
import { inherits } from '../../ground/limits';
import type { Raster } from '../../ground/pictures/raster';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import { iconViews, newHandOff, newPart, usualIcon } from '../../kit/handOffPlan';
import { emptySeats, solid, type Kit, type KitState, type Sheet, type Variant } from '../../kit/kit';
import { boundsOf, measureFaces } from '../../shapes/mesh/measure';
import { triangulate } from '../../shapes/mesh/triangulate';
import { rasterInputOf } from '../../shapes/view/rasterFaces';
import { thumbnail } from '../../shapes/view/thumbnail';
import { newKit } from '../../sheet/starter';
import { drawIcon, iconModel } from './icon';
import type { ExportModel } from '../leaving/exportModel';
import { writeList } from './list';
import { madeOf } from './madeOf';
import { reportText } from './report';
import type { PlannedFile } from './tree';
import { writeModels } from './writeModels';

const variantOf = (id: string, name: string, more: Partial<Variant> = {}): Variant => ({ id, name, fills: {}, ...more }) as Variant;
/** Two models on the first sheet; on the second painted art that no model shows, of a row of two texels. */
const starter = newKit('Skerry');
function skerry(): KitState {
  const kit = structuredClone(starter);
  const [first] = kit.sheets as [Sheet];
  const art = {
    id: 90,
    rect: { x: 0, y: 0, w: 2, h: 1 },
    role: '',
    fill: { kind: 'art' as const, picture: 'sea', painted: true as const },
  };
  kit.sheets.push({ ...first, id: 'second', name: 'Second', width: 4, height: 4, cells: [art, { ...first.cells[0]!, id: 91, role: '', fill: solid('#112233') }], ramps: [] }); // prettier-ignore
  kit.models.push(modelOf('bell', 6, first.id, { name: 'Bell' }), modelOf('pots', 6, first.id, { name: 'Pots' }));
  kit.variants.push(variantOf('night', 'Night', { fills: { 91: solid('#000011'), 2: solid('#223344') } }), variantOf('rusty', 'Rusty', { model: 'pots' })); // prettier-ignore
  const seats = () => ({ ...emptySeats(6), cell: new Uint16Array(6).fill(1) });
  return {
    kit,
    seats: byId({ bell: seats(), pots: seats() }),
    pixels: byId({ sea: { width: 2, height: 1, cells: Uint16Array.of(1, 0) } }),
  };
}
const patch = (cell: number) => ({ cell: new Uint16Array(6).fill(inherits).fill(cell, 0, 1), region: undefined, rule: undefined });

it('the list names what is where: files of models and sheets by their colorings, and what differs in each', () => {
  const state = { ...skerry(), patches: byId({ rusty: byId({ pots: patch(3) }) }) } as unknown as KitState;
  const { kit } = state;
  kit.startsWith = 'rusty';
  const [bell, pots] = kit.models as [Kit['models'][number], Kit['models'][number]];
  const [first, second] = kit.sheets as [Sheet, Sheet];
  const night = { ...first, cells: first.cells.map((c) => (c.id === 2 ? { ...c, fill: solid('#223344') } : c)) };
  const files: PlannedFile[] = [
    { path: 'bell.glb', part: 0, format: 'glb', models: [bell] },
    { path: 'all.obj', part: 1, format: 'obj', models: [bell, pots], variant: 'night' },
    { path: 'pots.gltf', part: 2, format: 'gltf', models: [pots], inside: ['default', 'Rusty'] },
    { path: 'a.png', part: 2, format: 'gltf', models: [pots], sheet: first, beside: 'pots.gltf' },
    { path: 'b.png', part: 3, format: 'sheet', models: [], sheet: night },
    { path: 'c.png', part: 3, format: 'sheet', models: [], sheet: second, layer: 'roughness' as never },
    { path: 'icon.png', part: -1, models: [bell], sheet: first },
  ];
  const told = JSON.parse(writeList(state, '2.0', files, [{ path: 'bell.glb', bytes: 7, sha256: 'ff', models: [], kept: [], changed: [], lost: [] }])) as object; // prettier-ignore
  expect(told).toEqual({
    format: 'oligochrome list',
    version: 1,
    kit: 'Skerry',
    kitVersion: '2.0',
    startsWith: 'Rusty',
    variants: [
      { name: 'Night', model: null, colors: [first.cells.find((c) => c.id === 2)!.role, 'cell 91'], models: [] },
      { name: 'Rusty', model: 'Pots', colors: [], models: ['Pots'] },
    ],
    sheets: [
      { name: first.name, width: first.width, height: first.height, files: [{ path: 'a.png', variant: null }, { path: 'b.png', variant: 'Night' }] },
      { name: 'Second', width: 4, height: 4, files: [] },
    ],
    models: [
      { name: 'Bell', faces: 6, files: [{ path: 'bell.glb', format: 'glb', colorings: ['default'] }, { path: 'all.obj', format: 'obj', colorings: ['Night'] }] },
      { name: 'Pots', faces: 6, files: [{ path: 'all.obj', format: 'obj', colorings: ['Night'] }, { path: 'pots.gltf', format: 'gltf', colorings: ['default', 'Rusty'] }] },
    ],
    files: [{ path: 'bell.glb', bytes: 7, sha256: 'ff' }],
  }); // prettier-ignore
  expect(JSON.parse(writeList(skerry(), '1', [], []))).toMatchObject({ startsWith: null });
});

it('the report says of each file what it costs, what was kept, what changed and what is not in it', () => {
  const file = { path: 'a.glb', bytes: 1200, sha256: 'x', models: [], kept: ['names'], changed: ['units', 'axes'], lost: ['lights'] };
  const report = { kit: 'Skerry', handOff: 'Game', version: '1.2', bytes: 3400, files: [{ ...file, cost: { drawCalls: 1, vertices: 24, materials: 2, textures: 1 } }, { ...file, path: 'b.obj', kept: [], changed: [], lost: [] }] }; // prettier-ignore
  expect(reportText(report)).toBe(
    [
      'Skerry, “Game” 1.2: 2 files, 3,400 bytes.',
      'a.glb: 1,200 bytes.\n  1 draw call, 24 vertices, 2 materials, 1 texture.\n  Kept: names\n  Changed: units\n  Changed: axes\n  Not in it: lights',
      'b.obj: 1,200 bytes.\n',
    ].join('\n\n'),
  );
});

it('an icon shows the model that is named, else the first, each face in the mean color of its corners, on its ground', () => {
  const { kit } = skerry();
  expect([iconModel(kit, { ...usualIcon, model: 'pots' })?.id, iconModel(kit, usualIcon)?.id, iconModel({ ...kit, models: [] }, usualIcon)]).toEqual(['pots', 'bell', undefined]); // prettier-ignore
  const cell = kit.sheets[0]!.cells.find((c) => c.id === 1)!;
  cell.fill = { kind: 'gradient', angle: 0, stops: [{ at: 0, color: '#000000' }, { at: 1, color: '#ff8000' }] } as never; // prettier-ignore
  const mesh = box();
  const at = Float32Array.from({ length: 48 }, (_, i) => ((i * 7) % 10) / 10);
  const item = { model: kit.models[0]!, mesh, seats: { ...emptySeats(6), cell: new Uint16Array(6).fill(1), at }, files: [] };
  const { normals } = measureFaces(mesh);
  const corners = colorsOfCorners(kit, mesh, item.seats, new Map());
  const meanOf = (f: number) => [0, 1, 2].map((k) => [0, 1, 2, 3].reduce((sum, c) => sum + corners[(f * 4 + c) * 4 + k]!, 0) / 4);
  expect(new Set(Array.from({ length: 6 }, (_, f) => meanOf(f).join())).size).toBeGreaterThan(1);
  const input = rasterInputOf(mesh, triangulate(mesh, normals));
  const near = (a: Raster, b: (i: number) => number) =>
    a.data.forEach((v, i) => Math.abs(v - b(i)) > 1 && expect([i, v]).toEqual([i, b(i)]));
  for (const from of ['corner', 'front'] as const) {
    const bare = thumbnail(input, boundsOf(mesh), normals, meanOf, 16, { from: iconViews[from] });
    near(drawIcon(kit, item, new Map(), { ...usualIcon, size: 16, from }), (i) => bare.data[i]!);
    const share = (i: number) => bare.data[i - (i % 4) + 3]! / 255;
    const ground = [200, 40, 80];
    expect(from === 'front' || bare.data.some((v, i) => i % 4 === 3 && v > 0 && v < 255)).toBe(true);
    near(drawIcon(kit, item, new Map(), { ...usualIcon, size: 16, from, ground: '#c82850' }), (i) => i % 4 === 3 ? 255 : Math.round(bare.data[i]! * share(i) + ground[i % 4]! * (1 - share(i)))); // prettier-ignore
  }
});

it('what a file is made of changes with what is in it, and with nothing else', () => {
  const parts = [newPart('glb'), newPart('sheet')];
  const handOff = { ...newHandOff('h', 'Game'), parts };
  type Change = (state: KitState) => void;
  /** Whether a file is made of other things after a change, which is one of a copy. */
  const isOther = (file: (state: KitState) => Partial<PlannedFile>, change: Change, before: Change = () => {}) => {
    const sum = (changes: Change[]) => {
      const state = skerry();
      for (const make of changes) make(state);
      return madeOf(state, handOff, { path: 'x', part: 0, models: [], ...file(state) });
    };
    expect(sum([before])).toBe(sum([before]));
    return sum([before]) !== sum([before, change]);
  };
  const bell = ({ kit }: KitState) => ({ models: [kit.models[0]!] });
  const sheet = (n: number) => ({ kit }: KitState) => ({ part: 1, sheet: kit.sheets[n]! }); // prettier-ignore
  const color = (n: number, id: number): Change => ({ kit }) => (kit.sheets[n]!.cells = kit.sheets[n]!.cells.map((c) => (c.id === id ? { ...c, fill: solid('#010203') } : c))); // prettier-ignore
  const says = (id: string, more: Partial<Variant>): Change => ({ kit }) => (kit.variants = kit.variants.map((v) => (v.id === id ? { ...v, ...more } : v))); // prettier-ignore
  const texel: Change = ({ pixels }) => (pixels!.sea!.cells[1] = 2);
  const onArt: Change = ({ seats }) => seats.bell!.cell.fill(90);
  // Of a model: its faces in all colorings of its own, and the sheets on which they sit in any.
  const told: [boolean, Change, Change?][] = [
    [true, ({ seats }) => seats.bell!.cell.fill(2)],
    [false, ({ seats }) => seats.pots!.cell.fill(2)],
    [true, color(0, 5)],
    [false, color(1, 91)],
    [true, color(1, 91), ({ seats }) => seats.bell!.cell.fill(91, 0, 1)],
    [true, color(1, 91), (state) => (state.patches = byId({ night: byId({ bell: patch(91) as never }) }))],
    [false, color(1, 91), (state) => (state.patches = byId({ night: byId({ pots: patch(91) as never }) }))],
    [true, color(1, 91), says('night', { rules: [{}] as never })],
    [false, color(1, 91), says('night', { rules: [] as never })],
    [false, says('rusty', { fills: { 1: solid('#000000') } })],
    [true, says('night', { fills: { 1: solid('#000000') } })],
    [true, says('rusty', { fills: { 1: solid('#000000') } }), says('rusty', { model: 'bell' })],
    [true, (state) => (state.patches = byId({ night: byId({ bell: patch(1) as never }) }))],
    [true, ({ kit }) => (kit.models[1]!.name = 'Nets')],
    [true, ({ kit }) => (kit.sheets[1]!.name = 'Third')],
    [false, texel],
    [true, texel, onArt],
    [true, color(0, 5), onArt],
  ];
  told.forEach(([wanted, change, before], i) => expect([i, isOther(bell, change, before)]).toEqual([i, wanted]));
  // Of a sheet: itself; where it has art its texels, in every variant, and all colors that these may show.
  const ofVariant: Change = (state) => {
    says('night', { fills: { 90: { kind: 'art', picture: 'moon', painted: true } as never } })(state);
    state.pixels = byId({ ...state.pixels, moon: { width: 2, height: 1, cells: Uint16Array.of(inherits, 4) } });
  };
  const moon: Change = ({ pixels }) => (pixels!.moon!.cells[0] = 4);
  const sheets: [boolean, number, Change, Change?][] = [
    [true, 0, color(0, 5)],
    [false, 0, color(1, 91)],
    [false, 0, texel],
    [true, 1, texel],
    [true, 1, color(0, 5)],
    [true, 1, says('night', { fills: {} })],
    [true, 1, moon, ofVariant],
    [false, 0, moon, ofVariant],
    [true, 1, (state) => delete state.pixels],
    [true, 1, ({ pixels }) => Object.assign(pixels!.sea!, { width: 1, height: 2 })],
    [false, 1, ({ seats }) => seats.bell!.cell.fill(2)],
  ];
  sheets.forEach(([wanted, n, change, before], i) => expect([i, isOther(sheet(n), change, before)]).toEqual([i, wanted]));
});

it('a file says of each of its models how many faces leave in which way', async () => {
  const state = skerry();
  const item = (n: number, cells: number[], leaveOut?: Uint8Array) => ({ model: state.kit.models[n]!, mesh: box(), seats: { ...emptySeats(6), cell: Uint16Array.from(cells) }, files: [], ...(leaveOut && { leaveOut }) }); // prettier-ignore
  const input = { state, handOff: newHandOff('h', 'Game'), pictures: new Map(), unseenOf: () => new Uint32Array(), itemOf: () => Promise.reject(new Error()) }; // prettier-ignore
  const bell = item(0, [1, 2, 3, 0, 1, 0], Uint8Array.of(0, 0, 0, 0, 1, 1));
  const written = (items: ExportModel[], format = 'stl') => writeModels(input, { ...newPart('stl', 'kit'), format }, 'x/a.stl', items);
  const [both] = await written([bell, item(1, [1, 1, 1, 1, 1, 1])]);
  expect([both!.name, both!.report!.models, both!.report!.changed]).toEqual([
    'x/a.stl',
    ['Bell', 'Pots'],
    [
      'Bell: 3 faces of 6 faces (12 triangles) leave with the kit’s colors, 1 as they came, 2 are left out, being never seen.',
      'Pots: 6 faces of 6 faces (12 triangles) leave with the kit’s colors.',
    ],
  ]);
  expect(both!.report!.lost!.filter((s) => s.startsWith('Bell: '))).toHaveLength(both!.report!.lost!.length / 2);
  const [one] = await written([bell]);
  expect([one!.report!.changed![0]!.slice(0, 7), one!.report!.kept, one!.report!.cost]).toEqual(['3 faces', [], undefined]);
  await expect(written([bell], 'odd')).rejects.toThrow('“odd” is no format in which models leave.');
});
