'use client';
import { OrbitControls, PerspectiveCamera } from '@react-three/drei';
import { Canvas, useThree, type GLProps } from '@react-three/fiber';
import { useEffect, useEffectEvent, useMemo, useRef, useState, type ComponentRef } from 'react';
import { Color, MOUSE } from 'three';
import { rgbFromHex } from '@/core/ground/color/hex';
import type { Placement } from '@/core/kit/kit';
import { eyeHeight } from '@/core/stage/walk';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { usePictures } from '@/state/chosen/pictures';
import { placeVisitor, usePlaying } from '@/state/stage/playing';
import { gate, provideStageView, stageBounds } from '@/state/stage/stageView';
import { useStage } from '@/state/stage/stage';
import { makeRenderer, pixelRatio } from '@/views/viewport/contextWithoutWaits';
import { FirstFrame } from '@/views/viewport/FirstFrame';
import { FloorGrid } from '@/views/viewport/FloorGrid';
import { inkLine } from '@/views/viewport/inkLine';
import { ViewportGuard } from '@/views/viewport/ViewportGuard';
import { PlayPointer } from './PlayPointer';
import { StagePointer } from './StagePointer';
import { Pawn, WalkCamera } from './WalkCamera';
import { drawnApart, StageCrowd } from './StageCrowd';
import { boxEdges, StageGeometries, stageMaterial } from './stageMeshes';
import { useDetail } from './useDetail';

/** Bytes of the screen as shares: nothing is converted on its way there. */
const share = (hex: string) => rgbFromHex(hex).map((v) => v / 255) as [number, number, number];
const sky = '#b9cbd6';
const ground = '#8d967c';
/** Metres of ground to each side. */
const reach = 400;

/** The stage in three dimensions. */
export default function StageScene() {
  return <ViewportGuard>{(onLost, onDrawn) => <Scene onLost={onLost} onDrawn={onDrawn} />}</ViewportGuard>;
}

function Scene({ onLost, onDrawn }: { onLost: () => void; onDrawn: () => void }) {
  const [surface, setSurface] = useState<HTMLDivElement | null>(null);
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const [isCompiled, setCompiled] = useState(false);
  const [isReady, setReady] = useState(false);
  const step = useStage((s) => s.step);
  const isPlaying = usePlaying((s) => s.play !== null);
  const isPlacing = useStage((s) => s.act === 'place');
  const tell = useEffectEvent(onLost);
  useEffect(() => {
    const onContextLost = () => tell();
    canvas?.addEventListener('webglcontextlost', onContextLost);
    return () => canvas?.removeEventListener('webglcontextlost', onContextLost);
  }, [canvas]);
  return (
    <div
      ref={setSurface}
      id="stage"
      tabIndex={0}
      role="application"
      aria-busy={!isReady}
      aria-label={
        isPlaying
          ? 'The stage, in play. Arrow keys walk and turn; what is there is in the list beside it.'
          : isPlacing
            ? 'The stage. Enter places the model in hand in the middle of the view, R turns it, Escape puts it away.'
            : 'The stage. Arrow keys move what is chosen, R turns it, Delete takes it off.'
      }
      className="absolute inset-0 touch-none outline-none focus-visible:outline-2 focus-visible:-outline-offset-3 focus-visible:outline-ink"
      style={{ background: sky }}
    >
      <Canvas
        frameloop={isCompiled ? 'demand' : 'never'}
        flat
        linear
        dpr={pixelRatio()}
        gl={makeRenderer as GLProps}
        onCreated={({ gl }) => {
          setCanvas(gl.domElement);
          gl.setClearColor(new Color().fromArray(share(sky)));
        }}
      >
        <StageCamera surface={surface} />
        <mesh rotation={[-Math.PI / 2, 0, 0]} position={[0, -0.01, 0]}>
          <circleGeometry args={[reach * 4, 64]} />
          {/* Far away a hand's breadth below the grid is less than depth can tell. */}
          <meshBasicMaterial color={share(ground)} polygonOffset polygonOffsetFactor={1} polygonOffsetUnits={8} />
        </mesh>
        <FloorGrid step={step || 1} reach={reach} />
        <Standing surface={surface} />
        <FirstFrame
          onCompiled={setCompiled}
          onShown={(how) => {
            setReady(true);
            if (how === 'drawn') onDrawn();
          }}
        />
      </Canvas>
    </div>
  );
}

