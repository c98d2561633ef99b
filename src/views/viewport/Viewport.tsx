'use client';
import { Canvas, type GLProps } from '@react-three/fiber';
import { memo, useEffect, useEffectEvent, useState } from 'react';
import { useView } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { useCompare } from '@/state/shown/compare';
import { CameraRig } from './CameraRig';
import { ComparedColorings, ComparedModels, type ShownKit } from './ComparedModels';
import { makeRenderer, pixelRatio } from './contextWithoutWaits';
import { CutLines } from './CutLines';
import { DragPick } from './DragPick';
import { DragShape } from './DragShape';
import { FacePointer } from './FacePointer';
import { LineDrag, LineOnScreen } from './LineDrag';
import { LitTexels, PaintLine } from './LitTexels';
import { LineHandles } from './LineHandles';
import { FirstFrame } from './FirstFrame';
import { FloorGrid } from './FloorGrid';
import { gridStep } from './gridStep';
import { ModelView } from './ModelView';
import { PaintPointer } from './PaintPointer';
import { SeamDrag } from './SeamDrag';
import { ViewportGuard } from './ViewportGuard';
import { InTurn } from '@/ui/InTurn';
import { Waiting } from '@/ui/Waiting';
import { largestSide } from '@/core/shapes/mesh/measure';

interface Shown {
  loaded: LoadedMesh;
  modelId: string;
  name: string;
  /** A press sets texels, instead of taking faces. */
  isPainted?: boolean;
  /** Ways that are tried, side by side instead of the model as it is. */
  tried?: readonly ShownKit[];
}

/** The model on its floor, drawn anew where the graphics are lost. */

export default function Viewport(shown: Shown) {
  return <ViewportGuard>{(onLost, onDrawn) => <Scene {...shown} onLost={onLost} onDrawn={onDrawn} />}</ViewportGuard>;
}

function Scene({ loaded, modelId, name, isPainted = false, tried, onLost, onDrawn }: Shown & { onLost: () => void; onDrawn: () => void }) {
  const [surface, setSurface] = useState<HTMLDivElement | null>(null);
  const [isRinged, setRinged] = useState(false);
  const surround = useView((s) => s.surround);
  const panes = useCompare((s) => s.panes);
  const [first, setFirst] = useState<'drawn' | 'lost' | null>(null);
  // Only what is lost while this is shown counts: a viewport that is left gives its graphics up itself.
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const tell = useEffectEvent((what: 'drawn' | 'lost') => (what === 'lost' ? onLost() : onDrawn()));
  useEffect(() => {
    const onContextLost = () => tell('lost');
    canvas?.addEventListener('webglcontextlost', onContextLost);
    return () => canvas?.removeEventListener('webglcontextlost', onContextLost);
  }, [canvas]);
  useEffect(() => {
    if (first === 'drawn') tell(first);
  }, [first]);
  return (
    <>
      <div
        ref={setSurface}
        id="viewport"
        tabIndex={0}
        role="application"
        aria-busy={!first}
        aria-label={
          tried
            ? `${name} in ${tried.length} ways side by side. Drag turns all of them.`
            : panes
              ? `${name} in ${panes.length} colorings side by side`
              : isPainted
                ? `${name} in the viewport. A press sets texels by the phrase; the art beside it is painted by keys.`
                : `${name} in the viewport. Arrow keys step from face to face, Enter takes by the phrase.`
        }
        // A ring only for those who came by keyboard: a click followed by a key would show one too.
        onFocus={(e) => setRinged(e.currentTarget.matches(':focus-visible'))}
        onBlur={() => setRinged(false)}
        onPointerDown={() => setRinged(false)}
        className={`absolute inset-0 touch-none ${isRinged ? 'outline-2 outline-offset-[-3px] outline-ink' : 'outline-none'}`}
        style={{ background: `rgb(${surround} ${surround} ${surround})` }}
      >
        <Picture
          loaded={loaded}
          modelId={modelId}
          isPainted={isPainted}
          tried={tried}
          surface={surface}
          onCanvas={setCanvas}
          onShown={setFirst}
        />
        <DragShape />
        {!first && <Waiting>Drawing {name}…</Waiting>}
      </div>
      {/* Beside the surface, not in it: what is pressed here is no press on the model. */}
      <LineHandles />
    </>
  );
}

interface Drawn {
  loaded: LoadedMesh;
  modelId: string;
  isPainted: boolean;
  tried: readonly ShownKit[] | undefined;
  surface: HTMLDivElement | null;
  onCanvas: (canvas: HTMLCanvasElement) => void;
  onShown: (how: 'drawn' | 'lost') => void;
}

/** Frames are drawn only when something changes; rendering what stands around them asks for none. */
const Picture = memo(function Picture({ loaded, modelId, isPainted, tried, surface, onCanvas, onShown }: Drawn) {
  const grid = useView((s) => s.grid);
  const panes = useCompare((s) => s.panes);
  /** Nothing is drawn before the shaders are compiled, or the first frame would hold the page until they are. */
  const [isCompiled, setCompiled] = useState(false);
  const size = largestSide(loaded.bounds);
  return (
    <Canvas
      frameloop={isCompiled ? 'demand' : 'never'}
      flat
      linear
      dpr={pixelRatio()}
      gl={makeRenderer as GLProps}
      onCreated={({ gl }) => onCanvas(gl.domElement)}
    >
      <InTurn>
        <CameraRig key={modelId} loaded={loaded} modelId={modelId} tried={tried?.length ?? 0} />
      </InTurn>
      <InTurn>{grid && <FloorGrid step={gridStep(size)} reach={size * 2} />}</InTurn>
      <InTurn>
        {tried ? (
          <ComparedModels key={loaded.id} loaded={loaded} modelId={modelId} shown={tried} />
        ) : panes ? (
          <ComparedColorings key={loaded.id} loaded={loaded} modelId={modelId} panes={panes} />
        ) : (
          <ModelView key={loaded.id} loaded={loaded} modelId={modelId} />
        )}
      </InTurn>
      {isPainted && !tried && (
        <InTurn>
          {surface && <PaintPointer loaded={loaded} surface={surface} />}
          <LitTexels />
          <PaintLine />
        </InTurn>
      )}
      {!panes && !isPainted && !tried && (
        <InTurn>
          {surface && <FacePointer loaded={loaded} surface={surface} />}
          {surface && <DragPick loaded={loaded} surface={surface} />}
          {surface && <LineDrag loaded={loaded} surface={surface} />}
          {surface && <SeamDrag loaded={loaded} surface={surface} />}
          <LineOnScreen />
          <CutLines />
        </InTurn>
      )}
      <InTurn>
        <FirstFrame onCompiled={setCompiled} onShown={onShown} />
      </InTurn>
    </Canvas>
  );
});
