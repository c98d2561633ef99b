'use client';
import { Popover } from 'radix-ui';
import { gridStep } from '@/views/viewport/gridStep';
import { useDropper } from '@/state/sheet/drawing';
import { currentOf, useEditor } from '@/state/kit/editor';
import { frame, hasPerspective, lookFrom, togglePerspective, useView, type Shading, type Side } from '@/state/chosen/viewState';
import { Choice } from '@/ui/Choice';
import { largestSide } from '@/core/shapes/mesh/measure';
import { Menu } from '@/ui/Menu';
import { Tick } from '@/ui/Tick';

const shadings = [
  ['true', 'True color'],
  ['light', 'In light'],
  ['grey', 'Grey values'],
] as const satisfies readonly (readonly [Shading, string])[];
const sides = [
  ['front', 'Front'],
  ['back', 'Back'],
  ['left', 'Left'],
  ['right', 'Right'],
  ['top', 'Top'],
  ['bottom', 'Bottom'],
  ['free', 'Free'],
] as const satisfies readonly (readonly [Side, string])[];

const look = 'h-[26px] bg-paper px-2.5 text-[12px] font-medium hover:bg-wash';

/** How the model is shown, and from where. */
export function ViewBar() {
  const view = useView();
  const side = sides.find(([key]) => key === view.side)![1];
  const isFloating = useDropper((s) => s.floating !== null);
  return (
    // In one row at every width: beside a panel the names of the sides go into a menu.
    <div className="@container pointer-events-none absolute inset-x-5 bottom-4 select-none [&_button]:pointer-events-auto">
      <div className="flex justify-between gap-2">
        <div className="flex gap-2">
          <Choice label="Shown" value={view.shading} options={shadings} onChange={(shading) => useView.setState({ shading })} />
          <Popover.Root>
            <Popover.Trigger className={`${look} data-[state=open]:bg-ink data-[state=open]:text-paper`}>Lines and ground</Popover.Trigger>
            <Popover.Portal>
              <Popover.Content side="top" align="start" sideOffset={6} className="z-50 w-72 space-y-2 border border-ink bg-white p-4">
                <Tick label="Edges of the faces" value={view.edges} onChange={(edges) => useView.setState({ edges })} />
                <Tick label={`Floor, lines every ${gridWords()}`} value={view.grid} onChange={(grid) => useView.setState({ grid })} />
                <Tick label="Edges marked as seams" value={view.seams} onChange={(seams) => useView.setState({ seams })} />
                <Tick
                  label="Dashes around faces that differ from the default"
                  value={view.differing}
                  onChange={(differing) => useView.setState({ differing })}
                />
                <Tick
                  label="Backs of one-sided faces without color, as a game leaves them out"
                  value={view.backs}
                  onChange={(backs) => useView.setState({ backs })}
                />
                <Tick
                  label="Only the faces behind, seen from inside"
                  value={view.behind}
                  onChange={(behind) => useView.setState({ behind })}
                />
                <CutSlider />
                <label className="block pt-1">
                  Grey around the model
                  <input
                    type="range"
                    min={20}
                    max={235}
                    value={view.surround}
                    onChange={(e) => useView.setState({ surround: Number(e.target.value) })}
                    className="slider-plain"
                  />
                </label>
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
          <button
            type="button"
            aria-pressed={isFloating}
            className={`${look} aria-pressed:bg-ink aria-pressed:text-paper`}
            onClick={() => useDropper.setState({ floating: isFloating ? null : '' })}
          >
            References
          </button>
        </div>
        <div className="flex gap-2">
          <button
            type="button"
            aria-pressed={hasPerspective(view)}
            className={`${look} aria-pressed:bg-ink aria-pressed:text-paper`}
            onClick={togglePerspective}
          >
            Perspective
          </button>
          <Menu
            label={`Seen from: ${side}`}
            trigger={side}
            className={`${look} @min-[850px]:hidden`}
            items={sides.map(([key, word]) => ({ label: word, run: () => lookFrom(key) }))}
          />
          <div role="group" aria-label="Seen from" className="hidden bg-paper @min-[850px]:inline-flex">
            {sides.map(([side, word]) => (
              <button
                key={side}
                type="button"
                aria-pressed={view.side === side && !view.isTurned}
                title={side === 'free' ? 'With perspective' : 'Without perspective'}
                className="h-[26px] px-2 text-[12px] font-medium hover:bg-ink hover:text-paper aria-pressed:bg-ink aria-pressed:text-paper"
                onClick={() => lookFrom(side)}
              >
                {word}
              </button>
            ))}
          </div>
          <button type="button" className={look} onClick={() => frame('pick')}>
            Frame
          </button>
        </div>
      </div>
    </div>
  );
}

/** A plane along an axis: what lies before it is cut away, so that one can reach inside. */
function CutSlider() {
  const cut = useView((s) => s.cut);
  const bounds = currentOf(useEditor.getState())?.loaded?.bounds;
  const [least, most] = cut && bounds ? [bounds.min[cut.axis]!, bounds.max[cut.axis]!] : [0, 1];
  return (
    <div role="group" aria-label="Cut" className="pt-1">
      <span className="flex items-center justify-between">
        Cut away along
        <Choice
          label="Cut away along"
          value={cut ? (['x', 'y', 'z'] as const)[cut.axis] : 'none'}
          options={[
            ['none', 'none'],
            ['x', 'x'],
            ['y', 'y'],
            ['z', 'z'],
          ]}
          onChange={(axis) => {
            const k = ['x', 'y', 'z'].indexOf(axis) as 0 | 1 | 2 | -1;
            useView.setState({
              cut: k < 0 || !bounds ? null : { axis: k as 0 | 1 | 2, offset: (bounds.min[k as 0]! + bounds.max[k as 0]!) / 2 },
            });
          }}
          className="border border-hairline"
        />
      </span>
      {cut && (
        <input
          type="range"
          aria-label="Where it is cut"
          min={least}
          max={most}
          step={(most - least) / 200}
          value={cut.offset}
          onChange={(e) => useView.setState({ cut: { ...cut, offset: Number(e.target.value) } })}
          className="slider-plain"
        />
      )}
    </div>
  );
}

function gridWords(): string {
  const bounds = currentOf(useEditor.getState())?.loaded?.bounds;
  if (!bounds) return '1 m';
  return `${gridStep(largestSide(bounds))} m`;
}
