import Dexie, { type EntityTable, type Table } from 'dexie';
import type { Edit } from '@/core/kit/edit/edit';
import type { Kit, SeatPatch, Seats } from '@/core/kit/kit';
import type { Pixels } from '@/core/kit/pixels';
import { beginFreshLog } from './freshLog';
import { summaryOf } from './summary';

/**
 * What is written with every edit, and so is small: who owns a kit, where its history stands, and what the
 * home page says of it.
 */
export interface KitRow {
  id: string;
  name: string;
  /** Grows each time that a tab opens the kit to change it; only the tab that was given the latest number writes. */
  owner: number;
  /** Edits 0 .. snapshot - 1 are contained in the document and in the seats rows. */
  snapshot: number;
  /** Edits in force; later ones have been undone. */
  cursor: number;
  /** First edit that is still kept. */
  first: number;
  updated: number;
  models: number;
  colors: string[];
  /** Size of its sheet, or how many it has; rows of earlier versions say nothing. */
  sheet?: string;
  /** When it was put in the bin. */
  deleted?: number;
}
/** The kit as it was at the snapshot. */
export interface DocumentRow {
  kit: string;
  document: Kit;
}
/** What the home page shows of a kit besides its row. */
export interface PortraitRow {
  kit: string;
  /** Its first models side by side, PNG; not there where the kit was left before they were drawn. */
  bytes?: Uint8Array;
  /** What stood at the top of its views when they were drawn; rows of earlier versions have none. */
  tally?: HomeTally;
  /** The picture of its first sheet as it leaves, where it is small. */
  sheet?: Uint8Array;
}
export interface HomeTally {
  drawCalls: number;
  whenColored: number;
  colors: number;
  uncolored: number;
  /** Encoded bytes of all sheets. */
  sheetBytes: number;
}
export interface EditRow {
  kit: string;
  number: number;
  edit: Edit;
  size: number;
}
export interface SeatsRow {
  kit: string;
  /** Its id; followed by a slash and a variant's, what that says of it. A slash and the number of an art: its pixels. */
  model: string;
  seats: Seats | SeatPatch | Pixels;
}
/** Immutable bytes under their content address: meshes, files, pictures. */
export interface BlobRow {
  id: string;
  bytes: Uint8Array;
  /** When it was kept last. */
  added?: number;
}

/** A file of a folder as it was before it was replaced. */
export interface RestoreRow {
  id: number;
  kit: string;
  /** Name of the folder. */
  folder: string;
  path: string;
  sha256: string;
  bytes: Uint8Array;
  /** When it was replaced. */
  at: number;
}

class Database extends Dexie {
  kits!: EntityTable<KitRow, 'id'>;
  documents!: EntityTable<DocumentRow, 'kit'>;
  portraits!: EntityTable<PortraitRow, 'kit'>;
  edits!: Table<EditRow, [string, number]>;
  seats!: Table<SeatsRow, [string, string]>;
  blobs!: EntityTable<BlobRow, 'id'>;
  restores!: EntityTable<RestoreRow, 'id'>;

  constructor() {
    // What is called saved outlives a crash of the machine, too; measured, that costs an edit nothing.
    // Nothing is answered from the package's own store of answers: edits are written past it (write.ts).
    super('oligochrome', { chromeTransactionDurability: 'strict', cache: 'disabled' });
    this.version(1).stores({ kits: 'id, updated', edits: '[kit+number]', seats: '[kit+model]', blobs: 'id' });
    this.version(2)
      .stores({ documents: 'kit', portraits: 'kit' })
      .upgrade(async (transaction) => {
        const kits = transaction.table<KitRow & { kit: Kit; picture?: Uint8Array }, string>('kits');
        for (const { kit, picture, ...row } of await kits.toArray()) {
          await transaction.table('documents').put({ kit: row.id, document: kit });
          if (picture) await transaction.table('portraits').put({ kit: row.id, bytes: picture });
          await kits.put({ ...summaryOf(kit), ...row, owner: 0 } as never);
        }
      });
    this.version(3).stores({ restores: '++id, kit' });
    // Everything waits for it. Where it fails there is no room, and the database is as it was.
    this.on('ready', () => beginFreshLog().catch(console.warn));
  }
}

export const db = new Database();

export const isStorageFull = (error: unknown): boolean =>
  error instanceof Error &&
  (error.name === 'QuotaExceededError' ||
    (error as { inner?: Error }).inner?.name === 'QuotaExceededError' ||
    /quota/i.test(error.message));

/** Full storage in words: what therefore was not done, and what to do; any other error stays as it is. */
export const withStorageWords = (error: unknown, notDone: string): unknown =>
  isStorageFull(error)
    ? new Error(
        `The storage of this browser is full, so ${notDone}. Make room (remove kits, or see Storage in a kit’s menu), then try again.`,
      )
    : error;
