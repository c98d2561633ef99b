import { strFromU8 } from 'fflate';
import { FileError, parseJson } from '@/core/ground/bytes/errors';
import { inOneOrder } from '@/core/ground/inOneOrder';
import type { Kit } from '@/core/kit/kit';
import { problemOfKit } from '@/core/kit/problems';
import { withoutStrangers } from '@/core/kit/references';
import { withOneName } from '@/core/faces/regions/slots';
import { longestTemplate, longestText } from '@/core/ground/limits';
import { misfitOf } from './checked';
import { kitSchema } from './kitSchema';

/**
 * 8: motifs, patterns that are kept, and what variants paint; 7: painted art; 6: all that is named is there; 5: cues; 4: what variants say of faces; 3: meshes as GLB; 2: sums of all entries, and
 * plans; 1 had neither.
 */
export const archiveVersion = 8;
const format = 'oligochrome kit';
const where = 'kit.json';

/** A kit's document as it is written: the same kit gives the same text. */
export const writeDocument = (kit: Kit): string =>
  JSON.stringify({ format, version: archiveVersion, kit: inOneOrder(whole(kit)) }, within, 1);

/** Texts longer than what is let in again are cut, so that whatever leaves opens. */
const within = (key: string, value: unknown): unknown =>
  typeof value === 'string' ? value.slice(0, key === 'template' ? longestTemplate : longestText) : value;

/** The kit of a document, and the version in which it was written. Throws `FileError` where anything in it is not as it must be. */
export function readDocument(file: string, bytes: Uint8Array | undefined): { kit: Kit; version: number } {
  if (!bytes) throw new FileError(file, 'it is a zip archive, but no Oligochrome kit (kit.json is missing).');
  const value = parseJson(file, strFromU8(bytes), 'its document is damaged', where) as {
    format?: unknown;
    version?: unknown;
    kit?: unknown;
  } | null;
  if (value?.format !== format) throw new FileError(file, 'it is no Oligochrome kit.', where);
  const { version } = value;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new FileError(file, 'it does not say which version it is of.', where);
  if (version > archiveVersion)
    throw new FileError(
      file,
      `it is of version ${version}, and this Oligochrome reads up to ${archiveVersion}. Open it with the one that made it.`,
      where,
    );
  const since2 = version < 2 ? fromVersion1(value.kit) : value.kit;
  const migrated = version < 4 ? fromVersion3(since2) : since2;
  const misfit = misfitOf(kitSchema, migrated);
  if (misfit) throw new FileError(file, `${misfit.words}.`, where);
  const kit = version < 6 ? whole(migrated as Kit) : (migrated as Kit);
  const problem = problemOfKit(kit);
  if (problem) throw new FileError(file, `${problem}.`, where);
  return { kit, version };
}

/** A kit that speaks of nothing that is not there, and of whose material slots each has one name. */
function whole(kit: Kit): Kit {
  return withoutStrangers({ ...kit, models: kit.models.map((m) => ({ ...m, slots: withOneName(m.slots) })) });
}

/** Plans were not made then: what stood in their place says nothing. */
const fromVersion1 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, handOffs: [] } : kit);

/** No variant could be made then. */
const fromVersion3 = (kit: unknown): unknown => (typeof kit === 'object' && kit !== null ? { ...kit, variants: [] } : kit);
