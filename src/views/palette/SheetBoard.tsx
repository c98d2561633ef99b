'use client';
import { memo, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { usesOfCells } from '@/core/kit/colorings/usesOfCells';
import { isTextured, type Cell, type Rect, type Sheet } from '@/core/kit/kit';
import { commonCellSize, swatchOf } from '@/core/sheet/cells';
import { moveSelected, outlinePlace, resizeOnBoard, selectCells, toggleCell, useBoard } from '@/state/color/board';
import { openNewColor } from '@/state/color/coloring';
import { useColoring, type Point } from '@/state/chosen/coloringState';
import { useEditor } from '@/state/kit/editor';
import { RegisterMarks } from '@/views/sheet/RegisterMarks';
import { SheetPicture } from '@/views/sheet/SheetPicture';
import { useSize } from '@/ui/useSize';
import { count } from '@/ui/words';
import { DefaultCorner, useDefaultFill } from '@/views/variants/DefaultCorner';
import { BoardTools } from './BoardTools';
import { SelectionBar } from './SelectionBar';

type Gesture =
  | { kind: 'move'; x: number; y: number; dx: number; dy: number }
  | { kind: 'resize'; id: number; x: number; y: number; rect: Rect }
  | { kind: 'marquee'; x: number; y: number; toX: number; toY: number };

/** The sheet, large, to be arranged by hand: cells are selected, dragged, resized; arrow keys walk over them. */
export function SheetBoard({ sheet }: { sheet: Sheet }) {
  const area = useRef<HTMLDivElement>(null);
  const board = useRef<HTMLDivElement>(null);
  const room = useSize(area);
  const state = useEditor((s) => s.state);
  const uses = useMemo(() => usesOfCells(state), [state]);
  const selected = useBoard((s) => s.selected);
  const look = useBoard((s) => s.look);
  const outlined = useBoard((s) => s.outlined);
  const drafts = useColoring((s) => s.drafts);
  const point = useColoring((s) => s.point);
  const [gesture, setGesture] = useState<Gesture | null>(null);
  const scale = Math.max(0.05, Math.min((room.width - 140) / sheet.width, (room.height - 170) / sheet.height));
  const grid = useMemo(() => gridOf(sheet), [sheet]);

  const texelAt = (e: PointerEvent) => {
    const box = board.current!.getBoundingClientRect();
    return { x: (e.clientX - box.left) / scale, y: (e.clientY - box.top) / scale };
  };
  const snap = (v: number, step: number) => Math.round(v / step) * step || 0;

  const onPointerDown = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0) return;
    const target = e.target as HTMLElement;
    const at = texelAt(e);
    board.current!.setPointerCapture(e.pointerId);
    const handle = target.closest<HTMLElement>('[data-handle]');
    if (handle) {
      const id = Number(handle.dataset.handle);
      setGesture({ kind: 'resize', id, ...at, rect: sheet.cells.find((c) => c.id === id)!.rect });
      return;
    }
    const id = Number(target.closest<HTMLElement>('[data-cell]')?.dataset.cell ?? 0);
    const cell = sheet.cells.find((c) => c.id === id);
    if (e.shiftKey && cell) toggleCell(id);
    else if (!cell || (cell.fill.kind === 'spare' && !selected.includes(id))) setGesture({ kind: 'marquee', ...at, toX: at.x, toY: at.y });
    else {
      if (!selected.includes(id)) selectCells([id]);
      if (isTextured(cell.fill)) useColoring.setState({ point: pointIn(cell.rect, at) });
      if (!sheet.frozen) setGesture({ kind: 'move', ...at, dx: 0, dy: 0 });
    }
    if (cell) board.current!.querySelector<HTMLElement>(`[data-cell="${id}"]`)?.focus({ preventScroll: true });
  };
  const onPointerMove = (e: PointerEvent<HTMLDivElement>) => {
    if (!gesture) return;
    const at = texelAt(e);
    if (gesture.kind === 'move') setGesture({ ...gesture, dx: snap(at.x - gesture.x, grid.w), dy: snap(at.y - gesture.y, grid.h) });
    else if (gesture.kind === 'marquee') setGesture({ ...gesture, toX: at.x, toY: at.y });
    else {
      const { rect } = sheet.cells.find((c) => c.id === gesture.id)!;
      const grown = (size: number, by: number, most: number) => Math.max(1, Math.min(most, Math.round(size + by)));
      setGesture({
        ...gesture,
        rect: {
          ...rect,
          w: grown(rect.w, at.x - gesture.x, sheet.width - rect.x),
          h: grown(rect.h, at.y - gesture.y, sheet.height - rect.y),
        },
      });
    }
  };
  const onPointerUp = () => {
    if (gesture?.kind === 'move') moveSelected(gesture.dx, gesture.dy);
    if (gesture?.kind === 'resize') resizeOnBoard(gesture.id, gesture.rect);
    if (gesture?.kind === 'marquee') {
      const under = cellsUnder(sheet, gesture);
      selectCells(under);
      if (sheet.frozen && !under.length) outlinePlace(texelsIn(sheet, boxOf(gesture)));
    }
    setGesture(null);
  };
  const onKeyDown = (e: KeyboardEvent<HTMLDivElement>) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key] as [number, number] | undefined;
    const id = Number((e.target as HTMLElement).dataset.cell ?? 0);
    if (e.key === 'Escape') {
      if (gesture) setGesture(null);
      else selectCells([]);
    } else if (way && e.altKey) moveSelected(way[0] * grid.w, way[1] * grid.h);
    else if (way) {
      const next = neighbour(sheet, id, way);
      if (next) board.current!.querySelector<HTMLElement>(`[data-cell="${next.id}"]`)?.focus();
      if (next && !e.shiftKey) selectCells([next.id]);
      else if (next && !selected.includes(next.id)) toggleCell(next.id);
    } else if (e.key === 'Enter' || e.key === ' ') {
      const cell = sheet.cells.find((c) => c.id === id);
      if (e.shiftKey) toggleCell(id);
      else if (cell?.fill.kind === 'spare') openNewColor(useColoring.getState().cell, false);
      else selectCells([id]);
    } else return;
    e.preventDefault();
  };
  const ghost = (rect: Rect): Rect => (gesture?.kind === 'move' ? { ...rect, x: rect.x + gesture.dx, y: rect.y + gesture.dy } : rect);
  const isMoving = gesture?.kind === 'move' && (gesture.dx !== 0 || gesture.dy !== 0);
  const focusable = selected.at(-1) ?? sheet.cells[0]?.id;
  const only = selected.length === 1 ? sheet.cells.find((c) => c.id === selected[0]) : undefined;
  const place = (r: Rect) => ({ left: r.x * scale, top: r.y * scale, width: r.w * scale, height: r.h * scale });
  return (
    <div ref={area} className="relative min-h-0 flex-1 overflow-hidden bg-surround">
      {room.width > 0 && (
        <div
          ref={board}
          role="listbox"
          aria-multiselectable
          aria-label={`Cells of ${sheet.name}`}
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={() => setGesture(null)}
          onKeyDown={onKeyDown}
          onDoubleClick={(e) => {
            // The board holds the pointer, so that the click is its own.
            const under = document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>('[data-cell]');
            const cell = sheet.cells.find((c) => c.id === Number(under?.dataset.cell));
            if (cell?.fill.kind === 'spare') openNewColor(useColoring.getState().cell, false);
          }}
          className="absolute touch-none bg-white select-none"
          style={{
            width: sheet.width * scale,
            height: sheet.height * scale,
            left: (room.width - sheet.width * scale) / 2,
            top: (room.height - sheet.height * scale) / 2 + 2,
          }}
        >
          <RegisterMarks width={sheet.width * scale} height={sheet.height * scale} reach={30} />
          <SheetPicture sheet={sheet} side={Math.max(sheet.width, sheet.height) * scale} drafts={drafts} look={look} className="block" />
          {sheet.cells.map((c) => (
            <CellBox
              key={c.id}
              cell={c}
              scale={scale}
              faces={uses.get(c.id)?.faces ?? 0}
              isSelected={selected.includes(c.id)}
              isFocusable={c.id === focusable}
            />
          ))}
          {only && isTextured(only.fill) && (
            <span
              aria-hidden
              className="pointer-events-none absolute z-20 h-3 w-3 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-ink bg-white"
              style={{ left: (only.rect.x + point[0] * only.rect.w) * scale, top: (only.rect.y + point[1] * only.rect.h) * scale }}
            />
          )}
          {isMoving &&
            sheet.cells
              .filter((c) => selected.includes(c.id))
              .map((c) => (
                <span
                  key={c.id}
                  aria-hidden
                  className="pointer-events-none absolute z-20 border-2 border-ink outline-2 outline-white"
                  style={{ ...place(ghost(c.rect)), background: c.fill.kind === 'spare' ? '#fff' : swatchOf(c) }}
                />
              ))}
          {gesture?.kind === 'resize' && (
            <span
              aria-hidden
              className="pointer-events-none absolute z-20 border-2 border-dashed border-ink bg-white/40"
              style={place(gesture.rect)}
            />
          )}
          {outlined && !gesture && (
            <span
              aria-hidden
              className="pointer-events-none absolute z-20 border-2 border-dashed border-ink outline-1 outline-white"
              style={place(outlined)}
            />
          )}
          {gesture?.kind === 'marquee' && (
            <span
              aria-hidden
              className="pointer-events-none absolute z-20 border border-dashed border-ink bg-white/30"
              style={place(boxOf(gesture))}
            />
          )}
          {only && only.fill.kind !== 'spare' && !gesture && !sheet.frozen && (
            <span
              data-handle={only.id}
              title="Drag to resize"
              className="absolute z-20 h-3 w-3 cursor-nwse-resize border-2 border-ink bg-white"
              style={{ left: (only.rect.x + only.rect.w) * scale - 8, top: (only.rect.y + only.rect.h) * scale - 8 }}
            />
          )}
        </div>
      )}
      <SelectionBar sheet={sheet} />
      <BoardTools sheet={sheet} />
    </div>
  );
}

