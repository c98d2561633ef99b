'use client';
import { useState } from 'react';
import type { Sheet } from '@/core/kit/kit';
import { planArtRoom, type ArtRoom, type ArtRoomOptions } from '@/core/sheet/artRoom';
import { wordsOf } from '@/core/ground/wordsOf';
import { closePanel } from '@/state/chosen/coloringState';
import { sheetInColorings } from '@/core/kit/colorings/shown';
import { useBase } from '@/state/kit/useCurrent';
import { makeArtRoom, openPicture, type Picture } from '@/state/sheet/artRoom';
import { notifyError } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { SheetPicture } from './SheetPicture';
import { SidePanel } from './SidePanel';
import { OfAllColorings } from '@/views/variants/OfAllColorings';

const sizes = [64, 128, 256, 512, 1024, 2048];

/** Makes one piece of art take most of the sheet; its colors keep a strip. */
export function ArtRoomPanel({ sheetId }: { sheetId: string }) {
  const { kit } = useBase();
  const sheet = kit.sheets.find((each) => each.id === sheetId)!;
  const shown = sheetInColorings(kit, sheet);
  const [picture, setPicture] = useState<Picture | null>(null);
  const [size, setSize] = useState({ width: 256, height: 256 });
  const [side, setSide] = useState<ArtRoomOptions['side']>('left');
  const [isBusy, setBusy] = useState(false);
  const options: ArtRoomOptions = { ...size, side, ...(picture && { art: picture.raster }) };
  const outcome = attempt(() => planArtRoom(shown, options));
  const choose = async (file: File) => {
    try {
      const opened = await openPicture(file);
      setPicture(opened);
      // The smallest sheet that holds it beside the colors, as high as it.
      const least = (texels: number) => sizes.find((s) => s >= texels) ?? sizes.at(-1)!;
      const height = least(opened.raster.height);
      const widths = sizes.filter((s) => s >= opened.raster.width);
      const fits = widths.find(
        (width) => typeof attempt(() => planArtRoom(shown, { width, height, side, art: opened.raster })) !== 'string',
      );
      setSize({ width: fits ?? least(opened.raster.width * 2), height });
    } catch (error) {
      notifyError(error);
    }
  };
  const make = () => {
    setBusy(true);
    makeArtRoom(sheet, options, picture)
      .catch(notifyError)
      .finally(() => setBusy(false));
  };
  return (
    <SidePanel title="Room for art" onClose={closePanel}>
      <OfAllColorings what="A layout is" className="mb-3" />
      <p className="mb-3">For lettering and painted detail. The colors keep a narrow strip, and every face its color.</p>
      <div className="grid grid-cols-[76px_1fr] items-center gap-x-2 gap-y-2">
        <span>Picture</span>
        <span className="flex min-w-0 items-center gap-2">
          <span className="truncate">{picture ? `${picture.name}, ${picture.raster.width} × ${picture.raster.height}` : 'a checker'}</span>
          <FileChooser
            label="Picture for the art"
            accept={pictureFiles}
            onFiles={([f]) => void choose(f!)}
            className="border-b border-ink hover:bg-wash"
          >
            choose
          </FileChooser>
        </span>
        {(['width', 'height'] as const).map((key) => (
          <label key={key} className="contents">
            <span>{key === 'width' ? 'Width' : 'Height'}</span>
            <select
              value={size[key]}
              onChange={(e) => setSize({ ...size, [key]: Number(e.target.value) })}
              className="h-8 w-32 border border-hairline bg-white px-2"
            >
              {sizes.map((s) => (
                <option key={s} value={s}>
                  {s} texels
                </option>
              ))}
            </select>
          </label>
        ))}
        <span>Colors</span>
        <Choice
          label="Side on which the colors lie"
          value={side}
          options={[
            ['left', 'Left'],
            ['right', 'Right'],
            ['top', 'Top'],
            ['bottom', 'Bottom'],
          ]}
          onChange={setSide}
          className="border border-hairline"
        />
      </div>
      {typeof outcome === 'string' ? <p className="mt-3">{outcome}</p> : <Preview sheet={sheet} plan={outcome} picture={picture} />}
      <div className="mt-3 flex justify-end border-t border-hairline pt-3">
        <Button kind="solid" disabled={typeof outcome === 'string' || isBusy} onClick={make}>
          Make room
        </Button>
      </div>
    </SidePanel>
  );
}

function attempt(make: () => ArtRoom): ArtRoom | string {
  try {
    return make();
  } catch (error) {
    return wordsOf(error);
  }
}

/** The sheet as it would be; the art in outline, its size told. */
function Preview({ sheet, plan, picture }: { sheet: Sheet; plan: ArtRoom; picture: Picture | null }) {
  const { width, height, art } = plan;
  const cells = [
    ...plan.places.map(({ cell, rect }) => ({ ...cell, rect })),
    ...plan.free.map((rect, i) => ({ id: -1 - i, rect, role: '', fill: { kind: 'spare' as const } })),
  ];
  const side = 168;
  const scale = side / Math.max(width, height);
  return (
    <figure className="mt-3">
      <div className="relative border border-ink bg-white" style={{ width: width * scale + 2, height: height * scale + 2 }}>
        <SheetPicture sheet={{ ...sheet, width, height, cells }} side={side} />
        <div
          className="absolute flex items-center justify-center overflow-hidden bg-wash text-[12px]"
          style={{ left: art.x * scale, top: art.y * scale, width: art.w * scale, height: art.h * scale }}
        >
          {picture?.name ?? 'art'}
        </div>
      </div>
      <figcaption className="mt-1 text-[12px]">
        {width} × {height} texels; art {art.w} × {art.h}
      </figcaption>
    </figure>
  );
}
