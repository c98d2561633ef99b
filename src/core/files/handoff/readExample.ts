import { exampleLimits } from '../../ground/limits';
import { unzipped } from '../../ground/bytes/zip';
import type { ExampleFile } from './example';

/** Whether a file of an example may say what is in the others: a JSON file, not too long. */
export const isManifest = (path: string, bytes: number): boolean => /\.json$/i.test(path) && bytes <= exampleLimits.text;

/**
 * What a zip holds, of which its manifests alone are kept, as far as these are not too many. Throws `FileError` where it
 * is none, or holds too much.
 */
export function readExample(file: string, bytes: Uint8Array): ExampleFile[] {
  const entries = unzipped(file, bytes, exampleLimits, (name) => (isManifest(name, 0) ? exampleLimits.text : 0));
  let left: number = exampleLimits.texts;
  return [...entries].flatMap(([name, { size, bytes: text }]): ExampleFile[] => {
    if (name.endsWith('/')) return [];
    const path = name.replaceAll('\\', '/');
    const isKept = text && isManifest(path, size) && size <= left;
    if (isKept) left -= size;
    return [{ path, bytes: size, ...(isKept && { text: new TextDecoder().decode(text) }) }];
  });
}
