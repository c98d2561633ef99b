import { useEffect, useMemo } from 'react';
import { ViewLink } from '@/views/shell/ViewLink';
import { Copy, Plus, Trash2 } from 'lucide-react';
import { bringsPictures, plannedFiles } from '@/core/files/handoff/tree';
import { templateProblem } from '@/core/files/handoff/manifest';
import type { HandOff } from '@/core/kit/kit';
import { useEditor } from '@/state/kit/editor';
import { addPlan, addPlanFrom, cancelPlan, downloadPlan, proveAll, removePlan, usePlans, writePlanIntoFolder } from '@/state/files/plans';
import { canWriteFolders } from '@/state/files/folders';
import { startLive, stopLive } from '@/state/files/liveFolder';
import { useLiveFolder } from '@/state/chosen/liveState';
import { notifyError } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { FileChooser } from '@/ui/FileChooser';
import { ProgressLine } from '@/ui/ProgressLine';
import { count } from '@/ui/words';
import { PlanEditor } from './PlanEditor';
import { PlanReport } from './PlanReport';
import { PlanTree } from './PlanTree';
import { Restores } from './Restores';

/** Milliseconds without a further change after which everything is looked at again. */
const rest = 400;

/** Ways of leaving that are kept with the kit: which files, where they lie, what is said of them. */
export function Plans() {
  const { kit, seats } = useEditor((s) => s.state);
  const isReady = useEditor((s) => s.preparing === 0);
  const { open } = usePlans();
  const plan = kit.handOffs.find((p) => p.id === open) ?? kit.handOffs[0];
  useEffect(() => {
    if (!isReady) return;
    const timer = setTimeout(() => void proveAll().catch(notifyError), rest);
    return () => clearTimeout(timer);
  }, [isReady, kit.models, kit.sheets, kit.proof, seats]);
  if (!plan)
    return (
      <div className="mx-auto mt-10 w-[520px] border border-ink bg-white p-6 text-center">
        <h2 className="text-phrase font-bold">Leave the same way every time</h2>
        <p className="mt-1 text-[#444]">
          A plan says which files leave, in which folders, and what a manifest says of them. It is kept with the kit, and writes the same
          bytes for the same colors.
        </p>
        <div className="mt-4 flex justify-center gap-4">
          <Button kind="solid" onClick={() => addPlan()}>
            Make a plan
          </Button>
          <FromExample />
        </div>
      </div>
    );
  return (
    <>
      <div role="group" aria-label="Plans" className="mb-5 flex flex-wrap items-center gap-2">
        {kit.handOffs.map((p) => (
          <button
            key={p.id}
            type="button"
            aria-pressed={p.id === plan.id}
            onClick={() => usePlans.setState({ open: p.id })}
            className={`min-h-8 max-w-[260px] truncate border px-3 font-medium ${p.id === plan.id ? 'border-ink bg-ink text-paper' : 'border-hairline bg-white hover:bg-wash'}`}
          >
            {p.name || 'Without a name'}
          </button>
        ))}
        <Button kind="bare" onClick={() => addPlan()}>
          <Plus size={15} aria-hidden /> New plan
        </Button>
        <FromExample />
        <span className="ml-auto flex gap-1">
          <Button kind="bare" onClick={() => addPlan(plan)} aria-label={`Duplicate ${plan.name}`}>
            <Copy size={15} aria-hidden />
          </Button>
          <Button kind="bare" onClick={() => removePlan(plan)} aria-label={`Remove ${plan.name}`}>
            <Trash2 size={15} aria-hidden />
          </Button>
        </span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_420px] gap-8">
        <PlanEditor key={plan.id} plan={plan} />
        <Leaving plan={plan} />
      </div>
    </>
  );
}

/** An archive or folder as it shall be: the plan is read from it. */
function FromExample() {
  const take = (files: File[]) => void addPlanFrom(files).catch(notifyError);
  const word = 'border-b border-ink hover:bg-wash';
  return (
    <span className="flex items-center gap-2">
      like
      <FileChooser label="Archive as an example" accept=".zip" onFiles={take} className={word}>
        an archive…
      </FileChooser>
      <FileChooser label="Folder as an example" accept="" folder onFiles={take} className={word}>
        a folder…
      </FileChooser>
    </span>
  );
}

