import { modelOf } from '@tests/parts';
import { WebIO } from '@gltf-transform/core';
import fc from 'fast-check';
import { zipSync, type Zippable } from 'fflate';
import { describe, expect, it } from 'vitest';
import { emptySeats } from '../../kit/kit';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { newKit } from '../../sheet/starter';
import { box, grid } from '@tests/meshes';
import type { ExportModel } from '../leaving/exportModel';
import { lineWord, safeFile, safeName, uniqueNames } from '../../ground/bytes/fileNames';
import { writeGlb } from '../gltf/writeGlb';
import { lossesOf } from './losses';
import { decodePng, encodePng } from '../../ground/pictures/png';
import { readModel } from './readModel';
import { writeObj } from './writeObj';
import { zipOf } from '../../ground/bytes/zip';

function item(name: string, mesh: PolyMesh, cell: (face: number) => number): ExportModel {
  const faces = faceCount(mesh);
  return {
    model: modelOf(name, faces),
    mesh,
    seats: { ...emptySeats(faces), cell: Uint16Array.from({ length: faces }, (_, f) => cell(f)) },
    files: [],
  };
}

describe('writing OBJ', () => {
  it('leaves polygons whole, and what is read back is the same mesh on the same texels', async () => {
    const kit = newKit('Skerry');
    const bumpy = grid(3, (x, z) => Math.sin(x * 1.7) / 3 + z / 7);
    const files = writeObj(kit, [item('Fog bell', box(0.1), () => 3), item('Crab pots', bumpy, (f) => (f % 2 ? 5 : 0))], 'skerry');
    expect(files.map((f) => f.name)).toEqual(['skerry.obj', 'skerry.mtl', 'sheet.png']);
    const [main, ...beside] = files;
    const { mesh, notes } = await readModel(main!, beside, { mendQuads: false });
    expect(notes).toEqual([]);
    expect([faceCount(mesh), mesh.objects]).toEqual([15, ['Fog_bell', 'Crab_pots']]);
    const corner = (m: PolyMesh, f: number) => [...m.positions.slice(m.cornerVertex[m.faceStart[f]!]! * 3).slice(0, 3)];
    // Colored faces come first in each model; float32 positions survive the text exactly.
    [1, 3, 5, 7].forEach((f, i) => expect(corner(mesh, 6 + i)).toEqual(corner(bumpy, f)));
    const png = decodePng(beside[1]!.bytes);
    const shown = (f: number) => {
      const uv = mesh.uvSets[0]!.slice(mesh.faceStart[f]! * 2);
      const at = (Math.floor(uv[1]! * png.height) * png.width + Math.floor(uv[0]! * png.width)) * 4;
      return '#' + [...png.data.slice(at, at + 3)].map((v) => v.toString(16).padStart(2, '0')).join('');
    };
    const color = (id: number) => (kit.sheets[0]!.cells[id - 1]!.fill as { color: string }).color;
    expect([shown(0), shown(6)]).toEqual([color(3), color(5)]);
    expect(mesh.slots.map((s) => [s.name, s.picture])).toEqual([
      ['Sheet', 'sheet.png'],
      ['not_yet_colored', undefined],
    ]);
  });
});

