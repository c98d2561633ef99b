import { remembered } from '../../ground/remembered';
import { count } from '../../ground/words';
import { unlockedFaces } from '../../faces/regions/regions';
import { group, type Edit } from '../../kit/edit/edit';
import { seatFaces } from '../../kit/edit/seatFaces';
import type { KitState, Seats } from '../../kit/kit';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { findSymmetry } from '../../shapes/pick/symmetry';
import { texelsOfFace } from '../../faces/seat/texelsOnFaces';
import { cutOutCells } from '../../sheet/opacity';
import type { Check, Finding, ProofInput, ProofModel, ProofSettings } from './finding';

/** A model of which so many faces have a mirrored twin is meant to be colored alike on both sides. */
const mirrored = 0.6;

const symmetryOf = remembered((mesh: PolyMesh) => findSymmetry(mesh, adjacencyOf(mesh)));

const bareFaces = ({ cell }: Seats): Uint32Array => facesWhere(cell.length, (f) => cell[f] === 0);

/** Which faces of a model have no color. */
export const faceChecks = {
  uncolored: {
    inModel: (_, { seats }) => [{ faces: bareFaces(seats) }],
    say: (f) => `${count(f.count, 'face')} not yet colored`,
    why: 'They leave as they came, with materials of their own.',
    good: 'every face colored',
    see: 'color',
  },
  'half-colored': {
    inModel: (_, own) => [{ faces: twinsOfColored(own, bareFaces(own.seats)) }],
    say: (f) => `${count(f.count, 'face')} without the color of their mirrored twin`,
    why: 'One half of a mirrored model was colored.',
    good: 'mirrored halves alike',
    repair: { word: 'color them alike', edit: colorTwins },
  },
  'region-without-color': {
    inModel: (_, { model, seats: { cell, region } }) =>
      model.regions.flatMap((r) =>
        r.cell ? [] : [{ faces: facesWhere(region.length, (f) => region[f] === r.id && cell[f] === 0), detail: r.name }],
      ),
    say: (f) => `${count(f.count, 'face')} of the region ${f.detail} without a color`,
    why: 'The region has none to give them.',
    good: 'regions',
    see: 'color',
  },
  'cut-away': {
    inModel: (input, own) => [{ faces: facesCutInto(input, own) }],
    say: (f) => `${count(f.count, 'face')} with texels that are cut away`,
    why: 'glTF says that the material masks: a hole, where a game heeds it, else the grey that lies there. Colors of vertices and flat materials know no texels: there the face is dimmed as a whole.',
    good: 'no texel cut away',
    see: 'paint',
  },
} satisfies Record<string, Check>;

/** Faces on art of which a texel is cut away that they show. */
function facesCutInto({ kit, pictures }: ProofInput, { mesh, seats }: ProofModel): Uint32Array {
  const cut = cutOutCells(kit, pictures);
  const rasters = new Map(
    kit.sheets.flatMap((s) =>
      s.cells.flatMap((c) => (cut.has(c.id) && c.fill.kind === 'art' ? [[c.id, pictures.get(c.fill.picture)!] as const] : [])),
    ),
  );
  return facesWhere(seats.cell.length, (f) => {
    const raster = rasters.get(seats.cell[f]!);
    return raster !== undefined && texelsOfFace(mesh, seats, raster, f).some((t) => raster.data[t * 4 + 3] === 0);
  });
}

/** Uncolored faces whose mirrored twin has a color. */
function twinsOfColored({ mesh, seats: { cell } }: ProofModel, bare: Uint32Array): Uint32Array {
  if (!bare.length || bare.length === cell.length) return new Uint32Array(0);
  const { twin, matched } = symmetryOf(mesh);
  if (matched < mirrored * cell.length) return new Uint32Array(0);
  return bare.filter((f) => twin[f]! >= 0 && cell[twin[f]!]! > 0);
}

function colorTwins(state: KitState, { faces }: Finding, _: ProofSettings, own?: ProofModel): Edit | null {
  if (!own) return null;
  const { model, mesh, adjacency } = own;
  const seats = state.seats[model.id]!;
  const { twin } = findSymmetry(mesh, adjacency);
  const byCell = new Map<number, number[]>();
  for (const f of unlockedFaces(model, seats, faces)) {
    const cell = twin[f]! < 0 ? 0 : seats.cell[twin[f]!]!;
    if (cell) byCell.set(cell, [...(byCell.get(cell) ?? []), f]);
  }
  const edits = [...byCell].flatMap(([cell, list]) => seatFaces(model.id, seats.cell, Uint32Array.from(list), cell) ?? []);
  return edits.length ? group('Color mirrored faces', edits) : null;
}
