import { byId } from '../../ground/byId';
import type { Kit, KitState } from '../kit';
import type { Edit } from './edit';
import { applyEdit } from './editKinds';

/** A kit's document after edits that touch no faces: seats are patched in place, and what is tried must not touch them. */
export const kitAfter = (kit: Kit, edits: readonly Edit[]): Kit =>
  edits.reduce<KitState>((now, edit) => applyEdit(now, edit, { ignoreLocks: true }), { kit, seats: byId() }).kit;
