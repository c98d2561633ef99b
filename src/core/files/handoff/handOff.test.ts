import { modelOf } from '@tests/parts';
import { rgbFromHex } from '../../ground/color/hex';
import { paintedPictures } from '../../sheet/painted';
import { Document, WebIO } from '@gltf-transform/core';
import { templateLimits } from '../../ground/limits';
import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import { kitAround } from '@tests/kitAround';
import { openGltf } from '../gltf/openGltf';
import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { emptySeats, solid, type HandOff, type Kit, type KitState, type Model, type Variant } from '../../kit/kit';
import { patchesByVariant, withPatches } from '../../kit/patches';
import { faceCount, triangleCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import type { ExportModel } from '../leaving/exportModel';
import type { KitPictures } from '../../ground/pictures/picture';
import { decodePng, encodePng } from '../../ground/pictures/png';
import { readModel } from '../formats/readModel';
import { zipOf } from '../../ground/bytes/zip';
import { box, grid } from '@tests/meshes';
import { variantsIn } from '@tests/sampleWithThree';
import { planFromExample } from './example';
import { templateProblem, writeManifest } from './manifest';
import { formatIds, newHandOff, newPart, usualIcon, usualList, usualManifest, withVariants } from '../../kit/handOffPlan';
import type { HandOffInput } from './input';
import { reportText } from './report';
import { filled, nameInPath, pathProblem } from './template';
import { plannedFiles, relativePath } from './tree';
import { writeHandOff } from './writeHandOff';

function pier(): { kit: Kit; items: Map<string, ExportModel> } {
  const kit = newKit('Brindle Skerry');
  const items = new Map<string, ExportModel>();
  const add = (id: string, name: string, mesh: PolyMesh) => {
    const faces = faceCount(mesh);
    const model = modelOf(id, faces, kit.sheets[0]!.id, { name, mesh: id });
    kit.models.push(model);
    items.set(id, { model, mesh, seats: { ...emptySeats(faces), cell: new Uint16Array(faces).map((_, f) => 1 + (f % 3)) }, files: [] });
  };
  add('a', 'Fog bell', box());
  add(
    'b',
    'Crab pots',
    grid(3, (x, z) => x / 5 + z / 7),
  );
  return { kit, items };
}

const handOffOf = (change: Partial<HandOff>): HandOff => ({ ...newHandOff('h', 'Game'), ...change });
const stateOf = (kit: Kit, items: Map<string, ExportModel>): KitState => {
  return withPatches({ kit, seats: byId([...items].map(([id, i]) => [id, i.seats])) }, patchesByVariant([...items.values()]));
};
const write = (
  kit: Kit,
  items: Map<string, ExportModel>,
  handOff: HandOff,
  since?: HandOffInput['since'],
  pictures: KitPictures = new Map(),
) =>
  writeHandOff({
    ...(since && { since }),
    state: stateOf(kit, items),
    handOff,
    pictures,
    unseenOf: () => Uint32Array.of(1, 4),
    itemOf: (m) => Promise.resolve(items.get(m.id)!),
  });

describe('paths', () => {
  it('are filled with names that every system takes', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 300 }),
        fc.constantFrom('kept', 'small'),
        fc.constantFrom('-', '_', ''),
        (name, letters, between) => {
          const plan = handOffOf({ letters, between });
          expect(pathProblem(filled('models/{model}.glb', byId({ model: nameInPath(name, plan) })))).toBe('');
        },
      ),
    );
    expect(nameInPath('Fog bell (old)', handOffOf({ letters: 'small', between: '_' }))).toBe('fog_bell_old');
  });

  it.each([
    ['models//a.glb', 'no name'],
    ['/a.glb', 'no name'],
    ['../a.glb', 'leads out'],
    ['a?.glb', '“?”'],
    ['a\\b.glb', '“\\”'],
    ['nul.glb', 'keep for themselves'],
    ['a./b.glb', 'ends with a dot'],
    ['{modell}.glb', 'no field “modell”'],
    [`${'a'.repeat(201)}.glb`, 'longer'],
  ])('%s is refused', (path, why) => expect(pathProblem(path)).toContain(why));

  it.each([
    ['a.gltf', 'sheet.png', 'sheet.png'],
    ['models/a/a.gltf', 'models/b/b.png', '../b/b.png'],
    ['models/a.gltf', 'textures/sheet.png', '../textures/sheet.png'],
    ['models/a.gltf', 'models/t/sheet.png', 't/sheet.png'],
  ])('from %s, %s is %s', (from, to, said) => expect(relativePath(from, to)).toBe(said));
});

