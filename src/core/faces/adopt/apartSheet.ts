import { byId } from '../../ground/byId';
import { applyEdit } from '../../kit/edit/editKinds';
import { groupForAll, type Edit } from '../../kit/edit/edit';
import { freeName } from '../../kit/freeName';
import { findModel, type KitState, type Sheet } from '../../kit/kit';
import { adoptPicture } from '../../sheet/picture/adopt';
import { seatByUvs } from './seatsByUvs';
import { noBlock, type TakenApart } from './takeApart';

/** A picture that was taken apart; `art`: the address of its pixels, needed where faces stay on them. */
export interface ApartPicture {
  name: string;
  width: number;
  height: number;
  art: string;
}

/** A model's faces that show the picture, as they were given to `takeApart`. */
export interface ApartModel {
  id: string;
  faces: Uint32Array;
  faceStart: Uint32Array;
}

/**
 * The edit by which what faces show of a picture becomes a sheet of the kit, as small as can be, and the models
 * sit on it; `models[i]` is that of `apart.models[i]`, or `null` where it is left out. Throws where a limit is
 * passed.
 */
export function apartSheet(
  state: KitState,
  { name, width, height, art }: ApartPicture,
  apart: TakenApart,
  models: readonly (ApartModel | null)[],
): { edit: Edit; sheet: Sheet } {
  const finding = { kind: 'mixed' as const, width, height, lines: { xs: [], ys: [] }, blocks: apart.blocks };
  const pictures = new Map(apart.blocks.flatMap((b, i) => (b.fill.kind === 'art' ? [[i, art] as const] : [])));
  const free = freeName(
    name,
    state.kit.sheets.map((s) => s.name),
  );
  const made = adoptPicture(state, { finding, name: free, picture: art, art: pictures, frozen: false });
  // None of its blocks is empty, so that cells have their numbers in the order of the blocks.
  const first = state.kit.nextCell;
  const next: KitState = { kit: applyEdit({ ...state, seats: byId() }, made.edit).kit, seats: state.seats };
  const seated = models.flatMap((model, i): Edit[] => {
    if (!model) return [];
    const { block, at } = apart.models[i]!;
    const cell = new Uint16Array(findModel(state.kit, model.id).faces);
    model.faces.forEach((f, k) => (cell[f] = block[k] === noBlock ? 0 : first + block[k]!));
    return [seatByUvs(next, model.id, made.sheet.id, model.faceStart, { cell, at, across: 0 })].filter((e) => e !== null);
  });
  return { edit: groupForAll(`Take ${free} apart`, [made.edit, ...seated]), sheet: made.sheet };
}
