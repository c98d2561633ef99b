'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { currentOf, useEditor } from '@/state/editor';
import { announce } from '@/state/announce';
import { notify } from '@/state/notices';
import { pickFaces } from '@/state/picking';
import { colorUnseenDark, darkestCell, trianglesOf, unseenFaces, useUnseen } from '@/state/unseen';
import { swatch } from '@/state/pictures';
import { count, number } from '@/ui/words';

/** Faces that cannot be seen from any side: found by rays, to be picked, colored dark, or left out. */
export function NeverSeen({ isOffered }: { isOffered: boolean }) {
  const [isOpen, setOpen] = useState(false);
  const current = useEditor((s) => currentOf(s)?.model.id);
  const state = useEditor((s) => s.state);
  const meshes = useEditor((s) => s.meshes);
  const c = currentOf({ state, modelId: current ?? null, meshes });
  const loaded = c?.loaded;
  const faces = useUnseen((s) => (loaded ? s.faces[loaded.id] : undefined));
  const leaveOut = useUnseen((s) => s.leaveOut);
  // What it shows may be picked without its going away.
  if (!c || !loaded || (!isOffered && !isOpen)) return null;
  const dark = darkestCell(c.sheet);
  const byPart = new Map<number, number[]>();
  for (const f of faces ?? []) byPart.set(loaded.adjacency.part[f]!, [...(byPart.get(loaded.adjacency.part[f]!) ?? []), f]);
  const parts = [...byPart].sort((p, q) => q[1].length - p[1].length);
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(is) => {
        setOpen(is);
        if (is) void unseenFaces(loaded).catch((e: Error) => notify(e.message, { isError: true }));
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
          {!faces && <p>Casting rays over the whole sphere…</p>}
          {faces?.length === 0 && <p>Every face of this model can be seen from some side.</p>}
          {faces && faces.length > 0 && (
            <>
              <p>
                <strong>{count(faces.length, 'face')}</strong> in {count(parts.length, 'part')} cannot be seen from any side:{' '}
                {count(trianglesOf(loaded, faces), 'triangle')}.
              </p>
              <ul className="mt-2 max-h-[136px] overflow-y-auto border-y border-hairline">
                {parts.slice(0, 30).map(([part, list]) => (
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
                  className="border-b border-ink font-medium"
                  onClick={() => {
                    pickFaces(faces);
                    announce(`${faces.length} faces picked that cannot be seen from any side`);
                  }}
                >
                  Pick them all
                </button>
                {dark && (
                  <button
                    type="button"
                    className="flex items-center gap-1.5 border-b border-ink font-medium"
                    onClick={() => colorUnseenDark(faces)}
                  >
                    Color them <span aria-hidden className="h-3 w-3" style={{ background: swatch(dark) }} />{' '}
                    {dark.role || 'the darkest color'}
                  </button>
                )}
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={leaveOut}
                    onChange={(e) => useUnseen.setState({ leaveOut: e.target.checked })}
                    className="h-4 w-4 accent-ink"
                  />
                  Leave such faces out at Hand-off
                </label>
              </div>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
