/**
 * How models leave: one set of options with one set of defaults, for the page, the worker, the server and the
 * headless command. A new option is an entry in both.
 */
export interface LeaveOptions {
  /** On the texture that models share, as one flat material for each slot, or as colors of vertices. */
  as: 'texture' | 'slots' | 'colors';
  /** Fewest draw calls; or nodes that showed one mesh share one again, where their seats agree. */
  meshes: 'joined' | 'shared';
  /** The sheet's material is marked as one that light does not touch (KHR_materials_unlit). */
  unlit: boolean;
  /** glTF says how rough, metallic or glowing each color is; else all are rough and plain. */
  finish: boolean;
  /** Names of flat materials begin with the number of their slot. */
  numbered: boolean;
  /**
   * What numbers colors of vertices are: glTF asks for linear ones; some engines take them as sRGB. PLY and
   * OBJ have sRGB by custom.
   */
  vertexColors: 'linear' | 'srgb';
  /** Shading: as it came, each face flat, or smooth where faces meet at less than `smoothAngle` degrees. */
  normals: 'came' | 'flat' | 'smooth';
  smoothAngle: number;
  /** Of OBJ and PLY, which can hold faces with all their corners. The other formats have triangles. */
  faces: 'whole' | 'triangles';
  /** The axis that points up in OBJ, PLY and STL; in glTF it is Y. */
  up: 'y' | 'z';
  /** Units for one metre. */
  scale: number;
  /** Where a model's origin is: where it came, in the middle of its bounds, or in the middle on the ground. */
  origin: 'came' | 'middle' | 'ground';
  /** Meshes of a GLB or glTF are packed (EXT_meshopt_compression), which its reader must know. */
  packed: boolean;
  /** A glTF has all variants of the kit in it (KHR_materials_variants), or the default coloring alone. */
  variants: 'inside' | 'none';
}

export const leaveDefaults: Readonly<LeaveOptions> = {
  as: 'texture',
  meshes: 'joined',
  unlit: false,
  finish: true,
  numbered: false,
  vertexColors: 'linear',
  normals: 'came',
  smoothAngle: 40,
  faces: 'whole',
  up: 'y',
  scale: 1,
  origin: 'came',
  packed: false,
  variants: 'inside',
};
