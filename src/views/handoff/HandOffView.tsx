'use client';
import { useEffect, useState } from 'react';
import type { Cost } from '@/core/budget/tally';
import { currentOf, showModel, useEditor } from '@/state/editor';
import type { LeaveAs } from '@/core/io/exportModel';
import { SlotTable } from './SlotTable';
import {
  costBefore,
  downloadArchive,
  downloadGlb,
  downloadObj,
  downloadSheet,
  makeGlb,
  unseenTriangles,
  type What,
} from '@/state/exporting';
import { useUnseen } from '@/state/unseen';
import type { Sheet } from '@/core/kit/kit';
import type { WrittenKind } from '@/core/palette/paletteFile';
import { notify } from '@/state/notices';
import { downloadPalette } from '@/state/palettes';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { bytes, count, number } from '@/ui/words';

interface Account {
  before: Cost & { fileBytes: number };
  after: Cost & { fileBytes: number };
}

/** What leaves, and what it costs before and after. */
export function HandOffView() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const preparing = useEditor((s) => s.preparing);
  const [what, setWhat] = useState<What>('kit');
  const [unlit, setUnlit] = useState(false);
  const leaveOut = useUnseen((s) => s.leaveOut);
  const [as, setAs] = useState<LeaveAs>('texture');
  const [account, setAccount] = useState<Account | null>(null);
  const [problem, setProblem] = useState('');
  const current = currentOf({ state, modelId, meshes });
  const uncolored = (what === 'kit' ? state.kit.models : current ? [current.model] : []).reduce(
    (n, m) => n + state.seats[m.id]!.cell.reduce((k, c) => k + (c === 0 ? 1 : 0), 0),
    0,
  );
  const isEmpty = state.kit.models.length === 0;

  useEffect(() => {
    if (isEmpty || preparing > 0) return;
    let isLatest = true;
    const measure = async () => {
      const [before, { cost, bytes: file }] = [await costBefore(what), await makeGlb(what, { unlit, as })];
      if (isLatest) {
        setAccount({ before, after: { ...cost, fileBytes: file.length } });
        setProblem('');
      }
    };
    measure().catch((e: Error) => isLatest && setProblem(e.message));
    return () => {
      isLatest = false;
    };
  }, [what, unlit, as, leaveOut, state, preparing, modelId, isEmpty]);

  if (isEmpty) return <p className="m-auto text-phrase">There is nothing to hand off yet. Bring in a model first.</p>;
  const run = (work: () => Promise<void>) => () => void work().catch((e: Error) => notify(e.message, { isError: true }));
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <div className="mx-auto max-w-[980px] px-6 py-8">
        <div className="mb-6 flex items-center gap-4">
          <h1 className="text-[22px] font-bold" style={{ fontStretch: '108%' }}>
            Hand-off
          </h1>
          <Choice
            label="What leaves"
            value={what}
            options={[
              ['kit', `The whole kit, ${count(state.kit.models.length, 'model')}`],
              ['model', 'One model'],
            ]}
            onChange={setWhat}
            className="border border-ink"
          />
          {what === 'model' && (
            <select
              aria-label="Which model"
              value={modelId ?? ''}
              onChange={(e) => showModel(e.target.value)}
              className="h-[28px] border border-ink bg-white px-2"
            >
              {state.kit.models.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </select>
          )}
        </div>
        {uncolored > 0 && (
          <p role="note" className="mb-5 border border-ink bg-white px-4 py-2.5">
            <strong>{count(uncolored, 'face')} not yet colored.</strong> They leave as they came in: with their material, picture and UVs,
            or with one neutral material.
          </p>
        )}
        <Unseen what={what} />
        {problem && (
          <p role="alert" className="mb-5 border-2 border-ink px-4 py-2.5">
            {problem}
          </p>
        )}
        <div className="grid grid-cols-[1fr_380px] gap-8">
          <ul className="border-t border-ink">
            <Format
              name="GLB"
              does={
                as === 'texture'
                  ? 'One material for the sheet, its PNG inside, sampled to the nearest texel. Opens in game engines and viewers.'
                  : 'One flat material for each color, no texture. Opens in game engines and viewers.'
              }
              run={run(() => downloadGlb(what, { unlit, as }))}
            >
              <label className="mt-2 flex items-center gap-2">
                <input type="checkbox" checked={unlit} onChange={(e) => setUnlit(e.target.checked)} className="h-4 w-4 accent-ink" />
                Mark the material as unlit: true colors, whatever the light
              </label>
              <Choice
                label="Colors leave"
                value={as}
                options={[
                  ['texture', 'On one texture'],
                  ['slots', 'As flat materials'],
                ]}
                onChange={setAs}
                className="mt-2 border border-ink"
              />
              {as === 'slots' && <SlotTable />}
            </Format>
            <Format
              name="OBJ"
              does={`OBJ with MTL${as === 'texture' ? ' and PNG' : ''} in one zip. Faces keep all their corners.`}
              run={run(() => downloadObj(what, as))}
            />
            {state.kit.sheets.map((s) => (
              <Format
                key={s.id}
                name="Sheet"
                does={`“${s.name}”, ${s.width} × ${s.height} texels, as a PNG.`}
                run={run(() => downloadSheet(s.id))}
              />
            ))}
            <PaletteFormat sheets={state.kit.sheets} />
            <Format
              name="Kit archive"
              does="The whole kit in one zip of open formats, to keep or to open in another browser."
              run={run(downloadArchive)}
            />
          </ul>
          <Accounts account={account} />
        </div>
      </div>
    </div>
  );
}

