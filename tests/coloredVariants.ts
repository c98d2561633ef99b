// Two models and two variants, acts of coloring for them, and what is seen of them.
import { gradientOf, modelOf } from '@tests/parts';
import { byId } from '@/core/ground/byId';
import type { Hex } from '@/core/ground/color/hex';
import type { SeatRule } from '@/core/kit/laying/seatRule';
import { group, type Edit } from '@/core/kit/edit/edit';
import { copySeats, emptySeats, isTextured, type ColoringRule, type KitState, type Model, type Sheet, type Variant } from '@/core/kit/kit';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { layoutUvs } from '@/core/faces/seat/layout';
import { rasterSheet } from '@/core/sheet/raster';
import { copyPatches } from '@/core/kit/patches';
import { placeFaces } from '@/core/faces/seat/placeFaces';
import { ruleEdit, seatFaces, spansOf } from '@/core/kit/edit/seatFaces';
import { editCell } from '@/core/sheet/cells';
import { newColor } from '@/core/sheet/newColor';
import { newKit } from '@/core/sheet/starter';
import { stateOfVariant } from '@/core/kit/colorings/shown';

export const faces = 16;
export const faceStart = Uint32Array.from({ length: faces + 1 }, (_, f) => f * 4);
export const starts = () => faceStart;
export const gradient = (color: Hex) => gradientOf('x', '#102030', color);
export const gradientCell = 15;

/** Two models, two variants; cell 15 is a gradient. */
export function start(): KitState {
  const kit = newKit('Skerry');
  const sheet = kit.sheets[0]!;
  sheet.cells[gradientCell - 1]!.fill = gradient('#e0d0c0');
  const along: SeatRule['along'] = { rule: 'height', start: 0, end: 1, repeat: 1, offset: 0, tone: 'smooth', bands: 4, over: 'pick', screenUp: [0, 1, 0] }; // prettier-ignore
  const model = (id: string) => modelOf(id, faces, sheet.id, { rules: [1, 2].map((n) => ({ id: n, along })) });
  const rules: ColoringRule[] = [
    { kind: 'exchange', cells: { 1: 4, 2: 5, 3: 6, 4: 1, 5: 2, 6: 3 } },
    { kind: 'shift', lightness: -0.05, strength: 0.8, hue: 10 },
  ];
  const variant = (id: string): Variant => ({ id, name: id, fills: {} });
  const seats = byId({ tower: emptySeats(faces), buoy: emptySeats(faces) });
  seats.tower.cell.fill(1);
  seats.buoy.cell.fill(2);
  return { kit: { ...kit, models: [model('tower'), model('buoy')], variants: [variant('salt'), { ...variant('fresh'), rules }] }, seats };
}

/** What is seen of each face: its fill and, where that differs from place to place, where on it its corners lie. */
export function looks({ kit, seats }: KitState): string {
  const fills = new Map(kit.sheets.flatMap((s) => s.cells.map((c) => [c.id, c.fill] as const)));
  return JSON.stringify(
    Object.entries(seats)
      .sort()
      .map(([id, { cell, at, rule }]) => [
        id,
        ...Array.from(cell, (c, f) => {
          const fill = fills.get(c);
          return fill && isTextured(fill)
            ? [fill, rule?.[f] ?? 0, ...Array.from({ length: 8 }, (_, i) => at?.[f * 8 + i] ?? 0.5)]
            : (fill ?? null);
        }),
      ]),
  );
}
/** The texel that each corner of each face shows, nearest, as colors; none on faces without a color. */
export function texelsOf({ kit, seats }: KitState): string {
  const [sheet] = kit.sheets as [Sheet];
  const { width, height, data } = rasterSheet(sheet);
  const mesh = { faceStart, cornerVertex: new Uint32Array(faces * 4) } as PolyMesh;
  const bare = new Float32Array(faces * 8).fill(NaN);
  return JSON.stringify(
    Object.entries(seats).map(([, own]) => {
      const uvs = layoutUvs(mesh, own, sheet, bare);
      return Array.from({ length: faces * 4 }, (_, c) => {
        const [u, v] = [uvs[c * 2]!, uvs[c * 2 + 1]!];
        if (Number.isNaN(u)) return null;
        const at = 4 * (Math.min(height - 1, Math.floor(v * height)) * width + Math.min(width - 1, Math.floor(u * width)));
        return [...data.subarray(at, at + 4)];
      });
    }),
  );
}
export const texelsInAll = (state: KitState) =>
  [null, ...state.kit.variants.map((v) => v.id)].map((v) => texelsOf(stateOfVariant(state, v)));
export const inAll = (state: KitState) => [null, ...state.kit.variants.map((v) => v.id)].map((v) => looks(stateOfVariant(state, v)));
/** A state whose arrays nothing else writes. */
export const apart = ({ kit, seats, patches }: KitState): KitState => ({
  kit,
  seats: byId(Object.entries(seats).map(([id, s]) => [id, copySeats(s)])),
  ...(patches && { patches: byId(Object.entries(patches).map(([id, p]) => [id, copyPatches(p)])) }),
});

/** Acts of coloring, made for a kit as it is shown. */
export const acts: ((shown: KitState, n: number) => Edit | null)[] = [
  ({ seats }, n) => seatFaces('tower', seats.tower!.cell, Uint32Array.of(n % faces, (n + 1) % faces), [1, 2, 3, gradientCell][n % 4]!),
  ({ seats }, n) => seatFaces('buoy', seats.buoy!.cell, Uint32Array.of(n % faces), n % 2 ? 0 : gradientCell),
  ({ seats }, n) => placeFaces('tower', seats.tower!, faceStart, Uint32Array.of(n % faces), [(n % 8) / 8, 0.5]),
  ({ seats }, n) => ruleEdit('tower', seats.tower!, Uint32Array.of(n % faces), n % 3),
  ({ kit: { sheets } }, n) => editCell(sheets[0]!, 1 + (n % 3), { fill: { kind: 'solid', color: n % 2 ? '#445566' : '#cc8844' } }),
  ({ kit: { sheets } }, n) => editCell(sheets[0]!, gradientCell, { fill: gradient(n % 2 ? '#ffffff' : '#e0d0c0'), role: `sky ${n % 3}` }),
  (shown, n) => {
    const made = newColor(shown, { sheet: shown.kit.sheets[0]!.id, color: '#abcdef', role: 'new', beside: 1 });
    const seated = seatFaces('tower', shown.seats.tower!.cell, Uint32Array.of(n % faces), made.cell)!;
    return group('New color', [made.edit, seated]);
  },
  ({ kit, seats }, n) => {
    const [tower] = kit.models as [Model];
    const named = { ...tower, regions: [...tower.regions, { id: tower.regions.length + 1, name: `${n}`, cell: 2 }] };
    const face = Uint32Array.of(n % faces);
    return group('Color and name', [
      { kind: 'put', list: 'models', of: 'kit', index: 0, before: tower, after: named },
      { kind: 'region', model: 'tower', spans: spansOf(seats.tower!.region, face, named.regions.length) },
      ...[seatFaces('tower', seats.tower!.cell, face, 2)].filter((e) => e !== null),
    ]);
  },
];
