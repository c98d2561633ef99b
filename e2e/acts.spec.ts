import { readFileSync } from 'node:fs';
import { newKit } from '@/core/sheet/starter';
import { readColor } from '@/core/sheet/plan/nameColor';
import { Acts } from './acts/acts';
import { doJob, jobs } from './acts/jobs';
import { expect, test } from './kit';

/** `ALL_ACTS=1`: all jobs, not only those that run with every test. */
const isAll = Boolean(process.env.ALL_ACTS);
const stated = readFileSync('docs/acts.md', 'utf8');
const starter = new Map(newKit('Skerry').sheets[0]!.cells.map((c) => [c.role, c.fill.kind === 'solid' ? c.fill.color : '']));

for (const job of jobs.filter((j) => j.isAlways || isAll))
  for (const [way, k] of [
    ['expert', 0],
    ['firstDay', 1],
  ] as const)
    // prettier-ignore
    test(`${job.name}: acts of ${k ? 'a first day' : 'an expert'}, counted, and what leaves`, async ({ page }) => {
      const acts = new Acts(page, job.model);
      const seen = await doJob(acts, job, way);
      const pieces: Record<string, string[]> = {};
      for (const [piece, colors] of Object.entries(seen)) (pieces[piece.replace(/ (left|right)$/, '')] ??= []).push(...colors);
      const isPlanned = !Object.values(job.wanted).every((role) => starter.has(role));
      const wanted = Object.entries(job.wanted).map(([piece, role]) => [piece, starter.get(role) ?? readColor(role)]);
      if (isPlanned) expect(new Set(Object.values(pieces).map((c) => new Set(c).size === 1 && c[0])).size).toBe(wanted.length);
      else expect(Object.entries(pieces).map(([piece, c]) => [piece, [...new Set(c)].join()]).sort()).toEqual(wanted.sort()); // prettier-ignore
      expect(acts.count).toBeLessThanOrEqual(job.goal[k]);
      const [, ...counts] = new RegExp(`\\| ${job.name} +\\| (\\d+) of (\\d+) +\\| (\\d+) of (\\d+) +\\|`).exec(stated) ?? [];
      expect([counts[k * 2], counts[k * 2 + 1]]).toEqual([String(acts.count), String(job.goal[k])]);
    });
