'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, type DataArrayTexture, type DataTexture, type OrthographicCamera, type PerspectiveCamera } from 'three';
import { isTextured, type KitState } from '@/core/kit/kit';
import { hasTexturedFaces, texturedCells } from '@/core/faces/seat/colorsOfFaces';
import { rasterSheet } from '@/core/sheet/raster';
import type { Pictures } from '@/core/ground/pictures/raster';
import { useColoring } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { usePictures } from '@/state/chosen/pictures';
import { stateOfPane, useCompare, type Pane } from '@/state/shown/compare';
import { cellTable } from '@/state/shown/thumbnails';
import { useView, type Shading } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { cellColorTexture, cellsTexture, sheetTexture, updateTexels } from './faceTextures';
import { shadingNumber } from './modelMaterial';
import { beforeFrame, disposeParts, modelParts, type ModelParts } from './modelParts';
import { sheetUvs } from './sheetUvs';

/** What one coloring is drawn with: textures alone; the geometry is common to all. */
interface PaneTextures {
  cells: DataTexture;
  colors: DataTexture;
  sheets: DataArrayTexture;
  uvs: BufferAttribute | null;
}

/** A kit as it is shown beside others, and the pictures that its sheets are drawn from. */
export interface ShownKit {
  state: KitState;
  rasters: Pictures;
}

function texturesOf({ state: { kit, seats }, rasters }: ShownKit, { mesh }: LoadedMesh, modelId: string, faces: number): PaneTextures {
  const own = seats[modelId]!;
  const cells = cellsTexture(faces);
  updateTexels(cells, own.cell);
  const drawn = kit.sheets.map((s) =>
    s.cells.some((c) => isTextured(c.fill)) ? rasterSheet(s, rasters) : { width: 1, height: 1, data: new Uint8Array(4) },
  );
  const sheets = sheetTexture(drawn);
  const { width, height } = sheets.image;
  const uvs = hasTexturedFaces(texturedCells(kit), own) ? new BufferAttribute(sheetUvs(kit, mesh, own, width, height), 2) : null;
  return { cells, colors: cellColorTexture(cellTable(kit)), sheets, uvs };
}

/** Several colorings of a model side by side, as the bar of the comparison chooses them. */
export function ComparedColorings({ loaded, modelId, panes }: { loaded: LoadedMesh; modelId: string; panes: readonly Pane[] }) {
  const state = useEditor((s) => s.state);
  const drafts = useColoring((s) => s.drafts);
  const held = useCompare((s) => s.held);
  const rasters = usePictures((s) => s.rasters);
  const shown = useMemo(
    () => panes.map((pane) => ({ state: stateOfPane(pane), rasters })),
    // What a pane shows follows the kit, what is tried and what is held.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [panes, state, drafts, held, rasters],
  );
  return <ComparedModels loaded={loaded} modelId={modelId} shown={shown} />;
}

/** A model as several kits show it, side by side under one camera: one scene that is drawn once for each. */
export function ComparedModels({ loaded, modelId, shown }: { loaded: LoadedMesh; modelId: string; shown: readonly ShownKit[] }) {
  const invalidate = useThree((s) => s.invalidate);
  const parts = useMemo(() => modelParts(loaded), [loaded]);
  useEffect(() => () => disposeParts(parts), [parts]);
  const faces = loaded.mesh.faceStart.length - 1;
  const drawn = useMemo(() => shown.map((kit) => texturesOf(kit, loaded, modelId, faces)), [shown, loaded, modelId, faces]);
  useEffect(() => {
    invalidate();
    return () => {
      for (const { cells, colors, sheets } of drawn) [cells, colors, sheets].forEach((t) => t.dispose());
    };
  }, [drawn, invalidate]);
  const { shading, surround, edges } = useView();
  useEffect(() => {
    setLook(parts, shading, surround);
    invalidate();
  }, [parts, shading, surround, invalidate]);

  // Taking over the drawing: each pane has its own part of the picture.
  useFrame(({ gl, scene, camera, size, viewport }) => {
    beforeFrame(parts, viewport.dpr, camera, size.height);
    const width = size.width / drawn.length;
    shapeCamera(camera as PerspectiveCamera, width, size.height);
    gl.setScissorTest(true);
    const u = parts.material.uniforms;
    drawn.forEach(({ cells, colors, sheets, uvs }, i) => {
      u.cells!.value = cells;
      u.cellColors!.value = colors;
      u.sheets!.value = sheets;
      parts.material.uniformsNeedUpdate = true;
      if (uvs) parts.geometry.setAttribute('sheetUv', uvs);
      gl.setViewport(i * width, 0, width, size.height);
      gl.setScissor(i * width, 0, width, size.height);
      gl.render(scene, camera);
    });
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
  }, 1);
  return (
    <>
      <mesh geometry={parts.geometry} material={parts.material} />
      {edges && <lineSegments geometry={parts.edges} material={parts.edgeMaterial} />}
    </>
  );
}

function setLook({ material: { uniforms } }: ModelParts, shading: Shading, surround: number): void {
  uniforms.shading!.value = shadingNumber[shading];
  uniforms.surround!.value = [surround / 255, surround / 255, surround / 255];
}

/** A camera of the whole viewport, for a pane of it. */
function shapeCamera(camera: PerspectiveCamera | OrthographicCamera, width: number, height: number): void {
  if ('isOrthographicCamera' in camera) {
    const own = camera as OrthographicCamera;
    [own.left, own.right, own.top, own.bottom] = [-width / 2, width / 2, height / 2, -height / 2];
  } else (camera as PerspectiveCamera).aspect = width / height;
  camera.updateProjectionMatrix();
}
