import { inherits } from '@/core/ground/limits';
import { byId } from '@/core/ground/byId';
import { hexFromLch } from '@/core/ground/color/hex';
import type { Lch } from '@/core/ground/color/oklab';
import { contentAddress, pack } from '@/core/ground/bytes/pack';
import { encodePng } from '@/core/ground/pictures/png';
import { emptySeats, type Cell, type Cue, type Kit, type KitState, type Model, type Ramp, type SeatPatch, type Seats, type Variant } from '@/core/kit/kit';
import { measureFaces } from '@/core/shapes/mesh/measure';
import { faceCount, type PolyMesh, type Slot } from '@/core/shapes/mesh/polyMesh';
import { newHandOff, newPart, usualIcon, usualManifest } from '@/core/kit/handOffPlan';
import * as models from './models';
import { duskScene } from './scene';
import { numeralRows, numerals, numeralTexels } from './numerals';
import { painted, seal } from './seal';
import type { Shape } from './shape';

const lch = (l: number, c: number, h: number): Lch => ({ l, c, h });
/** The palette of the islet, dark to light; made in OKLCH. */
const ramps: [name: string, roles: string[], steps: Lch[]][] = [
  ['Lime wash', ['lime wash, in shade', 'lime wash, weathered', 'lime wash'], [lch(0.64, 0.012, 118), lch(0.82, 0.016, 105), lch(0.95, 0.02, 98)]],
  ['Band', ['band, in shade', 'band', 'band, lit'], [lch(0.37, 0.1, 18), lch(0.54, 0.15, 29), lch(0.67, 0.13, 36)]],
  ['Slate', ['slate, in shade', 'slate', 'slate, lit'], [lch(0.31, 0.03, 268), lch(0.45, 0.042, 252), lch(0.61, 0.05, 246)]],
  ['Brass', ['timber', 'brass', 'lamp glow'], [lch(0.42, 0.075, 68), lch(0.63, 0.115, 76), lch(0.86, 0.105, 92)]],
  ['Lichen', ['lichen, in shade', 'lichen'], [lch(0.43, 0.07, 128), lch(0.6, 0.1, 118)]],
];

/** How the islet leaves for the game that is made of it: its models on one texture, with a word on each file. */
const gameBuild = {
  ...newHandOff('hGame', 'Game build'),
  parts: [
    { ...newPart('gltf'), path: 'models/{model}/{model}.gltf' },
    { ...newPart('glb', 'kit'), path: 'whole/{kit}.glb' },
    newPart('palette'),
  ],
  letters: 'small' as const,
  description: 'The light station of Brindle Skerry',
  manifest: usualManifest,
  icon: { ...usualIcon, ground: '#dfe5e4' },
};

type Coloring = Record<string, string | ((normal: [number, number, number], face: number) => string)>;
const byLight = (dark: string, middle: string, light: string) => (n: number[]) => (n[1]! > 0.6 ? light : n[1]! < -0.2 ? dark : middle);
const rock = ([x, y]: number[], face: number) =>
  y! > 0.72 && face % 3 ? 'lichen' : y! > 0.25 ? 'slate, lit' : x! > -0.2 ? 'slate' : 'slate, in shade';

interface Plan {
  name: string;
  build: () => Shape;
  /** Roles of cells that faces of a role sit on; one model has none yet, and is the first task. */
  coloring: Coloring;
  dress?: (shape: Shape) => PolyMesh;
}

const stone = byLight('slate, in shade', 'slate', 'slate, lit');
const washed = byLight('lime wash, in shade', 'lime wash, weathered', 'lime wash');
/** Lit where it is turned to the sun of the islet, which stands in the east. */
const eastLit = (dark: string, lit: string, from = -0.35) => ([x]: number[]) => (x! > from ? lit : dark);

