'use client';
import { startTransition, useEffect, useRef, useState, type ReactNode } from 'react';
import { Turns, type Turn } from './turns';

const turns = new Turns();

/**
 * Shows what it holds in a task of its own, once all that waited before it stands: the page answers in between, where a
 * large view that came in one piece would hold it. `instead`: what stands in its place until then.
 */
export function InTurn({ children, instead = null }: { children: ReactNode; instead?: ReactNode }) {
  const [isShown, setShown] = useState(false);
  const turn = useRef<Turn>(null);
  useEffect(() => {
    // As a transition it is rendered in slices, too.
    const own = turns.take(() => startTransition(() => setShown(true)));
    turn.current = own;
    return () => turns.end(own);
  }, []);
  useEffect(() => {
    if (isShown && turn.current) turns.end(turn.current);
  }, [isShown]);
  return isShown ? children : instead;
}
