import type { Tally } from '@/core/files/budget/tally';
import type { LeaveOptions } from '@/core/kit/leaveOptions';
import { useHandOff } from '@/state/chosen/handOff';
import { Choice } from '@/ui/Choice';
import { bytes, count, number } from '@/ui/words';
import { Losses } from './Losses';
import type { Accounts as Figures } from './useAccounts';

type Figure = NonNullable<Figures['before']>;

/** The GLB as it came and as it leaves, in both ways, with what does not leave. `forNames`: draw calls that nodes kept for their names cost. */
export function Accounts({ accounts, tally, forNames }: { accounts: Figures; tally: Tally; forNames: number }) {
  const meshes = useHandOff((s) => s.meshes);
  const { before, after, isMeasuring } = accounts;
  const figure = (way: LeaveOptions['meshes']): Figure | null => {
    const m = after[way];
    return m ? { ...m.cost, fileBytes: m.fileBytes } : null;
  };
  const [joined, shared] = [figure('joined'), figure('shared')];
  const isSame = joined !== null && shared !== null && joined.drawCalls === shared.drawCalls && joined.gpuVertices === shared.gpuVertices;
  const ways: LeaveOptions['meshes'][] = isSame ? [meshes] : ['joined', 'shared'];
  const rows: [string, (c: Figure) => string][] = [
    ['Draw calls', (c) => number(c.drawCalls)],
    ['GPU vertices', (c) => number(c.gpuVertices)],
    ['Materials', (c) => number(c.materials)],
    ['Texture bytes', (c) => bytes(c.textureBytes)],
    ['File bytes', (c) => (c.fileBytes ? bytes(c.fileBytes) : 'made here')],
  ];
  const heads: Record<LeaveOptions['meshes'], string> = isSame
    ? { joined: 'as it leaves', shared: 'as it leaves' }
    : { joined: 'fewest draws', shared: 'shared kept' };
  return (
    <section aria-label="Before and after" aria-busy={isMeasuring} className="h-fit border border-ink bg-white p-5">
      <h2 className="mb-2 flex items-baseline justify-between font-bold">
        Before and after
        <span role="status" className="text-[12px] font-normal text-quiet">
          {isMeasuring ? 'measuring…' : ''}
        </span>
      </h2>
      {!isSame && (
        <Choice
          label="Meshes"
          value={meshes}
          options={[
            ['joined', 'Fewest draw calls'],
            ['shared', 'Shared meshes kept'],
          ]}
          onChange={(to) => useHandOff.setState({ meshes: to })}
          className="mb-3 border border-ink"
        />
      )}
      <table className="w-full">
        <thead>
          <tr className="border-b border-ink text-left text-[12px] text-quiet">
            <th className="pb-1 font-normal">GLB</th>
            <th className="pb-1 text-right font-normal">as it came</th>
            {ways.map((way) => (
              <th key={way} className={`pb-1 text-right ${way === meshes ? 'font-bold text-ink' : 'font-normal'}`}>
                {heads[way]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, say]) => (
            <tr key={name} className="border-b border-hairline">
              <th scope="row" className="py-2 text-left font-normal">
                {name}
              </th>
              <td className="text-right">{before ? say(before) : '…'}</td>
              {ways.map((way) => {
                const of = figure(way);
                return (
                  <td key={way} className={`text-right ${way === meshes ? 'text-[15px] font-bold' : 'text-quiet'}`}>
                    {of ? say(of) : '…'}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {tally.uncolored > 0 && (
        <p role="status" aria-label="When all is colored" className="mt-2">
          <strong>{count(tally.drawCalls, 'draw call')} now</strong>, since {count(tally.uncolored, 'face')} not yet colored{' '}
          {tally.uncolored === 1 ? 'keeps its' : 'keep their'} own materials;{' '}
          {tally.whenColored === tally.drawCalls ? (
            'no fewer when all is colored.'
          ) : (
            <>
              <strong>{number(tally.whenColored)} when all is colored</strong>.
            </>
          )}
        </p>
      )}
      {forNames > 0 && (
        <p role="status" aria-label="Nodes with names" className="mt-2 text-[12.5px]">
          <strong>{count(forNames, 'draw call')} more</strong> since nodes with names are kept apart, to be moved or pressed in a game.
          “Named nodes joined too”, at GLB, saves them.
        </p>
      )}
      <p className="mt-2 text-[12px] text-quiet">
        {isSame && !forNames
          ? 'Nothing is left to join: each material is one draw call already.'
          : 'Joined meshes draw in fewer calls; shared ones are on the card once, however often they are shown. What an animation or a skin moves stays apart.'}
      </p>
      <Losses title="What does not leave in the GLB" losses={after[meshes]?.losses ?? []} />
    </section>
  );
}
