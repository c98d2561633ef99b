'use client';
import { useEffect, useRef } from 'react';
import type { Fill, Sheet } from '@/core/kit/kit';
import { seenAs } from '@/core/color/vision';
import { rasterSheet, type Raster } from '@/core/sheet/raster';
import type { Look } from '@/state/board';
import type { Drafts } from '@/state/coloringState';

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
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const raster = rasterSheet(drafts ? withDrafts(sheet, drafts) : sheet);
    if (look !== 'true') recolor(raster, look);
    const image = new ImageData(new Uint8ClampedArray(raster.data), raster.width, raster.height);
    context.putImageData(image, 0, 0);
    for (const { fill, rect } of sheet.cells) if (fill.kind === 'spare') context.clearRect(rect.x, rect.y, rect.w, rect.h);
  }, [sheet, drafts, look]);
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

export function withDrafts(sheet: Sheet, drafts: Drafts): Sheet {
  const fillOf = (id: number): Fill | undefined => (drafts[id] ? { kind: 'solid', color: drafts[id] } : undefined);
  return { ...sheet, cells: sheet.cells.map((c) => ({ ...c, fill: fillOf(c.id) ?? c.fill })) };
}

function recolor({ data }: Raster, look: Exclude<Look, 'true'>): void {
  for (let i = 0; i < data.length; i += 4) data.set(seenAs(look, [data[i]!, data[i + 1]!, data[i + 2]!]), i);
}
