import { equalArrays } from '../../ground/equalArrays';
import { islandsOf } from '../../islands/islandsOf';
import { problemsOf } from '../../islands/problems';
import { islandCells } from '../../islands/texels';
import { findSheet, type Sheet, type Variant } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { kitOfVariant } from '../../kit/colorings/shown';
import { adjacencyOf } from '../../shapes/mesh/adjacency';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { findSymmetry } from '../../shapes/pick/symmetry';
import { remembered } from '../../ground/remembered';
import { trianglesOfFaces } from '../../islands/unwrap/chart';
import { stretchOn, timesOff } from '../../islands/unwrap/stretch';
import { finding, type Finding, type ProofInput, type ProofModel } from './finding';

/** A model of which so many faces have a mirrored twin is meant to be colored alike on both sides. */
const mirrored = 0.6;

const symmetryOf = remembered((mesh: PolyMesh) => findSymmetry(mesh, adjacencyOf(mesh)));

/** What is wrong with how faces of a model are colored, and where they lie. */
export function facesWithProblems(input: ProofInput, own: ProofModel): Finding[] {
  const { model, seats } = own;
  const at = { model: model.id };
  const bare = facesWhere(seats.cell.length, (f) => seats.cell[f] === 0);
  const found = [finding('uncolored', { ...at, faces: bare }), finding('half-colored', { ...at, faces: twinsOfColored(own, bare) })];
  for (const { id, cell, name } of model.regions) {
    const faces = cell ? new Uint32Array(0) : facesWhere(seats.region.length, (f) => seats.region[f] === id && seats.cell[f] === 0);
    if (faces.length) found.push(finding('region-without-color', { ...at, faces, detail: name }));
  }
  const islands = islandProblems(input, own, findSheet(input.kit, model.sheet));
  return [...found, ...islands, ...input.kit.variants.flatMap((v) => islandsInVariant(input, own, v, islands))];
}

/** What is wrong with islands that a variant placed, or that are art in it alone; what is so by default is told already. */
function islandsInVariant(input: ProofInput, own: ProofModel, variant: Variant, byDefault: readonly Finding[]): Finding[] {
  const patch = input.patches?.[variant.id]?.[own.model.id];
  const sheet = findSheet(kitOfVariant(input.kit, variant), own.model.sheet);
  const usual = findSheet(input.kit, own.model.sheet);
  if (!patch && [...islandCells(sheet)].join() === [...islandCells(usual)].join()) return [];
  const found = islandProblems(input, { ...own, seats: patchedSeats(own.seats, patch) }, sheet, variant.id);
  return found.flatMap(({ faces, ...of }) => {
    const told = new Set(byDefault.find((f) => f.check === of.check)?.faces);
    const others = faces.filter((f) => !told.has(f));
    return others.length ? [finding(of.check, { ...of, count: others.length, faces: others, variant: variant.name })] : [];
  });
}

/** Uncolored faces whose mirrored twin has a color. */
function twinsOfColored({ mesh, seats: { cell } }: ProofModel, bare: Uint32Array): Uint32Array {
  if (!bare.length || bare.length === cell.length) return new Uint32Array(0);
  const { twin, matched } = symmetryOf(mesh);
  if (matched < mirrored * cell.length) return new Uint32Array(0);
  return bare.filter((f) => twin[f]! >= 0 && cell[twin[f]!]! > 0);
}

/** What was found last on a model's islands, and for which of them. */
interface Looked {
  faces: Uint32Array;
  cell: Uint16Array;
  at: Float32Array | undefined;
  key: string;
  found: Finding[];
}
const looked = remembered((_mesh: PolyMesh) => new Map<string, Looked>());

/** As long as all faces on islands sit as they did, what was found stands. */
function islandProblems(input: ProofInput, own: ProofModel, sheet: Sheet, variant = ''): Finding[] {
  const { seats, mesh, model } = own;
  const isIsland = new Uint8Array(65536);
  for (const id of islandCells(sheet)) isIsland[id] = 1;
  const faces = facesWhere(seats.cell.length, (f) => isIsland[seats.cell[f]!]);
  if (!faces.length) return [];
  const { mipLevels, stretch } = input.settings;
  const now = {
    faces,
    cell: Uint16Array.from(faces, (f) => seats.cell[f]!),
    at: seats.at && coordinatesOf(seats.at, faces, mesh.faceStart),
    key: JSON.stringify([model.id, mipLevels, stretch, { ...sheet, ramps: [] }]),
  };
  const kept = looked(mesh);
  const last = kept.get(variant);
  const isSame =
    last?.key === now.key &&
    equalArrays(last.faces, faces) &&
    equalArrays(last.cell, now.cell) &&
    equalArrays(last.at ?? nowhere, now.at ?? nowhere);
  if (!isSame) kept.set(variant, { ...now, found: lookAtIslands(input, own, sheet) });
  return kept.get(variant)!.found;
}

const nowhere = new Float32Array(0);

function coordinatesOf(at: Float32Array, faces: Uint32Array, faceStart: Uint32Array): Float32Array {
  const out = new Float32Array(faces.reduce((n, f) => n + (faceStart[f + 1]! - faceStart[f]!) * 2, 0));
  let n = 0;
  for (const f of faces) for (let i = faceStart[f]! * 2; i < faceStart[f + 1]! * 2; i++) out[n++] = at[i]!;
  return out;
}

function lookAtIslands({ settings }: ProofInput, { model, seats, mesh, adjacency, triangles }: ProofModel, sheet: Sheet): Finding[] {
  const at = { model: model.id, sheet: sheet.id };
  const { islands, texels } = islandsOf(adjacency, seats, sheet);
  if (!islands.length) return [];
  const { near, overlapping, art } = problemsOf(islands, mesh.faceStart, texels, sheet, settings.mipLevels);
  const stretch = stretchOn(mesh, triangles, art, texels, trianglesOfFaces(triangles, seats.cell.length));
  const stretched = art.filter((f) => stretch.density[f]! > 0 && Math.max(timesOff(stretch, f), stretch.angle[f]!) > settings.stretch);
  return [
    finding('near-border', { ...at, faces: near }),
    finding('shared-texels', { ...at, faces: overlapping }),
    finding('stretched', { ...at, faces: stretched }),
  ];
}
