'use client';
import { ViewLink } from '@/views/shell/ViewLink';
import { useState } from 'react';
import type { Model } from '@/core/kit/kit';
import { checks, repairFor, sayFinding } from '@/core/judging/proof/checks';
import { isWaived, proofingOf, type Finding } from '@/core/judging/proof/finding';
import { useEditor } from '@/state/kit/editor';
import { stopLooking, useUnseen } from '@/state/proof/unseen';
import { lookForUnseen, repairFinding, showFinding, takeBackWaiver, unseenFindings, useProof, waive } from '@/state/proof/proof';
import { notifyError } from '@/state/told/notices';
import { Choice } from '@/ui/Choice';
import { ProgressLine } from '@/ui/ProgressLine';
import { count } from '@/ui/words';
import { ShownColoring } from '@/views/variants/ShownColoring';
import { views } from '@/views/shell/views';
import { Costs } from './Costs';
import { ProofSettings } from './ProofSettings';

const word = 'border-b border-ink hover:bg-wash';

/** What was found, the way to each, and what is let be. */
export function Findings() {
  const { findings: found, isBusy, of, shows } = useProof();
  const kit = useEditor((s) => s.state.kit);
  const modelId = useEditor((s) => s.modelId);
  const unseen = useUnseen((s) => s.faces);
  const models = kit.models.filter((m) => of === 'kit' || m.id === modelId);
  const findings = found && [...found, ...unseenFindings(models, unseen)];
  const { waived } = proofingOf(kit);
  const open = findings?.filter((f) => !isWaived(f, waived)) ?? [];
  const letBe = findings?.filter((f) => isWaived(f, waived)) ?? [];
  const good = [...checks.keys()]
    .filter((id) => findings && !findings.some((f) => f.check === id))
    .filter(
      // What was not looked at is not in order yet.
      (id) => id !== 'unseen' || models.every((m) => unseen[m.mesh]),
    );
  return (
    <section aria-label="Findings" className="flex w-[440px] shrink-0 flex-col border-r border-ink bg-white">
      <div className="flex h-[50px] shrink-0 items-center gap-3 border-b border-hairline bg-paper px-5">
        <h1 className="text-phrase font-bold" aria-live="polite">
          {findings === null ? 'Looking…' : open.length === 0 ? 'Nothing stands open' : `${count(open.length, 'thing')} to look at`}
        </h1>
        {isBusy && findings !== null && <span className="text-small text-quiet">looking again…</span>}
        <Choice
          label="Looked at"
          value={of}
          options={[
            ['model', 'This model'],
            ['kit', 'Whole kit'],
          ]}
          onChange={(next) => useProof.setState({ of: next, findings: null })}
          className="ml-auto shrink-0 border border-hairline"
        />
      </div>
      <Choice
        label="What is shown"
        value={shows}
        options={[
          ['findings', 'What is wrong'],
          ['costs', 'What it costs'],
        ]}
        onChange={(next) => useProof.setState({ shows: next })}
        className="shrink-0 border-b border-hairline [&>button]:h-9 [&>button]:flex-1"
      />
      <ShownColoring className="shrink-0 border-b border-hairline px-5 py-1.5">
        The model shows the default coloring; variants are looked at, too.
      </ShownColoring>
      <div className="min-h-0 flex-1 overflow-y-auto">
        {shows === 'costs' && <Costs key={of} what={of} />}
        <ul aria-label="To look at" hidden={shows === 'costs'}>
          {[...checks.keys()].map((id) => {
            const own = open.filter((f) => f.check === id);
            return own.length ? (
              <li key={id} className="border-b border-hairline px-5 py-3">
                <ul>
                  {own.map((f, i) => (
                    <Row
                      key={`${f.model} ${f.sheet} ${f.cells.join()} ${f.detail} ${f.variant}`}
                      found={f}
                      kit={kit.id}
                      models={kit.models}
                      isNamed={of === 'kit'}
                      isLast={i === own.length - 1}
                    />
                  ))}
                </ul>
              </li>
            ) : null;
          })}
        </ul>
        {shows === 'findings' && letBe.length > 0 && (
          <>
            <h2 className="px-5 pt-4 pb-1 text-small font-bold">Let be</h2>
            <ul aria-label="Let be">
              {letBe.map((f, i) => (
                <li key={`${f.check} ${f.model} ${i}`} className="flex items-baseline gap-3 px-5 py-1 text-quiet">
                  <span className="min-w-0 flex-1">
                    {sayFinding(f)}
                    {reasonOf(f) && <span className="block text-small">“{reasonOf(f)}”</span>}
                  </span>
                  <button type="button" className={word} onClick={() => takeBackWaiver(f.check, f.model)}>
                    look at it again
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
        {shows === 'findings' && found && <UnseenLine models={models} />}
        {shows === 'findings' && good.length > 0 && (
          <p className="px-5 pt-4 pb-4 text-small text-quiet">
            <strong>In order:</strong> {good.map((id) => checks.get(id)!.good).join(', ')}.
          </p>
        )}
      </div>
      {shows === 'findings' && <ProofSettings />}
    </section>
  );
  function reasonOf(f: Finding): string {
    return waived.find((w) => w.check === f.check && w.model === f.model)?.reason ?? '';
  }
}

/** Faces never seen are looked for apart; how far that is, or the way to have it done. */
function UnseenLine({ models }: { models: readonly Model[] }) {
  const { faces, busy } = useUnseen();
  const open = models.filter((m) => !faces[m.mesh]);
  if (!open.length) return null;
  const running = open.filter((m) => busy[m.mesh] !== undefined);
  if (!running.length)
    return (
      <p className="px-5 pt-4 text-[12.5px]">
        Faces seen from no side were not looked for in {open.length === 1 ? open[0]!.name : count(open.length, 'model')}.{' '}
        <button type="button" className={word} onClick={() => void lookForUnseen(open, Infinity).catch(notifyError)}>
          look for them
        </button>
      </p>
    );
  return (
    <p className="flex items-center gap-3 px-5 pt-4 text-[12.5px]">
      Looking for faces seen from no side
      <ProgressLine label="Looking for faces never seen" share={busy[running[0]!.mesh] ?? 0} className="flex-1" />
      <button type="button" className={word} onClick={stopLooking}>
        stop
      </button>
    </p>
  );
}

/** One finding; why it matters stands under the last of its kind. */
function Row({
  found,
  kit,
  models,
  isNamed,
  isLast,
}: {
  found: Finding;
  kit: string;
  models: readonly Model[];
  isNamed: boolean;
  isLast: boolean;
}) {
  const [isAsking, setAsking] = useState(false);
  const { why, see } = checks.get(found.check)!;
  const repair = repairFor(found);
  const says = sayFinding(found);
  const model = models.find((m) => m.id === found.model);
  return (
    <li className={isLast ? '' : 'pb-2'}>
      <p className="font-bold">
        {says}
        {isNamed && model && <span className="font-normal text-quiet"> · {model.name}</span>}
      </p>
      {isAsking ? (
        <form
          className="mt-1.5 flex items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            waive(found, new FormData(e.currentTarget).get('reason') as string);
          }}
        >
          <input
            name="reason"
            autoFocus
            maxLength={200}
            aria-label="Why it may be"
            placeholder="why it may be"
            className="h-8 min-w-0 flex-1 border border-hairline px-2"
          />
          <button type="submit" className={word}>
            let it be
          </button>
          <button type="button" className={word} onClick={() => setAsking(false)}>
            not
          </button>
        </form>
      ) : (
        <p className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1 text-[12.5px]">
          {found.faces.length > 0 && (
            <button type="button" className={word} aria-label={`Show me: ${says}`} onClick={() => showFinding(found)}>
              show me
            </button>
          )}
          {found.faces.length === 0 && found.cells.length > 0 && (
            <ViewLink href={`/kit/${kit}/palette`} className={word} aria-label={`Show me: ${says}`} onClick={() => showFinding(found)}>
              show me
            </ViewLink>
          )}
          {repair && (
            <button
              type="button"
              className={`${word} font-bold`}
              aria-label={`${repair.word}: ${says}`}
              onClick={() => void repairFinding(found, says)}
            >
              {repair.word}
            </button>
          )}
          {see && (
            <ViewLink href={`/kit/${kit}/${see}`} className={word} onClick={() => showFinding(found)}>
              see to it in {views[see].word}
            </ViewLink>
          )}
          <button type="button" className={`${word} ml-auto`} aria-label={`Let it be: ${says}`} onClick={() => setAsking(true)}>
            let it be
          </button>
        </p>
      )}
      {isLast && <p className="mt-1.5 text-[12.5px] text-[#444]">{why}</p>}
    </li>
  );
}
