import { BufferAttribute, type DataArrayTexture, type Vector2, type WebGLRenderer } from 'three';
import { isTextured } from '@/core/kit/kit';
import { mipAtlas } from '@/core/judging/proof/mips';
import { hasTexturedFaces, texturedCells } from '@/core/faces/seat/colorsOfFaces';
import { rasterSheet } from '@/core/sheet/raster';
import { noDrafts, useColoring, withDrafts } from '@/state/chosen/coloringState';
import { useLaying } from '@/state/laying/laying';
import { useEditor } from '@/state/kit/editor';
import { useSampling } from '@/state/proof/sampling';
import { usePictures } from '@/state/chosen/pictures';
import { cellTable } from '@/state/shown/thumbnails';
import type { LoadedMesh } from '@/workers/residents';
import { cellColorTexture, sheetTexture, updateTexels } from './faceTextures';
import { mostSheets, samplingNumber } from './modelMaterial';
import type { ModelParts } from './modelParts';
import { sheetUvs } from './sheetUvs';
import { drawTouched } from './touchedTexels';

/** Keeps the colors of a drawn model at those of its seats and sheets, with what is tried. Returns how to stop. */
export function followColors(
  gl: WebGLRenderer,
  parts: ModelParts,
  loaded: LoadedMesh,
  modelId: string,
  invalidate: () => void,
): () => void {
  const { material, textures } = parts;
  let { colors } = parts;
  const isSampled = () => useSampling.getState().by !== 'none';
  const faces = loaded.asRead.length / 4;

  /** As they are, or as they would be while it is decided. */
  const seatsNow = () => {
    const { preview } = useLaying.getState();
    return preview?.model === modelId ? preview.seats : useEditor.getState().state.seats[modelId];
  };
  const seats = () => {
    const cells = seatsNow()?.cell;
    if (cells && cells.length === faces) updateTexels(textures.cells, cells);
    placing();
    invalidate();
  };
  let sheets = material.uniforms.sheets!.value as DataArrayTexture;
  /** Faces on gradients and art are drawn from the sheet's own texels, at the UVs of their seats. */
  const placing = () => {
    const { kit } = useEditor.getState().state;
    const own = seatsNow();
    if (!own || own.cell.length !== faces || (!isSampled() && !hasTexturedFaces(texturedCells(kit), own))) return;
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
    const needed = kit.sheets
      .map((s) => withDrafts(s, drafts))
      .map((s) => (isSampled() || s.cells.some((c) => isTextured(c.fill)) ? s : null));
    if (needed.every((s) => !s)) return;
    const { rasters } = usePictures.getState();
    sheets.dispose();
    const drawn = needed.map((s) => (s ? rasterSheet(s, rasters) : { width: 1, height: 1, data: new Uint8Array(4) }));
    sheets = sheetTexture(isSampled() ? drawn.map(mipAtlas) : drawn);
    material.uniforms.sheets!.value = sheets;
    drawn.slice(0, mostSheets).forEach((s, i) => (material.uniforms.sheetSizes!.value as Vector2[])[i]!.set(s.width, s.height));
    placing();
  };
  const table = () => {
    texels();
    const next = cellTable(useEditor.getState().state.kit, useColoring.getState().drafts, isSampled());
    if (next.length !== (colors.image.data as Uint8Array).length) {
      colors.dispose();
      colors = cellColorTexture(next);
      material.uniforms.cellColors!.value = colors;
    } else updateTexels(colors, next);
    invalidate();
  };

  const sampling = () => {
    const { by, farther, leftOut } = useSampling.getState();
    const { uniforms } = material;
    uniforms.sampling!.value = samplingNumber[by];
    uniforms.farther!.value = farther;
    uniforms.leftOut!.value = leftOut;
    invalidate();
  };

  seats();
  table();
  sampling();
  const stops = [
    useEditor.subscribe((now, before) => {
      if (now.state.seats !== before.state.seats) seats();
      if (now.state.kit.sheets !== before.state.kit.sheets) table();
    }),
    useColoring.subscribe((now, before) => {
      if (now.drafts !== before.drafts) table();
    }),
    useLaying.subscribe((now, before) => {
      if (now.preview !== before.preview) seats();
    }),
    usePictures.subscribe((now, before) => {
      if (now.rasters === before.rasters) return;
      const { kit } = useEditor.getState().state;
      const isAlone = now.touched && !isSampled() && useColoring.getState().drafts === noDrafts;
      if (isAlone && drawTouched(gl, sheets, kit.sheets, now.rasters, now.touched!)) invalidate();
      else table();
    }),
    useSampling.subscribe((now, before) => {
      sampling();
      if ((now.by === 'none') !== (before.by === 'none')) table();
    }),
  ];
  return () => {
    stops.forEach((stop) => stop());
    sheets.dispose();
  };
}
