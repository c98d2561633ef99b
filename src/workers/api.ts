import { adopting } from './adopting';
import { baking } from './baking';
import { importing } from './importing';
import { leaving } from './leaving';
import { picking } from './picking';
import { pictures } from './pictures';
import { portraits } from './portraits';
import { proving } from './proving';
import { unwrapping } from './unwrapping';

/** All that a page may ask of its workers. */
export const api = {
  ...adopting,
  ...baking,
  ...importing,
  ...picking,
  ...portraits,
  ...pictures,
  ...leaving,
  ...proving,
  ...unwrapping,
  ping: () => true,
};
export type CoreWorker = typeof api;
