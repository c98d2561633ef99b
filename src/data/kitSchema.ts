import {
  cueBounds,
  farthest,
  limits,
  longestCueName,
  longestQuestion,
  longestTemplate,
  longestText,
  maxSheetSize,
  mostBands,
  mostCellIds,
  mostIn,
  mostRepeats,
  ruleLimits,
  scaleBounds,
} from '@/core/limits';
import { machineNames } from '@/core/byId';
import Joi from 'joi';
import { iconViews } from '@/core/handoff/icon';
import { formatIds } from '@/core/handoff/plan';
import type { LeaveOptions } from '@/core/io/leaveOptions';
import { writtenFormats } from '@/core/palette/paletteFile';
import { ruleNames } from '@/core/seat/gradientRules';

const text = Joi.string().allow('').max(longestText);
/** Never the name of an object's own machinery: some tables are keyed by it. */
const id = Joi.string()
  .pattern(/^[\w-]{1,64}$/)
  .invalid(...machineNames);
const address = Joi.string().pattern(/^[0-9a-f]{32}$/);
const hex = Joi.string().pattern(/^#[0-9a-f]{6}$/);
const texels = Joi.number().integer().min(0).max(maxSheetSize);
const cellId = Joi.number().integer().min(1).max(mostCellIds);
const mix = Joi.valid('oklab', 'srgb');
const fill = Joi.alternatives(
  Joi.object({ kind: Joi.valid('solid').required(), color: hex.required(), alpha: Joi.number().min(0).max(1) }),
  Joi.object({
    kind: Joi.valid('gradient').required(),
    axis: Joi.valid('x', 'y').required(),
    stops: Joi.array()
      .items(Joi.object({ at: Joi.number().min(0).max(1).required(), color: hex.required() }))
      .min(2)
      .max(mostIn.stops)
      .required(),
    mix: mix.required(),
    bands: Joi.number().integer().min(2).max(64),
  }),
  Joi.object({ kind: Joi.valid('corners').required(), colors: Joi.array().items(hex).length(4).required(), mix: mix.required() }),
  Joi.object({ kind: Joi.valid('art').required(), picture: address.required(), repeats: Joi.boolean() }),
  Joi.object({ kind: Joi.valid('spare').required() }),
);
const cell = Joi.object({
  id: cellId.required(),
  rect: Joi.object({ x: texels.required(), y: texels.required(), w: texels.min(1).required(), h: texels.min(1).required() }).required(),
  role: text.required(),
  fill: fill.required(),
  finish: Joi.object({ roughness: Joi.number().min(0).max(1).required(), metalness: Joi.number().min(0).max(1).required(), glow: hex }),
});
const sheet = Joi.object({
  id: id.required(),
  name: text.required(),
  width: texels.min(1).required(),
  height: texels.min(1).required(),
  padding: texels.required(),
  filter: Joi.valid('nearest', 'linear').required(),
  frozen: Joi.object({ picture: address.required(), appended: Joi.array().items(cellId).max(mostIn.appended) }),
  cells: Joi.array().items(cell).max(mostIn.cells).required(),
  ramps: Joi.array()
    .items(Joi.object({ id: id.required(), name: text.required(), cells: Joi.array().items(cellId).max(mostIn.steps).required() }))
    .max(mostIn.ramps)
    .required(),
});
const named = { id: id.required(), name: text.required() };
const point = Joi.array().items(Joi.number().min(-1e6).max(1e6)).length(3);
const share = Joi.number().min(0).max(1);
const laying = Joi.object({
  rule: Joi.valid(...ruleNames).required(),
  start: share.required(),
  end: share.required(),
  repeat: Joi.number().min(1).max(mostRepeats).required(),
  offset: share.required(),
  tone: Joi.valid('smooth', 'face', 'bands').required(),
  bands: Joi.number().integer().min(2).max(mostBands).required(),
  over: Joi.valid('pick', 'part').required(),
  screenUp: point.required(),
  line: Joi.array().items(point).length(2),
});
const model = Joi.object({
  ...named,
  mesh: address.required(),
  faces: Joi.number().integer().min(1).max(limits.faces).required(),
  sheet: id.required(),
  regions: Joi.array()
    .items(
      Joi.object({
        id: cellId.required(),
        name: text.required(),
        cell: Joi.number().integer().min(0).max(mostCellIds).required(),
        locked: Joi.boolean(),
      }),
    )
    .max(mostIn.regions)
    .required(),
  slots: Joi.array()
    .items(
      Joi.object({
        number: Joi.number().integer().min(0).required(),
        name: text.required(),
        cell: cellId.required(),
        named: Joi.valid(true),
      }),
    )
    .max(mostIn.slots)
    .required(),
  source: Joi.object({
    format: Joi.valid('obj', 'gltf', 'ply', 'stl', 'made').required(),
    name: text.required(),
    files: Joi.array()
      .items(Joi.object({ name: text.required(), content: address.required() }))
      .max(mostIn.files)
      .required(),
    bytes: Joi.number().integer().min(0),
    triangles: Joi.number().integer().min(0),
    mended: Joi.number().integer().min(0),
  }).required(),
  placement: Joi.object({ upFromZ: Joi.boolean().required(), scale: Joi.number().greater(0).required() }),
  sides: Joi.valid('front', 'both'),
  seams: Joi.array().items(Joi.number().integer().min(0)).required(),
  rules: Joi.array()
    .max(mostIn.layings)
    .unique('id')
    .items(Joi.object({ id: cellId.required(), along: laying.required(), cross: laying })),
  picks: Joi.array()
    .max(mostIn.picks)
    .items(
      Joi.object({
        id: Joi.number().integer().min(1).required(),
        name: text.required(),
        spans: Joi.array().items(Joi.number().integer().min(0)).required(),
      }),
    ),
});
const options = Joi.object({
  as: Joi.valid('texture', 'slots', 'colors'),
  meshes: Joi.valid('joined', 'shared'),
  unlit: Joi.boolean(),
  numbered: Joi.boolean(),
  vertexColors: Joi.valid('linear', 'srgb'),
  normals: Joi.valid('came', 'flat', 'smooth'),
  smoothAngle: Joi.number().min(0).max(180),
  faces: Joi.valid('whole', 'triangles'),
  up: Joi.valid('y', 'z'),
  scale: Joi.number().min(1e-6).max(1e6),
  origin: Joi.valid('came', 'middle', 'ground'),
  packed: Joi.boolean(),
  variants: Joi.valid('inside', 'none'),
  finish: Joi.boolean(),
} satisfies Record<keyof LeaveOptions, Joi.Schema>);
const handOff = Joi.object({
  ...named,
  parts: Joi.array()
    .items(
      Joi.object({
        format: Joi.valid(...formatIds).required(),
        each: Joi.valid('model', 'kit').required(),
        path: text.required(),
        options: options.required(),
        ways: Joi.object().pattern(id, Joi.valid('texture', 'slots', 'colors')),
        pictures: text,
        times: Joi.number().integer().min(1).max(64),
        palette: Joi.valid(...writtenFormats.map(([kind]) => kind)),
        variants: Joi.valid('apart'),
      }),
    )
    .max(mostIn.parts)
    .required(),
  letters: Joi.valid('kept', 'small').required(),
  between: Joi.valid('-', '_', '').required(),
  version: text.required(),
  description: text.required(),
  list: Joi.object({ path: text.required() }),
  manifest: Joi.object({ path: text.required(), template: Joi.string().allow('').max(longestTemplate).required() }),
  icon: Joi.object({
    path: text.required(),
    size: Joi.number().integer().min(16).max(2048).required(),
    from: Joi.valid(...Object.keys(iconViews)).required(),
    model: id,
    ground: hex,
    picture: address,
  }),
  onlyProven: Joi.valid(true),
  withoutUnseen: Joi.valid(true),
});
const meant = { only: Joi.array().items(id).max(mostIn.ramps), except: Joi.array().items(cellId).max(mostIn.fills) };
const within = ([least, most]: readonly [number, number]) => Joi.number().min(least).max(most).required();
const coloringRule = Joi.alternatives(
  Joi.object({
    ...meant,
    kind: Joi.valid('shift').required(),
    lightness: within(ruleLimits.lightness),
    strength: within(ruleLimits.strength),
    hue: within(ruleLimits.hue),
  }),
  Joi.object({ ...meant, kind: Joi.valid('toward').required(), color: hex.required(), share: within(ruleLimits.share) }),
  Joi.object({
    ...meant,
    kind: Joi.valid('exchange').required(),
    cells: Joi.object()
      .pattern(/^[1-9]\d{0,4}$/, cellId)
      .max(mostIn.fills)
      .required(),
  }),
  Joi.object({
    ...meant,
    kind: Joi.valid('drawn').required(),
    reference: id.required(),
    colors: Joi.object()
      .pattern(/^[1-9]\d{0,4}$/, hex)
      .max(mostIn.fills)
      .required(),
  }),
);
/** A content address for the path of each entry. */
export const sumsSchema = Joi.object()
  .pattern(/^.{1,200}$/, address)
  .max(40_000)
  .required();
const placement = Joi.object({
  ...named,
  model: id.required(),
  variant: id,
  at: Joi.array().items(Joi.number().min(-farthest).max(farthest)).length(3).required(),
  turn: Joi.number().min(0).less(360).required(),
  scale: Joi.number().min(scaleBounds[0]).max(scaleBounds[1]).required(),
});
/** Empty where what it names is gone. */
const meantId = id.allow('').required();
const coloring = id.allow('', null).required();
const among = Joi.array()
  .items(id.allow(null))
  .max(mostIn.variants + 1);
const cue = Joi.object({
  id: id.required(),
  name: Joi.string().max(longestCueName).required(),
  when: Joi.alternatives(
    Joi.object({ kind: Joi.valid('click').required(), placement: meantId }),
    Joi.object({ kind: Joi.valid('near').required(), placement: meantId, metres: within(cueBounds.metres) }),
    Joi.object({ kind: Joi.valid('start').required() }),
    Joi.object({ kind: Joi.valid('cue').required(), cue: meantId }),
  ).required(),
  after: Joi.number().min(cueBounds.after[0]).max(cueBounds.after[1]),
  who: Joi.object({ placement: id.allow(''), model: id.allow('') })
    .oxor('placement', 'model')
    .required(),
  does: Joi.alternatives(
    Joi.object({ kind: Joi.valid('show').required(), coloring }),
    Joi.object({ kind: Joi.valid('next', 'random').required(), among }),
    Joi.object({ kind: Joi.valid('ask').required(), question: Joi.string().allow('').max(longestQuestion).required(), among }),
  ).required(),
  once: Joi.valid(true),
  onlyIf: Joi.object({ placement: meantId, coloring }),
});
/** What a kit's document may hold; what one entry has to do with another is checked besides. */
export const kitSchema = Joi.object({
  ...named,
  sheets: Joi.array().items(sheet).min(1).max(mostIn.sheets).required(),
  models: Joi.array().items(model).max(mostIn.models).required(),
  variants: Joi.array()
    .items(
      Joi.object({
        ...named,
        model: id,
        rules: Joi.array().items(coloringRule).min(1).max(mostIn.rules),
        fills: Joi.object()
          .pattern(/^[1-9]\d{0,4}$/, fill)
          .max(mostIn.fills)
          .required(),
      }),
    )
    .max(mostIn.variants)
    .required(),
  references: Joi.array()
    .items(Joi.object({ ...named, picture: address.required() }))
    .max(mostIn.references)
    .required(),
  handOffs: Joi.array().items(handOff).max(mostIn.handOffs).required(),
  placements: Joi.array().items(placement).min(1).max(mostIn.placements),
  cues: Joi.array().items(cue).min(1).max(mostIn.cues),
  allowed: Joi.object({ name: text.required(), colors: Joi.array().items(hex).min(1).max(mostIn.colors).required() }),
  proof: Joi.object({
    mipLevels: Joi.number().integer().min(0).max(12).required(),
    stretch: Joi.number().min(1).max(100).required(),
    materials: Joi.number().integer().min(1).max(10_000).required(),
    playSize: Joi.number().integer().min(16).max(1024),
    background: hex,
    waived: Joi.array()
      .items(Joi.object({ check: text.required(), model: text, reason: text.allow('').required() }))
      .max(mostIn.waived)
      .required(),
  }),
  slotsFrom: Joi.valid(0, 1),
  startsWith: id,
  nextCell: Joi.number()
    .integer()
    .min(1)
    .max(mostCellIds + 1)
    .required(),
});
