'use client';
import { DropdownMenu, Popover } from 'radix-ui';
import { useEffect, useMemo, type ReactNode } from 'react';
import type { Scope } from '@/core/pick/scopes';
import { swatchOf } from '@/core/sheet/cells';
import { useColoring } from '@/state/coloringState';
import { currentOf, useEditor } from '@/state/editor';
import { scopeWords, usePhrase, usesAngle, type Drag, type PhraseState } from '@/state/phrase';
import { symmetryInView, useSymmetries } from '@/state/symmetries';
import { useHelp } from '@/state/help';

const actWords: Record<PhraseState['act'], string> = { pick: 'Pick', add: 'Add', take: 'Take away', color: 'Color' };
const order: Scope[] = [
  'face',
  'flat',
  'smooth',
  'part',
  'object',
  'ring',
  'fan',
  'patch',
  'color',
  'touching color',
  'slot',
  'region',
  'facing',
  'like',
];
const scopeHints: Record<Scope, string> = {
  face: 'just the one under the pointer',
  flat: 'touching faces that face about the same way',
  smooth: 'touching faces up to the next crease',
  part: 'everything that hangs together with it',
  object: 'the named object of the file',
  color: 'all faces on the same cell',
  'touching color': 'as far as the color goes',
  ring: 'a run of quads through the nearest edge',
  fan: 'all faces at the nearest corner',
  patch: 'up to the seams of its UVs',
  slot: 'all faces of the material it came with',
  region: 'all faces of its region',
  facing: 'anywhere on the model',
  like: 'this face on every part of the same shape',
};
export const scopeKeys: Partial<Record<Scope, string>> = { face: 'F', flat: 'A', smooth: 'S', part: 'W', color: 'C', ring: 'Shift S' };

/** One sentence that says what a click will do; each underlined word is a choice. */
export function Phrase() {
  const { act, scope, flat, smooth, facing } = usePhrase();
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const cellId = useColoring((s) => s.cell);
  const current = useMemo(() => currentOf({ state, modelId, meshes }), [state, modelId, meshes]);
  const proposed = current?.loaded?.angles;
  const cell = current?.sheet.cells.find((c) => c.id === cellId && c.fill.kind !== 'spare');
  const proposal = scope === 'flat' || scope === 'smooth' ? proposed?.[scope] : undefined;
  const angle = usesAngle(scope) ? ({ flat, smooth, facing }[scope] ?? proposal ?? 20) : 0;
  return (
    <div className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5">
      <p aria-label="What a click does" className="flex min-w-0 items-baseline gap-x-1.5 text-phrase whitespace-nowrap">
        <Word label="What to do" value={actWords[act]}>
          <Radio
            value={act}
            options={(['pick', 'add', 'take', 'color'] as const).map((a) => [a, actWords[a], actHints[a]])}
            onChange={(a) => usePhrase.setState({ act: a })}
          />
        </Word>
        <Word label="How much" value={scopeWords[scope]}>
          <Radio
            value={scope}
            options={order.map((s) => [s, scopeWords[s], scopeHints[s], scopeKeys[s]])}
            onChange={(s) => usePhrase.setState({ scope: s })}
          />
        </Word>
        {usesAngle(scope) && (
          <>
            <span>{scope === 'smooth' ? 'up to creases of' : 'within'}</span>
            <AngleWord scope={scope} angle={angle} proposed={proposal} />
          </>
        )}
        {act === 'take' && <span>from the pick</span>}
        {act === 'add' && <span>to the pick</span>}
        {act === 'color' && (
          <>
            <span>with</span>
            <Word
              label="Which color"
              value={
                <>
                  <span
                    aria-hidden
                    className="mr-1.5 inline-block h-3.5 w-3.5"
                    style={cell ? { background: swatchOf(cell) } : { border: '1px dashed #777' }}
                  />
                  {cell ? cell.role || 'a color without a role' : 'a color of the tray'}
                </>
              }
            >
              {current?.sheet.cells
                .filter((c) => c.fill.kind !== 'spare')
                .map((c) => (
                  <DropdownMenu.Item key={c.id} onSelect={() => useColoring.setState({ cell: c.id })} className={itemLook}>
                    <span aria-hidden className="h-4 w-4" style={{ background: swatchOf(c) }} />
                    {c.role || 'without a role'}
                  </DropdownMenu.Item>
                ))}
            </Word>
            <span>as I click</span>
          </>
        )}
        <DragWords />
      </p>
      <button
        type="button"
        aria-label="Shortcuts"
        title="Shortcuts"
        onClick={() => useHelp.setState({ isOpen: true })}
        className="ml-auto h-5 w-5 border border-[#777] bg-white text-[12px] font-medium hover:bg-wash"
      >
        ?
      </button>
    </div>
  );
}

const actHints = {
  pick: 'a new pick',
  add: 'also with Shift held',
  take: 'also with Alt or Ctrl held',
  color: 'faces take the color at once',
};
const itemLook = 'flex min-h-8 items-center gap-2.5 px-3 text-panel outline-none data-[highlighted]:bg-ink data-[highlighted]:text-paper';

const dragWords: Record<Drag, string> = { turn: 'turns the view', box: 'takes a box', lasso: 'takes a lasso', brush: 'brushes' };

