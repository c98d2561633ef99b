'use client';
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { canFollowFiles, followArtFile, openArtFile, saveArt } from '@/state/paint/artFile';
import { artOf, ownersIn, paintedUnder, type ArtInHand } from '@/state/paint/artInHand';
import { beginStroke, type Drawn } from '@/state/paint/drawn';
import { paintAt, pointAlongLine, pointAtTexel, takeColorAt, wordsOfTexel } from '@/state/paint/painting';
import { maskOf } from '@/state/paint/mask';
import type { Texel } from '@/state/paint/reach';
import { usePaint } from '@/state/chosen/paint';
import { usePictures } from '@/state/chosen/pictures';
import { usePick } from '@/state/chosen/pickState';
import { announce } from '@/state/told/announce';
import { useEditor } from '@/state/kit/editor';
import { FileChooser, pictureFiles } from '@/ui/FileChooser';
import { openReducing } from '@/state/paint/reducing';
import { Menu } from '@/ui/Menu';
import { number } from '@/ui/words';
import { Choice } from '@/ui/Choice';
import { arrows } from '@/ui/arrows';
import { useSize } from '@/ui/useSize';
import { outlineOfTexels, outlineReach } from '@/core/sheet/paint/litOutline';
import { ArtFileBar } from './ArtFileBar';
import { touchPainting } from './touching';

/** The art of the model in view, enlarged: painted by pointer, and by keys with a texel cursor. */
export function ArtBoard() {
  const state = useEditor((s) => s.state);
  const modelId = useEditor((s) => s.modelId);
  const meshes = useEditor((s) => s.meshes);
  const meant = usePaint((s) => s.artCell);
  const art = useMemo(() => artOf({ state, modelId, meshes }, meant), [state, modelId, meshes, meant]);
  const area = useRef<HTMLDivElement>(null);
  const room = useSize(area);
  return (
    <>
      <div ref={area} className="relative min-h-0 flex-1 overflow-hidden">
        {room.width > 0 && art && <Board art={art} room={room} />}
      </div>
      {art && <ArtFileBar cell={art.cell.id} />}
      <TexelLine art={art} />
    </>
  );
}

function Board({ art, room }: { art: ArtInHand; room: { width: number; height: number } }) {
  const { width, height } = art.pixels;
  const fit = Math.min((room.width - 40) / width, (room.height - 32) / height);
  // Whole pixels a texel where there is room for them.
  const scale = fit >= 2 ? Math.floor(fit) : Math.max(0.1, fit);
  const [w, h] = [width * scale, height * scale];
  const surface = useRef<HTMLDivElement>(null);
  const stroke = useRef<Drawn | null>(null);
  const texelAt = (e: { clientX: number; clientY: number }): Texel | null => {
    const box = surface.current!.getBoundingClientRect();
    const [x, y] = [Math.floor((e.clientX - box.left) / scale), Math.floor((e.clientY - box.top) / scale)];
    return x >= 0 && y >= 0 && x < width && y < height ? [x, y] : null;
  };
  const touching = useRef<ReturnType<typeof touchPainting<PointerEvent['nativeEvent']>> | null>(null);
  const fingers = () =>
    (touching.current ??= touchPainting({
      begin: (e) => {
        const at = texelAt(e);
        stroke.current = at && beginStroke(at);
      },
      move: (e) => {
        const at = texelAt(e);
        if (at) stroke.current?.moveTo(at);
      },
      end: (e) => lift(texelAt(e)),
      leave: () => lift(null),
    }));
  const lift = (at: Texel | null) => {
    stroke.current?.end(at);
    stroke.current = null;
    pointAtTexel(null);
  };
  const onDown = (e: PointerEvent) => {
    if (fingers().down(e.nativeEvent)) return;
    const at = texelAt(e);
    if (e.button !== 0 || !at) return;
    if (e.altKey) return takeColorAt(at);
    surface.current!.setPointerCapture(e.pointerId);
    stroke.current = beginStroke(at, { isLine: e.shiftKey });
  };
  const onMove = (e: PointerEvent) => {
    if (fingers().move(e.nativeEvent)) return;
    const at = texelAt(e);
    if (stroke.current && at) stroke.current.moveTo(at);
    else if (!stroke.current && at && e.shiftKey) pointAlongLine(at);
    else if (!stroke.current) pointAtTexel(at);
  };
  const onUp = (e: PointerEvent) => {
    if (fingers().up(e.nativeEvent)) return;
    stroke.current?.end(texelAt(e));
    stroke.current = null;
  };
  /** In the middle at first. */
  const cursor = (): Texel => usePaint.getState().cursor ?? [width >> 1, height >> 1];
  const onKeyDown = (e: KeyboardEvent) => {
    const arrow = arrows.get(e.key);
    const at = cursor();
    if (arrow) {
      const step = e.shiftKey ? 8 : 1;
      const within = (v: number, size: number) => Math.max(0, Math.min(size - 1, v));
      const next: Texel = [within(at[0] + arrow[0] * step, width), within(at[1] + arrow[1] * step, height)];
      usePaint.setState({ cursor: next });
      pointAtTexel(next);
      announce(wordsOfTexel(next));
    } else if (e.key === 'Enter' || e.key === ' ') paintAt(at, e.shiftKey);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      ref={surface}
      tabIndex={0}
      role="application"
      aria-label={`The art, ${width} × ${height} texels. Arrow keys move the texel cursor, Enter sets by the phrase.`}
      className="absolute touch-none outline-none focus-visible:outline-2 focus-visible:outline-offset-4 focus-visible:outline-ink"
      style={{ left: Math.round((room.width - w) / 2), top: Math.round((room.height - h) / 2), width: w, height: h }}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onPointerLeave={() => !stroke.current && pointAtTexel(null)}
      onKeyDown={onKeyDown}
      onFocus={(e) => e.currentTarget.matches(':focus-visible') && pointAtTexel(cursor())}
      onBlur={() => pointAtTexel(null)}
    >
      <ArtPicture art={art} w={w} h={h} />
      <svg width={w} height={h} className="pointer-events-none absolute inset-0 overflow-visible">
        <MaskOnBoard art={art} scale={scale} />
        <FaceOutlines art={art} scale={scale} />
      </svg>
      <LitOnBoard art={art} w={w} h={h} />
    </div>
  );
}

