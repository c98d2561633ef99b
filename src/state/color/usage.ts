import type { Use } from '@/core/kit/colorings/usesOfCells';
import { count } from '@/core/ground/words';

/** What uses some cells in all; models as often as they use one. */
export const usageOf = (uses: ReadonlyMap<number, Use>, cells: readonly { id: number }[]): Use =>
  cells.reduce(
    (sum, { id }) => {
      const use = uses.get(id);
      return use ? { faces: sum.faces + use.faces, models: sum.models + use.models, texels: sum.texels + use.texels } : sum;
    },
    { faces: 0, models: 0, texels: 0 },
  );

/** By what colors are used: by faces, and by texels of painted art; empty where nothing uses them. */
export const usageWords = ({ faces, texels }: Pick<Use, 'faces' | 'texels'>): string =>
  [...(faces ? [count(faces, 'face')] : []), ...(texels ? [count(texels, 'texel')] : [])].join(', ');
