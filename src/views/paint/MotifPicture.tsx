import { stepAt } from '@/core/sheet/paint/motifs';
import type { Motif } from '@/core/kit/patterns';

/** Greys of a darker step, of what is there, and of a lighter one. */
export const greyOf = { '-': '#5c5c5c', '0': '#9b9b9b', '+': '#d6d6d6' } as const;
const greys = [greyOf['-'], greyOf['0'], greyOf['+']];

/** A motif in greys, as its tiles lie side by side: so many texels each way. */
export function MotifPicture({
  motif,
  across,
  down,
  size,
  colors = greys,
}: {
  motif: Motif;
  across: number;
  down: number;
  size: number;
  colors?: readonly string[];
}) {
  const runs: { x: number; y: number; w: number; step: number }[] = [];
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const step = stepAt(motif, x, y);
      const last = runs.at(-1);
      if (last && last.y === y && last.step === step) last.w++;
      else runs.push({ x, y, w: 1, step });
    }
  return (
    <svg
      width={across * size}
      height={down * size}
      viewBox={`0 0 ${across} ${down}`}
      shapeRendering="crispEdges"
      aria-hidden
      className="block"
    >
      {runs.map(({ x, y, w, step }) => (
        <rect key={`${x} ${y}`} x={x} y={y} width={w} height={1} fill={colors[step + 1]} />
      ))}
    </svg>
  );
}
