'use client';
import { useEffect, useRef } from 'react';
import type { Sheet } from '@/core/kit/kit';
import { seenAs } from '@/core/ground/color/vision';
import { rasterSheet } from '@/core/sheet/raster';
import type { Raster } from '@/core/ground/pictures/raster';
import type { Look } from '@/state/color/board';
import { withDrafts, type Drafts } from '@/state/chosen/coloringState';
import { usePictures } from '@/state/chosen/pictures';

/** The true texels of a sheet, enlarged; spare cells are left clear. `side`: pixels of its longer side. */
export function SheetPicture({
  sheet,
  side,
  drafts,
  look = 'true',
  className = '',
}: {
  sheet: Sheet;
  side: number;
  drafts?: Drafts;
  look?: Look;
  className?: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const rasters = usePictures((s) => s.settled);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const raster = rasterSheet(drafts ? withDrafts(sheet, drafts) : sheet, rasters);
    if (look !== 'true') recolor(raster, look);
    const image = new ImageData(new Uint8ClampedArray(raster.data), raster.width, raster.height);
    context.putImageData(image, 0, 0);
    for (const { fill, rect } of sheet.cells) if (fill.kind === 'spare') context.clearRect(rect.x, rect.y, rect.w, rect.h);
  }, [sheet, drafts, look, rasters]);
  const scale = side / Math.max(sheet.width, sheet.height);
  return (
    <canvas
      ref={canvas}
      width={sheet.width}
      height={sheet.height}
      aria-hidden
      className={className}
      style={{ width: sheet.width * scale, height: sheet.height * scale, imageRendering: 'pixelated' }}
    />
  );
}

function recolor({ data }: Raster, look: Exclude<Look, 'true'>): void {
  for (let i = 0; i < data.length; i += 4) data.set(seenAs(look, [data[i]!, data[i + 1]!, data[i + 2]!]), i);
}
