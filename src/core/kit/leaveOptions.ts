import { number, one, yesOrNo, type Shape } from './shape';

/** A format in which models leave. */
export type ModelFormat = 'glb' | 'gltf' | 'obj' | 'ply' | 'stl';

/** Everything that there is to know of one option of leaving, but what the writers that heed it make of it. */
export interface LeaveOption<T> {
  /** What it is where nobody said otherwise. */
  usual: T;
  shape: Shape;
  of: readonly ModelFormat[];
  label: string;
  /** How it is asked for: values in a row or in a list, a tick, an angle, units to a metre. */
  asks: 'row' | 'list' | 'tick' | 'angle' | 'unit';
  /** Its values with their words; of a tick the value that is ticked, then the other. */
  values: readonly (readonly [T, string])[];
  /** It is asked for only while other options have one of these values. */
  while?: Readonly<{ [option in string]: readonly unknown[] }>;
  /** It is asked for only where the kit has variants; where models came with nodes. */
  forVariants?: true;
  forNodes?: true;
}
type More = Pick<LeaveOption<never>, 'while' | 'forVariants' | 'forNodes'>;

const gltf = ['glb', 'gltf'] as const;
const polygons = ['obj', 'ply'] as const;
const all = [...gltf, ...polygons, 'stl'] as const;

/** One of several values; the first is usual. */
const chosen = <const T extends string>(
  label: string,
  asks: 'row' | 'list',
  of: readonly ModelFormat[],
  values: readonly (readonly [T, string])[],
  more: More = {},
): LeaveOption<T> => ({ label, asks, of, values, usual: values[0]![0], shape: one(...values.map(([value]) => value)), ...more });
/** On or off. */
const tick = (label: string, of: readonly ModelFormat[], usual: boolean, more: More = {}): LeaveOption<boolean> => ({
  ...{ label, of, usual, shape: yesOrNo, asks: 'tick', ...more },
  values: [
    [true, ''],
    [false, ''],
  ],
});

/**
 * How models leave: one set of options for the page, the worker, plans, the server and the headless command, in the order
 * in which they are asked for. A new one is an entry here, and what the writers that it is `of` make of it.
 */
export const leaveOptions = {
  /** On the texture that models share, as one flat material for each slot, or as colors of vertices. */
  as: chosen(
    'Colors leave',
    'row',
    [...gltf, 'obj'],
    [
      ['texture', 'On one texture'],
      ['slots', 'As flat materials'],
      ['colors', 'In the vertices'],
    ],
  ),
  /** What numbers colors of vertices are: glTF asks for linear ones; some engines take them as sRGB. PLY and OBJ have sRGB by custom. */
  vertexColors: chosen(
    'Numbers of vertex colors',
    'row',
    gltf,
    [
      ['linear', 'linear light'],
      ['srgb', 'sRGB'],
    ],
    { while: { as: ['colors'] } },
  ),
  /** Fewest draw calls; or nodes that showed one mesh share one again, where their seats agree. */
  meshes: chosen('Meshes', 'list', gltf, [
    ['joined', 'Fewest draw calls'],
    ['shared', 'Shared meshes kept'],
  ]),
  /**
   * Nodes of a glTF that nothing moves in the file, yet may be moved or pressed by a game: those whose names look meant
   * stay with their meshes, all that have a name, or none.
   */
  nodes: chosen(
    'Nodes with names',
    'list',
    gltf,
    [
      ['meant', 'Nodes with meant names kept'],
      ['named', 'All named nodes kept'],
      ['joined', 'Named nodes joined too'],
    ],
    { while: { meshes: ['joined'] }, forNodes: true },
  ),
  /** OBJ and PLY can hold faces with all their corners. The other formats have triangles. */
  faces: chosen('Faces', 'list', polygons, [
    ['whole', 'Faces whole'],
    ['triangles', 'Triangles'],
  ]),
  /** Shading: as it came, each face flat, or smooth where faces meet at less than `smoothAngle` degrees. */
  normals: chosen('Shading', 'list', all, [
    ['came', 'Shaded as it came'],
    ['flat', 'Each face flat'],
    ['smooth', 'Smooth'],
  ]),
  smoothAngle: {
    ...{ label: 'below °', asks: 'angle', of: all, usual: 40, shape: number(0, 180), values: [], while: { normals: ['smooth'] } },
  } as LeaveOption<number>,
  /** Where a model's origin is: where it came, in the middle of its bounds, or in the middle on the ground. */
  origin: chosen('Origin', 'list', all, [
    ['came', 'Origin as it came'],
    ['middle', 'Origin in the middle'],
    ['ground', 'Origin on the ground'],
  ]),
  /** Units for one metre. */
  scale: {
    ...{ label: 'Unit', asks: 'unit', of: all, usual: 1, shape: number(1e-6, 1e6) },
    values: [
      [0.001, 'In kilometres'],
      [0.01, 'In hundreds of metres'],
      [1, 'In metres'],
      [39.3701, 'In inches'],
      [100, 'In centimetres'],
      [1000, 'In millimetres'],
    ],
  } as LeaveOption<number>,
  /** The axis that points up; in glTF it is Y. */
  up: chosen(
    'Axis that points up',
    'list',
    [...polygons, 'stl'],
    [
      ['y', 'Y up'],
      ['z', 'Z up'],
    ],
  ),
  /** The sheet's material is marked as one that light does not touch (KHR_materials_unlit). */
  unlit: tick('Unlit', gltf, false),
  /** glTF says how rough, metallic or glowing each color is; else all are rough and plain. */
  finish: tick('With the finish of colors', gltf, true, { while: { unlit: [false], as: ['texture', 'slots'] } }),
  /** Names of flat materials begin with the number of their slot. */
  numbered: tick('Numbers in names: 2-rust', [...gltf, 'obj'], false, { while: { as: ['slots'] } }),
  /** A glTF has all variants of the kit in it (KHR_materials_variants), or the default coloring alone. */
  variants: {
    ...chosen('All variants inside', 'list', gltf, [
      ['inside', ''],
      ['none', ''],
    ]),
    asks: 'tick',
    while: { as: ['texture', 'slots'] },
    forVariants: true,
  } as LeaveOption<'inside' | 'none'>,
  /** Meshes are packed (EXT_meshopt_compression), which their reader must know. */
  packed: tick('Meshes packed', gltf, false),
} as const;

export type LeaveOptions = {
  [K in keyof typeof leaveOptions]: (typeof leaveOptions)[K] extends LeaveOption<infer T> ? T : never;
};
const entries = Object.entries(leaveOptions) as [keyof LeaveOptions, LeaveOption<unknown>][];

export const leaveDefaults = Object.fromEntries(entries.map(([key, { usual }]) => [key, usual])) as Readonly<LeaveOptions>;

/** The options that a format heeds. */
export const heededBy = (format: ModelFormat): (keyof LeaveOptions)[] =>
  entries.flatMap(([key, { of }]) => (of.includes(format) ? [key] : []));

/** The options to ask for, of those that are heeded, as the others stand. */
export const toAsk = (
  options: LeaveOptions,
  heeds: readonly (keyof LeaveOptions)[],
  has: { variants: boolean; nodes: boolean },
): (keyof LeaveOptions)[] =>
  entries.flatMap(([key, { while: only = {}, forVariants, forNodes }]) =>
    heeds.includes(key) &&
    (has.variants || !forVariants) &&
    (has.nodes || !forNodes) &&
    Object.entries(only).every(([other, values]) => values.includes(options[other as keyof LeaveOptions]))
      ? [key]
      : [],
  );
