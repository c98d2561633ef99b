import { rgbFromHex } from '@/core/ground/color/hex';
import { unpack } from '@/core/ground/bytes/pack';
import { colorsOfFaces } from '@/core/faces/seat/colorsOfFaces';
import { findCell } from '@/core/kit/kit';
import { isPainted } from '@/core/kit/pixels';
import { withPainted } from '@/core/sheet/painted';
import { boundsOf, measureFaces } from '@/core/shapes/mesh/measure';
import type { PolyMesh } from '@/core/shapes/mesh/polyMesh';
import { triangulate } from '@/core/shapes/mesh/triangulate';
import type { Raster } from '@/core/ground/pictures/raster';
import { cropped } from '@/core/shapes/view/lineUp';
import { thumbnail } from '@/core/shapes/view/thumbnail';
import type { DemoKit } from './kit';

/**
 * The kit's models as pictures in a row on one ground line, for the home page. Not yet colored faces are bare
 * paper.
 */
export function lineUp({ state, blobs }: DemoKit, width: number, height: number): Raster {
  const { kit, seats } = state;
  const painted = withPainted(new Map(), state);
  const items = kit.models.map((model) => {
    const mesh = unpack(blobs.get(model.mesh)!) as PolyMesh;
    const bounds = boundsOf(mesh);
    const size = Math.max(...[0, 1, 2].map((k) => bounds.max[k]! - bounds.min[k]!));
    const cells = seats[model.id]!.cell;
    const onArt = colorsOfFaces(kit, mesh, seats[model.id]!, painted);
    const colorOf = (f: number) => {
      if (isPainted(findCell(kit, cells[f]!)?.cell.fill)) return [...onArt.slice(f * 4, f * 4 + 3)] as [number, number, number];
      const fill = cells[f] ? findCell(kit, cells[f]!)?.cell.fill : undefined;
      return fill?.kind === 'solid' ? rgbFromHex(fill.color) : [236, 236, 234];
    };
    const { normals } = measureFaces(mesh);
    const { corners, face } = triangulate(mesh, normals);
    const input = { positions: mesh.positions, triangleVertices: corners.map((c) => mesh.cornerVertex[c]!), triangleFace: face };
    // Sizes are drawn nearer to each other than they are, so that a crab pot can stand beside a tower.
    return { draw: (scale: number) => cropped(thumbnail(input, bounds, normals, colorOf, Math.round(size ** 0.4 * scale))) };
  });
  const gap = Math.round(width / 50);
  const trial = items.map((i) => i.draw(60));
  const wide = trial.reduce((sum, p) => sum + p.width, 0);
  const scale = 60 * Math.min((width - gap * (items.length - 1)) / wide, height / Math.max(...trial.map((p) => p.height)));
  const pictures = items.map((i) => i.draw(Math.floor(scale)));
  const used = pictures.reduce((sum, p) => sum + p.width, gap * (pictures.length - 1));
  const out: Raster = { width, height, data: new Uint8Array(width * height * 4) };
  let x = Math.max(0, Math.floor((width - used) / 2));
  for (const p of pictures) {
    for (let y = 0; y < Math.min(p.height, height); y++) {
      const row = p.data.subarray((p.height - 1 - y) * p.width * 4, (p.height - y) * p.width * 4);
      out.data.set(row.subarray(0, Math.max(0, Math.min(p.width, width - x)) * 4), ((height - 1 - y) * width + x) * 4);
    }
    x += p.width + gap;
  }
  return out;
}
