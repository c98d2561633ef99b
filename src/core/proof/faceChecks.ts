import { islandsOf } from '../islands/islandsOf';
import { problemsOf } from '../islands/problems';
import { findSheet, type Sheet } from '../kit/kit';
import { facesWhere } from '../mesh/facesWhere';
import { findSymmetry } from '../pick/symmetry';
import { trianglesOfFaces } from '../unwrap/chart';
import { stretchOn, timesOff } from '../unwrap/stretch';
import { finding, type Finding, type ProofInput, type ProofModel } from './finding';

/** A model of which so many faces have a mirrored twin is meant to be colored alike on both sides. */
const mirrored = 0.6;

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
  const sheet = findSheet(input.kit, model.sheet);
  return [...found, ...islandProblems(input, own, sheet)];
}

/** Uncolored faces whose mirrored twin has a color. */
function twinsOfColored({ mesh, adjacency, seats: { cell } }: ProofModel, bare: Uint32Array): Uint32Array {
  if (!bare.length || bare.length === cell.length) return new Uint32Array(0);
  const { twin, matched } = findSymmetry(mesh, adjacency);
  if (matched < mirrored * cell.length) return new Uint32Array(0);
  return bare.filter((f) => twin[f]! >= 0 && cell[twin[f]!]! > 0);
}

function islandProblems({ settings }: ProofInput, { model, seats, mesh, adjacency, triangles }: ProofModel, sheet: Sheet): Finding[] {
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