/** What goes along on the other half, and what a drag does. */
function DragWords() {
  const { mirror, drag, side, reach, brush, brushAngle } = usePhrase();
  const meshId = useEditor((s) => currentOf(s)?.loaded?.id);
  const plane = useSymmetries((s) => (meshId ? s[meshId] : undefined));
  const set = (change: Partial<PhraseState>) => usePhrase.setState(change);
  useEffect(() => {
    if (mirror === 'across') void symmetryInView();
  }, [mirror, meshId]);
  const where = plane ? `across ${plane.axis}` : 'across';
  return (
    <>
      <span className="-ml-1.5">, mirrored</span>
      <Word label="Mirrored" value={mirror === 'nowhere' ? 'nowhere' : where}>
        <Radio
          value={mirror}
          options={[
            ['nowhere', 'nowhere', 'only what is taken'],
            [
              'across',
              where,
              plane ? `${plane.matched} of ${plane.matched + plane.unmatched} faces have a twin` : 'its plane is found by itself',
              'M',
            ],
          ]}
          onChange={(m) => set({ mirror: m })}
        />
      </Word>
      <span className="-ml-1.5">; a drag</span>
      <Word label="A drag" value={dragWords[drag]}>
        <Radio
          value={drag}
          options={[
            ['turn', 'turns the view', 'the right button moves it'],
            ['box', 'takes a box', 'the middle button turns the view', 'Y'],
            ['lasso', 'takes a lasso', 'free hand'],
            ['brush', 'brushes', 'stops at sharp edges'],
          ]}
          onChange={(d) => set({ drag: d })}
        />
      </Word>
      {(drag === 'box' || drag === 'lasso') && (
        <>
          <span>on</span>
          <Word label="Which side" value={side === 'near' ? 'the near side' : 'both sides'}>
            <Radio
              value={side}
              options={[
                ['near', 'the near side', 'only faces that are truly seen'],
                ['through', 'both sides', 'through the model'],
              ]}
              onChange={(s) => set({ side: s })}
            />
          </Word>
          <Word label="How far" value={reach === 'touched' ? 'touched' : 'wholly inside'}>
            <Radio
              value={reach}
              options={[
                ['touched', 'touched', 'as soon as a bit is inside'],
                ['inside', 'wholly inside', 'with all corners'],
              ]}
              onChange={(r) => set({ reach: r })}
            />
          </Word>
        </>
      )}
      {drag === 'brush' && (
        <>
          <span>of</span>
          <NumberWord
            label="Brush"
            value={brush}
            unit=" px"
            least={4}
            most={160}
            onChange={(v) => set({ brush: v })}
            says="Radius of the brush"
          />
          <span>up to</span>
          <NumberWord
            label="Brush stops"
            value={brushAngle}
            unit="°"
            least={2}
            most={180}
            onChange={(v) => set({ brushAngle: v })}
            says="It stops at edges of"
          />
        </>
      )}
      <span className="-ml-1.5">.</span>
    </>
  );
}

function NumberWord({
  label,
  value,
  unit,
  least,
  most,
  says,
  onChange,
}: {
  label: string;
  value: number;
  unit: string;
  least: number;
  most: number;
  says: string;
  onChange: (value: number) => void;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label}: ${value}${unit}`}
        className="border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper"
      >
        {value}
        {unit}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="z-50 w-64 border border-ink bg-white p-4 text-panel">
          <label className="block font-medium">
            {says} {value}
            {unit}
            <input
              type="range"
              min={least}
              max={most}
              value={value}
              onChange={(e) => onChange(Number(e.target.value))}
              className="slider-plain mt-2"
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Word({ label, value, children }: { label: string; value: ReactNode; children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`${label}: ${typeof value === 'string' ? value : 'choose'}`}
        className="border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper"
      >
        {value}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          className="z-50 max-h-[70vh] min-w-56 overflow-y-auto border border-ink bg-white py-1"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Radio<T extends string>({
  value,
  options,
  onChange,
}: {
  value: T;
  options: readonly (readonly [T, string, string, string?])[];
  onChange: (value: T) => void;
}) {
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={(v) => onChange(v as T)}>
      {options.map(([key, word, hint, shortcut]) => (
        <DropdownMenu.RadioItem key={key} value={key} className={`${itemLook} group data-[state=checked]:font-bold`}>
          <span className="w-2.5">{key === value ? '·' : ''}</span>
          <span>{word}</span>
          <span className="ml-auto pl-6 text-small font-normal text-quiet group-data-[highlighted]:text-[#bbb]">{hint}</span>
          <span className="w-4 text-right text-small font-medium">{shortcut ?? ''}</span>
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}

function AngleWord({ scope, angle, proposed }: { scope: 'flat' | 'smooth' | 'facing'; angle: number; proposed: number | undefined }) {
  const set = (value: number | null) => usePhrase.setState({ [scope]: value });
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Angle: ${angle} degrees`}
        className="border-b-2 border-ink px-0.5 pb-px font-bold hover:bg-wash data-[state=open]:bg-ink data-[state=open]:text-paper"
      >
        {angle}°
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="z-50 w-64 border border-ink bg-white p-4 text-panel">
          <label className="block font-medium" htmlFor="angle">
            {scope === 'smooth' ? 'Edges may fold by' : 'Faces may turn away by'} {angle}°
          </label>
          <input
            id="angle"
            type="range"
            min={0}
            max={90}
            value={angle}
            onChange={(e) => set(Number(e.target.value))}
            className="slider-plain mt-2"
          />
          <button type="button" className="mt-2 border-b border-ink" onClick={() => set(null)}>
            Use {scope === 'facing' ? 'the usual one' : 'the one proposed for this model'}
            {proposed === undefined ? '' : `, ${proposed}°`}
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