const plans: Plan[] = [
  {
    name: 'Light tower',
    build: models.lightTower,
    coloring: {
      rock,
      plinth: stone,
      wall: 'lime wash',
      band: eastLit('band, in shade', 'band', -0.45),
      gallery: stone,
      rail: 'slate, in shade',
      'lantern frame': 'slate, in shade',
      glass: 'lamp glow',
      dome: eastLit('band, in shade', 'band'),
      'dome rim': 'slate, in shade',
      finial: 'brass',
      'window frame': 'lime wash, weathered',
      window: 'slate, in shade',
      'door frame': 'lime wash, weathered',
      door: 'slate',
    },
  },
  {
    name: 'Keeper’s cottage',
    build: models.keepersCottage,
    coloring: {
      wall: 'lime wash',
      plinth: stone,
      roof: byLight('slate, in shade', 'slate', 'slate'),
      ridge: 'slate, in shade',
      chimney: byLight('lime wash, in shade', 'lime wash, weathered', 'lime wash, weathered'),
      pot: 'band, lit',
      'door frame': 'lime wash, weathered',
      door: 'band',
      brass: 'brass',
      'window frame': 'lime wash, weathered',
      window: 'slate, in shade',
      shutter: 'band',
      sill: 'lime wash, in shade',
    },
    dress: (shape) => shape.mesh({ names: cottageMaterials }),
  },
  {
    name: 'Landing jetty',
    build: models.landingJetty,
    coloring: {
      board: byLight('timber', 'timber', 'lime wash, in shade'),
      pile: 'timber',
      'pile cap': 'lime wash, weathered',
      beam: 'timber',
      brace: 'timber',
      ladder: 'slate, in shade',
      bollard: 'slate, in shade',
      rope: 'brass',
    },
  },
  {
    name: 'Channel buoy',
    build: models.channelBuoy,
    coloring: {
      hull: 'band',
      'hull lit': 'band, lit',
      'below water': 'band, in shade',
      fender: 'slate, in shade',
      strut: 'slate',
      cone: eastLit('band, in shade', 'band'),
      platform: stone,
      lamp: 'lamp glow',
      'lamp cap': 'slate, in shade',
      topmark: eastLit('band, in shade', 'band'),
      ring: 'slate, lit',
      weight: 'lichen, in shade',
    },
    dress: withVertexColors,
  },
  {
    name: 'Fog bell',
    build: models.fogBell,
    coloring: {
      bell: eastLit('timber', 'brass', -0.3),
      'bell lip': 'brass',
      'bell inside': 'timber',
      base: washed,
      frame: 'slate',
      roof: byLight('band, in shade', 'band', 'band'),
      iron: 'slate, in shade',
      bolt: 'slate, in shade',
    },
  },
  { name: 'Crab pots', build: models.crabPots, coloring: {} },
  {
    name: 'Tide gauge',
    build: models.tideGauge,
    coloring: {
      rock,
      pile: 'timber',
      cap: 'slate',
      board: 'lime wash, in shade',
      numerals: 'numerals',
      bracket: 'slate, in shade',
      rung: 'slate, in shade',
    },
    dress: withNumerals,
  },
  { name: 'Skerry rocks', build: models.skerryRocks, coloring: { rock, weed: byLight('lichen, in shade', 'lichen, in shade', 'lichen') } },
  {
    name: 'Notice board',
    build: models.noticeBoard,
    coloring: {
      post: 'timber',
      frame: 'timber',
      board: 'slate, in shade',
      note: (n, face) => ['lime wash', 'brass', 'lime wash, weathered', 'lime wash', 'band, lit'][Math.floor(face / 6) % 5]!,
      roof: byLight('band, in shade', 'band', 'band'),
    },
  },
  { name: 'Skerry seal', build: seal, coloring: { body: 'slate', head: 'slate', snout: 'slate', flipper: 'slate' } },
];

/** The states of the place. In the last one the tower's bands are worn through to the lime wash. */
const variants: Variant[] = [
  { id: 'vFresh', name: 'Fresh paint', rules: [{ kind: 'shift', lightness: 0.02, strength: 1.2, hue: 0 }], fills: {} },
  { id: 'vSalt', name: 'Salt-worn', rules: [{ kind: 'toward', color: '#c3cbc9', share: 0.32 }], fills: {} },
  {
    id: 'vAbandoned',
    name: 'Abandoned',
    rules: [
      { kind: 'toward', color: '#6f7568', share: 0.3 },
      { kind: 'shift', lightness: -0.05, strength: 0.75, hue: 0 },
    ],
    fills: {},
  },
];
/** How the islet stands on the stage: model, place, turn, and variant where it is not the default. */
const standing: [model: string, at: [number, number, number], turn: number, variant?: string][] = [
  ['Light tower', [0, 0, 0], 0],
  ['Keeper’s cottage', [11, 0, 3], 340],
  ['Landing jetty', [-4, 0, 12], 15],
  ['Channel buoy', [-15, 0, 10], 0],
  ['Fog bell', [5, 0, 9], 25],
  ['Crab pots', [-9, 0, 8], 0],
  ['Tide gauge', [-9, 0, 13], 0],
  ['Notice board', [2.5, 0, 14.5], 350],
  ['Skerry rocks', [-10, 0, -3], 0],
  ['Skerry rocks', [13, 0, -8], 140, 'vSalt'],
];

