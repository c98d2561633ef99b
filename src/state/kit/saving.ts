import type { Autosave, SaveStatus } from '@/data/autosave';

/** What writes the open kit, while one is open that this tab may write. */
export const saving: { autosave: Autosave | null } = { autosave: null };

/** Waits until all is written, and tries again at once what could not be. */
export const flushEdits = (): Promise<void> => saving.autosave?.flush() ?? Promise.resolve();

/** Changes stand in this tab only. */
export const isUnsaved = (save: SaveStatus): boolean => save !== 'saved' && save !== 'saving';
