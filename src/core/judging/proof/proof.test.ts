import { inherits } from '../../ground/limits';
import { byId } from '@/core/ground/byId';
import { box, grid } from '@tests/meshes';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { group, type Edit } from '../../kit/edit/edit';
import { applyEdit, inverseOf } from '../../kit/edit/editKinds';
import { type Cell, type KitState, type Sheet, type Variant } from '../../kit/kit';
import { meshFromLists } from '../../shapes/mesh/build';
import { seatFaces } from '../../kit/edit/seatFaces';
import type { Raster } from '../../ground/pictures/raster';
import { isWaived, proofDefaults, type Finding, type ProofModel, type ProofSettings } from './finding';
import { levelsOf, mipAtlas, mipOf, sample } from './mips';
import { prove } from './proof';
import { noRecoloring, recoloringOf } from './recoloring';
import { checks, repairFor } from './checks';
import { cell, inOrder, look, modelsOf, named, solid, world } from '@tests/proofWorld';

const repairOf = (state: KitState, found: Finding, settings: ProofSettings, own?: ProofModel) =>
  repairFor(found)?.edit(state, found, settings, own) ?? null;

/** Repairs, finds nothing of it any more, and undoes to what was. */
function repaired(w: ReturnType<typeof world>, found: Finding, settings = {}): KitState {
  const before = structuredClone(w.state);
  const all = { ...proofDefaults, ...settings };
  const edit = repairOf(
    w.state,
    found,
    all,
    modelsOf(w).find((m) => m.model.id === found.model),
  )!;
  const after = applyEdit(w.state, edit);
  const then = { state: after, meshes: w.meshes };
  expect(named(look(then, settings), found.check)).toEqual([]);
  const now = structuredClone(after);
  expect(applyEdit(after, inverseOf(edit))).toEqual(before);
  return now;
}

it('finds nothing in a kit that is in order, and each fault once it is set in', () => {
  expect(look(inOrder()).map((f) => f.check)).toEqual([]);
  const bare = inOrder();
  bare.state.seats.m0!.cell.set([0, 2], 3);
  bare.state.seats.m0!.cell[5] = 0;
  const found = look(bare);
  expect([...named(found, 'uncolored')[0]!.faces]).toEqual([3, 5]);
  expect(named(found, 'unused').map((f) => f.cells)).toEqual([[4]]);
  // The face across from the last has a color, so that it may take it; the other is its own twin.
  expect(named(found, 'half-colored').map((f) => [...f.faces])).toEqual([[5]]);
  const after = repaired(bare, named(found, 'half-colored')[0]!);
  expect([...after.seats.m0!.cell]).toEqual([1, 2, 3, 0, 2, 2]);

  const region = inOrder();
  region.state.kit.models[0]!.regions.push({ id: 1, name: 'lid', cell: 0 }, { id: 2, name: 'foot', cell: 2 });
  region.state.seats.m0!.region.set([1, 2, 0, 0, 0, 0]);
  region.state.seats.m0!.cell.set([0, 0, 3, 4, 1, 2]);
  expect(named(look(region), 'region-without-color').map((f) => [f.detail, ...f.faces])).toEqual([['lid', 0]]);

  const names = world([box(), box(), box()], [cell(1, 0, 0, 16, solid('#a04030'))]);
  names.state.kit.models[0]!.name = 'Buoy';
  names.state.kit.models[1]!.name = 'BUOY ';
  expect(named(look(names), 'names').map((f) => [f.count, f.detail])).toEqual([[2, 'Buoy, BUOY ']]);
  names.state.kit.models[2]!.name = 'nul';
  names.state.kit.models[0]!.name = 'crab / pot';
  expect(named(look(names), 'refused-names').map((f) => [f.count, f.detail])).toEqual([[3, 'crab / pot, BUOY , nul']]);
});

