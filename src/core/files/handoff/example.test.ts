import { expect, it } from 'vitest';
import { modelOf } from '@tests/parts';
import { templateLimits } from '../../ground/limits';
import { zipOf } from '../../ground/bytes/zip';
import type { Kit } from '../../kit/kit';
import { newKit } from '../../sheet/starter';
import { planFromExample } from './example';
import { isManifest, readExample } from './readExample';

function kitOf(...models: string[]): Kit {
  const kit = newKit('Brindle Skerry');
  kit.sheets[0]!.name = 'Gull Sheet';
  models.forEach((name, i) => kit.models.push(modelOf(`m${i}`, 1, kit.sheets[0]!.id, { name })));
  return kit;
}
const pier = kitOf('Fog bell', 'Crab pots');
const planOf = (paths: string[], kit = pier) => planFromExample(kit, paths.map((path) => ({ path, bytes: 1 })), 'e', 'Example'); // prettier-ignore
/** What a plan of an example writes, and where. */
const told = (paths: string[], kit = pier) => planOf(paths, kit).parts.map((p) => [p.format, p.each === 'kit' ? 'kit' : '', p.path, p.pictures ?? p.palette ?? ''].filter(Boolean).join(' ')); // prettier-ignore

it('names of the kit become fields, in the letters in which most of them are found', () => {
  const small = ['all/brindle_skerry-2.5.glb', 'fog_bell/fog_bell.gltf', 'crab_pots/crab_pots.gltf', 'art/gull_sheet.png', 'Cover-2.5.png'];
  expect(told(small)).toEqual(['glb kit all/{kit}-{version}.glb', 'gltf {model}/{model}.gltf art/{sheet}.png']);
  const { id, name, letters, between, version, icon, manifest } = planOf(small);
  expect([id, name, letters, between, version, icon!.path, manifest]).toEqual(['e', 'Example', 'small', '_', '2.5', 'Cover-{version}.png', undefined]); // prettier-ignore
  expect(planOf(['Fogbell.glb', 'Crab-pots.glb', 'Brindle-Skerry.glb']).between).toBe('-');
  expect([planOf(['FogBell.glb', 'x-7.obj']).version, planOf(['FogBell.glb', 'v1.2.3/x.obj']).version]).toEqual(['1.0.0', '1.2.3']);
  // Longer names first, and whole ones; the kit's also within words.
  const alike = kitOf('Fog', 'Fog bell');
  expect(told(['Fog-bell.glb', 'Fog.glb', 'a/Fogs.glb', 'aBrindle-Skerryb/Fog2-Fog.obj'], alike)).toEqual([
    'glb {model}.glb', 'glb kit a/Fogs.glb', 'obj a{kit}b/Fog2-{model}.obj',
  ]); // prettier-ignore
});

it('names of another kit are those of its models where there are several, else its own', () => {
  const other = ['props/gate/gate.obj', 'props/gate/gate.mtl', 'props/well/well.obj', 'props/well/atlas.png', 'notes.doc', 'pack.glb'];
  expect(told(other)).toEqual(['glb kit {kit}.glb', 'obj props/{model}/{model}.obj']);
  expect([planOf(other).manifest, planOf(other).icon, planOf(other).letters, planOf(other).between]).toEqual([undefined, undefined, 'kept', '-']); // prettier-ignore
  expect(told(['one.glb', 'deep/two.glb'])).toEqual(['glb kit {kit}.glb', 'glb kit deep/{kit}.glb']);
  // Among names of the kit a single other one is meant as it stands; of several each is a model.
  expect(told(['pack.glb', 'Fog-bell.ply'])).toEqual(['glb kit pack.glb', 'ply {model}.ply']);
  expect(told(['pack.glb', 'Fog-bell.glb'])).toEqual(['glb {model}.glb']);
  expect(told(['x/a+b.(1).stl', 'x/a+b.(1)/c.ply', 'a+b/aab/a+b.obj'])).toEqual([
    'obj kit {kit}/aab/{kit}.obj',
    'ply kit x/a+b.(1)/{kit}.ply',
    'stl kit x/{kit}.stl',
  ]);
});

it('pictures are sheets, whose names become fields where they are the kit’s or there is but one', () => {
  expect(told(['art/GULL-SHEET.png', 'b/other.png'])).toEqual(['sheet art/{sheet}.png', 'sheet b/{sheet}.png']);
  const two = kitOf('Fog bell');
  two.sheets.push({ ...two.sheets[0]!, id: 's2', name: 'Kelp' });
  expect(told(['art/kelp.png', 'b/other.png'], two)).toEqual(['sheet art/{sheet}.png', 'sheet b/other.png']);
  // What a path says of itself stays; beside an OBJ pictures leave with it, of glTF they are its own.
  expect(told(['{odd}/other.png'])).toEqual(['sheet {odd}/other.png']);
  expect(told(['m/Fog-bell.obj', 'm/a.png', 'n/a.png'])).toEqual(['obj m/{model}.obj', 'sheet n/{sheet}.png']);
  expect(told(['m/Fog-bell.glb', 'm/a.png'])).toEqual(['glb m/{model}.glb', 'sheet m/{sheet}.png']);
  expect(told(['Fog-bell.gltf', 't/a.png', '{u}/b.png'])).toEqual(['gltf {model}.gltf t/{sheet}.png', 'sheet {u}/b.png']);
  for (const icon of ['icon', 'my-thumb', 'COVER2']) expect([planOf([`${icon}.png`]).icon?.path, told([`${icon}.png`])]).toEqual([`${icon}.png`, []]); // prettier-ignore
  expect(planOf(['icons/a.png', 'thumb.jpg']).icon).toBeUndefined();
});