interface Listed {
  startsWith: string | null;
  variants: { name: string; models: string[]; colors: string[] }[];
  sheets: { name: string; files: { path: string; variant: string | null }[] }[];
  models: { name: string; files: { path: string; colorings: string[] }[] }[];
  files: { path: string; bytes: number }[];
}
const isList = new Ajv({ allErrors: true }).compile(JSON.parse(readFileSync('docs/list.schema.json', 'utf8')) as object);

/** Every path that a list names left, and colorings of files are what these hold. */
function expectListed(list: Listed, files: readonly { name: string; bytes: Uint8Array }[]): void {
  const bytesOf = new Map(files.map((f) => [f.name, f.bytes]));
  for (const { path, bytes } of list.files) expect(bytesOf.get(path)?.length).toBe(bytes);
  for (const { files: own } of [...list.sheets, ...list.models]) for (const { path } of own) expect([...bytesOf.keys()]).toContain(path);
  expect(list.variants.map((v) => [v.name, v.models])).toEqual([
    ['Salt-worn', []],
    ['Gale', []],
    ['Idle', []],
    ['Worn through', ['Fog bell']],
  ]);
  for (const { name, files: own } of list.models)
    for (const { path, colorings } of own.filter((f) => f.path.endsWith('.glb'))) {
      const inside = variantsIn(bytesOf.get(path)!);
      if (inside.length) expect(colorings).toEqual(['default', ...inside]);
      else expect(colorings).toHaveLength(1);
      if (name === 'Crab pots' && path.includes('Crab')) expect(colorings).not.toContain('Worn through');
    }
}

describe('the tree', () => {
  it('foresees exactly the files that are written, whatever the formats', async () => {
    const { kit, items } = pier();
    kit.sheets[0]!.cells[0]!.finish = { roughness: 0.3, metalness: 1, glow: '#ffcc66' };
    // Two variants of one look, one that recolors nothing that is used, and one that seats faces otherwise.
    const grey = { 1: { kind: 'solid' as const, color: '#888888' } };
    kit.variants = [
      { id: 'v1', name: 'Salt-worn', fills: grey },
      { id: 'v2', name: 'Gale', fills: grey },
      { id: 'v3', name: 'Idle', fills: { 9: { kind: 'solid', color: '#123456' } } },
      { id: 'v4', name: 'Worn through', model: 'a', fills: {} },
    ];
    const bell = items.get('a')!;
    items.set('a', { ...bell, patches: byId({ v4: { cell: bell.seats.cell.map((c) => (c === 1 ? 2 : inherits)) } }) });
    const each = fc.constantFrom('model', 'kit');
    const as = fc.constantFrom('texture', 'slots', 'colors');
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.tuple(fc.constantFrom(...formatIds), each, as, fc.boolean()), { selector: ([f]) => f, minLength: 1 }),
        async (chosen) => {
          const parts = chosen.map(([format, e, way, isApart]) => {
            const part = withVariants(newPart(format, e), isApart && format !== 'palette');
            return { ...part, options: { as: way }, path: `${format}/${part.path}` };
          });
          const handOff = handOffOf({ parts, list: usualList, manifest: usualManifest, icon: { ...usualIcon, size: 16 } });
          const { files, report } = await write(kit, items, handOff);
          expect(files.map((f) => f.name).sort()).toEqual(
            plannedFiles(stateOf(kit, items), handOff)
              .map((f) => f.path)
              .sort(),
          );
          expect(report.files.map((f) => [f.path, f.bytes])).toEqual(files.map((f) => [f.name, f.bytes.length]));
          const list = JSON.parse(new TextDecoder().decode(files.find((f) => f.name === 'list.json')!.bytes)) as Listed;
          expect([isList(list), isList.errors]).toEqual([true, null]);
          expectListed(list, files);
        },
      ),
      { numRuns: 15 },
    );
  });

  it('tells of clashes, also where only the size of letters differs, and writes nothing then', async () => {
    const { kit, items } = pier();
    kit.models[1] = { ...kit.models[1]!, name: 'fog Bell' };
    const handOff = handOffOf({});
    expect(plannedFiles(stateOf(kit, items), handOff).map((f) => f.problem)).toEqual([
      undefined,
      'there is another file at “models/Fog-bell.glb”.',
    ]);
    await expect(write(kit, items, handOff)).rejects.toThrow('“models/fog-Bell.glb” cannot be written');
  });
});

