import type { HandOff, HandOffPart, IconOptions } from './kit';
import { heededBy, type LeaveOptions } from './leaveOptions';

export interface PartFormat {
  word: string;
  extension: string;
  /** What it writes: models, each by itself or all in one; sheets; or palettes of sheets. */
  of: 'models' | 'sheets';
  /** Options of `LeaveOptions` that it heeds. */
  heeds: readonly (keyof LeaveOptions)[];
}

/** What a part of a hand-off can be; its tree, its writer and its words follow from here. */
export const partFormats = {
  glb: { word: 'GLB', extension: 'glb', of: 'models', heeds: heededBy('glb') },
  gltf: { word: 'glTF in files', extension: 'gltf', of: 'models', heeds: heededBy('gltf') },
  obj: { word: 'OBJ', extension: 'obj', of: 'models', heeds: heededBy('obj') },
  ply: { word: 'PLY', extension: 'ply', of: 'models', heeds: heededBy('ply') },
  stl: { word: 'STL', extension: 'stl', of: 'models', heeds: heededBy('stl') },
  sheet: { word: 'Sheet', extension: 'png', of: 'sheets', heeds: [] },
  palette: { word: 'Palette', extension: 'gpl', of: 'sheets', heeds: [] },
} as const satisfies Record<string, PartFormat>;
export type FormatId = keyof typeof partFormats;
export const formatIds = Object.keys(partFormats) as FormatId[];

/** Fields that paths and the manifest may name. */
export const pathFields = ['kit', 'model', 'sheet', 'variant', 'version'] as const;

export const usualPath = (format: FormatId, each: HandOffPart['each']): string => {
  const { of, extension } = partFormats[format];
  if (of === 'sheets') return `textures/{sheet}.${extension}`;
  return each === 'model' ? `models/{model}.${extension}` : `{kit}.${extension}`;
};

export const newPart = (format: FormatId, each: HandOffPart['each'] = 'model'): HandOffPart => ({
  format,
  each,
  path: usualPath(format, each),
  options: {},
  ...(format === 'gltf' && { pictures: 'textures/{sheet}.png' }),
});

/** A part whose files hold one model or all; its path goes along where it is the usual one. */
export function withEach(part: HandOffPart, each: HandOffPart['each']): HandOffPart {
  const format = part.format as FormatId;
  return { ...part, each, path: part.path === usualPath(format, part.each) ? usualPath(format, each) : part.path };
}

/** A part that writes a file for each coloring, or one; a path that does not say which says so then. */
export function withVariants(part: HandOffPart, isApart: boolean): HandOffPart {
  const { variants: _, ...rest } = part;
  const bare = rest.path.replace('-{variant}', '');
  if (!isApart) return { ...rest, path: bare };
  if (part.path.includes('{variant}')) return { ...rest, variants: 'apart' };
  const dot = rest.path.lastIndexOf('.');
  const at = dot > rest.path.lastIndexOf('/') ? dot : rest.path.length;
  return { ...rest, path: `${rest.path.slice(0, at)}-{variant}${rest.path.slice(at)}`, variants: 'apart' };
}

export const usualList = { path: 'list.json' };

export const usualManifest = {
  path: 'manifest.json',
  template: JSON.stringify(
    {
      name: '{kit}',
      version: '{version}',
      description: '{description}',
      files: ['{each file}', { path: '{path}', bytes: '{bytes}', sha256: '{sha256}' }],
    },
    null,
    2,
  ),
};

export const usualIcon: IconOptions = { path: 'icon.png', size: 256, from: 'corner' };

export const newHandOff = (id: string, name: string): HandOff => ({
  id,
  name,
  parts: [newPart('glb')],
  letters: 'kept',
  between: '-',
  version: '1.0.0',
  description: '',
});

/** Where an icon may be seen from. */
export const iconViews = {
  corner: [0.62, 0.42, 1],
  front: [0, 0, 1],
  right: [1, 0, 0],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  top: [0, 1, 0],
} as const satisfies Record<IconOptions['from'], readonly number[]>;