it('finds what a mesh has of faults, and parts that float alone', () => {
  const near = meshFromLists({ positions: [0, 0, 0, 1, 0, 0, 0, 1, 0, 1.01, 0, 0, 2, 0, 0, 1.01, 1, 0], faces: [[0, 1, 2], [3, 4, 5]] }); // prettier-ignore
  const far = { ...near, positions: near.positions.map((v, i) => (i >= 9 && i % 3 === 0 ? v + 1 : v)) };
  const cells = [cell(1, 0, 0, 16, solid('#a04030'))];
  expect(named(look(world([near], cells)), 'lone-part')).toEqual([]);
  expect([...named(look(world([far], cells)), 'lone-part')[0]!.faces]).toEqual([0, 1]);
  expect(named(look(world([near], cells)), 'open-border')[0]!.count).toBe(6);
  const turned = box();
  turned.cornerVertex.set([...turned.cornerVertex.slice(4, 8)].reverse(), 4);
  expect([...named(look(world([turned], cells)), 'flipped')[0]!.faces]).toEqual([1]);
  const slots = Array.from({ length: 4 }, (_, i) => ({ name: `s${i}`, color: '#808080', given: true }));
  const many = world([{ ...box(), slots, faceSlot: Uint16Array.of(0, 1, 2, 3, 0, 0) }], cells);
  many.state.seats.m0!.cell.fill(0);
  expect(named(look(many), 'materials').map((f) => [f.count, f.detail])).toEqual([[4, '2']]);
  expect(named(look(many, { materials: 4 }), 'materials')).toEqual([]);
});

it('finds colors that a mip level changes by filtering the sheet, and mends them with more texels', () => {
  // Red is 8 texels wide; each of the others 1 texel, in a corner.
  const cells = [
    cell(1, 0, 0, 8, solid('#c02020')),
    cell(2, 8, 0, 1, solid('#20c020')),
    cell(3, 9, 0, 1, solid('#2020c0')),
    cell(4, 0, 8, 8, { kind: 'spare' }),
  ];
  const w = world([box()], cells);
  w.state.seats.m0!.cell.set([1, 2, 3, 1, 1, 1]);
  expect(named(look(w, { mipLevels: 0 }), 'bleeding')).toEqual([]);
  const found = named(look(w, { mipLevels: 2 }), 'bleeding');
  expect([found[0]!.cells.sort(), found[0]!.detail]).toEqual([[2, 3], '2']);
  const after = repaired(w, found[0]!, { mipLevels: 2 });
  expect(after.kit.sheets[0]!.cells.filter((c) => c.fill.kind === 'solid').every((c) => c.rect.w === 4)).toBe(true);
  // The chain itself: means of four, down to one texel; nearest and mixed samples.
  const raster = { width: 4, height: 2, data: Uint8Array.from({ length: 32 }, (_, i) => Math.floor(i / 4) * 10) };
  expect([...mipOf(raster, 1).data.filter((_, i) => i % 4 === 0)]).toEqual([25, 45]);
  expect(mipOf(raster, 9)).toMatchObject({ width: 1, height: 1 });
  expect([sample(raster, 0.3, 0.9, 'nearest')[0], sample(raster, 0.5, 0.5, 'linear')[0], sample(raster, 0, 0, 'linear')[0]]).toEqual([
    50, 35, 0,
  ]);
});

it('finds twins, extremes, what is unused, see-through, too large or odd, and repairs what one edit can', () => {
  const w = inOrder();
  const [sheet] = w.state.kit.sheets as [Sheet];
  const put = (id: number, fill: Cell['fill']) =>
    sheet.cells.splice(
      sheet.cells.findIndex((c) => c.id === id),
      1,
      { ...sheet.cells.find((c) => c.id === id)!, fill },
    );
  put(2, solid('#a04131'));
  put(3, solid('#000000'));
  put(4, solid('#c0b060', 0.5));
  let found = look(w);
  expect(named(found, 'twins').map((f) => f.cells)).toEqual([[1, 2]]);
  expect([named(found, 'extreme')[0]!.cells, named(found, 'see-through')[0]!.cells]).toEqual([[3], [4]]);
  const merged = repaired(w, named(found, 'twins')[0]!);
  expect([...merged.seats.m0!.cell]).toEqual([1, 1, 3, 4, 1, 1]);
  w.state.seats.m0!.cell.fill(1);
  found = look(w);
  expect(named(found, 'unused')[0]!.cells).toEqual([2, 3, 4]);
  repaired(w, named(found, 'unused')[0]!);
  const large = world([box()], [cell(1, 0, 0, 4, solid('#a04030')), cell(2, 4, 0, 4, { kind: 'spare' })], 64);
  expect(named(look(large), 'too-large')[0]!.detail).toBe('4 × 4');
  expect(repaired(large, named(look(large), 'too-large')[0]!).kit.sheets[0]!.width).toBe(4);
  const odd = world([box()], [cell(1, 0, 0, 12, solid('#a04030'))], 12);
  expect(named(look(odd), 'odd-size')[0]!.count).toBe(2);
  repaired(odd, named(look(odd), 'odd-size')[0]!);
});

