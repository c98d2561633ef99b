import { reportText, type HandOffReport } from '@/core/files/handoff/report';
import { notify } from '@/state/told/notices';
import { Button } from '@/ui/Button';
import { bytes, count, number } from '@/ui/words';

const copy = (text: string, said: string) => () =>
  void navigator.clipboard.writeText(text).then(
    () => notify(said),
    () => notify('The browser did not let it be copied.', { isError: true }),
  );

/** What left, file by file. */
export function PlanReport({ report, words }: { report: HandOffReport; words: string }) {
  return (
    <section aria-label="What left" className="border border-ink bg-white p-5">
      <h2 className="mb-1 font-bold">What left</h2>
      <p className="mb-2">
        {words} {count(report.files.length, 'file')}, {bytes(report.bytes)}.
      </p>
      <table className="w-full text-[12.5px]">
        <thead>
          <tr className="border-b border-ink text-left text-[12px] text-quiet">
            <th className="pb-1 font-normal">File</th>
            <th className="pb-1 pl-2 text-right font-normal">Draw calls</th>
            <th className="pb-1 pl-2 text-right font-normal">Vertices</th>
            <th className="pb-1 pl-2 text-right font-normal">Size</th>
          </tr>
        </thead>
        <tbody>
          {report.files.map((f) => (
            <tr key={f.path} className="border-b border-hairline align-baseline">
              <th scope="row" className="max-w-[180px] truncate py-1 text-left font-normal" title={f.path}>
                {f.path}
              </th>
              <td className="pl-2 text-right">{f.cost ? number(f.cost.drawCalls) : ''}</td>
              <td className="pl-2 text-right">{f.cost ? number(f.cost.vertices) : ''}</td>
              <td className="pl-2 text-right whitespace-nowrap">{bytes(f.bytes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3 flex gap-2">
        <Button onClick={copy(reportText(report), 'The report was copied.')}>Copy the report</Button>
        <Button onClick={copy(JSON.stringify(report, null, 2), 'The report was copied as JSON.')}>Copy as JSON</Button>
      </div>
    </section>
  );
}
