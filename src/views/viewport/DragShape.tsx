'use client';
import { useDrag } from '@/state/pick/dragging';
import { usePhrase } from '@/state/chosen/phrase';

/** The box, lasso or brush itself, in ink with a paper rim. */
export function DragShape() {
  const { outline, circle } = useDrag();
  const radius = usePhrase((s) => s.brush);
  const points = outline ? Array.from({ length: outline.length / 2 }, (_, i) => `${outline[i * 2]},${outline[i * 2 + 1]}`).join(' ') : '';
  if (!outline && !circle) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 h-full w-full">
      {outline && (
        <>
          <polygon points={points} fill="rgb(255 255 255 / 0.18)" stroke="#fff" strokeWidth={3} />
          <polygon points={points} fill="none" stroke="#111" strokeWidth={1.2} strokeDasharray="5 4" />
        </>
      )}
      {circle && (
        <>
          <circle cx={circle.x} cy={circle.y} r={radius} fill="none" stroke="#fff" strokeWidth={3} />
          <circle cx={circle.x} cy={circle.y} r={radius} fill="none" stroke="#111" strokeWidth={1.2} />
        </>
      )}
    </svg>
  );
}
