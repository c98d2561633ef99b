import { arrows } from '@/ui/arrows';
import type { Outline } from '@/core/shapes/pick/outline';
import { announce } from '@/state/told/announce';
import { useDrag, type DragKeys } from '@/state/pick/dragging';
import { usePhrase } from '@/state/chosen/phrase';

/** Pixels of a step. */
const step = 16;

/**
 * A box without a pointer: Space puts it up, arrows move it, with Shift they size it, Enter takes by the
 * phrase (with Shift: adds; with Alt or Control: takes away), Escape puts it away. Returns how to stop
 * listening.
 */
export function boxByKeys(surface: HTMLElement, take: (outline: Outline, keys: DragKeys) => void): () => void {
  let box: { x: number; y: number; w: number; h: number } | null = null;
  const outline = (): Outline => {
    const { x, y, w, h } = box!;
    return Float32Array.from([x, y, x + w, y, x + w, y + h, x, y + h]);
  };
  const say = () => {
    const { width, height } = surface.getBoundingClientRect();
    const share = (v: number, of: number) => Math.round((v / of) * 100);
    announce(
      `Box from ${share(box!.x, width)} to ${share(box!.x + box!.w, width)} % across and ${share(box!.y, height)} to ${share(box!.y + box!.h, height)} % down; Enter takes`,
    );
  };
  const show = () => {
    useDrag.setState({ outline: box && outline() });
    if (box) say();
  };
  const onKey = (e: KeyboardEvent) => {
    if (usePhrase.getState().drag !== 'box') {
      box = null;
      return;
    }
    const { width, height } = surface.getBoundingClientRect();
    const arrow = arrows.get(e.key);
    if (e.key === ' ' && !box) box = { x: width * 0.35, y: height * 0.35, w: width * 0.3, h: height * 0.3 };
    else if (!box) return;
    else if (arrow && e.shiftKey) {
      box.w = Math.max(step, Math.min(width - box.x, box.w + arrow[0] * step));
      box.h = Math.max(step, Math.min(height - box.y, box.h + arrow[1] * step));
    } else if (arrow) {
      box.x = Math.max(0, Math.min(width - box.w, box.x + arrow[0] * step));
      box.y = Math.max(0, Math.min(height - box.h, box.y + arrow[1] * step));
    } else if (e.key === 'Enter') {
      take(outline(), { add: e.shiftKey, take: e.altKey || e.ctrlKey });
      box = null;
    } else if (e.key === 'Escape') box = null;
    else return;
    e.preventDefault();
    // The same keys move the face cursor and let the pick go, while there is no box.
    e.stopImmediatePropagation();
    show();
  };
  surface.addEventListener('keydown', onKey, { capture: true });
  return () => surface.removeEventListener('keydown', onKey, { capture: true });
}
