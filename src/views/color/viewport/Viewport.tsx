'use client';
import { Canvas } from '@react-three/fiber';
import { useState } from 'react';
import { useView } from '@/state/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { CameraRig } from './CameraRig';
import { compileShaders, loseContextWhenIdle } from './contextWithoutWaits';
import { DragPick } from './DragPick';
import { DragShape } from './DragShape';
import { FacePointer } from './FacePointer';
import { FloorGrid } from './FloorGrid';
import { gridStep } from './gridStep';
import { ModelView } from './ModelView';
import { Waiting } from '../Waiting';
import { largestSide } from '@/core/mesh/measure';

/** The model on its floor. Frames are drawn only when something changes. */
export default function Viewport({ loaded, modelId, name }: { loaded: LoadedMesh; modelId: string; name: string }) {
  const [surface, setSurface] = useState<HTMLDivElement | null>(null);
  const [isRinged, setRinged] = useState(false);
  const surround = useView((s) => s.surround);
  const grid = useView((s) => s.grid);
  /** Nothing is drawn before the shaders are compiled, or the first frame would hold the page until they are. */
  const [isReady, setReady] = useState(false);
  const size = largestSide(loaded.bounds);
  return (
    <div
      ref={setSurface}
      id="viewport"
      tabIndex={0}
      role="application"
      aria-busy={!isReady}
      aria-label={`${name} in the viewport. Arrow keys step from face to face, Enter takes by the phrase.`}
      // A ring only for those who came by keyboard: a click followed by a key would show one too.
      onFocus={(e) => setRinged(e.currentTarget.matches(':focus-visible'))}
      onBlur={() => setRinged(false)}
      onPointerDown={() => setRinged(false)}
      className={`absolute inset-0 touch-none ${isRinged ? 'outline-2 outline-offset-[-3px] outline-ink' : 'outline-none'}`}
      style={{ background: `rgb(${surround} ${surround} ${surround})` }}
    >
      <Canvas
        frameloop={isReady ? 'demand' : 'never'}
        flat
        linear
        dpr={[1, 2]}
        gl={{ antialias: !navigator.webdriver, powerPreference: 'high-performance' }}
        onCreated={({ gl, scene, camera }) => {
          loseContextWhenIdle(gl);
          const ready = () => setReady(true);
          void compileShaders(gl, scene, camera).then(ready, ready);
        }}
      >
        <CameraRig key={modelId} loaded={loaded} modelId={modelId} />
        {grid && <FloorGrid step={gridStep(size)} reach={size * 2} />}
        <ModelView key={loaded.id} loaded={loaded} modelId={modelId} />
        {surface && <FacePointer loaded={loaded} surface={surface} />}
        {surface && <DragPick loaded={loaded} surface={surface} />}
      </Canvas>
      <DragShape />
      {!isReady && <Waiting>Drawing {name}…</Waiting>}
    </div>
  );
}
