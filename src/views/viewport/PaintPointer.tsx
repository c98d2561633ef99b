'use client';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { texelAtPoint } from '@/core/faces/seat/texelsOnFaces';
import { usePaint } from '@/state/chosen/paint';
import { artInHand, isPaintedCell } from '@/state/paint/artInHand';
import { beginStroke, type Drawn } from '@/state/paint/drawn';
import { pointAlongLine, pointAtTexel, takeColorAt } from '@/state/paint/painting';
import { prepareMirror, type Texel } from '@/state/paint/reach';
import { castRay, castThrough, type PointerRay } from '@/state/pick/pointing';
import { listen } from '@/ui/listen';
import { touchPainting } from '@/views/paint/touching';
import type { LoadedMesh } from '@/workers/residents';
import { rayUnderPointer } from './rayUnderPointer';

/** Pixels between the places of a stroke that are looked at, and how many of them at most for one move of the pointer. */
const apart = 3;
const mostSteps = 60;

/** Turns the pointer on the model into texels of its art: what a press would set is lit, a press and drag set it. */
export function PaintPointer({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);
  useEffect(() => {
    prepareMirror();
    const rayUnder = rayUnderPointer(surface, () => get().camera);
    let stroke: Drawn | null = null;
    let under: Texel | null = null;
    let behind: Texel[] = [];
    /** Places to be looked at: all along a stroke, else the last. */
    let waiting: (() => PointerRay)[] = [];
    let isCasting = false;
    let isOver = false;
    let isLine = false;
    let before: [number, number] | null = null;

    /** The texel that is meant, and those behind it where the phrase goes through all layers. */
    const texelsUnder = async (ray: PointerRay): Promise<Texel[]> => {
      const hits = usePaint.getState().isThrough ? await castThrough(loaded.id, ray) : [await castRay(loaded.id, ray)];
      // The art beside the model is the one under the pointer.
      const under = hits[0] && artInHand()?.seats.cell[hits[0].face];
      if (under && !stroke && isPaintedCell(under)) usePaint.setState({ artCell: under });
      const art = artInHand();
      return hits.flatMap((hit) => {
        if (!hit || !art || art.seats.cell[hit.face] !== art.cell.id) return [];
        return [texelAtPoint(loaded.mesh, loaded.triangles, art.seats, art.pixels, hit.face, hit.point)].filter((t) => t !== null);
      });
    };
    /** Rays are cast one at a time. */
    const follow = async (rays: (() => PointerRay)[]) => {
      waiting = stroke ? [...waiting, ...rays] : rays.slice(-1);
      if (isCasting) return;
      isCasting = true;
      try {
        while (waiting.length) {
          const [found = null, ...others] = await texelsUnder(waiting.shift()!());
          if (!isOver && !stroke) continue;
          [under, behind] = [found, others];
          if (stroke && found) stroke.moveTo(found, true, behind);
          else if (!stroke) {
            if (isLine && found) pointAlongLine(found);
            else pointAtTexel(found, { behind });
            usePaint.setState({ isOverModel: found !== null });
          }
        }
      } catch (error) {
        console.warn('What lies under the brush could not be told.', error);
      } finally {
        isCasting = false;
      }
    };
    /** A finger does not hover: what lies under it is looked up when it begins. */
    const beginUnderFinger = async ({ clientX, clientY }: PointerEvent) => {
      isOver = true;
      before = [clientX, clientY];
      [under = null, ...behind] = await texelsUnder(rayUnder(clientX, clientY)).catch(() => []);
      stroke = under && isOver ? beginStroke(under, { behind }) : null;
      if (stroke) usePaint.setState({ isOverModel: true });
    };
    const fingers = touchPainting<PointerEvent>({
      begin: (e) => (begun = beginUnderFinger(e)),
      move: (e) => void begun.then(() => stroke && draw(e)),
      end: () => void begun.then(onUp).then(onLeave),
      leave: () => void begun.then(onUp).then(onLeave),
    });
    let begun: Promise<void> = Promise.resolve();
    /** One after the other; what fails holds up nothing that comes after it. */
    const follows = (step: () => Promise<void>) => {
      begun = begun.then(step).catch((error: unknown) => console.warn('A press could not be followed.', error));
    };
    const onMove = (e: PointerEvent) => {
      if (fingers.move(e)) return;
      isOver = true;
      isLine = e.shiftKey;
      if (e.buttons && !stroke) return void begun.then(() => stroke && draw(e));
      draw(e);
    };
    const draw = ({ clientX, clientY }: PointerEvent) => {
      const [x, y] = (stroke && before) ?? [clientX, clientY];
      const steps = Math.min(mostSteps, Math.max(1, Math.ceil(Math.hypot(clientX - x, clientY - y) / apart)));
      before = [clientX, clientY];
      void follow(
        Array.from(
          { length: steps },
          (_, i) => () => rayUnder(x + ((clientX - x) * (i + 1)) / steps, y + ((clientY - y) * (i + 1)) / steps),
        ),
      );
    };
    const onDown = (e: PointerEvent) => {
      if (fingers.down(e)) return;
      // Elsewhere a press turns the view.
      if (e.button !== 0 || !usePaint.getState().isOverModel) return;
      surface.setPointerCapture(e.pointerId);
      if (!isCasting && !stroke) return press(e);
      follows(async () => {
        await settled();
        press(e);
      });
    };
    const press = ({ clientX, clientY, altKey, shiftKey }: PointerEvent) => {
      if (!under) return;
      if (altKey) return takeColorAt(under);
      before = [clientX, clientY];
      stroke = beginStroke(under, { isLine: shiftKey, behind });
    };
    /** A quick hand presses before what lies under it is known. */
    const settled = async () => {
      while (isCasting) await new Promise((done) => setTimeout(done, 5));
    };
    // The line shows as soon as its key is held, not only where the pointer moves on.
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== 'Shift' || !under || stroke) return;
      isLine = e.type === 'keydown';
      if (isLine) pointAlongLine(under);
      else pointAtTexel(under);
    };
    const onUp = async () => {
      // What is still being looked at belongs to the stroke.
      await settled();
      stroke?.end(under);
      stroke = null;
      if (!isOver) onLeave();
    };
    const onLift = (e: PointerEvent) => {
      if (!fingers.up(e)) follows(onUp);
    };
    const onLeave = () => {
      isOver = false;
      if (stroke) return;
      under = null;
      pointAtTexel(null);
      usePaint.setState({ isOverModel: false });
    };
    const stop = listen(surface, { pointermove: onMove, pointerdown: onDown, pointerup: onLift, pointercancel: onLift, pointerleave: (e: PointerEvent) => e.pointerType !== 'touch' && onLeave(), contextmenu: (e: Event) => e.preventDefault() }); // prettier-ignore
    const stopKeys = listen(window, { keydown: onKey, keyup: onKey });
    return () => {
      stop();
      stopKeys();
      fingers.stop();
      void onUp();
      onLeave();
    };
  }, [loaded, surface, get]);
  return null;
}