it('finds islands of art that lie near its border, share texels or are stretched, and moves them in', () => {
  const cells = [cell(1, 0, 0, 32, { kind: 'art', picture: 'p' }), cell(2, 32, 0, 8, solid('#a04030'))];
  const w = world([grid(2)], cells, 64);
  const square = (x: number, y: number, wide: number, high = wide) =>
    [x, y, x, y + high, x + wide, y + high, x + wide, y].map((v) => v / 32);
  const lay = (...at: number[][]) => (w.state.seats.m0!.at = Float32Array.from(at.flat()));
  lay(square(4, 4, 8), square(16, 4, 8), square(4, 16, 8), square(16, 16, 8));
  expect(look(w).filter((f) => ['near-border', 'shared-texels', 'stretched'].includes(f.check))).toEqual([]);
  lay(square(0, 4, 8), square(16, 4, 8), square(14, 8, 8), square(4, 20, 8, 2));
  const found = look(w);
  expect([...named(found, 'near-border')[0]!.faces]).toEqual([0]);
  expect([...named(found, 'shared-texels')[0]!.faces]).toEqual([1, 2]);
  expect([...named(found, 'stretched')[0]!.faces]).toEqual([3]);
  expect(named(look(w, { mipLevels: 0 }), 'near-border')).toEqual([]);
  expect(named(look(w, { stretch: 5 }), 'stretched')).toEqual([]);
  repaired(w, named(found, 'near-border')[0]!);

  // Where the clearance leaves no texel of the cell, it says so, and presses nothing to a point.
  const tight = named(look(w, { mipLevels: 5 }), 'near-border')[0]!;
  expect(() => repairOf(w.state, tight, { ...proofDefaults, mipLevels: 5 }, modelsOf(w)[0])).toThrow(
    'has 32 × 32 texels; at 5 mip levels it needs 33 each way',
  );
  expect(repairOf(w.state, tight, { ...proofDefaults, mipLevels: 4 }, modelsOf(w)[0])).not.toBeNull();

  // A variant that places the second face over the third and onto the border; what is so by default is not told twice.
  lay(square(0, 4, 8), square(16, 4, 8), square(16, 16, 8), square(4, 20, 8));
  w.state.kit.variants = [{ id: 'v', name: 'Salt', fills: {} }];
  const place = (corners: number[]) => {
    const at = new Float32Array(32).fill(NaN);
    at.set(corners, 8);
    w.state = { ...w.state, patches: byId({ v: byId({ m0: { cell: new Uint16Array(4).fill(inherits), at } }) }) };
  };
  place(square(24, 16, 8));
  const inVariant = () => look(w).flatMap((f) => (f.variant ? [[f.check, f.variant, ...f.faces]] : []));
  expect(inVariant()).toEqual([['near-border', 'Salt', 1]]);
  place(square(18, 18, 8));
  expect(inVariant()).toEqual([['shared-texels', 'Salt', 1, 2]]);
  expect(
    look(w)
      .filter((f) => f.variant)
      .some((f) => repairFor(f)),
  ).toBe(false);
  // Art in the variant alone.
  w.state.patches = byId();
  w.state.kit.sheets = [{ ...w.state.kit.sheets[0]!, cells: [{ ...cells[0]!, fill: solid('#304050') }, cells[1]!] }];
  w.state.kit.variants = [{ id: 'v', name: 'Salt', fills: { 1: { kind: 'art', picture: 'p' } } }];
  expect(inVariant()).toEqual([['near-border', 'Salt', 0]]);
});

it('lets be what was waived for a model, and lists checks in one order', () => {
  const w = inOrder();
  w.state.seats.m0!.cell.fill(0);
  const found = look(w);
  const order = found.map((f) => [...checks.keys()].indexOf(f.check));
  expect(order).toEqual([...order].sort((a, b) => a - b));
  const [bare] = named(found, 'uncolored') as [Finding];
  expect([
    isWaived(bare, [{ check: 'uncolored', model: 'm0', reason: '' }]),
    isWaived(bare, [{ check: 'uncolored', model: 'm1', reason: '' }]),
    isWaived(bare, [{ check: 'unused', model: 'm0', reason: '' }]),
  ]).toEqual([true, false, false]);
});

