'use client';
import { useCallback, useEffect, useState, type ReactNode } from 'react';
import { clearBin, storageUse, type StorageUse } from '@/data/storage';
import { flushEdits } from '@/state/kit/saving';
import { forgetUndo } from '@/state/kit/openKit';
import { useEditor } from '@/state/kit/editor';
import { notifyError } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { bytes, count } from '@/ui/words';

/** What this browser holds, how much is free, and what may be cleared. */
export function StorageDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onClose={onClose} title="Storage" description="Kits are kept in this browser, on this computer.">
      {open && <Uses onClose={onClose} />}
    </Modal>
  );
}

function Uses({ onClose }: { onClose: () => void }) {
  const id = useEditor((s) => s.state.kit.id);
  const readOnly = useEditor((s) => s.readOnly);
  const [use, setUse] = useState<StorageUse | null>(null);
  const measure = useCallback(() => storageUse(id).then(setUse, notifyError), [id]);
  useEffect(() => void measure(), [measure]);
  const clear = (work: () => Promise<unknown>) => void work().then(flushEdits).then(measure).catch(notifyError);
  if (!use) return <p className="mt-4 text-quiet">Measuring…</p>;
  return (
    <>
      <dl className="mt-4 border-t border-hairline">
        <Row name="This kit: models, files, pictures" size={use.kit} />
        <Row name="What can be undone in it" size={use.history}>
          {use.history > 0 && !readOnly && <Button onClick={() => clear(forgetUndo)}>Forget it</Button>}
        </Row>
        <Row name={`${count(use.otherKits, 'other kit')}`} size={use.others} />
        <Row name={`The bin: ${count(use.binnedKits, 'kit')}`} size={use.bin}>
          {use.binnedKits > 0 && <Button onClick={() => clear(clearBin)}>Empty it</Button>}
        </Row>
        {use.unused > 0 && (
          <Row name="Left over, used by nothing" size={use.unused}>
            <Button onClick={() => clear(clearBin)}>Clear it</Button>
          </Row>
        )}
        <Row name="Free" size={use.free} />
      </dl>
      <p className="mt-3 text-quiet">
        {use.isPersistent
          ? 'The browser keeps this until you remove it.'
          : 'The browser may clear this when its disk is short: export kits that matter as archives.'}{' '}
        What is cleared here cannot be brought back.
      </p>
      <div className="mt-5 flex justify-end">
        <Button kind="solid" onClick={onClose}>
          Done
        </Button>
      </div>
    </>
  );
}

function Row({ name, size, children }: { name: string; size: number | null; children?: ReactNode }) {
  return (
    <div className="flex min-h-10 items-center gap-3 border-b border-hairline">
      <dt className="mr-auto">{name}</dt>
      {children}
      <dd className="w-20 text-right tabular-nums">{size === null ? 'not known' : bytes(size)}</dd>
    </div>
  );
}
