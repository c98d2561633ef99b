import type { KeyboardEvent } from 'react';
import {
  choosePlacement,
  copyChosen,
  moveChosen,
  pasteCopied,
  placeAt,
  placementsNow,
  removeChosen,
  scaleChosen,
  turnChosen,
  useStage,
} from '@/state/stage/stage';
import { middleOfView } from '@/state/stage/stageView';
import { endPlay, usePlaying } from '@/state/stage/playing';
import { isTyping } from '@/ui/isTyping';
import { useWalking } from './useWalking';

/** Times its size, for one key. */
const larger = 1.1;

/** Keys of the stage; those of walking are in `useWalking`. Arrows move what is chosen, R turns, plus and minus size, Page Up and Down lift; Enter places. */
export function useStageKeys(): (event: KeyboardEvent) => void {
  const isPlaying = usePlaying((s) => s.play !== null);
  const isAtEyeHeight = useStage((s) => s.camera === 'eye');
  const walk = useWalking(isAtEyeHeight);
  return (event) => {
    if (isTyping(event.target) || walk(event)) return;
    if (isPlaying) {
      if (event.key === 'Escape') endPlay();
      return;
    }
    const { step, turnStep, act } = useStage.getState();
    const by = step || 0.1;
    const runs = new Map<string, () => void>([
      ['ArrowLeft', () => moveChosen(-by, 0, 0)],
      ['ArrowRight', () => moveChosen(by, 0, 0)],
      ['ArrowUp', () => moveChosen(0, 0, -by)],
      ['ArrowDown', () => moveChosen(0, 0, by)],
      ['PageUp', () => moveChosen(0, by, 0)],
      ['PageDown', () => moveChosen(0, -by, 0)],
      ['r', () => turn(turnStep)],
      ['R', () => turn(-turnStep)],
      ['+', () => scaleChosen(larger)],
      ['-', () => scaleChosen(1 / larger)],
      ['Delete', removeChosen],
      ['Backspace', removeChosen],
      ['Escape', () => choosePlacement(null)],
      ...(act === 'place' ? [['Enter', placeInMiddle] as const] : []),
    ]);
    function placeInMiddle(): void {
      const at = middleOfView();
      if (at) placeAt(at);
    }
    /** Of what is in hand while models are placed, else of what is chosen. */
    function turn(degrees: number): void {
      if (act === 'place') useStage.setState(({ turn: own }) => ({ turn: (own + degrees + 360) % 360 }));
      else turnChosen(degrees);
    }
    if ((event.ctrlKey || event.metaKey) && event.key === 'a')
      useStage.setState({ act: 'choose', chosen: placementsNow().map((p) => p.id) });
    else if ((event.ctrlKey || event.metaKey) && event.key === 'c') copyChosen();
    else if ((event.ctrlKey || event.metaKey) && event.key === 'v') pasteCopied();
    else if (event.ctrlKey || event.metaKey || event.altKey || !runs.has(event.key)) return;
    else runs.get(event.key)!();
    event.preventDefault();
  };
}
