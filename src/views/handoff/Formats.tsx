import { useState, type ReactNode } from 'react';
import { archiveExtension } from '@/core/kit/contents';
import type { Sheet } from '@/core/kit/kit';
import { paletteFormats, writtenFormats, type PaletteKind } from '@/core/ground/palettes/paletteFile';
import { leftOutOfPalette } from '@/core/sheet/palette/sheetPalette';
import { currentOf, useEditor } from '@/state/kit/editor';
import {
  cancelWriting,
  downloadArchive,
  downloadGlb,
  downloadLoose,
  downloadObj,
  downloadSheet,
  useWriting,
  type What,
} from '@/state/files/exporting';
import { useHandOff } from '@/state/chosen/handOff';
import { notifyError } from '@/state/told/notices';
import { downloadPalette } from '@/state/files/palettes';
import { setSlotsFrom } from '@/state/color/slots';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { heededBy } from '@/core/kit/leaveOptions';
import { LeaveFields } from './LeaveFields';
import { Losses } from './Losses';
import { OwnUvs } from './OwnUvs';
import { SlotTable } from './SlotTable';
import type { Accounts } from './useAccounts';
import { Select } from '@/ui/Select';

const run = (work: () => Promise<void>) => () => void work().catch(notifyError);

/** What is asked at GLB: how meshes are joined is chosen beside the figures, and all variants leave inside. */
const inGlb = heededBy('glb').filter((key) => key !== 'meshes' && key !== 'variants');

/** Everything in which a kit leaves. */
export function Formats({ what, losses }: { what: What; losses: Accounts }) {
  const { sheets, slotsFrom = 0 } = useEditor((s) => s.state.kit);
  const options = useHandOff();
  const { as } = options;
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const current = currentOf({ state, modelId, meshes });
  return (
    <ul className="border-t border-ink">
      <Format
        name="GLB"
        does={
          {
            texture:
              'One material for the sheet, its PNG inside, sampled to the nearest texel; see-through colors have a second one. Opens in game engines and viewers.',
            slots: 'One flat material for each color, no texture. Opens in game engines and viewers.',
            colors: 'One material, no texture: each vertex has its color, and the engine must multiply by it.',
          }[as]
        }
        run={run(() => downloadGlb(what))}
        ending=".glb"
      >
        <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          <LeaveFields options={options} heeds={inGlb} onChange={(to) => useHandOff.setState(to)} />
          {as === 'slots' && (
            <>
              <span className="flex items-center gap-2">
                Numbers begin at
                <Choice
                  label="Numbers begin at"
                  value={slotsFrom === 1 ? '1' : '0'}
                  options={[
                    ['0', '0'],
                    ['1', '1'],
                  ]}
                  onChange={(to) => setSlotsFrom(to === '1' ? 1 : 0)}
                  className="border border-ink"
                />
              </span>
            </>
          )}
        </div>
        {as === 'slots' && <SlotTable />}
      </Format>
      <Format
        name="OBJ"
        does={`OBJ with MTL${as === 'texture' ? ' and PNG' : ''} in one zip. Faces keep all their corners.`}
        run={run(() => downloadObj(what))}
        ending="-obj.zip"
      >
        <div className="mt-2">
          <LeaveFields options={options} heeds={['faces', 'up']} onChange={(to) => useHandOff.setState(to)} />
        </div>
        <Losses title="What does not leave in the OBJ" losses={losses.asObj} />
      </Format>
      <Format
        name="PLY"
        does="Faces with the color of each vertex, sRGB; no materials, no texture."
        run={run(() => downloadLoose(what, 'ply'))}
        ending=".ply"
      />
      <Format
        name="STL"
        does="Triangles alone, for printing and measuring. It has no color."
        run={run(() => downloadLoose(what, 'stl'))}
        ending=".stl"
      />
      {sheets.map((s) => (
        <Format
          key={s.id}
          name="Sheet"
          does={`“${s.name}”, ${s.width} × ${s.height} texels, as a PNG.`}
          run={run(() => downloadSheet(s.id))}
        />
      ))}
      {what === 'model' && current && (
        <OwnUvs key={current.model.id} model={current.model} hasUvs={(current.loaded?.mesh.uvSets.length ?? 0) > 0} />
      )}
      <PaletteFormat sheets={sheets} />
      <Format
        name="Kit archive"
        does="The whole kit in one zip, to keep or to open in another browser: a JSON document, the files and pictures as they came, and meshes and seats in arrays of our own."
        run={run(downloadArchive)}
        ending={archiveExtension}
      />
    </ul>
  );
}

interface FormatProps {
  name: string;
  does: string;
  run: () => void;
  /** How the file's name ends, where writing it may take long. */
  ending?: string;
  children?: ReactNode;
}

function Format({ name, does, run: onClick, ending, children }: FormatProps) {
  const isWriting = useWriting((w) => ending !== undefined && w.name.endsWith(ending));
  return (
    <li className="flex items-start gap-4 border-b border-hairline py-4">
      <div className="min-w-0 flex-1">
        <h2 className="text-phrase font-bold">{name}</h2>
        <p className="text-[#444]">{does}</p>
        {children}
      </div>
      {isWriting ? (
        <span className="flex shrink-0 items-center gap-3">
          <span role="status">Writing…</span>
          <Button aria-label={`Cancel writing ${name}`} onClick={cancelWriting}>
            Cancel
          </Button>
        </span>
      ) : (
        <Button kind="solid" aria-label={`Download ${name}`} onClick={onClick}>
          Download
        </Button>
      )}
    </li>
  );
}

/** The sheet's colors as a palette file for other programs. */
function PaletteFormat({ sheets }: { sheets: readonly Sheet[] }) {
  const [kind, setKind] = useState<PaletteKind>('gpl');
  const [chosen, setChosen] = useState('');
  const sheet = sheets.find((s) => s.id === chosen) ?? sheets[0]!;
  const left = leftOutOfPalette(paletteFormats[kind], sheet);
  return (
    <Format
      name="Palette"
      does="The colors alone, in the order of the tray, for other programs."
      run={run(() => downloadPalette(sheet.id, kind))}
    >
      {sheets.length > 1 && (
        <Select
          label="Sheet of the palette file"
          value={sheet.id}
          options={sheets.map((s) => ({ value: s.id, word: s.name }))}
          onChange={setChosen}
          className="mt-2 mr-2"
        />
      )}
      <Select
        label="Kind of palette file"
        value={kind}
        options={writtenFormats.map(([value, { words }]) => ({ value, word: words }))}
        onChange={setKind}
        className="mt-2"
      />
      {left.length > 0 && <p className="mt-2 text-[12px]">Not in it: {left.join(' ')}</p>}
    </Format>
  );
}
