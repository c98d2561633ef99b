'use client';
import { Bar, BarChart, Cell, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';

/** Draw calls as bars, in colors of the palette; the table beside it says the same. */
export default function CostChart({ rows }: { rows: readonly { name: string; drawCalls: number; color: string }[] }) {
  return (
    <figure aria-hidden className="mt-3">
      <figcaption className="mb-1 text-small text-quiet">Draw calls</figcaption>
      <ResponsiveContainer width="100%" height={110}>
        <BarChart layout="vertical" data={[...rows]} margin={{ top: 0, right: 40, bottom: 0, left: 0 }} barCategoryGap={5}>
          <XAxis type="number" hide domain={[0, 'dataMax']} />
          <YAxis
            type="category"
            dataKey="name"
            width={92}
            tickLine={false}
            axisLine={{ stroke: '#111' }}
            interval={0}
            tick={{ fontSize: 12, fill: '#111' }}
          />
          <Bar dataKey="drawCalls" isAnimationActive={false} minPointSize={2}>
            {rows.map((r) => (
              <Cell key={r.name} fill={r.color} stroke="#111" strokeWidth={0.5} />
            ))}
            <LabelList dataKey="drawCalls" position="right" style={{ fontSize: 11, fill: '#444' }} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </figure>
  );
}
