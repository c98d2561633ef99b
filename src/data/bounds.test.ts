import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '@/core/kit/edit/editKinds';
import type { Edit } from '@/core/kit/edit/edit';
import { EditRefused } from '@/core/kit/edit/refused';
import { entryShapes, kitShape } from '@/core/kit/kitShape';
import type { Kit, KitState } from '@/core/kit/kit';
import type { Shape } from '@/core/kit/shape';
import { mostIn } from '@/core/ground/limits';
import { addStep } from '@/core/sheet/ramp/rampEdits';
import { address, fullKit, packed, withPlan } from '@tests/savedKits';
import { readArchive, writeArchive } from './archive';

const blobs = new Map([[address, packed]]);
let good: KitState;
beforeAll(() => {
  const { kit, ...state } = withPlan(fullKit());
  good = { ...state, kit: { ...kit, references: [{ id: 'pDusk', name: 'Dusk', picture: address }], nextCell: 4001 } };
});

/** Values of a shape at its bounds, one past them, and within. `deep`: lists of lists stay short. */
function valuesOf(shape: Shape, deep = 0): fc.Arbitrary<unknown> {
  switch (shape.is) {
    case 'text':
      return fc.constantFrom(0, 1, shape.most, shape.most + 1).map((n) => 'x'.repeat(n));
    case 'sign':
      return fc.constantFrom(...[address, '#102030', 'a', 'mBell', 'vSalt', 'oBell', '0-+'].filter((s) => shape.like.test(s)), ...shape.or);
    case 'number': {
      const { least, most } = shape;
      return fc.constantFrom(
        least,
        least - 1,
        Math.min(most, least + 1),
        Math.min(most, 1e9),
        Math.min(most, 1e9) + 1,
        least + 0.5,
        1,
        2,
        3,
      );
    }
    case 'one':
      return fc.constantFrom(...shape.of);
    case 'list': {
      const most = Math.min(shape.most, 70);
      const count = deep > 1 ? fc.constantFrom(shape.least, Math.min(2, most)) : fc.constantFrom(shape.least, most, most + 1);
      return count.chain((n) => fc.array(valuesOf(shape.of, deep + 1), { minLength: n, maxLength: n }));
    }
    case 'table':
      return fc
        .array(
          fc.tuple(
            fc.constantFrom('1', '2', '3', 'mBell').filter((k) => shape.like.test(k)),
            valuesOf(shape.of, deep + 1),
          ),
          { maxLength: 2 },
        )
        .map(Object.fromEntries);
    case 'fields':
      return fc.record(Object.fromEntries(Object.entries(shape.fields).map(([name, of]) => [name, valuesOf(of, deep + 1)])), {
        requiredKeys: Object.keys(shape.fields).filter((name) => !shape.maybe.has(name)),
      });
    case 'either':
      return fc.oneof(...shape.of.map((s) => valuesOf(s, deep)));
  }
}

/** Fields that the mesh decides, which the door does not have; and ids. */
const byTheMesh = new Set(['id', 'mesh', 'faces', 'seams']);

type List = keyof typeof entryShapes;
const listOf = (kit: Kit, list: List): { id: unknown }[] =>
  (list === 'cells' || list === 'ramps' ? kit.sheets[0]![list] : (kit[list] ?? [])) as { id: unknown }[];

/** An edit that gives one entry, or the kit, one field that any value of its shape can be. */
const edits = fc.oneof(
  ...(Object.keys(entryShapes) as List[]).map((list) => {
    const shape = entryShapes[list] as Extract<Shape, { is: 'fields' }>;
    return fc
      .constantFrom(...Object.keys(shape.fields).filter((f) => !byTheMesh.has(f)))
      .chain((field) => valuesOf(shape.fields[field]!).map((value) => ({ list, field, value })));
  }),
  ...(['name', 'allowed', 'proof', 'slotsFrom', 'startsWith', 'nextCell'] as const).map((field) =>
    valuesOf((kitShape as Extract<Shape, { is: 'fields' }>).fields[field]!).map((value) => ({ list: null, field, value })),
  ),
);

it('whatever the door takes, the archive opens', async () => {
  let taken = 0;
  await fc.assert(
    fc.asyncProperty(edits, fc.boolean(), async ({ list, field, value }, isAdded) => {
      const { kit } = good;
      let edit: Edit;
      if (!list) edit = { kind: 'set', of: 'kit', before: { [field]: kit[field] }, after: { [field]: value } } as Edit;
      else {
        const entries = listOf(kit, list);
        const before = isAdded || !entries.length ? null : entries[0]!;
        const after = { ...entries[0], ...(before ? {} : { id: list === 'cells' ? 4000 : 'new', name: 'New' }), [field]: value };
        const of = list === 'cells' || list === 'ramps' ? kit.sheets[0]!.id : 'kit';
        edit = {
          kind: 'put',
          list,
          of,
          index: before ? 0 : entries.length,
          before,
          after,
          ...(list === 'models' && { seats: good.seats.mBell }),
        } as never;
      }
      let next: KitState;
      try {
        next = applyEdit(good, edit);
      } catch (error) {
        expect(error).toBeInstanceOf(EditRefused);
        return;
      }
      taken++;
      const own = writeArchive(next, blobs);
      await readArchive('a.zip', own);
      expect(applyEdit(next, inverseOf(edit), { ignoreLocks: true }).kit).toEqual(kit);
    }),
    { seed: 5, numRuns: 600 },
  );
  expect(taken).toBeGreaterThan(150);
});

it('a ramp, named picks and every list end at the same number on the page, at the door and in the archive', () => {
  const { kit } = good;
  const sheet = kit.sheets[0]!;
  const long = (n: number): KitState => {
    const cells = Array.from({ length: n }, (_, i) => ({
      ...{ id: i + 1, rect: { x: i % 16, y: i >> 4, w: 1, h: 1 }, role: '' },
      fill: { kind: 'solid' as const, color: `#${(i * 2 + 16).toString(16).padStart(2, '0').repeat(3)}` as const },
    }));
    const ramps = [{ id: 'r', name: 'Long', cells: cells.map((c) => c.id) }];
    return { ...good, kit: { ...kit, sheets: [{ ...sheet, cells, ramps }] } };
  };
  expect(addStep(long(mostIn.steps - 1), sheet.id, 'r', 63)).not.toBeNull();
  expect(() => addStep(long(mostIn.steps), sheet.id, 'r', 64)).toThrow('A ramp has at most 64 steps');
  const [bell] = kit.models;
  const picks = Array.from({ length: mostIn.picks + 1 }, (_, i) => ({ id: i + 1, name: `p${i}`, spans: [0, 1] }));
  const put = (n: number) =>
    applyEdit(good, { kind: 'put', list: 'models', of: 'kit', index: 0, before: bell!, after: { ...bell!, picks: picks.slice(0, n) } });
  expect(put(mostIn.picks).kit.models[0]!.picks).toHaveLength(100);
  expect(() => put(mostIn.picks + 1)).toThrow('its picks would be 101, and 100 can be kept');
});