describe('OBJ of a whole kit', () => {
  /** A box whose material is called `name`, with a picture of these bytes. */
  const wooden = (id: string, name: string, color: string, bytes: Uint8Array): ExportModel => {
    const one = item(
      id,
      { ...box(2), slots: [{ name, color, given: id !== 'f', picture: 'diffuse.png', ...(id === 'c' && { alpha: 0.25 }) }] },
      () => 0,
    );
    return { ...one, files: [{ name: 'diffuse.png', bytes }] };
  };

  it('keeps apart what has one name and differs, and joins what is the same', async () => {
    const kit = newKit('Skerry');
    const [red, blue] = [Uint8Array.of(1, 2, 3), Uint8Array.of(1, 2, 4)];
    const models = [
      wooden('a', 'Wood', '#ff0000', red),
      wooden('b', 'Wood', '#0000ff', blue),
      wooden('c', 'Sheet', '#00ff00', red),
      wooden('d', 'wood', '#ff0000', red),
      item('e', box(2), () => 1),
      wooden('f', 'Plain', '#c8c8c8', red),
    ];
    const files = writeObj(kit, models, 'skerry');
    expect(files.slice(2).map((f) => [f.name, f.bytes.length < 4 ? [...f.bytes] : 'sheet'])).toEqual([
      ['diffuse.png', [1, 2, 3]],
      ['diffuse-2.png', [1, 2, 4]],
      ['sheet.png', 'sheet'],
    ]);
    const { mesh } = await readModel(files[0]!, files.slice(1), { mendQuads: false });
    const seen = [0, 6, 12, 18, 24, 30].map((f) => mesh.slots[mesh.faceSlot[f]!]!);
    expect(seen.map(({ name, color, picture, alpha }) => [name, color, picture, alpha])).toEqual([
      ['Wood', '#ff0000', 'diffuse.png', undefined],
      ['Wood_2', '#0000ff', 'diffuse-2.png', undefined],
      ['Sheet_2', '#00ff00', 'diffuse.png', 0.25],
      ['wood_3', '#ff0000', 'diffuse.png', undefined],
      ['Sheet', '#ffffff', 'sheet.png', undefined],
      // A color that nobody gave would tint the picture.
      ['Plain', '#ffffff', 'diffuse.png', undefined],
    ]);
  });

  it('carries vertex colors of bare faces, opacity of cells, and says what OBJ cannot hold', async () => {
    const kit = newKit('Skerry');
    kit.sheets[0]!.cells[1]!.fill = { kind: 'solid', color: '#112233', alpha: 0.5 };
    const mesh = { ...box(2), cornerColors: Uint8Array.from({ length: 96 }, (_, i) => (i % 4 === 3 ? 255 : i * 2)) };
    const one = item('a', mesh, (f) => (f < 2 ? 0 : f < 4 ? 1 : 2));
    const files = writeObj(kit, [one], 'skerry', { as: 'texture' });
    const again = (await readModel(files[0]!, files.slice(1), { mendQuads: false })).mesh;
    const bare = again.faceSlot.findIndex((s) => again.slots[s]!.name === 'not_yet_colored');
    const start = again.faceStart[bare]!;
    for (let i = 0; i < 16; i++) expect(Math.abs(again.cornerColors![start * 4 + i]! - mesh.cornerColors[i]!)).toBeLessThanOrEqual(1);
    // All vertices have a color, or none has: readers take the lines to be alike.
    const vertices = (list: typeof files) =>
      new TextDecoder()
        .decode(list[0]!.bytes)
        .match(/^v .*$/gm)!
        .map((l) => l.split(' ').length);
    expect(new Set(vertices(files))).toEqual(new Set([7]));
    expect(new Set(vertices(writeObj(kit, [item('a', mesh, () => 1)], 's', { as: 'texture' })))).toEqual(new Set([4]));
    const text = new TextDecoder().decode(files[1]!.bytes);
    expect(text).toMatch(/newmtl Sheet_see-through\n[^]*map_d sheet\.png/);
    expect(new TextDecoder().decode(writeObj(kit, [one], 's', { as: 'slots' })[1]!.bytes)).toMatch(/\nd 0\.5\n/);
    const told = lossesOf(kit, { ...one, model: { ...one.model, sides: 'both' } }, { format: 'obj' });
    expect(told).toEqual([
      'Vertex colors of faces that were recolored.',
      'That faces are seen from both sides: OBJ cannot say it.',
      'That the texture is sampled to the nearest texel: OBJ cannot say it.',
    ]);
    expect(
      lossesOf(
        kit,
        item('b', { ...box(2), objects: ['a', 'b'] }, () => 1),
        { format: 'glb' },
      ),
    ).toEqual(['The division into 2 objects, since meshes are joined.']);
  });
});

