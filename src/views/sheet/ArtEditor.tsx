'use client';
import type { Fill } from '@/core/kit/kit';
import { useEditor } from '@/state/kit/editor';
import { leaveItsOwnColors } from '@/state/paint/freeColors';
import { replaceArt } from '@/state/sheet/artRoom';
import { notifyError } from '@/state/told/notices';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { Tick } from '@/ui/Tick';
import { ViewLink } from '@/views/shell/ViewLink';

/** The picture of a piece of art, and whether it goes on beyond its border. */
export function ArtEditor({ id, fill, onKeep }: { id: number; fill: Extract<Fill, { kind: 'art' }>; onKeep: (next: Fill) => void }) {
  const kitId = useEditor((s) => s.state.kit.id);
  return (
    <div className="mt-3 flex flex-col items-start gap-2">
      {fill.painted ? (
        <>
          <p className="text-[12px] text-quiet">
            Its texels are colors of the kit, and follow them.{' '}
            <ViewLink href={`/kit/${kitId}/paint`} className="border-b border-ink text-ink">
              Paint
            </ViewLink>{' '}
            sets them.
          </p>
          <button
            type="button"
            title="A picture from now on, as it looks in each coloring: it follows no color of the kit any more"
            onClick={() => void leaveItsOwnColors(id).catch(notifyError)}
            className="border-b border-ink hover:bg-wash"
          >
            Leave it its own colors
          </button>
        </>
      ) : (
        <p className="text-[12px] text-quiet">
          It has colors of its own.{' '}
          <ViewLink href={`/kit/${kitId}/paint`} className="border-b border-ink text-ink">
            Paint
          </ViewLink>{' '}
          brings it to few colors of the kit.
        </p>
      )}
      {!fill.painted && (
        <FileChooser
          label="Another picture for this art"
          accept={pictureFiles}
          onFiles={([file]) => void replaceArt(id, file!).catch(notifyError)}
          className="border-b border-ink hover:bg-wash"
        >
          Another picture
        </FileChooser>
      )}
      <Tick
        label="It repeats beyond its border, as tiles do"
        value={fill.repeats === true}
        onChange={(repeats) => {
          const { repeats: _, ...once } = fill;
          onKeep({ ...once, ...(repeats && { repeats }) });
        }}
      />
    </div>
  );
}
