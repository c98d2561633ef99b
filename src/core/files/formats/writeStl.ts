import { measureFaces } from '../../shapes/mesh/measure';
import type { ExportModel } from '../leaving/exportModel';
import type { LeaveOptions } from '../../kit/leaveOptions';
import { dressedItem, facesThatLeave } from '../leaving/looseFaces';

/**
 * Binary STL of models: triangles with the normal of their face, and nothing else; it has no color.
 * Source: 3D Systems, “StereoLithography Interface Specification” (1989).
 */
export function writeStl(models: readonly ExportModel[], options: Partial<LeaveOptions> = {}): Uint8Array {
  const parts = models.map((came) => {
    const item = dressedItem(came, options);
    return { mesh: item.mesh, triangles: facesThatLeave(item, 3) };
  });
  const count = parts.reduce((n, p) => n + p.triangles.length, 0);
  const out = new Uint8Array(84 + count * 50);
  // The first word must not be "solid", by which text is known.
  out.set(new TextEncoder().encode('Oligochrome; no color, metres times the scale that was chosen'));
  const view = new DataView(out.buffer);
  view.setUint32(80, count, true);
  let at = 84;
  for (const { mesh, triangles } of parts) {
    // Of each triangle by itself: a bent face has more than one plane.
    const own = { positions: mesh.positions, cornerVertex: Uint32Array.from(triangles.flat(), (c) => mesh.cornerVertex[c]!) };
    const { normals } = measureFaces({ ...own, faceStart: Uint32Array.from({ length: triangles.length + 1 }, (_, t) => t * 3) });
    triangles.forEach((_, t) => {
      for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, normals[t * 3 + k]!, true);
      for (let i = 0; i < 9; i++, at += 4)
        view.setFloat32(at, mesh.positions[own.cornerVertex[t * 3 + Math.floor(i / 3)]! * 3 + (i % 3)]!, true);
      at += 2;
    });
  }
  return out;
}
