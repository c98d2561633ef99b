'use client';
import { carryColorsFrom } from '@/state/files/carrying';
import { useEditor } from '@/state/kit/editor';
import { useThumbnails } from '@/state/shown/thumbnails';
import { Modal } from '@/ui/Modal';
import { count } from '@/ui/words';

/** Which model's colors come to this one. */
export function CarryFrom({ to, onClose }: { to: string; onClose: () => void }) {
  const models = useEditor((s) => s.state.kit.models);
  const pictures = useThumbnails((s) => s.pictures);
  const name = models.find((m) => m.id === to)?.name ?? '';
  const others = models.filter((m) => m.id !== to);
  return (
    <Modal
      open
      width="wide"
      onClose={onClose}
      title={`Whose colors come to ${name}?`}
      description="An altered copy, or a like model: faces are matched by geometry. What cannot be matched is listed and keeps what it has."
    >
      {others.length === 0 && <p className="mt-4">There is no other model in the kit.</p>}
      <ul className="mt-4 grid grid-cols-5 gap-3">
        {others.map((m) => (
          <li key={m.id}>
            <button
              type="button"
              onClick={() => {
                onClose();
                void carryColorsFrom(m.id, to);
              }}
              className="block w-full border border-hairline text-left hover:border-ink"
            >
              <span className="flex h-24 items-center justify-center bg-surround">
                {/* eslint-disable-next-line @next/next/no-img-element */}
                {pictures[m.id] && <img src={pictures[m.id]} alt="" width={84} height={84} />}
              </span>
              <span className="block truncate px-2 pt-1.5 font-medium">{m.name}</span>
              <span className="block px-2 pb-1.5 text-[12px] text-quiet">{count(m.faces, 'face')}</span>
            </button>
          </li>
        ))}
      </ul>
    </Modal>
  );
}
