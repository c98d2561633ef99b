import dynamic from 'next/dynamic';
import { Waiting } from '@/ui/Waiting';

/** Fetches the code that draws in 3D: at once where a kit opens, so that it is there when the first mesh is. */
export async function loadViewport() {
  // One after the other: evaluated in one go they would hold the page three times as long.
  await import('three');
  await pause();
  await import('@react-three/fiber');
  await pause();
  return import('./Viewport');
}

const pause = () => new Promise((resolve) => setTimeout(resolve));

/** The viewport, whose code comes only where it is shown. */
export const Viewport = dynamic(loadViewport, { ssr: false, loading: () => <Waiting>Opening the viewport…</Waiting> });