/** Faces that nobody can see may stay behind; what that saves is told first. */
function Unseen({ what }: { what: What }) {
  const leaveOut = useUnseen((s) => s.leaveOut);
  const [found, setFound] = useState<{ triangles: number; models: number } | null>(null);
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const preparing = useEditor((s) => s.preparing);
  useEffect(() => {
    if (preparing > 0) return;
    let isLatest = true;
    unseenTriangles(what).then(
      (f) => isLatest && setFound(f),
      () => isLatest && setFound(null),
    );
    return () => {
      isLatest = false;
    };
  }, [what, state.kit.models, modelId, preparing]);
  if (!found?.triangles) return null;
  return (
    <label className="mb-5 flex items-center gap-2.5 border border-hairline bg-white px-4 py-2.5">
      <input
        type="checkbox"
        checked={leaveOut}
        onChange={(e) => useUnseen.setState({ leaveOut: e.target.checked })}
        className="h-4 w-4 accent-ink"
      />
      <span>
        Leave out the faces that cannot be seen from any side. {leaveOut ? 'Saved' : 'It would save'}:{' '}
        <strong>{count(found.triangles, 'triangle')}</strong>
        {what === 'kit' && ` in ${count(found.models, 'model')}`}.
      </span>
    </label>
  );
}

function Format({ name, does, run, children }: { name: string; does: string; run: () => void; children?: React.ReactNode }) {
  return (
    <li className="flex items-start gap-4 border-b border-hairline py-4">
      <div className="min-w-0 flex-1">
        <h2 className="text-phrase font-bold">{name}</h2>
        <p className="text-[#444]">{does}</p>
        {children}
      </div>
      <Button kind="solid" aria-label={`Download ${name}`} onClick={run}>
        Download
      </Button>
    </li>
  );
}

const paletteKinds: [WrittenKind, string][] = [
  ['gpl', '.gpl, with roles as names'],
  ['pal-text', '.pal, text'],
  ['pal-riff', '.pal, RIFF'],
  ['hex', '.hex list'],
  ['css', 'CSS custom properties'],
  ['tokens', 'JSON design tokens'],
  ['pixels', 'PNG, one pixel a color'],
];

/** The sheet's colors as a palette file for other programs. */
function PaletteFormat({ sheets }: { sheets: readonly Sheet[] }) {
  const [kind, setKind] = useState<WrittenKind>('gpl');
  const [chosen, setChosen] = useState('');
  const sheetId = (sheets.find((s) => s.id === chosen) ?? sheets[0]!).id;
  return (
    <Format
      name="Palette"
      does="The colors alone, in the order of the tray, for other programs."
      run={() => void downloadPalette(sheetId, kind).catch((e: Error) => notify(e.message, { isError: true }))}
    >
      {sheets.length > 1 && (
        <select
          aria-label="Sheet of the palette file"
          value={sheetId}
          onChange={(e) => setChosen(e.target.value)}
          className="mt-2 mr-2 h-[28px] border border-ink bg-white px-2"
        >
          {sheets.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      )}
      <select
        aria-label="Kind of palette file"
        value={kind}
        onChange={(e) => setKind(e.target.value as WrittenKind)}
        className="mt-2 h-[28px] border border-ink bg-white px-2"
      >
        {paletteKinds.map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </select>
    </Format>
  );
}

function Accounts({ account }: { account: Account | null }) {
  const rows: [string, (c: Account['after']) => string][] = [
    ['Materials', (c) => number(c.materials)],
    ['Draw calls', (c) => number(c.drawCalls)],
    ['Texture bytes', (c) => bytes(c.textureBytes)],
    ['GPU vertices', (c) => number(c.gpuVertices)],
    ['File bytes', (c) => (c.fileBytes ? bytes(c.fileBytes) : 'made here')],
  ];
  return (
    <section aria-label="Before and after" className="h-fit border border-ink bg-white p-5">
      <h2 className="mb-3 font-bold">Before and after</h2>
      <table className="w-full">
        <thead>
          <tr className="border-b border-ink text-left text-[12px] text-quiet">
            <th className="pb-1 font-normal">GLB</th>
            <th className="pb-1 text-right font-normal">as it came</th>
            <th className="pb-1 text-right font-normal">as it leaves</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, say]) => (
            <tr key={name} className="border-b border-hairline">
              <th scope="row" className="py-2 text-left font-normal">
                {name}
              </th>
              <td className="text-right">{account ? say(account.before) : '…'}</td>
              <td className="text-right text-[15px] font-bold">{account ? say(account.after) : '…'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
