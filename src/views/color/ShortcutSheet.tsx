'use client';
import { useHelp } from '@/state/told/help';
import { Key } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Modal } from '@/ui/Modal';
import { HowItGoes } from './HowItGoes';
import { shortcutGroups } from './shortcutList';

const pointer: [string, string][] = [
  ['Click', 'take what the phrase says'],
  ['Shift click', 'add it'],
  ['Alt or Ctrl click', 'take it away'],
  ['Double click', 'widen to the next larger scope'],
  ['Drag', 'turn'],
  ['Right drag, two fingers', 'pan'],
  ['Wheel', 'zoom to the pointer'],
  ['Arrows in the viewport', 'step from face to face; Enter takes'],
  ['Shift arrows there', 'turn'],
  ['Page up, page down there', 'zoom'],
];

/** Keys that the shell listens for in every view. */
const history = [
  { shown: 'Ctrl Z', does: 'undo' },
  { shown: 'Ctrl Shift Z', does: 'redo' },
];

export function ShortcutSheet() {
  const { isOpen, page } = useHelp();
  return (
    <Modal open={isOpen} onClose={() => useHelp.setState({ isOpen: false })} title="Help" width="widest">
      <Choice
        label="What is told"
        value={page}
        options={[
          ['way', 'How it goes'],
          ['keys', 'Keys and pointer'],
        ]}
        onChange={(to) => useHelp.setState({ page: to })}
        className="mt-3 border border-ink"
      />
      {page === 'way' && <HowItGoes />}
      <div hidden={page !== 'keys'} className={page === 'keys' ? 'mt-4 columns-3 gap-8' : ''}>
        {shortcutGroups.map(({ name, list }) => (
          <section key={name} className="mb-5 break-inside-avoid">
            <h3 className="mb-1.5 border-b border-ink pb-1 font-bold">{name}</h3>
            {[...list, ...(name === 'Everywhere' ? history : [])].map((s) => (
              <p key={s.shown} className="flex justify-between gap-4 py-[3px]">
                {s.does}
                <Key>{s.shown}</Key>
              </p>
            ))}
          </section>
        ))}
        <section className="break-inside-avoid">
          <h3 className="mb-1.5 border-b border-ink pb-1 font-bold">Pointer</h3>
          {pointer.map(([how, does]) => (
            <p key={how} className="flex justify-between gap-4 py-[3px]">
              {does}
              <span className="shrink-0 text-quiet">{how}</span>
            </p>
          ))}
        </section>
      </div>
    </Modal>
  );
}
