import { machineNames } from '../ground/byId';
import { iconViews } from './handOffPlan';
import { formatIds } from './handOffPlan';
import { cueActIds, heldOf } from './cueActs';
import { leaveOptions } from './leaveOptions';
import * as bounds from '../ground/limits';
import { mostIn } from '../ground/limits';
import { writtenFormats } from '../ground/palettes/paletteFile';
import { ruleNames } from './laying/gradientRules';
import { either, fields, list, maybe, number, one, sign, table, text, whole, yesOrNo, type Shape } from './shape';

/*
 * The shape of a kit's document. The door holds each entry to its bounds, and the schema of what comes in is made of it
 * (`data/kitSchema.ts`), so that whatever one takes the other opens. What one entry has to do with another is checked
 * besides.
 */

const words = text(bounds.longestText);
/** Never the name of an object's own machinery: some tables are keyed by it. */
const idLike = /^[\w-]{1,64}$/;
const id = sign(idLike, { not: machineNames });
const idOr = (...or: (string | null)[]) => sign(idLike, { not: machineNames, or });
const address = sign(/^[0-9a-f]{32}$/);
const hex = sign(/^#[0-9a-f]{6}$/);
const texels = whole(0, bounds.maxSheetSize);
const someTexels = whole(1, bounds.maxSheetSize);
const cellId = whole(1, bounds.mostCellIds);
const byCell = (of: Shape) => table(/^[1-9]\d{0,4}$/, of, mostIn.fills);
const share = number(0, 1);
const within = ([least, most]: readonly [number, number]) => number(least, most);
const named = { id, name: words };

const mix = one('oklab', 'srgb');
const fill = either(
  fields({ kind: one('solid'), color: hex, alpha: maybe(share) }),
  fields({
    kind: one('gradient'),
    axis: one('x', 'y'),
    stops: list(fields({ at: share, color: hex }), mostIn.stops, 2),
    mix,
    bands: maybe(whole(2, 64)),
  }),
  fields({ kind: one('corners'), colors: list(hex, 4, 4), mix }),
  fields({ kind: one('art'), picture: address, repeats: maybe(yesOrNo), painted: maybe(one(true)) }),
  fields({ kind: one('spare') }),
);
const cell = fields({
  id: cellId,
  rect: fields({ x: texels, y: texels, w: someTexels, h: someTexels }),
  role: words,
  fill,
  finish: maybe(fields({ roughness: share, metalness: share, glow: maybe(hex) })),
  locked: maybe(one(true)),
});
const ramp = fields({ ...named, cells: list(cellId, mostIn.steps) });
const sheet = fields({
  ...named,
  width: someTexels,
  height: someTexels,
  padding: texels,
  filter: one('nearest', 'linear'),
  frozen: maybe(fields({ picture: address, appended: maybe(list(cellId, mostIn.appended)) })),
  cells: list(cell, mostIn.cells),
  ramps: list(ramp, mostIn.ramps),
});

const point = list(number(-1e6, 1e6), 3, 3);
const laying = fields({
  rule: one(...ruleNames),
  start: share,
  end: share,
  repeat: number(1, bounds.mostRepeats),
  offset: share,
  tone: one('smooth', 'face', 'bands'),
  bands: whole(2, bounds.mostBands),
  over: one('pick', 'part'),
  screenUp: point,
  line: maybe(list(point, 2, 2)),
});
const motif = fields({
  ...named,
  rows: list(sign(new RegExp(`^[-0+]{1,${bounds.largestMotif}}$`)), bounds.largestMotif, 1),
  shift: maybe(whole(0, bounds.largestMotif - 1)),
  overlap: maybe(whole(0, bounds.largestMotif - 1)),
});
const seed = whole(0, 2 ** 31);
const pattern = either(
  fields({ kind: one('noise'), cell: cellId, within: whole(1, bounds.mostNoise), seed }),
  fields({
    kind: one('mix'),
    among: list(fields({ cell: cellId, weight: whole(1, bounds.heaviest) }), bounds.mostMixed, 1),
    seed,
  }),
  fields({ kind: one('ordered'), from: cellId, to: cellId, share, grid: one(2, 4, 8), line: maybe(list(point, 2, 2)) }),
  fields({ kind: one('motif'), motif, cell: whole(0, bounds.mostCellIds) }),
);
/** Faces and corners are as many as the mesh has. */
const anyNumber = Infinity;
const model = fields({
  ...named,
  mesh: address,
  faces: whole(1, bounds.limits.faces),
  sheet: id,
  regions: list(fields({ id: cellId, name: words, cell: whole(0, bounds.mostCellIds), locked: maybe(yesOrNo) }), mostIn.regions),
  slots: list(fields({ number: whole(0), name: words, cell: cellId, named: maybe(one(true)) }), mostIn.slots),
  source: fields({
    format: one('obj', 'gltf', 'ply', 'stl', 'made'),
    name: words,
    files: list(fields({ name: words, content: address }), mostIn.files),
    bytes: maybe(whole(0)),
    triangles: maybe(whole(0)),
    mended: maybe(whole(0)),
  }),
  placement: maybe(fields({ upFromZ: yesOrNo, scale: number(0, Number.MAX_VALUE, { above: true }) })),
  sides: maybe(one('front', 'both')),
  seams: list(whole(0), anyNumber),
  rules: maybe(list(fields({ id: cellId, along: laying, cross: maybe(laying) }), mostIn.layings)),
  picks: maybe(list(fields({ id: whole(1), name: words, spans: list(whole(0), anyNumber), pattern: maybe(pattern) }), mostIn.picks)),
});

const options = Object.fromEntries(Object.entries(leaveOptions).map(([key, { shape }]) => [key, maybe(shape)]));
const way = leaveOptions.as.shape;
const handOff = fields({
  ...named,
  parts: list(
    fields({
      format: one(...formatIds),
      each: one('model', 'kit'),
      path: words,
      options: fields(options),
      ways: maybe(table(idLike, way, mostIn.models, machineNames)),
      pictures: maybe(words),
      times: maybe(whole(1, 64)),
      palette: maybe(one(...writtenFormats.map(([kind]) => kind))),
      variants: maybe(one('apart')),
    }),
    mostIn.parts,
  ),
  letters: one('kept', 'small'),
  between: one('-', '_', ''),
  version: words,
  description: words,
  list: maybe(fields({ path: words })),
  manifest: maybe(fields({ path: words, template: text(bounds.longestTemplate) })),
  icon: maybe(
    fields({
      path: words,
      size: whole(16, 2048),
      from: one(...Object.keys(iconViews)),
      model: maybe(id),
      ground: maybe(hex),
      picture: maybe(address),
    }),
  ),
  onlyProven: maybe(one(true)),
  withoutUnseen: maybe(one(true)),
});

const meant = { only: maybe(list(id, mostIn.ramps)), except: maybe(list(cellId, mostIn.fills)) };
const { ruleLimits } = bounds;
const coloringRule = either(
  fields({
    ...meant,
    kind: one('shift'),
    lightness: within(ruleLimits.lightness),
    strength: within(ruleLimits.strength),
    hue: within(ruleLimits.hue),
  }),
  fields({ ...meant, kind: one('toward'), color: hex, share: within(ruleLimits.share) }),
  fields({ ...meant, kind: one('exchange'), cells: byCell(cellId) }),
  fields({ ...meant, kind: one('drawn'), reference: id, colors: byCell(hex) }),
);
const variant = fields({
  ...named,
  model: maybe(id),
  rules: maybe(list(coloringRule, mostIn.rules, 1)),
  fills: byCell(fill),
});

const placement = fields({
  ...named,
  model: id,
  variant: maybe(id),
  at: list(number(-bounds.farthest, bounds.farthest), 3, 3),
  turn: number(0, 360, { below: true }),
  scale: within(bounds.scaleBounds),
});
/** Empty where what it names is gone. */
const meantId = idOr('');
const coloring = idOr('', null);
const among = maybe(list(idOr(null), mostIn.variants + 1));
const cue = fields({
  id,
  name: text(bounds.longestCueName, 1),
  when: either(
    fields({ kind: one('click'), placement: meantId }),
    fields({ kind: one('near'), placement: meantId, metres: within(bounds.cueBounds.metres) }),
    fields({ kind: one('start') }),
    fields({ kind: one('cue'), cue: meantId }),
  ),
  after: maybe(within(bounds.cueBounds.after)),
  who: either(fields({ placement: meantId }), fields({ model: meantId }), fields({})),
  does: either(
    ...cueActIds.map((kind) => fields({ kind: one(kind), ...heldOf(kind, { coloring, among, question: text(bounds.longestQuestion) }) })),
  ),
  once: maybe(one(true)),
  onlyIf: maybe(fields({ placement: meantId, coloring })),
});

/** One entry of each list of a kit or sheet. */
export const entryShapes = {
  cells: cell,
  ramps: ramp,
  sheets: sheet,
  models: model,
  variants: variant,
  placements: placement,
  cues: cue,
  motifs: motif,
  references: fields({ ...named, picture: address }),
  handOffs: handOff,
} as const;

/** A kit's document. */
export const kitShape = fields({
  ...named,
  sheets: list(sheet, mostIn.sheets, 1),
  models: list(model, mostIn.models),
  variants: list(variant, mostIn.variants),
  references: list(entryShapes.references, mostIn.references),
  handOffs: list(handOff, mostIn.handOffs),
  placements: maybe(list(placement, mostIn.placements, 1)),
  cues: maybe(list(cue, mostIn.cues, 1)),
  motifs: maybe(list(motif, mostIn.motifs, 1)),
  allowed: maybe(fields({ name: words, colors: list(hex, mostIn.colors, 1) })),
  proof: maybe(
    fields({
      mipLevels: whole(0, 12),
      stretch: number(1, 100),
      materials: whole(1, 10_000),
      playSize: maybe(whole(16, 1024)),
      background: maybe(hex),
      waived: list(fields({ check: words, model: maybe(words), reason: words }), mostIn.waived),
    }),
  ),
  slotsFrom: maybe(one(0, 1)),
  startsWith: maybe(id),
  nextCell: whole(1, bounds.mostCellIds + 1),
});
/** The plain fields of a sheet. */
export const sheetShape = sheet;
