import { drawCallCounter } from '../files/budget/drawCalls';
import { gpuVertices } from '../files/budget/tally';
import { textureMemory } from '../files/budget/textureMemory';
import { groupFaces, groupUvs } from '../files/leaving/exportModel';
import { findModel, type KitState, type Placement } from '../kit/kit';
import { measureFaces, type Bounds } from '../shapes/mesh/measure';
import { triangleCount, type PolyMesh } from '../shapes/mesh/polyMesh';
import type { Pictures } from '../ground/pictures/raster';
import { looksOfSheet, stateOfVariant } from '../kit/colorings/shown';

/** What a scene costs, as an engine counts it. */
export interface StageCost {
  placements: number;
  /** One for each material of each model that stands there. */
  drawCalls: number;
  /** The same where models of one coloring are drawn in one go. */
  instanced: number;
  triangles: number;
  /** Of the meshes that the card holds, each once. */
  vertices: number;
  materials: number;
  /** Bytes on the card, with mip levels. */
  textureBytes: number;
}

/** What one model costs in one coloring. */
interface ColoringCost {
  drawCalls: number;
  triangles: number;
  vertices: number;
  materials: string[];
  sheets: { looks: string; bytes: number }[];
}

/**
 * Counts scenes of one kit: models leave on their sheets, each coloring of a sheet is one picture and one material (and
 * others for what is see-through, seen from both sides, or not yet colored). What a model costs is reckoned once.
 */
export function stageCounter(state: KitState, meshOf: (model: string) => PolyMesh | undefined, pictures: Pictures) {
  const known = new Map<string, ColoringCost>();
  const costOf = (model: string, variant: string | undefined): ColoringCost | null => {
    const key = `${model} ${variant ?? ''}`;
    const mesh = meshOf(model);
    if (!mesh) return null;
    let own = known.get(key);
    if (!own) known.set(key, (own = costOfColoring(state, model, variant, mesh, pictures)));
    return own;
  };
  return (placements: readonly Pick<Placement, 'model' | 'variant'>[]): StageCost => {
    const cost: StageCost = { placements: 0, drawCalls: 0, instanced: 0, triangles: 0, vertices: 0, materials: 0, textureBytes: 0 };
    const colorings = new Set<ColoringCost>();
    const models = new Set<string>();
    const materials = new Set<string>();
    const sheets = new Map<string, number>();
    for (const { model, variant } of placements) {
      const own = costOf(model, variant);
      if (!own) continue;
      cost.placements++;
      cost.drawCalls += own.drawCalls;
      cost.triangles += own.triangles;
      if (colorings.has(own)) continue;
      colorings.add(own);
      cost.instanced += own.drawCalls;
      if (!models.has(model)) cost.vertices += own.vertices;
      models.add(model);
      own.materials.forEach((m) => materials.add(m));
      own.sheets.forEach((s) => sheets.set(s.looks, s.bytes));
    }
    cost.materials = materials.size;
    for (const bytes of sheets.values()) cost.textureBytes += bytes;
    return cost;
  };
}

function costOfColoring(state: KitState, id: string, variant: string | undefined, mesh: PolyMesh, pictures: Pictures): ColoringCost {
  const { kit, seats } = stateOfVariant(state, variant ?? null);
  const model = findModel(kit, id);
  const own = seats[id]!;
  const groups = groupFaces(kit, { mesh, seats: own, model }, { rasters: pictures });
  const { normals } = measureFaces(mesh);
  return {
    drawCalls: drawCallCounter(kit, { pictures, variants: 'none' })(model, own, mesh),
    triangles: triangleCount(mesh),
    vertices: groups.reduce((sum, g) => sum + gpuVertices(mesh, g.faces, groupUvs(g, mesh, own), normals), 0),
    materials: groups.map((g) => (g.sheet ? `${looksOfSheet(g.sheet)} ${g.seeThrough} ${g.doubleSided}` : `${id} ${g.slot}`)),
    sheets: [...new Set(groups.flatMap((g) => g.sheet ?? []))].map((s) => ({
      looks: looksOfSheet(s),
      bytes: textureMemory(s.width, s.height).withMips,
    })),
  };
}

/**
 * The placements of which a camera may see something: those whose ball meets its view. `matrix`: projection × view, 16
 * numbers column by column.
 */
export function placementsInView(
  placements: readonly Placement[],
  matrix: readonly number[],
  boundsOf: (model: string) => Bounds | undefined,
): Placement[] {
  const row = (r: number, c: number) => matrix[c * 4 + r]!;
  const planes = [0, 1, 2].flatMap((axis) =>
    [1, -1].map((sign) => {
      const plane = [0, 1, 2, 3].map((c) => row(3, c) + sign * row(axis, c));
      const length = Math.hypot(plane[0]!, plane[1]!, plane[2]!) || 1;
      return plane.map((v) => v / length);
    }),
  );
  return placements.filter((p) => {
    const bounds = boundsOf(p.model);
    if (!bounds) return false;
    const { center, radius } = ballOf(p, bounds);
    return planes.every(([a, b, c, d]) => a! * center[0]! + b! * center[1]! + c! * center[2]! + d! > -radius);
  });
}

/** A ball around what stands there, metres. */
export function ballOf(
  { at, turn, scale }: Pick<Placement, 'at' | 'turn' | 'scale'>,
  { min, max }: Bounds,
): { center: number[]; radius: number } {
  const middle = [0, 1, 2].map((k) => ((min[k]! + max[k]!) / 2) * scale) as [number, number, number];
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return {
    center: [at[0] + middle[0] * cos + middle[2] * sin, at[1] + middle[1], at[2] - middle[0] * sin + middle[2] * cos],
    radius: (Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2) * scale,
  };
}
