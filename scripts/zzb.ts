import { benchPaint } from './benchPaint';
const time = (n: number, run: () => unknown) => { run(); const all: number[] = []; for (let i = 0; i < n; i++) { const t = performance.now(); run(); all.push(performance.now() - t); } return all.sort((a, b) => a - b)[n >> 1]!; };
for (const row of benchPaint(time as never)) console.log(row[0], Number(row[1]).toFixed(1), row[2], Number(row[3]).toFixed(1));
