import { group } from '@/core/kit/edit/edit';
import { dispatch } from './edits';
import { useEditor } from './editor';

export function renameKit(name: string): void {
  const { kit } = useEditor.getState().state;
  const clean = name.trim().slice(0, 200);
  if (clean && clean !== kit.name)
    dispatch(group('Rename the kit', [{ kind: 'set', of: 'kit', before: { name: kit.name }, after: { name: clean } }]));
}
