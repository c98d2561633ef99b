import { expect, it } from 'vitest';
import { box } from '@tests/meshes';
import { modelOf } from '@tests/parts';
import { byId } from '../../ground/byId';
import { inherits } from '../../ground/limits';
import { newHandOff, newPart, usualIcon, usualList, usualManifest } from '../../kit/handOffPlan';
import { emptySeats, solid, type HandOff, type HandOffPart, type KitState, type Sheet, type Variant } from '../../kit/kit';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import { bringsPictures, folderOf, plannedFiles, relativePath, withoutExtension } from './tree';

const starter = newKit('Skerry');
/** The bell sits on Sea, the pots on Land; at night a color of Sea is another, and in a variant of theirs the pots sit on Sea. */
function skerry(): KitState {
  const kit = structuredClone(starter);
  const [sea] = kit.sheets as [Sheet];
  sea.name = 'Sea';
  kit.sheets.push({ ...sea, id: 'land', name: 'Land', cells: [{ ...sea.cells[0]!, id: 50, fill: solid('#334455') }], ramps: [] });
  kit.models.push(modelOf('bell', 6, sea.id, { name: 'Bell' }), modelOf('pots', 6, 'land', { name: 'Pots' }));
  kit.variants.push({ id: 'n', name: 'Night', fills: { 1: solid('#000011') } } as Variant, { id: 'r', name: 'Rusty', fills: {}, model: 'pots' } as unknown as Variant); // prettier-ignore
  const seats = (cell: number) => ({ ...emptySeats(6), cell: new Uint16Array(6).fill(cell) });
  const patches = byId({ r: byId({ pots: { cell: new Uint16Array(6).fill(inherits).fill(2, 0, 1) } }) });
  return { kit, seats: byId({ bell: seats(1), pots: seats(50) }), patches } as unknown as KitState;
}
const part = (format: HandOffPart['format'], more: Partial<HandOffPart> = {}, each: HandOffPart['each'] = 'model'): HandOffPart => ({ ...newPart(format as 'glb', each), ...more }); // prettier-ignore
/** What leaves, a line each: where, of which variant or with which inside, of which sheet, beside what, and what is wrong. */
const told = (parts: HandOffPart[], plan: Partial<HandOff> = {}, state = skerry()): string[] =>
  plannedFiles(state, { ...newHandOff('h', 'Game'), ...plan, parts }).map(
    (f) =>
    [f.path, f.variant && `as ${f.variant}`, f.inside && `with ${f.inside.join('+')}`, f.sheet && `of ${f.sheet.name}`, f.layer, f.beside && `beside ${f.beside}`, f.problem && `! ${f.problem}`].filter(Boolean).join(' '), // prettier-ignore
  );

const glb = (more: Partial<HandOffPart>, each: HandOffPart['each'] = 'model') => told([part('glb', more, each)]);

it('variants are inside of files that can hold them, apart where that is asked for, and else not there', () => {
  expect(glb({})).toEqual(['models/Bell.glb with default+Night', 'models/Pots.glb with default+Night+Rusty']);
  expect(glb({}, 'kit')).toEqual(['Skerry.glb with default+Night+Rusty']);
  for (const options of [{ variants: 'none' as never }, { as: 'colors' as const }])
    expect(glb({ options })).toEqual(['models/Bell.glb', 'models/Pots.glb']);
  expect(told([part('ply')])).toEqual(['models/Bell.ply', 'models/Pots.ply']);
  const bare = skerry();
  bare.kit.variants = [];
  expect(told([part('glb')], {}, bare)).toEqual(['models/Bell.glb', 'models/Pots.glb']);
  expect(told([part('glb', {}, 'kit')], {}, { ...bare, kit: { ...bare.kit, models: [] } })).toEqual([]);
  const apart = ['m/Bell-default.glb', 'm/Bell-Night.glb as n', 'm/Pots-default.glb', 'm/Pots-Night.glb as n', 'm/Pots-Rusty.glb as r'];
  expect(glb({ path: 'm/{model}-{variant}.glb', variants: 'apart' })).toEqual(apart);
  expect(told([part('ply', { path: '{kit}-{variant}.ply', variants: 'apart' }, 'kit')])).toEqual(['Skerry-default.ply', 'Skerry-Night.ply as n', 'Skerry-Rusty.ply as r']); // prettier-ignore
});

