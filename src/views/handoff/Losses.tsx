import type { Measured } from '@/workers/leaving';

/** What would be lost, told before; nothing where all of it leaves. Models that lose the same are named together. */
export function Losses({ title, losses }: { title: string; losses: Measured['losses'] }) {
  const models = new Map<string, string[]>();
  for (const { model, lost } of losses) for (const what of lost) models.set(what, [...(models.get(what) ?? []), model]);
  if (!models.size) return null;
  return (
    <section aria-label={title} className="mt-3 border-t border-ink pt-2 text-[12px]">
      <h3 className="font-bold">{title}</h3>
      <ul className="mt-1 max-h-40 space-y-1 overflow-y-auto">
        {[...models].map(([what, of]) => (
          <li key={what} className="flex gap-2">
            <span aria-hidden>–</span>
            <span>
              {what} <span className="text-quiet">{of.length > 3 ? `${of.length} models` : of.join(', ')}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
