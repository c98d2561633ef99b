import { useEffect, useState } from 'react';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { Select } from '@/ui/Select';
import { NumberField } from '@/ui/NumberField';
import { Tick } from '@/ui/Tick';
import type { IconOptions } from '@/core/kit/kit';
import { useEditor } from '@/state/kit/editor';
import { iconNow, keepIconPicture } from '@/state/files/plans';
import { notifyError } from '@/state/told/notices';
import { PlanField } from './PlanField';

const views: readonly { value: IconOptions['from']; word: string }[] = [
  { value: 'corner', word: 'from the corner' },
  { value: 'front', word: 'from the front' },
  { value: 'right', word: 'from the right' },
  { value: 'back', word: 'from the back' },
  { value: 'left', word: 'from the left' },
  { value: 'top', word: 'from above' },
];

/** A model drawn as the icon, or a picture of the artist's own. */
export function IconFields({ icon, onChange }: { icon: IconOptions; onChange: (to: IconOptions) => void }) {
  const models = useEditor((s) => s.state.kit.models);
  const without = (key: keyof IconOptions): IconOptions => {
    const rest = { ...icon };
    delete rest[key];
    return rest;
  };
  return (
    <div className="mt-2 flex gap-4">
      <Preview icon={icon} />
      <div className="flex min-w-0 flex-1 flex-wrap content-center items-center gap-x-4 gap-y-2">
        <PlanField label="Path" value={icon.path} onChange={(path) => onChange({ ...icon, path })} />
        {!icon.picture && (
          <>
            <NumberField
              label="Pixels"
              value={icon.size}
              least={16}
              most={2048}
              onChange={(size) => onChange({ ...icon, size: Math.round(size) })}
            />
            <Select
              label="Model of the icon"
              value={icon.model ?? models[0]?.id ?? ''}
              options={models.map((m) => ({ value: m.id, word: m.name }))}
              onChange={(model) => onChange({ ...icon, model })}
              isQuiet
              className="max-w-[160px]"
            />
            <Select label="Icon is seen" value={icon.from} options={views} onChange={(from) => onChange({ ...icon, from })} isQuiet />
            <Tick
              label="on a ground"
              value={icon.ground !== undefined}
              onChange={(is) => onChange(is ? { ...icon, ground: '#ffffff' } : without('ground'))}
            />
            {icon.ground && (
              <input
                type="color"
                aria-label="Color of the ground"
                value={icon.ground}
                onChange={(e) => onChange({ ...icon, ground: e.target.value })}
                className="h-7 w-9 border border-ink bg-white"
              />
            )}
          </>
        )}
        {icon.picture ? (
          <button type="button" className="border-b border-ink hover:bg-wash" onClick={() => onChange(without('picture'))}>
            a picture of yours; draw a model instead
          </button>
        ) : (
          <FileChooser
            label="Picture as the icon"
            accept={pictureFiles}
            onFiles={([file]) => void keepIconPicture(file!).then((picture) => onChange({ ...icon, picture }), notifyError)}
            className="border-b border-ink hover:bg-wash"
          >
            a picture of yours instead…
          </FileChooser>
        )}
      </div>
    </div>
  );
}

/** Milliseconds without a further change after which the icon is drawn anew. */
const rest = 200;

/** The icon as it would leave. */
function Preview({ icon }: { icon: IconOptions }) {
  const state = useEditor((s) => s.state);
  const isReady = useEditor((s) => s.preparing === 0);
  const [url, setUrl] = useState('');
  const options = JSON.stringify(icon);
  useEffect(() => {
    if (!isReady) return;
    let isLatest = true;
    const draw = async () => {
      const bytes = await iconNow(JSON.parse(options) as IconOptions);
      if (isLatest && bytes) setUrl(URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>])));
    };
    const timer = setTimeout(() => void draw().catch(notifyError), rest);
    return () => {
      isLatest = false;
      clearTimeout(timer);
    };
  }, [state, isReady, options]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  // See-through is shown as the wash of the page.
  return url ? (
    // eslint-disable-next-line @next/next/no-img-element
    <img src={url} alt="The icon" className="h-24 w-24 shrink-0 border border-ink bg-wash object-contain" />
  ) : (
    <span className="h-24 w-24 shrink-0 border border-hairline" />
  );
}
