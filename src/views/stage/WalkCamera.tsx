'use client';
import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { eyeHeight } from '@/core/stage/walk';
import { lookAround, usePlaying } from '@/state/stage/playing';

/** Radians for each pixel of a drag. */
const perPixel = 0.004;

/** The camera is the visitor's eyes; a drag looks about. */
export function WalkCamera({ surface }: { surface: HTMLElement }) {
  const { camera, invalidate, set } = useThree();
  useEffect(() => {
    const stand = () => {
      const { x, z, yaw, pitch } = usePlaying.getState().visitor;
      camera.position.set(x, eyeHeight, z);
      camera.rotation.set(pitch, yaw, 0, 'YXZ');
      invalidate();
    };
    stand();
    return usePlaying.subscribe((now, was) => now.visitor !== was.visitor && stand());
  }, [camera, invalidate]);
  useEffect(() => {
    // What is dragged on the stage switches these off for as long.
    const controls = { enabled: true };
    set({ controls: controls as never });
    let last: { x: number; y: number } | null = null;
    const onDown = (e: PointerEvent) => {
      last = controls.enabled ? { x: e.clientX, y: e.clientY } : null;
    };
    const onMove = (e: PointerEvent) => {
      if (!last || !controls.enabled) return;
      lookAround((e.clientX - last.x) * perPixel, (e.clientY - last.y) * perPixel);
      last = { x: e.clientX, y: e.clientY };
    };
    const onUp = () => {
      last = null;
    };
    surface.addEventListener('pointerdown', onDown);
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
    return () => {
      set({ controls: null });
      surface.removeEventListener('pointerdown', onDown);
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
    };
  }, [surface, set]);
  return null;
}

/** The visitor as seen from above: a pawn of a person's height, and a wedge where they look. */
export function Pawn() {
  const { x, z, yaw } = usePlaying((s) => s.visitor);
  const { invalidate } = useThree();
  useEffect(() => invalidate(), [x, z, yaw, invalidate]);
  return (
    <group position={[x, 0, z]} rotation={[0, yaw, 0]}>
      <mesh rotation={[-Math.PI / 2, 0, 0]} position={[0, 0.02, 0]}>
        <ringGeometry args={[0.55, 0.72, 32]} />
        <meshBasicMaterial color="#ffffff" />
      </mesh>
      <mesh position={[0, 0.75, 0]}>
        <coneGeometry args={[0.32, 1.5, 20]} />
        <meshBasicMaterial color="#111111" />
      </mesh>
      <mesh position={[0, 1.5, 0]}>
        <sphereGeometry args={[0.2, 16, 12]} />
        <meshBasicMaterial color="#ffffff" />
      </mesh>
      <mesh rotation={[-Math.PI / 2, 0, 0]} position={[0, 0.02, -0.98]}>
        <circleGeometry args={[0.22, 3, Math.PI / 2]} />
        <meshBasicMaterial color="#ffffff" />
      </mesh>
    </group>
  );
}
