'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { Problem, ProblemKind } from '@/core/shapes/check/inspectMesh';
import type { Repair } from '@/core/shapes/check/repair';
import { showModel, useEditor } from '@/state/kit/editor';
import { readWithQuads } from '@/state/files/carrying';
import { putAwayReport, repairModel, repairWords } from '@/state/files/importing';
import { usePick } from '@/state/chosen/pickState';
import { frame } from '@/state/chosen/viewState';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { bytes, count, metres, number } from '@/ui/words';
import type { ModelReport } from '@/workers/importing';
import { ColorOffers } from './ColorOffers';
import { useGo } from '@/views/shell/ViewLink';

const words: Record<ProblemKind, { say: (n: number) => string; why: string; repairs: Repair[] }> = {
  flipped: {
    say: (n) => `${count(n, 'face')} flipped against ${n === 1 ? 'its' : 'their'} neighbours`,
    why: 'Games do not draw faces from behind.',
    repairs: ['turn-outward'],
  },
  'inside-out': {
    say: (n) => `${count(n, 'face')} of closed parts point${n === 1 ? 's' : ''} inward`,
    why: 'The part is inside out.',
    repairs: ['turn-outward'],
  },
  duplicate: {
    say: (n) => `${count(n, 'duplicate face')}`,
    why: 'Two faces in one place flicker, and a click hits only one.',
    repairs: ['drop-duplicate'],
  },
  degenerate: {
    say: (n) => `${count(n, 'face')} without area`,
    why: 'They cost triangles and show nothing.',
    repairs: ['drop-degenerate'],
  },
  'open-border': {
    say: (n) => `${count(n, 'open edge')}`,
    why: 'Fine for open shapes; where parts should meet, weld them.',
    repairs: ['weld'],
  },
  'non-manifold': {
    say: (n) => `${count(n, 'edge')} where three or more faces meet`,
    why: 'Picking goes on along the flattest pair.',
    repairs: [],
  },
  'zero-normal': {
    say: (n) => `${count(n, 'face')} with normals of no length`,
    why: 'They shade black in a game.',
    repairs: ['flat-normals'],
  },
  huge: { say: () => 'The model is very large', why: 'It may be in another unit than metres.', repairs: ['scale'] },
  tiny: { say: () => 'The model is very small', why: 'It may be in another unit than metres.', repairs: ['scale'] },
  half: {
    say: () => 'The model may be half of a mirrored body',
    why: 'Most of its open edges lie in one plane. Completed, both halves are welded there, and colors carried over.',
    repairs: ['complete'],
  },
  'z-up': {
    say: () => 'The model seems to lie on its back',
    why: 'It stands along Z: its file likely counts Z as up.',
    repairs: ['turn-up'],
  },
};

/** What a unit of the file may be, by its length in metres. */
const units = [
  { value: '1000', word: 'kilometres' },
  { value: '1', word: 'metres' },
  { value: '0.3048', word: 'feet' },
  { value: '0.0254', word: 'inches' },
  { value: '0.01', word: 'centimetres' },
  { value: '0.001', word: 'millimetres' },
];

