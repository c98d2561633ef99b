'use client';
import { Lock, MoreHorizontal } from 'lucide-react';
import { useMemo, useState } from 'react';
import { findCell, type Region } from '@/core/kit/kit';
import { useColoring } from '@/state/chosen/coloringState';
import { currentOf, useEditor } from '@/state/kit/editor';
import { useCurrent } from '@/state/kit/useCurrent';
import { swatch } from '@/state/chosen/pictures';
import { hideFaces } from '@/state/pick/hiding';
import { pickedFaces, usePick } from '@/state/chosen/pickState';
import {
  addPickTo,
  colorRegionWith,
  dropRegion,
  facesInRegion,
  joinRegions,
  moveRegion,
  nameByColor,
  nameThePick,
  pickRegion,
  setRegionLock,
  setRegionName,
  takePickFrom,
} from '@/state/pick/regions';
import { Menu } from '@/ui/Menu';
import { Rename } from '@/ui/Rename';
import { count, number } from '@/ui/words';
import { ProposeRegions } from './ProposeRegions';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

/** Named sets of faces of the model in view: a click picks one. */
export function RegionList() {
  const current = useCurrent();
  const picked = usePick((s) => s.count);
  const last = usePick((s) => s.last);
  const [isNaming, setNaming] = useState(false);
  const [isProposing, setProposing] = useState(false);
  const areas = current?.loaded?.adjacency.areas;
  const counts = useMemo(() => countRegions(current?.regions, current?.cells, current?.model.regions ?? [], areas), [current, areas]);
  if (!current) return null;
  const { model } = current;
  return (
    <>
      {/* The list takes what room there is, in whole rows. */}
      <div className="min-h-0 flex-initial [container-type:size]" style={{ flexBasis: model.regions.length * regionRow }}>
        <ul className="overflow-y-auto" style={{ height: `round(down, 100cqh, ${regionRow}px)` }}>
          {model.regions.map((r) => (
            <RegionRow key={r.id} region={r} others={model.regions} {...(counts.get(r.id) ?? none)} />
          ))}
        </ul>
      </div>
      <div className="px-4 pt-1">
        <OfAllColorings what="Regions are" className="mb-1" />
        {isNaming ? (
          <NameForm
            onDone={(name, colored) => {
              setNaming(false);
              if (name) nameThePick(name, colored);
            }}
          />
        ) : (
          <span className="flex flex-wrap gap-x-3 gap-y-1 text-[12px] whitespace-nowrap">
            <button
              type="button"
              disabled={!picked && !last?.length}
              title={
                picked
                  ? 'The picked faces become a region'
                  : last?.length
                    ? 'The faces that were picked last become a region'
                    : 'Pick faces first'
              }
              onClick={() => setNaming(true)}
              className="border-b border-ink disabled:border-hairline disabled:text-quiet"
            >
              Name the pick
            </button>
            <button type="button" onClick={() => setProposing(true)} className="border-b border-ink">
              Proposals
            </button>
            {model.regions.length === 0 && current.cells.some((c) => c !== 0) && (
              <button type="button" onClick={nameByColor} title="Each color becomes a region" className="border-b border-ink">
                By color
              </button>
            )}
          </span>
        )}
      </div>
      {isProposing && <ProposeRegions onClose={() => setProposing(false)} />}
    </>
  );
}

/** Pixels of one region's row. */
const regionRow = 28;

const none = { faces: 0, differ: 0, share: 0 };

/** Faces of each region, how many do not have its color, and its share of the model's surface. */
function countRegions(
  regions: Uint16Array | undefined,
  cells: Uint16Array | undefined,
  list: readonly Region[],
  areas: Float32Array | undefined,
) {
  const out = new Map(list.map((r) => [r.id, { faces: 0, differ: 0, share: 0 }]));
  if (!regions || !cells) return out;
  const colorOf = new Map(list.map((r) => [r.id, r.cell]));
  const total = areas?.reduce((sum, a) => sum + a, 0) || 1;
  for (let f = 0; f < regions.length; f++) {
    const entry = out.get(regions[f]!);
    if (!entry) continue;
    entry.faces++;
    entry.share += (areas?.[f] ?? 0) / total;
    const cell = colorOf.get(regions[f]!);
    if (cell && cells[f] !== cell) entry.differ++;
  }
  return out;
}

