'use client';
import { useEffect, useState } from 'react';
import { usualTolerance } from '@/core/faces/adopt/takeApart';
import { wordsOf } from '@/core/ground/wordsOf';
import { adoptApart, bareCount, lookApart, modelsOnSheets, seatOnSheets, sheetOfApart, type ApartSheet } from '@/state/files/byPicture';
import { useEditor } from '@/state/kit/editor';
import { Button } from '@/ui/Button';
import { bytes, count, number } from '@/ui/words';
import type { PictureApart, SeatsOnSheet } from '@/workers/adopting';

/** Offers for a model that came with a picture: to seat it on the sheet that it shows, or to take the picture apart. */
export function PictureOffer({ id, pictureBytes }: { id: string; pictureBytes: number }) {
  const models = useEditor((s) => s.state.kit.models);
  const sheets = useEditor((s) => s.state.kit.sheets);
  const [found, setFound] = useState<SeatsOnSheet[] | null>(null);
  useEffect(() => {
    let isLatest = true;
    modelsOnSheets().then(
      (f) => isLatest && setFound(f),
      () => isLatest && setFound([]),
    );
    return () => {
      isLatest = false;
    };
  }, [models, sheets]);
  if (!found) return <p className="border-t border-hairline px-5 py-3 text-quiet">Looking at its picture…</p>;
  const own = found.find((f) => f.id === id);
  if (own) return <SheetOffer own={own} found={found} sheet={sheets.find((s) => s.id === own.sheet)?.name ?? ''} />;
  return <ApartOffer id={id} pictureBytes={pictureBytes} />;
}

function SheetOffer({ own, found, sheet }: { own: SeatsOnSheet; found: SeatsOnSheet[]; sheet: string }) {
  const { cell, across } = own.seats;
  const seated = cell.reduce((n, c) => n + (c ? 1 : 0), 0);
  return (
    <section aria-label="Its picture" className="border-t border-hairline px-5 py-4">
      <h3 className="font-bold">Its picture is the sheet “{sheet}” of this kit</h3>
      <p className="mb-3 text-[12px] text-quiet">
        {number(seated)} of {count(cell.length, 'face')} lie on its cells.
        {across > 0 &&
          ` ${count(across, 'face')} ${across === 1 ? 'lies' : 'lie'} over several cells or on an empty one, and stay as they came.`}
      </p>
      <div className="flex items-center justify-end gap-3">
        {found.length > 1 && <Button onClick={() => seatOnSheets(found)}>Seat all {found.length} models that show a sheet</Button>}
        <Button kind="solid" disabled={!seated} onClick={() => seatOnSheets([own])}>
          Seat its faces
        </Button>
      </div>
    </section>
  );
}

/** OKLab distances that the slider offers. */
const most = 0.12;

function ApartOffer({ id, pictureBytes }: { id: string; pictureBytes: number }) {
  const [isAsked, setAsked] = useState(() => bareCount() === 1);
  const [tolerance, setTolerance] = useState(usualTolerance);
  const [shown, setShown] = useState<{ found: PictureApart; sheet: ApartSheet; tolerance: number } | null>(null);
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  useEffect(() => {
    if (!isAsked) return;
    let isLatest = true;
    // The slider is waited for until it rests.
    const timer = setTimeout(() => {
      lookApart(id, tolerance).then(
        async (found) => {
          const sheet = found && (await sheetOfApart(found));
          if (isLatest) setShown(found && sheet && { found, sheet, tolerance });
          if (isLatest) setProblem(found ? '' : 'Its picture could not be opened.');
        },
        (error: unknown) => isLatest && setProblem(wordsOf(error)),
      );
    }, 150);
    return () => {
      isLatest = false;
      clearTimeout(timer);
    };
  }, [id, tolerance, isAsked]);
  // Figures of another number are told apart, and not taken.
  const isLooking = isAsked && !problem && shown?.tolerance !== tolerance;
  const take = async (found: PictureApart | null) => {
    setBusy(true);
    if (found) await adoptApart(found);
    setBusy(false);
  };
  return (
    <section aria-label="Its picture" className="border-t border-hairline px-5 py-4">
      <h3 className="font-bold">Take its picture apart</h3>
      <p className="text-[12px] text-quiet">
        Faces whose pixels are of one color sit on that color, those on a gradient along it; the rest keeps the picture. Until then the
        model leaves with its picture as it came.
      </p>
      {!isAsked && (
        <Button className="mt-3" onClick={() => setAsked(true)}>
          Look what it is made of
        </Button>
      )}
      {isAsked && (
        <label className="mt-3 flex items-center gap-3">
          One color, up to a difference of
          <input
            type="range"
            aria-label="One color, up to a difference of"
            min={0}
            max={most}
            step={0.005}
            value={tolerance}
            onChange={(e) => setTolerance(Number(e.target.value))}
            className="slider-plain w-44"
          />
          <span className="w-24">{tolerance.toFixed(3)} OKLab</span>
        </label>
      )}
      {problem && <p className="mt-2 font-medium">{problem}</p>}
      {isLooking && (
        <p role="status" className="mt-2 text-quiet">
          {shown ? `Looking… below stands what came of ${shown.tolerance.toFixed(3)}.` : 'Looking…'}
        </p>
      )}
      {shown && (
        <>
          <div className={isLooking ? 'opacity-40' : ''}>
            <Account {...shown} pictureBytes={pictureBytes} />
          </div>
          <div className="mt-3 flex items-center justify-end gap-3">
            <Button disabled={isBusy} onClick={() => void lookApart(id, -1).then(take)}>
              Keep all of it as art
            </Button>
            <Button kind="solid" disabled={isBusy || isLooking} onClick={() => void take(shown.found)}>
              Take it apart
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

function Account({
  found: { apart, picture, models },
  sheet,
  pictureBytes,
}: {
  found: PictureApart;
  sheet: ApartSheet;
  pictureBytes: number;
}) {
  const { solid, gradient, art, repeating } = apart.faces;
  const colors = apart.blocks.filter((b) => b.fill.kind === 'solid');
  const gradients = apart.blocks.filter((b) => b.fill.kind === 'gradient').length;
  const parts = [
    solid > 0 && `${count(solid, 'face')} in ${count(colors.length, 'color')}`,
    gradient > 0 && `${count(gradient, 'face')} along ${count(gradients, 'gradient')}`,
    art > 0 && `${count(art, 'face')} on art`,
  ].filter(Boolean);
  return (
    <>
      <div className="mt-2 flex h-5">
        {colors.map((b, i) => (
          <span key={i} className="flex-1" style={{ background: b.fill.kind === 'solid' ? b.fill.color : '' }} />
        ))}
      </div>
      <p className="mt-2">
        <strong>{parts.join(', ')}</strong>
        {models.length > 1 && `; ${count(models.length, 'model')} of this kit show${models.length === 1 ? 's' : ''} it`}.
        {repeating > 0 &&
          ` ${count(repeating, 'face')} repeat${repeating === 1 ? 's' : ''} the picture beyond its edges, and stay as they came.`}
      </p>
      <p className="text-[12px] text-quiet">
        A sheet of {sheet.width} × {sheet.height} texels, {bytes(sheet.bytes)}, instead of {picture.width} × {picture.height},{' '}
        {bytes(pictureBytes)}. The largest change of a color is {apart.largest.toFixed(3)} (OKLab).
      </p>
    </>
  );
}