/** What a plan writes, what stands in the way, and the way out. */
function Leaving({ plan }: { plan: HandOff }) {
  const state = useEditor((s) => s.state);
  const { kit } = state;
  const { writing, left, findings } = usePlans();
  const { live, last } = useLiveFolder();
  const files = useMemo(() => plannedFiles(state, plan), [state, plan]);
  const meshes = useEditor((s) => s.meshes);
  const isBringing = useMemo(() => bringsPictures(state, plan, (m) => meshes[m.mesh]?.mesh), [state, plan, meshes]);
  const inTemplate = plan.manifest ? templateProblem(plan.manifest.template) : '';
  const wrong = [...files.flatMap((f) => (f.problem ? [`${f.path}: ${f.problem}`] : [])), ...(inTemplate ? [inTemplate] : [])];
  const problems = wrong.length;
  const isHeld = plan.onlyProven === true && (findings === null || findings.length > 0);
  const isBusy = writing !== null;
  return (
    <div className="sticky top-4 flex flex-col gap-5 self-start">
      <section aria-label="What it writes" className="border border-ink bg-white p-5">
        <h2 className="mb-2 flex items-baseline justify-between font-bold">
          What it writes
          <span className="text-[12px] font-normal text-quiet">{count(files.length, 'file')}</span>
        </h2>
        <PlanTree files={files} />
        {isBringing && <p className="mt-1 text-[12px] text-quiet">and the pictures of faces not yet colored</p>}
        <p role="status" aria-label="Proof" className="mt-4 border-t border-hairline pt-3">
          {findings === null ? (
            <span className="text-quiet">Proof is looking…</span>
          ) : findings.length === 0 ? (
            'Proof: nothing stands open.'
          ) : (
            <>
              <ViewLink href={`/kit/${kit.id}/proof`} className="border-b border-ink hover:bg-wash">
                Proof: {count(findings.length, 'thing')} to look at
              </ViewLink>
              {isHeld ? ', and this plan leaves only when nothing is.' : '. It can leave all the same.'}
            </>
          )}
        </p>
        <div className="mt-3 flex flex-wrap items-center gap-2">
          {isBusy ? (
            <>
              <ProgressLine share={writing.done} label="Writing" />
              <Button onClick={cancelPlan}>Cancel</Button>
            </>
          ) : (
            <>
              <Button
                kind="solid"
                disabled={problems > 0 || isHeld || files.length === 0}
                onClick={() => void downloadPlan(plan).catch(notifyError)}
              >
                Download as a zip
              </Button>
              {canWriteFolders() && (
                <Button
                  disabled={problems > 0 || isHeld || files.length === 0}
                  onClick={() => void writePlanIntoFolder(plan).catch(notifyError)}
                >
                  Write into a folder…
                </Button>
              )}
              {canWriteFolders() && live?.plan !== plan.id && (
                <Button disabled={problems > 0 || isHeld || files.length === 0} onClick={() => void startLive(plan).catch(notifyError)}>
                  Live folder…
                </Button>
              )}
            </>
          )}
        </div>
        {live?.plan === plan.id && (
          <p role="status" aria-label="Live folder" className="mt-3 border-l-4 border-ink pl-3">
            <strong>“{live.folder}” is live:</strong> each change writes what it touches. {last}{' '}
            <button type="button" className="border-b border-ink hover:bg-wash" onClick={stopLive}>
              Stop
            </button>
          </p>
        )}
        {problems > 0 && (
          <div role="alert" className="mt-3 border-l-4 border-ink pl-3">
            <p className="font-bold">{count(problems, 'thing')} to mend before it can leave:</p>
            {wrong.slice(0, 4).map((words) => (
              <p key={words} className="break-words">
                {words}
              </p>
            ))}
            {problems > 4 && <p>and {problems - 4} more.</p>}
          </div>
        )}
      </section>
      <Restores />
      {left?.id === plan.id && <PlanReport report={left.report} words={left.words} />}
    </div>
  );
}