describe('what a change touches', () => {
  const parts = [
    newPart('glb'),
    { ...newPart('gltf'), path: 'parts/{model}/{model}.gltf' },
    newPart('obj', 'kit'),
    { ...newPart('sheet'), path: 'sheets/{sheet}.png' },
    newPart('stl'),
    { ...withVariants(newPart('glb'), true), path: 'apart/{model}-{variant}.glb' },
    newPart('palette'),
  ];
  const handOff = handOffOf({ parts, manifest: usualManifest });
  const { kit, items } = pier();
  const sheet = kit.sheets[0]!;
  const salt: Variant = { id: 'v', name: 'Salt', fills: { 2: solid('#334455') } };
  const varied = { ...kit, variants: [salt] };
  const repainted = { ...varied, sheets: [{ ...sheet, cells: [{ ...sheet.cells[0]!, fill: solid('#123456') }, ...sheet.cells.slice(1)] }] };
  const b = items.get('b')!;
  const changed = (to: Partial<ExportModel>) => new Map(items).set('b', { ...b, ...to });
  const model = (to: Partial<Model>): [Kit, typeof items] => {
    const after = { ...b.model, ...to };
    return [{ ...varied, models: [kit.models[0]!, after] }, changed({ model: after })];
  };
  const models = ['Fog-bell', 'Crab-pots'];
  const of = (names: readonly string[]) => names.flatMap((n) => [`models/${n}.glb`, `parts/${n}/${n}.gltf`, `models/${n}.stl`]);
  const apart = (names: readonly string[], ...variants: string[]) => names.flatMap((n) => variants.map((v) => `apart/${n}-${v}.glb`));
  const whole = 'Brindle-Skerry.obj';
  const sheets = ['sheets/Sheet.png', 'textures/Sheet.gpl'];
  const pots = ['Crab-pots'];
  const only = (names: readonly string[]) => [...of(names), ...apart(names, 'default', 'Salt'), whole];

  it.each<[name: string, kit: Kit, items: Map<string, ExportModel>, wanted: string[], plan?: HandOff]>([
    ['nothing', { ...varied }, items, []],
    ['a color', repainted, items, [...only(models), ...sheets]],
    ['faces', varied, changed({ seats: { ...b.seats, cell: new Uint16Array(9).fill(4) } }), only(pots)],
    ['faces in a variant alone', varied, changed({ patches: byId({ v: { cell: new Uint16Array(9).fill(4) } }) }), only(pots)],
    ['a color in a variant', { ...varied, variants: [{ ...salt, fills: { 2: solid('#000000') } }] }, items, only(models)],
    ['a region', varied, changed({ seats: { ...b.seats, region: new Uint16Array(9).fill(1) } }), only(pots)],
    ['the number of its slots', ...model({ slots: [{ number: 3, name: 'x', cell: 1 }] }), only(pots)],
    ['from which sides it is seen', ...model({ sides: 'both' }), only(pots)],
    ['where numbers begin', { ...varied, slotsFrom: 1 as const }, items, only(models)],
    [
      'the name of the kit',
      { ...varied, name: 'Other skerry' },
      items,
      [...of(models), ...apart(models, 'default', 'Salt'), 'Other-skerry.obj'],
    ],
    ['a model that goes', { ...varied, models: [kit.models[0]!] }, new Map([['a', items.get('a')!]]), only(['Fog-bell'])],
    [
      'an option',
      varied,
      items,
      of(models).filter((p) => p.endsWith('.stl')),
      { ...handOff, parts: parts.map((p) => (p.format === 'stl' ? { ...p, options: { scale: 100 } } : p)) },
    ],
  ])('by %s is all that becomes another file, and the rest is told of as it was', async (_, after, to, wanted, plan = handOff) => {
    const first = await write(varied, items, handOff);
    const all = await write(after, to, plan);
    const part = await write(after, to, plan, first.report);
    expect(part.report).toEqual(all.report);
    const written = part.files
      .map((f) => f.name)
      .filter((n) => n !== 'manifest.json' && !part.report.files.find((r) => r.path === n)!.beside);
    expect(written.sort()).toEqual([...wanted].sort());
    // Laid over what was there, all is as if it had been written whole.
    const there = new Map([...first.files, ...part.files].map((f) => [f.name, f.bytes]));
    for (const { name, bytes } of all.files) expect(Buffer.compare(Buffer.from(there.get(name)!), Buffer.from(bytes)), name).toBe(0);
    // Nothing is written anew when it is asked for again.
    const again = await write(after, to, plan, part.report);
    expect([again.files.map((f) => f.name), again.report]).toEqual([['manifest.json'], all.report]);
  });
});

