import type { MouseEvent } from 'react';
import type { usesOfCells } from '@/core/kit/colorings/usesOfCells';
import { middle, type Point } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { usePick } from '@/state/chosen/pickState';

export type Uses = ReturnType<typeof usesOfCells>;

/** The point of an element that was clicked, 0..1; its middle for a click by key. */
export function pointIn(e: MouseEvent<Element>): Point {
  if (e.detail === 0) return middle;
  const box = e.currentTarget.getBoundingClientRect();
  return [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
}

/** Whether the face under the pointer sits on this cell. */
export function useIsUnderPointer(cell: number): boolean {
  const face = usePick((s) => s.face);
  const seats = useEditor((s) => (s.modelId ? s.state.seats[s.modelId] : undefined));
  return face >= 0 && seats?.cell[face] === cell;
}
