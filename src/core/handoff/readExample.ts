import { unzipSync } from 'fflate';
import { FileError } from '../io/errors';
import type { ExampleFile } from './example';

/** Most files that an example may have, and bytes of a JSON file that is read as its manifest. */
const mostFiles = 5000;
const mostText = 200_000;

/** What a zip holds, without unpacking more of it than its manifest. Throws `FileError` where it is none, or holds too much. */
export function readExample(file: string, bytes: Uint8Array): ExampleFile[] {
  const sizes = new Map<string, number>();
  try {
    const texts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!name.endsWith('/')) sizes.set(name.replaceAll('\\', '/'), originalSize);
        if (sizes.size > mostFiles) throw new FileError(file, `it holds more than ${mostFiles.toLocaleString('en')} files.`);
        return /\.json$/i.test(name) && originalSize <= mostText;
      },
    });
    return [...sizes].map(([path, size]) => ({ path, bytes: size, ...(texts[path] && { text: new TextDecoder().decode(texts[path]) }) }));
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(file, 'it is not a zip archive, or it is damaged.');
  }
}