const CellBox = memo(function CellBox({
  cell,
  scale,
  faces,
  isSelected,
  isFocusable,
}: {
  cell: Cell;
  scale: number;
  faces: number;
  isSelected: boolean;
  isFocusable: boolean;
}) {
  const { x, y, w, h } = cell.rect;
  const place = { left: x * scale, top: y * scale, width: w * scale, height: h * scale };
  const isSpare = cell.fill.kind === 'spare';
  const isPointed = useColoring((s) => s.pointedCell === cell.id);
  const seat = Math.min(7, place.width / 5, place.height / 5);
  const defaultFill = useDefaultFill(cell.id);
  return (
    <div
      role="option"
      data-cell={cell.id}
      aria-selected={isSelected}
      aria-label={
        isSpare
          ? 'spare cell'
          : `${cell.role || 'color without a role'}, ${swatchOf(cell)}, ${count(faces, 'face')}${defaultFill ? ', differs from the default' : ''}`
      }
      title={
        isSpare ? 'Spare. Double click: a new color here' : `${cell.role || 'Without a role'} ${swatchOf(cell)}\n${count(faces, 'face')}`
      }
      tabIndex={isFocusable ? 0 : -1}
      onPointerEnter={() => !isSpare && useColoring.setState({ pointedCell: cell.id })}
      onPointerLeave={() => useColoring.setState({ pointedCell: 0 })}
      className={`absolute outline-none focus-visible:z-10 focus-visible:outline-2 focus-visible:-outline-offset-4 focus-visible:outline-white ${
        isSelected
          ? 'z-10 border-[3px] border-ink shadow-[inset_0_0_0_2px_#fff]'
          : isPointed
            ? 'border-2 border-ink shadow-[inset_0_0_0_1.5px_#fff]'
            : isSpare
              ? 'hatched border border-dashed border-[#9a9a9a]'
              : ''
      }`}
      style={place}
    >
      {defaultFill && place.width >= 24 && <DefaultCorner fill={defaultFill} />}
      {!isSpare && faces > 0 && seat > 1.5 && (
        <span
          aria-hidden
          className="absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 rounded-full border-[1.5px] border-ink bg-white"
          style={{ width: seat, height: seat }}
        />
      )}
    </div>
  );
});

