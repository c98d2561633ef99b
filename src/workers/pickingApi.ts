import { picking } from './picking';
import { pictures } from './pictures';
import { portraits } from './portraits';

/**
 * What the worker that picks can be asked. Readers and writers of files are not in its script, so that it
 * starts in half the time.
 */
export const pickingApi = { ...picking, ...portraits, ...pictures, ping: () => true };
export type PickingWorker = typeof pickingApi;
