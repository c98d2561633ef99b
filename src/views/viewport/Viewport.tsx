'use client';
import { Canvas } from '@react-three/fiber';
import { useEffect, useEffectEvent, useState } from 'react';
import { useView } from '@/state/view/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { useCompare } from '@/state/view/compare';
import { CameraRig } from './CameraRig';
import { ComparedModels } from './ComparedModels';
import { compileShaders, loseContextWhenIdle } from './contextWithoutWaits';
import { DragPick } from './DragPick';
import { DragShape } from './DragShape';
import { FacePointer } from './FacePointer';
import { LineDrag, LineOnScreen } from './LineDrag';
import { LineHandles } from './LineHandles';
import { FloorGrid } from './FloorGrid';
import { gridStep } from './gridStep';
import { ModelView } from './ModelView';
import { SeamDrag } from './SeamDrag';
import { ViewportGuard } from './ViewportGuard';
import { Waiting } from '@/ui/Waiting';
import { largestSide } from '@/core/mesh/measure';

interface Shown {
  loaded: LoadedMesh;
  modelId: string;
  name: string;
}

/** The model on its floor, drawn anew where the graphics are lost. */
const isDriven = typeof navigator !== 'undefined' && navigator.webdriver;

export default function Viewport(shown: Shown) {
  return <ViewportGuard>{(onLost, onDrawn) => <Scene {...shown} onLost={onLost} onDrawn={onDrawn} />}</ViewportGuard>;
}

/** Frames are drawn only when something changes. */
function Scene({ loaded, modelId, name, onLost, onDrawn }: Shown & { onLost: () => void; onDrawn: () => void }) {
  const [surface, setSurface] = useState<HTMLDivElement | null>(null);
  const [isRinged, setRinged] = useState(false);
  const surround = useView((s) => s.surround);
  const grid = useView((s) => s.grid);
  const panes = useCompare((s) => s.panes);
  /** Nothing is drawn before the shaders are compiled, or the first frame would hold the page until they are. */
  const [isReady, setReady] = useState(false);
  const size = largestSide(loaded.bounds);
  // Only what is lost while this is shown counts: a viewport that is left gives its graphics up itself.
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const tell = useEffectEvent(onLost);
  useEffect(() => {
    const onContextLost = () => tell();
    canvas?.addEventListener('webglcontextlost', onContextLost);
    return () => canvas?.removeEventListener('webglcontextlost', onContextLost);
  }, [canvas]);
  return (
    <>
      <div
        ref={setSurface}
        id="viewport"
        tabIndex={0}
        role="application"
        aria-busy={!isReady}
        aria-label={
          panes
            ? `${name} in ${panes.length} colorings side by side`
            : `${name} in the viewport. Arrow keys step from face to face, Enter takes by the phrase.`
        }
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
          // A browser that is driven draws in software: a quarter of the pixels takes two thirds of a journey's time.
          dpr={isDriven ? 0.5 : [1, 2]}
          gl={{ antialias: !isDriven, powerPreference: 'high-performance' }}
          onCreated={({ gl, scene, camera }) => {
            setCanvas(gl.domElement);
            loseContextWhenIdle(gl);
            const ready = () => {
              setReady(true);
              if (!gl.getContext().isContextLost()) onDrawn();
            };
            void compileShaders(gl, scene, camera).then(ready, ready);
          }}
        >
          <CameraRig key={modelId} loaded={loaded} modelId={modelId} />
          {grid && <FloorGrid step={gridStep(size)} reach={size * 2} />}
          {panes ? (
            <ComparedModels key={loaded.id} loaded={loaded} modelId={modelId} panes={panes} />
          ) : (
            <>
              <ModelView key={loaded.id} loaded={loaded} modelId={modelId} />
              {surface && <FacePointer loaded={loaded} surface={surface} />}
              {surface && <DragPick loaded={loaded} surface={surface} />}
              {surface && <LineDrag loaded={loaded} surface={surface} />}
              {surface && <SeamDrag loaded={loaded} surface={surface} />}
              <LineOnScreen />
            </>
          )}
        </Canvas>
        <DragShape />
        {!isReady && <Waiting>Drawing {name}…</Waiting>}
      </div>
      {/* Beside the surface, not in it: what is pressed here is no press on the model. */}
      <LineHandles />
    </>
  );
}
