import { ofFrozen } from '../../contents';
import type { Kit } from '../../kit';
import { swapped, type ApplyOptions, type EditKind, type SetEdit } from '../edit';
import { EditRefused, isSame } from '../refused';

export const set: EditKind<SetEdit> = {
  apply: (state, edit, options) => ({ ...state, kit: applySet(state.kit, edit, options) }),
  inverse: swapped,
  label: ({ of }) => (of === 'kit' ? 'Change the kit' : 'Change the sheet'),
  size: () => 128,
  contents: ({ before, after }) => [before, after].flatMap((fields) => ('frozen' in fields ? ofFrozen(fields.frozen) : [])),
  recolors: () => [],
  ofAll: () => true,
};

type Fields = Map<string, unknown>;

function applySet(kit: Kit, edit: SetEdit, { isReplay }: ApplyOptions): Kit {
  const assign = <T extends object>(target: T): T => {
    const next = new Map<string, unknown>(Object.entries(target));
    const [before, after] = [edit.before, edit.after].map((e) => new Map<string, unknown>(Object.entries(e))) as [Fields, Fields];
    for (const key of new Set([...before.keys(), ...after.keys()]))
      if (!isReplay && !isSame(next.get(key), before.get(key)))
        throw new EditRefused(`the ${key} of ${edit.of === 'kit' ? 'the kit' : 'the sheet'} has changed`);
    // A field that was absent is absent again.
    for (const key of before.keys()) if (!after.has(key)) next.delete(key);
    for (const [key, value] of after) next.set(key, value);
    return Object.fromEntries(next) as T;
  };
  if (edit.of === 'kit') return assign(kit);
  if (!kit.sheets.some((s) => s.id === edit.of)) throw new EditRefused('the kit has no such sheet any more');
  return { ...kit, sheets: kit.sheets.map((s) => (s.id === edit.of ? assign(s) : s)) };
}
