import { aboutScope, scopeList } from '@/core/shapes/pick/scopes';
import { fillPickHoles, growPickToCreases, keepSeen, pickOnLikeParts, showBorder } from '@/state/pick/changePick';
import { usePhrase, type Drag, type PhraseState } from '@/state/chosen/phrase';
import { useTakingAway } from '@/state/cut/takingAway';
import { redoEdit, undoEdit } from '@/state/kit/edits';
import { repeatPlan } from '@/state/files/plans';
import { notifyError } from '@/state/told/notices';
import { frame, lookFrom, togglePerspective, useView, type Shading, type Side } from '@/state/chosen/viewState';
import { useColoring } from '@/state/chosen/coloringState';
import { sheetInHand } from '@/state/color/board';
import { shortcutGroups, whileCutting } from '@/views/color/shortcutList';
import { viewList, type ViewSlug } from './views';

/** Something that the search finds and runs. */
export interface Act {
  says: string;
  /** Other words by which it is looked for. */
  words?: string;
  /** How its key is written. */
  key?: string;
  /** The view that it is for; any where it says none. */
  view?: ViewSlug;
  run: () => void;
}
export interface ActGroup {
  name: string;
  acts: Act[];
}

const drags: [Drag, string, string][] = [
  ['turn', 'A drag turns the view', 'rotate orbit'],
  ['box', 'A drag takes a box', 'rectangle marquee'],
  ['lasso', 'A drag takes a lasso', 'freehand outline'],
  ['brush', 'A drag brushes faces', 'paint'],
  ['line', 'A drag draws a line to lay the pick along', 'gradient'],
  ['seam', 'A drag draws a seam', 'cut'],
];
const whats: [PhraseState['act'], string][] = [
  ['pick', 'A click picks'],
  ['add', 'A click adds to the pick'],
  ['take', 'A click takes from the pick'],
  ['color', 'A click colors at once'],
];
const shadings: [Shading, string][] = [
  ['true', 'Show true colors'],
  ['light', 'Show the model in light'],
  ['grey', 'Show grey values'],
];

/** All acts, by subject. `go`: opens a view. */
export function actGroups(go: (view: NonNullable<Act['view']>) => void): ActGroup[] {
  const withKeys = shortcutGroups.map(({ name, list }): ActGroup => ({
    name,
    acts: list
      .filter((s) => s.keys.length + (s.code ? 1 : 0) > 0 && !s.release && s.keys.length < 2)
      .map((s): Act => ({
        says: s.does === 'this sheet' ? 'All keys, and help' : sentence(s.does),
        key: s.shown,
        view: 'color',
        run: s.run,
        ...(s.words && { words: s.words }),
      })),
  }));
  const inColor = (acts: Omit<Act, 'view'>[]): Act[] => acts.map((a) => ({ ...a, view: 'color' }));
  const scopeActs = scopeList
    .filter((s) => !aboutScope(s).key)
    .map((s) => ({ says: `A click takes ${aboutScope(s).word}`, words: aboutScope(s).hint, run: () => usePhrase.setState({ scope: s }) }));
  return [
    { name: 'Views', acts: viewList.map(([view, { word, words }]) => ({ says: `Go to ${word}`, words, run: () => go(view) })) },
    ...withKeys.map((g) => (g.name === 'How much a click takes' ? { ...g, acts: [...g.acts, ...inColor(scopeActs)] } : g)),
    {
      name: 'More of the pick',
      acts: inColor([
        ...drags.map(([drag, says, words]) => ({ says, words, run: () => usePhrase.setState({ drag }) })),
        ...whats.map(([act, says]) => ({ says, run: () => usePhrase.setState({ act }) })),
        { says: 'Grow the pick on to the next crease', run: growPickToCreases },
        { says: 'Fill the holes of the pick', run: fillPickHoles },
        { says: 'The same on like parts', words: 'copies similar', run: () => void pickOnLikeParts() },
        { says: 'Keep only what is seen of the pick', words: 'visible', run: () => void keepSeen() },
        { says: 'The border of the pick as edges', run: showBorder },
      ]),
    },
    {
      name: 'Cuts',
      acts: inColor([
        ...whileCutting.map(({ does, words, run }) => ({ says: `Cut ${does}`, ...(words && { words }), run })),
        {
          says: 'Take away edges that part nothing',
          words: 'dissolve simplify clean fewer triangles',
          run: () => useTakingAway.setState({ isOpen: true }),
        },
      ]),
    },
    {
      name: 'New colors',
      acts: [
        {
          says: 'Plan colors from a list',
          words: 'roles spare ramps words table',
          view: 'palette',
          run: () => useColoring.setState({ panel: { kind: 'plan', sheet: sheetInHand().id } }),
        },
        {
          says: 'A new ramp',
          words: 'shades steps',
          view: 'color',
          run: () => useColoring.setState({ panel: { kind: 'new ramp', from: 0 } }),
        },
      ],
    },
    {
      name: 'How it is shown',
      acts: inColor([
        ...shadings.map(([shading, says]) => ({ says, run: () => useView.setState({ shading }) })),
        ...(['front', 'back', 'left', 'right', 'top', 'bottom'] as Side[]).map((side) => ({
          says: `Look from the ${side}`,
          words: 'orthographic camera',
          run: () => lookFrom(side),
        })),
        { says: 'Perspective on and off', words: 'orthographic camera', run: togglePerspective },
        { says: 'Frame the model or the pick', words: 'zoom focus center', key: 'Z', run: () => frame('pick') },
        { says: 'Edges of the faces on and off', words: 'wireframe lines', run: () => useView.setState((v) => ({ edges: !v.edges })) },
        { says: 'Floor on and off', words: 'grid ground', run: () => useView.setState((v) => ({ grid: !v.grid })) },
      ]),
    },
    {
      name: 'Undo, and files',
      acts: [
        { says: 'Undo', key: 'Ctrl Z', run: undoEdit },
        { says: 'Redo', key: 'Ctrl Shift Z', run: redoEdit },
        {
          says: 'Write the plan that left last once more',
          key: 'Shift R',
          words: 'export repeat',
          run: () => void repeatPlan().catch(notifyError),
        },
      ],
    },
  ];
}

const sentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