function RegionRow({
  region,
  others,
  faces,
  differ,
  share,
}: {
  region: Region;
  others: readonly Region[];
  faces: number;
  differ: number;
  share: number;
}) {
  const [isRenaming, setRenaming] = useState(false);
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const cell = findCell(kit, region.cell)?.cell;
  if (isRenaming)
    return (
      <li className="h-7 px-4 py-0.5">
        <Rename
          name={region.name}
          label="Region name"
          onDone={(name) => {
            setRenaming(false);
            if (name && name !== region.name) setRegionName(region.id, name);
          }}
        />
      </li>
    );
  return (
    <li className="group flex h-7 items-center pr-1 pl-4 hover:bg-wash">
      <button
        type="button"
        aria-label={`Region ${region.name}, ${count(faces, 'face')}, ${Math.round(share * 100)} % of the surface${differ ? `, ${differ} in other colors` : ''}${region.locked ? ', locked' : ''}`}
        title={`${Math.round(share * 100)} % of the surface${differ ? `\n${count(differ, 'face')} in other colors` : ''}\nClick: pick its faces`}
        onClick={() => pickRegion(region.id)}
        className="flex min-w-0 flex-1 items-center gap-2.5 py-1 text-left"
      >
        <span
          className={`h-3 w-3 shrink-0 ${cell ? '' : 'hatched border border-dashed border-[#8a8a8a]'}`}
          style={cell ? { background: swatch(cell) } : undefined}
        />
        <span className="min-w-0 flex-1 truncate">{region.name}</span>
        {region.locked && <Lock size={11} aria-hidden />}
        {differ > 0 && <span className="text-small">≠ {number(differ)}</span>}
        <span className="text-small text-quiet">
          {number(faces)} · {Math.round(share * 100)} %
        </span>
      </button>
      <Menu
        label={`Actions for region ${region.name}`}
        trigger={<MoreHorizontal size={14} aria-hidden />}
        className="flex h-6 w-6 items-center justify-center opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100"
        items={[
          { label: 'Color it with the chosen color', run: () => colorRegionWith(region, chosen) },
          ...(differ ? [{ label: 'Give all its faces its color again', run: () => colorRegionWith(region, region.cell) }] : []),
          { label: 'Add the pick', run: () => addPickTo(region.id) },
          { label: 'Take the pick away', run: () => takePickFrom(region.id) },
          { label: 'Hide it', run: () => hideFaces(facesInRegion(region.id)) },
          'line',
          { label: region.locked ? 'Unlock' : 'Lock its colors', run: () => setRegionLock(region.id, !region.locked) },
          { label: 'Rename', run: () => setRenaming(true) },
          { label: 'Move up', run: () => moveRegion(region.id, -1) },
          { label: 'Move down', run: () => moveRegion(region.id, 1) },
          ...others
            .filter((o) => o.id !== region.id)
            .map((o) => ({ label: `Merge into ${o.name}`, run: () => joinRegions(region.id, o.id) })),
          'line',
          { label: 'Remove', run: () => dropRegion(region.id) },
        ]}
      />
    </li>
  );
}

/** Whether any face that would be named has another color already. */
function hasOtherColor(): boolean {
  const cells = currentOf(useEditor.getState())?.cells;
  const { count: picked, last } = usePick.getState();
  const { cell } = useColoring.getState();
  return cells !== undefined && (picked ? pickedFaces() : (last ?? [])).some((f) => cells[f] !== 0 && cells[f] !== cell);
}

/** A name, and whether the region takes the phrase's color in the same act. */
function NameForm({ onDone }: { onDone: (name: string | null, colored: boolean) => void }) {
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const cell = findCell(kit, chosen)?.cell;
  const [name, setName] = useState('');
  // Naming never recolors by itself: faces that have colors keep them unless the artist says otherwise.
  const [colored, setColored] = useState(() => Boolean(cell) && !hasOtherColor());
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onDone(name.trim() || null, colored && Boolean(cell));
      }}
      onKeyDown={(e) => e.key === 'Escape' && onDone(null, false)}
    >
      <input
        aria-label="Name of the region"
        autoFocus
        value={name}
        maxLength={100}
        placeholder="tower wall"
        onChange={(e) => setName(e.target.value)}
        className="w-full border border-ink bg-white px-2 py-1"
      />
      <span className="mt-1 flex items-center justify-between gap-2 text-[12px]">
        {cell ? (
          <label className="flex min-w-0 items-center gap-1.5">
            <input type="checkbox" checked={colored} onChange={(e) => setColored(e.target.checked)} className="h-3.5 w-3.5 accent-ink" />
            <span className="h-3 w-3 shrink-0" style={{ background: swatch(cell) }} />
            <span className="truncate">{cell.role || 'colored'}</span>
          </label>
        ) : (
          <span />
        )}
        <button type="submit" className="border-b border-ink font-medium">
          Make it
        </button>
      </span>
    </form>
  );
}
