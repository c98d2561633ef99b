import type { Acts } from './acts';
import { cap, fence, flyingBoat, halfBarrel, harbourMaster, keeper, keeperInOilskins, mug, type JobModel } from './models';

export interface Job {
  name: string;
  model: JobModel;
  /** The least that is wanted: acts of an expert, and of someone on their first day. */
  goal: [expert: number, firstDay: number];
  /** The color that each piece leaves with, by role of the kit's first sheet. */
  wanted: Record<string, string>;
  expert: (a: Acts) => Promise<Record<string, string[]>>;
  firstDay: (a: Acts) => Promise<Record<string, string[]>>;
  /** Runs in every test of the product, not only when the acts are counted. */
  isAlways?: true;
}

/** By the words of the phrase, as someone does who knows no key. */
async function aClickTakes(a: Acts, word: RegExp): Promise<void> {
  await a.click(a.button(/^How much: /));
  await a.click(a.page.getByRole('menuitemradio', { name: word }));
}
const wholePart = /the whole part/;
const everything = (a: Acts) => a.click(a.button(/everything/));
const left = async (a: Acts, ...models: JobModel[]) => {
  await a.handOff();
  return a.download('color', ...models);
};
const leftAsMaterials = async (a: Acts) => {
  await a.handOff();
  await a.click(a.page.getByRole('radio', { name: 'As flat materials' }));
  return a.download('base');
};

/** Each piece of a figure and its color; twins are mirrored by those who know how, and clicked one by one by others. */
async function pieceByPiece(a: Acts, wanted: Record<string, string>, isExpert: boolean): Promise<void> {
  const isPair = (piece: string) => !a.has(piece);
  for (const [piece, role] of Object.entries(wanted)) {
    if (!isPair(piece)) await a.face(piece);
    else if (isExpert) await a.face(`${piece} right`, { takes: 12 });
    else {
      await a.face(`${piece} right`);
      await a.face(`${piece} left`, { shift: true });
    }
    await a.color(role);
  }
}

const short = fence(4, 'fence');
const long = fence(6, 'long-fence');
const inProposedColors = async (a: Acts, by: RegExp) => {
  await a.click(a.button('Proposals'));
  await a.click(a.page.getByRole('radio', { name: 'each with another' }));
  await a.click(a.page.getByRole('dialog').getByRole('button', { name: by }));
};
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