/** What came in, what is wrong with it, and one click for each repair. */
export function ImportReport({ id, report, canReadAgain }: { id: string; report: ModelReport; canReadAgain: boolean }) {
  const name = useEditor((s) => s.state.kit.models.find((m) => m.id === id)?.name ?? report.name);
  const [busy, setBusy] = useState<string | null>(null);
  const repair = async (r: Repair, factor = report.proposedScale) => {
    setBusy(r);
    await repairModel(id, r, r === 'scale' ? { factor } : {});
    setBusy(null);
  };
  const facts: [string, string][] = [
    [number(report.faces), report.faces === 1 ? 'face' : 'faces'],
    [number(report.triangles), 'triangles'],
    [number(report.vertices), 'vertices'],
    [number(report.parts), report.parts === 1 ? 'part' : 'parts'],
    [number(report.materials), report.materials === 1 ? 'material' : 'materials'],
    [report.uvSets ? number(report.uvSets) : 'no', report.uvSets === 1 ? 'UV set' : 'UV sets'],
    [report.vertexColors ? 'with' : 'no', 'vertex colors'],
    [report.size.map((s) => metres(s).replace(' m', '')).join(' × '), 'metres'],
  ];
  return (
    <article aria-label={`Report of ${name}`} className="mx-auto mb-6 max-w-[760px] border border-ink bg-white">
      <header className="flex items-center gap-3 border-b border-hairline px-5 py-3">
        <h2 className="truncate text-phrase font-bold">{name}</h2>
        <span className="truncate text-quiet">{report.name}</span>
        <button
          type="button"
          aria-label="Put the report away"
          onClick={() => putAwayReport(id)}
          className="ml-auto flex h-8 w-8 items-center justify-center hover:bg-wash"
        >
          <X size={16} aria-hidden />
        </button>
      </header>
      <dl className="grid grid-cols-4 gap-px border-b border-hairline bg-hairline">
        {facts.map(([value, unit]) => (
          <div key={unit} className="bg-white px-5 py-2.5">
            <dd className="text-[15px] font-bold">{value}</dd>
            <dt className="text-[12px] text-quiet">{unit}</dt>
          </div>
        ))}
      </dl>
      <p className="flex flex-wrap items-center gap-2 border-b border-hairline px-5 py-2">
        Its numbers are in
        <Select label="Its numbers are in" value="1" options={units} onChange={(factor) => void repair('scale', Number(factor))} isQuiet />
        <Button kind="bare" className="ml-auto" disabled={busy !== null} onClick={() => void repair('turn-up')}>
          Its Z points up: turn it upright
        </Button>
      </p>
      {(report.mended > 0 || (report.allTriangles && canReadAgain)) && (
        <p className="flex items-center gap-3 border-b border-hairline px-5 py-2.5">
          <span>
            {report.mended > 0
              ? `${count(report.mended, 'quad')} mended from triangles; a GLB gives the file’s own triangles back, an OBJ keeps the quads.`
              : 'The file holds only triangles.'}
          </span>
          {canReadAgain && (
            <Button kind="bare" className="ml-auto" onClick={() => void readWithQuads(id, report.mended === 0)}>
              {report.mended > 0 ? 'Keep the triangles' : 'Mend quads'}
            </Button>
          )}
        </p>
      )}
      {report.notes.map((note) => (
        <p key={note} className="border-b border-hairline px-5 py-2.5">
          {note}
        </p>
      ))}
      <section aria-label="What is wrong" className="px-5 py-4">
        <h3 className="mb-2 font-bold">{report.problems.length ? 'What is wrong' : 'Nothing is wrong with this mesh'}</h3>
        <ul>
          {report.problems.map((p) => (
            <ProblemRow key={p.kind} problem={p} id={id} scale={report.proposedScale} busy={busy} onRepair={repair} />
          ))}
        </ul>
      </section>
      <ColorOffers id={id} pictureBytes={report.cost.textureBytes} />
      <footer className="flex items-center gap-4 border-t border-hairline px-5 py-3">
        <p className="text-[12px] text-quiet">
          As it came: {count(report.cost.materials, 'material')}, {count(report.cost.drawCalls, 'draw call')},{' '}
          {bytes(report.cost.textureBytes)} of pictures, {count(report.cost.gpuVertices, 'GPU vertex', 'GPU vertices')}
        </p>
        <ColorButton id={id} />
      </footer>
    </article>
  );
}

function ColorButton({ id }: { id: string }) {
  const go = useGo();
  const kitId = useEditor((s) => s.state.kit.id);
  return (
    <Button
      kind="solid"
      className="ml-auto"
      onClick={() => {
        showModel(id);
        void go(`/kit/${kitId}/color`);
      }}
    >
      Color it
    </Button>
  );
}

function ProblemRow({
  problem,
  id,
  scale,
  busy,
  onRepair,
}: {
  problem: Problem;
  id: string;
  scale: number;
  busy: string | null;
  onRepair: (r: Repair) => void;
}) {
  const { say, why, repairs } = words[problem.kind];
  const go = useGo();
  const kitId = useEditor((s) => s.state.kit.id);
  const show = () => {
    showModel(id);
    usePick.setState({ shown: problem.faces });
    void go(`/kit/${kitId}/color`);
    frame(problem.faces);
  };
  return (
    <li className="flex min-h-11 items-center gap-3 border-t border-hairline py-1.5 first:border-0">
      <div className="min-w-0">
        <p className="font-medium">{say(problem.count)}</p>
        <p className="text-[12px] text-quiet">{why}</p>
      </div>
      <div className="ml-auto flex shrink-0 gap-2">
        {problem.faces.length > 0 && (
          <Button kind="bare" onClick={show}>
            Show me
          </Button>
        )}
        {repairs
          .filter((r) => r !== 'scale' || scale !== 1)
          .map((r) => (
            <Button key={r} disabled={busy !== null} onClick={() => onRepair(r)}>
              {busy === r ? 'Working…' : r === 'scale' ? `Scale by ${scale}` : repairWords[r].button}
            </Button>
          ))}
      </div>
    </li>
  );
}