describe('a hand-off', () => {
  it('gives the same bytes whenever it is written', async () => {
    const { kit, items } = pier();
    const handOff = handOffOf({ parts: formatIds.map((f) => newPart(f)), manifest: usualManifest, icon: usualIcon });
    const first = zipOf((await write(kit, items, handOff)).files);
    vi.useFakeTimers({ now: new Date(2031, 5, 6), toFake: ['Date'] });
    const second = zipOf([...(await write(kit, items, handOff)).files].reverse());
    vi.useRealTimers();
    expect(Buffer.compare(Buffer.from(first), Buffer.from(second))).toBe(0);
  });

  it('has one picture of the sheet for all glTF files, which read back with it', async () => {
    const { kit, items } = pier();
    const handOff = handOffOf({ letters: 'small', parts: [{ ...newPart('gltf'), path: 'models/{model}/{model}.gltf' }] });
    const { files } = await write(kit, items, handOff);
    expect(files.map((f) => f.name)).toEqual([
      'models/fog-bell/fog-bell.gltf',
      'models/fog-bell/fog-bell.bin',
      'textures/sheet.png',
      'models/crab-pots/crab-pots.gltf',
      'models/crab-pots/crab-pots.bin',
    ]);
    const json = JSON.parse(new TextDecoder().decode(files[3]!.bytes)) as { images: { uri: string }[] };
    expect(json.images.map((i) => i.uri)).toEqual(['../../textures/sheet.png']);
    const base = (i: number) => ({ name: files[i]!.name.split('/').at(-1)!, bytes: files[i]!.bytes });
    const { mesh, notes } = await readModel(base(3), [base(4), base(2)], { mendQuads: false });
    expect([faceCount(mesh), notes]).toEqual([triangleCount(items.get('b')!.mesh), []]);
  });

  it('lets a model leave in a way of its own, and says what each file costs, holds and lacks', async () => {
    const { kit, items } = pier();
    const { files, report } = await write(
      kit,
      items,
      handOffOf({ parts: [{ ...newPart('glb'), ways: byId({ b: 'slots' }) }, newPart('stl', 'kit')] }),
    );
    const [bell, pots, all] = report.files as [(typeof report.files)[0], (typeof report.files)[0], (typeof report.files)[0]];
    expect(bell.cost).toEqual({ drawCalls: 1, vertices: 24, materials: 1, textures: 1 });
    expect(pots.cost).toMatchObject({ drawCalls: 3, materials: 3, textures: 0 });
    expect([bell.models, all.models]).toEqual([['Fog bell'], ['Fog bell', 'Crab pots']]);
    expect(all.lost.join()).toContain('STL has none');
    expect(bell.changed).toEqual(['6 faces of 6 faces (12 triangles) leave with the kit’s colors.']);
    expect(bell.sha256).toBe(createHash('sha256').update(files[0]!.bytes).digest('hex'));
    expect(reportText(report)).toContain('models/Fog-bell.glb: ');
    expect(report.bytes).toBe(files.reduce((n, f) => n + f.bytes.length, 0));

    // Faces 1 and 4 are said to be seen from no side.
    const fewer = await write(kit, items, handOffOf({ parts: [newPart('stl')], withoutUnseen: true }));
    expect(fewer.files[0]!.bytes).toHaveLength(84 + 50 * (12 - 4));
    expect(fewer.report.files[0]!.changed.join()).toContain('2 are left out');
  });

  it('writes art that can be seen through, also where a variant has other colors beside it', async () => {
    const { kit, items } = pier();
    const bytes = encodePng({ width: 1, height: 1, data: Uint8Array.of(200, 100, 50, 128) });
    kit.sheets[0]!.cells[0]!.fill = { kind: 'art', picture: 'art' };
    kit.variants.push({ id: 'v', name: 'Salt-worn', rules: [], fills: byId({ 2: solid('#c3cbc9') }) });
    const pictures = new Map([['art', { bytes, raster: decodePng(bytes) }]]);
    const { report } = await write(kit, items, handOffOf({ parts: [newPart('glb')] }), undefined, pictures);
    // What is seen through has a material of its own.
    expect(report.files.map((f) => f.cost)).toMatchObject([
      { drawCalls: 2, materials: 2 },
      { drawCalls: 2, materials: 2 },
    ]);
  });

  it('writes painted art as texels of the colors that each coloring gives them, and anew where texels or colors change', async () => {
    const { kit, items } = pier();
    const [sheet] = kit.sheets;
    const fur = { id: 90, rect: { x: sheet!.width, y: 0, w: 2, h: 2 }, role: 'fur', fill: { kind: 'art' as const, picture: 'fur', painted: true as const } }; // prettier-ignore
    kit.sheets = [{ ...sheet!, width: sheet!.width + 2, cells: [...sheet!.cells, fur] }];
    kit.variants = [{ id: 'v', name: 'Salt', fills: { 2: solid('#334455') } }];
    items.get('b')!.seats.cell.fill(90, 0, 4);
    const handOff = handOffOf({ parts: [{ ...withVariants(newPart('sheet'), true), path: '{sheet}-{variant}.png' }, newPart('glb')] });
    const leave = (cells: number[], since?: HandOffInput['since']) => {
      const state = { ...stateOf(kit, items), pixels: byId({ fur: { width: 2, height: 2, cells: Uint16Array.from(cells) } }) };
      const itemOf = (m: Model) => Promise.resolve(items.get(m.id)!);
      return writeHandOff({
        state,
        handOff,
        pictures: new Map(paintedPictures(state)),
        itemOf,
        unseenOf: () => new Uint32Array(),
        ...(since && { since }),
      });
    };
    const { files, report } = await leave([1, 2, 0, 3]);
    const texels = (name: string) => {
      const { width, data } = decodePng(files.find((f) => f.name === name)!.bytes);
      return [0, 1, width, width + 1].map((t) => data.slice((t + width - 2) * 4, (t + width - 1) * 4 + 0).join()); // prettier-ignore
    };
    const colorOf = (id: number) => [...rgbFromHex((sheet!.cells[id - 1]!.fill as { color: string }).color), 255].join();
    expect(texels('Sheet-default.png')).toEqual([colorOf(1), colorOf(2), '128,128,128,0', colorOf(3)]);
    expect(texels('Sheet-Salt.png')).toEqual([colorOf(1), '51,68,85,255', '128,128,128,0', colorOf(3)]);
    // The same texels change nothing; another one the pictures, and every file that has the sheet's inside.
    expect((await leave([1, 2, 0, 3], report)).files).toEqual([]);
    const anew = ['Sheet-default.png', 'Sheet-Salt.png', 'models/Fog-bell.glb', 'models/Crab-pots.glb'];
    expect((await leave([1, 2, 2, 3], report)).files.map((f) => f.name)).toEqual(anew);
  });

  it('counts what a glTF keeps in the file that leaves, and names the nodes that were joined', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const position = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0))
      .setBuffer(buffer);
    const scene = document.createScene();
    for (const name of ['wall', 'grip'])
      scene.addChild(
        document
          .createNode(name)
          .setMesh(document.createMesh().addPrimitive(document.createPrimitive().setAttribute('POSITION', position))),
      );
    scene.addChild(document.createNode('eye').setCamera(document.createCamera()));
    document.getRoot().setDefaultScene(scene);
    const bytes = await new WebIO().writeBinary(document);
    const { kit, item } = kitAround((await readModel({ name: 'a.glb', bytes })).mesh, bytes, () => 1);
    const left = async (meshes: 'joined' | 'shared', names: 'meant' | 'joined' = 'meant') => {
      const { files, report } = await write(
        kit,
        new Map([['m', item]]),
        handOffOf({ parts: [{ ...newPart('glb'), options: { meshes, nodes: names } }] }),
      );
      const nodes = (await openGltf('b.glb', files[0]!.bytes)).document.getRoot().listNodes().length;
      const { kept, lost } = report.files[0]!;
      return { nodes, kept, lost: lost.filter((l) => l.includes('by name')) };
    };
    // A game may press the grip: for its name it stays, unless that is said to be no matter.
    expect(await left('joined')).toEqual({ nodes: 3, kept: ['3 nodes, 1 camera, with their names and extras.'], lost: [] });
    expect(await left('joined', 'joined')).toEqual({
      nodes: 2,
      kept: ['2 nodes, 1 camera, with their names and extras.'],
      lost: ['2 nodes by name, joined with others for fewer draw calls: wall, grip.'],
    });
    expect(await left('shared')).toEqual({ nodes: 3, kept: ['3 nodes, 1 camera, with their names and extras.'], lost: [] });
  });

  it('has its sheet as blocks of so many pixels, and an icon before nothing or on a ground', async () => {
    const { kit, items } = pier();
    const icon = { ...usualIcon, size: 32 };
    const parts = [newPart('sheet'), { ...newPart('sheet'), path: 'large/{sheet}.png', times: 4 }];
    const { files } = await write(kit, items, handOffOf({ parts, icon }));
    const [one, four, drawn] = files.map((f) => decodePng(f.bytes)) as [
      ReturnType<typeof decodePng>,
      ReturnType<typeof decodePng>,
      ReturnType<typeof decodePng>,
    ];
    expect([four.width, four.height]).toEqual([one.width * 4, one.height * 4]);
    for (let y = 0; y < four.height; y += 3)
      for (let x = 0; x < four.width; x += 3) {
        const [a, b] = [(y * four.width + x) * 4, (Math.floor(y / 4) * one.width + Math.floor(x / 4)) * 4];
        expect([...four.data.subarray(a, a + 4)]).toEqual([...one.data.subarray(b, b + 4)]);
      }
    expect([drawn.width, drawn.data[3], drawn.data[(16 * 32 + 16) * 4 + 3]]).toEqual([32, 0, 255]);
    const grounded = await write(kit, items, handOffOf({ parts: [], icon: { ...icon, ground: '#102030', from: 'top' } }));
    expect([...decodePng(grounded.files[0]!.bytes).data.subarray(0, 4)]).toEqual([16, 32, 48, 255]);
  });
});

