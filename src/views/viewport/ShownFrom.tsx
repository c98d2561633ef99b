'use client';
import { frame, lookFrom, useView } from '@/state/chosen/viewState';
import { Choice } from '@/ui/Choice';

/** How the model is shown and from where, in a view in which it stands beside its sheet. */
export function ShownFrom() {
  const { shading, side } = useView();
  return (
    <div className="pointer-events-none flex flex-wrap justify-between gap-2 select-none [&_button]:pointer-events-auto">
      <Choice
        label="Shown"
        value={shading}
        options={[
          ['true', 'True color'],
          ['light', 'In light'],
        ]}
        onChange={(to) => useView.setState({ shading: to })}
      />
      <span className="flex gap-2">
        <Choice
          label="From"
          value={side}
          options={[
            ['front', 'Front'],
            ['left', 'Left'],
            ['top', 'Top'],
            ['free', 'Free'],
          ]}
          onChange={lookFrom}
        />
        <button
          type="button"
          className="h-[26px] bg-paper px-2.5 text-[12px] font-medium whitespace-nowrap hover:bg-wash"
          onClick={() => frame('model')}
        >
          Frame
        </button>
      </span>
    </div>
  );
}
