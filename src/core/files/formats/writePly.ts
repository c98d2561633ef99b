import type { Kit } from '../../kit/kit';
import { indexRows } from '../../shapes/mesh/rows';
import { pickRows } from '../../shapes/mesh/build';
import { measureFaces } from '../../shapes/mesh/measure';
import { colorsOfCorners } from '../../faces/seat/colorsOfCorners';
import type { Pictures } from '../../ground/pictures/raster';
import type { ExportModel } from '../leaving/exportModel';
import { cornerNormalsOf, dressedItem, facesThatLeave } from '../leaving/looseFaces';
import { leaveDefaults, type LeaveOptions } from '../../kit/leaveOptions';

const header = (vertices: number, faces: number) =>
  [
    'ply',
    'format binary_little_endian 1.0',
    'comment Oligochrome; colors are sRGB',
    `element vertex ${vertices}`,
    ...['x', 'y', 'z', 'nx', 'ny', 'nz'].map((name) => `property float ${name}`),
    ...['red', 'green', 'blue', 'alpha'].map((name) => `property uchar ${name}`),
    `element face ${faces}`,
    'property list uchar uint vertex_indices',
    'end_header\n',
  ].join('\n');

/** Most corners of a face that a list of PLY counted in one byte can hold. */
const mostCorners = 255;

/**
 * Binary PLY of models, with the color of each corner as colors of vertices: sRGB and alpha. Faces keep all
 * their corners, but for those with more than 255, or where triangles are wanted.
 * Source: Greg Turk, “The PLY Polygon File Format” (1994).
 */
export function writePly(
  kit: Kit,
  models: readonly ExportModel[],
  pictures: Pictures = new Map(),
  options: Partial<LeaveOptions> = {},
): Uint8Array {
  const { faces } = { ...leaveDefaults, ...options };
  const parts = models.map((came) => {
    const item = dressedItem(came, options);
    const { mesh, seats } = item;
    const lists = facesThatLeave(item, faces === 'triangles' ? 3 : mostCorners);
    const corners = Uint32Array.from(lists.flat());
    const normals = cornerNormalsOf(mesh, measureFaces(mesh).normals);
    const colors = colorsOfCorners(kit, mesh, seats, pictures);
    const position = new Float32Array(corners.length * 3);
    corners.forEach((c, i) => position.set(mesh.positions.subarray(mesh.cornerVertex[c]! * 3, mesh.cornerVertex[c]! * 3 + 3), i * 3));
    const normal = pickRows(normals, corners, 3);
    const color = pickRows(colors, corners, 4);
    const columns = [
      { data: position, width: 3 },
      { data: normal, width: 3 },
      { data: color, width: 4 },
    ];
    return { lists, position, normal, color, ...indexRows(columns, corners.length) };
  });
  const vertices = parts.reduce((n, p) => n + p.rows.length, 0);
  const lists = parts.reduce((n, p) => n + p.lists.length, 0);
  const head = new TextEncoder().encode(header(vertices, lists));
  const ofFaces = parts.reduce((n, p) => n + p.lists.length + p.index.length * 4, 0);
  const out = new Uint8Array(head.length + vertices * 28 + ofFaces);
  out.set(head);
  const view = new DataView(out.buffer);
  let at = head.length;
  for (const { rows, position, normal, color } of parts)
    for (const row of rows) {
      for (const data of [position, normal]) for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, data[row * 3 + k]!, true);
      out.set(color.subarray(row * 4, row * 4 + 4), at);
      at += 4;
    }
  let base = 0;
  for (const { rows, lists: own, index } of parts) {
    let i = 0;
    for (const list of own) {
      view.setUint8(at++, list.length);
      for (let k = 0; k < list.length; k++, at += 4) view.setUint32(at, base + index[i++]!, true);
    }
    base += rows.length;
  }
  return out;
}
