'use client';
import { useEffect, useMemo, useState } from 'react';
import { placementsInView, stageCounter, type StageCost } from '@/core/stage/stageCosts';
import { ownCostOf, type OwnCost } from '@/state/stage/ownCost';
import { stageView } from '@/state/stage/stageView';
import { useStage } from '@/state/stage/stage';
import { useEditor } from '@/state/kit/editor';
import { useBase } from '@/state/kit/useCurrent';
import { usePictures } from '@/state/chosen/pictures';
import { bytes, number } from '@/ui/words';

/** Milliseconds of rest after which what the camera sees is counted. */
const rest = 150;

/** What the scene costs, as an engine would count it, and what it would cost with every model's own materials. */
export function StageCosts() {
  const base = useBase();
  const meshes = useEditor((s) => s.meshes);
  const rasters = usePictures((s) => s.rasters);
  const view = useStage((s) => s.view);
  const placements = base.kit.placements;
  const loadedOf = useMemo(() => {
    const byModel = new Map(base.kit.models.map((m) => [m.id, meshes[m.mesh]]));
    return (model: string) => byModel.get(model);
  }, [base.kit.models, meshes]);
  const counter = useMemo(
    () => stageCounter(base, (model) => loadedOf(model)?.mesh, rasters),
    // What stands there costs nothing by being moved.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [base.kit.sheets, base.kit.models, base.kit.variants, base.seats, base.patches, loadedOf, rasters],
  );
  const all = useMemo(() => counter(placements ?? []), [counter, placements]);
  const [seen, setSeen] = useState<{ of: typeof placements; cost: StageCost } | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      const matrix = stageView();
      if (matrix) setSeen({ of: placements, cost: counter(placementsInView(placements ?? [], matrix, (m) => loadedOf(m)?.bounds)) });
    }, rest);
    return () => clearTimeout(timer);
  }, [view, placements, counter, loadedOf]);
  const own = useOwnCost(placements);
  if (!placements?.length) return null;
  const inView = seen?.of === placements ? seen.cost : null;
  const rows: [string, (c: StageCost) => string, ((c: OwnCost) => string)?][] = [
    ['placements', (c) => number(c.placements)],
    ['draw calls', (c) => number(c.drawCalls), (c) => number(c.drawCalls)],
    ['in one go', (c) => number(c.instanced)],
    ['triangles', (c) => number(c.triangles)],
    ['vertices', (c) => number(c.vertices), (c) => number(c.vertices)],
    ['materials', (c) => number(c.materials), (c) => number(c.materials)],
    ['memory of sheets', (c) => bytes(c.textureBytes)],
    ['picture files', () => '', (c) => bytes(c.pictureBytes)],
  ];
  return (
    <section aria-label="What it costs" className="mt-5 border-t border-hairline pt-4">
      <table className="w-full text-[12px]">
        <caption className="pb-1 text-left text-[14px] font-bold">What it costs</caption>
        <thead>
          <tr className="text-right text-quiet">
            <td />
            <th scope="col" className="font-normal">
              placed
            </th>
            <th scope="col" className="font-normal">
              in view
            </th>
            <th scope="col" className="pl-2 font-normal" title="The same scene, had every model kept its own materials and pictures">
              its own
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([word, say, sayOwn]) => (
            <tr key={word} className="border-t border-hairline">
              <th scope="row" className="py-1 text-left font-normal">
                {word}
              </th>
              <td className="text-right font-bold">{say(all)}</td>
              <td className="text-right">{inView ? say(inView) : ''}</td>
              <td className="pl-2 text-right text-quiet">{own && sayOwn ? sayOwn(own) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-[12px] text-quiet">
        “In one go”: models of one coloring as instances. “Its own”: had every model kept the materials and pictures that it came with.
      </p>
    </section>
  );
}

/** What the scene would cost with what its models came with. */
function useOwnCost(placements: ReturnType<typeof useBase>['kit']['placements']): OwnCost | null {
  const [known, setKnown] = useState<{ of: typeof placements; cost: OwnCost } | null>(null);
  useEffect(() => {
    let isLatest = true;
    if (placements?.length)
      ownCostOf(placements).then(
        (cost) => isLatest && cost && setKnown({ of: placements, cost }),
        () => undefined,
      );
    return () => {
      isLatest = false;
    };
  }, [placements]);
  return known && known.of === placements ? known.cost : null;
}
