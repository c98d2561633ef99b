'use client';
import { useMemo } from 'react';
import { isTextured, type Cell, type Sheet } from '@/core/kit/kit';

import { chooseCell, openNewColor } from '@/state/color/coloring';
import { middle, useColoring } from '@/state/chosen/coloringState';
import { currentOf, useEditor } from '@/state/kit/editor';
import { SheetPicture } from './SheetPicture';
import { pointIn, useIsUnderPointer, type Uses } from './cellPointing';

const side = 128;

/** The true sheet, enlarged, between register marks, with a dot where faces of the model in view sit. */
export function SheetMap({ sheet, uses }: { sheet: Sheet; uses: Uses }) {
  const seats = useEditor((s) => (s.modelId ? s.state.seats[s.modelId] : undefined));
  const drafts = useColoring((s) => s.drafts);
  const seated = useMemo(() => new Set(currentOf(useEditor.getState()) && seats ? seats.cell : []), [seats]);
  const scale = side / Math.max(sheet.width, sheet.height);
  const [w, h] = [sheet.width * scale, sheet.height * scale];
  const marks = [
    [0, 0, 1, 1],
    [w, 0, -1, 1],
    [0, h, 1, -1],
    [w, h, -1, -1],
  ] as const;
  return (
    <div className="relative mt-2 ml-1 shrink-0">
      <div className="absolute top-[20px] left-[18px] bg-white">
        <SheetPicture sheet={sheet} side={side} drafts={drafts} className="block" />
      </div>
      <svg
        width={side + 36}
        height={side + 40}
        viewBox={`-18 -20 ${side + 36} ${side + 40}`}
        className="relative"
        role="group"
        aria-label={`The sheet, ${sheet.width} × ${sheet.height} texels`}
      >
        {marks.map(([x, y, dx, dy], i) => (
          <path key={i} d={`M${x - 14 * dx} ${y}h${10 * dx}M${x} ${y - 14 * dy}v${10 * dy}`} stroke="#555" strokeWidth={1.4} fill="none" />
        ))}
        {sheet.cells.map((c) => (
          <MapCell key={c.id} cell={c} scale={scale} isSeated={seated.has(c.id)} isUsed={uses.has(c.id)} />
        ))}
      </svg>
    </div>
  );
}

function MapCell({ cell, scale, isSeated, isUsed }: { cell: Cell; scale: number; isSeated: boolean; isUsed: boolean }) {
  const { rect, fill, id } = cell;
  const isChosen = useColoring((s) => s.cell === id);
  const isPointed = useColoring((s) => s.pointedCell === id);
  const isUnder = useIsUnderPointer(id);
  const box = { x: rect.x * scale, y: rect.y * scale, width: rect.w * scale, height: rect.h * scale };
  const isSpare = fill.kind === 'spare';
  const isLit = isChosen || isPointed || isUnder;
  return (
    <g
      onPointerEnter={() => !isSpare && useColoring.setState({ pointedCell: id })}
      onPointerLeave={() => useColoring.setState({ pointedCell: 0 })}
      onClick={(e) => (isSpare ? openNewColor(useColoring.getState().cell, false) : chooseCell(id, isTextured(fill) ? pointIn(e) : middle))}
      className="cursor-pointer"
    >
      <rect {...box} fill={isSpare ? '#fff' : 'transparent'} />
      {isSpare && (
        <rect
          x={box.x + 1.5}
          y={box.y + 1.5}
          width={Math.max(0, box.width - 3)}
          height={Math.max(0, box.height - 3)}
          fill="none"
          stroke="#9a9a9a"
          strokeDasharray="3 3"
        />
      )}
      {isUsed && <Seat x={box.x + box.width / 2} y={box.y + box.height / 2} size={Math.min(box.width, box.height)} isHere={isSeated} />}
      {isLit && (
        <>
          <rect
            x={box.x + 1}
            y={box.y + 1}
            width={Math.max(0, box.width - 2)}
            height={Math.max(0, box.height - 2)}
            fill="none"
            stroke="#111"
            strokeWidth={2}
          />
          <rect
            x={box.x + 2.75}
            y={box.y + 2.75}
            width={Math.max(0, box.width - 5.5)}
            height={Math.max(0, box.height - 5.5)}
            fill="none"
            stroke="#fff"
            strokeWidth={1.2}
          />
        </>
      )}
    </g>
  );
}

/** Where faces sit: large for the model in view, small for others; never so large as to hide the cell. */
function Seat({ x, y, size, isHere }: { x: number; y: number; size: number; isHere: boolean }) {
  const radius = Math.min(isHere ? 3 : 1.2, size / (isHere ? 7 : 10));
  return <circle cx={x} cy={y} r={radius} fill="#fff" stroke="#111" strokeWidth={Math.min(1.5, radius / 2)} />;
}