/** The rules of play on the islet: a board that asks how all shall look, a bell, and a gauge that shows who comes near. */
const cues: (Omit<Cue, 'id' | 'when' | 'who'> & { when: string; near?: number; who?: string })[] = [
  { name: 'Board', when: 'Notice board', does: { kind: 'ask', question: 'How shall the islet look?' } },
  { name: 'Bell', when: 'Fog bell', who: 'Fog bell', does: { kind: 'next' } },
  { name: 'Gauge', when: 'Tide gauge', near: 4, who: 'Tide gauge', does: { kind: 'next', among: ['vSalt', 'vFresh'] } },
];

/** Of the tower's bands every so many-th face is worn through. */
const wornThrough = (face: number): boolean => (face * 7919) % 5 < 3;

const material = (name: string, color: string): Slot => ({ name, color, given: true });
/** Flat materials as another tool would have left them: many, and some nearly the same. */
const cottageMaterials: Record<string, Slot> = {
  wall: material('plaster', '#ece7d8'),
  plinth: material('footing stone', '#6d7683'),
  roof: material('roof slate', '#4a5668'),
  ridge: material('ridge lead', '#39414f'),
  chimney: material('chimney brick', '#a34a38'),
  pot: material('chimney pot', '#b5573f'),
  'door frame': material('painted wood', '#d9d2bd'),
  door: material('door paint', '#9b3a30'),
  brass: material('door knob', '#c79a3f'),
  'window frame': material('window wood', '#dcd5c2'),
  window: material('window pane', '#2d3446'),
  shutter: material('shutter paint', '#9d3c31'),
  sill: material('sill stone', '#8b929b'),
};

export interface DemoKit {
  state: KitState;
  blobs: Map<string, Uint8Array>;
}

export async function demoKit(): Promise<DemoKit> {
  const blobs = new Map<string, Uint8Array>();
  const keep = async (bytes: Uint8Array) => {
    const address = await contentAddress(bytes);
    blobs.set(address, bytes);
    return address;
  };
  const kit = emptyKit(await keep(encodePng(numeralTexels())));
  const cellOf = new Map(kit.sheets[0]!.cells.map((c) => [c.role, c.id]));
  const seats = new Map<string, Seats>();
  const patches = new Map<string, SeatPatch>();
  let furred: { model: Model; mesh: PolyMesh; shape: Shape } | undefined;
  for (const [i, { name, build, coloring, dress }] of plans.entries()) {
    const shape = build();
    const mesh = dress ? dress(shape) : shape.mesh();
    const id = `m${name.replace(/[^a-zA-Z]/g, '')}${i}`;
    const files = mesh.slots.some((s) => s.picture) ? [{ name: 'tide-gauge.png', content: await keep(encodePng(numerals())) }] : [];
    const faces = faceCount(mesh);
    const model: Model = {
      id,
      name,
      mesh: await keep(pack(mesh)),
      faces,
      sheet: kit.sheets[0]!.id,
      regions: [],
      slots: [],
      source: { format: 'made', name, files },
      seams: [],
    };
    const seat = emptySeats(faces);
    const { normals } = measureFaces(mesh);
    shape.roles.forEach((role, f) => {
      const rule = coloring[role];
      const cell = typeof rule === 'function' ? rule([normals[f * 3]!, normals[f * 3 + 1]!, normals[f * 3 + 2]!], f) : rule;
      if (cell) seat.cell[f] = cellOf.get(cell)!;
    });
    seatNumerals(seat, mesh, shape);
    kit.models.push(model);
    if (build === seal) furred = { model, mesh, shape };
    seats.set(id, seat);
    const worn = seat.cell.map((c, f) => (shape.roles[f] === 'band' && wornThrough(f) ? cellOf.get('lime wash, weathered')! : c));
    if (worn.some((c, f) => c !== seat.cell[f]))
      patches.set(id, { cell: worn.map((c, f) => (c === seat.cell[f] ? inherits : c)) });
  }
  kit.placements = standing.map(([name, at, turn, variant], i) => ({
    id: `o${i}`,
    name: standing.findIndex((s) => s[0] === name) === i ? name : `${name} 2`,
    model: kit.models.find((m) => m.name === name)!.id,
    ...(variant && { variant }),
    at,
    turn,
    scale: 1,
  }));
  const placed = (name: string) => kit.placements!.find((p) => p.name === name)!.id;
  kit.cues = cues.map(({ when, near, who, ...cue }, i) => ({
    id: `q${i}`,
    ...cue,
    when: near ? { kind: 'near', placement: placed(when), metres: near } : { kind: 'click', placement: placed(when) },
    who: who ? { placement: placed(who) } : {},
  }));
  kit.references.push({ id: 'pDusk', name: 'Dusk', picture: await keep(encodePng(duskScene())) });
  const state = { kit, seats: byId(seats), patches: byId({ vAbandoned: byId(patches) }) };
  return { state: furred ? painted(state, furred.model, furred.mesh, furred.shape, cellOf) : state, blobs };
}

