'use client';
import { useRef, useState } from 'react';
import { ChevronDown } from 'lucide-react';
import { renameKit } from '@/state/kit/kitActions';
import { useEditor } from '@/state/kit/editor';
import { takeInKit } from '@/state/kit/takeIn';
import { notifyError } from '@/state/told/notices';
import { Menu } from '@/ui/Menu';
import { Rename } from '@/ui/Rename';
import { StorageDialog } from './StorageDialog';
import { useLeave } from './useLeave';

export function KitName() {
  const name = useEditor((s) => s.state.kit.name);
  const [isRenaming, setRenaming] = useState(false);
  const [isStorageOpen, setStorageOpen] = useState(false);
  const archive = useRef<HTMLInputElement>(null);
  const [leave, question] = useLeave();
  if (isRenaming)
    return (
      <span className="ml-5 flex w-48 items-center">
        <Rename
          name={name}
          label="Kit name"
          onDone={(next) => {
            setRenaming(false);
            if (next) renameKit(next);
          }}
        />
      </span>
    );
  return (
    <>
      <Menu
        label={`Kit ${name}`}
        align="start"
        className="ml-5 flex max-w-52 min-w-20 items-center gap-1 text-[#444] hover:text-ink"
        trigger={
          <>
            <span className="truncate">{name}</span>
            <ChevronDown size={13} aria-hidden />
          </>
        }
        items={[
          { label: 'Rename the kit', run: () => setTimeout(() => setRenaming(true)) },
          { label: 'Storage', run: () => setTimeout(() => setStorageOpen(true)) },
          { label: 'Take in another kit…', run: () => setTimeout(() => archive.current?.click()) },
          'line',
          { label: 'All kits', run: () => setTimeout(leave) },
        ]}
      />
      <input
        ref={archive}
        type="file"
        hidden
        aria-label="Archive of the other kit"
        accept=".zip"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void takeInKit(file).catch(notifyError);
        }}
      />
      {question}
      <StorageDialog open={isStorageOpen} onClose={() => setStorageOpen(false)} />
    </>
  );
}
