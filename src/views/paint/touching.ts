/** Pixels across from which a touch is a palm, and milliseconds after a pen was near in which every touch is one. */
const palm = { size: 60, afterPen: 700 };
/** Milliseconds, and pixels of way, after which one finger paints: until then a second one may come, and both turn the view. */
const waits = { time: 110, way: 7 };

type Point = { clientX: number; clientY: number };
interface Painting<P> {
  begin: (at: P) => void;
  move: (at: P) => void;
  end: (at: P) => void;
  /** More fingers came: what was begun stays as it is. */
  leave: () => void;
}

/**
 * Tells fingers that paint from those that turn the view and from palms. One finger begins after a moment, so that nothing is
 * set where a second one comes; pens and mice are not asked. Each handler says whether the event was a touch, which it
 * has then dealt with.
 */
export function touchPainting<P extends PointerEvent>(painting: Painting<P>) {
  const fingers = new Set<number>();
  let penAt = -Infinity;
  let waiting: { first: P; timer: ReturnType<typeof setTimeout> } | null = null;
  let isPainting = false;
  const isPalm = (e: P) => e.timeStamp - penAt < palm.afterPen || Math.max(e.width, e.height) > palm.size;
  const begin = () => {
    if (!waiting) return;
    clearTimeout(waiting.timer);
    isPainting = true;
    painting.begin(waiting.first);
    waiting = null;
  };
  const stop = () => {
    if (waiting) clearTimeout(waiting.timer);
    waiting = null;
    if (isPainting) painting.leave();
    isPainting = false;
  };
  const isTouch = (e: P): boolean => {
    if (e.pointerType === 'pen') penAt = e.timeStamp;
    return e.pointerType === 'touch';
  };
  const way = (a: Point, b: Point) => Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY);
  return {
    down(e: P): boolean {
      if (!isTouch(e)) return false;
      if (isPalm(e)) return true;
      fingers.add(e.pointerId);
      if (fingers.size > 1) stop();
      else waiting = { first: e, timer: setTimeout(begin, waits.time) };
      return true;
    },
    move(e: P): boolean {
      if (!isTouch(e)) return false;
      if (!fingers.has(e.pointerId) || fingers.size > 1) return true;
      if (waiting && way(waiting.first, e) > waits.way) begin();
      if (isPainting) painting.move(e);
      return true;
    },
    up(e: P): boolean {
      if (!isTouch(e)) return false;
      if (!fingers.delete(e.pointerId) || fingers.size) return true;
      begin();
      if (isPainting) painting.end(e);
      isPainting = false;
      return true;
    },
    stop,
  };
}
