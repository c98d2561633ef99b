import { gradientOf } from '@tests/parts';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { box, grid } from '@tests/meshes';
import { cell, inOrder, look, modelsOf, named, solid, world } from '@tests/proofWorld';
import type { Raster } from '../../ground/pictures/raster';
import { group, type Edit } from '../../kit/edit/edit';
import { applyEdit } from '../../kit/edit/editKinds';
import { seatFaces } from '../../kit/edit/seatFaces';
import type { Cell } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { meshFromLists } from '../../shapes/mesh/build';
import { boundsOf } from '../../shapes/mesh/measure';
import { triangulate } from '../../shapes/mesh/triangulate';
import { rasterFaces, rasterInputOf } from '../../shapes/view/rasterFaces';
import { framingMatrix } from '../../shapes/view/thumbnail';
import { bordersInView, nothing } from './bordersInView';
import { repairFor } from './checks';
import { exactnessFor, isWaived, proofDefaults, type Finding } from './finding';
import { mipAtlas, mipOf, sample } from './mips';
import { recoloringOf } from './recoloring';

const repair = (w: ReturnType<typeof world>, found: Finding, settings = {}) =>
  repairFor(found)!.edit(
    w.state,
    found,
    { ...proofDefaults, ...settings },
    modelsOf(w).find((m) => m.model.id === found.model),
  );

it('makes mip levels and samples as they are defined, for any picture', () => {
  const picture = fc
    .record({ width: fc.integer({ min: 1, max: 6 }), height: fc.integer({ min: 1, max: 6 }), seed: fc.nat(250) })
    .map(({ width, height, seed }): Raster => ({
      width,
      height,
      data: Uint8Array.from({ length: width * height * 4 }, (_, i) => (i * 53 + seed * 17) % 256),
    }));
  const place = fc.double({ min: -0.2, max: 1.2, noNaN: true });
  fc.assert(
    fc.property(picture, place, place, (own, u, v) => {
      const { width, height } = own;
      const at = ({ width: w, height: h, data }: Raster, x: number, y: number, k: number) =>
        data[(Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))) * 4 + k]!;
      const next = mipOf(own, 1);
      const isOne = width === 1 && height === 1;
      expect([next.width, next.height]).toEqual(isOne ? [1, 1] : [Math.max(1, width >> 1), Math.max(1, height >> 1)]);
      if (!isOne)
        expect([...next.data]).toEqual(
          Array.from({ length: next.width * next.height * 4 }, (_, i) => {
            const [k, x, y] = [i % 4, (i >> 2) % next.width, Math.floor((i >> 2) / next.width)];
            return Math.round([0, 1, 2, 3].reduce((sum, n) => sum + at(own, x * 2 + (n & 1), y * 2 + (n >> 1), k), 0) / 4);
          }),
        );
      expect(mipOf(mipOf(own, 1), 1)).toEqual(mipOf(own, 2));
      expect(mipOf(own, 3)).toEqual(mipOf(own, 9));
      expect(sample(own, u, v, 'nearest')).toEqual([0, 1, 2].map((k) => at(own, Math.floor(u * width), Math.floor(v * height), k)));
      const [x, y] = [u * width - 0.5, v * height - 0.5];
      const weight = (p: number, t: number) => Math.max(0, 1 - Math.abs(p - t));
      const mixed = [0, 1, 2].map((k) => {
        let sum = 0;
        for (let j = Math.floor(y); j <= Math.floor(y) + 1; j++)
          for (let i = Math.floor(x); i <= Math.floor(x) + 1; i++) sum += at(own, i, j, k) * weight(i, x) * weight(j, y);
        return expect.closeTo(sum, 6) as number;
      });
      expect(sample(own, u, v, 'linear')).toEqual(mixed);
      const atlas = mipAtlas(own);
      expect(atlas.width).toBe(width + (isOne ? 0 : Math.max(1, width >> 1)));
      let below = 0;
      for (let n = 1, level = mipOf(own, 1); !isOne && n < 4; n++, level = mipOf(own, n)) {
        expect([...atlas.data.subarray((below * atlas.width + width) * 4, (below * atlas.width + width + level.width) * 4)]).toEqual([
          ...level.data.subarray(0, level.width * 4),
        ]);
        below += level.height;
        if (level.width === 1 && level.height === 1) break;
      }
      expect(atlas.height).toBe(Math.max(height, below));
    }),
    { numRuns: 200 },
  );
});

