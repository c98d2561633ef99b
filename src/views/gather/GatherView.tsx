'use client';
import { ShownColoring } from '@/views/variants/ShownColoring';
import { useEffect, useRef } from 'react';
import { prepareMeshes } from '@/state/kit/meshes';
import { showModel, useEditor } from '@/state/kit/editor';
import { duplicateModel, importFiles, removeModel, reportOn, useImport } from '@/state/files/importing';
import { useThumbnails } from '@/state/shown/thumbnails';
import { Button } from '@/ui/Button';
import { FileChooser, modelFiles } from '@/ui/FileChooser';
import { readFileAgain } from '@/state/files/carrying';
import { count } from '@/ui/words';
import { ImportReport } from './ImportReport';
import { Tick } from '@/ui/Tick';
import { useGo } from '@/views/shell/ViewLink';

/** Bring models in, see what is wrong with them, and take over the colors they came with. */
export function GatherView() {
  const models = useEditor((s) => s.state.kit.models);
  const reports = useImport((s) => s.reports);
  const mend = useImport((s) => s.mend);
  const chooser = useRef<HTMLInputElement>(null);
  useEffect(() => void prepareMeshes(), []);
  const present = reports.filter((r) => models.some((m) => m.id === r.model));
  return (
    <div className="flex min-h-0 flex-1">
      <section aria-label="Models" className="flex w-[420px] shrink-0 flex-col border-r border-hairline">
        <div className="flex items-center gap-3 border-b border-hairline px-5 py-3">
          <h1 className="text-phrase font-bold">Gather</h1>
          <span className="text-quiet">{count(models.length, 'model')}</span>
          <Button kind="solid" className="ml-auto" onClick={() => chooser.current?.click()}>
            Bring in files
          </Button>
          <input
            ref={chooser}
            type="file"
            multiple
            hidden
            aria-label="Bring in model files"
            accept={modelFiles}
            onChange={(e) => {
              const files = [...(e.target.files ?? [])];
              e.target.value = '';
              if (files.length) void importFiles(files);
            }}
          />
        </div>
        <ShownColoring className="border-b border-hairline px-5 py-1.5">Models are shown in the default coloring.</ShownColoring>
        <ul className="min-h-0 flex-1 overflow-y-auto">
          {models.map((m) => (
            <ModelRow
              key={m.id}
              id={m.id}
              name={m.name}
              faces={m.faces}
              from={m.source.format === 'made' ? 'made for this kit' : m.source.name}
            />
          ))}
          {models.length === 0 && (
            <li className="px-5 py-6 text-quiet">
              No model yet. Drop .obj, .glb, .gltf, .ply or .stl files anywhere in this window, together with their materials and pictures.
            </li>
          )}
        </ul>
        <Tick
          label="Mend quads: join triangles that were cut from a flat quad"
          value={mend}
          onChange={(is) => useImport.setState({ mend: is })}
          className="border-t border-hairline px-5 py-3"
        />
      </section>
      <section aria-label="Reports" className="min-w-0 flex-1 overflow-y-auto p-6">
        <Unread />
        {present.length === 0 ? (
          <NoReport hasModels={models.length > 0} onChoose={() => chooser.current?.click()} />
        ) : (
          present.map((r) => <ImportReport key={r.model} id={r.model} report={r.report} canReadAgain={r.files.length > 0} />)
        )}
      </section>
    </div>
  );
}

/** Every file of the last reading that could not be taken in, with the reason. */
function Unread() {
  const errors = useImport((s) => s.errors);
  if (!errors.length) return null;
  return (
    <div role="alert" className="mb-5 border-2 border-ink bg-paper p-4">
      <div className="flex items-start gap-4">
        <div className="min-w-0 flex-1">
          <p className="font-bold">{errors.length === 1 ? 'A file could not be read' : `${errors.length} files could not be read`}</p>
          <ul className="mt-1 space-y-1">
            {errors.map((e, i) => (
              <li key={i} className="break-words">
                {e.message}
              </li>
            ))}
          </ul>
          <p className="mt-2 text-quiet">What cannot be read leaves nothing behind in the kit.</p>
        </div>
        <Button onClick={() => useImport.setState({ errors: [] })}>Close</Button>
      </div>
    </div>
  );
}

function ModelRow({ id, name, faces, from }: { id: string; name: string; faces: number; from: string }) {
  const picture = useThumbnails((s) => s.pictures[id]);
  const kitId = useEditor((s) => s.state.kit.id);
  const go = useGo();
  return (
    <li className="flex items-center gap-3 border-b border-hairline px-5 py-2">
      <span className="flex h-12 w-12 shrink-0 items-center justify-center bg-surround">
        {/* eslint-disable-next-line @next/next/no-img-element */}
        {picture && <img src={picture} width={48} height={48} alt="" />}
      </span>
      <div className="min-w-0 flex-1">
        <p className="truncate font-medium">{name}</p>
        <p className="truncate text-[12px] text-quiet">
          {count(faces, 'face')}, {from}
        </p>
        <p className="mt-0.5 flex gap-3 text-[12px]">
          <RowAction
            word="Color"
            name={name}
            run={() => {
              showModel(id);
              void go(`/kit/${kitId}/color`);
            }}
          />
          <RowAction word="Check" name={name} run={() => void reportOn(id)} />
          <FileChooser
            label={`The file of ${name} as it is now`}
            accept={modelFiles}
            multiple
            onFiles={(files) => {
              void go(`/kit/${kitId}/color`);
              void readFileAgain(id, files);
            }}
            className="border-b border-[#999] hover:border-ink"
          >
            Read again
          </FileChooser>
          <RowAction word="Duplicate" name={name} run={() => duplicateModel(id)} />
          <RowAction word="Remove" name={name} run={() => removeModel(id)} />
        </p>
      </div>
    </li>
  );
}

function RowAction({ word, name, run }: { word: string; name: string; run: () => void }) {
  return (
    <button type="button" aria-label={`${word} ${name}`} onClick={run} className="border-b border-[#999] hover:border-ink">
      {word}
    </button>
  );
}

function NoReport({ hasModels, onChoose }: { hasModels: boolean; onChoose: () => void }) {
  return (
    <div className="relative mx-auto mt-6 flex h-[360px] max-w-[560px] flex-col items-center justify-center border border-dashed border-[#8a8a8a] text-center">
      <p className="text-phrase font-bold">{hasModels ? 'Bring in more, or check a model' : 'Bring in a first model'}</p>
      <p className="mt-2 max-w-[380px] text-quiet">
        {hasModels
          ? 'Choose “Check” beside a model to see what is wrong with its mesh.'
          : 'Drop files anywhere in this window. What came with the model (materials, pictures, buffers) is dropped together with it.'}
      </p>
      <Button className="mt-5" onClick={onChoose}>
        Choose files
      </Button>
    </div>
  );
}
