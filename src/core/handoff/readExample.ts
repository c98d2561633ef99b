import { FileError } from '../io/errors';
import { unzipped } from '../io/zip';
import type { ExampleFile } from './example';

/** Most files that an example may have, and bytes of a JSON file that is read as its manifest. */
export const mostFiles = 5000;
const mostText = 200_000;
export const isManifest = (path: string, bytes: number): boolean => /\.json$/i.test(path) && bytes <= mostText;

/** What a zip holds, without unpacking more of it than its manifest. Throws `FileError` where it is none, or holds too much. */
export function readExample(file: string, bytes: Uint8Array): ExampleFile[] {
  const sizes = new Map<string, number>();
  const texts = unzipped(file, bytes, ({ name, originalSize }) => {
    if (!name.endsWith('/')) sizes.set(name.replaceAll('\\', '/'), originalSize);
    if (sizes.size > mostFiles) throw new FileError(file, `it holds more than ${mostFiles.toLocaleString('en')} files.`);
    return isManifest(name, originalSize);
  });
  return [...sizes].map(([path, size]) => ({ path, bytes: size, ...(texts[path] && { text: new TextDecoder().decode(texts[path]) }) }));
}
