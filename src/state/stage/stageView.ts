import type { Placement } from '@/core/kit/kit';
import { ballOf } from '@/core/stage/stageCosts';
import type { Visitor } from '@/core/stage/walk';
import { baseState, useEditor } from '../kit/editor';

let viewOf: (() => number[]) | null = null;
/** The stage says how its camera stands, for as long as it is there. */
export function provideStageView(of: (() => number[]) | null): void {
  viewOf = of;
}
/** Projection × view of the stage's camera, 16 numbers column by column; `null` where there is none. */
export const stageView = (): number[] | null => viewOf?.() ?? null;

type Place = Placement['at'];
let middleOf: (() => Place | null) | null = null;
/** The stage says what lies in the middle of what is seen, for as long as it is there. */
export function provideMiddle(of: (() => Place | null) | null): void {
  middleOf = of;
}
/** The place in the middle of what is seen, on the ground or on what stands there; `null` where that is the sky. */
export const middleOfView = (): Place | null => middleOf?.() ?? null;

/** A box around all that stands on the stage, and a ball around that; an empty stage is some metres wide. */
export function stageBounds(): { center: [number, number, number]; radius: number; most: [number, number, number] } {
  const { meshes } = useEditor.getState();
  const { kit } = baseState();
  const meshOf = new Map(kit.models.map((m) => [m.id, meshes[m.mesh]]));
  const [least, most] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as [[number, number, number], [number, number, number]];
  for (const p of kit.placements ?? []) {
    const loaded = meshOf.get(p.model);
    if (!loaded) continue;
    const { center, radius } = ballOf(p, loaded.bounds);
    for (let k = 0; k < 3; k++) {
      least[k] = Math.min(least[k]!, center[k]! - radius);
      most[k] = Math.max(most[k]!, center[k]! + radius);
    }
  }
  if (least[0] > most[0]) return { center: [0, 1, 0], radius: 8, most: [8, 8, 8] };
  const center = [0, 1, 2].map((k) => (least[k]! + most[k]!) / 2) as [number, number, number];
  return { center, radius: Math.hypot(...[0, 1, 2].map((k) => (most[k]! - least[k]!) / 2)), most };
}

/** Metres from what stands there to where a visitor comes from. */
const gap = 4;
/** Where a visitor comes from: before all that stands there, looking at it. */
export function gate(): Visitor {
  const { center, most } = stageBounds();
  return { x: center[0], z: most[2] + gap, yaw: 0, pitch: 0, goal: null };
}
