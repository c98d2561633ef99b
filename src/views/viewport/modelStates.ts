import { BufferAttribute } from 'three';
import { largestSide } from '@/core/shapes/mesh/measure';
import { isDoubleSided } from '@/core/kit/sides';
import { facesSaid } from '@/core/faces/variants/variantEdits';
import { useColoring } from '@/state/chosen/coloringState';
import { useLaying } from '@/state/laying/laying';
import { useEditor } from '@/state/kit/editor';
import { setShown } from '@/state/kit/meshes';
import { pickedFaces, usePick } from '@/state/chosen/pickState';
import { useSeamPath } from '@/state/islands/seamPath';
import { checkerStep, tonesOf, useStretch } from '@/state/islands/stretch';
import { useView } from '@/state/chosen/viewState';
import type { LoadedMesh } from '@/workers/residents';
import { updateTexels } from './faceTextures';
import { dashed, edgeSegments, outlineSegments, segmentsOf } from './modelGeometry';
import { shadingNumber, stateBits } from './modelMaterial';
import type { ModelParts } from './modelParts';

const none = new Uint32Array(0);

/**
 * Keeps what is picked, pointed at, hidden and marked of a drawn model at what the state says of it: bits of
 * each face, and lines. Returns how to stop.
 */
export function followStates(parts: ModelParts, loaded: LoadedMesh, modelId: string, invalidate: () => void): () => void {
  const { material, textures, pick, pointed, seams, border, differing } = parts;
  const state = new Uint8Array(loaded.asRead.length / 4);

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
    border.set(segmentsOf(loaded, useSeamPath.getState().edges ?? usePick.getState().edges ?? []));
    invalidate();
  };
  /** Faces that sit otherwise in the variant in hand than in the default. */
  const differences = () => {
    const { variant, base } = useEditor.getState();
    const patch = variant && useView.getState().differing ? base?.patches?.[variant]?.[modelId] : undefined;
    const said = patch ? facesSaid(patch, loaded.mesh.faceStart) : none;
    const isSaid = new Uint8Array(said.length ? state.length : 0);
    for (const f of said) isSaid[f] = 1;
    differing.set(dashed(outlineSegments(loaded, said, isSaid, 1), largestSide(loaded.bounds) / 90));
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
    // While it is decided how faces lie along a gradient, they are shown so, and no cell is pointed out.
    const pointedCell = useLaying.getState().preview ? 0 : useColoring.getState().pointedCell;
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

  /** How far faces are stretched, in place of their colors. */
  const stretch = () => {
    const tones = tonesOf(modelId);
    const isOfThis = tones?.length === state.length;
    if (isOfThis) updateTexels(textures.tones, tones);
    material.uniforms.toned!.value = isOfThis;
    material.uniforms.checkerStep!.value = useStretch.getState().shown === 'checker' ? checkerStep : 0;
    invalidate();
  };

  if (usePick.getState().hidden || useView.getState().cut || useView.getState().behind) hiding();
  else setShown(loaded.id, { hidden: null, cut: null });
  sides();
  picks();
  pointer();
  look();
  edges();
  differences();
  stretch();
  const stops = [
    useStretch.subscribe(stretch),
    useSeamPath.subscribe(edges),
    useEditor.subscribe((now, before) => {
      if (now.variant !== before.variant || now.base?.patches !== before.base?.patches) differences();
      if (now.state.kit.models === before.state.kit.models) return;
      edges();
      sides();
    }),
    usePick.subscribe((now, before) => {
      if (now.version !== before.version || now.shown !== before.shown || now.missed !== before.missed) picks();
      if (now.wouldTake !== before.wouldTake) pointer();
      if (now.count !== before.count) look();
      if (now.hidden !== before.hidden) hiding();
      if (now.edges !== before.edges) edges();
    }),
    useColoring.subscribe((now, before) => {
      if (now.pointedCell !== before.pointedCell) look();
    }),
    useLaying.subscribe((now, before) => {
      if (!now.preview !== !before.preview) look();
    }),
    useView.subscribe((now, before) => {
      look();
      if (now.seams !== before.seams) edges();
      if (now.differing !== before.differing) differences();
      if (now.cut !== before.cut || now.behind !== before.behind) hiding();
    }),
  ];
  return () => stops.forEach((stop) => stop());
}
