import { ofFrozen } from '../../kit/contents';
import type { Kit } from '../../kit/kit';
import { swapped, type ApplyOptions, type EditKind, type SetEdit } from '../edit';
import { EditRefused, isSame } from '../refused';

export const set: EditKind<SetEdit> = {
  apply: (state, edit, options) => ({ ...state, kit: applySet(state.kit, edit, options) }),
  inverse: swapped,
  label: ({ of }) => (of === 'kit' ? 'Change the kit' : 'Change the sheet'),
  size: () => 128,
  contents: ({ before, after }) => [before, after].flatMap((fields) => ('frozen' in fields ? ofFrozen(fields.frozen) : [])),
  recolors: () => [],
};

function applySet(kit: Kit, edit: SetEdit, { isReplay }: ApplyOptions): Kit {
  const assign = <T extends object>(target: T): T => {
    const present = target as Record<string, unknown>;
    const before = edit.before as Record<string, unknown>;
    for (const key of new Set([...Object.keys(before), ...Object.keys(edit.after)]))
      if (!isReplay && !isSame(present[key], before[key]))
        throw new EditRefused(`the ${key} of ${edit.of === 'kit' ? 'the kit' : 'the sheet'} has changed`);
    const next: Record<string, unknown> = { ...target, ...edit.after };
    // A field that was absent is absent again.
    for (const key of Object.keys(edit.before)) if (!(key in edit.after)) delete next[key];
    return next as T;
  };
  if (edit.of === 'kit') return assign(kit);
  if (!kit.sheets.some((s) => s.id === edit.of)) throw new EditRefused('the kit has no such sheet any more');
  return { ...kit, sheets: kit.sheets.map((s) => (s.id === edit.of ? assign(s) : s)) };
}
