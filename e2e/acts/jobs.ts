import type { Acts } from './acts';
import { cap, fence, flyingBoat, halfBarrel, harbourMaster, keeper, keeperInOilskins, mug, type JobModel } from './models';

type Step = (a: Acts) => Promise<unknown>;
export interface Job {
  name: string;
  model: JobModel;
  /** What else is opened with it. */
  beside?: JobModel[];
  /** The least that is wanted: acts of an expert, and of someone on their first day. */
  goal: [expert: number, firstDay: number];
  /** The color that each piece leaves with, by role of the kit's first sheet. */
  wanted: Record<string, string>;
  /** What is done after the models are opened and before they leave. */
  expert: Step[];
  firstDay: Step[];
  /** Leaves by flat materials, not by the sheet. */
  asMaterials?: true;
  /** Runs in every test of the product, not only when the acts are counted. */
  isAlways?: true;
}

/** Does a job, counting what is done; the colors that each piece leaves with. */
export async function doJob(a: Acts, { model, beside = [], asMaterials, ...job }: Job, way: 'expert' | 'firstDay') {
  await a.open(model, ...beside);
  for (const step of job[way]) await step(a);
  await a.handOff();
  if (asMaterials) await a.click(a.page.getByRole('radio', { name: 'As flat materials' }));
  return asMaterials ? a.download('base') : a.download('color', ...(beside.length ? [model, ...beside] : []));
}

const key =
  (name: string): Step =>
  (a) =>
    a.key(name);
const face =
  (piece: string): Step =>
  (a) =>
    a.face(piece);
const color =
  (role: string): Step =>
  (a) =>
    a.color(role);
const press =
  (name: string | RegExp): Step =>
  (a) =>
    a.click(a.button(name));
const allIn = (role: string): Step[] => [key('Control+a'), color(role)];
/** The same by the words of the phrase, as someone does who knows no key. */
const everythingIn = (role: string): Step[] => [press(/everything/), color(role)];
const aClickTakes = (word: RegExp): Step[] => [press(/^How much: /), (a) => a.click(a.page.getByRole('menuitemradio', { name: word }))];
const wholePart = aClickTakes(/the whole part/);
const planned = (roles: string[]): Step[] => [
  (a) => a.type(a.page.getByLabel('Roles'), roles.join(', ')),
  press('Lay them out'),
  (a) => a.toColor(),
];
const inProposedColors = (by: RegExp): Step[] => [
  press('Proposals'),
  (a) => a.click(a.page.getByRole('radio', { name: 'each with another' })),
  (a) => a.click(a.page.getByRole('dialog').getByRole('button', { name: by })),
];

/** Each piece of a figure and its color; twins are mirrored by those who know how, and clicked one by one by others. */
const pieceByPiece = (wanted: Record<string, string>, isExpert: boolean): Step[] =>
  Object.entries(wanted).map(([piece, role]) => async (a) => {
    if (a.has(piece)) await a.face(piece);
    else if (isExpert) await a.face(`${piece} right`, { takes: 12 });
    else {
      await a.face(`${piece} right`);
      await a.face(`${piece} left`, { shift: true });
    }
    await a.color(role);
  });
const byMirror = (wanted: Record<string, string>): Step[] => [key('w'), key('m'), ...pieceByPiece(wanted, true)];
const byClicks = (wanted: Record<string, string>): Step[] => [...wholePart, ...pieceByPiece(wanted, false)];

const short = fence(4, 'fence');
const long = fence(6, 'long-fence');
const likeTheShort: Step[] = [(a) => a.show(long, /^long-fence/), press('take colors from fence'), (a) => a.allColored()];
const nine = {
  head: 'pale skin',
  coat: 'oilskin yellow',
  sleeve: 'faded yellow',
  trousers: 'navy',
  boot: 'rubber',
  hat: 'tarred hat',
  beard: 'grey beard',
  belt: 'leather belt',
  buckle: 'brass',
};
const fourteen = {
  head: 'straw, lit',
  coat: 'slate, in shade',
  sleeve: 'slate',
  trousers: 'near black',
  boot: 'straw, in shade',
  hat: 'rust, in shade',
  badge: 'straw',
  beard: 'chalk',
  belt: 'moss, in shade',
  buckle: 'moss, lit',
  collar: 'slate, lit',
  hand: 'rust, lit',
  cuff: 'rust',
  lantern: 'moss',
};

