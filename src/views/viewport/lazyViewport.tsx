import dynamic from 'next/dynamic';
import { Waiting } from '@/ui/Waiting';

/** Fetches the code that draws in 3D: at once where a kit opens, so that it is there when the first mesh is. */
export const loadViewport = () => import('./Viewport');

/** The viewport, whose code comes only where it is shown. */
export const Viewport = dynamic(loadViewport, { ssr: false, loading: () => <Waiting>Opening the viewport…</Waiting> });
