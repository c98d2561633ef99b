import Dexie from 'dexie';
import { copySeats, sizeOfEdit, type Edit } from '@/core/edit/edit';
import type { History } from '@/core/edit/history';
import type { KitState } from '@/core/kit/kit';
import { db, isStorageFull } from './db';
import { putSeats, summaryOf } from './kits';

export type SaveStatus = 'saved' | 'saving' | 'full' | 'failed';

/** Milliseconds after an edit at which it is written; with the write itself well under a quarter second. */
const delay = 60;
/** A snapshot is taken when so many edits lie between it and the cursor. */
const snapshotEvery = 200;
/** History kept over a reload, in bytes. */
const historyBytes = 64 * 1024 * 1024;

/**
 * Writes a kit's edits as they happen: only what is new since the last write, in one transaction with the cursor, so that a crash leaves
 * a whole kit. A failed write keeps everything in memory and is tried again with the next edit.
 */
export class Autosave {
  private written: readonly Edit[];
  private cursor: number;
  private snapshot: number;
  private latest: { state: KitState; history: History };
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> = Promise.resolve();
  private isDirty = false;

  constructor(
    start: { state: KitState; history: History },
    private first: number,
    private readonly onStatus: (status: SaveStatus) => void,
  ) {
    this.latest = start;
    this.written = start.history.edits;
    this.cursor = start.history.cursor;
    this.snapshot = -1;
  }

  changed(latest: { state: KitState; history: History }): void {
    this.latest = latest;
    this.isDirty = true;
    this.onStatus('saving');
    this.timer ??= setTimeout(() => void this.flush(), delay);
  }

  /** Writes what is not yet written; resolves when it is. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.running = this.running.then(() => this.write());
    return this.running;
  }

  private async write(): Promise<void> {
    if (!this.isDirty) return;
    this.isDirty = false;
    const { history } = this.latest;
    // Seats are patched in place while this is being written: a snapshot is of this moment.
    const state = momentOf(this.latest.state);
    try {
      await this.writeEdits(state, history);
      this.onStatus(this.isDirty ? 'saving' : 'saved');
    } catch (error) {
      this.isDirty = true;
      console.error(error);
      this.onStatus(isStorageFull(error) ? 'full' : 'failed');
    }
  }

  private async writeEdits(state: KitState, { edits, cursor }: History): Promise<void> {
    const id = state.kit.id;
    let same = 0;
    while (same < edits.length && same < this.written.length && edits[same] === this.written[same]) same++;
    const added = edits.slice(same);
    const first = this.first;
    await db.transaction('rw', db.kits, db.edits, db.seats, async () => {
      const row = await db.kits.get(id);
      if (!row) throw new Error('The kit is gone from storage.');
      if (same < this.written.length)
        await db.edits
          .where('[kit+number]')
          .between([id, first + same], [id, Dexie.maxKey])
          .delete();
      await db.edits.bulkPut(added.map((edit, i) => ({ kit: id, number: first + same + i, edit, size: sizeOfEdit(edit) })));
      const change = { cursor: first + cursor, name: state.kit.name, updated: Date.now(), ...summaryOf(state.kit) };
      // A snapshot that holds edits which are now forgotten must be replaced; so must one that lies far back.
      const isStale = row.snapshot > first + same || Math.abs(row.snapshot - (first + cursor)) >= snapshotEvery;
      if (isStale) await putSeats(state);
      await db.kits.update(id, isStale ? { ...change, kit: state.kit, snapshot: first + cursor } : change);
      if (isStale) this.snapshot = first + cursor;
    });
    this.written = edits;
    this.cursor = cursor;
    if (this.snapshot >= 0) await this.trim(id);
  }

  /** Drops the oldest edits past the size that is kept; those after the snapshot always stay. */
  private async trim(id: string): Promise<void> {
    const snapshot = this.snapshot;
    this.snapshot = -1;
    const rows = await db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).sortBy('number');
    let bytes = rows.reduce((sum, r) => sum + r.size, 0);
    let drop = 0;
    while (bytes > historyBytes && rows[drop] && rows[drop]!.number < Math.min(snapshot, this.first + this.cursor))
      bytes -= rows[drop++]!.size;
    if (!drop) return;
    const next = rows[drop - 1]!.number + 1;
    await db.transaction('rw', db.kits, db.edits, async () => {
      await db.edits.where('[kit+number]').between([id, Dexie.minKey], [id, next]).delete();
      await db.kits.update(id, { first: next });
    });
  }
}

function momentOf({ kit, seats }: KitState): KitState {
  return { kit, seats: Object.fromEntries(Object.entries(seats).map(([id, own]) => [id, copySeats(own)])) };
}
