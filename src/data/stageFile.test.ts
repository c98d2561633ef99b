import { modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import { readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { applyEdit, inverseOf } from '@/core/kit/edit/editKinds';
import { problemOfCue } from '@/core/kit/cues';
import { emptySeats, type Coloring, type Cue, type Kit, type KitState, type Model, type Placement } from '@/core/kit/kit';
import { newKit } from '@/core/sheet/starter';
import { stageInFile, takeStage, writeStage, type StageInFile } from '@/core/files/leaving/stageFile';
import { readStageFile } from './stageFile';

function islet(placements: Placement[] = [], cues: Cue[] = []): KitState {
  const kit = newKit('Skerry');
  const model = (id: string, name: string): Model => modelOf(id, 6, kit.sheets[0]!.id, { name });
  const variants = [
    { id: 'salt', name: 'Salt-worn', fills: {} },
    { id: 'rung', name: 'Rung', model: 'bell', fills: {} },
  ];
  return {
    kit: {
      ...{ ...kit, models: [model('bell', 'Fog bell'), model('pot', 'Crab pot')], variants },
      ...(placements.length && { placements }),
      ...(cues.length && { cues }),
    },
    seats: byId({ bell: emptySeats(6), pot: emptySeats(6) }),
  };
}

const place = fc.integer({ min: -9_000_000, max: 9_000_000 }).map((v) => v / 1000);
/** Random stages; what cues speak of may be gone. */
const stages = fc
  .array(
    fc.tuple(
      fc.boolean(),
      place,
      place,
      place,
      fc.nat(35_999),
      fc.integer({ min: 10, max: 100_000 }),
      fc.constantFrom(null, 'salt', 'rung'),
    ),
    {
      minLength: 1,
      maxLength: 6,
    },
  )
  .chain((list) => {
    const placements = list.map(([isBell, x, y, z, turn, scale, variant], i): Placement => {
      const start = variant === 'rung' && !isBell ? null : variant;
      return {
        ...{ id: `o${i}`, name: `Nr ${i}`, model: isBell ? 'bell' : 'pot', at: [x, y, z] as [number, number, number] },
        ...(start && { variant: start }),
        ...{ turn: turn / 100, scale: scale / 1000 },
      };
    });
    const id = fc.constantFrom('', ...placements.map((p) => p.id));
    const coloring = fc.constantFrom<Coloring>('', null, 'salt', 'rung');
    const among = fc.option(fc.subarray<Coloring>([null, 'salt', 'rung']), { nil: undefined }).map((a) => (a ? { among: a } : {}));
    const cue = fc.record({
      when: fc.oneof(
        id.map((placement) => ({ kind: 'click' as const, placement })),
        fc.tuple(id, fc.integer({ min: 1, max: 100 })).map(([placement, metres]) => ({ kind: 'near' as const, placement, metres })),
        fc.constant({ kind: 'start' as const }),
        fc.nat(3).map((n) => ({ kind: 'cue' as const, cue: n < 3 ? `q${n}` : '' })),
      ),
      who: fc.oneof(
        id.map((placement) => ({ placement })),
        fc.constantFrom({}, { model: 'pot' }, { model: '' }),
      ),
      does: fc.oneof(
        coloring.map((c) => ({ kind: 'show' as const, coloring: c })),
        among.map((a) => ({ kind: 'next' as const, ...a })),
        among.map((a) => ({ kind: 'random' as const, ...a })),
        among.map((a) => ({ kind: 'ask' as const, question: 'Which “one”?', ...a })),
      ),
      after: fc.option(fc.integer({ min: 1, max: 3600 }), { nil: undefined }),
      once: fc.boolean(),
      onlyIf: fc.option(fc.tuple(id, coloring), { nil: undefined }),
    });
    return fc.array(cue, { minLength: 3, maxLength: 3 }).map((cues) => ({
      placements,
      cues: cues.map(({ when, who, does, after, once, onlyIf }, i): Cue => ({
        ...{ id: `q${i}`, name: `Cue ${i}`, when },
        ...(after && { after }),
        ...{ who, does },
        ...(once && { once: true as const }),
        ...(onlyIf && { onlyIf: { placement: onlyIf[0], coloring: onlyIf[1] } }),
      })),
    }));
  });

const read = (kit: Kit, value: object | string) =>
  readStageFile('stage.json', new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value)), kit);

it('says all of a stage in a file that its schema knows, and takes it in again to the same bytes', () => {
  const isValid = new Ajv({ strict: true, allowUnionTypes: true }).compile(
    JSON.parse(readFileSync('docs/stage.schema.json', 'utf8')) as object,
  );
  fc.assert(
    fc.property(stages, ({ placements, cues }) => {
      const { kit } = islet(placements, cues);
      const text = writeStage(kit);
      expect(isValid(JSON.parse(text)), JSON.stringify(isValid.errors)).toBe(true);
      const stage = read(kit, text);
      for (const from of [islet(), islet(placements, cues)]) {
        const before = JSON.stringify(from.kit);
        const edit = takeStage(from.kit, stage, 'instead')!;
        const after = applyEdit(from, edit);
        expect(writeStage({ ...after.kit, name: kit.name })).toBe(text);
        expect(JSON.stringify(applyEdit(after, inverseOf(edit)).kit)).toBe(before);
      }
      // What does not run says the same, whatever numbers its things have.
      expect(stage.cues.map((c) => problemOfCue({ ...kit, ...stage }, c))).toEqual(cues.map((c) => problemOfCue(kit, c)));
    }),
    { seed: 11, numRuns: 60 },
  );
});

