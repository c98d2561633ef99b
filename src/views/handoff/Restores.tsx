'use client';
import { useEffect } from 'react';
import { putBack } from '@/state/files/liveFolder';
import { dropRestores, readRestores, useRestores } from '@/state/files/restores';
import { notifyError } from '@/state/told/notices';
import { bytes, count } from '@/ui/words';

const word = 'border-b border-ink hover:bg-wash';

/** Files of folders that were replaced, and the way back to each. */
export function Restores() {
  const { restores } = useRestores();
  useEffect(() => void readRestores().catch(notifyError), []);
  if (!restores.length) return null;
  return (
    <details className="border border-ink bg-white px-5 py-3">
      <summary className="cursor-pointer font-bold">{count(restores.length, 'replaced file')} kept as it was</summary>
      <ul aria-label="Replaced files" tabIndex={0} className="mt-2 max-h-52 overflow-y-auto text-[12.5px]">
        {restores.map((row) => (
          <li key={row.id} className="flex items-baseline gap-3 border-t border-hairline py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate" title={`${row.folder}/${row.path}`}>
                {row.folder}/{row.path}
              </span>
              <span className="text-quiet">
                {new Date(row.at).toLocaleTimeString('en', { hour: '2-digit', minute: '2-digit' })} · {bytes(row.bytes.length)} · sum{' '}
                <code title={row.sha256}>{row.sha256.slice(0, 8)}</code>
              </span>
            </span>
            <button type="button" className={word} aria-label={`Put back ${row.path}`} onClick={() => void putBack(row).catch(notifyError)}>
              put back
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className={`${word} mt-2 text-[12.5px]`} onClick={() => void dropRestores().catch(notifyError)}>
        Forget them
      </button>
    </details>
  );
}
