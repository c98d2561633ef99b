import { adopting } from './adopting';
import { baking } from './baking';
import { cutting } from './cutting';
import { importing } from './importing';
import { leaving } from './leaving';
import { pickingApi } from './pickingApi';
import { proving } from './proving';
import { reducing } from './reducing';
import { unwrapping } from './unwrapping';

/** All that a page may ask of its workers. */
export const api = {
  ...pickingApi,
  ...adopting,
  ...baking,
  ...cutting,
  ...importing,
  ...leaving,
  ...proving,
  ...reducing,
  ...unwrapping,
};
export type LongWorker = typeof api;
