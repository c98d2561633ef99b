import { chooseOfRamp, openNewColor, sourceCell, stepFaces } from '@/state/color/coloring';
import { useColoring } from '@/state/chosen/coloringState';
import { layPick } from '@/state/laying/laying';
import { nextVariant } from '@/state/laying/variants';
import { compare, endCompare, useCompare } from '@/state/shown/compare';
import { useHelp } from '@/state/told/help';
import {
  angleFor,
  bringBackPick,
  invertPick,
  pickEverything,
  pickNextUncolored,
  takeCellUnderPointer,
  turnSpot,
} from '@/state/pick/picking';
import { aboutScope, scopeList } from '@/core/shapes/pick/scopes';
import { cutOftener } from '@/state/cut/cutting';
import { dropLone, growPick, invertPickInParts, mirrorPick, shrinkPick, takeMissed } from '@/state/pick/changePick';
import { hidePicked, hideTheRest, showAll, stepBackThroughPicks, toggleBehind, turnToPick } from '@/state/pick/hiding';
import { rememberPick } from '@/state/pick/namedPicks';
import { letPickGo, usePick } from '@/state/chosen/pickState';
import { usePhrase, type Drag, type PhraseState } from '@/state/chosen/phrase';
import { frame, lookFrom, useView } from '@/state/chosen/viewState';

const drags: Drag[] = ['turn', 'box', 'lasso', 'brush'];
const nextDrag = (): void => usePhrase.setState(({ drag }) => ({ drag: drags[(drags.indexOf(drag) + 1) % drags.length]! }));

export interface Shortcut {
  /** `KeyboardEvent.key` in lower case; none where the viewport listens itself. */
  keys: readonly string[];
  ctrl?: boolean;
  shift?: boolean;
  /** `KeyboardEvent.code`, where Shift makes other characters on each keyboard. */
  code?: string;
  /** How the keys are written. */
  shown: string;
  does: string;
  /** Other words by which it is looked for. */
  words?: string;
  run: () => void;
  /** For keys that act while they are held. */
  release?: () => void;
}

export interface ShortcutGroup {
  name: string;
  list: Shortcut[];
}

const cutAlong = (to: PhraseState['cutAlong']) => () => usePhrase.setState({ act: 'cut', cutAlong: to });
/** Keys of the words of picking say how is cut while a click cuts. */
export const whileCutting: Pick<Shortcut, 'shown' | 'does' | 'words' | 'run'>[] = [
  { shown: 'A', does: 'along the ring of faces', words: 'edge loop belt stripe', run: cutAlong('ring') },
  { shown: 'W', does: 'level, by a plane', words: 'height waterline', run: cutAlong('y') },
  {
    shown: 'U',
    does: 'upright, by a plane from front to back, or from side to side',
    run: () => usePhrase.setState((p) => ({ act: 'cut', cutAlong: p.cutAlong === 'x' ? 'z' : 'x' })),
  },
  {
    shown: 'F',
    does: 'inside the outline of the flat area, or of what is picked',
    words: 'frame border panel inset',
    run: cutAlong('border'),
  },
  { shown: 'S', does: 'by a stamp', words: 'window door plate hole', run: cutAlong('stamp') },
  {
    shown: 'P',
    does: 'all flat areas with the same outline, on and off',
    words: 'walls alike repeat',
    run: () => usePhrase.setState((p) => ({ act: 'cut', cutAlike: !p.cutAlike })),
  },
];

const scopeKeys = scopeList.flatMap((scope): Shortcut[] => {
  const { key, word } = aboutScope(scope);
  if (!key) return [];
  const run = () => {
    const inCutting = usePhrase.getState().act === 'cut' && whileCutting.find((w) => w.shown === key);
    if (inCutting) inCutting.run();
    else usePhrase.setState({ scope });
  };
  return [{ keys: [key.at(-1)!.toLowerCase()], shift: key.startsWith('Shift'), shown: key, does: word, run }];
});

