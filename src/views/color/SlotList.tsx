'use client';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import { MoreHorizontal } from 'lucide-react';
import { useState } from 'react';
import { findCell, isTextured, type LeavingSlot, type Model } from '@/core/kit/kit';
import { leavingSlots } from '@/core/faces/regions/slots';
import { chooseCell } from '@/state/color/coloring';
import { useColoring } from '@/state/chosen/coloringState';
import { currentOf, useEditor } from '@/state/kit/editor';
import { pickFaces } from '@/state/pick/picking';
import { usePick } from '@/state/chosen/pickState';
import { swatch } from '@/state/chosen/pictures';
import { joinSlots, renameSlot, setSlotColor, setSlotNumber } from '@/state/color/slots';
import { SlotColors } from '../sheet/SlotColors';
import { Menu } from '@/ui/Menu';
import { Rename } from '@/ui/Rename';
import { count, number } from '@/ui/words';

/** The flat materials by which the model in view can leave: picked faces go to one by a click. */
export function SlotList() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const model = state.kit.models.find((m) => m.id === modelId);
  if (!model) return null;
  const seats = state.seats[model.id]!;
  const slots = leavingSlots(state.kit, model, seats);
  const faces = new Map<number, number>();
  for (const c of seats.cell) faces.set(c, (faces.get(c) ?? 0) + 1);
  const hasTextured = slots.some((s) => isTextured(findCell(state.kit, s.cell)!.cell.fill));
  return (
    <>
      <ul className="min-h-0 overflow-y-auto">
        {slots.map((s) => (
          <SlotRow key={s.cell} model={model} slot={s} others={slots} faces={faces.get(s.cell) ?? 0} />
        ))}
      </ul>
      <p className="px-4 pt-1 text-small text-quiet">
        {slots.length === 0
          ? 'None of its faces is colored yet.'
          : `By these the model leaves without a texture.${hasTextured ? ' Gradients and art leave as their mean color.' : ''}`}
      </p>
    </>
  );
}

function SlotRow({ model, slot, others, faces }: { model: Model; slot: LeavingSlot; others: readonly LeavingSlot[]; faces: number }) {
  const [changing, setChanging] = useState<'name' | 'number' | null>(null);
  const kit = useEditor((s) => s.state.kit);
  const chosen = useColoring((s) => s.cell);
  const picked = usePick((s) => s.count);
  if (changing)
    return (
      <li className="px-4 py-0.5">
        <Rename
          name={changing === 'name' ? slot.name : String(slot.number)}
          label={changing === 'name' ? 'Name of the slot' : 'Number of the slot'}
          onDone={(text) => {
            setChanging(null);
            const n = Number(text);
            if (changing === 'name' && text && text !== slot.name) renameSlot(model, slot.number, text);
            if (changing === 'number' && text && Number.isInteger(n) && n >= 0 && n <= 9999) setSlotNumber(model, slot.cell, n);
          }}
        />
      </li>
    );
  return (
    <li className={`group flex items-center pr-1 pl-4 hover:bg-wash ${chosen === slot.cell ? 'font-medium' : ''}`}>
      <SlotColors slot={slot} others={others} onChoose={(cell) => setSlotColor(model, slot.cell, cell)}>
        <span className="block h-3.5 w-3.5" style={{ background: swatch(findCell(kit, slot.cell)!.cell) }} />
      </SlotColors>
      <button
        type="button"
        aria-label={`Slot ${slot.number}, ${slot.name}, ${count(faces, 'face')}`}
        title={picked ? 'Click: the picked faces go to this slot' : 'Click: the phrase takes its color'}
        onClick={() => chooseCell(slot.cell)}
        className="flex min-w-0 flex-1 items-center gap-2 py-1 text-left"
      >
        <span className="w-5 shrink-0 text-right text-small text-quiet">{slot.number}</span>
        <span className="min-w-0 flex-1 truncate">{slot.name}</span>
        <span className="text-small text-quiet">{number(faces)}</span>
      </button>
      <Menu
        label={`Actions for slot ${slot.number}`}
        trigger={<MoreHorizontal size={14} aria-hidden />}
        className="flex h-6 w-6 items-center justify-center opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100"
        items={[
          { label: 'Pick its faces', run: () => pickFaces(facesOn(model, slot.cell)) },
          { label: 'Rename', run: () => setChanging('name') },
          { label: 'Another number', run: () => setChanging('number') },
          ...others
            .filter((o) => o.number !== slot.number)
            .map((o) => ({ label: `Merge into ${o.name}`, run: () => joinSlots(model, slot.cell, o.cell) })),
        ]}
      />
    </li>
  );
}

function facesOn(model: Model, cell: number): Uint32Array {
  const { cells } = currentOf({ ...useEditor.getState(), modelId: model.id })!;
  return facesWhere(cells.length, (f) => cells[f] === cell);
}