/** The texels in the colors of the coloring that is shown; where there is nothing, a hatch shows through. */
function ArtPicture({ art, w, h }: { art: ArtInHand; w: number; h: number }) {
  const { pixels } = art;
  const canvas = useRef<HTMLCanvasElement>(null);
  const fill = art.cell.fill as { picture: string };
  const raster = usePictures((s) => s.rasters.get(fill.picture));
  const owners = ownersIn(art);
  const drawn = useRef<{ of: unknown; image: ImageData } | null>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!raster || !context) return;
    const { width, height, data } = raster;
    const { touched } = usePictures.getState();
    // After a stroke only the texels that it touched are drawn anew.
    const isAlone = drawn.current?.of === owners && touched?.art === art.art && drawn.current.image.width === width;
    const image = isAlone ? drawn.current!.image : new ImageData(width, height);
    const { x, y, w, h } = isAlone ? touched!.rect : { x: 0, y: 0, w: width, h: height };
    const [from, to] = [new Uint32Array(data.buffer, data.byteOffset, width * height), new Uint32Array(image.data.buffer)];
    for (let row = y; row < y + h; row++)
      // What no face of the model shows is paper.
      for (let t = row * width + x; t < row * width + x + w; t++) to[t] = owners.count[t] ? from[t]! : 0xffffffff;
    context.putImageData(image, 0, 0, x, y, w, h);
    drawn.current = { of: owners, image };
    // The raster changes with every stroke, and nothing else here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [owners, raster]);
  return (
    <canvas
      ref={canvas}
      width={pixels.width}
      height={pixels.height}
      aria-hidden
      className="hatched absolute inset-0 block outline-1 outline-hairline"
      style={{ width: w, height: h, imageRendering: 'pixelated' }}
    />
  );
}

/** Where faces lie on the art; picked ones dashed. */
function FaceOutlines({ art, scale }: { art: ArtInHand; scale: number }) {
  // The pick changes in place; its version tells.
  const version = usePick((s) => s.version);
  const { picked, count } = usePick.getState();
  const { seats, loaded, cell, pixels } = art;
  const { width, height } = pixels;
  const { plain, chosen } = useMemo(() => {
    const { faceStart } = loaded.mesh;
    const out = { plain: '', chosen: '' };
    for (let f = 0; f < seats.cell.length; f++) {
      if (seats.cell[f] !== cell.id || !seats.at) continue;
      let path = '';
      for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++)
        path += `${path ? 'L' : 'M'}${(seats.at[c * 2]! * width * scale).toFixed(1)} ${(seats.at[c * 2 + 1]! * height * scale).toFixed(1)}`;
      out[count && picked[f] ? 'chosen' : 'plain'] += `${path}Z`;
    }
    return out;
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [seats, loaded, cell.id, width, height, scale, picked, count, version]);
  return (
    <>
      <path d={plain} fill="none" stroke="#111" strokeOpacity={0.55} strokeWidth={1} />
      <path d={chosen} fill="none" stroke="#fff" strokeWidth={3} />
      <path d={chosen} fill="none" stroke="#111" strokeWidth={2} strokeDasharray="5 3" />
    </>
  );
}

