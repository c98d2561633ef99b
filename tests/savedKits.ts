import { emptySeats, type KitState, type Model } from '@/core/kit/kit';
import type { Edit } from '@/core/edit/edit';
import { formatIds, newHandOff, newPart, usualIcon, usualManifest } from '@/core/handoff/plan';
import type { Step } from '@/core/edit/history';
import { seatFaces } from '@/core/seat/seatFaces';
import { contentAddress, pack } from '@/core/io/pack';
import { newKit } from '@/core/sheet/starter';
import { box } from './meshes';

export const packed = pack(box());
export const address = await contentAddress(packed);

/** A kit with one model of six faces, as it is kept. */
export function someKit(): KitState {
  const kit = newKit('Brindle Skerry');
  const model: Model = {
    id: 'mBell',
    name: 'Fog bell',
    mesh: address,
    faces: 6,
    sheet: kit.sheets[0]!.id,
    regions: [],
    slots: [],
    seams: [],
    source: { format: 'made', name: 'Fog bell', files: [] },
  };
  return { kit: { ...kit, models: [model] }, seats: { mBell: emptySeats(6) } };
}

/** The same with a plan that writes a file of every format, a manifest and an icon. */
export const withPlan = ({ kit, seats }: KitState): KitState => ({
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
  seats,
});

export const plain = ({ kit, seats, patches }: KitState) => ({
  kit,
  patches,
  seats: Object.fromEntries(Object.entries(seats).map(([id, s]) => [id, [...s.cell]])),
});
/** An edit that colors one face of it. */
export const colorFace = (step: Step, face: number, cell: number): Edit =>
  seatFaces('mBell', step.state.seats.mBell!.cell, Uint32Array.of(face), cell)!;
