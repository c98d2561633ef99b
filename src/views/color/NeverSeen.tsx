'use client';
import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';
import { facesByPart } from '@/core/shapes/mesh/facesByPart';
import { announce } from '@/state/told/announce';
import { currentOf, useEditor } from '@/state/kit/editor';
import { notifyError } from '@/state/told/notices';
import { pickFaces } from '@/state/pick/picking';
import { swatch } from '@/state/chosen/pictures';
import { colorUnseenDark, darkestCell, stopLooking, trianglesOf, unseenFaces, useUnseen } from '@/state/proof/unseen';
import { Button } from '@/ui/Button';
import { ProgressLine } from '@/ui/ProgressLine';
import { Tick } from '@/ui/Tick';
import { count, number } from '@/ui/words';
import type { LoadedMesh } from '@/workers/residents';

/** More parts than this are not listed. */
const mostRows = 30;

/** Faces that cannot be seen from any side: found by rays, to be picked, colored dark, or left out. */
export function NeverSeen({ isOffered }: { isOffered: boolean }) {
  const [isOpen, setOpen] = useState(false);
  const loaded = useEditor((s) => currentOf(s)?.loaded);
  // What it shows may be picked without its going away.
  if (!loaded || (!isOffered && !isOpen)) return null;
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(is) => {
        setOpen(is);
        if (is) void unseenFaces(loaded).catch(notifyError);
      }}
    >
      <Popover.Trigger className="border-b border-ink hover:bg-wash">faces never seen</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="Faces never seen"
          className="z-50 w-80 border border-ink bg-white p-4 text-panel"
        >
          <Found loaded={loaded} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const action = 'flex items-center gap-1.5 border-b border-ink font-medium';

function Found({ loaded }: { loaded: LoadedMesh }) {
  const faces = useUnseen((s) => s.faces[loaded.id]);
  const leaveOut = useUnseen((s) => s.leaveOut);
  const busy = useUnseen((s) => s.busy[loaded.id]);
  const sheet = useEditor((s) => currentOf(s)?.sheet);
  const parts = useMemo(() => facesByPart(loaded.adjacency, faces ?? []), [loaded, faces]);
  if (!faces)
    return busy === undefined ? (
      <Button onClick={() => void unseenFaces(loaded)}>Look for them</Button>
    ) : (
      <div className="flex items-center gap-3">
        <ProgressLine label="Looking for faces never seen" share={busy} className="min-w-0 flex-1" />
        <Button onClick={stopLooking}>Stop</Button>
      </div>
    );
  if (!faces.length) return <p>Every face of this model can be seen from some side.</p>;
  const dark = sheet && darkestCell(sheet);
  return (
    <>
      <p>
        <strong>{count(faces.length, 'face')}</strong> in {count(parts.length, 'part')} cannot be seen from any side:{' '}
        {count(trianglesOf(loaded, faces), 'triangle')}.
      </p>
      <ul className="mt-2 max-h-[136px] overflow-y-auto border-y border-hairline">
        {parts.slice(0, mostRows).map(({ part, faces: list }) => (
          <li key={part} className="flex justify-between py-0.5">
            Part {part + 1}
            <button type="button" className="border-b border-[#999]" onClick={() => pickFaces(list)}>
              pick {number(list.length)}
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-col items-start gap-2">
        <button
          type="button"
          className={action}
          onClick={() => {
            pickFaces(faces);
            announce(`${count(faces.length, 'face')} picked that cannot be seen from any side`);
          }}
        >
          Pick them all
        </button>
        {dark && (
          <button type="button" className={action} onClick={() => colorUnseenDark(faces)}>
            Color them <span aria-hidden className="h-3 w-3" style={{ background: swatch(dark) }} /> {dark.role || 'the darkest color'}
          </button>
        )}
        <Tick label="Leave such faces out at Hand-off" value={leaveOut} onChange={(is) => useUnseen.setState({ leaveOut: is })} />
      </div>
    </>
  );
}