it('comes in beside what stands there under free names, and its cues speak of what came with them', () => {
  const cue: Cue = { id: 'q', name: 'Ring', when: { kind: 'click', placement: 'o' }, who: { placement: 'o' }, does: { kind: 'next' } };
  const after: Cue = { ...cue, id: 'r', name: 'After', when: { kind: 'cue', cue: 'q' } };
  const bell: Placement = { id: 'o', name: 'Bell', model: 'bell', at: [1, 2, 3], turn: 0, scale: 1 };
  const state = islet([bell], [after, cue]);
  const both = applyEdit(state, takeStage(state.kit, read(state.kit, writeStage(state.kit)), 'beside')!);
  const { placements, cues } = both.kit;
  expect([placements!.map((p) => p.name), cues!.map((c) => c.name)]).toEqual([
    ['Bell', 'Bell 2'],
    ['After', 'Ring', 'After 2', 'Ring 2'],
  ]);
  expect(cues![2]!.when).toEqual({ kind: 'cue', cue: cues![3]!.id });
  expect([cues![3]!.when, cues![3]!.who]).toEqual([{ kind: 'click', placement: placements![1]!.id }, { placement: placements![1]!.id }]);
  expect(takeStage(islet().kit, { placements: [], cues: [] }, 'instead')).toBeNull();
});

it('refuses what is newer, too much, not whole or about what is not there, and says why', () => {
  const bell: Placement = { id: 'o', name: 'Bell', model: 'bell', variant: 'salt', at: [1, 2, 3], turn: 0, scale: 1 };
  const cue: Cue = { id: 'q', name: 'Ring', when: { kind: 'click', placement: 'o' }, who: { placement: 'o' }, does: { kind: 'next' } };
  const { kit } = islet([bell], [cue]);
  const good = stageInFile(kit);
  const [p, c] = [good.placements[0]!, good.cues[0]!];
  const wrong = (change: Partial<Record<keyof StageInFile, unknown>>) => () => read(kit, { ...good, ...change });
  expect(wrong({})).not.toThrow();
  expect(wrong({ version: 2 })).toThrow('it is of version 2, and this Oligochrome reads up to 1');
  expect(wrong({ format: 'other' })).toThrow('it is no stage');
  expect(() => read(kit, '[')).toThrow('its JSON is broken');
  expect(() => read(kit, 'null')).toThrow('it is no stage');
  expect(wrong({ placements: Array.from({ length: 10_001 }, () => p) })).toThrow('10,001 placements; a stage holds 10,000');
  // A million of them are refused by their bytes, before anything is read.
  expect(wrong({ placements: Array.from({ length: 1_000_000 }, () => p) })).toThrow(/it holds \d+\.\d MB of what stands there/);
  // A node of a GLB that says more than any list can take at once.
  const json = new TextEncoder().encode(
    JSON.stringify({ scenes: [{ nodes: [0], extras: { stage: {} } }], nodes: [{ extras: { placements: Array(1_000_000).fill(0) } }] }),
  );
  const glb = new Uint8Array(20 + json.length);
  new DataView(glb.buffer).setUint32(0, 0x46546c67, true);
  new DataView(glb.buffer).setUint32(12, json.length, true);
  new DataView(glb.buffer).setUint32(16, 0x4e4f534a, true);
  glb.set(json, 20);
  expect(() => readStageFile('a.glb', glb, kit)).toThrow(/a\.glb: it has more than [\d,]+ placements/);
  expect(wrong({ placements: [{ ...p, model: 'Kraken' }] })).toThrow('“Bell” names the model “Kraken”, which this kit does not have');
  expect(wrong({ placements: [{ ...p, coloring: 'Gilded' }] })).toThrow('names the variant “Gilded”, which this kit does not have');
  expect(wrong({ placements: [{ ...p, model: 'Crab pot', coloring: 'Rung' }] })).toThrow('starts in a variant of another model');
  expect(wrong({ placements: [p, { ...p, name: 'bell' }] })).toThrow('two placements are called “bell”');
  expect(wrong({ placements: [{ ...p, at: [0, 0, 1e9] }] })).toThrow('stage.json, placements.0.at.2: it does not hold together');
  expect(wrong({ placements: [{ ...p, turn: 360 }] })).toThrow('placements.0.turn');
  expect(wrong({ placements: [{ ...p, name: ' Bell' }] })).toThrow('placements.0.name');
  expect(wrong({ cues: [{ ...c, when: { event: 'click', placement: 'Nobody' } }] })).toThrow(
    'The cue “Ring” names the placement “Nobody”, which is not in the file. Nothing of it was brought in.',
  );
  expect(wrong({ cues: [{ ...c, when: { event: 'cue', cue: 'Nothing' } }] })).toThrow('names the cue “Nothing”, which is not in the file');
  expect(wrong({ cues: [c, { ...c, name: 'RING' }] })).toThrow('two cues are called “RING”');
  expect(wrong({ cues: [{ ...c, does: { act: 'dance' } }] })).toThrow('cues.0.does');
  expect(wrong({ cues: [{ ...c, after: -1 }] })).toThrow('cues.0.after');
  const twins = { ...kit, models: kit.models.map((m) => ({ ...m, name: 'Fog bell' })) };
  expect(() => writeStage(twins)).toThrow('Two models are called “Fog bell”. Rename one of them in Gather');
  expect(() => read(twins, good)).toThrow('names the model “Fog bell”, and two are called so');
});
