'use client';
import { Bar, BarChart, Cell, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { DrawnPalette } from '@/core/sheet/picture/drawColors';

/** How far off a picture is with 1, 2, 3… colors: each bar in the colors that are drawn then. */
export default function ErrorCurve({
  series,
  number,
  onChoose,
}: {
  series: readonly DrawnPalette[];
  number: number;
  onChoose: (n: number) => void;
}) {
  const data = series.map((p) => ({ colors: p.colors.length, error: Number(p.error.toFixed(4)), last: p.colors }));
  return (
    <div role="img" aria-label={`Mean error for ${data.map((d) => `${d.colors}: ${d.error}`).join(', ')} colors`} className="my-2 h-[84px]">
      <svg width={0} height={0} className="absolute" aria-hidden>
        <defs>
          {data.map((d) => (
            <linearGradient key={d.colors} id={`drawn${d.colors}`} x1="0" y1="0" x2="0" y2="1">
              {stops(d.last).map(([color, from, to], i) => [
                <stop key={`${i}a`} offset={from} stopColor={color} />,
                <stop key={`${i}b`} offset={to} stopColor={color} />,
              ])}
            </linearGradient>
          ))}
        </defs>
      </svg>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart data={data} margin={{ top: 4, right: 0, bottom: 0, left: 0 }} barCategoryGap={1}>
          <XAxis
            dataKey="colors"
            tick={{ fontSize: 10, fill: '#6b6b6b' }}
            tickLine={false}
            axisLine={{ stroke: '#111' }}
            interval={3}
            height={16}
          />
          <YAxis hide scale="sqrt" domain={[0, 'dataMax']} />
          <Tooltip
            cursor={false}
            isAnimationActive={false}
            formatter={(value) => [String(value), 'mean error']}
            labelFormatter={(label) => `${String(label)} colors`}
            contentStyle={{ border: '1px solid #111', borderRadius: 0, fontSize: 12, padding: '4px 8px' }}
            itemStyle={{ color: '#111' }}
          />
          <Bar
            dataKey="error"
            isAnimationActive={false}
            onClick={(entry) => onChoose((entry as unknown as { colors: number }).colors)}
            className="cursor-pointer"
          >
            {data.map((d) => (
              <Cell key={d.colors} fill={`url(#drawn${d.colors})`} stroke={d.colors === number ? '#111' : 'none'} strokeWidth={2} />
            ))}
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}

function stops(colors: DrawnPalette['colors']): [string, number, number][] {
  let at = 0;
  return colors.map(({ color, share }) => {
    const from = at;
    at += share;
    return [color, from, at];
  });
}
