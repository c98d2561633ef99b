import { group, type Edit } from '@/core/kit/edit/edit';
import type { Model } from '@/core/kit/kit';
import { dispatch } from './edits';
import { useEditor } from './editor';

/** From which sides the faces of models are seen in a game; `undefined`: as each material came. */
export function setSides(models: readonly Model[], sides: Model['sides']): void {
  const { kit } = useEditor.getState().state;
  const edits = models.flatMap((before): Edit[] => {
    if (before.sides === sides) return [];
    const { sides: _, ...rest } = before;
    const after: Model = { ...rest, ...(sides && { sides }) };
    return [{ kind: 'put', list: 'models', of: 'kit', index: kit.models.indexOf(before), before, after }];
  });
  if (edits.length) dispatch(group('Set the sides of faces', edits));
}
