import { rgbFromHex, type Hex } from '../../ground/color/hex';
import { labDistance, labFromRgb, type Lab } from '../../ground/color/oklab';
import { readColor } from './nameColor';
import { colorWords } from './words';

/** How much nearer (OKLab) a color must be to be called dark or light of something rather than by a plain word. */
const plainness = 0.015;

/** Words that are said by themselves: nobody says dark cream. */
const alone = new Set('black white cream beige khaki taupe sepia tan'.split(' '));

let named: { word: string; lab: Lab; bias: number }[] | null = null;

/** The word for a color that leads nearest to it when a plan is read: "teal", "dark blue", "light grey". */
export function wordOfColor(hex: Hex): string {
  named ??= [...colorWords].flatMap((word) =>
    ['', 'dark ', 'light ', 'pale ']
      .filter((state) => !state || !alone.has(word))
      .map((state) => ({ word: state + word, lab: labOf(readColor(state + word)!), bias: state ? plainness : 0 })),
  );
  const own = labOf(hex);
  const off = (n: { lab: Lab; bias: number }) => labDistance(own, n.lab) + n.bias;
  return named.reduce((best, n) => (off(n) < off(best) ? n : best)).word;
}

const labOf = (hex: Hex): Lab => labFromRgb(rgbFromHex(hex));