describe('the manifest', () => {
  const input = {
    whole: byId({ kit: 'Skerry', version: '2.1', files: 2 }),
    files: [byId({ path: 'a.glb', bytes: 12 }), byId({ path: 'b.glb', bytes: 7 })],
    models: [byId({ name: 'Bell', faces: 6 })],
  };

  it('repeats lists, and keeps numbers as numbers', () => {
    const template =
      '{"v": "{version}", "n": "{files}", "said": "{files} files", "all": ["{each file}", {"p": "{path}", "b": "{bytes}"}], "m": ["{each model}", "{name}"], "x": [1, null]}';
    expect(JSON.parse(writeManifest(template, input))).toEqual({
      v: '2.1',
      n: 2,
      said: '2 files',
      all: [
        { p: 'a.glb', b: 12 },
        { p: 'b.glb', b: 7 },
      ],
      m: ['Bell'],
      x: [1, null],
    });
  });

  it('says what is wrong with a template', () => {
    expect(templateProblem(usualManifest.template)).toBe('');
    expect(templateProblem('{"a": }')).toContain('is no JSON');
    expect(templateProblem('{"a": "{path}"}')).toContain('names “{path}”; there it can name kit, version');
    expect(templateProblem('["{each file}", "{faces}"]')).toContain('names “{faces}”');
    expect(templateProblem('{\n"a": "b",\n"c" "d"}')).toBe(
      'The manifest’s template is no JSON: at line 3 a bracket, comma or quotation mark is missing or out of place.',
    );
  });

  it('is bounded in how deep it nests and in how much it says', () => {
    const nested = (n: number) => `${'['.repeat(n)}1${']'.repeat(n)}`;
    expect(templateProblem(nested(templateLimits.depth))).toBe('');
    expect(templateProblem(nested(templateLimits.depth + 1))).toContain('nested more than 32 deep');
    expect(templateProblem(nested(9000))).toContain('nested more than 32 deep');
    // No field is an object's own machinery.
    expect(templateProblem('"{constructor}"')).toContain('names “{constructor}”');
    expect(JSON.parse(writeManifest('["constructor", "__proto__"]', input))).toEqual(['constructor', '__proto__']);
    const many = { ...input, files: Array.from({ length: 100 }, () => input.files[0]!) };
    const lists = (n: number) => `${'["{each file}",'.repeat(n)}"{path}"${']'.repeat(n)}`;
    expect(JSON.parse(writeManifest(lists(2), many))).toHaveLength(100);
    expect(() => writeManifest(lists(7), many)).toThrow('repeats too much: lists in lists multiply');
    const long = `"${'x'.repeat(20_000 - 40)}{path}"`;
    expect(() => writeManifest(`["{each file}", ["{each file}", ${long}]]`, many)).toThrow('repeats too much');
  });
});