it('counts along how many pixels faces are seen side by side, over eight directions, each pair once', () => {
  const mesh = grid(2, (x, z) => x * 0.4 - z * 0.2);
  const size = 24;
  const { first, second, pixels } = bordersInView(mesh, size);
  const wanted = new Map<string, number>();
  const input = rasterInputOf(mesh, triangulate(mesh, adjacencyOf(mesh).normals));
  for (let d = 0; d < 8; d++) {
    const from = [Math.sin((d * Math.PI) / 4), 0.5, Math.cos((d * Math.PI) / 4)];
    const { faces } = rasterFaces(input, framingMatrix(boundsOf(mesh), 1.12, from), size, size);
    const at = (x: number, y: number) => faces[y * size + x]!;
    const meet = (a: number, b: number) => {
      const key = `${Math.max(a, b)} ${Math.min(a, b)}`;
      if (a !== b) wanted.set(key, (wanted.get(key) ?? 0) + 1);
    };
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        if (x < size - 1) meet(at(x, y), at(x + 1, y));
        if (y < size - 1) meet(at(x, y), at(x, y + 1));
      }
  }
  const found = new Map([...first].map((f, i) => [`${f} ${second[i] === nothing ? -1 : second[i]}`, pixels[i]]));
  expect([...found].sort()).toEqual([...wanted].sort());
  expect(wanted.size).toBeGreaterThan(6);
  // Kept for the last size asked for alone.
  expect(bordersInView(mesh, size)).toBe(bordersInView(mesh, size));
  expect(bordersInView(mesh, 12).pixels.reduce((a, b) => a + b)).toBeLessThan(pixels.reduce((a, b) => a + b));
});

it('tells of colors that run together the longest borders first, six of a model, on the side of fewer faces', () => {
  // Ten like colors in strips of a floor, each as broad as it is long; the last strip is of one face.
  const cells = Array.from({ length: 9 }, (_, i) => cell(i + 1, (i % 4) * 4, Math.floor(i / 4) * 4, 4, solid(`#a0403${i}`)));
  const w = world([grid(9)], cells);
  w.state.seats.m0!.cell.set(Array.from({ length: 81 }, (_, f) => 1 + Math.floor(f / 9)));
  w.state.seats.m0!.cell.set([5, 5, 5], 36 - 3);
  const merging = named(look(w), 'merging');
  expect(merging).toHaveLength(6);
  const lengths = new Map<string, number>();
  const { first, second, pixels } = bordersInView(w.meshes[0]!, 96);
  first.forEach((f, i) => {
    if (second[i] === nothing) return;
    const [p, q] = [w.state.seats.m0!.cell[f]!, w.state.seats.m0!.cell[second[i]!]!];
    const key = [Math.min(p, q), Math.max(p, q)].join();
    if (p !== q) lengths.set(key, (lengths.get(key) ?? 0) + pixels[i]!);
  });
  const told = merging.map((f) => [...f.cells].sort((a, b) => a - b).join());
  const ranked = [...lengths].filter(([, n]) => n >= 16).sort((a, b) => b[1] - a[1]);
  expect(told.map((key) => lengths.get(key))).toEqual(ranked.slice(0, 6).map(([, n]) => n));
  // What has fewer faces is told, all of it.
  const on = (id: number) => [...w.state.seats.m0!.cell.keys()].filter((f) => w.state.seats.m0!.cell[f] === id);
  for (const { cells: pair, faces } of merging) {
    expect([...faces]).toEqual(on(pair[0]!));
    expect(on(pair[0]!).length).toBeLessThanOrEqual(on(pair[1]!).length);
  }
  // A border shorter than a sixth of the size is none.
  w.state.seats.m0!.cell.fill(1);
  w.state.seats.m0!.cell[40] = 2;
  const short = bordersInView(w.meshes[0]!, 96);
  const n = [...short.first].reduce(
    (sum, f, i) => sum + ((f === 40) !== (short.second[i] === 40) && short.second[i] !== nothing ? short.pixels[i]! : 0),
    0,
  );
  expect(named(look(w), 'merging').length).toBe(n >= 16 ? 1 : 0);
});

it('parts two colors by the nearest step that is told apart, either way along the ramp, and leaves locked faces', () => {
  const colors = ['#301008', '#a04030', '#a24232', '#a34333', '#e0a090'];
  const w = world(
    [box()],
    colors.map((c, i) => cell(i + 1, (i % 4) * 4, Math.floor(i / 4) * 4, 4, solid(c))),
  );
  const [sheet] = w.state.kit.sheets;
  sheet!.ramps.push({ id: 's', name: 'Other', cells: [2] }, { id: 'r', name: 'Rust', cells: [1, 4, 3, 5] });
  w.state.seats.m0!.cell.set([2, 2, 2, 3, 3, 2]);
  const found = named(look(w), 'merging')[0]!;
  expect([found.cells, [...found.faces]]).toEqual([
    [3, 2],
    [3, 4],
  ]);
  // From the third step the fifth is one away, the first two.
  expect([...applyEdit(w.state, repair(w, found)!).seats.m0!.cell]).toEqual([2, 2, 2, 5, 5, 2]);
  w.state.seats.m0!.cell.set([3, 3], 3);
  sheet!.ramps[1]!.cells = [1, 3, 4, 5];
  expect([...applyEdit(w.state, repair(w, found)!).seats.m0!.cell]).toEqual([2, 2, 2, 1, 1, 2]);
  w.state.seats.m0!.cell.set([3, 3], 3);
  sheet!.ramps[1]!.cells = [4, 3];
  expect(() => repair(w, found)).toThrow('Its ramp has no step');
  sheet!.ramps[1]!.cells = [3, 5];
  w.state.kit.models[0]!.regions = [{ id: 1, name: 'lid', cell: 0, locked: true }];
  w.state.seats.m0!.region.fill(1);
  expect(repair(w, found)).toBeNull();
  w.state.seats.m0!.region[4] = 0;
  expect([...applyEdit(w.state, repair(w, found)!).seats.m0!.cell]).toEqual([2, 2, 2, 3, 5, 2]);
});

