'use client';
import { OrbitControls, OrthographicCamera, PerspectiveCamera } from '@react-three/drei';
import { useThree } from '@react-three/fiber';
import { useEffect, useEffectEvent, useRef, type ComponentRef } from 'react';
import {
  MathUtils,
  MOUSE,
  Spherical,
  TOUCH,
  Vector3,
  type OrthographicCamera as Orthographic,
  type PerspectiveCamera as Perspective,
} from 'three';
import { boundsOf, largestSide, type Bounds } from '@/core/shapes/mesh/measure';
import { usePaint } from '@/state/chosen/paint';
import { usePhrase } from '@/state/chosen/phrase';
import { usePick, pickedFaces } from '@/state/chosen/pickState';
import { useCompare } from '@/state/shown/compare';
import { hasPerspective, useView } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { eyeOf, keepEye } from './eyes';
import { frameBounds, sideDirection } from './framing';

const fov = 32;
/** Pixels at the top and at the bottom that bars stand in; where ways are compared, nothing does. */
const [strip, noBars] = [58, 12];
const turning = { LEFT: MOUSE.ROTATE, MIDDLE: MOUSE.DOLLY, RIGHT: MOUSE.PAN };
/** One finger turns, two pan and zoom; where a finger paints, two turn and zoom. */
const fingers = { ONE: TOUCH.ROTATE, TWO: TOUCH.DOLLY_PAN };
const brushing = { TWO: TOUCH.DOLLY_ROTATE };
const taking = { MIDDLE: MOUSE.ROTATE, RIGHT: MOUSE.PAN };

/** Where the eye is: one place for both kinds of camera, so that changing between them keeps the view. */
interface Eye {
  target: Vector3;
  direction: Vector3;
  distance: number;
  /** Whether it stands where the whole model was framed: a view of another shape then frames it anew. */
  isFramed?: boolean;
}

/** Controls tell of a change also where nothing but rounding moved. */
const isSamePlace = (a: Eye, b: Eye): boolean =>
  a.target.distanceTo(b.target) + Math.abs(a.distance - b.distance) < 1e-4 * b.distance && a.direction.angleTo(b.direction) < 1e-4;

/** The last wish that a camera has followed: one that was made before the viewport opened is followed then. */
let obeyed = 0;

/** Turned about the vertical by the first angle and up by the second, in degrees; never over the poles. */
function turned(direction: Vector3, [right, up]: [number, number]): Vector3 {
  const place = new Spherical().setFromVector3(direction);
  place.theta += MathUtils.degToRad(right);
  place.phi = MathUtils.clamp(place.phi - MathUtils.degToRad(up), 0.01, Math.PI - 0.01);
  return new Vector3().setFromSpherical(place);
}

/** The mesh's own corners, of large meshes every so many. */
function* cornersIn({ mesh: { positions, cornerVertex } }: LoadedMesh): Generator<[number, number, number]> {
  const step = Math.max(1, Math.floor(cornerVertex.length / 60_000));
  for (let c = 0; c < cornerVertex.length; c += step) {
    const v = cornerVertex[c]! * 3;
    yield [positions[v]!, positions[v + 1]!, positions[v + 2]!];
  }
}

/**
 * Drag turns, right drag or two fingers pan, the wheel zooms to the pointer. Follows wishes such as "from the
 * top". `tried`: ways that are shown side by side, 0 where none is.
 */
