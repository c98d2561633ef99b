import { chooseOfRamp, openNewColor, sourceCell, stepFaces } from '@/state/coloring';
import { useHelp } from '@/state/help';
import { angleFor, bringBackPick, invertPick, pickEverything, pickNextUncolored, takeCellUnderPointer } from '@/state/picking';
import { letPickGo, usePick } from '@/state/pickState';
import { usePhrase, usesAngle } from '@/state/phrase';
import { frame, useView } from '@/state/viewState';

export interface Shortcut {
  /** `KeyboardEvent.key` in lower case. */
  keys: readonly string[];
  ctrl?: boolean;
  shift?: boolean;
  /** How the keys are written. */
  shown: string;
  does: string;
  run: () => void;
  /** For keys that act while they are held. */
  release?: () => void;
}

export interface ShortcutGroup {
  name: string;
  list: Shortcut[];
}

const scope = (key: string, name: 'face' | 'flat' | 'smooth' | 'part' | 'color', does: string): Shortcut => ({
  keys: [key],
  shown: key.toUpperCase(),
  does,
  run: () => usePhrase.setState({ scope: name }),
});

function turnAngle(by: number): void {
  const { scope: s } = usePhrase.getState();
  if (usesAngle(s)) usePhrase.setState({ [s]: Math.max(0, Math.min(90, angleFor(s) + by)) });
}

/** All keys of the Color view: under the left hand, after the words of the phrase. */
export const shortcutGroups: ShortcutGroup[] = [
  {
    name: 'How much a click takes',
    list: [
      scope('f', 'face', 'one face'),
      scope('a', 'flat', 'the flat area'),
      scope('s', 'smooth', 'the smooth area'),
      scope('w', 'part', 'the whole part'),
      scope('c', 'color', 'everything of the same color'),
      { keys: ['x'], shown: 'X', does: 'a wider angle', run: () => turnAngle(2) },
      { keys: ['x'], shift: true, shown: 'Shift X', does: 'a narrower angle', run: () => turnAngle(-2) },
    ],
  },
  {
    name: 'The pick',
    list: [
      {
        keys: ['q'],
        shown: 'Q',
        does: 'color as I click, on and off',
        run: () => usePhrase.setState((p) => ({ act: p.act === 'color' ? 'pick' : 'color' })),
      },
      { keys: ['v'], shown: 'V', does: 'the others instead', run: invertPick },
      { keys: ['g'], shown: 'G', does: 'give back the last pick', run: bringBackPick },
      { keys: ['r'], shown: 'R', does: 'pick the next uncolored', run: pickNextUncolored },
      { keys: ['z'], shown: 'Z', does: 'look closer at the pick', run: () => frame('pick') },
      { keys: ['a'], ctrl: true, shown: 'Ctrl A', does: 'everything', run: pickEverything },
      {
        keys: ['escape'],
        shown: 'Esc',
        does: 'let go',
        run: () => {
          usePick.setState({ shown: new Uint32Array(0) });
          letPickGo();
        },
      },
      {
        keys: ['h'],
        shown: 'H held',
        does: 'hide the hatch',
        run: () => useView.setState({ hatchHidden: true }),
        release: () => useView.setState({ hatchHidden: false }),
      },
    ],
  },
  {
    name: 'Colors',
    list: [
      { keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'], shown: '1 to 9', does: 'the steps of the ramp in use', run: () => undefined },
      { keys: ['d'], shown: 'D', does: 'one step darker', run: () => stepFaces(-1) },
      { keys: ['e'], shown: 'E', does: 'one step lighter', run: () => stepFaces(1) },
      { keys: ['d'], shift: true, shown: 'Shift D', does: 'darker, past the end of the ramp', run: () => stepFaces(-1, { create: true }) },
      { keys: ['e'], shift: true, shown: 'Shift E', does: 'lighter, past the end of the ramp', run: () => stepFaces(1, { create: true }) },
      { keys: ['t'], shown: 'T', does: 'take the color under the pointer', run: takeCellUnderPointer },
      { keys: ['b'], shown: 'B', does: 'a color only for the picked faces', run: () => openNewColor(sourceCell(), true) },
      { keys: ['b'], shift: true, shown: 'Shift B', does: 'a new color from this one', run: () => openNewColor(sourceCell(), false) },
    ],
  },
  {
    name: 'Everywhere',
    list: [{ keys: ['?'], shown: '?', does: 'this sheet', run: () => useHelp.setState({ isOpen: true }) }],
  },
];

/** The shortcut that a key press stands for, and what it runs. */
export function shortcutFor(e: KeyboardEvent): { shortcut: Shortcut; run: () => void } | null {
  const key = e.key.toLowerCase();
  for (const { list } of shortcutGroups)
    for (const shortcut of list) {
      if (!shortcut.keys.includes(key)) continue;
      if (Boolean(shortcut.ctrl) !== (e.ctrlKey || e.metaKey)) continue;
      // The question mark needs Shift on most keyboards.
      if (key !== '?' && key !== 'escape' && Boolean(shortcut.shift) !== e.shiftKey) continue;
      const digit = Number(key);
      return { shortcut, run: digit ? () => chooseOfRamp(digit - 1) : shortcut.run };
    }
  return null;
}
