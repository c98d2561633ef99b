import { usePaint } from '../chosen/paint';
import { announce } from '../told/announce';
import { notify } from '../told/notices';
import { artInHand } from './artInHand';
import { needsLine } from './brushSets';
import { pointAtOf, Stroke } from './painting';
import type { Texel } from './reach';

/** What a press and drag draws: texels, or the line along which a checker grows. */
export type Drawn = Pick<Stroke, 'moveTo' | 'end'>;

/** Begins what a press at a texel draws by the phrase; `null` where it can draw nothing, which is said. */
export const beginStroke = (at: Texel, options?: Parameters<typeof Stroke.begin>[1]): Drawn | null =>
  needsLine(usePaint.getState()) ? beginLine(at) : Stroke.begin(at, options);

/** From the point of the model that shows a texel to that of another one, where it is let go. */
function beginLine(from: Texel): Drawn | null {
  const art = artInHand();
  const pointAt = art && pointAtOf(art);
  const start = pointAt?.(...from);
  if (!start) {
    notify('Begin the line where the model shows the art.');
    return null;
  }
  const toward = (at: Texel | null) => {
    const end = at && pointAt!(...at);
    return end && end.some((v, i) => v !== start[i]) ? ([start, end] as const) : null;
  };
  return {
    moveTo: (at) => usePaint.setState({ drawnLine: toward(at) }),
    end: (at) => {
      const line = toward(at);
      usePaint.setState({ drawnLine: null, ...(line && { line }) });
      announce(line ? 'The line is drawn. A press sets texels along it' : 'A line needs another end: press, drag, and let go');
    },
  };
}
