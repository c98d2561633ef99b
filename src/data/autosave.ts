import { byId } from '@/core/ground/byId';
import Dexie from 'dexie';
import { copySeats, type KitState } from '@/core/kit/kit';
import { copyPatches, withPatches } from '@/core/kit/patches';
import { copyAllPixels } from '@/core/kit/pixels';
import type { Edit } from '@/core/kit/edit/edit';
import { emptyHistory, type History } from '@/core/kit/edit/history';
import { db, isStorageFull, type KitRow } from './db';
import type { StoredKit } from './kits';
import { summaryOf } from './summary';
import { dropEdits, KitLost, putEdits, putSnapshot, writeAsOwner } from './write';

/** `lost`: another tab has the kit now, and what is not saved can only be kept as a copy. */
export type SaveStatus = 'saved' | 'saving' | 'full' | 'failed' | 'lost';

export const autosaveBounds = {
  /** A snapshot is taken when so many edits lie between it and the cursor. */
  snapshotEvery: 200,
  /** History kept over a reload, in bytes. */
  historyBytes: 64 * 1024 * 1024,
  /** Milliseconds after which a write that failed is tried again by itself. */
  retryAfter: 4000,
};

/**
 * Writes a kit's edits as they happen, and first: what is new since the last write and the small row of the
 * kit, in one transaction, so that a crash leaves a whole kit. Snapshots follow in a transaction of their
 * own. A failed write keeps everything in memory and is tried again, until another tab owns the kit.
 */
export class Autosave {
  private written: readonly Edit[];
  private row: KitRow;
  private latest: { state: KitState; history: History };
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isDirty = false;
  private isLost = false;
  /** Number of the first edit of the history in memory; what is stored may begin later. */
  private base: number;

  constructor(
    { state, history, row }: StoredKit,
    private readonly onStatus: (status: SaveStatus) => void,
    private readonly bounds = autosaveBounds,
  ) {
    this.latest = { state, history };
    this.written = history.edits;
    this.row = row;
    this.base = row.first;
  }

  /** Something is not in storage yet. */
  get hasUnsaved(): boolean {
    return this.isDirty || this.running !== null;
  }

  changed(latest: { state: KitState; history: History }): void {
    this.latest = latest;
    this.isDirty = true;
    if (this.isLost) return;
    this.onStatus('saving');
    void this.flush();
  }

  /** Writes what is not yet written; resolves when it is, or could not be. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    if (this.running) return this.running;
    return this.isDirty && !this.isLost ? (this.running = this.writeAll()) : Promise.resolve();
  }

  /**
   * Makes what is in force all that there is: nothing before it can be undone from then on. For a moment at
   * which all is written and nothing changes. Throws where it cannot be written, and the history stays as it
   * was.
   */
  async forgetHistory(): Promise<void> {
    const { state } = this.latest;
    const { id, cursor } = this.row;
    await this.own({ ...this.row, snapshot: cursor, first: cursor }, (transaction) => {
      putEdits(transaction, id, 0, []);
      putSnapshot(transaction, state);
    });
    this.latest = { state, history: emptyHistory };
    this.written = emptyHistory.edits;
    this.base = cursor;
  }

  /** Writes no more. */
  stop(): void {
    clearTimeout(this.timer);
    this.isLost = true;
  }

  private async writeAll(): Promise<void> {
    try {
      while (this.isDirty && !this.isLost) await this.write();
    } catch (error) {
      this.isDirty = true;
      this.isLost ||= error instanceof KitLost;
      if (this.isLost) return this.onStatus('lost');
      console.error(error);
      this.timer = setTimeout(() => void this.flush(), this.bounds.retryAfter);
      this.onStatus(isStorageFull(error) ? 'full' : 'failed');
    } finally {
      this.running = null;
    }
  }

  private async write(): Promise<void> {
    this.isDirty = false;
    const { state, history } = this.latest;
    const cursor = this.base + history.cursor;
    const kept = this.base + sameAtStart(history.edits, this.written);
    // Edits that had been forgotten in storage are needed again where they are undone.
    const from = cursor < this.row.first ? Math.min(kept, cursor) : kept;
    // A snapshot that holds edits which are now forgotten must be replaced with them; one that lies far back
    // can wait until they are safe.
    const isWrong = this.row.snapshot > kept;
    const isFar = Math.abs(this.row.snapshot - cursor) >= this.bounds.snapshotEvery;
    // Seats are patched in place while this is being written: a snapshot is of this moment.
    const snapshot = isWrong || isFar ? momentOf(state) : null;
    const first = Math.min(this.row.first, from);
    const row = { ...this.row, ...summaryOf(state.kit), cursor, first, updated: Date.now(), ...(isWrong && { snapshot: cursor }) };
    await this.own(row, (transaction) => {
      putEdits(transaction, row.id, from, history.edits.slice(from - this.base));
      if (isWrong) putSnapshot(transaction, snapshot!);
    });
    this.written = history.edits;
    if (!this.isDirty) this.onStatus('saved');
    if (isFar && !isWrong) await this.writeSnapshot(snapshot!);
  }

  /** The edits are safe already; where there is no room for a snapshot the next write tries again. */
  private async writeSnapshot(snapshot: KitState): Promise<void> {
    try {
      await this.own({ ...this.row, snapshot: this.row.cursor }, (transaction) => putSnapshot(transaction, snapshot));
      await this.trim();
    } catch (error) {
      if (error instanceof KitLost) throw error;
      console.warn(error);
    }
  }

  /** Drops the oldest edits past the size that is kept; those after the snapshot always stay. */
  private async trim(): Promise<void> {
    const { id, snapshot, cursor, first } = this.row;
    const sizes: number[] = [];
    await db.edits
      .where('[kit+number]')
      .between([id, Dexie.minKey], [id, Dexie.maxKey])
      .each((r) => sizes.push(r.size));
    let bytes = sizes.reduce((sum, size) => sum + size, 0);
    let next = first;
    while (bytes > this.bounds.historyBytes && next < Math.min(snapshot, cursor)) bytes -= sizes[next++ - first]!;
    if (next > first) await this.own({ ...this.row, first: next }, (transaction) => dropEdits(transaction, id, next));
  }

  private async own(row: KitRow, work: Parameters<typeof writeAsOwner>[1]): Promise<void> {
    await writeAsOwner(row, work);
    this.row = row;
  }
}

function sameAtStart(a: readonly Edit[], b: readonly Edit[]): number {
  let same = 0;
  while (same < a.length && same < b.length && a[same] === b[same]) same++;
  return same;
}

function momentOf({ kit, seats, patches = byId<never>(), pixels }: KitState): KitState {
  const copied = byId(Object.entries(patches).map(([id, own]) => [id, copyPatches(own)]));
  const own = byId(Object.entries(seats).map(([id, s]) => [id, copySeats(s)]));
  return withPatches({ kit, seats: own, ...(pixels && { pixels: copyAllPixels(pixels) }) }, copied);
}
