'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useEffectEvent, useRef } from 'react';
import { setUpDrawing, drained } from './contextWithoutWaits';

interface Props {
  /** All is set up: frames may be drawn. */
  onCompiled: (isCompiled: true) => void;
  /** The first frame is drawn and shown, or the graphics are lost. */
  onShown: (how: 'drawn' | 'lost') => void;
}

/**
 * Stands last in a scene. Its canvas is hidden until a first frame is drawn: a canvas that is seen is waited for by the page
 * until the graphics process has drawn it, which takes longest the first time.
 */
export function FirstFrame({ onCompiled, onShown }: Props) {
  const get = useThree((s) => s.get);
  const frames = useRef(0);
  useFrame(() => void frames.current++);
  const compiled = useEffectEvent(onCompiled);
  const shown = useEffectEvent(onShown);
  useEffect(() => {
    let isGone = false;
    const { gl } = get();
    const isOver = () => isGone || gl.getContext().isContextLost();
    gl.domElement.style.visibility = 'hidden';
    const draw = async () => {
      const { scene, camera } = get();
      await setUpDrawing(gl, scene, camera).catch(() => {});
      if (isGone) return;
      compiled(true);
      // Until one is drawn after which none is asked for; what moves all the while is shown after a few.
      const isSettled = (before: number) => frames.current > 0 && frames.current === before && get().internal.frames === 0;
      for (let before = -1; !isOver() && frames.current < 3 && !isSettled(before);) {
        before = frames.current;
        await drained(gl);
      }
      gl.domElement.style.visibility = '';
      if (!isGone) shown(gl.getContext().isContextLost() ? 'lost' : 'drawn');
    };
    void draw();
    return () => {
      isGone = true;
    };
  }, [get]);
  return null;
}
