'use client';
import { useState } from 'react';
import { ChevronDown } from 'lucide-react';
import { renameKit } from '@/state/kit/kitActions';
import { useEditor } from '@/state/kit/editor';
import { Menu } from '@/ui/Menu';
import { Rename } from '@/ui/Rename';
import { StorageDialog } from './StorageDialog';
import { useLeave } from './useLeave';

export function KitName() {
  const name = useEditor((s) => s.state.kit.name);
  const [isRenaming, setRenaming] = useState(false);
  const [isStorageOpen, setStorageOpen] = useState(false);
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
        className="ml-5 flex max-w-52 items-center gap-1 text-[#444] hover:text-ink"
        trigger={
          <>
            <span className="truncate">{name}</span>
            <ChevronDown size={13} aria-hidden />
          </>
        }
        items={[
          { label: 'Rename the kit', run: () => setTimeout(() => setRenaming(true)) },
          { label: 'Storage', run: () => setTimeout(() => setStorageOpen(true)) },
          'line',
          { label: 'All kits', run: () => setTimeout(leave) },
        ]}
      />
      {question}
      <StorageDialog open={isStorageOpen} onClose={() => setStorageOpen(false)} />
    </>
  );
}
