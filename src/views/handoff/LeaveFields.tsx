import type { LeaveOptions } from '@/core/kit/leaveOptions';
import { useEditor } from '@/state/kit/editor';
import { Choice } from '@/ui/Choice';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Tick } from '@/ui/Tick';

const units = [
  ['0.001', 'kilometres'],
  ['0.01', 'hundreds of metres'],
  ['1', 'metres'],
  ['39.3701', 'inches'],
  ['100', 'centimetres'],
  ['1000', 'millimetres'],
] as const;

/** How models leave: those of the options that a format heeds. */
export function LeaveFields({
  options,
  heeds,
  onChange,
}: {
  options: LeaveOptions;
  heeds: readonly (keyof LeaveOptions)[];
  onChange: (to: Partial<LeaveOptions>) => void;
}) {
  const hasVariants = useEditor((s) => s.state.kit.variants.length > 0);
  const has = (key: keyof LeaveOptions) => heeds.includes(key);
  const { as, meshes, unlit, finish, numbered, packed, variants, vertexColors, normals, smoothAngle, faces, up, scale, origin } = options;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
      {has('as') && (
        <Choice
          label="Colors leave"
          value={as}
          options={[
            ['texture', 'On one texture'],
            ['slots', 'As flat materials'],
            ['colors', 'In the vertices'],
          ]}
          onChange={(to) => onChange({ as: to })}
          className="border border-ink"
        />
      )}
      {has('vertexColors') && as === 'colors' && (
        <span className="flex items-center gap-2">
          as
          <Choice
            label="Numbers of vertex colors"
            value={vertexColors}
            options={[
              ['linear', 'linear light'],
              ['srgb', 'sRGB'],
            ]}
            onChange={(to) => onChange({ vertexColors: to })}
            className="border border-ink"
          />
        </span>
      )}
      {has('meshes') && (
        <Select
          label="Meshes"
          value={meshes}
          options={[
            { value: 'joined', word: 'Fewest draw calls' },
            { value: 'shared', word: 'Shared meshes kept' },
          ]}
          onChange={(to) => onChange({ meshes: to })}
          isQuiet
        />
      )}
      {has('faces') && (
        <Select
          label="Faces"
          value={faces}
          options={[
            { value: 'whole', word: 'Faces whole' },
            { value: 'triangles', word: 'Triangles' },
          ]}
          onChange={(to) => onChange({ faces: to })}
          isQuiet
        />
      )}
      {has('normals') && (
        <Select
          label="Shading"
          value={normals}
          options={[
            { value: 'came', word: 'Shaded as it came' },
            { value: 'flat', word: 'Each face flat' },
            { value: 'smooth', word: 'Smooth' },
          ]}
          onChange={(to) => onChange({ normals: to })}
          isQuiet
        />
      )}
      {has('smoothAngle') && normals === 'smooth' && (
        <NumberField label="below °" value={smoothAngle} least={0} most={180} onChange={(to) => onChange({ smoothAngle: to })} />
      )}
      {has('origin') && (
        <Select
          label="Origin"
          value={origin}
          options={[
            { value: 'came', word: 'Origin as it came' },
            { value: 'middle', word: 'Origin in the middle' },
            { value: 'ground', word: 'Origin on the ground' },
          ]}
          onChange={(to) => onChange({ origin: to })}
          isQuiet
        />
      )}
      {has('scale') && (
        <Select
          label="Unit"
          value={String(scale)}
          options={units.map(([value, word]) => ({ value, word: `In ${word}` }))}
          placeholder={`${scale} to a metre`}
          onChange={(to) => onChange({ scale: Number(to) })}
          isQuiet
        />
      )}
      {has('up') && (
        <Select
          label="Axis that points up"
          value={up}
          options={[
            { value: 'y', word: 'Y up' },
            { value: 'z', word: 'Z up' },
          ]}
          onChange={(to) => onChange({ up: to })}
          isQuiet
        />
      )}
      {has('unlit') && <Tick label="Unlit" value={unlit} onChange={(is) => onChange({ unlit: is })} />}
      {has('finish') && !unlit && as !== 'colors' && (
        <Tick label="With the finish of colors" value={finish} onChange={(is) => onChange({ finish: is })} />
      )}
      {has('numbered') && as === 'slots' && (
        <Tick label="Numbers in names: 2-rust" value={numbered} onChange={(is) => onChange({ numbered: is })} />
      )}
      {has('variants') && hasVariants && as !== 'colors' && (
        <Tick label="All variants inside" value={variants === 'inside'} onChange={(is) => onChange({ variants: is ? 'inside' : 'none' })} />
      )}
      {has('packed') && <Tick label="Meshes packed" value={packed} onChange={(is) => onChange({ packed: is })} />}
    </div>
  );
}
