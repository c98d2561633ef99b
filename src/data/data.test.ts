import { inherits } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { unzipSync, zipSync } from 'fflate';
import { afterEach, describe, expect, it } from 'vitest';
import { perform, undo } from '@/core/kit/edit/history';
import { openGltf } from '@/core/files/gltf/openGltf';
import { contentAddress, pack, unpack } from '@/core/ground/bytes/pack';
import { readModel } from '@/core/files/formats/readModel';
import { newHandOff, usualIcon } from '@/core/kit/handOffPlan';
import { type Cue, emptySeats, type Kit, solid } from '@/core/kit/kit';
import { boundsOf } from '@/core/shapes/mesh/measure';
import { faceCount, triangleCount } from '@/core/shapes/mesh/polyMesh';
import { expectValid } from '@tests/kitAround';
import { box } from '@tests/meshes';
import { address, colorFace, packed, plain, someKit, withPlan, sealed, unsealed, fullKit, furArt, furOfFresh } from '@tests/savedKits';
import { readArchive, writeArchive } from './archive';
import { archiveVersion } from './kitDocument';
import { Autosave } from './autosave';
import { db } from './db';
import { keepBlobs } from './blobs';
import { binKit, claimKit, createKit, duplicateKit, listKits, loadKit, renameKit, unbinKit } from './kits';
import { clearBin, storageUse, tidy } from './storage';

afterEach(async () => {
  await Promise.all(db.tables.map((t) => t.clear()));
});

it('renames a kit from outside for good, and undo inside takes even that back', async () => {
  const kit = someKit();
  await createKit(kit);
  const { id } = kit.kit;
  const stored = (await claimKit(id))!;
  const autosave = new Autosave(stored, () => undefined);
  const inside = perform(stored, { kind: 'set', of: 'kit', before: { name: 'Brindle Skerry' }, after: { name: 'Inside' } });
  const colored = perform(inside, colorFace(inside, 1, 2));
  autosave.changed(undo(colored));
  await autosave.flush();
  await renameKit(id, 'Outside');
  const again = (await loadKit(id))!;
  expect([again.state.kit.name, (await listKits())[0]!.name, again.history.edits.length]).toEqual(['Outside', 'Outside', 2]);
  expect(undo(again).state.kit.name).toBe('Inside');
  const copy = (await duplicateKit(id, 'Copy'))!;
  await renameKit(copy, 'Second');
  expect((await loadKit(copy))!.state.kit.name).toBe('Second');
  expect((await listKits()).map((k) => k.models)).toEqual([1, 1]);
});

it('tidies away what nothing names, but not what another tab is bringing in', async () => {
  const kit = someKit();
  await createKit(kit);
  await db.kits.update((await duplicateKit(kit.kit.id, 'Old'))!, { deleted: 1 });
  await keepBlobs([{ id: 'fresh', bytes: Uint8Array.of(1) }]);
  await db.blobs.bulkPut([
    { id: 'old', bytes: Uint8Array.of(2), added: 1 },
    { id: address, bytes: packed, added: 1 },
  ]);
  await tidy();
  expect((await db.blobs.toArray()).map((b) => b.id).sort()).toEqual([address, 'fresh'].sort());
});

it('measures what is stored, each byte once, and clears what is in the bin', async () => {
  const kit = someKit();
  const [id, other] = [kit.kit.id, 'kOther'];
  await createKit(kit);
  await createKit({ ...kit, kit: { ...kit.kit, id: other, models: [{ ...kit.kit.models[0]!, mesh: 'lamp' }] } });
  await db.blobs.bulkPut([
    { id: address, bytes: packed, added: 1 },
    { id: 'lamp', bytes: new Uint8Array(70), added: 1 },
    { id: 'stray', bytes: new Uint8Array(9), added: 1 },
  ]);
  const stored = (await claimKit(id))!;
  const autosave = new Autosave(stored, () => undefined);
  autosave.changed(perform(stored, colorFace(stored, 1, 2)));
  await autosave.flush();
  const seats = 6 * 2 * 2;
  const sizes = { kit: packed.length + seats, history: 64 + 16, others: 70 + seats, otherKits: 1, bin: 0, binnedKits: 0, unused: 9 };
  expect(await storageUse(id)).toMatchObject(sizes);
  await binKit(other);
  expect(await storageUse(id)).toMatchObject({ ...sizes, others: 0, otherKits: 0, bin: 70 + seats, binnedKits: 1 });
  await clearBin();
  expect(await storageUse(id)).toMatchObject({ ...sizes, others: 0, otherKits: 0, unused: 0 });
  await autosave.forgetHistory();
  expect(await storageUse(id)).toMatchObject({ kit: sizes.kit, history: 0 });
  const again = (await loadKit(id))!;
  expect([again.state.seats.mBell!.cell[1], again.history.edits.length]).toEqual([2, 0]);
});