const keepers = { head: 'straw, lit', trousers: 'near black', boot: 'rust' };
const handleAndInside: Step[] = [face('handle'), color('slate'), face('inside'), color('straw, lit')];
const staves = ['rust, in shade', 'rust', 'rust, lit', 'straw, in shade', 'straw'];

export const jobs: Job[] = [
  {
    name: 'a flying boat in two colors',
    model: flyingBoat,
    goal: [9, 13],
    wanted: { hull: 'chalk', wing: 'rust', tail: 'chalk', fin: 'chalk', float: 'chalk' },
    expert: [...allIn('chalk'), key('w'), face('wing'), color('rust')],
    firstDay: [...everythingIn('chalk'), ...wholePart, face('wing'), color('rust')],
  },
  {
    name: 'a fence, and a longer copy of it',
    model: short,
    beside: [long],
    goal: [8, 12],
    wanted: { posts: 'rust', rails: 'rust, in shade' },
    expert: [...inProposedColors(/By object/), ...likeTheShort],
    firstDay: [...everythingIn('rust, in shade'), ...aClickTakes(/the whole object/), face('posts'), color('rust'), ...likeTheShort],
    isAlways: true,
  },
  {
    name: 'a cap in one color',
    model: cap,
    goal: [6, 6],
    wanted: { crown: 'slate, in shade', band: 'slate, in shade', peak: 'slate, in shade' },
    expert: allIn('slate, in shade'),
    firstDay: everythingIn('slate, in shade'),
  },
  {
    name: 'a keeper in four colors',
    model: keeper,
    goal: [15, 25],
    wanted: { ...keepers, coat: 'slate', sleeve: 'slate' },
    expert: [...allIn('slate'), ...byMirror(keepers)],
    firstDay: [...everythingIn('slate'), ...byClicks(keepers)],
  },
  {
    name: 'a mug, leaving with three materials',
    model: mug,
    goal: [11, 18],
    wanted: { body: 'chalk', handle: 'slate', inside: 'straw, lit' },
    expert: [...allIn('chalk'), key('p'), ...handleAndInside],
    firstDay: [...everythingIn('chalk'), ...aClickTakes(/what bulges out or is set in/), ...handleAndInside],
    asMaterials: true,
    isAlways: true,
  },
  {
    name: 'a keeper in oilskins, in nine named regions of planned colors',
    model: keeperInOilskins,
    goal: [30, 45],
    wanted: nine,
    expert: [
      key('/'),
      (a) => a.type(a.page.getByRole('combobox'), 'plan colors'),
      key('Enter'),
      ...planned(Object.values(nine)),
      ...byMirror(nine),
      press('By color'),
    ],
    firstDay: [
      (a) => a.click(a.page.getByRole('link', { name: 'Palette', exact: true })),
      press('Plan colors'),
      ...planned(Object.values(nine)),
      ...byClicks(nine),
      press('By color'),
    ],
  },
  {
    name: 'half a barrel, each of its five staves a material',
    model: halfBarrel,
    goal: [7, 10],
    wanted: Object.fromEntries(staves.map((role, i) => [`stave ${i + 1}`, role])),
    expert: inProposedColors(/By flat areas/),
    firstDay: inProposedColors(/By flat areas/),
    asMaterials: true,
    isAlways: true,
  },
  {
    name: 'a harbour master in fourteen colors',
    model: harbourMaster,
    goal: [33, 45],
    wanted: fourteen,
    expert: byMirror(fourteen),
    firstDay: byClicks(fourteen),
  },
];
