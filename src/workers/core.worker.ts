import * as Comlink from 'comlink';
import { importing } from './importing';
import { leaving } from './leaving';
import { picking } from './picking';
import { pictures } from './pictures';
import { portraits } from './portraits';

/** All that the page asks of the worker. */
const api = { ...importing, ...picking, ...portraits, ...pictures, ...leaving };

export type CoreWorker = typeof api;
Comlink.expose(api);
