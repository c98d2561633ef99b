'use client';
import { arrows } from '@/ui/arrows';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { usePhrase } from '@/state/chosen/phrase';
import { cutAsLit, refreshCut, useCut } from '@/state/cut/cutting';
import { announce } from '@/state/told/announce';
import { notifyError } from '@/state/told/notices';
import { clickFace, faceName, pointAtFace, spotOfClick } from '@/state/pick/picking';
import { usePick } from '@/state/chosen/pickState';
import { castRay, Hovering } from '@/state/pick/pointing';
import { turnView, zoomView } from '@/state/chosen/viewState';
import { listen } from '@/ui/listen';
import type { LoadedMesh } from '@/workers/residents';
import { faceTowards } from './faceTowards';
import { rayUnderPointer } from './rayUnderPointer';
import { count } from '@/ui/words';

/** Pixels that the pointer may move between press and release for it to be a click. */
const clickSlack = 4;

const isAway = (press: { x: number; y: number }, { clientX, clientY }: PointerEvent): boolean =>
  Math.hypot(clientX - press.x, clientY - press.y) > clickSlack;

/** Turns pointer and keys on the viewport into faces: hover, click, and the face cursor. */
export function FacePointer({ loaded, surface }: { loaded: LoadedMesh; surface: HTMLElement }) {
  const get = useThree((s) => s.get);

  useEffect(() => {
    const rayUnder = rayUnderPointer(surface, () => get().camera);
    const hitUnder = (clientX: number, clientY: number) => castRay(loaded.id, rayUnder(clientX, clientY));
    const hovering = new Hovering(loaded.id);

    let press: { x: number; y: number; button: number; isDrag: boolean } | null = null;
    const onDown = (e: PointerEvent) => {
      press = { x: e.clientX, y: e.clientY, button: e.button, isDrag: false };
    };
    const onMove = (e: PointerEvent) => {
      if (e.buttons) {
        // What was away once is a drag, also where it comes back: a lasso ends where it began.
        if (press && isAway(press, e)) press.isDrag = true;
        if (press?.isDrag) hovering.leave();
        return;
      }
      usePick.setState({ cursor: -1 });
      void hovering.moveTo(() => rayUnder(e.clientX, e.clientY));
    };
    const onUp = async (e: PointerEvent) => {
      const isClick = press?.button === 0 && !press.isDrag && !isAway(press, e);
      press = null;
      if (!isClick) return;
      const { timeStamp, shiftKey, altKey, ctrlKey } = e;
      try {
        const hit = await hitUnder(e.clientX, e.clientY);
        if (!hit) return;
        if (usePhrase.getState().act === 'cut') {
          await pointAtFace(hit.face, hit);
          await refreshCut();
          await cutAsLit();
          return;
        }
        spotOfClick(hit.face, hit);
        await clickFace(hit.face, { add: shiftKey, take: altKey || ctrlKey }, timeStamp);
      } catch (error) {
        notifyError(error);
      }
    };
    const onLeave = () => hovering.leave();

    const moveCursor = async (arrow: [number, number]) => {
      const { camera } = get();
      camera.updateMatrixWorld();
      const box = surface.getBoundingClientRect();
      const { cursor } = usePick.getState();
      const middle = async () => {
        const under = await hitUnder(box.left + box.width / 2, box.top + box.height / 2);
        if (under === undefined) return -1;
        return under ? under.face : faceTowards(loaded, camera, null, arrow);
      };
      const next = cursor < 0 ? await middle() : faceTowards(loaded, camera, cursor, arrow);
      if (next < 0) return;
      usePick.setState({ cursor: next });
      await pointAtFace(next);
      if (usePhrase.getState().act === 'cut') {
        await refreshCut();
        const { lit, problem } = useCut.getState();
        return announce(`${faceName(next)}; ${lit ? `Enter cuts ${count(lit.faces, 'face')}` : problem}`);
      }
      const { wouldTake } = usePick.getState();
      announce(`${faceName(next)}; Enter takes ${wouldTake.length === 1 ? 'it' : count(wouldTake.length, 'face')}`);
    };
    const onKey = (e: KeyboardEvent) => {
      const onPage = arrows.get(e.key);
      // In the view up is up.
      const arrow = onPage && ([onPage[0], -onPage[1]] as [number, number]);
      if (arrow && e.shiftKey) {
        e.preventDefault();
        turnView(arrow[0] * 15, arrow[1] * 15);
      } else if (e.key === 'PageUp' || e.key === 'PageDown') {
        e.preventDefault();
        zoomView(e.key === 'PageUp' ? 1.25 : 0.8);
      } else if (arrow && !e.ctrlKey && !e.metaKey && !e.altKey) {
        e.preventDefault();
        void moveCursor(arrow);
      } else if (e.key === 'Enter') {
        const { cursor } = usePick.getState();
        if (cursor < 0) return;
        e.preventDefault();
        if (usePhrase.getState().act === 'cut') void cutAsLit();
        else void clickFace(cursor, { add: e.shiftKey, take: e.altKey || e.ctrlKey }, e.timeStamp);
      }
    };
    const noMenu = (e: Event) => e.preventDefault();
    return listen(surface, {
      pointerdown: onDown,
      pointermove: onMove,
      pointerup: onUp,
      pointerleave: onLeave,
      keydown: onKey,
      contextmenu: noMenu,
    });
  }, [loaded, surface, get]);
  return null;
}