export const jobs: Job[] = [
  {
    name: 'a flying boat in two colors',
    model: flyingBoat,
    goal: [9, 13],
    wanted: { hull: 'chalk', wing: 'rust', tail: 'chalk', fin: 'chalk', float: 'chalk' },
    expert: async (a) => {
      await a.open(flyingBoat);
      await a.key('Control+a');
      await a.color('chalk');
      await a.key('w');
      await a.face('wing');
      await a.color('rust');
      return left(a);
    },
    firstDay: async (a) => {
      await a.open(flyingBoat);
      await everything(a);
      await a.color('chalk');
      await aClickTakes(a, wholePart);
      await a.face('wing');
      await a.color('rust');
      return left(a);
    },
  },
  {
    name: 'a fence, and a longer copy of it',
    model: short,
    goal: [8, 12],
    wanted: { posts: 'rust', rails: 'rust, in shade' },
    expert: async (a) => {
      await a.open(short, long);
      await inProposedColors(a, /By object/);
      await a.show(long, /^long-fence/);
      await a.click(a.button('take colors from fence'));
      await a.allColored();
      return left(a, short, long);
    },
    firstDay: async (a) => {
      await a.open(short, long);
      await everything(a);
      await a.color('rust, in shade');
      await aClickTakes(a, /the whole object/);
      await a.face('posts');
      await a.color('rust');
      await a.show(long, /^long-fence/);
      await a.click(a.button('take colors from fence'));
      await a.allColored();
      return left(a, short, long);
    },
    isAlways: true,
  },
  {
    name: 'a cap in one color',
    model: cap,
    goal: [6, 6],
    wanted: { crown: 'slate, in shade', band: 'slate, in shade', peak: 'slate, in shade' },
    expert: async (a) => {
      await a.open(cap);
      await a.key('Control+a');
      await a.color('slate, in shade');
      return left(a);
    },
    firstDay: async (a) => {
      await a.open(cap);
      await everything(a);
      await a.color('slate, in shade');
      return left(a);
    },
  },
  {
    name: 'a keeper in four colors',
    model: keeper,
    goal: [15, 25],
    wanted: { head: 'straw, lit', coat: 'slate', sleeve: 'slate', trousers: 'near black', boot: 'rust' },
    expert: async (a) => {
      await a.open(keeper);
      await a.key('Control+a');
      await a.color('slate');
      await a.key('w');
      await a.key('m');
      await pieceByPiece(a, { head: 'straw, lit', trousers: 'near black', boot: 'rust' }, true);
      return left(a);
    },
    firstDay: async (a) => {
      await a.open(keeper);
      await everything(a);
      await a.color('slate');
      await aClickTakes(a, wholePart);
      await pieceByPiece(a, { head: 'straw, lit', trousers: 'near black', boot: 'rust' }, false);
      return left(a);
    },
  },
  {
    name: 'a mug, leaving with three materials',
    model: mug,
    goal: [11, 18],
    wanted: { body: 'chalk', handle: 'slate', inside: 'straw, lit' },
    expert: async (a) => {
      await a.open(mug);
      await a.key('Control+a');
      await a.color('chalk');
      await a.key('p');
      await a.face('handle');
      await a.color('slate');
      await a.face('inside');
      await a.color('straw, lit');
      return leftAsMaterials(a);
    },
    firstDay: async (a) => {
      await a.open(mug);
      await everything(a);
      await a.color('chalk');
      await aClickTakes(a, /what bulges out or is set in/);
      await a.face('handle');
      await a.color('slate');
      await a.face('inside');
      await a.color('straw, lit');
      return leftAsMaterials(a);
    },
    isAlways: true,
  },
  {
    name: 'a keeper in oilskins, in nine named regions of planned colors',
    model: keeperInOilskins,
    goal: [30, 45],
    wanted: nine,
    expert: async (a) => {
      await a.open(keeperInOilskins);
      await a.key('/');
      await a.type(a.page.getByRole('combobox'), 'plan colors');
      await a.key('Enter');
      await a.type(a.page.getByLabel('Roles'), Object.values(nine).join(', '));
      await a.click(a.button('Lay them out'));
      await a.toColor();
      await a.key('w');
      await a.key('m');
      await pieceByPiece(a, nine, true);
      await a.click(a.button('By color'));
      return left(a);
    },
    firstDay: async (a) => {
      await a.open(keeperInOilskins);
      await a.click(a.page.getByRole('link', { name: 'Palette', exact: true }));
      await a.click(a.button('Plan colors'));
      await a.type(a.page.getByLabel('Roles'), Object.values(nine).join(', '));
      await a.click(a.button('Lay them out'));
      await a.toColor();
      await aClickTakes(a, wholePart);
      await pieceByPiece(a, nine, false);
      await a.click(a.button('By color'));
      return left(a);
    },
  },
  {
    name: 'half a barrel, each of its five staves a material',
    model: halfBarrel,
    goal: [7, 10],
    wanted: Object.fromEntries(
      ['rust, in shade', 'rust', 'rust, lit', 'straw, in shade', 'straw'].map((role, i) => [`stave ${i + 1}`, role]),
    ),
    expert: async (a) => {
      await a.open(halfBarrel);
      await inProposedColors(a, /By flat areas/);
      return leftAsMaterials(a);
    },
    firstDay: async (a) => {
      await a.open(halfBarrel);
      await inProposedColors(a, /By flat areas/);
      return leftAsMaterials(a);
    },
    isAlways: true,
  },
  {
    name: 'a harbour master in fourteen colors',
    model: harbourMaster,
    goal: [33, 45],
    wanted: fourteen,
    expert: async (a) => {
      await a.open(harbourMaster);
      await a.key('w');
      await a.key('m');
      await pieceByPiece(a, fourteen, true);
      return left(a);
    },
    firstDay: async (a) => {
      await a.open(harbourMaster);
      await aClickTakes(a, wholePart);
      await pieceByPiece(a, fourteen, false);
      return left(a);
    },
  },
];
