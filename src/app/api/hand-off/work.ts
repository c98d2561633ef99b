import { once } from 'node:events';
import { zipParts } from '@/core/ground/bytes/zip';
import { handOff } from './handOff';

/*
 * A process that does one hand-off and ends: the archive comes in on the standard input, the plan as the argument. It
 * tells what came of it, and then writes the zip to the standard output. It bounds nothing itself: who started it does.
 */
const chunks: Uint8Array[] = [];
for await (const chunk of process.stdin) chunks.push(chunk as Uint8Array);
const { told, files } = await handOff(new Uint8Array(Buffer.concat(chunks)), process.argv[2] ?? '');
await new Promise<void>((resolve) => process.send!(told, () => resolve()));
if ('files' in told) for (const part of zipParts(files)) if (!process.stdout.write(part)) await once(process.stdout, 'drain');
process.disconnect();
