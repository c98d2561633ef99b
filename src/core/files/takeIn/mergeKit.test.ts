import { gradientOf, modelOf } from '@tests/parts';
import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { faceCount } from '../../shapes/mesh/polyMesh';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import { newKit } from '../../sheet/starter';
import { box, grid } from '@tests/meshes';
import { newHandOff, newPart, usualIcon } from '../../kit/handOffPlan';
import { stateOfVariant } from '../../kit/colorings/shown';
import { problemOfCue, strangerIn } from '../../kit/cues';
import type { Hex } from '../../ground/color/hex';
import { withPatches } from '../../kit/patches';
import { isSameName } from '../../kit/variantNames';
import { emptySeats, type KitState, type Model, type Variant } from '../../kit/kit';
import { mergeKit } from './mergeKit';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}` as const);
const meshes = { box: box(), grid: grid(2) };

/** A kit with one or two models on random colors, one gradient among them. */
const kits = fc
  .record({
    colors: fc.array(fc.oneof(hex, fc.constantFrom('#aa0000', '#00aa00')), { minLength: 1, maxLength: 40 }),
    gradient: fc.boolean(),
    shape: fc.constantFrom('box', 'grid'),
    frozen: fc.boolean(),
    // Few colors, so that cells look alike in one coloring and apart in another.
    variants: fc.array(
      fc.record({
        name: fc.constantFrom('Salt-worn', 'salt-worn ', 'Abandoned', 'At dusk'),
        isOfModel: fc.boolean(),
        isShifted: fc.boolean(),
        fills: fc.dictionary(fc.constantFrom('1', '2', '3', '4', '5'), fc.constantFrom('#101010', '#e0e0e0')),
        seats: fc.option(fc.array(fc.constantFrom(0, 1, 2, 3, inherits), { minLength: 6, maxLength: 6 })),
      }),
      { maxLength: 3 },
    ),
  })
  .map(({ colors, gradient, shape, frozen, variants }): KitState => {
    const kit = newKit('Islet');
    const [sheet] = kit.sheets;
    sheet!.cells.forEach((cell, i) => {
      if (colors[i]) cell.fill = { kind: 'solid', color: colors[i] };
    });
    const own = gradientOf('x', '#000000', colors[0]!);
    if (gradient) Object.assign(sheet!.cells[3]!, { fill: own });
    if (frozen) sheet!.frozen = { picture: 'none' };
    const mesh = meshes[shape as 'box'];
    const faces = faceCount(mesh);
    const model = modelOf('m', faces, sheet!.id, { name: 'Bell', mesh: shape, regions: [{ id: 1, name: 'rim', cell: 2 }] });
    const at = Float32Array.from({ length: mesh.cornerVertex.length * 2 }, (_, i) => ((i * 7) % 10) / 10);
    const cell = Uint16Array.from({ length: faces }, (_, f) => (f % 5 === 4 ? 0 : 1 + (f % Math.min(5, colors.length + 1))));
    const said = variants.filter((v, i) => variants.findIndex((o) => isSameName(o.name, v.name)) === i);
    const patches = byId(
      said.flatMap(({ seats }, i) =>
        seats
          ? [[`v${i}`, byId({ m: { cell: Uint16Array.from({ length: faces }, (_, f) => (f === 0 ? 1 : seats[f % 6]!)) } })] as const]
          : [],
      ),
    );
    const state: KitState = {
      kit: {
        ...kit,
        variants: said.map(({ name, isOfModel, isShifted, fills: own }, i) => ({
          id: `v${i}`,
          name: name.trim(),
          ...(isOfModel && { model: 'm' }),
          ...(isShifted && { rules: [{ kind: 'shift' as const, lightness: 0.1, strength: 1, hue: 0 }] }),
          fills: Object.fromEntries(Object.entries(own).map(([id, color]) => [id, { kind: 'solid' as const, color: color as Hex }])),
        })),
        placements: [{ id: 'o1', name: 'Bell', model: 'm', at: [1, 0, 2], turn: 0, scale: 1, ...(said.length && { variant: 'v0' }) }],
        cues: [
          { id: 'q1', name: 'Ring', when: { kind: 'click', placement: 'o1' }, who: { placement: 'o1' }, does: { kind: 'next' } },
          {
            id: 'q2',
            name: 'Then',
            when: { kind: 'cue', cue: 'q1' },
            who: { model: 'm' },
            does: { kind: 'show', coloring: said.length ? 'v0' : null },
            onlyIf: { placement: 'o1', coloring: null },
          },
        ],
        models: [model],
        handOffs: [
          { ...newHandOff('h', 'Game'), parts: [{ ...newPart('glb'), ways: byId({ m: 'slots' }) }], icon: { ...usualIcon, model: 'm' } },
        ],
      },
      seats: byId({ m: { ...emptySeats(faces), cell, at } }),
    };
    return withPatches(state, patches);
  });
/** What a model looks like in each variant of a kit, by the variants' names in small letters. */
const looksInVariants = (state: KitState, model: Model, names: readonly string[]) =>
  names.map((name) => {
    const variant = state.kit.variants.find((v) => isSameName(v.name, name) && (v.model === undefined || v.model === model.id));
    return looks(stateOfVariant(state, variant!.id), model);
  });
const looks = ({ kit, seats }: KitState, { id, mesh }: Model) => [...colorsOfCorners(kit, meshes[mesh as 'box'], seats[id]!, new Map())];

describe('taking in another kit', () => {
  it('changes the color of no face of either, on a sheet whose cells lie apart, and is undone whole', () => {
    fc.assert(
      fc.property(kits, kits, (a, b) => {
        const { edit, models, met, came } = mergeKit(a, b);
        const before = structuredClone(a);
        const merged = applyEdit(a, edit);
        expect(models).toBe(1);
        expect(looks(merged, merged.kit.models[0]!)).toEqual(looks(before, before.kit.models[0]!));
        expect(looks(merged, merged.kit.models[1]!)).toEqual(looks(b, b.kit.models[0]!));
        expect(merged.kit.models.map((m) => m.name)).toEqual(['Bell', 'Bell 2']);
        const [own, come] = merged.kit.models as [Model, Model];
        const names = (of: KitState) => of.kit.variants.map((v) => v.name);
        expect(looksInVariants(merged, own, names(before))).toEqual(looksInVariants(before, own, names(before)));
        // A variant of one model alone is called otherwise where its name is taken.
        const isTaken = (v: Variant) =>
          merged.kit.variants.some((o) => isSameName(o.name, v.name) && o.model !== undefined && o.model !== come.id);
        const theirs = b.kit.variants.filter((v) => v.model === undefined && !isTaken(v)).map((v) => v.name);
        expect(looksInVariants(merged, come, theirs)).toEqual(looksInVariants(b, b.kit.models[0]!, theirs));
        for (const v of b.kit.variants.filter((o) => o.model !== undefined)) {
          const like = merged.kit.variants.filter((o) => o.model === come.id && o.name.toLowerCase().startsWith(v.name.toLowerCase()));
          expect(like).toHaveLength(1);
          expect(looks(stateOfVariant(merged, like[0]!.id), come)).toEqual(looks(stateOfVariant(b, v.id), b.kit.models[0]!));
        }
        expect(new Set(names(merged).map((n) => n.toLowerCase())).size).toBe(merged.kit.variants.length);
        const [first, second] = merged.kit.placements!;
        expect([merged.kit.placements!.length, first!.name, second!.name, second!.model]).toEqual([2, 'Bell', 'Bell 2', come.id]);
        expect(merged.kit.cues!.map((c) => [c.name, strangerIn(merged.kit, c), problemOfCue(merged.kit, c)])).toEqual(
          ['Ring', 'Then', 'Ring 2', 'Then 2'].map((name) => [name, null, null]),
        );
        expect(merged.kit.cues!.slice(2).map((c) => [c.when, c.who])).toEqual([
          [{ kind: 'click', placement: second!.id }, { placement: second!.id }],
          [{ kind: 'cue', cue: merged.kit.cues![2]!.id }, { model: come.id }],
        ]);
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
        expect(undone).toEqual(before);
      }),
      { numRuns: 150 },
    );
  });

  it('meets every color of its own twin, and the sheet stays as it is', () => {
    const [state] = fc.sample(kits, { numRuns: 1, seed: 7 }) as [KitState];
    delete state.kit.sheets[0]!.frozen;
    state.kit.variants = [{ id: 'v0', name: 'Salt-worn', fills: { 1: { kind: 'solid', color: '#808080' } } }];
    delete state.patches;
    const { edit, came } = mergeKit(state, structuredClone(state));
    const merged = applyEdit(state, edit);
    expect([came, merged.kit.sheets, merged.kit.variants]).toEqual([0, state.kit.sheets, state.kit.variants]);
  });
});
