// `headless reduce`: a picture in few colors and few big texels.
import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { parseArgs } from 'node:util';
import { baseName } from '@/core/ground/bytes/text';
import { decodePicture } from '@/core/ground/pictures/decodePicture';
import { pictureLimits } from '@/core/ground/pictures/picture';
import { encodePng } from '@/core/ground/pictures/png';
import { rasterOfReduced, reducePicture, type Reduction } from '@/core/sheet/reduce/reduce';
import { startNodePictures } from './nodePlatform';

const checkerings = ['none', 'ordered', 'diffusion'] as const;

/** What is asked for, or what is wrong with how it is asked. */
export function reductionAsked(args: string[]): { path: string; out: string; size?: number } & Pick<Reduction, 'colors' | 'checkering'> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      colors: { type: 'string', default: '16' },
      size: { type: 'string' },
      dither: { type: 'string', default: 'none' },
      out: { type: 'string', default: 'reduced.png' },
    },
  });
  const [path] = positionals;
  if (!path || positionals.length !== 1) throw new Error('Give one picture.');
  const checkering = checkerings.find((c) => c === values.dither);
  if (!checkering) throw new Error(`--dither takes none, ordered or diffusion, not “${values.dither}”.`);
  const whole = (name: string, text: string) => {
    if (!/^\d{1,6}$/.test(text)) throw new Error(`--${name} takes a whole number, not “${text}”.`);
    return Number(text);
  };
  return {
    path,
    out: values.out,
    checkering,
    colors: whole('colors', values.colors),
    ...(values.size !== undefined && { size: whole('size', values.size) }),
  };
}

/** Writes the PNG, and says what it came to. `size`: texels across; as many down as keep its shape. */
export function reduceFile({ path, out, size, ...asked }: ReturnType<typeof reductionAsked>): object {
  const stats = statSync(path, { throwIfNoEntry: false });
  if (!stats?.isFile()) throw new Error(`${baseName(path)}: there is no such file.`);
  if (stats.size > pictureLimits.bytes)
    throw new Error(`${baseName(path)}: it is too large; pictures up to ${pictureLimits.bytes / 1048576} MB are read.`);
  startNodePictures();
  const raster = decodePicture(baseName(path), new Uint8Array(readFileSync(path)));
  const width = size ?? raster.width;
  const height = Math.max(1, Math.round((raster.height * width) / raster.width));
  const reduced = reducePicture(raster, { ...asked, width, height, sampling: 'area' });
  const png = encodePng(rasterOfReduced(reduced));
  mkdirSync(dirname(out), { recursive: true });
  writeFileSync(out, png);
  return { colors: reduced.colors.length, width, height, bytes: png.length, meanDeltaE: reduced.mean, worstDeltaE: reduced.worst };
}
