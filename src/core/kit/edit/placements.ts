import { farthest, mostIn, scaleBounds } from '../../ground/limits';
import { group, type Edit, type StandEdit } from './edit';
import { newId, type Kit, type Placement } from '../kit';
import { cuesWithout } from './cueEdits';

/** Where and how a model is to stand. */
export type Standing = Omit<Placement, 'id' | 'name'>;

/** A number of degrees from 0 to below 360, to the hundredth. */
export const wholeTurn = (degrees: number): number => (Math.round((((degrees % 360) + 360) % 360) * 100) % 36000) / 100;
/** Metres to the millimetre, on the stage. */
const place = (v: number): number => Math.max(-farthest, Math.min(farthest, Math.round(v * 1000) / 1000)) + 0;
const inBounds = (scale: number): number => Math.max(scaleBounds[0], Math.min(scaleBounds[1], Math.round(scale * 1000) / 1000));

/** The nearest crossing of a grid of so many metres; height stays. 0: no grid. */
export const snapped = ([x, y, z]: Placement['at'], step: number): Placement['at'] =>
  step > 0 ? [place(Math.round(x / step) * step), place(y), place(Math.round(z / step) * step)] : [place(x), place(y), place(z)];

function tidy(standing: Standing): Standing {
  const { at, turn, scale } = standing;
  return { ...standing, at: [place(at[0]), place(at[1]), place(at[2])], turn: wholeTurn(turn), scale: inBounds(scale) };
}

/**
 * Models come to stand on the stage, each under a name of its own after its model. Returns the edit, and the ids.
 * Throws where a stage would hold too many.
 */
export function placeModels(kit: Kit, standings: readonly Standing[], label = 'Place models'): { edit: Edit; ids: string[] } {
  const present = kit.placements ?? [];
  if (present.length + standings.length > mostIn.placements)
    throw new Error(
      `A stage holds ${mostIn.placements.toLocaleString('en')} placements; there would be ${(present.length + standings.length).toLocaleString('en')}.`,
    );
  const nameFor = namer(kit);
  const ids: string[] = [];
  const puts = standings.map((standing, i) => {
    const after: Placement = { id: newId('o'), name: nameFor(standing.model), ...tidy(standing) };
    ids.push(after.id);
    return { index: present.length + i, before: null, after };
  });
  return { edit: { kind: 'stand', label, puts }, ids };
}

/** Names after models, with the first number behind them that is free: “Crab pots”, “Crab pots 2”. */
function namer({ placements = [], models }: Kit): (model: string) => string {
  const taken = new Set(placements.map((p) => p.name.toLowerCase()));
  const next = new Map<string, number>();
  return (id) => {
    const base = models.find((m) => m.id === id)?.name ?? 'model';
    let n = next.get(id) ?? 1;
    const name = () => (n === 1 ? base : `${base} ${n}`);
    while (taken.has(name().toLowerCase())) n++;
    next.set(id, n + 1);
    taken.add(name().toLowerCase());
    return name();
  };
}

/** Placements are changed; `null` where nothing is. */
export function changePlacements(
  { placements = [] }: Kit,
  ids: readonly string[],
  label: string,
  change: (placement: Placement) => Partial<Placement>,
): Edit | null {
  const wanted = new Set(ids);
  const puts = placements.flatMap((before, index): StandEdit['puts'] => {
    if (!wanted.has(before.id)) return [];
    const { variant, ...rest } = { ...before, ...change(before) };
    const after: Placement = { ...rest, ...tidy(rest), ...(variant !== undefined && { variant }) };
    return JSON.stringify(after) === JSON.stringify(before) ? [] : [{ index, before, after }];
  });
  return puts.length ? { kind: 'stand', label, puts } : null;
}

/** What stands there leaves; cues that spoke of it say that it is gone. `null` where nothing leaves. */
export function removePlacements(kit: Kit, ids: readonly string[]): Edit | null {
  const { placements = [] } = kit;
  const gone = new Set(ids);
  // From the last to the first, so that what goes does not move what is still to go.
  const puts = placements
    .map((before, index) => ({ index, before, after: null }))
    .filter(({ before }) => gone.has(before.id))
    .reverse();
  if (!puts.length) return null;
  const label = puts.length === 1 ? 'Take a model off the stage' : 'Take models off the stage';
  return group(label, [...cuesWithout(kit, { placements: ids }), { kind: 'stand', label, puts }]);
}

export interface Scatter {
  model: string;
  /** Variants among which each starts; `undefined` stands for the default coloring. */
  variants: readonly (string | undefined)[];
  count: number;
  /** The middle and the reach of the area, metres. */
  at: Placement['at'];
  reach: number;
  /** The same seed gives the same placing. */
  seed: number;
}

/** Where the copies of a scattered model stand: even over a disk, with seeded turns and variants. */
export function scattered({ model, variants, count, at, reach, seed }: Scatter): Standing[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    // The root makes the disk as dense at its border as in its middle.
    const [far, around] = [reach * Math.sqrt(random()), random() * 2 * Math.PI];
    const turn = random() * 360;
    const variant = variants.length ? variants[Math.floor(random() * variants.length)] : undefined;
    return {
      model,
      ...(variant !== undefined && { variant }),
      at: [at[0] + far * Math.cos(around), at[1], at[2] + far * Math.sin(around)],
      turn,
      scale: 1,
    };
  });
}

/** Numbers from 0 to below 1, the same each time for a seed. Source: mulberry32, T. Ettinger. */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
