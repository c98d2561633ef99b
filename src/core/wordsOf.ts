/** Kinds of error that a runtime throws: their texts speak of code, not of what the artist did. */
const runtimeKinds =
  /^(TypeError|RangeError|SyntaxError|ReferenceError|EvalError|URIError|AggregateError|RuntimeError|CompileError|LinkError|.*Exception)$/;

/** Whether the text of an error was made by a runtime. What comes from a worker has lost its class, but keeps its name. */
export const isRuntimeError = (error: unknown): boolean =>
  !(error instanceof Error) || runtimeKinds.test(error.name) || (typeof DOMException === 'function' && error instanceof DOMException);

/** What to tell the artist of an error: its own words, or, where a runtime made them, `instead`. */
export function wordsOf(error: unknown, instead = 'Something went wrong that we did not foresee; nothing was changed. Try again.'): string {
  return isRuntimeError(error) ? instead : (error as Error).message;
}
