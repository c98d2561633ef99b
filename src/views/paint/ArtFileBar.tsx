'use client';
import { leaveArtFile, stopFollowing, takeArtFile, useArtFile } from '@/state/paint/artFile';
import { useEditor } from '@/state/kit/editor';
import { count } from '@/ui/words';

const act = 'border-b-2 border-ink font-medium hover:bg-wash';

/** What the file of an art on the disk shows now, before it is taken. */
export function ArtFileBar({ cell }: { cell: number }) {
  const variant = useEditor((s) => s.variant);
  const { cell: of, name, isFollowed, found, problem } = useArtFile();
  if (of !== cell || !(isFollowed || found || problem)) return null;
  return (
    <p
      role="status"
      className="flex min-h-[34px] shrink-0 flex-wrap items-center gap-x-4 border-t border-hairline bg-white px-5 py-1.5 text-panel"
    >
      {problem ? (
        <span>
          <b className="font-bold">{name}</b> cannot be taken. {problem}
        </span>
      ) : found ? (
        <span>
          <b className="font-bold">{name}</b> differs{variant ? ' from the default' : ''} in {count(found.texels, 'texel')}
          {found.colors > 0 && `, and brings ${count(found.colors, 'color')}`}.
        </span>
      ) : (
        <span>
          <b className="font-bold">{name}</b> is followed. It shows what is here.
        </span>
      )}
      <span className="ml-auto flex gap-4">
        {found && (
          <button type="button" className={act} onClick={takeArtFile}>
            Take it
          </button>
        )}
        {(found || problem) && (
          <button type="button" className={act} onClick={leaveArtFile}>
            Leave it
          </button>
        )}
        {isFollowed && (
          <button type="button" className={act} onClick={stopFollowing}>
            Follow no more
          </button>
        )}
      </span>
    </p>
  );
}
