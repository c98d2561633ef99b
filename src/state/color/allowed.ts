import type { Hex } from '@/core/ground/color/hex';
import { snapToAllowed } from '@/core/sheet/allowedColors';
import { useEditor } from '../kit/editor';

/** The color itself, or the nearest one on the kit's list. */
export const allowed = (color: Hex): Hex => snapToAllowed(useEditor.getState().state.kit, color);
