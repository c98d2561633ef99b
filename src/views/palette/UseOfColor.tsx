'use client';
import { facesWhere } from '@/core/shapes/mesh/facesWhere';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { areaOfCells } from '@/core/kit/colorings/areaOfCells';
import { findCell, type Sheet } from '@/core/kit/kit';
import { showModel, useEditor } from '@/state/kit/editor';
import { swatch } from '@/state/chosen/pictures';
import { announce } from '@/state/told/announce';
import { pickFaces } from '@/state/pick/picking';
import { frame } from '@/state/chosen/viewState';
import { useVisibleAreas } from '@/state/shown/visibleAreas';
import { count } from '@/ui/words';
import { Select } from '@/ui/Select';
import { useGo } from '@/views/shell/ViewLink';

const UseChart = dynamic(() => import('./UseChart'), { ssr: false });

/** Share of the surface that one sees, for each color of the kit or of one model; a click picks those faces. */
export function UseOfColor({ sheet }: { sheet: Sheet }) {
  const state = useEditor((s) => s.state);
  const [modelId, setModelId] = useState('');
  const go = useGo();
  const { models } = state.kit;
  const areas = useVisibleAreas(models);
  const chosen = modelId ? models.filter((m) => m.id === modelId) : models;
  const rows = useMemo(() => {
    const seen = chosen.flatMap((m) => {
      const area = areas.get(m.mesh);
      return area && area.length === m.faces ? [{ seats: state.seats[m.id]!, area }] : [];
    });
    const sum = areaOfCells(seen);
    const total = [...sum.values()].reduce((a, b) => a + b, 0);
    return [...sum]
      .map(([id, area]) => {
        const cell = findCell(state.kit, id)?.cell;
        return {
          id,
          name: cell ? cell.role || swatch(cell) : 'not yet colored',
          color: cell ? swatch(cell) : '#ffffff',
          share: total ? (area / total) * 100 : 0,
        };
      })
      .sort((p, q) => q.share - p.share);
  }, [areas, chosen, state]);
  const waiting = chosen.some((m) => !areas.has(m.mesh));
  /** Shows a model that has the color, with its faces picked. */
  const pickOn = (id: number) => {
    const has = (m: { id: string }) => state.seats[m.id]!.cell.includes(id);
    const model = chosen.find((m) => m.id === useEditor.getState().modelId && has(m)) ?? chosen.find(has);
    if (!model) return;
    showModel(model.id);
    const { cell } = state.seats[model.id]!;
    const faces = facesWhere(cell.length, (f) => cell[f] === id);
    pickFaces(faces);
    announce(`${count(faces.length, 'face')} of ${model.name} picked`);
    void go(`/kit/${state.kit.id}/color`);
    frame(faces);
  };
  if (!models.length) return <p className="text-quiet">Bring in a model to see how {sheet.name} is used.</p>;
  return (
    <>
      <span className="mb-2 flex items-center gap-2">
        Of
        <Select
          isQuiet
          label="Of"
          value={modelId}
          options={[{ value: '', word: 'all models' }, ...models.map((m) => ({ value: m.id, word: m.name }))]}
          onChange={setModelId}
          className="min-w-0 flex-1"
        />
      </span>
      <p className="mb-1 text-[12px] text-quiet">Share of the surface that is seen from around. Click a bar to pick its faces.</p>
      {waiting ? <p className="mt-4">Looking from all sides…</p> : <UseChart rows={rows} onChoose={pickOn} />}
    </>
  );
}
