'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  LineBasicMaterial,
  MathUtils,
  Vector3,
  type Camera,
  type DataArrayTexture,
  type OrthographicCamera,
  type PerspectiveCamera,
} from 'three';
import { useColoring, withDrafts } from '@/state/color/coloringState';
import { isDoubleSided } from '@/core/mesh/sides';
import { isTextured } from '@/core/kit/kit';
import { hasTexturedFaces, texturedCells } from '@/core/seat/colorsOfFaces';
import { rasterSheet } from '@/core/sheet/raster';
import { setShown } from '@/state/kit/meshes';
import { useEditor } from '@/state/kit/editor';
import { usePictures } from '@/state/sheet/pictures';
import { pickedFaces, usePick } from '@/state/pick/pickState';
import { cellTable } from '@/state/view/thumbnails';
import { useView } from '@/state/view/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { cellColorTexture, faceTextures, pictureTexture, sheetTexture, updateTexels } from './faceTextures';
import { sheetUvs } from './sheetUvs';
import { inkLine } from './inkLine';
import { edgeSegments, modelGeometry, outlineSegments, segmentsOf } from './modelGeometry';
import { modelMaterial, shadingNumber, stateBits } from './modelMaterial';

/** The model in its colors, with what is picked and pointed at. Follows the state without rendering React again. */
export function ModelView({ loaded, modelId }: { loaded: LoadedMesh; modelId: string }) {
  const invalidate = useThree((s) => s.invalidate);
  const parts = useMemo(() => {
    const textures = faceTextures(loaded.asRead);
    const colors = cellColorTexture(cellTable(useEditor.getState().state.kit));
    const pictures = pictureTexture(loaded.pictures);
    const sheets = sheetTexture([]);
    const material = modelMaterial({ ...textures, cellColors: colors, pictures, sheets });
    const segments = edgeSegments(loaded);
    const edges = new BufferGeometry().setAttribute('position', new BufferAttribute(segments, 3));
    const edgeMaterial = new LineBasicMaterial({ color: 0x000000, transparent: true, depthWrite: false });
    const { min, max } = loaded.bounds;
    const middle = new Vector3(...min).add(new Vector3(...max)).multiplyScalar(0.5);
    return {
      geometry: modelGeometry(loaded),
      material,
      textures,
      pictures,
      colors,
      edges,
      edgeMaterial,
      middle,
      edgeLength: meanLength(segments),
      pick: inkLine(),
      seams: inkLine(1.6),
      border: inkLine(4),
      pointed: inkLine(),
    };
  }, [loaded]);

  useEffect(() => {
    const { material, textures, pick, pointed, seams, border } = parts;
    let { colors } = parts;
    const state = new Uint8Array(loaded.asRead.length / 4);

    const seats = () => {
      const cells = useEditor.getState().state.seats[modelId]?.cell;
      if (cells && cells.length === state.length) updateTexels(textures.cells, cells);
      placing();
      invalidate();
    };
    let sheets = material.uniforms.sheets!.value as DataArrayTexture;
    /** Faces on gradients and art are drawn from the sheet's own texels, at the UVs of their seats. */
    const placing = () => {
      const { kit, seats: all } = useEditor.getState().state;
      const own = all[modelId];
      if (!own || own.cell.length !== state.length || !hasTexturedFaces(texturedCells(kit), own)) return;
      const { width, height } = sheets.image;
      const uvs = sheetUvs(kit, loaded.mesh, own, width, height);
      const known = parts.geometry.getAttribute('sheetUv');
      if (known) {
        known.array.set(uvs);
        known.needsUpdate = true;
      } else parts.geometry.setAttribute('sheetUv', new BufferAttribute(uvs, 2));
    };
    const texels = () => {
      const { kit } = useEditor.getState().state;
      const { drafts } = useColoring.getState();
      const needed = kit.sheets.map((s) => withDrafts(s, drafts)).map((s) => (s.cells.some((c) => isTextured(c.fill)) ? s : null));
      if (needed.every((s) => !s)) return;
      const { rasters } = usePictures.getState();
      sheets.dispose();
      sheets = sheetTexture(needed.map((s) => (s ? rasterSheet(s, rasters) : { width: 1, height: 1, data: new Uint8Array(4) })));
      material.uniforms.sheets!.value = sheets;
      placing();
    };
    const table = () => {
      texels();
      const next = cellTable(useEditor.getState().state.kit, useColoring.getState().drafts);
      if (next.length !== (colors.image.data as Uint8Array).length) {
        colors.dispose();
        colors = cellColorTexture(next);
        material.uniforms.cellColors!.value = colors;
      } else updateTexels(colors, next);
      invalidate();
    };
    const mark = (before: Uint32Array, now: Uint32Array, bit: number) => {
      for (const f of before) state[f]! &= ~bit;
      for (const f of now) state[f]! |= bit;
    };
    /** Hidden faces and what is cut away are neither drawn nor met by rays. */
    const hiding = () => {
      const { hidden } = usePick.getState();
      const { cut, behind } = useView.getState();
      for (let f = 0; f < state.length; f++) state[f] = (state[f]! & ~stateBits.hidden) | (hidden?.[f] ? stateBits.hidden : 0);
      updateTexels(textures.states, state);
      material.uniforms.cutAxis!.value = cut ? cut.axis : -1;
      material.uniforms.cutOffset!.value = cut?.offset ?? 0;
      material.uniforms.onlyBehind!.value = behind;
      const shown = hidden || cut ? edgeSegments(loaded, (f) => !hidden?.[f], cut) : edgeSegments(loaded);
      parts.edges.setAttribute('position', new BufferAttribute(shown, 3));
      setShown(loaded.id, { hidden, cut, behind });
      invalidate();
    };
    /** Faces that are seen from both sides in a game, by the model's setting or their materials. */
    const sides = () => {
      const model = useEditor.getState().state.kit.models.find((m) => m.id === modelId);
      if (!model || loaded.mesh.faceSlot.length !== state.length) return;
      const both = loaded.mesh.slots.map((_, slot) => (isDoubleSided(model, loaded.mesh, slot) ? stateBits.bothSides : 0));
      for (let f = 0; f < state.length; f++) state[f] = (state[f]! & ~stateBits.bothSides) | both[loaded.mesh.faceSlot[f]!]!;
      updateTexels(textures.states, state);
      invalidate();
    };
    let pointedNow: Uint32Array = none;
    let shownNow: Uint32Array = none;
    const picks = () => {
      const { picked, shown, count, missed } = usePick.getState();
      if (picked.length !== state.length) return;
      for (let f = 0; f < state.length; f++) state[f] = (state[f]! & ~stateBits.picked) | (picked[f]! * stateBits.picked);
      // Faces that a drag may have left out are lit like those that a report points out.
      const lit = shown.length ? shown : (missed?.left ?? none);
      mark(shownNow, lit, stateBits.shown);
      shownNow = lit;
      updateTexels(textures.states, state);
      const list = shown.length ? shown : count ? pickedFaces() : none;
      pick.set(outlineSegments(loaded, list, state, shown.length ? stateBits.shown : stateBits.picked));
      invalidate();
    };
    const edges = () => {
      const marked = useEditor.getState().state.kit.models.find((m) => m.id === modelId)?.seams ?? [];
      seams.set(segmentsOf(loaded, useView.getState().seams ? marked : []));
      border.set(segmentsOf(loaded, usePick.getState().edges ?? []));
      invalidate();
    };
    const pointer = () => {
      const { picked, wouldTake } = usePick.getState();
      if (picked.length !== state.length) return;
      mark(pointedNow, wouldTake, stateBits.pointed);
      pointedNow = wouldTake;
      updateTexels(textures.states, state);
      pointed.set(outlineSegments(loaded, wouldTake, state, stateBits.pointed));
      invalidate();
    };
    const look = () => {
      const { shading, surround, hatchHidden, backs } = useView.getState();
      const { pointedCell } = useColoring.getState();
      const u = material.uniforms;
      u.shading!.value = shadingNumber[shading];
      u.surround!.value = [surround / 255, surround / 255, surround / 255];
      u.hatchHidden!.value = hatchHidden;
      u.backsAsLeft!.value = backs;
      u.previewCell!.value = usePick.getState().count ? pointedCell : 0;
      u.pointedCell!.value = pointedCell;
      pick.visible(!hatchHidden);
      pointed.visible(!hatchHidden && !pointedCell);
      invalidate();
    };
    if (usePick.getState().hidden || useView.getState().cut || useView.getState().behind) hiding();
    else setShown(loaded.id, { hidden: null, cut: null });
    sides();
    seats();
    table();
    picks();
    pointer();
    look();
    edges();
    const stops = [
      useEditor.subscribe((now, before) => {
        if (now.state.seats !== before.state.seats) seats();
        if (now.state.kit.sheets !== before.state.kit.sheets) table();
        if (now.state.kit.models !== before.state.kit.models) {
          edges();
          sides();
        }
      }),
      usePick.subscribe((now, before) => {
        if (now.version !== before.version || now.shown !== before.shown || now.missed !== before.missed) picks();
        if (now.wouldTake !== before.wouldTake) pointer();
        if (now.count !== before.count) look();
        if (now.hidden !== before.hidden) hiding();
        if (now.edges !== before.edges) edges();
      }),
      useColoring.subscribe((now, before) => {
        if (now.drafts !== before.drafts) table();
        if (now.pointedCell !== before.pointedCell) look();
      }),
      useView.subscribe((now, before) => {
        look();
        if (now.seams !== before.seams) edges();
        if (now.cut !== before.cut || now.behind !== before.behind) hiding();
      }),
      usePictures.subscribe(table),
    ];
    return () => {
      stops.forEach((stop) => stop());
      sheets.dispose();
    };
  }, [parts, loaded, modelId, invalidate]);

  useEffect(
    () => () => {
      parts.geometry.dispose();
      parts.edges.dispose();
      parts.edgeMaterial.dispose();
      parts.material.dispose();
      for (const t of [parts.textures.cells, parts.textures.states, parts.textures.asRead, parts.pictures]) t.dispose();
      parts.pick.dispose();
      parts.pointed.dispose();
      parts.seams.dispose();
      parts.border.dispose();
    },
    [parts],
  );

  useFrame(({ viewport, camera, size }) => {
    parts.material.uniforms.pixelRatio!.value = viewport.dpr;
    // Where edges lie closer than a few pixels they would only grey the color.
    const pixels = pixelsPerMetre(camera, size.height, parts.middle) * parts.edgeLength;
    parts.edgeMaterial.opacity = 0.22 * MathUtils.smoothstep(pixels, 2.5, 9);
  });
  const edges = useView((s) => s.edges);
  return (
    <>
      <mesh geometry={parts.geometry} material={parts.material} />
      {edges && <lineSegments geometry={parts.edges} material={parts.edgeMaterial} />}
      {[parts.seams, parts.pointed, parts.pick, parts.border].flatMap(({ objects }) =>
        objects.map((o) => <primitive key={o.uuid} object={o} />),
      )}
    </>
  );
}

function pixelsPerMetre(camera: Camera, height: number, at: Vector3): number {
  if ('isOrthographicCamera' in camera) return (camera as OrthographicCamera).zoom;
  const { fov } = camera as PerspectiveCamera;
  return height / (2 * Math.tan(MathUtils.degToRad(fov) / 2) * camera.position.distanceTo(at) || 1);
}

function meanLength(segments: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < segments.length; i += 6)
    sum += Math.hypot(segments[i]! - segments[i + 3]!, segments[i + 1]! - segments[i + 4]!, segments[i + 2]! - segments[i + 5]!);
  return sum / Math.max(1, segments.length / 6);
}

const none = new Uint32Array(0);