it('tells colors that run into each other in play, parts them by a step of their ramp, and outlines that vanish', () => {
  // The top of a box hardly differs from its sides; the ramp has a near step and a far one.
  const cells = [
    cell(1, 0, 0, 4, solid('#a04030')),
    cell(2, 4, 0, 4, solid('#a34232')),
    cell(3, 8, 0, 4, solid('#a54333')),
    cell(4, 12, 0, 4, solid('#d08070')),
  ];
  const made = world([box()], cells);
  made.state.kit.sheets[0]!.ramps.push({ id: 'r', name: 'Rust', cells: [2, 3, 4] });
  made.state.seats.m0!.cell.set([1, 1, 1, 2, 1, 1]);
  const settings = { ...proofDefaults, background: '#a24131' };
  const look = (change: object = {}) => {
    const found = prove({
      kit: made.state.kit,
      models: modelsOf(made),
      pictures: new Map(),
      seats: made.state.seats,
      settings: { ...settings, ...change },
      recoloring: noRecoloring,
    });
    return { merging: found.filter((f) => f.check === 'merging'), vanishing: found.filter((f) => f.check === 'vanishing') };
  };
  const { merging, vanishing } = look();
  expect(merging.map((f) => [[...f.faces], f.cells, f.detail])).toEqual([[[3], [2, 1], '96']]);
  // The bottom is seen from nowhere: it is no outline.
  expect(vanishing.map((f) => [[...f.faces], f.cells])).toEqual([
    [
      [0, 1, 3, 4, 5],
      [1, 2],
    ],
  ]);
  expect(look({ background: '#20c0ff' }).vanishing).toEqual([]);
  const edit = repairOf(made.state, merging[0]!, settings, modelsOf(made)[0])!;
  made.state = applyEdit(made.state, edit);
  expect([...made.state.seats.m0!.cell]).toEqual([1, 1, 1, 4, 1, 1]);
  expect(look().merging).toEqual([]);
});

it('tells what a recoloring left behind: a few faces, and texels of other cells', () => {
  const art = cell(3, 0, 8, 8, { kind: 'gradient', axis: 'x', mix: 'srgb', stops: [{ at: 0, color: '#a04030' }, { at: 1, color: '#ffffff' }] }); // prettier-ignore
  const cells = [cell(1, 0, 0, 4, solid('#a04030')), cell(2, 4, 0, 4, solid('#3050a0')), art];
  const made = world([grid(6)], cells);
  const all = Uint32Array.from({ length: 36 }, (_, f) => f);
  const recolor = (faces: Uint32Array, to: number) => {
    const edit = seatFaces('m0', made.state.seats.m0!.cell, faces, to)!;
    made.state = applyEdit(made.state, edit);
    return edit;
  };
  const before = made.state.kit.sheets[0]!.cells[0]!;
  const after = { ...before, fill: solid('#205030') };
  const fill: Edit = { kind: 'put', list: 'cells', of: made.state.kit.sheets[0]!.id, index: 0, before, after };
  const some = group('Color', [recolor(all.slice(0, 20), 2), recolor(all.slice(20, 31), 2)]);
  const leftovers = () => named(look(made, {}, recoloringOf([some, fill])), 'leftover');
  // Five of 36 are more than an eighth of the 31 that were colored anew; four are not.
  expect(leftovers()).toEqual([]);
  const last = recolor(all.slice(31, 32), 2);
  const found = named(look(made, {}, recoloringOf([some, last])), 'leftover');
  expect(found.map((f) => [[...f.faces], f.cells, f.detail])).toEqual([[[32, 33, 34, 35], [1, 2], '32']]);
  made.state = applyEdit(made.state, repairOf(made.state, found[0]!, proofDefaults, modelsOf(made)[0])!);
  expect([...made.state.seats.m0!.cell]).toEqual(Array<number>(36).fill(2));
  expect(named(look(made, {}, recoloringOf([some, last])), 'leftover')).toEqual([]);

  // What is colored there and back again was not given up.
  const back = Array.from({ length: 20 }, (_, i) => recolor(all.slice(0, 1), i % 2 ? 2 : 1));
  expect(recoloringOf(back).faces).toEqual([]);
  expect(recoloringOf(back.slice(1)).faces).toMatchObject([{ from: 1, to: 2, count: 1 }]);

  // The cell's old color is still where the gradient begins, while faces use it.
  made.state = applyEdit(made.state, fill);
  recolor(all.slice(0, 1), 3);
  expect(leftovers().map((f) => [f.sheet, f.count, f.cells, f.detail])).toEqual([
    [made.state.kit.sheets[0]!.id, 8, [3], '#a04030 #205030'],
  ]);
  // Back to what it was, nothing was recolored.
  made.state = applyEdit(made.state, inverseOf(fill));
  expect(named(look(made, {}, recoloringOf([fill, inverseOf(fill)])), 'leftover')).toEqual([]);
});

