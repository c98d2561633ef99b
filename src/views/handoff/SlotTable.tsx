'use client';
import { useState } from 'react';
import { findCell, isTextured, type Model } from '@/core/kit/kit';
import { leavingSlots } from '@/core/faces/regions/slots';
import { useEditor } from '@/state/kit/editor';
import { swatch } from '@/state/chosen/pictures';
import { joinSlots, renameSlot, setSlotColor, setSlotNumber } from '@/state/color/slots';
import { SlotColors } from '../sheet/SlotColors';
import { Select } from '@/ui/Select';

/** The flat materials by which a model leaves: their numbers, names and colors. */
export function SlotTable() {
  const { kit, seats } = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const model = kit.models.find((m) => m.id === modelId);
  if (!model) return null;
  const slots = leavingSlots(kit, model, seats[model.id]!);
  const textured = slots.filter((s) => isTextured(findCell(kit, s.cell)!.cell.fill)).length;
  return (
    <section aria-label={`Material slots of ${model.name}`} className="mt-3 border border-hairline bg-white p-3">
      <h3 className="mb-1 font-bold">Material slots of {model.name}</h3>
      {slots.length === 0 && <p className="text-quiet">None of its faces is colored yet.</p>}
      <ul>
        {slots.map((s) => (
          <li key={s.cell} className="flex items-center gap-2 py-0.5">
            <SlotNumber key={s.number} model={model} cell={s.cell} number={s.number} />
            <SlotColors slot={s} others={slots} onChoose={(cell) => setSlotColor(model, s.cell, cell)}>
              <span className="block h-5 w-5 shrink-0" style={{ background: swatch(findCell(kit, s.cell)!.cell) }} />
            </SlotColors>
            <SlotName key={s.name} model={model} number={s.number} name={s.name} />
            <Select
              isQuiet
              label={`Leave ${s.name} by another slot`}
              value=""
              placeholder="merge…"
              options={slots.filter((o) => o.number !== s.number).map((o) => ({ value: `${o.cell}`, word: `into ${o.name}` }))}
              onChange={(to) => joinSlots(model, s.cell, Number(to))}
              className="w-24 text-[12px]"
            />
          </li>
        ))}
      </ul>
      {textured > 0 && <p className="mt-1 text-[12px]">Gradients and art leave as their mean color.</p>}
      <p className="mt-1 text-[12px] text-quiet">
        Numbers and names stay the same in later exports; a click on its color gives a slot another one.
      </p>
    </section>
  );
}

function SlotNumber({ model, cell, number }: { model: Model; cell: number; number: number }) {
  const [text, setText] = useState(String(number));
  return (
    <input
      type="number"
      aria-label={`Number of slot ${number}`}
      min={0}
      max={9999}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        const next = Math.round(Number(text));
        if (text !== '' && next >= 0 && next <= 9999 && next !== number) setSlotNumber(model, cell, next);
        else setText(String(number));
      }}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="w-14 border border-hairline px-1 py-0.5 text-right"
    />
  );
}

function SlotName({ model, number, name }: { model: Model; number: number; name: string }) {
  const [text, setText] = useState(name);
  return (
    <input
      aria-label={`Name of slot ${number}`}
      value={text}
      maxLength={100}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => (text.trim() ? text.trim() !== name && renameSlot(model, number, text.trim()) : setText(name))}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="min-w-0 flex-1 border border-hairline px-2 py-0.5"
    />
  );
}
