import { InstancedInterleavedBuffer, InterleavedBufferAttribute, Sphere } from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';

/** Ink lines with a paper rim, so that they show on any color. `width`: pixels of the ink. */
export function inkLine(width = 2) {
  let geometry = new LineSegmentsGeometry();
  const make = (color: number, pixels: number, order: number) => {
    const material = new LineMaterial({ color, linewidth: pixels, transparent: true, depthWrite: false });
    const object = new LineSegments2(geometry, material);
    object.renderOrder = order;
    object.visible = false;
    object.frustumCulled = false;
    return object;
  };
  const objects = [make(0xffffff, width * 2, 2), make(0x111111, width, 3)];
  let isEmpty = true;
  let isWanted = true;
  const show = () => objects.forEach((o) => (o.visible = isWanted && !isEmpty));
  return {
    objects,
    /** Ends of segments, 6 numbers for each. */
    set(segments: Float32Array) {
      isEmpty = segments.length === 0;
      if (!isEmpty) {
        geometry.dispose();
        // Bounds would be computed each time, for a sorting of lines that their order decides anyway.
        geometry = new LineSegmentsGeometry();
        geometry.boundingSphere = new Sphere();
        const buffer = new InstancedInterleavedBuffer(segments, 6, 1);
        geometry.setAttribute('instanceStart', new InterleavedBufferAttribute(buffer, 3, 0));
        geometry.setAttribute('instanceEnd', new InterleavedBufferAttribute(buffer, 3, 3));
        for (const o of objects) o.geometry = geometry;
      }
      show();
    },
    visible(wanted: boolean) {
      isWanted = wanted;
      show();
    },
    dispose() {
      geometry.dispose();
      for (const o of objects) o.material.dispose();
    },
  };
}
