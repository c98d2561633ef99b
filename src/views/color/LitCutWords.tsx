'use client';
import { useCut } from '@/state/cut/cutting';
import { usePhrase } from '@/state/chosen/phrase';
import { count } from '@/ui/words';

/** What a click would cut, or why it cannot; where nothing is pointed at, what to do. */
export function LitCutWords() {
  const isCut = usePhrase((s) => s.act === 'cut');
  const isRing = usePhrase((s) => s.cutAlong === 'ring');
  const { lit, problem, isCutting, cost } = useCut();
  if (!isCut) return null;
  return (
    <p role="status" aria-label="Cut" className="flex min-h-[30px] items-center bg-paper px-3">
      {isCutting ? (
        'Cutting…'
      ) : lit ? (
        <span>
          <b className="font-bold">{count(lit.faces, 'face')}</b> would be cut
          {lit.share === 0.5 ? ' in the middle' : lit.share !== null && `, ${Math.round(lit.share * 100)} % from the nearer border`}
        </span>
      ) : (
        problem || cost || (isRing ? 'Point at an edge that the cut is to cross.' : 'Point at where the plane is to cut.')
      )}
    </p>
  );
}
