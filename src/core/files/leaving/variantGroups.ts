import type { Kit, Seats } from '../../kit/kit';
import { patchedSeats } from '../../kit/patches';
import { faceCount, type PolyMesh } from '../../shapes/mesh/polyMesh';
import { kitOfVariant } from '../../kit/colorings/shown';
import { groupFaces, groupUvs, type ExportModel, type FaceGroup } from './exportModel';
import { leaveDefaults } from '../../kit/leaveOptions';

/** A variant as a model leaves in it. */
export interface LeavingVariant {
  name: string;
  kit: Kit;
  seats: Seats;
}

/** The variants that say something of a model, in the kit's order. */
export const leavingVariants = (kit: Kit, { model, seats, patches }: Pick<ExportModel, 'model' | 'seats' | 'patches'>): LeavingVariant[] =>
  kit.variants
    .filter((v) => v.model === undefined || v.model === model.id)
    .map((v) => ({ name: v.name, kit: kitOfVariant(kit, v), seats: patchedSeats(seats, patches?.[v.id]) }));

/** Faces that leave with one material in the default coloring and with one in each variant. */
export interface VariedGroup extends FaceGroup {
  inVariants: {
    name: string;
    group: FaceGroup;
    /** Which of `uvSets` it reads; -1: the UVs of the group itself, or none. */
    set: number;
  }[];
  /** Further UVs, 2 for each corner of the mesh. */
  uvSets: readonly Float32Array[];
}

/** UV sets of one primitive that readers know. */
const mostUvSets = 4;

/**
 * Parts the groups of a model (see `groupFaces`) so that each has one material in every variant. A variant that seats
 * faces elsewhere on the sheet reads a further UV set of the same vertices: 8 bytes a vertex, and no draw call more,
 * where a mesh of its own would cost all attributes again. Sets are the same over all of a group, so that its pieces can
 * be joined. As in the default leave (`leavingAsDefault`): what is uncolored only in a variant, faces with vertex colors of their own, which
 * would tint a sheet, and what would need a fifth UV set. `leave`: as for `groupFaces`.
 */
export function variedGroups(
  kit: Kit,
  item: ExportModel,
  leave: NonNullable<Parameters<typeof groupFaces>[2]>,
): (group: FaceGroup) => VariedGroup[] {
  const looks = looksOf(kit, item, leave);
  if (!looks) return (group) => [{ ...group, inVariants: [], uvSets: [] }];
  const { inVariant, base, sets } = looks;
  return (group) => {
    const at = base.groupOf[group.faces[0] ?? 0]!;
    const { uvSets, setOf } = sets[at]!;
    const parts = new Map<string, number[]>();
    for (const f of group.faces) {
      const key = inVariant.map(({ groups, groupOf }, v) => (groups[groupOf[f]!]?.sheet && setOf[v] !== null ? groupOf[f] : -1)).join();
      const part = parts.get(key);
      if (part) part.push(f);
      else parts.set(key, [f]);
    }
    return [...parts.values()].map((faces): VariedGroup => {
      const varied = inVariant.flatMap(({ name, groups, groupOf }, v) => {
        const own = groups[groupOf[faces[0]!]!];
        const set = setOf[v]!;
        return own?.sheet && set !== null ? [{ name, group: own, set }] : [];
      });
      return { ...group, faces: Uint32Array.from(faces), inVariants: varied, uvSets };
    });
  };
}

/** Names of variants in which faces leave as the default has them, by what keeps them from their own look. */
export interface AsDefault {
  /** They are uncolored there, and colored in the default. */
  bare: string[];
  /** They are colored there alone, and have vertex colors, which would tint the sheet. */
  tinted: string[];
  /** Their UVs there would be a fifth set. */
  fifth: string[];
}