it('finds after each edit what it finds of a mesh that it never saw', () => {
  const art = (id: number, x: number): Cell => cell(id, x, 8, 8, { kind: 'art', picture: 'none' });
  const cells = [cell(1, 0, 0, 4, solid('#a04030')), cell(2, 4, 0, 4, solid('#a34232')), art(3, 0), art(4, 8)];
  const mesh = grid(4, (x, z) => Math.sin(x * 3 + z));
  const change = fc.record({
    face: fc.nat(15),
    to: fc.constantFrom(0, 1, 2, 3, 4),
    at: fc.double({ min: -0.2, max: 1.2, noNaN: true }),
    settings: fc.record({ mipLevels: fc.nat(3), stretch: fc.constantFrom(1.1, 3), playSize: fc.constantFrom(16, 24) }),
    wide: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(change, { minLength: 2, maxLength: 5 }), (changes) => {
      const made = world([mesh], cells);
      const { cell: on } = made.state.seats.m0!;
      const at = new Float32Array(mesh.cornerVertex.length * 2).fill(0.5);
      made.state.seats.m0!.at = at;
      for (const { face, to, at: place, settings, wide } of changes) {
        on[face] = to;
        for (let c = mesh.faceStart[face]! * 2; c < mesh.faceStart[face + 1]! * 2; c++) at[c] = place + (c % 3) * 0.1;
        made.state.kit.sheets[0]!.cells[2] = { ...art(3, 0), rect: { x: 0, y: 8, w: wide ? 8 : 6, h: 8 } };
        expect(look(made, settings)).toEqual(look({ ...made, meshes: [structuredClone(mesh)] }, settings));
      }
    }),
    { numRuns: 60 },
  );
});

it('lays all mip levels of a raster beside it, each where the graphics card looks for it', () => {
  const data = new Uint8Array(5 * 3 * 4).map((_, i) => (i * 37) % 251);
  const raster: Raster = { width: 5, height: 3, data };
  const atlas = mipAtlas(raster);
  expect([levelsOf(5, 3), levelsOf(1, 8), levelsOf(1, 1), atlas.width, atlas.height]).toEqual([3, 4, 1, 7, 3]);
  const texel = ({ width, data: own }: Raster, x: number, y: number) => [...own.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
  expect(texel(atlas, 4, 2)).toEqual(texel(raster, 4, 2));
  expect([texel(atlas, 5, 0), texel(atlas, 6, 0)]).toEqual([texel(mipOf(raster, 1), 0, 0), texel(mipOf(raster, 1), 1, 0)]);
  expect(texel(atlas, 5, 1)).toEqual(texel(mipOf(raster, 2), 0, 0));
  expect(texel(atlas, 6, 1)).toEqual([0, 0, 0, 0]);
});

it('finds variants in which nothing differs, that are alike, in which colors run together, or that leave faces bare', () => {
  const w = inOrder();
  const { kit } = w.state;
  const said = (check: string) => named(look(w), check).map((f) => [f.detail, f.count]);
  const all = () => (['idle-variant', 'like-variants', 'merging-in-variant', 'bare-in-variant'] as const).map(said);
  const grey = { 1: solid('#888888') };
  const variant = (name: string, fills: Variant['fills'] = {}): Variant => ({ id: name, name, fills });
  kit.variants = [
    variant('Idle', { 1: solid('#a04030') }),
    variant('Salt', grey),
    variant('Gale', grey),
    variant('Fresh', { 2: solid('#3050b0') }),
  ];
  expect(all()).toEqual([[['Idle', 1]], [['Salt, Gale', 2]], [], []]);
  const patch = (...cells: number[]) => byId({ m0: { cell: Uint16Array.from({ length: 6 }, (_, f) => cells[f] ?? inherits) } });
  w.state = { ...w.state, patches: byId({ Gale: patch(2), Idle: patch(inherits, 0, 0) }) };
  expect(all()).toEqual([[], [], [], [['Idle', 2]]]);
  expect([...named(look(w), 'bare-in-variant')[0]!.faces]).toEqual([1, 2]);
  // Differences that the default took over are said still, and differ no more.
  w.state = { ...w.state, patches: byId({ Idle: patch(...w.state.seats.m0!.cell) }) };
  expect(said('idle-variant')).toEqual([['Idle', 1]]);
  // Apart by default, and as good as one in the variant: two cells, and no third.
  kit.variants[3] = variant('Fresh', { 3: solid('#c0b061') });
  expect(named(look(w), 'merging-in-variant').map((f) => [f.detail, f.cells])).toEqual([['Fresh', [3, 4]]]);
});
