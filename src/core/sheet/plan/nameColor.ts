import { hexFromLch, parseHex, type Hex } from '../../ground/color/hex';
import type { Lch } from '../../ground/color/oklab';
import { turnToward } from '../ramp/makeRamp';
import { likeWords } from './likeWords';
import { colorWords, materials, natural, stateWords, thingColors } from './words';

/** What a thing looks like, in words that are known by themselves. */
const like: ReadonlyMap<string, string> = new Map(
  likeWords.split(';').flatMap((entry) => {
    const [names = '', description = ''] = entry.split('=').map((s) => s.trim());
    return names.split(',').map((name) => [name.trim(), description] as const);
  }),
);

/** All things that are known by a word. */
export const knownThings = (): string[] => [...thingColors.keys(), ...like.keys()];

interface Thing {
  word: string;
  color: Lch;
  /** Its first word, among those of the name. */
  at: number;
  words: 1 | 2;
}

/**
 * The color that a name stands for; `null` where no word is known. A word for a color wins, then a material before a
 * thing that has no color by nature, then the last known thing; the states beside it change it.
 */
export function colorOfName(name: string): Lch | null {
  const words = name.toLowerCase().match(/\p{L}+/gu) ?? [];
  const things = thingsIn(words);
  const last = things.at(-1);
  if (!last) return null;
  const color = things.findLast((t) => colorWords.has(t.word));
  const material = natural.has(last.word) ? undefined : things.findLast((t) => materials.has(t.word));
  const base = color ?? material ?? last;
  const states = words.flatMap((w, i) => {
    const isOwn = things.some((t) => (t.words === 2 && i === t.at + 1) || i === t.at);
    return isOwn ? [] : (stateWords.get(w) ?? []);
  });
  return states.reduce<Lch>((at, state) => {
    const h = state.toward ? turnToward(at.h, state.toward.hue, state.toward.degrees) : at.h;
    // A stain shows on what has no color of its own.
    const stain = state.toward && state.chroma > 0.6 ? state.toward.degrees * 0.0006 : 0;
    return {
      l: Math.min(0.96, Math.max(0.2, at.l + state.l)),
      c: Math.max(at.c * state.chroma, stain),
      h: at.c < 0.03 && state.toward ? state.toward.hue : h,
    };
  }, base.color);
}

/** What an artist types for a color: a hex number, or a name that is known. `null` where it is neither. */
export function readColor(text: string): Hex | null {
  const named = parseHex(text) ? null : colorOfName(text);
  return parseHex(text) ?? (named && hexFromLch(named));
}

/** Known things from first to last; two words that are one thing come before each by itself. */
function thingsIn(words: readonly string[]): Thing[] {
  const out: Thing[] = [];
  for (let i = 0; i < words.length; i++) {
    const two = i + 1 < words.length ? lookUp(`${words[i]} ${words[i + 1]}`) : null;
    if (two) {
      out.push({ ...two, at: i, words: 2 });
      i++;
      continue;
    }
    const one = lookUp(words[i]!);
    // "Light" is a state beside another thing, and a thing by itself.
    if (one && !(stateWords.has(words[i]!) && words.length > 1)) out.push({ ...one, at: i, words: 1 });
  }
  return out;
}

/** A word as it is, or its singular. */
function lookUp(word: string): { word: string; color: Lch } | null {
  const forms = [
    word,
    word.replace(/s$/, ''),
    word.replace(/es$/, ''),
    word.replace(/ies$/, 'y'),
    word.replace(/ves$/, 'f'),
    word.replace(/(en|y)$/, ''),
  ];
  for (const form of forms) {
    const color = thingColors.get(form);
    if (color) return { word: form, color };
    const description = like.get(form);
    if (description) return { word: form, color: colorOfName(description)! };
  }
  return null;
}