it('knows what was colored anew: of solid cells by their first color, of faces that had one and have one', () => {
  const put = (before: Cell | null, after: Cell | null): Edit => ({ kind: 'put', list: 'cells', of: 's', index: 0, before, after });
  const [a, b] = [cell(1, 0, 0, 4, solid('#a04030')), cell(1, 0, 0, 4, solid('#205030'))];
  const spare = cell(1, 0, 0, 4, { kind: 'spare' });
  const fade = cell(1, 0, 0, 4, gradientOf('x', '#a04030', '#ffffff', 'srgb'));
  const fills = (...edits: Edit[]) => recoloringOf(edits).fills;
  expect(fills(put(a, b))).toEqual([{ cell: 1, from: '#a04030', to: '#205030' }]);
  for (const [before, after] of [
    [null, a],
    [a, null],
    [a, spare],
    [spare, a],
    [fade, a],
    [a, fade],
    [a, { ...a, role: 'rust' }],
  ] as const)
    // prettier-ignore
    expect(fills(put(before, after))).toEqual([]);
  const other = cell(1, 0, 0, 4, solid('#102030'));
  expect(fills(put(a, b), group('Tune', [put(b, other)]))).toEqual([{ cell: 1, from: '#a04030', to: '#102030' }]);
  expect(fills(put(a, b), put(b, a))).toEqual([]);
  expect(fills({ kind: 'put', list: 'ramps', of: 's', index: 0, before: null, after: { id: 'r', name: 'r', cells: [] } })).toEqual([]);
  const seated = (cells: number[], faces: number[], to: number) =>
    recoloringOf([seatFaces('m', Uint16Array.from(cells), Uint32Array.from(faces), to)!]).faces;
  expect(seated([1, 1, 0, 3, 1], [0, 1, 2, 3, 4], 2)).toEqual([
    { model: 'm', from: 1, to: 2, count: 3 },
    { model: 'm', from: 3, to: 2, count: 1 },
  ]);
  expect(seated([1, 1], [0, 1], 0)).toEqual([]);
  expect(seated([65535, 1], [0], 65534)).toEqual([{ model: 'm', from: 65535, to: 65534, count: 1 }]);
});

it('finds texels of an old color in other cells, all three channels of it, while faces use them', () => {
  const size = 4;
  const texels = [
    [160, 64, 48], [160, 64, 49], [160, 65, 48], [161, 64, 48],
    [160, 64, 48], [0, 64, 48], [160, 0, 48], [160, 64, 0],
    ...Array.from({ length: 7 }, () => [9, 9, 9]), [160, 64, 48],
  ]; // prettier-ignore
  const raster = { width: size, height: size, data: Uint8Array.from(texels.flatMap((t) => [...t, 255])) };
  const cells = [cell(1, 0, 0, 4, solid('#205030')), cell(2, 4, 0, 4, solid('#a04030')), cell(3, 8, 4, 4, { kind: 'art', picture: 'p' })];
  const w = world([box()], cells);
  w.state.seats.m0!.cell.set([1, 1, 3, 3, 1, 1]);
  const anew = { faces: [], fills: [{ cell: 1, from: '#a04030', to: '#205030' }] };
  const left = (fills = anew) => named(look(w, {}, fills, new Map([['p', raster]])), 'leftover').map((f) => [f.count, f.cells, f.sheet]);
  const { id } = w.state.kit.sheets[0]!;
  expect(left()).toEqual([[3, [3], id]]);
  w.state.seats.m0!.cell.set([2], 0);
  expect(left()).toEqual([[3 + 16, [2, 3], id]]);
  // A cell that is of that color again gave nothing up; one that is gone says nothing.
  expect(left({ faces: [], fills: [{ cell: 2, from: '#a04030', to: '#205030' }] })).toEqual([]);
  expect(left({ faces: [], fills: [{ cell: 9, from: '#a04030', to: '#205030' }] })).toEqual([]);
  w.state.seats.m0!.cell.set([1, 1, 1, 1], 0);
  expect(left()).toEqual([]);
});