it('lists, duplicates and bins kits, and takes them out of the bin', async () => {
  const kit = someKit();
  await createKit(kit);
  const copy = (await duplicateKit(kit.kit.id, 'Skerry copy'))!;
  expect((await listKits()).map((k) => k.name).sort()).toEqual(['Brindle Skerry', 'Skerry copy']);
  await binKit(copy);
  expect(await loadKit(copy)).toBeNull();
  await unbinKit(copy);
  expect((await loadKit(copy))!.state.kit.name).toBe('Skerry copy');
});

describe('the archive', () => {
  const blobs = new Map([[address, packed]]);

  it('opens again to the identical kit, and to the same bytes', async () => {
    const state = someKit();
    state.seats.mBell!.cell.set([1, 2, 3, 0, 5, 6]);
    const bytes = writeArchive(state, blobs);
    const again = await readArchive('a.zip', bytes);
    expect(plain(again.state)).toEqual(plain(state));
    expect(again.blobs.get(address)).toEqual(packed);
    expect(writeArchive(again.state, again.blobs)).toEqual(bytes);
    const zone = process.env.TZ;
    process.env.TZ = 'Pacific/Auckland';
    expect(writeArchive(again.state, again.blobs)).toEqual(bytes);
    if (zone === undefined) delete process.env.TZ;
    else process.env.TZ = zone;
  });

  it('opens again whatever was typed or named by a file', async () => {
    const state = someKit();
    state.kit.name = 'n'.repeat(5000);
    state.kit.sheets[0]!.cells[0]!.role = 'r'.repeat(5000);
    const { kit } = (await readArchive('a.zip', writeArchive(state, blobs))).state;
    expect([kit.name.length, kit.sheets[0]!.cells[0]!.role.length]).toEqual([500, 500]);
  });

  it('carries pictures, frozen sheets and art with the seats on them, regions, seams and named picks', async () => {
    const picture = Uint8Array.from({ length: 90 }, (_, i) => i);
    const of = await contentAddress(picture);
    const state = someKit();
    const [sheet] = state.kit.sheets;
    sheet!.frozen = { picture: of, appended: [2] };
    sheet!.cells[0]!.fill = { kind: 'art', picture: of };
    state.kit.references.push({ id: 'pCove', name: 'Cove', picture: of });
    state.kit.allowed = { name: 'few.hex', colors: ['#112233'] };
    state.seats.mBell!.at = new Float32Array(48).fill(0.25);
    state.seats.mBell!.region.set([7, 7], 1);
    const picks = [{ id: 1, name: 'lip', spans: [0, 2, 5, 1] }];
    Object.assign(state.kit.models[0]!, { regions: [{ id: 7, name: 'rim', cell: 2, locked: true }], seams: [3, 23], picks });
    await expect(() => writeArchive(state, blobs)).toThrow('is missing');
    const again = await readArchive('a.zip', writeArchive(state, new Map([...blobs, [of, picture]])));
    expect(plain(again.state)).toEqual(plain(state));
    expect(again.blobs.get(of)).toEqual(picture);
    expect([...again.state.seats.mBell!.region]).toEqual([0, 7, 7, 0, 0, 0]);
  });

  it('carries painted art; what does not fit it, or lacks, is refused', async () => {
    const state = fullKit();
    const bytes = writeArchive(state, blobs);
    const again = await readArchive('a.zip', bytes);
    expect(plain(again.state)).toEqual(plain(state));
    expect(writeArchive(again.state, again.blobs)).toEqual(bytes);
    const entry = `pixels/${furArt}.bin`;
    const { [entry]: _, ...without } = unsealed(bytes);
    const opened = (own?: object) => readArchive('a.zip', sealed({ ...without, ...(own && { [entry]: pack(own) }) }));
    const art = { width: 3, height: 2, cells: new Uint16Array(6) };
    await expect(opened(art)).resolves.toBeDefined();
    // Only a variant inherits.
    await expect(opened({ ...art, cells: new Uint16Array(6).fill(inherits) })).rejects.toThrow('does not fit the kit');
    expect([...again.state.pixels![furOfFresh]!.cells]).toContain(inherits);
    await expect(opened()).rejects.toThrow(`${entry}: its painted art is missing or damaged`);
    const strange = [{ ...art, width: 2 }, { ...art, height: 2.5 }, { ...art, width: 0, cells: new Uint16Array(0) }, { ...art, cells: new Uint16Array(6).fill(999) }, { ...art, cells: new Uint32Array(6) }, {}]; // prettier-ignore
    for (const own of strange) await expect(opened(own), JSON.stringify(own)).rejects.toThrow('its painted art does not fit the kit');
    await expect(readArchive('a.zip', sealed({ ...without, [entry]: Uint8Array.of(1, 2, 3) }))).rejects.toThrow('does not fit');
  });

  it('is refused where anything in it does not fit together', async () => {
    const good = unsealed(writeArchive(someKit(), blobs));
    const text = new TextDecoder().decode(good['kit.json']);
    const with_ = (change: Record<string, Uint8Array>) => readArchive('a.zip', sealed({ ...good, ...change }));
    const json = (edit: (kit: Record<string, never>) => void) => {
      const value = JSON.parse(text) as { kit: Record<string, never> };
      edit(value.kit);
      return with_({ 'kit.json': new TextEncoder().encode(JSON.stringify(value)) });
    };
    const cells = (kit: Record<string, never>) =>
      (kit.sheets as unknown as { cells: { id: number; rect: { x: number }; fill: unknown }[] }[])[0]!.cells;
    await expect(readArchive('a.zip', Uint8Array.of(1, 2, 3))).rejects.toThrow('not a zip');
    await expect(readArchive('a.zip', zipSync({ 'x.txt': Uint8Array.of(1) }))).rejects.toThrow('kit.json is missing');
    const mesh = `meshes/${address}.glb`;
    for (const damaged of [good[mesh]!.slice(1), good[mesh]!.map((b, i) => (i === 900 ? b + 1 : b)), good[mesh]!.slice(0, 700)])
      await expect(with_({ [mesh]: damaged })).rejects.toThrow(`${mesh}: “Fog bell” cannot be opened: a part of it is missing or damaged`);
    await expect(with_({ 'seats/mBell.bin': pack({ ...emptySeats(5) }) })).rejects.toThrow('do not fit');
    await expect(with_({ 'seats/mBell.bin': pack({ cell: new Uint16Array(6).fill(99), region: new Uint16Array(6) }) })).rejects.toThrow(
      'do not fit',
    );
    await expect(json((kit) => (cells(kit)[1]!.id = 1))).rejects.toThrow('same number');
    await expect(json((kit) => (cells(kit)[1]!.rect.x = 2))).rejects.toThrow('overlap');
    await expect(json((kit) => (cells(kit)[1]!.rect.x = 14))).rejects.toThrow('outside');
    await expect(json((kit) => (cells(kit)[1]!.fill = { kind: 'solid', color: 'red' }))).rejects.toThrow('fill');
    await expect(json((kit) => Object.assign(kit, { surprise: 1 }))).rejects.toThrow('surprise');
    const bell = (change: object) => json((kit) => Object.assign((kit.models as unknown as object[])[0]!, change));
    await expect(bell({ seams: [24] })).rejects.toThrow('seams do not fit');
    await expect(bell({ picks: [{ id: 1, name: 'lip', spans: [4, 3] }] })).rejects.toThrow('picks do not fit');
    await expect(bell({ picks: [{ id: 1, name: 'lip', spans: [3, 1, 2, 1] }] })).rejects.toThrow('picks do not fit');
  });

  it('refuses ids and references that are not what they must be, and mends what older versions left behind', async () => {
    const state = fullKit();
    const bytes = writeArchive(state, blobs);
    const { kit: good } = state;
    const changed = (change: (kit: Kit) => void, version = archiveVersion) => {
      const kit = structuredClone(good);
      change(kit);
      const text = JSON.stringify({ format: 'oligochrome kit', version, kit });
      return readArchive('a.zip', sealed({ ...unsealed(bytes), 'kit.json': new TextEncoder().encode(text) }));
    };
    expect((await changed(() => undefined)).state).toEqual(state);
    const [other, nobody] = ['again', 'mNobody'];
    const refused: [words: string, change: (kit: Kit) => void][] = [
      ...['__proto__', 'constructor', 'hasOwnProperty'].flatMap((id): [string, (kit: Kit) => void][] => [
        ['is a name that cannot be an id', (k) => (k.models[0]!.id = id)],
        ['is a name that cannot be an id', (k) => (k.variants[0]!.id = id)],
      ]),
      ['two sheets have the same number', (k) => k.sheets.push({ ...k.sheets[0]!, cells: [], ramps: [] })],
      ['two ramps have the same number', (k) => k.sheets[0]!.ramps.push({ ...k.sheets[0]!.ramps[0]!, name: other })],
      ['two plans have the same number', (k) => k.handOffs.push(newHandOff('h', 'a'), newHandOff('h', 'b'))],
      ['two references have the same number', (k) => k.references.push(...['a', 'b'].map((name) => ({ id: 'p', name, picture: address })))],
      ['two regions of a model have the same number', (k) => k.models[0]!.regions.push({ id: 1, name: other, cell: 0 })],
      ['two named picks of a model have', (k) => k.models[0]!.picks!.push({ id: 1, name: other, spans: [] })],
      ['two material slots of a model have the same number', (k) => k.models[0]!.slots.push({ number: 0, name: other, cell: 5 })],
      ['two material slots of a model are of one color', (k) => k.models[0]!.slots.push({ ...k.models[0]!.slots[0]!, number: 3 })],
      ['two motifs have the same number', (k) => k.motifs!.push({ ...k.motifs![0]!, name: other })],
      ['the rows of a motif are not of one length', (k) => k.motifs![0]!.rows.push('-')],
      [
        'the rows of a motif lie over each other',
        (k) => (k.models[0]!.picks![0]!.pattern = { kind: 'motif', cell: 0, motif: { ...k.motifs![0]!, overlap: 2 } }),
      ],
      [
        'a pattern of a color that is not there',
        (k) => (k.models[0]!.picks![0]!.pattern = { kind: 'noise', cell: 9999, within: 1, seed: 0 }),
      ],
      ['a region with a color that is not there', (k) => (k.models[0]!.regions[0]!.cell = 9999)],
      ['a material slot of a color that is not there', (k) => (k.models[0]!.slots[0]!.cell = 9999)],
      ['a variant that speaks of a color that is not there', (k) => (k.variants[0]!.fills[9999] = solid('#000000'))],
      ['a rule of a variant that speaks of what is not there', (k) => (k.variants[0]!.rules![0]!.except = [9999])],
      ['a start variant that is not there', (k) => (k.startsWith = 'vNone')],
      ['a remark of Proof on what is not there', (k) => (k.proof!.waived[0]!.model = nobody)],
      ['a plan for a model that is not there', (k) => k.handOffs.push({ ...newHandOff('h', 'a'), icon: { ...usualIcon, model: nobody } })],
    ];
    for (const [words, change] of refused) await expect(changed(change), words).rejects.toThrow(words);
    expect(({} as { vSalt?: unknown }).vSalt).toBeUndefined();
    const mended = await changed((k) => {
      for (const [words, change] of refused) if (/not there/.test(words)) change(k);
    }, 5);
    const { models, variants, startsWith, proof, handOffs } = mended.state.kit;
    expect([models[0]!.regions[0]!.cell, models[0]!.slots, Object.keys(variants[0]!.fills).includes('9999'), variants[0]!.rules![0]!.except]).toEqual([0, [], false, []]); // prettier-ignore
    expect([startsWith, proof!.waived, handOffs[0]!.icon!.model]).toEqual([undefined, [], undefined]);
    // What is nested past all measure ends in words of ours.
    const deep = `{"format":"oligochrome kit","version":6,"kit":${'['.repeat(200_000)}${']'.repeat(200_000)}}`;
    const entries = { ...unsealed(bytes), 'kit.json': new TextEncoder().encode(deep) };
    await expect(readArchive('a.zip', sealed(entries))).rejects.toThrow('must be of type object');
  });

  it('opens the other models where one is broken, and says which', async () => {
    const state = someKit();
    const [bell] = state.kit.models;
    state.kit.models.push({ ...bell!, id: 'mPot', name: 'Crab pot' });
    const both = { ...state, seats: byId({ ...state.seats, mPot: emptySeats(6) }) };
    state.kit.variants.push({ id: 'vSalt', name: 'Salt-worn', model: 'mPot', fills: {} });
    const entries = unsealed(writeArchive(both, blobs));
    entries['seats/mPot.bin'] = pack({ cell: new Uint16Array(5), region: new Uint16Array(5) });
    const { state: opened, leftOut } = await readArchive('a.zip', sealed(entries));
    expect(opened.kit.models.map((m) => m.name)).toEqual(['Fog bell']);
    expect([Object.keys(opened.seats), opened.kit.variants]).toEqual([['mBell'], []]);
    expect(leftOut).toEqual(['a.zip, seats/mPot.bin: “Crab pot” cannot be opened (the colors do not fit the model).']);
    const huge = JSON.parse(new TextDecoder().decode(entries['kit.json'])) as { kit: { sheets: object[] } };
    huge.kit.sheets = Array.from({ length: 64 }, (_, i) => ({
      ...huge.kit.sheets[0],
      id: `s${i}`,
      cells: [],
      ramps: [],
      width: 4096,
      height: 4096,
    }));
    entries['kit.json'] = new TextEncoder().encode(JSON.stringify(huge));
    await expect(readArchive('a.zip', sealed(entries))).rejects.toThrow('its sheets are larger than two of');
  });

  it('keeps what variants say of colors and faces; a patch that does not fit costs its model', async () => {
    const { kit, seats } = someKit();
    kit.variants.push({ id: 'vSalt', name: 'Salt-worn', fills: { 2: { kind: 'solid', color: '#8899aa' } } });
    const patch = {
      cell: Uint16Array.of(1, inherits, inherits, inherits, inherits, 0),
      at: new Float32Array(48).fill(NaN).fill(0.25, 0, 8),
    };
    const state = { kit: { ...kit, startsWith: 'vSalt' }, seats, patches: byId({ vSalt: byId({ mBell: patch }) }) };
    const bytes = writeArchive(state, blobs);
    const { state: opened } = await readArchive('a.zip', bytes);
    expect([opened.kit.variants, opened.kit.startsWith, opened.patches]).toEqual([kit.variants, 'vSalt', state.patches]);
    const without = (change: object) => {
      const entries = unsealed(bytes);
      entries['patches/vSalt/mBell.bin'] = pack({ ...patch, ...change });
      return readArchive('a.zip', sealed(entries));
    };
    await expect(without({ cell: patch.cell.slice(1) })).rejects.toThrow('says of its faces does not fit');
    await expect(without({ cell: patch.cell.map((c) => (c === 1 ? 99 : c)) })).rejects.toThrow('does not fit');
    await expect(without({ at: new Float32Array(46) })).rejects.toThrow('does not fit');
    await expect(without({ at: new Float32Array(48).fill(Infinity) })).rejects.toThrow('does not fit');
    await expect(without({ rule: new Uint16Array(6).fill(3) })).rejects.toThrow('does not fit');
    // Before the fourth version no variant could be made, and its place was kept free.
    const old = unsealed(bytes);
    const document = JSON.parse(new TextDecoder().decode(old['kit.json'])) as { version: number; kit: { variants: object[] } };
    old['kit.json'] = new TextEncoder().encode(
      JSON.stringify({ ...document, version: 3, kit: { ...kit, variants: [{ id: 'v', name: 'v', fills: {}, seats: [] }] } }),
    );
    delete old['patches/vSalt/mBell.bin'];
    expect((await readArchive('3.zip', sealed(old))).state.kit.variants).toEqual([]);
    const twice = unsealed(bytes);
    const same = {
      ...document,
      version: 4,
      kit: { ...kit, variants: ['Gale', 'gale '].map((name, i) => ({ id: `v${i}`, name, fills: {} })) },
    };
    twice['kit.json'] = new TextEncoder().encode(JSON.stringify(same));
    await expect(readArchive('4.zip', sealed(twice))).rejects.toThrow('two variants have the same name');
  });

  it('keeps the stage and its cues; cues of a model that is left out say that it is gone, and cues of nothing are refused', async () => {
    const { kit, seats } = someKit();
    const pot = { ...kit.models[0]!, id: 'mPot', name: 'Pot' };
    const stand = (id: string, model: string) => ({
      id,
      name: id,
      model,
      at: [0, 0.5, -3] as [number, number, number],
      turn: 15,
      scale: 2,
    });
    const cues: Cue[] = [
      { id: 'q1', name: 'Ring', when: { kind: 'near', placement: 'oBell', metres: 3 }, who: { placement: 'oPot' }, does: { kind: 'next' } },
      {
        ...{ id: 'q2', name: 'Ask', when: { kind: 'cue', cue: 'q1' }, after: 1.5, who: { model: 'mBell' }, once: true },
        ...{ does: { kind: 'ask', question: 'Which?', among: [null] }, onlyIf: { placement: 'oPot', coloring: null } },
      },
    ];
    const staged = { ...kit, models: [...kit.models, pot], placements: [stand('oBell', 'mBell'), stand('oPot', 'mPot')], cues };
    const bytes = writeArchive({ kit: staged, seats: byId({ ...seats, mPot: seats.mBell! }) }, blobs);
    const { state } = await readArchive('a.zip', bytes);
    expect([state.kit.placements, state.kit.cues]).toEqual([staged.placements, cues]);
    const without = unsealed(bytes);
    without['seats/mPot.bin'] = pack({ cell: new Uint16Array(5), region: new Uint16Array(5) });
    const { state: left } = await readArchive('b.zip', sealed(without));
    expect(left.kit.placements!.map((p) => p.id)).toEqual(['oBell']);
    expect(left.kit.cues).toMatchObject([{ who: { placement: '' } }, { onlyIf: { placement: '', coloring: null } }]);
    const wrong = (change: object) => {
      const entries = unsealed(bytes);
      const document = { format: 'oligochrome kit', version: 6, kit: { ...staged, ...change } };
      entries['kit.json'] = new TextEncoder().encode(JSON.stringify(document));
      return readArchive('c.zip', sealed(entries));
    };
    await expect(wrong({ cues: [{ ...cues[0], who: { placement: 'oNobody' } }] })).rejects.toThrow('a placement that is not there');
    await expect(wrong({ cues: [cues[0], { ...cues[1], name: 'ring' }] })).rejects.toThrow('two cues have the same name');
    await expect(wrong({ cues: [{ ...cues[0], who: { placement: 'oPot', model: 'mPot' } }] })).rejects.toThrow('kit.json');
    await expect(wrong({ placements: [staged.placements[0], staged.placements[0]] })).rejects.toThrow('two placements');
  });

  it('of the first version opens with its colors', async () => {
    const {
      state,
      blobs: found,
      leftOut,
    } = await readArchive('1.zip', new Uint8Array(readFileSync('src/data/fixtures/kit-1.oligochrome.zip')));
    const { kit, seats } = state;
    expect([kit.name, kit.handOffs, kit.models[0]!.regions, leftOut]).toEqual([
      'Of the first version',
      [],
      [{ id: 1, name: 'lip', cell: 2 }],
      [],
    ]);
    expect([[...seats.mBell!.cell], [...seats.mBell!.region], seats.mBell!.at!.length]).toEqual([
      [1, 2, 3, 1, 2, 0],
      [1, 1, 0, 0, 0, 0],
      48,
    ]);
    expect(found.get(address)).toEqual(packed);
    const entries = unsealed(writeArchive(state, found));
    const document = JSON.parse(new TextDecoder().decode(entries['kit.json'])) as { version: number };
    expect(document.version).toBe(8);
    document.version = 9;
    entries['kit.json'] = new TextEncoder().encode(JSON.stringify(document));
    await expect(readArchive('9.zip', sealed(entries))).rejects.toThrow('it is of version 9, and this Oligochrome reads up to 8');
  });

  it('of the second version opens with its plan, and its mesh is a GLB from then on that others read', async () => {
    const { state, blobs: found } = await readArchive('2.zip', new Uint8Array(readFileSync('src/data/fixtures/kit-2.oligochrome.zip')));
    expect([state.kit.name, state.kit.handOffs.map((h) => h.name), [...state.seats.mBell!.cell]]).toEqual([
      'Of the second version',
      ['All of it'],
      [1, 2, 3, 1, 2, 0],
    ]);
    const glb = unzipSync(writeArchive(state, found))[`meshes/${address}.glb`]!;
    await expectValid(glb);
    const { mesh } = await readModel({ name: 'a.glb', bytes: glb }, [], { mendQuads: false });
    const own = box();
    expect([faceCount(mesh), boundsOf(mesh)]).toEqual([triangleCount(own), boundsOf(own)]);
    // The corners of its faces stand in it under their name, for whoever wants more than triangles.
    const root = (await openGltf('a.glb', glb)).document.getRoot();
    const named = (name: string) => [
      ...root
        .listAccessors()
        .find((a) => a.getName() === name)!
        .getArray()!,
    ];
    expect([named('cornerVertex'), named('faceStart')]).toEqual([[...own.cornerVertex], [...own.faceStart]]);
  });

  it('tells by its sums what is damaged: colors cost their model, the document all', async () => {
    const state = withPlan(someKit());
    state.kit.models.push({ ...state.kit.models[0]!, id: 'mPot', name: 'Crab pot' });
    const both = { ...state, seats: byId({ ...state.seats, mPot: emptySeats(6) }) };
    const entries: Record<string, Uint8Array> = unzipSync(writeArchive(both, blobs));
    expect((await readArchive('a.zip', zipSync(entries))).state.kit.handOffs).toEqual(state.kit.handOffs);
    // Colors that would fit all the same.
    entries['seats/mPot.bin'] = pack({ cell: Uint16Array.of(0, 0, 1, 0, 0, 0), region: new Uint16Array(6) });
    const { state: opened, leftOut } = await readArchive('a.zip', zipSync(entries));
    expect([opened.kit.models.map((m) => m.name), leftOut]).toEqual([
      ['Fog bell'],
      ['a.zip, seats/mPot.bin: “Crab pot” cannot be opened (its colors are damaged).'],
    ]);
    const text = new TextDecoder().decode(entries['kit.json']).replace('Crab pot', 'Crab pit');
    await expect(readArchive('a.zip', zipSync({ ...entries, 'kit.json': new TextEncoder().encode(text) }))).rejects.toThrow(
      'document is damaged',
    );
    await expect(readArchive('a.zip', zipSync({ ...entries, 'sums.json': new TextEncoder().encode('[1]') }))).rejects.toThrow('sums.json');
    // What has no sum is not taken for whole, and no sums are not taken for good ones.
    const { 'sums.json': sums, ...bare } = unzipSync(writeArchive(both, blobs));
    await expect(readArchive('a.zip', zipSync(bare))).rejects.toThrow('a.zip, sums.json: it was cut short, or made by hand');
    const { 'seats/mPot.bin': _, ...others } = JSON.parse(new TextDecoder().decode(sums)) as Record<string, string>;
    const unsaid = { ...bare, 'sums.json': new TextEncoder().encode(JSON.stringify(others)) };
    expect((await readArchive('a.zip', zipSync(unsaid))).leftOut[0]).toContain('its colors are damaged');
  });

  it('packs any arrays and refuses what reaches past its end', () => {
    const value = { a: Float32Array.of(1.5, -2), b: [Uint8Array.of(7)], c: 'x', d: Int32Array.of(-1) };
    expect(unpack(pack(value))).toEqual(value);
    expect(() => unpack(pack(value).slice(0, -8))).toThrow('broken');
    expect(() => unpack(new TextEncoder().encode('\u0020\0\0\0{"$array":"constructor","at":0}'))).toThrow('broken');
  });
});
