'use client';
import { Bar, BarChart, Cell, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';

export interface UseRow {
  id: number;
  name: string;
  color: string;
  /** Percent. */
  share: number;
}

const percent = (v: number) => `${v < 10 ? v.toFixed(1) : Math.round(v)} %`;

/** Bars in the colors themselves; below them the same as buttons, for keys and readers. */
export default function UseChart({ rows, onChoose }: { rows: readonly UseRow[]; onChoose: (id: number) => void }) {
  const data = rows.slice(0, 24);
  return (
    <div className="relative" style={{ height: data.length * 24 + 4 }}>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart layout="vertical" data={data} margin={{ top: 0, right: 44, bottom: 0, left: 0 }} barCategoryGap={4}>
          <XAxis type="number" hide domain={[0, 'dataMax']} />
          <YAxis
            type="category"
            dataKey="name"
            width={118}
            tickLine={false}
            axisLine={{ stroke: '#111' }}
            interval={0}
            tick={{ fontSize: 12, fill: '#111' }}
            tickFormatter={(v: string) => (v.length > 18 ? `${v.slice(0, 17)}…` : v)}
          />
          <Bar dataKey="share" isAnimationActive={false} minPointSize={2}>
            {data.map((r) => (
              <Cell key={r.id} fill={r.color} stroke={r.id ? 'none' : '#111'} strokeDasharray={r.id ? undefined : '3 2'} />
            ))}
            <LabelList dataKey="share" position="right" formatter={(v) => percent(Number(v))} style={{ fontSize: 11, fill: '#444' }} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
      <ul aria-label="Use of color" className="absolute inset-0">
        {data.map((r) => (
          <li key={r.id} className="h-6">
            <button
              type="button"
              aria-label={`${r.name}, ${percent(r.share)}: pick its faces`}
              onClick={() => onChoose(r.id)}
              className="h-full w-full hover:outline-1 hover:outline-ink"
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