it('palettes are written in their format, each place once; pictures and texts are none', () => {
  expect(told(['a.gpl', 'b.gpl', 'c/x.hex', 'c/x.pal'])).toEqual(['palette {sheet}.gpl gpl', 'palette c/{sheet}.hex hex', expect.stringMatching(/^palette c.\{sheet\}\.pal pal-/)]); // prettier-ignore
  expect(told(['a.json', 'a.txt', 'a.css', 'a.jpg', 'a.jpeg', 'a.webp', 'a.doc', 'a'])).toEqual([]);
});

it('a JSON file becomes the manifest’s template, with fields for what it says of the files', () => {
  const sum = 'ab'.repeat(32);
  const files = [{ path: 'Fog-bell.glb', bytes: 120 }, { path: 'art/x.png', bytes: 33 }, { path: 'about.txt', bytes: 2, text: '{"no": "manifest"}' }]; // prettier-ignore
  const plan = (value: unknown) => planFromExample(pier, [...files, { path: 'm/Brindle-Skerry.json', bytes: 9, text: typeof value === 'string' ? value : JSON.stringify(value) }], 'e', 'E'); // prettier-ignore
  const of = (value: unknown) => {
    const { manifest } = plan(JSON.stringify(value));
    return manifest && (JSON.parse(manifest.template) as unknown);
  };
  expect(plan({}).manifest!.path).toBe('m/{kit}.json');
  expect(of(['Fog-bell.glb', 'art/x.png'])).toEqual(['{each file}', '{path}']);
  const entry = { file: 'art/x.png', name: 'x.png', size: 33, sum: { of: sum.toUpperCase(), odd: `x${sum}`, long: `${sum}0` }, more: [33, null, 34, 'x'] }; // prettier-ignore
  expect(of({ files: [entry, { deep: { path: 'about.txt' } }] })).toEqual({
    files: ['{each file}', { file: '{path}', name: '{name}', size: '{bytes}', sum: { of: '{sha256}', odd: `x${sum}`, long: `${sum}0` }, more: ['{bytes}', null, 34, 'x'] }], // prettier-ignore
  });
  // A list is one of files where each entry tells of one; the manifest is none of them.
  expect(of([['art/x.png', 'other'], ['m/Brindle-Skerry.json'], [], ['other', 'art/x.png'], [null, 'about.txt']])).toEqual([['art/x.png', 'other'], ['m/Brindle-Skerry.json'], [], ['other', 'art/x.png'], [null, 'about.txt']]); // prettier-ignore
  expect(of({ n: 3, m: 4, kit: 'Brindle Skerry', b: true, c: null, braces: 'a{b}c', d: { n: 3 } })).toEqual({ n: '{files}', m: 4, kit: '{kit}', b: true, c: null, braces: 'abc', d: { n: '{files}' } }); // prettier-ignore
  expect(of({ Version: '9', aversion: '9', versions: '9', version: '', SUMMARY: 'so', xabout: 'a', about2: 'b' })).toEqual({ Version: '{version}', aversion: '9', versions: '9', version: '', SUMMARY: '{description}', xabout: 'a', about2: 'b' }); // prettier-ignore
  const long = plan({ version: 'v'.repeat(150), about: 'a'.repeat(400) });
  expect([long.version.length, long.description.length]).toEqual([100, 300]);
  // What is no JSON, is nested too deeply or is too long is left out.
  const nested = (depth: number) => '['.repeat(depth) + ']'.repeat(depth);
  expect(plan('{"a":').manifest).toBeUndefined();
  expect([plan(nested(templateLimits.depth + 1)).manifest, plan(nested(templateLimits.depth + 2)).manifest].map(Boolean)).toEqual([
    true,
    false,
  ]);
  expect(plan(nested(9000)).manifest).toBeUndefined();
  expect([plan({ a: 'x'.repeat(19_987) }).manifest, plan({ a: 'x'.repeat(19_988) }).manifest].map(Boolean)).toEqual([true, false]);
});

it('an example is read from a zip, of which only manifests keep their text, as far as they are not too many', () => {
  const text = (length: number) => new TextEncoder().encode('7'.padEnd(length));
  const zip = zipOf([
    { name: 'a/', bytes: new Uint8Array() },
    { name: 'a\\one.JSON', bytes: text(4) },
    { name: 'a/two.json.txt', bytes: text(3) },
    { name: 'long.json', bytes: text(200_001) },
    { name: 'just.json', bytes: text(200_000) },
  ]);
  expect(readExample('x.zip', zip).sort((a, b) => a.bytes - b.bytes).map((f) => [f.path, f.bytes, f.text?.length])).toEqual([
    ['a/two.json.txt', 3, undefined], ['a/one.JSON', 4, 4], ['just.json', 200_000, 200_000], ['long.json', 200_001, undefined],
  ]); // prettier-ignore
  const many = zipOf(Array.from({ length: 23 }, (_, i) => ({ name: `${100 + i}.json`, bytes: text(i < 20 ? 200_000 : i === 20 ? 194_305 : i === 21 ? 194_304 : 1) }))); // prettier-ignore
  expect(readExample('x.zip', many).map((f) => f.text !== undefined)).toEqual(Array.from({ length: 23 }, (_, i) => i !== 20 && i !== 22));
  expect([isManifest('a.json', 200_000), isManifest('a.json', 200_001), isManifest('a.jsonx', 1)]).toEqual([true, false, false]);
});
