'use client';
import type { Fill } from '@/core/kit/kit';
import { replaceArt } from '@/state/sheet/artRoom';
import { notifyError } from '@/state/told/notices';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { Tick } from '@/ui/Tick';

/** The picture of a piece of art, and whether it goes on beyond its border. */
export function ArtEditor({ id, fill, onKeep }: { id: number; fill: Extract<Fill, { kind: 'art' }>; onKeep: (next: Fill) => void }) {
  return (
    <div className="mt-3 flex flex-col items-start gap-2">
      <FileChooser
        label="Another picture for this art"
        accept={pictureFiles}
        onFiles={([file]) => void replaceArt(id, file!).catch(notifyError)}
        className="border-b border-ink hover:bg-wash"
      >
        Another picture
      </FileChooser>
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