export function CameraRig({ loaded, modelId, tried }: { loaded: LoadedMesh; modelId: string; tried: number }) {
  // Asked for when something is framed, which may be before what stands around is rendered.
  const sideBySide = useEffectEvent(() => tried || (useCompare.getState().panes?.length ?? 1));
  const controls = useRef<ComponentRef<typeof OrbitControls>>(null);
  const perspective = useView(hasPerspective);
  const drag = usePhrase((s) => s.drag);
  const isPainting = usePaint((s) => s.isOverModel);
  const hasBrush = usePaint((s) => s.isOpen);
  const { size, invalidate } = useThree();
  const camera = useThree((s) => s.camera as Perspective | Orthographic);
  const eye = useRef<Eye | null>(null);
  // Whether this viewport has shown anything yet.
  const isPlaced = useRef(false);
  const heightPerDistance = 2 * Math.tan((fov * Math.PI) / 360);

  useEffect(() => {
    const c = controls.current;
    // For a moment after a change the controls still hold the camera before it.
    if (!c || c.object !== camera || 'isOrthographicCamera' in camera === perspective) return;
    const apply = (to: Eye) => {
      isPlaced.current = true;
      const { target, direction, distance } = to;
      camera.position.copy(direction).normalize().multiplyScalar(distance).add(target);
      if ('isOrthographicCamera' in camera) {
        camera.zoom = size.height / (distance * heightPerDistance);
        camera.near = -distance * 20;
        camera.far = distance * 40;
      } else {
        camera.near = distance / 200;
        camera.far = distance * 60;
      }
      camera.updateProjectionMatrix();
      c.target.copy(target);
      c.update();
      keep(to);
    };
    const keep = (now: Eye) => {
      eye.current = now;
      const { side, isTurned } = useView.getState();
      const { isFramed = false } = now;
      keepEye(modelId, { target: now.target.toArray(), direction: now.direction.toArray(), distance: now.distance, side, isFramed });
      const away = side !== 'free' && new Vector3(...sideDirection[side]).angleTo(now.direction) > 0.01;
      if (away !== isTurned) useView.setState({ isTurned: away });
      invalidate();
    };
    const frameBox = (bounds: Bounds, direction: Vector3, points?: Iterable<readonly [number, number, number]>, isFramed = false) => {
      // Framed is the rectangle that bars at the top and at the bottom leave free.
      const free = Math.max(0.3, 1 - (2 * (tried ? noBars : strip)) / Math.max(1, size.height));
      const freeFov = MathUtils.radToDeg(2 * Math.atan(Math.tan(MathUtils.degToRad(fov / 2)) * free));
      const { center, distance, height } = frameBounds(
        bounds,
        direction,
        freeFov,
        size.width / sideBySide() / Math.max(1, size.height * free),
        1.04,
        points,
      );
      apply({ target: center, direction, distance: perspective ? distance : height / free / heightPerDistance, isFramed });
    };
    const frameModel = (direction: Vector3) => frameBox(loaded.bounds, direction, cornersIn(loaded), true);
    const remember = () => {
      const direction = camera.position.clone().sub(c.target);
      const distance = 'isOrthographicCamera' in camera ? size.height / camera.zoom / heightPerDistance : direction.length();
      const now = { target: c.target.clone(), direction, distance };
      keep({ ...now, isFramed: !!eye.current?.isFramed && isSamePlace(now, eye.current) });
    };
    c.addEventListener('change', remember);
    const obey = () => {
      const { side, direction: from, frame, turn, zoom, number } = useView.getState().wish;
      obeyed = number;
      if ((turn || zoom) && eye.current) {
        const { target, direction, distance } = eye.current;
        return apply({ target, direction: turn ? turned(direction, turn) : direction, distance: distance / (zoom ?? 1) });
      }
      const direction = from
        ? new Vector3(...from)
        : side
          ? new Vector3(...sideDirection[side])
          : (eye.current?.direction.clone() ?? new Vector3(...sideDirection.free));
      // Straight down, a hair of tilt keeps "up" defined.
      if (Math.hypot(direction.x, direction.z) < 1e-3 * Math.abs(direction.y)) direction.z = 1e-3 * Math.abs(direction.y);
      const faces = frame instanceof Uint32Array ? frame : frame === 'pick' && usePick.getState().count ? pickedFaces() : null;
      if (!faces) return frameModel(direction);
      const bounds = boundsOf(loaded.mesh, faces);
      // A single small face is shown with its surroundings.
      const least = largestSide(loaded.bounds) * 0.08;
      for (let k = 0; k < 3; k++) {
        bounds.min[k]! -= least;
        bounds.max[k]! += least;
      }
      frameBox(bounds, direction);
    };
    const stored = eye.current ? undefined : eyeOf(modelId);
    if (stored) {
      const { distance, isFramed } = stored;
      eye.current = { target: new Vector3(...stored.target), direction: new Vector3(...stored.direction), distance, isFramed };
      // Another kind of camera comes with it; this runs again then.
      if (stored.side !== useView.getState().side) {
        useView.setState({ side: stored.side });
        if (hasPerspective(useView.getState()) !== perspective) return;
      }
    } else if (!eye.current && useView.getState().side !== 'free' && useView.getState().wish.number <= obeyed) {
      useView.setState({ side: 'free' });
      if (hasPerspective(useView.getState()) !== perspective) return;
    }
    if (useView.getState().wish.number > obeyed) obey();
    else if (eye.current && (isPlaced.current || !eye.current.isFramed)) apply(eye.current);
    else frameModel(eye.current?.direction ?? new Vector3(...sideDirection.free));
    const stop = useView.subscribe((now, before) => now.wish !== before.wish && obey());
    return () => {
      stop();
      c.removeEventListener('change', remember);
    };
    // The frame is kept when the window changes its size.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [perspective, camera, loaded, modelId, tried, invalidate]);

  return (
    <>
      {perspective ? <PerspectiveCamera makeDefault fov={fov} /> : <OrthographicCamera makeDefault />}
      <OrbitControls
        key={perspective ? 'perspective' : 'orthographic'}
        ref={controls}
        makeDefault
        zoomToCursor
        enableDamping={false}
        screenSpacePanning
        // Where a drag takes faces or sets texels, the middle button turns.
        mouseButtons={drag === 'turn' && !isPainting ? turning : taking}
        touches={hasBrush ? brushing : fingers}
      />
    </>
  );
}
