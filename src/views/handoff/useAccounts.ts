import { useEffect, useMemo, useState } from 'react';
import type { Cost } from '@/core/files/budget/tally';
import type { LeaveOptions } from '@/core/kit/leaveOptions';
import { useEditor } from '@/state/kit/editor';
import { costBefore, lossesAsObj, measureGlb, type What } from '@/state/files/exporting';
import { useHandOff } from '@/state/chosen/handOff';
import { useUnseen } from '@/state/proof/unseen';
import type { Measured } from '@/workers/leaving';

export interface Accounts {
  before: (Cost & { fileBytes: number }) | null;
  after: Partial<Record<LeaveOptions['meshes'], Measured>>;
  asObj: Measured['losses'];
  /** The figures are being taken anew. */
  isMeasuring: boolean;
  problem: string;
}

/** Milliseconds without a change after which figures are taken. */
const rest = 250;

/**
 * Figures of what came and of what would leave, in both ways; the chosen one is measured first. Taken anew
 * when something changed that is in the file.
 */
export function useAccounts(what: What): Accounts {
  const { models, sheets, slotsFrom } = useEditor((s) => s.state.kit);
  const seats = useEditor((s) => s.state.seats);
  const modelId = useEditor((s) => s.modelId);
  const isReady = useEditor((s) => s.preparing === 0 && s.state.kit.models.length > 0);
  const { meshes: _, ...options } = useHandOff();
  const chosen = JSON.stringify(options);
  const { leaveOut, faces } = useUnseen();
  const which = what === 'model' ? modelId : '';
  const came = models
    .filter((m) => !which || m.id === which)
    .map((m) => m.mesh)
    .join();
  const left = leaveOut ? faces : null;
  const [before, setBefore] = useState<Accounts['before']>(null);
  const [found, setFound] = useState<{ of: unknown; after: Accounts['after']; asObj: Measured['losses'] }>({
    of: null,
    after: {},
    asObj: [],
  });
  const [problem, setProblem] = useState('');

  useEffect(() => {
    if (!isReady) return;
    let isLatest = true;
    costBefore(what).then(
      (cost) => isLatest && setBefore(cost),
      (e: Error) => isLatest && setProblem(e.message),
    );
    return () => {
      isLatest = false;
    };
  }, [what, came, isReady]);

  // Names of what the figures are about: as long as these stay, so do the figures. They are of both ways,
  // whichever is chosen.
  const of = useMemo(
    () => ({ models, sheets, slotsFrom, seats, which, options: JSON.parse(chosen) as typeof options, left }),
    [models, sheets, slotsFrom, seats, which, chosen, left],
  );
  useEffect(() => {
    if (!isReady) return;
    let isLatest = true;
    const measure = async () => {
      const { meshes: first } = useHandOff.getState();
      const ways: LeaveOptions['meshes'][] = first === 'joined' ? ['joined', 'shared'] : ['shared', 'joined'];
      const after: Accounts['after'] = {};
      const asObj = await lossesAsObj(what, { ...of.options, meshes: first });
      for (const meshes of ways) {
        if (!isLatest) return;
        after[meshes] = await measureGlb(what, { ...of.options, meshes });
        if (isLatest) setFound({ of, after: { ...after }, asObj });
      }
      if (isLatest) setProblem('');
    };
    const timer = setTimeout(() => measure().catch((e: Error) => isLatest && setProblem(e.message)), rest);
    return () => {
      isLatest = false;
      clearTimeout(timer);
    };
  }, [what, of, isReady]);
  return { before, after: found.after, asObj: found.asObj, isMeasuring: found.of !== of || Object.keys(found.after).length < 2, problem };
}
