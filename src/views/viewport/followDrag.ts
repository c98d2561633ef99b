import { listen } from '@/ui/listen';

interface DragHandlers {
  onDown: (e: PointerEvent) => void;
  onMove: (e: PointerEvent) => void;
  onUp: (e: PointerEvent) => void;
  /** Lets go of what is under way: Escape, a pointer that is taken away, or the end of it all. */
  stop: () => void;
  isUnderWay: () => boolean;
}

/** Follows drags on the viewport, which Escape ends. Returns how to stop. */
export function followDrag(surface: HTMLElement, { onDown, onMove, onUp, stop, isUnderWay }: DragHandlers): () => void {
  const onKey = (e: KeyboardEvent) => {
    if (e.key !== 'Escape' || !isUnderWay()) return;
    e.stopPropagation();
    stop();
  };
  const stopListening = listen(surface, {
    pointerdown: onDown,
    pointermove: onMove,
    pointerup: onUp,
    pointercancel: stop,
    keydown: onKey,
  });
  return () => {
    stop();
    stopListening();
  };
}
