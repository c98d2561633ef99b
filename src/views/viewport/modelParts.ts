import {
  BufferAttribute,
  BufferGeometry,
  LineBasicMaterial,
  MathUtils,
  Vector3,
  type Camera,
  type OrthographicCamera,
  type PerspectiveCamera,
} from 'three';
import { useEditor } from '@/state/kit/editor';
import { cellTable } from '@/state/shown/thumbnails';
import type { LoadedMesh } from '@/workers/residents';
import { cellColorTexture, faceTextures, pictureTexture, sheetTexture } from './faceTextures';
import { inkLine } from './inkLine';
import { edgeSegments, modelGeometry } from './modelGeometry';
import { modelMaterial } from './modelMaterial';

/** What a model is drawn with: one geometry and material, textures by face, and lines. */
export function modelParts(loaded: LoadedMesh) {
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
    differing: inkLine(1.6),
    pointed: inkLine(),
  };
}
export type ModelParts = ReturnType<typeof modelParts>;

export function disposeParts(parts: ModelParts): void {
  const { geometry, edges, edgeMaterial, material, textures, pictures } = parts;
  for (const each of [geometry, edges, edgeMaterial, material, textures.cells, textures.states, textures.asRead, textures.tones, pictures])
    each.dispose();
  for (const line of [parts.pick, parts.pointed, parts.seams, parts.border, parts.differing]) line.dispose();
}

/**
 * What depends on the camera and the screen. Where edges lie closer than a few pixels they would only grey
 * the color.
 */
export function beforeFrame({ material, edgeMaterial, middle, edgeLength }: ModelParts, dpr: number, camera: Camera, height: number): void {
  material.uniforms.pixelRatio!.value = dpr;
  edgeMaterial.opacity = 0.22 * MathUtils.smoothstep(pixelsPerMetre(camera, height, middle) * edgeLength, 2.5, 9);
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
