import { equalArrays } from '../../ground/equalArrays';
import { remembered } from '../../ground/remembered';
import { count } from '../../ground/words';
import { clearanceFor, layAt, moved, noMove } from '../../islands/arrangeIslands';
import { islandsOf } from '../../islands/islandsOf';
import { problemsOf } from '../../islands/problems';
import { islandCells } from '../../islands/texels';
import { trianglesOfFaces } from '../../islands/unwrap/chart';
import { stretchOn, timesOff } from '../../islands/unwrap/stretch';
import { kitOfVariant } from '../../kit/colorings/shown';
import { group, type Edit } from '../../kit/edit/edit';
import { findSheet, type Cell, type KitState, type Sheet, type Variant } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { facesWhere } from '../../shapes/mesh/facesWhere';
import type { PolyMesh } from '../../shapes/mesh/polyMesh';
import { finding, once, type Check, type Finding, type ProofInput, type ProofModel, type ProofSettings } from './finding';

/** All that is wrong with islands of a model, in any coloring. */
const problemsOfIslands = once((input: ProofInput, own: ProofModel): Finding[] => {
  const byDefault = islandProblems(input, own, findSheet(input.kit, own.model.sheet));
  return [...byDefault, ...input.kit.variants.flatMap((v) => islandsInVariant(input, own, v, byDefault))];
});
const told =
  (check: string): NonNullable<Check['inModel']> =>
  (input, own) =>
    problemsOfIslands(input, own).filter((f) => f.check === check);

/** Where faces lie on art and gradients. */
export const islandChecks = {
  'near-border': {
    inModel: told('near-border'),
    say: (f) => `${count(f.count, 'face')} too near to the border of their art`,
    why: 'At the mip levels asked for, what lies beside it shows through.',
    good: 'borders of art',
    repair: { word: 'move them in', edit: moveIn },
  },
  'shared-texels': {
    inModel: told('shared-texels'),
    say: (f) => `${count(f.count, 'face')} of islands that share texels`,
    why: 'Painted on one, it shows on the other.',
    good: 'islands apart',
    see: 'islands',
  },
  stretched: {
    inModel: told('stretched'),
    say: (f) => `${count(f.count, 'face')} stretched on their art`,
    why: 'Texels look larger, or longer one way, than on the rest.',
    good: 'stretch',
    see: 'islands',
  },
} satisfies Record<string, Check>;

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

function moveIn(state: KitState, { faces }: Finding, { mipLevels }: ProofSettings, own?: ProofModel): Edit | null {
  if (!own) return null;
  const { model, mesh, adjacency } = own;
  const sheet = findSheet(state.kit, model.sheet);
  const wanted = new Set(faces);
  const clearance = clearanceFor(sheet.filter, mipLevels);
  const { islands, texels } = islandsOf(adjacency, state.seats[model.id]!, sheet);
  const edits = islands.flatMap((island) => {
    if (!island.faces.every((f) => wanted.has(f))) return [];
    const cell = sheet.cells.find((c) => c.id === island.cell)!;
    const free = Math.min(cell.rect.w, cell.rect.h) - 2 * clearance;
    if (free < 1) throw new Error(tooSmall(cell, clearance, mipLevels));
    const inside = moved(island.faces, mesh.faceStart, texels, noMove, cell, clearance);
    return layAt(state, model.id, mesh.faceStart, island.faces, cell.id, inside, 'Keep clear of the border') ?? [];
  });
  return edits.length ? group('Keep clear of the border', edits) : null;
}

/** What stands in the way where the clearance leaves an island less than a texel of its cell. */
function tooSmall({ role, rect: { w, h } }: Cell, clearance: number, mipLevels: number): string {
  const least = Math.ceil(2 * clearance + 1);
  return `“${role || 'The art'}” has ${w} × ${h} texels; at ${mipLevels} mip levels it needs ${least} each way. Make it larger in Palette, or ask for fewer mip levels here.`;
}
