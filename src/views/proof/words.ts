import type { CheckId, Finding } from '@/core/judging/proof/finding';
import { count } from '@/ui/words';

interface Words {
  say: (found: Finding) => string;
  why: string;
  /** What is done about it in one step. */
  repair?: string;
  /** The view in which it is seen to, where there is no such step. */
  see?: 'gather' | 'palette' | 'islands' | 'color' | 'hand-off';
}

/** What checks say, why it matters, and what can be done. */
export const proofWords: Record<CheckId, Words> = {
  uncolored: {
    say: (f) => `${count(f.count, 'face')} not yet colored`,
    why: 'They leave as they came, with materials of their own.',
    see: 'color',
  },
  'half-colored': {
    say: (f) => `${count(f.count, 'face')} without the color of their mirrored twin`,
    why: 'One half of a mirrored model was colored.',
    repair: 'color them alike',
  },
  'region-without-color': {
    say: (f) => `${count(f.count, 'face')} of the region ${f.detail} without a color`,
    why: 'The region has none to give them.',
    see: 'color',
  },
  leftover: {
    say: (f) =>
      f.faces.length
        ? `${count(f.count, 'face')} still of a color that ${f.detail} others gave up`
        : `${count(f.count, 'texel')} still of ${f.detail?.split(' ')[0]}, which became ${f.detail?.split(' ')[1]}`,
    why: 'Something was colored anew, and this was left behind.',
    repair: 'color them alike',
  },
  'near-border': {
    say: (f) => `${count(f.count, 'face')} too near to the border of their art`,
    why: 'At the mip levels asked for, what lies beside it shows through.',
    repair: 'move them in',
  },
  'shared-texels': {
    say: (f) => `${count(f.count, 'face')} of islands that share texels`,
    why: 'Painted on one, it shows on the other.',
    see: 'islands',
  },
  stretched: {
    say: (f) => `${count(f.count, 'face')} stretched on their art`,
    why: 'Texels look larger, or longer one way, than on the rest.',
    see: 'islands',
  },
  merging: {
    say: (f) => `${count(f.count, 'face')} of a color that runs into its neighbour at ${f.detail} pixels`,
    why: 'At the size at which it is seen in play, the two read as one.',
    repair: 'take the next step of its ramp',
  },
  vanishing: {
    say: (f) => `${count(f.count, 'face')} of an outline that vanishes before ${f.detail}`,
    why: 'The shape is read by its outline, and here it has none.',
    see: 'palette',
  },
  bleeding: {
    say: (f) => `${count(f.cells.length, 'color')} changed by their neighbours up to mip level ${f.detail}`,
    why: 'Seen from afar, an engine mixes texels, and colors this small take on what lies beside them.',
    repair: 'give them more texels',
  },
  twins: {
    say: () => 'Two colors that hardly differ',
    why: 'One would do, and a change of it would reach all faces.',
    repair: 'merge them',
  },
  extreme: {
    say: (f) => `${count(f.count, 'color')} at pure black or white`,
    why: 'No light can make it darker or lighter, so that shading dies on it.',
    see: 'palette',
  },
  unused: {
    say: (f) => `${count(f.count, 'color')} that no face uses`,
    why: 'They take room on the sheet.',
    repair: 'make them spare',
  },
  'bare-in-variant': {
    say: (f) => `${count(f.count, 'face')} uncolored in ${f.detail} alone`,
    why: 'Where the game shows that variant, they look as they do by default.',
    see: 'color',
  },
  'merging-in-variant': {
    say: (f) => `${count(f.cells.length, 'color')} that hardly differ in ${f.detail}`,
    why: 'By default they are told apart; there they run together.',
    see: 'palette',
  },
  'idle-variant': {
    say: (f) => `${count(f.count, 'variant')} in which nothing differs: ${f.detail}`,
    why: 'A game that asks for it shows the default.',
    see: 'color',
  },
  'like-variants': {
    say: (f) => `${count(f.count, 'variant')} that look alike: ${f.detail}`,
    why: 'One of them would do.',
    see: 'color',
  },
  'see-through': {
    say: (f) => `${count(f.count, 'color')} that light goes through`,
    why: 'Faces on it leave as a second material, and are drawn after all others.',
    see: 'palette',
  },
  'too-large': {
    say: (f) => `The sheet is larger than its colors need: they fit on ${f.detail} texels`,
    why: 'Every texel costs memory, and a smaller sheet loads sooner.',
    repair: 'lay it out smaller',
  },
  'odd-size': {
    say: (f) => `${count(f.count, 'side')} of the sheet no power of two`,
    why: 'Some engines resize such pictures, and colors are exact only on powers of two.',
    repair: 'lay it out anew',
  },
  flipped: {
    say: (f) => `${count(f.count, 'face')} turned inside out`,
    why: 'A game shows nothing where they are seen from behind.',
    see: 'gather',
  },
  degenerate: {
    say: (f) => `${count(f.count, 'face')} without area`,
    why: 'They are never seen, and cost vertices.',
    see: 'gather',
  },
  duplicate: {
    say: (f) => `${count(f.count, 'face')} lying on another one`,
    why: 'They flicker where their colors differ.',
    see: 'gather',
  },
  'open-border': {
    say: (f) => `${count(f.count, 'open edge')}`,
    why: 'Where a closed body is meant, one can look inside.',
    see: 'gather',
  },
  'lone-part': {
    say: (f) => `${count(f.count, 'face')} of parts that float alone`,
    why: 'They may have been left behind, or moved by accident.',
    see: 'color',
  },
  unseen: {
    say: (f) => `${count(f.count, 'face')} seen from no side`,
    why: 'They cost vertices, and nobody sees their color. Hand-off can leave them out.',
    see: 'hand-off',
  },
  materials: {
    say: (f) => `${count(f.count, 'material')}, where ${f.detail} ${f.detail === '1' ? 'is' : 'are'} planned`,
    why: 'Each is one draw call at least: uncolored faces, see-through colors and sides make them.',
    see: 'color',
  },
  names: {
    say: (f) => `${count(f.count, 'model')} whose files would have one name: ${f.detail}`,
    why: 'One would replace the other in a folder that does not tell capitals apart.',
    see: 'gather',
  },
  'refused-names': {
    say: (f) => `${count(f.count, 'name')} that some file systems refuse: ${f.detail}`,
    why: 'Files leave under another name then, and a game that looks for this one does not find it.',
    see: 'gather',
  },
};

/** What a finding says, and in which variant, where it is so in that alone. */
export const sayFinding = (found: Finding): string =>
  `${proofWords[found.check].say(found)}${found.variant ? `, in ${found.variant}` : ''}`;
