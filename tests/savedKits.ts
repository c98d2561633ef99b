import { modelOf } from '@tests/parts';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { byId } from '@/core/ground/byId';
import { emptySeats, type Cell, type KitState, type Placement, type Sheet } from '@/core/kit/kit';
import { inherits } from '@/core/ground/limits';
import { plainLaying } from '@/core/kit/laying/seatRule';
import type { Edit } from '@/core/kit/edit/edit';
import { formatIds, newHandOff, newPart, usualIcon, usualManifest } from '@/core/kit/handOffPlan';
import type { Step } from '@/core/kit/edit/history';
import { seatFaces } from '@/core/kit/edit/seatFaces';
import { addressNow, contentAddress, pack } from '@/core/ground/bytes/pack';
import { newKit } from '@/core/sheet/starter';
import { box } from './meshes';

export const packed = pack(box());
export const address = await contentAddress(packed);

/** A kit with one model of six faces, as it is kept. */
export function someKit(): KitState {
  const kit = newKit('Brindle Skerry');
  const model = modelOf('mBell', 6, kit.sheets[0]!.id, { name: 'Fog bell', mesh: address });
  return { kit: { ...kit, models: [model] }, seats: byId({ mBell: emptySeats(6) }) };
}

/** The numbers of its painted art, and of what a variant has painted otherwise on it. */
export const furArt = '0123456789abcdef0123456789abcdef';
export const furOfFresh = 'fedcba9876543210fedcba9876543210';

/** The same with something in each list of its document, and painted art. */
export function fullKit(): KitState {
  const { kit, seats } = someKit();
  const [sheet] = kit.sheets as [Sheet];
  const [first, second, third] = sheet.cells.map((c) => c.id) as [number, number, number];
  const stand = (id: string, name: string): Placement => ({
    id,
    name,
    model: 'mBell',
    variant: 'vSalt',
    at: [1, 0, 2],
    turn: 30,
    scale: 1,
  });
  const fur: Cell = { id: kit.nextCell, rect: { x: sheet.width, y: 0, w: 3, h: 2 }, role: 'fur', fill: { kind: 'art', picture: furArt, painted: true } }; // prettier-ignore
  return {
    pixels: byId({
      [furArt]: { width: 3, height: 2, cells: Uint16Array.of(first, second, 0, third, first, 0) },
      [furOfFresh]: { width: 3, height: 2, cells: Uint16Array.of(inherits, third, inherits, 0, inherits, inherits) },
    }),
    kit: {
      ...kit,
      nextCell: kit.nextCell + 1,
      sheets: [{ ...sheet, width: sheet.width + 3, cells: [...sheet.cells, fur] }],
      models: [
        {
          ...kit.models[0]!,
          regions: [{ id: 1, name: 'lip', cell: first, locked: true }],
          slots: [{ number: 0, name: 'bronze', cell: second, named: true }],
          seams: [1, 3],
          picks: [{ id: 1, name: 'rim', spans: [0, 2, 4, 1], pattern: { kind: 'noise', cell: second, within: 2, seed: 7 } }],
          rules: [{ id: 1, along: plainLaying }],
        },
      ],
      variants: [
        {
          id: 'vFresh',
          name: 'Fresh',
          fills: { [fur.id]: { kind: 'art', picture: furOfFresh, painted: true } },
          rules: [{ kind: 'shift', lightness: 0.1, strength: 1, hue: 0, except: [third] }],
        },
        {
          ...{ id: 'vSalt', name: 'Salt-worn', model: 'mBell', fills: { [first]: { kind: 'solid', color: '#8899aa' } } },
          rules: [{ kind: 'exchange', cells: { [second]: third }, only: sheet.ramps.slice(0, 1).map((r) => r.id) }],
        },
      ],
      placements: [stand('oBell', 'Bell'), stand('oOther', 'Other bell')],
      cues: [
        { id: 'qRing', name: 'Ring', when: { kind: 'click', placement: 'oBell' }, who: { placement: 'oOther' }, does: { kind: 'next' } },
        {
          id: 'qThen',
          name: 'Then',
          when: { kind: 'cue', cue: 'qRing' },
          who: { model: 'mBell' },
          does: { kind: 'show', coloring: 'vSalt' },
        },
      ],
      allowed: { name: 'Tide', colors: ['#102030'] },
      proof: { mipLevels: 2, stretch: 2, materials: 2, waived: [{ check: 'twins', model: 'mBell', reason: 'meant so' }] },
      motifs: [{ id: 'mScales', name: 'scales', rows: ['+0', '-0'], shift: 1 }],
      startsWith: 'vFresh',
    },
    seats,
    patches: byId({ vSalt: byId({ mBell: { cell: Uint16Array.of(second, inherits, inherits, 0, inherits, inherits) } }) }),
  };
}

/** The same with a plan that writes a file of every format, a manifest and an icon. */
export const withPlan = ({ kit, ...state }: KitState): KitState => ({
  ...state,
  kit: {
    ...kit,
    handOffs: [
      {
        ...newHandOff('hAll', 'All of it'),
        parts: formatIds.map((f) => newPart(f)),
        manifest: usualManifest,
        icon: { ...usualIcon, size: 16 },
      },
    ],
  },
});

/** The entries of an archive without its sums, to be changed. */
export function unsealed(bytes: Uint8Array): Record<string, Uint8Array> {
  const { 'sums.json': _, ...entries } = unzipSync(bytes);
  return entries;
}

/** Entries as an archive with sums that fit, so that it is what they say that is looked at. */
export function sealed(entries: Record<string, Uint8Array>): Uint8Array {
  const sums = Object.entries(entries).map(([name, bytes]) => [name, name.startsWith('blobs/') ? name.slice(6, -4) : addressNow(bytes)]);
  return zipSync({ ...entries, 'sums.json': strToU8(JSON.stringify(Object.fromEntries(sums))) });
}

export const plain = ({ kit, seats, patches, pixels }: KitState) => ({
  kit,
  patches,
  pixels,
  seats: byId(Object.entries(seats).map(([id, s]) => [id, [...s.cell]])),
});
/** An edit that colors one face of it. */
export const colorFace = (step: Step, face: number, cell: number): Edit =>
  seatFaces('mBell', step.state.seats.mBell!.cell, Uint32Array.of(face), cell)!;
