/**
 * How models leave: one set of options with one set of defaults, for the page, the worker and the headless
 * command. A new option is an entry in both.
 */
export interface LeaveOptions {
  /** On the texture that models share, or as one flat material for each slot. */
  as: 'texture' | 'slots';
  /** Fewest draw calls; or nodes that showed one mesh share one again, where their seats agree. */
  meshes: 'joined' | 'shared';
  /** The sheet's material is marked as one that light does not touch (KHR_materials_unlit). */
  unlit: boolean;
  /** Names of flat materials begin with the number of their slot. */
  numbered: boolean;
}

export const leaveDefaults: Readonly<LeaveOptions> = { as: 'texture', meshes: 'joined', unlit: false, numbered: false };