it('sheets lie beside the files that name them, once, as each coloring in these shows them', () => {
  const bell = (...more: string[]) => ['', '.bin'].map((e) => (e ? `models/Bell${e} with default+Night beside models/Bell.gltf` : 'models/Bell.gltf with default+Night')).concat(more.map((m) => `textures/${m.replace(' of', ' with default+Night of')} beside models/Bell.gltf`)); // prettier-ignore
  const pots = (...more: string[]) => ['models/Pots.gltf with default+Night+Rusty', 'models/Pots.bin with default+Night+Rusty beside models/Pots.gltf', ...more.map((m) => `textures/${m.replace(' of', ' with default+Night+Rusty of')} beside models/Pots.gltf`)]; // prettier-ignore
  const usual = [...bell('Sea.png of Sea', 'Sea-Night.png of Sea Night'), ...pots('Land.png of Land')];
  expect(told([part('gltf')])).toEqual(usual);
  expect(told([part('gltf', { options: { as: 'slots' } })])).toEqual([...bell(), ...pots()]);
  // A way of its own: what the other one needs lies beside that one then.
  expect(told([part('gltf', { ways: byId({ bell: 'colors' as const }) })])).toEqual(['models/Bell.gltf', 'models/Bell.bin beside models/Bell.gltf', ...pots('Land.png of Land', 'Sea.png of Sea')]); // prettier-ignore
  expect(told([part('gltf', { variants: 'apart', path: '{model}-{variant}.gltf', pictures: 't/{sheet}.png' })])).toEqual([
    'Bell-default.gltf', 'Bell-default.bin beside Bell-default.gltf', 't/Sea.png of Sea beside Bell-default.gltf',
    'Bell-Night.gltf as n', 'Bell-Night.bin as n beside Bell-Night.gltf', 't/Sea-Night.png as n of Sea Night beside Bell-Night.gltf',
    'Pots-default.gltf', 'Pots-default.bin beside Pots-default.gltf', 't/Land.png of Land beside Pots-default.gltf',
    'Pots-Night.gltf as n', 'Pots-Night.bin as n beside Pots-Night.gltf', 'Pots-Rusty.gltf as r', 'Pots-Rusty.bin as r beside Pots-Rusty.gltf',
  ]); // prettier-ignore
  const obj = (name: string, sheet: string) => [`models/${name}.obj`, `models/${name}.mtl beside models/${name}.obj`, `models/${sheet.toLowerCase()}.png of ${sheet} beside models/${name}.obj`]; // prettier-ignore
  expect(told([part('obj')])).toEqual([...obj('Bell', 'Sea'), ...obj('Pots', 'Land')]);
  // By itself as well it is one file; of another size it is another one.
  expect(told([part('gltf'), part('sheet')])).toEqual(usual);
  const clash = (sheet: string) => `textures/${sheet}.png of ${sheet} ! there is another file at “textures/${sheet}.png”.`;
  expect(told([part('gltf'), part('sheet', { times: 2 })])).toEqual([...usual, clash('Sea'), clash('Land')]);
  expect(told([part('sheet', { variants: 'apart', path: '{sheet}-{variant}.png' })])).toEqual(['Sea-default.png of Sea', 'Land-default.png of Land', 'Sea-Night.png as n of Sea Night', 'Land-Night.png as n of Land']); // prettier-ignore
  expect(told([part('palette')])).toEqual(['textures/Sea.gpl of Sea', 'textures/Land.gpl of Land']);
  expect(told([part('palette'), part('palette')])).toHaveLength(4);
  // What is not color is common to all variants.
  const shiny = skerry();
  shiny.kit.sheets[0]!.cells[0]!.finish = { roughness: 0.5, metalness: 0, glow: '#ff0000' };
  expect(told([part('gltf')], {}, shiny)).toEqual([...bell('Sea.png of Sea', 'Sea-surface.png of Sea surface', 'Sea-glow.png of Sea glow', 'Sea-Night.png of Sea Night'), ...pots('Land.png of Land')]); // prettier-ignore
  for (const options of [{ finish: false }, { unlit: true }]) expect(told([part('gltf', { options })], {}, shiny)).toEqual(usual);
  expect(told([part('obj')], {}, shiny)).toEqual([...obj('Bell', 'Sea'), ...obj('Pots', 'Land')]);
});

