import { count } from '../../ground/words';

/** What left in one file. */
export interface FileReport {
  path: string;
  bytes: number;
  sha256: string;
  /** What it was made of (`madeOf`); absent of what is written anew each time. */
  madeOf?: string;
  /** The file with which it was written, where it is not one by itself. */
  beside?: string;
  models: string[];
  /** Of files with models: what a game pays for them. */
  cost?: { drawCalls: number; vertices: number; materials: number; textures: number };
  /** Sentences. */
  kept: string[];
  changed: string[];
  lost: string[];
}

export interface HandOffReport {
  kit: string;
  handOff: string;
  version: string;
  bytes: number;
  files: FileReport[];
}

/** The report in plain words, a paragraph for each file. */
export function reportText({ kit, handOff, version, bytes, files }: HandOffReport): string {
  const head = `${kit}, “${handOff}” ${version}: ${count(files.length, 'file')}, ${bytes.toLocaleString('en')} bytes.`;
  const parts = files.map(({ path, bytes: size, cost, kept, changed, lost }) =>
    [
      `${path}: ${size.toLocaleString('en')} bytes.`,
      ...(cost
        ? [
            `${count(cost.drawCalls, 'draw call')}, ${count(cost.vertices, 'vertex', 'vertices')}, ${count(cost.materials, 'material')}, ${count(cost.textures, 'texture')}.`,
          ]
        : []),
      ...kept.map((s) => `Kept: ${s}`),
      ...changed.map((s) => `Changed: ${s}`),
      ...lost.map((s) => `Not in it: ${s}`),
    ].join('\n  '),
  );
  return `${[head, ...parts].join('\n\n')}\n`;
}
