import type { Hex } from '@/core/color/hex';
import { nearestAllowed } from '@/core/palette/allowedColors';
import { useEditor } from './editor';

/** The color itself, or the nearest one on the kit's list of allowed colors. */
export function allowed(color: Hex): Hex {
  const list = useEditor.getState().state.kit.allowed?.colors;
  return list?.length ? nearestAllowed(color, list, 1)[0]!.color : color;
}