/** Where in a cell a point of the sheet lies, 0..1 across and down. */
const pointIn = ({ x, y, w, h }: Rect, at: { x: number; y: number }): Point => {
  const share = (v: number, size: number) => Math.max(0, Math.min(1, v / size));
  return [share(at.x - x, w), share(at.y - y, h)];
};

/** Cells move by whole cells where all lie on one grid, else by texels. */
function gridOf(sheet: Sheet): { w: number; h: number } {
  const { w, h } = commonCellSize(sheet);
  const isEven = sheet.cells.every(({ rect }) => rect.x % w === 0 && rect.y % h === 0 && rect.w % w === 0 && rect.h % h === 0);
  return isEven ? { w, h } : { w: 1, h: 1 };
}

const boxOf = ({ x, y, toX, toY }: Extract<Gesture, { kind: 'marquee' }>): Rect => ({
  x: Math.min(x, toX),
  y: Math.min(y, toY),
  w: Math.abs(toX - x),
  h: Math.abs(toY - y),
});

/** Whole texels under a box, inside the sheet. */
function texelsIn({ width, height }: Sheet, box: Rect): Rect {
  const [x, y] = [Math.max(0, Math.floor(box.x)), Math.max(0, Math.floor(box.y))];
  return { x, y, w: Math.min(width, Math.ceil(box.x + box.w)) - x, h: Math.min(height, Math.ceil(box.y + box.h)) - y };
}

function cellsUnder(sheet: Sheet, gesture: Extract<Gesture, { kind: 'marquee' }>): number[] {
  const box = boxOf(gesture);
  return sheet.cells
    .filter(({ rect: r }) => r.x < box.x + box.w + 1e-6 && box.x < r.x + r.w && r.y < box.y + box.h + 1e-6 && box.y < r.y + r.h)
    .map((c) => c.id);
}

/** The nearest cell in a direction, by the middles. */
function neighbour(sheet: Sheet, id: number, [dx, dy]: [number, number]): Cell | undefined {
  const from = sheet.cells.find((c) => c.id === id);
  if (!from) return sheet.cells[0];
  const middle = ({ rect }: Cell) => [rect.x + rect.w / 2, rect.y + rect.h / 2] as const;
  const [x, y] = middle(from);
  const distance = (c: Cell) => {
    const [cx, cy] = middle(c);
    const ahead = (cx - x) * dx + (cy - y) * dy;
    const aside = Math.abs((cx - x) * dy) + Math.abs((cy - y) * dx);
    return ahead > 1e-6 ? ahead + aside * 3 : Infinity;
  };
  const best = sheet.cells.reduce<{ c?: Cell; d: number }>((b, c) => (distance(c) < b.d ? { c, d: distance(c) } : b), { d: Infinity });
  return best.c;
}
