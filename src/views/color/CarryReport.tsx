'use client';
import { X } from 'lucide-react';
import type { MatchKind } from '@/core/faces/carry/matchFaces';
import { cancelCarrying, closeCarried, useCarried } from '@/state/files/carrying';
import { currentOf, useEditor } from '@/state/kit/editor';
import { pickFaces } from '@/state/pick/picking';
import { frame } from '@/state/chosen/viewState';
import { count, number } from '@/ui/words';

const words: Record<MatchKind, string> = {
  place: 'in the same place',
  within: 'lying on former faces',
  moved: 'on parts that moved or are alike',
  order: 'by their number, places having changed',
};
/** More rows than this help nobody; the rest is in the last one. */
const mostRows = 8;

/** What was carried to the model in view, and which faces nobody can tell. */
export function CarryReport() {
  const { report, busy, canCancel } = useCarried();
  const shown = useEditor((s) => currentOf(s)?.model);
  if (busy)
    return (
      <p className="absolute inset-0 m-auto flex h-fit w-fit items-center gap-4 border border-ink bg-paper px-4 py-2">
        {busy}…
        {canCancel && (
          <button type="button" onClick={cancelCarrying} className="border-b border-ink font-medium">
            Cancel
          </button>
        )}
      </p>
    );
  if (!report || report.model !== shown?.id || report.mesh !== shown.mesh) return null;
  const { title, rest, counts, unmatched } = report;
  const lost = unmatched.reduce((n, u) => n + u.faces.length, 0);
  const matched = Object.values(counts).reduce((n, c) => n + c, 0);
  const take = (faces: Uint32Array) => {
    pickFaces(faces);
    frame(faces);
  };
  return (
    <section aria-label={title} className="absolute top-4 right-5 z-20 w-[300px] border border-ink bg-paper p-4 text-[12.5px]">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-[14px] font-bold">{title}</h2>
        <button
          type="button"
          aria-label="Close"
          onClick={closeCarried}
          className="-mt-1 -mr-1 flex h-7 w-7 shrink-0 items-center justify-center hover:bg-wash"
        >
          <X size={15} aria-hidden />
        </button>
      </div>
      <p className="mt-1 text-quiet">
        {number(matched)} of {count(matched + lost, 'face')} known again
      </p>
      <ul className="mt-2">
        {(Object.keys(words) as MatchKind[])
          .filter((kind) => counts[kind])
          .map((kind) => (
            <li key={kind} className="flex gap-3 border-t border-hairline py-1">
              <span className="w-14 shrink-0 text-right font-bold tabular-nums">{number(counts[kind])}</span>
              {words[kind]}
            </li>
          ))}
      </ul>
      {lost > 0 && (
        <div className="mt-2 border-t border-ink pt-2">
          <p>
            <strong>{count(lost, 'face')} could not be matched</strong>
            {rest === 'bare' ? ' and came without a color.' : ' and kept what they had.'}
          </p>
          <ul className="mt-1">
            {unmatched.slice(0, mostRows).map(({ part, faces }) => (
              <li key={part} className="flex items-center justify-between py-0.5">
                Part {part + 1}
                <button type="button" className="border-b border-ink" onClick={() => take(faces)}>
                  pick {count(faces.length, 'face')}
                </button>
              </li>
            ))}
          </ul>
          {unmatched.length > 1 && (
            <button
              type="button"
              className="mt-1 border-b border-ink font-medium"
              onClick={() => take(Uint32Array.from(unmatched.flatMap((u) => [...u.faces])))}
            >
              Pick all of them
            </button>
          )}
        </div>
      )}
    </section>
  );
}
