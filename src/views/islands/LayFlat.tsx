'use client';
import type { Cell } from '@/core/kit/kit';
import { flattenPicked, useFlattening, type Flattening } from '@/state/islands/flattening';
import type { IslandsInView } from '@/state/islands/islands';
import { clearSeams, markSeams, type SeamsBy } from '@/state/islands/seams';
import { usePick } from '@/state/chosen/pickState';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { ProgressLine } from '@/ui/ProgressLine';
import { count } from '@/ui/words';
import { row, Word } from './fields';

const seamsBy: { by: SeamsBy; label: string; hint: string }[] = [
  { by: 'border', label: 'Around the pick', hint: 'its border' },
  { by: 'way', label: 'Between two picked patches', hint: 'the shortest way' },
  { by: 'creases', label: 'At creases', hint: 'of the smooth area’s angle' },
  { by: 'regions', label: 'Between regions', hint: '' },
  { by: 'materials', label: 'Between materials', hint: '' },
  { by: 'file', label: 'As its file has them', hint: 'where its UVs part' },
  { by: 'mirror', label: 'On the other side, too', hint: 'across the mirror plane' },
];

const otherWays: { how: Flattening; label: string; hint: string }[] = [
  { how: 'view', label: 'As seen now', hint: 'from where you look' },
  { how: 'front', label: 'From the front', hint: 'along the depth' },
  { how: 'side', label: 'From the right', hint: 'along the width' },
  { how: 'above', label: 'From above', hint: 'along the height' },
  { how: 'areas', label: 'Each flat area', hint: 'by itself, straight on' },
  { how: 'box', label: 'As a box', hint: 'from six sides' },
  { how: 'around', label: 'Rolled off', hint: 'around its axis' },
  { how: 'file', label: 'As its file has it', hint: 'the UVs it came with' },
];

/** How the picked faces are laid flat, and along which seams. */
export function LayFlat({ view, target }: { view: IslandsInView; target: Cell | null }) {
  const picked = usePick((s) => s.count);
  return (
    <>
      {picked > 0 && (
        <div className={row} role="group" aria-label="Lay faces flat">
          <strong>{count(picked, 'face')} picked</strong>
          {target && (
            <>
              <span>lay flat on {target.role || (target.fill.kind === 'art' ? 'the art' : 'the gradient')}</span>
              <Button onClick={() => flattenPicked('seams', target.id)}>along seams</Button>
              <Button onClick={() => flattenPicked('straight', target.id)}>straight on</Button>
              <Menu
                label="Other ways to lay them flat"
                align="start"
                trigger="other ways"
                className="border-b border-ink hover:bg-wash"
                items={otherWays.map(({ how, label, hint }) => ({ label, hint, run: () => flattenPicked(how, target.id) }))}
              />
            </>
          )}
        </div>
      )}
      <Busy />
      <div className={row} role="group" aria-label="Seams">
        <span>
          <strong>{count(view.of.model.seams.length, 'edge')}</strong> of seams
        </span>
        <Menu
          label="Mark seams"
          align="start"
          trigger="mark seams"
          className="border-b border-ink hover:bg-wash"
          items={seamsBy.map(({ by, label, hint }) => ({ label, hint, run: () => void markSeams(by) }))}
        />
        {view.of.model.seams.length > 0 && <Word run={clearSeams}>take {picked ? 'those of the pick' : 'all'} away</Word>}
      </div>
    </>
  );
}

/** How far laying flat has come. */
function Busy() {
  const busy = useFlattening((s) => s.busy);
  if (!busy) return null;
  return (
    <div className={row} role="status">
      <span>Laying flat</span>
      <ProgressLine label="Laying flat" share={busy.share} className="w-40" />
      <Word run={busy.cancel}>cancel</Word>
    </div>
  );
}
