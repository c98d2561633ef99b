'use client';
import { useMemo, type KeyboardEvent, type PointerEvent } from 'react';
import { sidesOf, type Island } from '@/core/islands/islandsOf';
import { nextCorner } from '@/core/shapes/mesh/adjacency';
import { pickIsland, pointAtIsland } from '@/state/islands/islands';
import { usePick } from '@/state/chosen/pickState';
import { count } from '@/ui/words';
import type { LoadedMesh } from '@/workers/residents';

/** How corners lie on the board. */
export interface BoardPlaces {
  loaded: LoadedMesh;
  texels: Float32Array;
  /** Pixels a texel. */
  scale: number;
}

const at = ({ texels, scale }: BoardPlaces, c: number): string =>
  `${(texels[c * 2]! * scale).toFixed(1)} ${(texels[c * 2 + 1]! * scale).toFixed(1)}`;

function facesPath(places: BoardPlaces, faces: Iterable<number>): string {
  const { faceStart } = places.loaded.mesh;
  let path = '';
  for (const f of faces) {
    for (let c = faceStart[f]!; c < faceStart[f + 1]!; c++) path += `${c === faceStart[f] ? 'M' : 'L'}${at(places, c)}`;
    path += 'Z';
  }
  return path;
}

const sidesPath = (places: BoardPlaces, corners: readonly number[]): string =>
  corners.map((c) => `M${at(places, c)}L${at(places, nextCorner(places.loaded.adjacency, c))}`).join('');

/** Shades that are drawn apart on the board. */
const shades = 24;

/** Faces by the grey that they are shown in, where one is. */
function greys(places: BoardPlaces, faces: Uint32Array, tones: Uint8Array | null): { grey: number; path: string }[] {
  if (!tones) return [];
  const lists = new Map<number, number[]>();
  for (const f of faces) {
    if (!tones[f]) continue;
    const grey = Math.round((Math.round((tones[f]! / 255) * shades) / shades) * 255);
    lists.set(grey, [...(lists.get(grey) ?? []), f]);
  }
  return [...lists].map(([grey, list]) => ({ grey, path: facesPath(places, list) }));
}

/** One island: in outline, the edges inside of it lighter; hatched where it is picked, grey where stretch is shown. */
export function IslandShape({
  island,
  places,
  tones,
  onPointerDown,
}: {
  island: Island;
  places: BoardPlaces;
  tones: Uint8Array | null;
  onPointerDown: (e: PointerEvent<SVGElement>) => void;
}) {
  usePick((s) => s.version);
  const { picked, count: most } = usePick.getState();
  const own = most > 0 ? island.faces.filter((f) => picked[f]) : new Uint32Array(0);
  const isPicked = own.length === island.faces.length;
  const { all, outside, inside, filled } = useMemo(() => {
    const sides = sidesOf(places.loaded.adjacency, island, places.texels);
    return {
      all: facesPath(places, island.faces),
      outside: sidesPath(places, sides.outside),
      inside: sidesPath(places, sides.inside),
      filled: greys(places, island.faces, tones),
    };
  }, [island, places, tones]);
  // On a gradient faces lie on a line, too thin to be met.
  const [x0, x1, y0, y1] = island.bounds;
  const { scale } = places;
  const isThin = Math.min(x1 - x0, y1 - y0) * scale < 8;
  const pick = (e: KeyboardEvent) => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    pickIsland(island, { add: e.shiftKey, take: e.altKey || e.ctrlKey });
  };
  const handlers = {
    onPointerDown,
    onPointerEnter: () => pointAtIsland(island),
    onPointerLeave: () => pointAtIsland(null),
    onFocus: () => pointAtIsland(island),
    onBlur: () => pointAtIsland(null),
    onKeyDown: pick,
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Island of ${count(island.faces.length, 'face')}`}
      aria-pressed={isPicked ? true : own.length ? 'mixed' : false}
      className="cursor-move outline-none [&:focus-visible>path:last-child]:stroke-[3.5px] [&:hover>path:last-child]:stroke-[2.4px]"
      strokeLinejoin="round"
      strokeLinecap="round"
      {...handlers}
    >
      {isThin && (
        <rect x={x0 * scale - 4} y={y0 * scale - 4} width={(x1 - x0) * scale + 8} height={(y1 - y0) * scale + 8} fill="transparent" />
      )}
      <path d={all} fill="rgb(255 255 255 / 0.001)" stroke="#fff" strokeWidth={7} strokeOpacity={0.01} />
      {filled.map(({ grey, path }) => (
        <path key={grey} d={path} fill={`rgb(${grey} ${grey} ${grey})`} />
      ))}
      {own.length > 0 && <path d={facesPath(places, own)} fill="url(#island-hatch)" />}
      <path d={inside} fill="none" stroke="#fff" strokeWidth={1.6} strokeOpacity={0.5} />
      <path d={inside} fill="none" stroke="#111" strokeWidth={0.7} strokeOpacity={0.8} />
      <path d={outside} fill="none" stroke="#fff" strokeWidth={3} />
      <path d={outside} fill="none" stroke="#111" strokeWidth={1.3} />
    </g>
  );
}
