import {
  cueBounds,
  farthest,
  longestCueName,
  longestPlacementName,
  longestQuestion,
  mostIn,
  mostStageBytes,
  scaleBounds,
} from '@/core/ground/limits';
import Joi from 'joi';
import { cueActIds, heldOf } from '@/core/kit/cueActs';
import { strangerIn } from '@/core/kit/cues';
import type { Kit } from '@/core/kit/kit';
import { problemOfPlacement } from '@/core/kit/placementNames';
import { FileError, parseJson } from '@/core/ground/bytes/errors';
import { stageInGlb } from '@/core/files/gltf/readScene';
import { stageFormat, stageOf, stageVersion, type Stage, type StageInFile } from '@/core/files/leaving/stageFile';
import { misfitOf } from './checked';

const name = Joi.string().trim().min(1).max(longestPlacementName).required();
const coloring = Joi.string().min(1).max(200).required();
const orGone = Joi.string().allow(null).required();
const among = Joi.alternatives(
  Joi.valid('all'),
  Joi.array()
    .items(coloring.optional())
    .max(mostIn.variants + 1),
).required();
const placement = Joi.object({
  name,
  model: Joi.string().required(),
  coloring,
  at: Joi.array().items(Joi.number().min(-farthest).max(farthest)).length(3).required(),
  turn: Joi.number().min(0).less(360).required(),
  scale: Joi.number().min(scaleBounds[0]).max(scaleBounds[1]).required(),
});
const question = Joi.string().allow('').max(longestQuestion).required();
const cue = Joi.object({
  name: Joi.string().trim().min(1).max(longestCueName).required(),
  when: Joi.alternatives(
    Joi.object({ event: Joi.valid('click').required(), placement: orGone }),
    Joi.object({
      event: Joi.valid('near').required(),
      placement: orGone,
      metres: Joi.number().min(cueBounds.metres[0]).max(cueBounds.metres[1]).required(),
    }),
    Joi.object({ event: Joi.valid('start').required() }),
    Joi.object({ event: Joi.valid('cue').required(), cue: orGone }),
  ).required(),
  after: Joi.number().min(cueBounds.after[0]).max(cueBounds.after[1]).required(),
  who: Joi.alternatives(Joi.valid('all'), Joi.object({ placement: orGone }), Joi.object({ model: orGone })).required(),
  does: Joi.alternatives(
    ...cueActIds.map((act) => Joi.object({ act: Joi.valid(act).required(), ...heldOf(act, { coloring: orGone, question, among }) })),
  ).required(),
  once: Joi.boolean().required(),
  onlyIf: Joi.object({ placement: orGone, coloring: orGone }).allow(null).required(),
});
const schema = Joi.object({
  format: Joi.valid(stageFormat).required(),
  version: Joi.valid(stageVersion).required(),
  kit: Joi.string().allow('').required(),
  placements: Joi.array().items(placement).required(),
  cues: Joi.array().items(cue).max(mostIn.cues).required(),
});

const inMegabytes = (n: number): string => `${(n / 1024 / 1024).toFixed(1)} MB`;

/**
 * What a `stage.json` or a GLB of a stage says, in terms of a kit. Throws `FileError` where it is of a newer version,
 * holds too much, does not hold together, or speaks of what the kit does not have; nothing of it is taken then.
 */
export function readStageFile(file: string, bytes: Uint8Array, kit: Kit): Stage {
  const isGlb = bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
  if (isGlb && bytes.length < 20) throw new FileError(file, 'it is cut short. Save it again.');
  const own = isGlb ? new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true) : bytes.length;
  if (own <= bytes.length && own > mostStageBytes)
    throw new FileError(file, `it holds ${inMegabytes(own)} of what stands there; a stage has at most ${inMegabytes(mostStageBytes)}.`);
  const value = isGlb ? stageInGlb(file, bytes) : parseJson(file, new TextDecoder().decode(bytes), 'it is no stage');
  const said = (typeof value === 'object' && value !== null ? value : {}) as Partial<Record<keyof StageInFile, unknown>>;
  if (said.format !== stageFormat)
    throw new FileError(file, 'it is no stage. A stage is a stage.json or a GLB of the scene that was saved from here.');
  if (typeof said.version === 'number' && said.version > stageVersion)
    throw new FileError(
      file,
      `it is of version ${said.version}, and this Oligochrome reads up to ${stageVersion}. Bring it in with the one that made it.`,
    );
  if (Array.isArray(said.placements) && said.placements.length > mostIn.placements)
    throw new FileError(
      file,
      `it has ${said.placements.length.toLocaleString('en')} placements; a stage holds ${mostIn.placements.toLocaleString('en')}.`,
    );
  const misfit = misfitOf(schema, said);
  if (misfit) throw new FileError(file, `it does not hold together: ${misfit.words}.`, misfit.where);
  const checked = said as StageInFile;
  try {
    const stage = stageOf(kit, checked);
    const staged = { ...kit, placements: stage.placements, cues: stage.cues };
    for (const p of stage.placements) {
      const problem = problemOfPlacement(kit, p);
      if (problem) throw new Error(problem);
    }
    for (const c of stage.cues) {
      const stranger = strangerIn(staged, c);
      if (stranger) throw new Error(stranger);
    }
    return stage;
  } catch (problem) {
    throw new FileError(file, `${(problem as Error).message}. Nothing of it was brought in.`);
  }
}