it('finds parts apart along any axis by more than a fiftieth of the model, and not among very many', () => {
  const triangle = (x: number, y: number, z: number) => [x, y, z, x + 1, y, z, x, y + 1, z + 1];
  const made = (...at: [number, number, number][]) =>
    meshFromLists({ positions: at.flatMap((p) => triangle(...p)), faces: at.map((_, i) => [i * 3, i * 3 + 1, i * 3 + 2]) });
  const lone = (...at: [number, number, number][]) => {
    const found = named(look(world([made(...at)], [cell(1, 0, 0, 16, solid('#a04030'))])), 'lone-part');
    return found.flatMap((f) => [...f.faces]);
  };
  // A row of 10.45 metres: what is 0.2 away is near, what is 0.22 away is not.
  const row = Array.from({ length: 10 }, (_, i): [number, number, number] => [i * 1.05, 0, 0]);
  expect(lone(...row, [0, 1.2, 0])).toEqual([]);
  expect(lone(...row, [0, 1.22, 0])).toEqual([10]);
  expect(lone(...row, [0, -1.22, 0])).toEqual([10]);
  expect(lone(...row, [0, 0, 1.22])).toEqual([10]);
  expect(lone(...row, [0, 0, -1.22])).toEqual([10]);
  expect(lone(...row, [10.8, 0, 0])).toEqual([10]);
  expect(lone(...row.map(([x]): [number, number, number] => [0, 0, x]), [1.3, 0, 0])).toEqual([10]);
  expect(lone([0, 0, 0])).toEqual([]);
});

it('mirrors a color only where most of a model is mirrored, and onto no locked face', () => {
  // The far half of a box, and more beside it that nothing mirrors.
  const bare = () => {
    const w = inOrder();
    w.state.seats.m0!.cell[5] = 0;
    return w;
  };
  const w = bare();
  const found = named(look(w), 'half-colored')[0]!;
  w.state.kit.models[0]!.regions = [{ id: 1, name: 'lid', cell: 0, locked: true }];
  w.state.seats.m0!.region[5] = 1;
  expect(repair(w, found)).toBeNull();
  w.state.seats.m0!.cell.fill(0);
  expect(named(look(w), 'half-colored')).toEqual([]);
  const crooked = grid(3, (x, z) => Math.sin(x * 2 + z * 5));
  const odd = world([crooked], [cell(1, 0, 0, 16, solid('#a04030'))]);
  odd.state.seats.m0!.cell[0] = 0;
  expect(named(look(odd), 'half-colored')).toEqual([]);
});

it('asks of solid colors what can be kept, and lets be what any waiver names', () => {
  expect([0, 1, 2, 3].map((mipLevels) => exactnessFor({ ...proofDefaults, mipLevels }))).toEqual([0, 1, 2, 2]);
  const found = { check: 'stretched', model: 'm', count: 1, faces: new Uint32Array(1), cells: [] };
  expect(
    isWaived(found, [
      { check: 'unused', reason: '' },
      { check: 'stretched', model: 'm', reason: '' },
    ]),
  ).toBe(true);
  expect([isWaived(found, []), isWaived(found, [{ check: 'stretched', reason: '' }])]).toEqual([false, false]);
});

it('tells at most eight pairs of twins, leaves a frozen sheet its size, and keeps of twins the color with most faces', () => {
  const cells = Array.from({ length: 12 }, (_, i) =>
    cell(i + 1, (i % 4) * 4, Math.floor(i / 4) * 4, 4, solid(`#a040${(48 + i).toString(16)}`)),
  );
  const w = world([grid(4)], cells);
  w.state.seats.m0!.cell.set(Array.from({ length: 16 }, (_, i) => 1 + (i % 12)));
  const twins = named(look(w), 'twins');
  expect(twins).toHaveLength(8);
  for (const keep of [0, 1]) {
    const [few, many] = [twins[0]!.cells[1 - keep]!, twins[0]!.cells[keep]!];
    w.state.seats.m0!.cell.fill(many);
    w.state.seats.m0!.cell[0] = few;
    const after = applyEdit(w.state, repair(w, twins[0]!)!);
    expect([after.seats.m0!.cell[0], after.kit.sheets[0]!.cells.find((c) => c.id === many)?.fill.kind]).toEqual([many, 'solid']);
  }
  const large = world([box()], [cell(1, 0, 0, 4, solid('#a04030'))], 64);
  expect(named(look(large), 'too-large')).toHaveLength(1);
  large.state.kit.sheets[0]!.frozen = { picture: 'p' };
  expect(named(look(large), 'too-large')).toEqual([]);
});