function turnAngle(by: number): void {
  if (usePhrase.getState().act === 'cut') return cutOftener(Math.sign(by));
  const { angle, asks } = aboutScope(usePhrase.getState().scope);
  if (angle && asks) usePhrase.setState({ [angle]: Math.max(0, Math.min(90, angleFor(angle) + by)) });
}

/** All keys of the Color view: under the left hand, after the words of the phrase. */
export const shortcutGroups: ShortcutGroup[] = [
  {
    name: 'How much a click takes',
    list: [
      ...scopeKeys,
      { keys: ['x'], shown: 'X', does: 'a wider angle; where a click cuts, once more', run: () => turnAngle(2) },
      { keys: ['x'], shift: true, shown: 'Shift X', does: 'a narrower angle; where a click cuts, once less', run: () => turnAngle(-2) },
      { keys: ['o'], shown: 'O', does: 'the ring through the next edge, the fan around the next corner', run: turnSpot },
      { keys: ['y'], shown: 'Y', does: 'a drag takes a box, a lasso, brushes, turns', run: nextDrag },
      { keys: [], shown: 'Space', does: 'in the viewport: a box by arrow keys; Enter takes', run: () => undefined },
      {
        keys: ['m'],
        shown: 'M',
        does: 'the mirrored twin goes along, on and off',
        words: 'mirror symmetry',
        run: () => usePhrase.setState((p) => ({ mirror: p.mirror === 'nowhere' ? 'across' : 'nowhere' })),
      },
    ],
  },
  { name: 'While a click cuts', list: whileCutting.map((w) => ({ ...w, keys: [] })) },
  {
    name: 'The view',
    list: [
      ...(['front', 'back', 'left', 'right', 'top', 'bottom', 'free'] as const).map((side, i): Shortcut => ({
        keys: [],
        code: `Digit${i + 1}`,
        shift: true,
        shown: `Shift ${i + 1}`,
        does: side === 'free' ? 'free again, with perspective' : `from the ${side}, without perspective`,
        run: () => lookFrom(side),
      })),
      {
        keys: ['y'],
        shift: true,
        shown: 'Shift Y',
        does: 'a drag takes both sides, or the near one',
        run: () => usePhrase.setState(({ side }) => ({ side: side === 'near' ? 'through' : 'near' })),
      },
    ],
  },
  {
    name: 'The pick',
    list: [
      {
        keys: ['q'],
        shown: 'Q',
        does: 'color as I click, on and off',
        run: () =>
          usePhrase.setState((p) =>
            p.act === 'cut' ? { cutThen: p.cutThen === 'color' ? 'pick' : 'color' } : { act: p.act === 'color' ? 'pick' : 'color' },
          ),
      },
      {
        keys: ['a'],
        shift: true,
        shown: 'Shift A',
        does: 'cut as I click, on and off',
        words: 'edge split new faces belt stripe',
        run: () => usePhrase.setState((p) => ({ act: p.act === 'cut' ? 'pick' : 'cut' })),
      },
      { keys: ['v'], shown: 'V', does: 'the others instead', words: 'invert inverse', run: invertPick },
      { keys: ['v'], shift: true, shown: 'Shift V', does: 'the others of its parts', run: invertPickInParts },
      { keys: ['w'], shift: true, shown: 'Shift W', does: 'grow by a ring of faces', words: 'expand more', run: growPick },
      { keys: ['q'], shift: true, shown: 'Shift Q', does: 'shrink by a ring of faces', words: 'contract less', run: shrinkPick },
      {
        keys: ['m'],
        shift: true,
        shown: 'Shift M',
        does: 'the mirrored twin joins',
        words: 'mirror symmetry',
        run: () => void mirrorPick(),
      },
      { keys: ['i'], shown: 'I', does: 'the faces that a drag missed, too', run: takeMissed },
      { keys: ['i'], shift: true, shown: 'Shift I', does: 'lone faces out of the pick', run: dropLone },
      { keys: ['g'], shown: 'G', does: 'give back the last pick', words: 'restore selection', run: bringBackPick },
      { keys: ['r'], shown: 'R', does: 'pick the next uncolored', run: pickNextUncolored },
      { keys: ['k'], shown: 'K', does: 'hide the pick, or what a click would take', words: 'isolate', run: hidePicked },
      { keys: ['k'], shift: true, shown: 'Shift K', does: 'hide all the others', run: hideTheRest },
      { keys: ['j'], shown: 'J', does: 'show everything', run: showAll },
      { keys: ['j'], shift: true, shown: 'Shift J', does: 'only the faces behind, and all again', run: toggleBehind },
      { keys: ['n'], shown: 'N', does: 'remember the pick', words: 'save selection name', run: rememberPick },
      { keys: ['z'], shift: true, shown: 'Shift Z', does: 'turn to face the pick', run: turnToPick },
      { keys: ['g'], shift: true, shown: 'Shift G', does: 'step back through earlier picks', run: stepBackThroughPicks },
      { keys: ['z'], shown: 'Z', does: 'look closer at the pick', words: 'zoom frame focus', run: () => frame('pick') },
      { keys: ['a'], ctrl: true, shown: 'Ctrl A', does: 'everything', words: 'select all', run: pickEverything },
      {
        keys: ['escape'],
        shown: 'Esc',
        does: 'let go',
        words: 'deselect clear none',
        run: () => {
          endCompare();
          usePick.setState({ shown: new Uint32Array(0), missed: null });
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
      { keys: ['l'], shown: 'L', does: 'lay the pick along the gradient in use', run: () => void layPick(useColoring.getState().cell) },
      { keys: ['t'], shift: true, shown: 'Shift T', does: 'the next variant', words: 'coloring default', run: nextVariant },
      {
        keys: ['u'],
        shift: true,
        shown: 'Shift U',
        does: 'colorings side by side, and one again',
        words: 'compare variants',
        run: () => (useCompare.getState().panes ? endCompare() : compare()),
      },
      { keys: ['t'], shown: 'T', does: 'take the color under the pointer', words: 'eyedropper pipette', run: takeCellUnderPointer },
      { keys: ['b'], shown: 'B', does: 'a color only for the picked faces', run: () => openNewColor(sourceCell(), true) },
      { keys: ['b'], shift: true, shown: 'Shift B', does: 'a new color from this one', run: () => openNewColor(sourceCell(), false) },
    ],
  },
  {
    name: 'Everywhere',
    list: [
      { keys: ['?'], shown: '?', does: 'this sheet', words: 'keys shortcuts help', run: () => useHelp.setState({ isOpen: true }) },
      // Listened to in every view, as the one before: see `HelpKey`, `ActSearchKey` and `RepeatKey`.
      { keys: [], shown: '/', does: 'search all that can be done', run: () => undefined },
      { keys: [], shown: 'Shift R', does: 'write the plan that left last once more', run: () => undefined },
    ],
  },
];

/** The shortcut that a key press stands for, and what it runs. */
export function shortcutFor(e: KeyboardEvent): { shortcut: Shortcut; run: () => void } | null {
  const key = e.key.toLowerCase();
  for (const { list } of shortcutGroups)
    for (const shortcut of list) {
      if (!shortcut.keys.includes(key) && shortcut.code !== e.code) continue;
      if (Boolean(shortcut.ctrl) !== (e.ctrlKey || e.metaKey)) continue;
      // The question mark needs Shift on most keyboards.
      if (key !== '?' && key !== 'escape' && Boolean(shortcut.shift) !== e.shiftKey) continue;
      const digit = Number(key);
      return { shortcut, run: digit ? () => chooseOfRamp(digit - 1) : shortcut.run };
    }
  return null;
}
