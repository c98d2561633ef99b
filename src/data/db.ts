import Dexie, { type EntityTable, type Table } from 'dexie';
import type { Edit } from '@/core/edit/edit';
import type { Kit, Seats } from '@/core/kit/kit';

export interface KitRow {
  id: string;
  name: string;
  kit: Kit;
  /** Edits 0 .. snapshot - 1 are contained in `kit` and in the seats rows. */
  snapshot: number;
  /** Edits in force; later ones have been undone. */
  cursor: number;
  /** First edit that is still kept. */
  first: number;
  updated: number;
  /** When it was put in the bin. */
  deleted?: number;
  /** Small picture for the home page, PNG. */
  picture?: Uint8Array;
  /** How many models it holds now, and its first colors: `kit` is only as new as the snapshot. */
  models?: number;
  colors?: string[];
}
export interface EditRow {
  kit: string;
  number: number;
  edit: Edit;
  size: number;
}
export interface SeatsRow {
  kit: string;
  model: string;
  seats: Seats;
}
/** Immutable bytes under their content address: meshes, files, pictures. */
export interface BlobRow {
  id: string;
  bytes: Uint8Array;
  /** When it was kept last. */
  added?: number;
}

class Database extends Dexie {
  kits!: EntityTable<KitRow, 'id'>;
  edits!: Table<EditRow, [string, number]>;
  seats!: Table<SeatsRow, [string, string]>;
  blobs!: EntityTable<BlobRow, 'id'>;

  constructor() {
    super('oligochrome');
    this.version(1).stores({ kits: 'id, updated', edits: '[kit+number]', seats: '[kit+model]', blobs: 'id' });
  }
}

export const db = new Database();

export const isStorageFull = (error: unknown): boolean =>
  error instanceof Error &&
  (error.name === 'QuotaExceededError' ||
    (error as { inner?: Error }).inner?.name === 'QuotaExceededError' ||
    /quota/i.test(error.message));