/** The numerals have the right half of the sheet: the one place that needs real pixels. */
function emptyKit(numeralPicture: string): Kit {
  const cells: Cell[] = [];
  const list: Ramp[] = [];
  const add = (role: string, fill: Cell['fill'], rect?: Cell['rect']) => {
    const index = cells.length;
    cells.push({ id: index + 1, rect: rect ?? { x: (index % 4) * 4, y: Math.floor(index / 4) * 4, w: 4, h: 4 }, role, fill });
    return index + 1;
  };
  for (const [name, roles, steps] of ramps)
    list.push({
      id: `r${name.replace(' ', '')}`,
      name,
      cells: steps.map((step, i) => add(roles[i]!, { kind: 'solid', color: hexFromLch(step) })),
    });
  while (cells.length < 16) add('', { kind: 'spare' });
  add('numerals', { kind: 'art', picture: numeralPicture }, { x: 16, y: 0, w: 16, h: 16 });
  return {
    id: 'kBrindleSkerry',
    name: 'Brindle Skerry',
    sheets: [{ id: 'sSkerry', name: 'Skerry', width: 32, height: 16, padding: 0, filter: 'nearest', cells, ramps: list }],
    models: [],
    variants,
    references: [],
    handOffs: [gameBuild],
    nextCell: cells.length + 1,
  };
}

/** As if painted in another tool: colors at the corners, brighter upward. */
function withVertexColors(shape: Shape): PolyMesh {
  const mesh = shape.mesh();
  const paint: Record<string, [number, number, number]> = {
    hull: [184, 66, 52],
    'hull lit': [206, 92, 70],
    'below water': [96, 32, 36],
    fender: [44, 46, 58],
    strut: [62, 70, 88],
    cone: [190, 70, 56],
    platform: [74, 84, 104],
    lamp: [246, 222, 150],
    'lamp cap': [52, 58, 74],
    topmark: [176, 60, 48],
    ring: [120, 124, 130],
    weight: [70, 72, 78],
  };
  const colors = new Uint8Array(mesh.cornerVertex.length * 4).fill(255);
  shape.roles.forEach((role, f) => {
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const y = mesh.positions[mesh.cornerVertex[c]! * 3 + 1]!;
      const light = 0.94 + Math.max(0, Math.min(1, y / 4)) * 0.1;
      (paint[role] ?? [200, 200, 200]).forEach((v, k) => (colors[c * 4 + k] = Math.min(255, Math.round(v * light))));
    }
  });
  return { ...mesh, cornerColors: colors };
}

/** The numerals' panels are laid out on the picture; everything else sits on its plain strip. */
function withNumerals(shape: Shape): PolyMesh {
  const slot: Slot = { name: 'tide gauge', color: '#e8e2d0', given: true, picture: 'tide-gauge.png' };
  const mesh = shape.mesh({ names: Object.fromEntries([...new Set(shape.roles)].map((role) => [role, slot])) });
  const single = { ...mesh, slots: [slot], faceSlot: new Uint16Array(mesh.faceSlot.length) };
  const uvs = new Float32Array(mesh.cornerVertex.length * 2).fill(0.97);
  forNumerals(mesh, shape, (corner, across, metre) => {
    uvs[corner * 2] = across * 0.75;
    uvs[corner * 2 + 1] = 1 - metre / numeralRows;
  });
  return { ...single, uvSets: [uvs] };
}

/** Each metre of the board has a quarter of the art cell, two beside two. */
function seatNumerals(seats: Seats, mesh: PolyMesh, shape: Shape): void {
  let panel = -1;
  forNumerals(mesh, shape, (corner, across, metre, isFirst) => {
    seats.at ??= new Float32Array(mesh.cornerVertex.length * 2).fill(0.5);
    if (isFirst) panel += 1;
    seats.at[corner * 2] = ((panel % 2) + across) / 2;
    seats.at[corner * 2 + 1] = (Math.floor(panel / 2) + 1 - (metre - panel)) / 2;
  });
}

/** The corners of the board's panels from the foot up: how far across (0..1), and the metre (0 at the foot). */
function forNumerals(mesh: PolyMesh, shape: Shape, at: (corner: number, across: number, metre: number, isFirst: boolean) => void): void {
  const { left, foot, width, panel } = models.tideBoard;
  shape.roles.forEach((role, f) => {
    if (role !== 'numerals') return;
    for (let c = mesh.faceStart[f]!; c < mesh.faceStart[f + 1]!; c++) {
      const v = mesh.cornerVertex[c]! * 3;
      at(c, (mesh.positions[v]! - left) / width, (mesh.positions[v + 1]! - foot) / panel, c === mesh.faceStart[f]!);
    }
  });
}
