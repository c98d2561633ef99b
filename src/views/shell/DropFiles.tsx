'use client';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { isModelFile } from '@/core/ground/bytes/fileKinds';
import { extensionOf } from '@/core/ground/bytes/text';
import { droppedFiles } from '@/ui/droppedFiles';
import { useEditor } from '@/state/kit/editor';
import { isArchive, openArchive } from '@/state/kit/home';
import { addReferences, isPicture, openPalettePicture } from '@/state/sheet/adopting';
import { cancelImport, importFiles, useImport } from '@/state/files/importing';
import { toWhereItGoesOn } from '@/state/files/afterImport';
import { bringInStage } from '@/state/files/stageFiles';
import { notify, notifyError } from '@/state/told/notices';
import { openPalette } from '@/state/files/palettes';
import { Button } from '@/ui/Button';
import { ProgressLine } from '@/ui/ProgressLine';
import { useGo } from '@/views/shell/ViewLink';

/** Kinds of file that are something else than palettes; of all others the contents tell. */
const others = ['mtl', 'bin', 'zip', 'ktx2'];

/** Whether a file that is dropped by itself is read as a palette: any that is no model, part of one, picture or archive. */
const mayBePalette = (name: string): boolean => !isModelFile(name) && !isPicture(name) && !others.includes(extensionOf(name));

/** Files may be dropped anywhere; what is being read shows its progress, and can be stopped. */
export function DropFiles() {
  const [isOver, setOver] = useState(false);
  const busy = useImport((s) => s.busy);
  const unread = useImport((s) => s.errors.length);
  const isInGather = usePathname().endsWith('/gather');
  const kitId = useEditor((s) => s.state.kit.id);
  const go = useGo();

  useEffect(() => {
    let depth = 0;
    const hasFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') ?? false;
    const enter = (e: DragEvent) => {
      if (!hasFiles(e)) return;
      depth++;
      setOver(true);
    };
    const leave = (e: DragEvent) => {
      if (hasFiles(e) && --depth <= 0) setOver(false);
    };
    const over = (e: DragEvent) => hasFiles(e) && e.preventDefault();
    const drop = async (e: DragEvent) => {
      if (!hasFiles(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      const files = await droppedFiles(e.dataTransfer!);
      const archive = files.find(isArchive);
      if (archive) {
        try {
          const kit = await openArchive(archive.name, new Uint8Array(await archive.arrayBuffer()));
          if (kit) void go(`/kit/${kit}/color`);
        } catch (error) {
          notifyError(error);
        }
      } else if (files.length === 1 && extensionOf(files[0]!.name) === 'json' && location.pathname.endsWith('/stage')) {
        await bringInStage(files[0]!);
      } else if (files.length === 1 && mayBePalette(files[0]!.name)) {
        if (!/\/(color|palette)$/.test(location.pathname)) void go(`/kit/${kitId}/palette`);
        await openPalette(files[0]!);
      } else if (files.length && files.every((f) => isPicture(f.name))) {
        // A picture that becomes the sheet can be looked through in Color, too.
        if (!/\/(color|palette)$/.test(location.pathname)) void go(`/kit/${kitId}/palette`);
        if (files.length === 1) await openPalettePicture(files[0]!);
        else await addReferences(files);
      } else {
        const isPlain = await importFiles(files);
        if (location.pathname.includes(kitId) && !location.pathname.endsWith('/gather'))
          toWhereItGoesOn(isPlain, kitId, (to) => void go(to));
      }
    };
    window.addEventListener('dragenter', enter);
    window.addEventListener('dragleave', leave);
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragenter', enter);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [kitId, go]);

  // Gather lists them all; elsewhere a word is enough.
  useEffect(() => {
    if (!unread || isInGather || busy) return;
    notify(unread === 1 ? 'A file could not be read.' : `${unread} files could not be read.`, {
      isError: true,
      action: { label: 'See which in Gather', run: () => void go(`/kit/${kitId}/gather`) },
    });
    // Said once for each reading.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [unread, busy === null]);

  return (
    <>
      {isOver && (
        <div className="pointer-events-none fixed inset-3 z-50 flex items-center justify-center border-2 border-dashed border-ink bg-paper/85">
          <p className="text-phrase font-bold">Drop models here with their materials and pictures, or pictures and palettes alone</p>
        </div>
      )}
      {busy && (
        <div
          role="dialog"
          aria-label="Reading files"
          className="fixed bottom-6 left-1/2 z-50 flex w-[460px] -translate-x-1/2 items-center gap-4 border border-ink bg-paper p-4"
        >
          <div className="min-w-0 flex-1">
            <p className="truncate font-medium">{busy.doing}</p>
            <ProgressLine label={busy.doing} share={busy.share} className="mt-2" />
          </div>
          <Button onClick={cancelImport}>Cancel</Button>
        </div>
      )}
    </>
  );
}
