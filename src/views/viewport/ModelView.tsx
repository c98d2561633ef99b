'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { useView } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { followColors } from './modelColors';
import { beforeFrame, disposeParts, modelParts } from './modelParts';
import { followStates } from './modelStates';

/** The model in its colors, with what is picked and pointed at. Follows the state without rendering React again. */
export function ModelView({ loaded, modelId }: { loaded: LoadedMesh; modelId: string }) {
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const parts = useMemo(() => modelParts(loaded), [loaded]);
  useEffect(() => {
    const stops = [followColors(gl, parts, loaded, modelId, invalidate), followStates(parts, loaded, modelId, invalidate)];
    return () => stops.forEach((stop) => stop());
  }, [gl, parts, loaded, modelId, invalidate]);
  useEffect(() => () => disposeParts(parts), [parts]);

  useFrame(({ viewport, camera, size }) => beforeFrame(parts, viewport.dpr, camera, size.height));
  const edges = useView((s) => s.edges);
  return (
    <>
      <mesh geometry={parts.geometry} material={parts.material} />
      {edges && <lineSegments geometry={parts.edges} material={parts.edgeMaterial} />}
      {[parts.differing, parts.seams, parts.pointed, parts.pick, parts.border].flatMap(({ objects }) =>
        objects.map((o) => <primitive key={o.uuid} object={o} />),
      )}
    </>
  );
}
