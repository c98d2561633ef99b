import { expect, it } from 'vitest';
import { grid } from '@tests/meshes';
import { emptySeats, solid, type Cell, type Fill, type Kit, type KitState, type Model, type Sheet } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { newKit } from '../../sheet/starter';
import type { Raster } from '../../ground/pictures/raster';
import { colorsOfCorners } from './colorsOfCorners';
import { colorsOfFaces } from './colorsOfFaces';
import { lineLike } from '../../kit/laying/gradientRules';
import { moveFaces } from '../../sheet/moveFaces';

const gradient: Fill = { kind: 'gradient', axis: 'x', mix: 'srgb', stops: [{ at: 0, color: '#000000' }, { at: 1, color: '#ff0000' }] }; // prettier-ignore

/** A kit of two sheets of cells of 4 × 4 texels side by side; their numbers run on over both. */
function kitOf(...lists: Fill[][]): Kit {
  const kit = newKit('Skerry');
  let id = 0;
  const sheets = lists.map((fills, s): Sheet => {
    const cells = fills.map((fill, i): Cell => ({ id: ++id, rect: { x: i * 4, y: 0, w: 4, h: 4 }, role: '', fill }));
    return { ...kit.sheets[0]!, id: `s${s}`, width: 16, height: 4, padding: 0, cells, ramps: [] };
  });
  return { ...kit, sheets };
}

it('each corner has the color of its texel, of its cell, or the one that it came with', () => {
  // Four by four texels, each of its own color; half of them half seen through.
  const picture: Raster = {
    width: 4,
    height: 4,
    data: Uint8Array.from({ length: 64 }, (_, i) => (i % 4 === 3 ? (i < 32 ? 255 : 128) : i * 3)),
  };
  const kit = kitOf([gradient, { ...solid('#102030'), alpha: 0.4 } as Fill], [{ kind: 'art', picture: 'a' }, { kind: 'spare' }]);
  const at = new Float32Array(72).fill(0.5);
  const places = [[0, 0], [1, 1], [0.3, 0.9], [0.55, 0.2]]; // prettier-ignore
  at.set(places.flat(), 0);
  at.set(places.flat(), 16);
  const slot = { name: 'tar', color: '#405060', given: true };
  const made = {
    ...grid(3),
    slots: [slot, { ...slot, color: '#708090', alpha: 0.2 }],
    faceSlot: Uint16Array.of(0, 0, 0, 1, 0, 0, 0, 0, 0),
  };
  const seats = { ...emptySeats(9), cell: Uint16Array.of(1, 2, 3, 0, 0, 2, 1, 2, 77), at };
  const pictures = new Map([['a', picture]]);
  const shown = colorsOfCorners(kit, made, seats, pictures);
  const corner = (c: number) => [...shown.subarray(c * 4, c * 4 + 4)];
  // Texels of a gradient over four: its ends at the middles of the first and the last.
  expect([0, 1, 2, 3].map(corner)).toEqual([0, 255, 85, 170].map((r) => [expect.closeTo(r, -0.4), 0, 0, 255]));
  expect([4, 7].map(corner)).toEqual([[16, 32, 48, 102], [16, 32, 48, 102]]); // prettier-ignore
  const texel = (x: number, y: number) => [...picture.data.subarray((y * 4 + x) * 4, (y * 4 + x) * 4 + 4)];
  expect([8, 9, 10, 11].map(corner)).toEqual([texel(0, 0), texel(3, 3), texel(1, 3), texel(2, 0)]);
  expect([12, 15, 16, 32].map(corner)).toEqual([[112, 128, 144, 51], [112, 128, 144, 51], [64, 80, 96, 255], [64, 80, 96, 255]]); // prettier-ignore
  // Vertex colors come before the material.
  const cornerColors = Uint8Array.from({ length: 144 }, (_, i) => i + 7);
  const colored = colorsOfCorners(kit, { ...made, cornerColors }, seats, pictures);
  expect([...colored.subarray(13 * 4, 13 * 4 + 4)]).toEqual([59, 60, 61, 62]);
  expect([...colored.subarray(0, 48)]).toEqual([...shown.subarray(0, 48)]);
  // A face that is pressed to the far corner of art shows that, not the cell behind it.
  const pressed = { ...seats, at: at.map((v, i) => (i >= 16 && i < 24 ? 1 : v)) };
  expect([...colorsOfFaces(kit, made, pressed, pictures).subarray(8, 11)]).toEqual(texel(3, 3).slice(0, 3));
  // Art without its picture shows what stands for it; nothing of it fails.
  expect(colorsOfCorners(kit, made, seats, new Map())[8 * 4 + 3]).toBe(255);
});

it('faces move to another cell in every variant that says so, with its corners kept', () => {
  const kit = {
    ...kitOf([solid('#111111'), solid('#222222'), solid('#333333')]),
    variants: ['fog', 'salt', 'rain'].map((id) => ({ id, name: id })),
  };
  const model = (id: string) => ({ id, name: id, sheet: 's0', faces: 4, regions: [], slots: [], seams: [] }) as unknown as Model;
  const state = {
    kit: { ...kit, models: [model('buoy'), model('mast')] },
    seats: { buoy: { ...emptySeats(4), cell: Uint16Array.of(1, 2, 3, 2) }, mast: { ...emptySeats(4), cell: Uint16Array.of(1, 1, 1, 1) } },
    patches: {
      fog: {
        buoy: { cell: Uint16Array.of(65535, 65535, 2, 2), at: new Float32Array(32) },
        mast: { cell: Uint16Array.of(2, 65535, 1, 65535) },
      },
      salt: { buoy: { cell: Uint16Array.of(65535, 1, 1, 65535) } },
    },
  } as unknown as KitState;
  const none = { rules: new Uint32Array(), corners: new Uint32Array(), before: new Float32Array(), after: new Float32Array() };
  expect(moveFaces(state, new Map([[2, 3]]))).toEqual([
    { kind: 'seat', model: 'buoy', spans: Uint32Array.of(1, 1, 2, 3, 3, 1, 2, 3) },
    { kind: 'patch', variant: 'fog', model: 'buoy', cornerCount: 16, cells: Uint32Array.of(2, 2, 2, 3), ...none },
    { kind: 'patch', variant: 'fog', model: 'mast', cornerCount: 0, cells: Uint32Array.of(0, 1, 2, 3), ...none },
  ]);
});

it('a line that runs as a rule does goes through the middle of the faces, from their first corner to their last', () => {
  const mesh = grid(4, (x) => x * 0.5 + 7);
  const context = { mesh, adjacency: adjacencyOf(mesh), faces: Uint32Array.of(5, 6, 9, 10), screenUp: [0.48, 0.6, 0.64] as const };
  // Corners from 1 to 3 along x and z, 7.5 to 8.5 up; the middle is 2, 8, 2.
  const ends = (rule: Parameters<typeof lineLike>[0]) => lineLike(rule, context).map((p) => p.map((v) => Math.round(v * 1e4) / 1e4));
  expect([ends('height'), ends('width'), ends('depth'), ends('facing')]).toEqual([
    [[2, 7.5, 2], [2, 8.5, 2]], [[1, 8, 2], [3, 8, 2]], [[2, 8, 1], [2, 8, 3]], [[2, 7.5, 2], [2, 8.5, 2]]]); // prettier-ignore
  // Up on the screen the corners reach 0.48 + 0.3 + 0.64 either way of it.
  expect(ends('view')).toEqual([-1.42, 1.42].map((t) => [2 + t * 0.48, 8 + t * 0.6, 2 + t * 0.64].map((v) => Math.round(v * 1e4) / 1e4)));
});