describe('names of files', () => {
  it('are taken by every file system, whatever the artist typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 120 }), (name) => {
        const safe = safeName(name);
        expect(safe).toMatch(/^[\p{L}\p{N}_][\p{L}\p{N}._-]*$/u);
        expect(safe).not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d)(\.|$)|[.-]$/i);
        expect([...safe].length).toBeLessThanOrEqual(90);
      }),
      { seed: 10 },
    );
    expect(safeName('Keeper’s cottage / 2: "new"')).toBe('Keeper-s-cottage-2-new');
    expect([safeName('CON'), safeName('??'), safeName('früh')]).toEqual(['CON-model', 'model', 'früh']);
    expect([safeName('COM¹'), safeFile('lpt³.tar.PNG', 'picture'), safeFile('a/b\u0085c .png', 'picture')]).toEqual([
      'COM¹-model',
      'lpt³-picture.png',
      'b-c.png',
    ]);
    expect(uniqueNames(['Buoy', 'buoy', 'Buoy-2', 'a.png', 'A.png'])).toEqual(['Buoy', 'buoy-2', 'Buoy-2-2', 'a.png', 'A-2.png']);
  });
});

it('materials that differ leave with names that differ, also where they are equal once they are clean, or called as the sheet is', async () => {
  const kit = newKit('Skerry');
  const names = ['dark red', 'dark_red', 'Sheet'];
  const slots = names.map((name, i) => ({ name, color: `#10203${i}`, given: true }));
  const mesh = { ...box(1), slots, faceSlot: Uint16Array.of(0, 0, 1, 1, 2, 2) };
  const pot = item('pot', mesh, (f) => (f === 5 ? 3 : 0));
  const materials = (text: string) => [...text.matchAll(/newmtl (.*)/g)].map((m) => m[1]);
  const [, mtl] = writeObj(kit, [{ ...pot, model: { ...pot.model, sheet: kit.sheets[0]!.id } }], 'pot');
  expect(materials(new TextDecoder().decode(mtl!.bytes)).sort()).toEqual(['Sheet', 'Sheet_2', 'dark_red', 'dark_red_2']);
  const { json } = await new WebIO().binaryToJSON(await writeGlb(kit, [pot]));
  expect(json.materials!.map((m) => m.name).sort()).toEqual(['Sheet', 'Sheet_2', 'dark red', 'dark_red']);
});

it('names stay one word of one line, whatever a file or the artist called things', () => {
  expect(['dark red', 'a\u0085b\0c', 'tar\\\\', '#7', ' \n', 'früh'].map(lineWord)).toEqual([
    'dark_red',
    'a_b_c',
    'tar',
    '7',
    'unnamed',
    'früh',
  ]);
});

it('PNG keeps every texel, with alpha only where there is some', () => {
  const data = Uint8Array.from({ length: 4 * 4 * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 37) % 256));
  const opaque = encodePng({ width: 4, height: 4, data });
  expect(decodePng(opaque)).toEqual({ width: 4, height: 4, data });
  expect(opaque[25]).toBe(2);
  const clear = data.slice();
  clear[3] = 10;
  expect(encodePng({ width: 4, height: 4, data: clear })[25]).toBe(6);
  expect(decodePng(encodePng({ width: 4, height: 4, data: clear })).data).toEqual(clear);
});

it('a zip made file by file is the zip of all of them at once', () => {
  const names = ['b/früh.txt', 'a.png', 'B.txt', 'empty'];
  const files = names.map((name, i) => ({ name, bytes: Uint8Array.from({ length: i * 400 }, (_, k) => (k * i) % 7) }));
  const entries = Object.fromEntries(
    [files[2]!, files[1]!, files[0]!, files[3]!].map(({ name, bytes }) => [name, [bytes, { level: name === 'a.png' ? 0 : 6 }]]),
  ) as Zippable;
  expect(Buffer.compare(zipOf(files), zipSync(entries, { mtime: new Date(2020, 0, 1) }))).toBe(0);
  expect(zipOf([])).toEqual(zipSync({}));
});
