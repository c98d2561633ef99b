'use client';
import dynamic from 'next/dynamic';
import { useEffect, useMemo, useState } from 'react';
import { type Cost } from '@/core/files/budget/tally';
import { usesOfCells } from '@/core/kit/colorings/usesOfCells';
import { textureMemory, type TextureMemory } from '@/core/files/budget/textureMemory';
import type { KitState, Sheet } from '@/core/kit/kit';
import { triangleCount } from '@/core/shapes/mesh/polyMesh';
import { costBefore, leavingModels, measureGlb, type What } from '@/state/files/exporting';
import { useHandOff } from '@/state/chosen/handOff';
import { useEditor } from '@/state/kit/editor';
import { swatch } from '@/state/chosen/pictures';
import { notifyError } from '@/state/told/notices';
import { bytes, number } from '@/ui/words';
import { InBlocks } from './InBlocks';

const CostChart = dynamic(() => import('./CostChart'), { ssr: false });

type Way = 'came' | 'texture' | 'slots' | 'colors';
type Figures = Partial<Record<Way, Cost & { fileBytes: number }>>;

const ways: [Way, string][] = [
  ['came', 'as it came'],
  ['texture', 'on the sheet'],
  ['slots', 'flat'],
  ['colors', 'in vertices'],
];

/** Milliseconds without a change after which figures are taken. */
const rest = 300;

/** What models cost a game, as they came and in the three ways of leaving. */
export function Costs({ what }: { what: What }) {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const isReady = useEditor((s) => s.preparing === 0 && s.state.kit.models.length > 0);
  const [figures, setFigures] = useState<Figures>({});
  const [copies, setCopies] = useState(20);
  useEffect(() => {
    if (!isReady) return;
    let isLatest = true;
    const measure = async () => {
      const options = useHandOff.getState();
      const found: Figures = { came: await costBefore(what) };
      for (const as of ['texture', 'slots', 'colors'] as const) {
        const { cost, fileBytes } = await measureGlb(what, { ...options, as });
        if (!isLatest) return;
        found[as] = { ...cost, fileBytes };
      }
      setFigures(found);
    };
    const timer = setTimeout(() => void measure().catch((e: unknown) => isLatest && notifyError(e)), rest);
    return () => {
      isLatest = false;
      clearTimeout(timer);
    };
  }, [what, state, modelId, isReady]);
  const models = leavingModels(what);
  const triangles = models.reduce((sum, m) => sum + (meshes[m.mesh] ? triangleCount(meshes[m.mesh]!.mesh) : 0), 0);
  const sheets = sheetsOf(state, models);
  const memory = sheets.map((s) => textureMemory(s.width, s.height));
  const sum = (key: keyof TextureMemory) => memory.reduce((all, m) => all + m[key], 0);
  const onCard = (key: keyof TextureMemory): Partial<Record<Way, string>> => ({
    came: 'none',
    texture: bytes(sum(key)),
    slots: 'none',
    colors: 'none',
  });
  const of = (say: (c: Cost & { fileBytes: number }) => string): Partial<Record<Way, string>> =>
    Object.fromEntries(ways.flatMap(([way]) => (figures[way] ? [[way, say(figures[way])]] : [])));
  const rows: [string, Partial<Record<Way, string>>][] = [
    ['Draw calls', of((c) => number(c.drawCalls))],
    ['Materials', of((c) => number(c.materials))],
    ['GPU vertices', of((c) => number(c.gpuVertices))],
    ['… more for hard edges', of((c) => number(c.atHardEdges))],
    ['… more for color borders', of((c) => number(c.atBorders))],
    ['Triangles', { came: number(triangles), texture: number(triangles), slots: number(triangles), colors: number(triangles) }],
    ['Textures on disk', of((c) => bytes(c.textureBytes))],
    ['Sheet on the card', onCard('plain')],
    ['… with mip levels', onCard('withMips')],
    ['… in blocks, 4 bits', onCard('blocks4')],
    ['… in blocks, 8 bits', onCard('blocks8')],
    ['File', of((c) => (c.fileBytes ? bytes(c.fileBytes) : 'made here'))],
  ];
  const colors = useChartColors(state);
  const roundedUp = memory.length ? Math.max(...memory.map((m) => m.roundedUp)) : 1;
  return (
    <div className="px-5 py-3 text-[12.5px]">
      <table className="w-full" aria-label="What it costs" aria-busy={!figures.colors}>
        <thead>
          <tr className="border-b border-ink text-right text-small text-quiet">
            <th />
            {ways.map(([way, word]) => (
              <th key={way} scope="col" className="pb-1 pl-3 font-normal">
                {word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, cells]) => (
            <tr key={name} className="border-b border-hairline">
              <th scope="row" className="py-1 text-left font-normal">
                {name}
              </th>
              {ways.map(([way]) => (
                <td key={way} className={`pl-3 text-right ${way === 'texture' ? 'font-bold' : ''}`}>
                  {cells[way] ?? '…'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {figures.colors && (
        <CostChart rows={ways.map(([way, word], i) => ({ name: word, drawCalls: figures[way]?.drawCalls ?? 0, color: colors[i]! }))} />
      )}
      <p className="mt-2">
        <strong>On the sheet</strong> all models share one material and one tiny texture: the fewest draw calls, and one edit recolors all.{' '}
        <strong>Flat materials</strong> need no texture and no UVs, and a game can swap them by slot; each color is a draw call.{' '}
        <strong>In vertices</strong> colors need neither, in one draw call, but each is fixed in its mesh, and gradients reach no finer than
        corners.
      </p>
      {roundedUp > 1.05 && (
        <p className="mt-2 text-quiet">
          Compressed textures come in blocks of 4 × 4 texels, which are never cut: on a sheet this small they take {roundedUp.toFixed(1)}{' '}
          times their bits a texel, and neighbours in a block change each other’s colors.
        </p>
      )}
      {sheets.map((s) => (
        <InBlocks key={s.id} sheet={s} />
      ))}
      <label className="mt-3 flex items-center gap-2">
        In a scene with
        <input
          type="number"
          min={1}
          max={100_000}
          value={copies}
          onChange={(e) => setCopies(Math.max(1, Math.min(100_000, Math.round(Number(e.target.value)) || 1)))}
          className="h-7 w-[72px] border border-hairline px-1.5 text-right"
        />
        of each
      </label>
      {figures.texture && (
        <p className="mt-1" aria-live="polite">
          <strong>{number(figures.texture.drawCalls * copies)} draw calls</strong> one by one,{' '}
          <strong>{number(figures.texture.drawCalls)}</strong> where the game draws copies together.
        </p>
      )}
    </div>
  );
}

/** The sheets that faces of these models sit on. */
function sheetsOf({ kit, seats }: KitState, models: readonly { id: string }[]): Sheet[] {
  const used = new Set(models.flatMap((m) => [...new Set(seats[m.id]!.cell)]));
  return kit.sheets.filter((s) => s.cells.some((c) => used.has(c.id)));
}

/** The colors that most faces have, so that the bars are of the palette. */
function useChartColors(state: KitState): string[] {
  return useMemo(() => {
    const uses = usesOfCells(state);
    const cells = state.kit.sheets.flatMap((s) => s.cells).filter((c) => c.fill.kind !== 'spare');
    const most = cells.sort((a, b) => (uses.get(b.id)?.faces ?? 0) - (uses.get(a.id)?.faces ?? 0));
    return [0, 1, 2, 3].map((i) => (most[i] ? swatch(most[i]) : '#888888'));
  }, [state]);
}