/** What stands there, in its colors, and boxes around what is chosen. */
function Standing({ surface }: { surface: HTMLDivElement | null }) {
  const base = useBase();
  const meshes = useEditor((s) => s.meshes);
  const rasters = usePictures((s) => s.rasters);
  const instanced = useStage((s) => s.instanced);
  const chosen = useStage((s) => s.chosen);
  const { play, revision, pointed } = usePlaying();
  const invalidate = useThree((s) => s.invalidate);
  const geometries = useMemo(() => new StageGeometries(), []);
  const material = useMemo(() => stageMaterial(), []);
  const lines = useMemo(() => inkLine(1.6), []);
  useEffect(() => () => geometries.dispose(), [geometries]);
  useEffect(() => () => [material, lines].forEach((m) => m.dispose()), [material, lines]);
  const loadedOf = useMemo(() => {
    const byModel = new Map(base.kit.models.map((m) => [m.id, meshes[m.mesh]]));
    return (model: string) => byModel.get(model);
  }, [base.kit.models, meshes]);
  const placements = useMemo(
    () =>
      (play?.kit.placements ?? base.kit.placements ?? []).map((p): Placement => {
        if (!play) return p;
        const { variant: _, ...rest } = p;
        const shows = play.shows.get(p.id);
        return shows ? { ...rest, variant: shows } : rest;
      }),
    // What a play shows changes in place, and its revision with it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [base.kit.placements, play, play ? revision : 0],
  );
  const drawn = useMemo(() => {
    const geometryOf = (p: Placement) => {
      const loaded = loadedOf(p.model);
      return loaded ? geometries.of(base, p.model, p.variant, loaded, rasters) : null;
    };
    return instanced ? new StageCrowd(placements, geometryOf, material) : drawnApart(placements, geometryOf, material);
    // What else the kit has, such as cues, changes nothing of what is seen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [base.kit.sheets, base.kit.variants, base.seats, base.patches, placements, loadedOf, rasters, geometries, material, instanced]);
  const crowd = drawn instanceof StageCrowd ? drawn : null;
  const objects = drawn instanceof StageCrowd ? drawn.pickable : drawn;
  useDetail(crowd);
  useEffect(() => {
    const outlined = play ? [pointed] : chosen;
    const standings = placements.flatMap((standing) => {
      const loaded = outlined.includes(standing.id) ? loadedOf(standing.model) : undefined;
      return loaded ? [{ standing, bounds: loaded.bounds }] : [];
    });
    lines.set(boxEdges(standings));
    invalidate();
  }, [placements, chosen, play, pointed, loadedOf, lines, invalidate, objects]);
  useEffect(() => () => crowd?.dispose(), [crowd]);
  return (
    <>
      {crowd ? <primitive key={crowd.root.uuid} object={crowd.root} /> : objects.map((o) => <primitive key={o.uuid} object={o} />)}
      {lines.objects.map((o) => (
        <primitive key={o.uuid} object={o} />
      ))}
      {surface && !play && <StagePointer surface={surface} objects={objects} loadedOf={loadedOf} geometries={geometries} />}
      {surface && play && <PlayPointer surface={surface} objects={objects} />}
    </>
  );
}

/** Cameras as games use them; a drag turns them, at eye height about oneself. */
function StageCamera({ surface }: { surface: HTMLElement | null }) {
  const controls = useRef<ComponentRef<typeof OrbitControls>>(null);
  const camera = useThree((s) => s.camera);
  const invalidate = useThree((s) => s.invalidate);
  const size = useThree((s) => s.size);
  const wish = useStage((s) => s.wish);
  const chosenKind = useStage((s) => s.camera);
  const { play, sees } = usePlaying();
  const kind = !play ? chosenKind : sees === 'walk' ? 'eye' : chosenKind === 'eye' ? 'above' : chosenKind;
  const isWalking = kind === 'eye';
  const frame = useEffectEvent(() => {
    if (isWalking) {
      if (!play) placeVisitor(gate());
      return;
    }
    const c = controls.current;
    // For a moment the controls still hold the camera before this one.
    if (!c || c.object !== camera) return;
    const { center, radius } = stageBounds();
    const away = Math.max(3, radius) * (kind === 'side' ? 2.2 : 2.4);
    const from: Record<Exclude<typeof kind, 'eye'>, [number, number, number]> = {
      above: [center[0] + away * 0.55, center[1] + away * 0.75, center[2] + away * 0.75],
      side: [center[0], Math.max(eyeHeight, center[1] + away * 0.08), center[2] + away],
      free: [center[0] + away * 0.62, center[1] + away * 0.42, center[2] + away],
    };
    camera.position.set(...from[kind as keyof typeof from]);
    c.target.set(...center);
    c.update();
    invalidate();
  });
  useEffect(() => frame(), [wish, kind, camera]);
  useEffect(() => {
    provideStageView(() => {
      camera.updateMatrixWorld();
      return camera.projectionMatrix.clone().multiply(camera.matrixWorldInverse).toArray();
    });
    return () => provideStageView(null);
  }, [camera]);
  return (
    <>
      <PerspectiveCamera makeDefault fov={isWalking ? 60 : 32} aspect={size.width / size.height} near={0.1} far={4000} />
      {play && !isWalking && <Pawn />}
      {isWalking ? (
        surface && <WalkCamera surface={surface} />
      ) : (
        <OrbitControls
          ref={controls}
          makeDefault
          enableDamping={false}
          screenSpacePanning={false}
          maxPolarAngle={Math.PI / 2 - 0.02}
          mouseButtons={{ LEFT: MOUSE.ROTATE, MIDDLE: MOUSE.DOLLY, RIGHT: MOUSE.PAN }}
          onChange={() => useStage.getState().moved()}
        />
      )}
    </>
  );
}