describe('a plan from an example', () => {
  it('writes the same tree and manifest again, whatever the plan was', async () => {
    const { kit, items } = pier();
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom('kept', 'small'),
        fc.constantFrom('-', '_', ''),
        fc.constantFrom('models/{model}/{model}.gltf', 'all/{model}-{version}.gltf', '{kit}/{model}.gltf'),
        fc.constantFrom('{kit}.glb', 'whole/{kit}-{version}.glb', 'build.glb'),
        async (letters, between, gltf, glb) => {
          const parts = [
            { ...newPart('glb', 'kit'), path: glb },
            { ...newPart('gltf'), path: gltf, pictures: 'art/{sheet}.png' },
            newPart('palette'),
          ];
          const handOff = handOffOf({
            letters,
            between,
            parts,
            version: '3.2.1',
            description: 'Of the light',
            manifest: usualManifest,
            icon: { ...usualIcon, size: 16 },
          });
          const { files } = await write(kit, items, handOff);
          const text = new TextDecoder().decode(files.at(-1)!.bytes);
          const example = files.map((f) => ({ path: f.name, bytes: f.bytes.length, ...(f.name.endsWith('.json') && { text }) }));
          const plan = planFromExample(kit, example, 'e', 'Example');
          const again = await write(kit, items, { ...plan, icon: { ...plan.icon!, size: 16 } });
          expect(again.files.map((f) => f.name).sort()).toEqual(files.map((f) => f.name).sort());
          expect(JSON.parse(new TextDecoder().decode(again.files.at(-1)!.bytes))).toMatchObject({
            version: '3.2.1',
            description: 'Of the light',
          });
          expect(plan.manifest!.template).toBe(usualManifest.template);
        },
      ),
      { numRuns: 25 },
    );
  });
});
