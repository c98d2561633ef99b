import { useEffect, type KeyboardEvent } from 'react';
import { pass, setStep, standStill, usePlaying } from '@/state/stage/playing';
import type { Steps } from '@/core/stage/walk';
import { isTyping } from '@/ui/isTyping';

/** What each key asks of the visitor, by its place on the keyboard. */
const letters = new Map<string, Partial<Steps>>([
  ['KeyW', { ahead: 1 }],
  ['KeyS', { ahead: -1 }],
  ['KeyA', { aside: -1 }],
  ['KeyD', { aside: 1 }],
]);
const arrows = new Map<string, Partial<Steps>>([
  ['ArrowUp', { ahead: 1 }],
  ['ArrowDown', { ahead: -1 }],
  ['ArrowLeft', { turn: 1 }],
  ['ArrowRight', { turn: -1 }],
]);
const none = (step: Partial<Steps>): Partial<Steps> => Object.fromEntries(Object.keys(step).map((k) => [k, 0]));

/**
 * The visitor walks for as long as keys are held; in play the arrows do, too, and time passes. Returns what a key that
 * goes down does: whether it was one of these.
 */
export function useWalking(isWalking: boolean): (event: KeyboardEvent) => boolean {
  const isPlaying = usePlaying((s) => s.play !== null);
  const isOn = isWalking || isPlaying;
  useEffect(() => {
    if (!isOn) return;
    let frame = 0;
    let last = performance.now();
    const step = (now: number) => {
      pass((now - last) / 1000);
      last = now;
      frame = requestAnimationFrame(step);
    };
    const onUp = ({ code }: globalThis.KeyboardEvent) => {
      const own = letters.get(code) ?? arrows.get(code);
      if (own) setStep(none(own));
    };
    frame = requestAnimationFrame(step);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', standStill);
    return () => {
      cancelAnimationFrame(frame);
      standStill();
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', standStill);
    };
  }, [isOn]);
  return (event) => {
    if (!isOn || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return false;
    const own = letters.get(event.code) ?? (isPlaying ? arrows.get(event.code) : undefined);
    if (!own) return false;
    setStep(own);
    event.preventDefault();
    return true;
  };
}
