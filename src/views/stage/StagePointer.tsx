'use client';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { Mesh, type Object3D, type Vector3 } from 'three';
import type { Placement } from '@/core/kit/kit';
import { snapped, type Standing } from '@/core/kit/edit/placements';
import { baseState } from '@/state/kit/editor';
import { usePictures } from '@/state/chosen/pictures';
import { chosenPlacements, choosePlacement, moveChosen, placeAt, standingAt, useStage } from '@/state/stage/stage';
import { provideMiddle } from '@/state/stage/stageView';
import type { LoadedMesh } from '@/workers/residents';
import { draggedModel } from './draggedModel';
import { matrixOf, stageMaterial, type StageGeometries } from './stageMeshes';
import { stageRay, still, type Met } from './stageRay';

/**
 * Clicks and drags on the stage. What a click would place is shown where it would stand; what stands there is moved by
 * dragging it, over the ground and over what else stands there.
 */
export function StagePointer({
  surface,
  objects,
  loadedOf,
  geometries,
}: {
  surface: HTMLElement;
  objects: readonly Object3D[];
  loadedOf: (model: string) => LoadedMesh | undefined;
  geometries: StageGeometries;
}) {
  const { camera, invalidate } = useThree();
  const controls = useThree((s) => s.controls) as { enabled: boolean } | null;
  const act = useStage((s) => s.act);
  const ghost = useMemo(() => {
    const mesh = new Mesh(undefined, stageMaterial(0.62));
    mesh.matrixAutoUpdate = false;
    mesh.visible = false;
    return mesh;
  }, []);
  useEffect(() => {
    const cast = stageRay(camera, surface, objects);
    let pressed: { x: number; y: number; met: Met | null; from: Placement['at'] | null; grip: Vector3 | null } | null = null;
    const showGhost = (standing: Standing | null) => {
      const loaded = standing && loadedOf(standing.model);
      ghost.visible = Boolean(loaded);
      if (standing && loaded) {
        ghost.geometry = geometries.of(baseState(), standing.model, standing.variant, loaded, usePictures.getState().rasters);
        ghost.matrix.copy(matrixOf(standing));
        ghost.updateMatrixWorld(true);
      }
      invalidate();
    };
    const onDown = (e: PointerEvent) => {
      if (e.button !== 0) return;
      const met = cast(e);
      const mine = met?.placement && useStage.getState().act === 'choose' && useStage.getState().chosen.includes(met.placement.id);
      pressed = { x: e.clientX, y: e.clientY, met, from: mine ? met.placement!.at : null, grip: mine ? met.point.clone() : null };
      // What is chosen follows the pointer, and the camera stays.
      if (mine && controls) controls.enabled = false;
    };
    const onMove = (e: PointerEvent) => {
      if (pressed?.from && pressed.met?.placement) {
        const ids = useStage.getState().chosen;
        const met = cast(e, ids);
        const held = chosenPlacements().find((p) => p.id === pressed!.met!.placement!.id);
        if (!met || !held || Math.hypot(e.clientX - pressed.x, e.clientY - pressed.y) < still) return;
        // The place that was gripped keeps its distance from the origin; heights are those of what lies below.
        const to = [
          pressed.from[0] + met.point.x - pressed.grip!.x,
          met.point.y,
          pressed.from[2] + met.point.z - pressed.grip!.z,
        ] as Placement['at'];
        const at = snapped(to, useStage.getState().step);
        moveChosen(at[0] - held.at[0], at[1] - held.at[1], at[2] - held.at[2]);
        return;
      }
      if (pressed || useStage.getState().act !== 'place') return;
      const met = cast(e);
      showGhost(met && standingAt(met.point.toArray()));
    };
    const onUp = (e: PointerEvent) => {
      const own = pressed;
      pressed = null;
      if (controls) controls.enabled = true;
      if (!own || e.button !== 0 || Math.hypot(e.clientX - own.x, e.clientY - own.y) >= still) return;
      if (useStage.getState().act === 'place') {
        const met = cast(e);
        if (met) placeAt(met.point.toArray());
      } else choosePlacement(own.met?.placement?.id ?? null, e.shiftKey);
    };
    const onLeave = () => showGhost(null);
    // A model that is dragged here out of the list.
    const isModel = (e: DragEvent) => e.dataTransfer?.types.includes(draggedModel) ?? false;
    const onDragOver = (e: DragEvent) => {
      if (!isModel(e)) return;
      e.preventDefault();
      const met = cast(e);
      showGhost(met && standingAt(met.point.toArray()));
    };
    const onDrop = (e: DragEvent) => {
      if (!isModel(e)) return;
      e.preventDefault();
      const met = cast(e);
      showGhost(null);
      if (met) placeAt(met.point.toArray());
      useStage.setState({ act: 'choose' });
    };
    provideMiddle(() => {
      const { left, top, width, height } = surface.getBoundingClientRect();
      return cast({ clientX: left + width / 2, clientY: top + height / 2 })?.point.toArray() ?? null;
    });
    surface.addEventListener('dragover', onDragOver);
    surface.addEventListener('dragleave', onLeave);
    surface.addEventListener('drop', onDrop);
    surface.addEventListener('pointerdown', onDown);
    surface.addEventListener('pointermove', onMove);
    surface.addEventListener('pointerleave', onLeave);
    window.addEventListener('pointerup', onUp);
    return () => {
      provideMiddle(null);
      surface.removeEventListener('dragover', onDragOver);
      surface.removeEventListener('dragleave', onLeave);
      surface.removeEventListener('drop', onDrop);
      surface.removeEventListener('pointerdown', onDown);
      surface.removeEventListener('pointermove', onMove);
      surface.removeEventListener('pointerleave', onLeave);
      window.removeEventListener('pointerup', onUp);
    };
  }, [surface, objects, loadedOf, geometries, camera, controls, invalidate, ghost]);
  useEffect(() => invalidate(), [act, invalidate]);
  return (
    <group visible={act === 'place'}>
      <primitive object={ghost} />
    </group>
  );
}
