import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../edit/editKinds';
import { faceCount } from '../mesh/polyMesh';
import { colorsOfCorners } from '../seat/colorsOfCorners';
import { newKit } from '../sheet/starter';
import { box, grid } from '@tests/meshes';
import { newHandOff, newPart, usualIcon } from '../handoff/plan';
import { emptySeats, type Fill, type KitState, type Model } from './kit';
import { mergeKit } from './mergeKit';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}` as const);
const meshes = { box: box(), grid: grid(2) };

/** A kit with one or two models on random colors, one gradient among them. */
const kits = fc
  .record({
    colors: fc.array(hex, { minLength: 1, maxLength: 40 }),
    gradient: fc.boolean(),
    shape: fc.constantFrom('box', 'grid'),
    frozen: fc.boolean(),
  })
  .map(({ colors, gradient, shape, frozen }): KitState => {
    const kit = newKit('Islet');
    const [sheet] = kit.sheets;
    sheet!.cells.forEach((cell, i) => {
      if (colors[i]) cell.fill = { kind: 'solid', color: colors[i] };
    });
    const own: Fill = {
      kind: 'gradient',
      axis: 'x',
      stops: [
        { at: 0, color: '#000000' },
        { at: 1, color: colors[0]! },
      ],
      mix: 'oklab',
    };
    if (gradient) Object.assign(sheet!.cells[3]!, { fill: own });
    if (frozen) sheet!.frozen = { picture: 'none' };
    const mesh = meshes[shape as 'box'];
    const faces = faceCount(mesh);
    const model: Model = {
      id: 'm',
      name: 'Bell',
      mesh: shape,
      faces,
      sheet: sheet!.id,
      regions: [{ id: 1, name: 'rim', cell: 2 }],
      slots: [],
      seams: [],
      source: { format: 'made', name: '', files: [] },
    };
    const at = Float32Array.from({ length: mesh.cornerVertex.length * 2 }, (_, i) => ((i * 7) % 10) / 10);
    const cell = Uint16Array.from({ length: faces }, (_, f) => (f % 5 === 4 ? 0 : 1 + (f % Math.min(5, colors.length + 1))));
    return {
      kit: {
        ...kit,
        models: [model],
        handOffs: [
          { ...newHandOff('h', 'Game'), parts: [{ ...newPart('glb'), ways: { m: 'slots' } }], icon: { ...usualIcon, model: 'm' } },
        ],
      },
      seats: { m: { ...emptySeats(faces), cell, at } },
    };
  });
const looks = ({ kit, seats }: KitState, { id, mesh }: Model) => [...colorsOfCorners(kit, meshes[mesh as 'box'], seats[id]!, new Map())];

describe('taking in another kit', () => {
  it('changes the color of no face of either, on a sheet whose cells lie apart, and is undone whole', () => {
    fc.assert(
      fc.property(kits, kits, (a, b) => {
        const { edit, models, met, came } = mergeKit(a, b);
        const before = { kit: structuredClone(a.kit), seats: structuredClone(a.seats) };
        const merged = applyEdit(a, edit);
        expect(models).toBe(1);
        expect(looks(merged, merged.kit.models[0]!)).toEqual(looks(before, before.kit.models[0]!));
        expect(looks(merged, merged.kit.models[1]!)).toEqual(looks(b, b.kit.models[0]!));
        expect(merged.kit.models.map((m) => m.name)).toEqual(['Bell', 'Bell 2']);
        const ids = merged.kit.sheets.flatMap((s) => s.cells.map((c) => c.id));
        expect([new Set(ids).size, Math.max(...ids) < merged.kit.nextCell]).toEqual([ids.length, true]);
        for (const { cells, width, height } of merged.kit.sheets) {
          const taken = new Uint8Array(width * height);
          for (const { rect } of cells)
            for (let y = rect.y; y < rect.y + rect.h; y++) for (let x = rect.x; x < rect.x + rect.w; x++) taken[y * width + x]!++;
          expect(taken.every((n) => n === 1)).toBe(true);
        }
        expect(met + came).toBe(b.kit.sheets[0]!.cells.filter((c) => c.fill.kind !== 'spare').length);
        const plan = merged.kit.handOffs[1]!;
        const id = merged.kit.models[1]!.id;
        expect([plan.name, plan.parts[0]!.ways, plan.icon!.model]).toEqual(['Game 2', { [id]: 'slots' }, id]);
        const undone = applyEdit(merged, inverseOf(edit));
        expect(undone.kit).toEqual(before.kit);
        expect(undone.seats).toEqual(before.seats);
      }),
      { numRuns: 60 },
    );
  });

  it('meets every color of its own twin, and the sheet stays as it is', () => {
    const [state] = fc.sample(kits, { numRuns: 1, seed: 7 }) as [KitState];
    delete state.kit.sheets[0]!.frozen;
    const { edit, came } = mergeKit(state, structuredClone(state));
    const merged = applyEdit(state, edit);
    expect([came, merged.kit.sheets]).toEqual([0, state.kit.sheets]);
  });
});
