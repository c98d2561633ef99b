/**
 * Names of the errors whose texts we wrote: all others are a runtime's, and speak of code, not of what the
 * artist did.
 */
const ours = new Set(['Error', 'FileError', 'EditRefused']);

/**
 * Whether the text of an error was made by a runtime. What comes from a worker has lost its class, but keeps
 * its name.
 */
export const isRuntimeError = (error: unknown): boolean => !(error instanceof Error) || !ours.has(error.name);

/** What to tell the artist of an error: its own words, or, where a runtime made them, `instead`. */
export function wordsOf(error: unknown, instead = 'Something went wrong that we did not foresee; nothing was changed. Try again.'): string {
  return isRuntimeError(error) ? instead : (error as Error).message;
}
