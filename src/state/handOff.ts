import { create } from 'zustand';
import type { LeaveOptions } from '@/workers/leaving';

/** How models leave, as chosen at Hand-off; the tally foresees draw calls by it. */
export const useHandOff = create<LeaveOptions>(() => ({ unlit: false, as: 'texture', meshes: 'joined', numbered: false }));
