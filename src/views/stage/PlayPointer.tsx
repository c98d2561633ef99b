'use client';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import type { Object3D } from 'three';
import { answersClicks, clickInPlay, usePlaying, walkTo } from '@/state/stage/playing';
import { stageRay, still } from './stageRay';

/** Clicks in play: what answers them is outlined before, and a click on the ground sends the visitor there. */
export function PlayPointer({ surface, objects }: { surface: HTMLElement; objects: readonly Object3D[] }) {
  const { camera } = useThree();
  useEffect(() => {
    const cast = stageRay(camera, surface, objects);
    let pressed: { x: number; y: number } | null = null;
    const answering = (e: PointerEvent) => {
      const { play } = usePlaying.getState();
      const met = cast(e);
      const id = met?.placement?.id;
      return { met, id: play && id !== undefined && answersClicks(play, id) ? id : null };
    };
    const point = (id: string | null) => {
      if (usePlaying.getState().pointed !== id) usePlaying.setState({ pointed: id });
      surface.style.cursor = id ? 'pointer' : '';
    };
    const onDown = (e: PointerEvent) => {
      pressed = e.button === 0 ? { x: e.clientX, y: e.clientY } : null;
    };
    const onMove = (e: PointerEvent) => {
      if (!pressed) point(answering(e).id);
    };
    const onUp = (e: PointerEvent) => {
      const from = pressed;
      pressed = null;
      if (!from || Math.hypot(e.clientX - from.x, e.clientY - from.y) >= still) return;
      const { met, id } = answering(e);
      point(id);
      if (id) clickInPlay(id);
      else if (met && !met.placement) walkTo(met.point.x, met.point.z);
    };
    const onLeave = () => point(null);
    surface.addEventListener('pointerdown', onDown);
    surface.addEventListener('pointermove', onMove);
    surface.addEventListener('pointerleave', onLeave);
    window.addEventListener('pointerup', onUp);
    return () => {
      surface.style.cursor = '';
      surface.removeEventListener('pointerdown', onDown);
      surface.removeEventListener('pointermove', onMove);
      surface.removeEventListener('pointerleave', onLeave);
      window.removeEventListener('pointerup', onUp);
    };
  }, [surface, objects, camera]);
  return null;
}
