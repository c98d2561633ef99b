import { create } from 'zustand';
import { leaveDefaults, type LeaveOptions } from '@/core/kit/leaveOptions';

/** How models leave, as chosen at Hand-off; the tally foresees draw calls by it. */
export const useHandOff = create<LeaveOptions>(() => ({ ...leaveDefaults }));