/** What may not be set lies under a hatch, behind a line. */
function MaskOnBoard({ art, scale }: { art: ArtInHand; scale: number }) {
  const said = usePaint((s) => s.where === 'all' && !s.over.length);
  // Asked for when the phrase or the pick changes; the mask itself is kept.
  usePaint((s) => [s.where, s.over, s.isSparing].join());
  usePick((s) => s.version);
  const mask = maskOf(art);
  const owners = ownersIn(art);
  const { width } = art.pixels;
  const { shut, border } = useMemo(() => {
    const out = { shut: '', border: '' };
    if (!mask || said) return out;
    const { count } = owners;
    const isShut = (t: number) => mask[t] === 0 && count[t]! > 0;
    for (let t = 0; t < mask.length; t++) {
      if (!isShut(t)) continue;
      const [x, y] = [t % width, Math.floor(t / width)];
      let end = x;
      while (end < width && isShut(y * width + end)) end++;
      // A run at a time; its neighbours in other rows are looked at texel by texel.
      out.shut += `M${x * scale} ${y * scale}H${end * scale}V${(y + 1) * scale}H${x * scale}Z`;
      const isOpen = (n: number) => mask[n] === 1 && count[n]! > 0;
      for (let k = x; k < end; k++)
        for (const [n, line] of [
          [y * width + k - width, `M${k * scale} ${y * scale}h${scale}`],
          [y * width + k + width, `M${k * scale} ${(y + 1) * scale}h${scale}`],
        ] as const)
          if (isOpen(n)) out.border += line;
      if (x > 0 && isOpen(t - 1)) out.border += `M${x * scale} ${y * scale}v${scale}`;
      if (end < width && isOpen(y * width + end)) out.border += `M${end * scale} ${y * scale}v${scale}`;
      t = y * width + end - 1;
    }
    return out;
  }, [mask, said, owners, scale, width]);
  return (
    <>
      <defs>
        <pattern id="shut" width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="#111" strokeWidth={1.4} />
          <path d="M2 0V6" stroke="#fff" strokeWidth={1.4} />
        </pattern>
      </defs>
      <path d={shut} fill="url(#shut)" fillOpacity={0.7} />
      <path d={border} fill="none" stroke="#111" strokeWidth={1.6} />
    </>
  );
}

/** What a press would set, in outline. */
function LitOnBoard({ art, w, h }: { art: ArtInHand; w: number; h: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const lit = usePaint((s) => (s.lit?.art === art.art ? s.lit : null));
  const { width, height } = art.pixels;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.clearRect(0, 0, context.canvas.width, context.canvas.height);
    if (!lit) return;
    const made = outlineOfTexels({ width, height }, lit.texels, Math.round(w), Math.round(h));
    context.putImageData(new ImageData(new Uint8ClampedArray(made.pixels.buffer), made.width, made.height), 0, 0);
  }, [lit, width, height, w, h]);
  const [across, down] = [Math.round(w) + 2 * outlineReach, Math.round(h) + 2 * outlineReach];
  return (
    <canvas
      ref={canvas}
      width={across}
      height={down}
      aria-hidden
      className="pointer-events-none absolute"
      style={{ left: -outlineReach, top: -outlineReach, width: across, height: down, imageRendering: 'pixelated' }}
    />
  );
}

/** Where the texel lies that is meant, and what it shows. */
function TexelLine({ art }: { art: ArtInHand | null }) {
  const lit = usePaint((s) => s.lit);
  const state = useEditor((s) => s.state);
  const arts = useMemo(() => (art ? paintedUnder(state, art.seats) : []), [state, art]);
  if (!art) return null;
  const { width, height } = art.pixels;
  return (
    <p className="flex h-[34px] shrink-0 items-center justify-between border-t border-hairline bg-paper px-5 text-panel">
      <span className="flex min-w-0 items-baseline gap-3">
        {arts.length > 1 && (
          <Choice
            label="Art"
            value={String(art.cell.id)}
            options={arts.map((c) => [String(c.id), c.role || 'art'] as const)}
            onChange={(id) => usePaint.setState({ artCell: Number(id) })}
            className="border border-ink"
          />
        )}
        <span className="min-w-0 truncate">
          {lit ? wordsOfTexel(lit.at) : [...(arts.length > 1 ? [] : [art.cell.role]), `${width} × ${height}`].filter(Boolean).join(', ')}
        </span>
      </span>
      <span className="flex shrink-0 items-baseline gap-4 text-small text-quiet">
        <button type="button" className="border-b border-[#999] text-ink hover:border-ink" onClick={() => void openReducing()}>
          Few colors, big texels
        </button>
        <FileChooser
          label="A picture for this art"
          accept={pictureFiles}
          onFiles={([file]) => void openReducing(file)}
          className="border-b border-[#999] text-ink hover:border-ink"
        >
          From a picture
        </FileChooser>
        <Menu
          label="The art as a file"
          trigger={<span className="border-b border-[#999] text-ink hover:border-ink">As a file</span>}
          items={[
            ...[1, 4, 8, 16].map((times) => ({
              label: times === 1 ? 'Save as PNG' : `Save as PNG, ${times} times as large`,
              hint: `${number(width * times)} × ${number(height * times)}`,
              run: () => void saveArt(times),
            })),
            ...(canFollowFiles() ? ['line' as const, { label: 'Follow a PNG on the disk', run: () => void followArtFile() }] : []),
          ]}
        />
        {!canFollowFiles() && (
          <FileChooser
            label="A PNG of this art"
            accept={pictureFiles}
            onFiles={([file]) => file && void openArtFile(file)}
            className="border-b border-[#999] text-ink hover:border-ink"
          >
            Open again
          </FileChooser>
        )}
      </span>
    </p>
  );
}