/** Where `variedGroups` leaves the default in place of a variant. */
export function leavingAsDefault(kit: Kit, item: ExportModel, leave: NonNullable<Parameters<typeof groupFaces>[2]>): AsDefault {
  const { inVariant, base, sets } = looksOf(kit, item, leave) ?? { inVariant: [], base: { groupOf: [], groups: [] }, sets: [] };
  const told: AsDefault = { bare: [], tinted: [], fifth: [] };
  inVariant.forEach(({ name, groups, groupOf }, v) => {
    const why = new Set<keyof AsDefault>();
    base.groupOf.forEach((at, f) => {
      const own = base.groups[at];
      if (!own) return;
      const isColored = Boolean(groups[groupOf[f]!]?.sheet);
      if (own.sheet && !isColored) why.add('bare');
      if (isColored && sets[at]!.setOf[v] === null) why.add(own.sheet || !item.mesh.cornerColors ? 'fifth' : 'tinted');
    });
    for (const reason of why) told[reason].push(name);
  });
  return told;
}

/** The groups of a model in the default and in each variant that leaves; `null` where none says anything of it. */
function looksOf(kit: Kit, item: ExportModel, leave: NonNullable<Parameters<typeof groupFaces>[2]>) {
  const { as, variants: wanted } = { ...leaveDefaults, ...leave };
  const variants =
    wanted === 'none' || as === 'colors'
      ? []
      : leavingVariants(kit, item).filter((v) => v.kit.sheets !== kit.sheets || v.seats !== item.seats);
  if (!variants.length) return null;
  const { mesh } = item;
  const inVariant = variants.map((v) => ({ ...v, ...groupsByFace(groupFaces(v.kit, { ...item, seats: v.seats }, leave), mesh) }));
  const base = groupsByFace(groupFaces(kit, item, leave), mesh);
  return { inVariant, base, sets: base.groups.map((group) => setsOf(group, item, inVariant)) };
}

function groupsByFace(groups: FaceGroup[], mesh: PolyMesh): { groups: FaceGroup[]; groupOf: Int32Array } {
  const groupOf = new Int32Array(faceCount(mesh)).fill(-1);
  groups.forEach(({ faces }, i) => {
    for (const f of faces) groupOf[f] = i;
  });
  return { groups, groupOf };
}

/** The further UV sets of a group, and for each variant which one it reads; `null`: it leaves as the default does. */
function setsOf(
  group: FaceGroup,
  { mesh, seats }: ExportModel,
  variants: readonly (LeavingVariant & ReturnType<typeof groupsByFace>)[],
): { uvSets: Float32Array[]; setOf: (number | null)[] } {
  const uvSets: Float32Array[] = [];
  const own = groupUvs(group, mesh, seats);
  const ownSets = group.sheet ? 1 : mesh.uvSets.length;
  const setOf = variants.map(({ groups, groupOf, seats: there }): number | null => {
    if (group.flat) return -1;
    if (!group.sheet && mesh.cornerColors) return null;
    const uvs = own?.slice() ?? new Float32Array(mesh.cornerVertex.length * 2);
    const laid = new Map<FaceGroup, Float32Array | undefined>();
    let differs = false;
    for (const f of group.faces) {
      const other = groups[groupOf[f]!];
      if (!other?.sheet) continue;
      if (!laid.has(other)) laid.set(other, groupUvs(other, mesh, there));
      const from = laid.get(other);
      differs ||= !group.sheet;
      for (let k = mesh.faceStart[f]! * 2; from && k < mesh.faceStart[f + 1]! * 2; k++) {
        differs ||= from[k] !== uvs[k];
        uvs[k] = from[k]!;
      }
    }
    if (!differs) return -1;
    const same = uvSets.findIndex((set) => isSameOn(set, uvs, group, mesh));
    if (same >= 0) return same;
    if (ownSets + uvSets.length >= mostUvSets) return null;
    return uvSets.push(uvs) - 1;
  });
  return { uvSets, setOf };
}

function isSameOn(a: Float32Array, b: Float32Array, { faces }: FaceGroup, { faceStart }: PolyMesh): boolean {
  for (const f of faces) for (let k = faceStart[f]! * 2; k < faceStart[f + 1]! * 2; k++) if (a[k] !== b[k]) return false;
  return true;
}