it('two files of one path are a problem of the second, as are paths that cannot be', () => {
  const plan = { icon: usualIcon, list: usualList, manifest: usualManifest };
  const taken = (path: string, first: string) => `${path} ! there is another file at “${first}”.`;
  const kit = (path: string) => part('ply', { path }, 'kit');
  expect(told([kit('A.ply'), kit('a.PLY'), kit('a.ply')], plan)).toEqual(['A.ply', taken('a.PLY', 'A.ply'), taken('a.ply', 'A.ply'), 'icon.png', 'list.json', 'manifest.json']); // prettier-ignore
  expect(told([kit('list.JSON')], { list: usualList })).toEqual(['list.JSON', taken('list.json', 'list.JSON')]);
  expect(told([kit('{x}.ply'), kit('x.ply')], { list: { path: '{kit}-{version}.json' } })).toEqual(['{x}.ply ! there is no field “x” here.', 'x.ply', 'Skerry-1.0.0.json']); // prettier-ignore
  // Sheets of one name and look are one picture; of other looks they are two files.
  const alike = skerry();
  alike.kit.sheets[1]!.name = 'Sea';
  expect(told([part('sheet')], {}, alike)).toEqual(['textures/Sea.png of Sea', taken('textures/Sea.png of Sea', 'textures/Sea.png')]);
  expect(told([part('sheet'), part('sheet')])).toEqual(['textures/Sea.png of Sea', 'textures/Land.png of Land']);
});

it('pictures that models brought leave beside glTF and OBJ, as long as a face shows one', () => {
  const picture = {
    ...box(),
    slots: [{ name: 'a' }, { name: 'b', picture: 'p' }],
    faceSlot: new Uint16Array(6).fill(1, 5),
  } as unknown as PolyMesh;
  const brings = (formats: string[], cell: (f: number) => number, mesh: PolyMesh | undefined = picture) => {
    const state = skerry();
    state.seats.pots!.cell.forEach((_, f, own) => (own[f] = cell(f)));
    return bringsPictures(state, { ...newHandOff('h', 'Game'), parts: formats.map((f) => part(f)) }, (m) =>
      m.id === 'pots' ? mesh : undefined,
    );
  };
  const bareLast = (f: number) => (f === 5 ? 0 : 50);
  expect([['glb', 'gltf'], ['obj'], ['glb', 'ply'], []].map((f) => brings(f, bareLast))).toEqual([true, true, false, false]);
  expect([brings(['obj'], () => 50), brings(['obj'], (f) => (f < 5 ? 0 : 50)), brings(['obj'], bareLast, box())]).toEqual([false, false, false]); // prettier-ignore
});

it('paths are told from each other', () => {
  const from = 'a/b/c.gltf';
  expect(['a/b/d.png', 'a/x/d.png', 'd.png', 'a/b', 'a/b/c/d', 'x/b/d', 'a/d.png'].map((to) => relativePath(from, to))).toEqual(['d.png', '../x/d.png', '../../d.png', '../b', 'c/d', '../../x/b/d', '../d.png']); // prettier-ignore
  expect([relativePath('c', 'a/b'), relativePath('a/b/c', 'a/b'), relativePath('a/b/c/d', 'a/b')]).toEqual(['a/b', '../b', '../../b']);
  expect([folderOf('a/b.c'), folderOf('b.c'), withoutExtension('a.x/b.c'), withoutExtension('a.x/b')]).toEqual([
    'a/',
    '',
    'a.x/b',
    'a.x/b',
  ]);
});
