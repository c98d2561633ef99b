'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { prepareMeshes, showModel, useEditor } from '@/state/editor';
import { duplicateModel, importFiles, removeModel, reportOn, useImport } from '@/state/importing';
import { useThumbnails } from '@/state/thumbnails';
import { Button } from '@/ui/Button';
import { FileChooser, modelFiles } from '@/ui/FileChooser';
import { readFileAgain } from '@/state/carrying';
import { count } from '@/ui/words';
import { ImportReport } from './ImportReport';
import { Tick } from '@/ui/Tick';

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
        {present.length === 0 ? (
          <NoReport hasModels={models.length > 0} onChoose={() => chooser.current?.click()} />
        ) : (
          present.map((r) => <ImportReport key={r.model} id={r.model} report={r.report} canReadAgain={r.files.length > 0} />)
        )}
      </section>
    </div>
  );
}

function ModelRow({ id, name, faces, from }: { id: string; name: string; faces: number; from: string }) {
  const picture = useThumbnails((s) => s.pictures[id]);
  const kitId = useEditor((s) => s.state.kit.id);
  const router = useRouter();
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
              router.push(`/kit/${kitId}/color`);
            }}
          />
          <RowAction word="Check" name={name} run={() => void reportOn(id)} />
          <FileChooser
            label={`The file of ${name} as it is now`}
            accept={modelFiles}
            multiple
            onFiles={(files) => {
              router.push(`/kit/${kitId}/color`);
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
