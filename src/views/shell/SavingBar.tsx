'use client';
import { useState, type ReactNode } from 'react';
import { keepAsCopy, takeOverKit } from '@/state/kit/openKit';
import { useEditor } from '@/state/kit/editor';
import { downloadArchive } from '@/state/files/exporting';
import { notify, notifyError } from '@/state/told/notices';
import { isUnsaved } from '@/state/kit/saving';
import { Button } from '@/ui/Button';
import { StorageDialog } from './StorageDialog';
import { useGo } from '@/views/shell/ViewLink';

/** Says why changes are not being saved, and what to do: another tab has the kit, or there is no room. */
export function SavingBar() {
  const save = useEditor((s) => s.save);
  const readOnly = useEditor((s) => s.readOnly);
  const [isStorageOpen, setStorageOpen] = useState(false);
  const go = useGo();
  const takeOver = () => void takeOverKit().catch(notifyError);
  const exportArchive = <BarButton run={() => void downloadArchive().catch(notifyError)}>Export the kit archive</BarButton>;
  const makeRoom = (
    <>
      <BarButton run={() => setStorageOpen(true)}>Make room</BarButton>
      <StorageDialog open={isStorageOpen} onClose={() => setStorageOpen(false)} />
    </>
  );
  if (readOnly && isUnsaved(save))
    return (
      <Bar
        title="Not saved."
        text="Another tab edits this kit now, so your last changes here cannot go into it. Keep them as a kit of their own."
      >
        <BarButton run={takeOver}>Drop them and edit here</BarButton>
        {exportArchive}
        <BarButton
          run={() =>
            void keepAsCopy()
              .then((id) => {
                void go(`/kit/${id}/color`);
                notify('Your changes are in this copy; the other tab has the kit itself.');
              })
              .catch(notifyError)
          }
        >
          Keep them as a copy
        </BarButton>
      </Bar>
    );
  if (readOnly)
    return (
      <Bar
        title="Read only."
        text={readOnly === 'taken' ? 'This kit is being edited in another tab.' : 'There was no room to open it for editing.'}
      >
        {readOnly === 'full' && makeRoom}
        <BarButton run={takeOver}>{readOnly === 'taken' ? 'Edit here instead' : 'Edit it'}</BarButton>
      </Bar>
    );
  if (!isUnsaved(save)) return null;
  return (
    <Bar
      title="Not saved."
      text={`${save === 'full' ? 'The storage of this browser is full.' : 'The storage of this browser did not take the last changes.'} Your work is still here, in this tab: keep it as an archive, then make room. Saving is tried again by itself.`}
    >
      {makeRoom}
      {exportArchive}
    </Bar>
  );
}

function Bar({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <div role="alert" className="flex items-center gap-2 bg-ink px-5 py-1.5 text-paper">
      <span className="mr-auto">
        <strong>{title}</strong> {text}
      </span>
      {children}
    </div>
  );
}

const BarButton = ({ run, children }: { run: () => void; children: ReactNode }) => (
  <Button className="text-ink" onClick={run}>
    {children}
  </Button>
);
