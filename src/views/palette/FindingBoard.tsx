'use client';
import { useEffect, useRef, useState } from 'react';
import { describeFinding } from '@/core/sheet/picture/adopt';
import type { Lines } from '@/core/sheet/picture/findLines';
import type { Finding } from '@/core/sheet/picture/readBlocks';
import type { Raster } from '@/core/ground/pictures/raster';
import { moveLines } from '@/state/sheet/adopting';
import { useSize } from '@/ui/useSize';

type Axis = 'xs' | 'ys';

/**
 * A palette picture with what was found in it drawn over; its lines can be dragged, added in the margins, and
 * dragged out to go.
 */
export function FindingBoard({ raster, finding, file }: { raster: Raster; finding: Finding; file: string }) {
  const area = useRef<HTMLDivElement>(null);
  const board = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const room = useSize(area);
  const [dragged, setDragged] = useState<{ axis: Axis; index: number; at: number } | null>(null);
  useEffect(() => {
    const image = new ImageData(new Uint8ClampedArray(raster.data), raster.width, raster.height);
    canvas.current?.getContext('2d')?.putImageData(image, 0, 0);
  }, [raster, room.width]);
  const { width, height } = raster;
  const scale = Math.max(0.01, Math.min((room.width - 150) / width, (room.height - 150) / height));
  const limit = (axis: Axis) => (axis === 'xs' ? width : height);
  const positionOf = (axis: Axis, e: { clientX: number; clientY: number }) => {
    const box = board.current!.getBoundingClientRect();
    return Math.round((axis === 'xs' ? e.clientX - box.left : e.clientY - box.top) / scale);
  };
  const change = (axis: Axis, edit: (inner: number[]) => number[]) => {
    const inner = finding.lines[axis].slice(1, -1);
    const next = [...new Set(edit(inner))].filter((v) => v > 0 && v < limit(axis)).sort((a, b) => a - b);
    const lines: Lines = { ...finding.lines, [axis]: [0, ...next, limit(axis)] };
    void moveLines(lines);
  };
  const drop = () => {
    if (!dragged) return;
    const { axis, index, at } = dragged;
    setDragged(null);
    change(axis, (inner) => inner.flatMap((v, i) => (i !== index ? [v] : at > 0 && at < limit(axis) ? [at] : [])));
  };
  return (
    <>
      <div className="flex h-[50px] shrink-0 items-center border-b border-hairline bg-paper px-5 text-phrase">
        <p className="truncate">
          In {file}: <strong>{describeFinding(finding)}</strong>
        </p>
      </div>
      <div ref={area} className="relative min-h-0 flex-1 overflow-hidden bg-surround">
        {room.width > 0 && (
          <div
            ref={board}
            role="group"
            aria-label="What was found in the picture"
            className="absolute touch-none bg-white select-none"
            style={{
              width: width * scale,
              height: height * scale,
              left: (room.width - width * scale) / 2,
              top: (room.height - height * scale) / 2,
            }}
          >
            <canvas
              ref={canvas}
              width={width}
              height={height}
              aria-hidden
              className="absolute inset-0 h-full w-full"
              style={{ imageRendering: scale > 1 ? 'pixelated' : 'auto' }}
            />
            {finding.blocks.map(({ rect, fill }, i) => (
              <span
                key={i}
                aria-hidden
                className={`pointer-events-none absolute border border-white shadow-[inset_0_0_0_1px_#111] ${fill.kind === 'spare' ? 'hatched opacity-80' : ''}`}
                style={{ left: rect.x * scale, top: rect.y * scale, width: rect.w * scale, height: rect.h * scale }}
              >
                {fill.kind === 'gradient' && (
                  <span
                    className={`absolute bg-white outline-1 outline-ink ${fill.axis === 'x' ? 'top-1/2 right-2 left-2 h-[3px]' : 'top-2 bottom-2 left-1/2 w-[3px]'}`}
                  />
                )}
              </span>
            ))}
            {(['xs', 'ys'] as const).map((axis) => {
              const isX = axis === 'xs';
              return (
                <div key={axis}>
                  <button
                    type="button"
                    aria-label={isX ? 'Add an upright line' : 'Add a level line'}
                    title={isX ? 'Click to add an upright line here' : 'Click to add a level line here'}
                    onClick={(e) => {
                      const at = e.detail === 0 ? Math.round(limit(axis) / 2) : positionOf(axis, e);
                      change(axis, (inner) => [...inner, at]);
                    }}
                    className="absolute bg-paper/60 hover:bg-paper"
                    style={isX ? { left: 0, right: 0, top: -26, height: 18 } : { top: 0, bottom: 0, left: -26, width: 18 }}
                  />
                  {finding.lines[axis].slice(1, -1).map((stored, index) => {
                    const at = dragged?.axis === axis && dragged.index === index ? dragged.at : stored;
                    return (
                      <button
                        key={index}
                        type="button"
                        role="slider"
                        aria-orientation={isX ? 'horizontal' : 'vertical'}
                        aria-label={`${isX ? 'Upright' : 'Level'} line ${index + 1}`}
                        aria-valuenow={at}
                        aria-valuemin={0}
                        aria-valuemax={limit(axis)}
                        title="Drag to move, out of the picture to take away"
                        onPointerDown={(e) => {
                          e.currentTarget.setPointerCapture(e.pointerId);
                          setDragged({ axis, index, at: stored });
                        }}
                        onPointerMove={(e) => dragged && setDragged({ ...dragged, at: positionOf(axis, e) })}
                        onPointerUp={drop}
                        onPointerCancel={() => setDragged(null)}
                        onKeyDown={(e) => {
                          const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key];
                          if (by) change(axis, (inner) => inner.map((v, i) => (i === index ? v + by : v)));
                          else if (e.key === 'Delete' || e.key === 'Backspace')
                            change(axis, (inner) => inner.filter((_, i) => i !== index));
                          else return;
                          e.preventDefault();
                        }}
                        className={`absolute z-10 ${isX ? 'cursor-ew-resize' : 'cursor-ns-resize'} after:absolute after:bg-ink after:outline-1 after:outline-white ${
                          isX ? 'after:inset-y-0 after:left-1/2 after:w-px' : 'after:inset-x-0 after:top-1/2 after:h-px'
                        }`}
                        style={
                          isX
                            ? { left: at * scale - 4, width: 9, top: -26, bottom: -6 }
                            : { top: at * scale - 4, height: 9, left: -26, right: -6 }
                        }
                      />
                    );
                  })}
                </div>
              );
            })}
          </div>
        )}
        <p className="absolute bottom-4 left-5 bg-paper px-4 py-2">Drag a line to correct it. Click in the margin to add one.</p>
      </div>
    </>
  );
}
