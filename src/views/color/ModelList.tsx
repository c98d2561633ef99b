'use client';
import { MoreHorizontal } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { readFileAgain } from '@/state/files/carrying';
import { showModel, useEditor } from '@/state/kit/editor';
import { duplicateModel, removeModel, renameModel, reportOn } from '@/state/files/importing';
import { useThumbnails } from '@/state/shown/thumbnails';
import { Menu } from '@/ui/Menu';
import { modelFiles } from '@/ui/FileChooser';
import { Rename } from '@/ui/Rename';
import { count, number } from '@/ui/words';
import { CompleteHalf } from './CompleteHalf';
import { CarryFrom } from './CarryFrom';
import { FaceLists } from './FaceLists';
import { useGo } from '@/views/shell/ViewLink';

/** Pixels of one model's row, and how many of them stay in view however many regions there are. */
const modelRow = 46;
const fewestShown = 4;

/** The kit's models with pictures of how they stand. */
export function ModelList() {
  const models = useEditor((s) => s.state.kit.models);
  const seats = useEditor((s) => s.state.seats);
  const kitId = useEditor((s) => s.state.kit.id);
  const modelId = useEditor((s) => s.modelId);
  const pictures = useThumbnails((s) => s.pictures);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [half, setHalf] = useState<string | null>(null);
  const [carryTo, setCarryTo] = useState<string | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const rereading = useRef('');
  const list = useRef<HTMLUListElement>(null);
  // The model in view stays in view here too, when it changes and when the list becomes shorter.
  useEffect(() => {
    if (!list.current) return;
    const follow = new ResizeObserver(() => list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' }));
    follow.observe(list.current);
    return () => follow.disconnect();
  }, [modelId]);
  const go = useGo();
  return (
    <aside aria-label="Models of the kit" className="flex w-[204px] shrink-0 flex-col border-r border-hairline bg-paper">
      <div className="flex items-baseline justify-between px-4 pt-3 pb-2">
        <h2 className="text-[12px] font-bold">Models</h2>
        <span className="text-small text-quiet">{models.length}</span>
      </div>
      <ul ref={list} className="grow overflow-y-auto" style={{ flexShrink: 0, flexBasis: Math.min(models.length, fewestShown) * modelRow }}>
        {models.map((m) => {
          const isCurrent = m.id === modelId;
          const bare = uncolored(seats[m.id]!.cell);
          return (
            <li key={m.id} className={`group relative flex items-center ${isCurrent ? 'bg-ink text-paper' : 'hover:bg-wash'}`}>
              {renaming === m.id ? (
                <span className="flex h-[46px] w-full items-center px-4">
                  <Rename
                    name={m.name}
                    label="Model name"
                    onDone={(name) => {
                      setRenaming(null);
                      if (name) renameModel(m.id, name);
                    }}
                  />
                </span>
              ) : (
                <>
                  <button
                    type="button"
                    aria-current={isCurrent || undefined}
                    onClick={() => showModel(m.id)}
                    className="flex min-w-0 flex-1 items-center gap-2.5 py-[3px] pl-4 text-left"
                  >
                    <span className="flex h-10 w-10 shrink-0 items-center justify-center bg-surround">
                      {/* Pictures are data addresses made by the application; there is nothing to optimize. */}
                      {/* eslint-disable-next-line @next/next/no-img-element */}
                      {pictures[m.id] && <img src={pictures[m.id]} width={40} height={40} alt="" />}
                    </span>
                    <span className="min-w-0 pr-8">
                      <span className="block truncate font-medium">{m.name}</span>
                      <span className={`block truncate text-small ${isCurrent ? 'text-[#bbb]' : 'text-quiet'}`}>
                        {bare === 0
                          ? count(m.faces, 'face')
                          : bare === m.faces
                            ? `${count(m.faces, 'face')}, all bare`
                            : `${count(m.faces, 'face')}, ${number(bare)} bare`}
                      </span>
                    </span>
                  </button>
                  <Menu
                    label={`Actions for ${m.name}`}
                    className={`absolute right-1 flex h-8 w-7 items-center justify-center opacity-0 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100 ${isCurrent ? 'opacity-100' : ''}`}
                    trigger={<MoreHorizontal size={15} aria-hidden />}
                    items={[
                      { label: 'Rename', run: () => setTimeout(() => setRenaming(m.id)) },
                      { label: 'Duplicate', run: () => duplicateModel(m.id) },
                      {
                        label: 'Check the mesh',
                        run: () => {
                          void reportOn(m.id);
                          void go(`/kit/${kitId}/gather`);
                        },
                      },
                      {
                        label: 'Read its file again',
                        run: () => {
                          rereading.current = m.id;
                          chooser.current?.click();
                        },
                      },
                      { label: 'Take colors from another model', run: () => setCarryTo(m.id) },
                      { label: 'Complete the other half', run: () => setHalf(m.id) },
                      'line',
                      { label: 'Remove', run: () => removeModel(m.id), hint: 'undoable' },
                    ]}
                  />
                </>
              )}
            </li>
          );
        })}
      </ul>
      <FaceLists />
      <input
        ref={chooser}
        type="file"
        multiple
        hidden
        aria-label="The model’s file as it is now"
        accept={modelFiles}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length) void readFileAgain(rereading.current, files);
        }}
      />
      {half && <CompleteHalf id={half} onClose={() => setHalf(null)} />}
      {carryTo && <CarryFrom to={carryTo} onClose={() => setCarryTo(null)} />}
    </aside>
  );
}

function uncolored(cells: Uint16Array): number {
  let n = 0;
  for (let f = 0; f < cells.length; f++) if (cells[f] === 0) n++;
  return n;
}
