import { create } from 'zustand';
import { perKit } from '../chosen/session';

export interface Sampling {
  /** How the model in view is drawn: as everywhere, or as an engine's filter samples the sheet. */
  by: 'none' | 'nearest' | 'bilinear' | 'trilinear';
  /** So many times as far as it is seen. */
  farther: number;
  /** Largest mip levels that the game leaves out, as settings for weaker cards do. */
  leftOut: number;
}

export const useSampling = perKit(create<Sampling>(() => ({ by: 'none', farther: 1, leftOut: 0 })));

/** Other views show colors as they are. */
export const stopSampling = (): void => useSampling.setState({ by: 'none' });
