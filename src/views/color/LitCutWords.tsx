'use client';
import { useCut } from '@/state/cut/cutting';
import { usePhrase, type PhraseState } from '@/state/chosen/phrase';
import { count, metres } from '@/ui/words';

const plane = 'Point at where the plane is to cut.';
const whereToPoint: Record<PhraseState['cutAlong'], string> = {
  ring: 'Point at an edge that the cut is to cross.',
  x: plane,
  y: plane,
  z: plane,
  border: 'Point at what is to get a line inside its outline.',
  stamp: 'Point at a flat place that is to be stamped.',
};

/** What a click would cut, or why it cannot; where nothing is pointed at, what to do. */
export function LitCutWords() {
  const isCut = usePhrase((s) => s.act === 'cut');
  const along = usePhrase((s) => s.cutAlong);
  const { lit, problem, isCutting, cost, instead } = useCut();
  if (!isCut) return null;
  return (
    <>
      <p role="status" aria-label="Cut" className="flex min-h-[30px] items-center bg-paper px-3">
        {isCutting ? (
          'Cutting…'
        ) : lit ? (
          <span>
            <b className="font-bold">{count(lit.faces, 'face')}</b> would be cut
            {lit.share === 0.5 ? ' in the middle' : lit.share !== null && `, ${Math.round(lit.share * 100)} % from the nearer border`}
            {lit.heldBackTo !== null && `, ${metres(lit.heldBackTo)} in: further in there is no room`}
          </span>
        ) : (
          problem || cost || whereToPoint[along]
        )}
      </p>
      {!isCutting && !lit && !problem && cost && <p className="flex min-h-[30px] items-center bg-paper px-3 text-quiet">{instead}</p>}
    </>
  );
}
