import { create } from 'zustand';
import { perKit } from './session';

export interface LiveFolder {
  /** The plan that is written with every change, and the name of its folder. */
  live: { plan: string; folder: string } | null;
  /** What was written last, in words. */
  last: string;
}

export const useLiveFolder = perKit(create<LiveFolder>(() => ({ live: null, last: '' })));
