import { mkdirSync, writeFileSync } from 'node:fs';

/** One thing that was measured. */
export interface Row {
  measure: string;
  value: number;
  unit: string;
  /** What the same run measured of the least that has to be done, in the same unit; null where there is no such thing. */
  floor: number | null;
  /** The value as a share of its floor. */
  ratio: number | null;
  goal: string | null;
  met: boolean | null;
}

/** What a value, or its share of the floor, should be at least or at most. */
export interface Goal {
  of: 'value' | 'ratio';
  atLeast?: number;
  atMost?: number;
}

const rounded = (n: number): number => Number(n.toPrecision(4));

/** What one part of the bench measured: said as it comes, written to bench-results/NAME.json at the end. */
export class Report {
  private readonly rows: Row[] = [];
  constructor(private readonly name: string) {}

  row(
    measure: string,
    value: number,
    unit: string,
    { floor = null, goal = null }: { floor?: number | null; goal?: Goal | null } = {},
  ): void {
    const ratio = floor ? rounded(value / floor) : null;
    const judged = goal && (goal.of === 'value' ? value : (ratio ?? Number.NaN));
    const row: Row = {
      measure,
      value: rounded(value),
      unit,
      floor: floor === null ? null : rounded(floor),
      ratio,
      goal: goal && sayGoal(goal, unit),
      met:
        goal &&
        judged !== null &&
        judged >= (goal.atLeast ?? Number.NEGATIVE_INFINITY) &&
        judged <= (goal.atMost ?? Number.POSITIVE_INFINITY),
    };
    this.rows.push(row);
    const figure = `${row.value} ${unit}`.padStart(16);
    const beside = [
      row.floor === null ? '' : `floor ${row.floor}, ${row.ratio} of it`,
      row.goal ? `goal ${row.goal}${row.met ? '' : '  NOT MET'}` : '',
    ].filter(Boolean);
    process.stdout.write(`  ${measure.padEnd(58)} ${figure}   ${beside.join('; ')}\n`);
  }

  /** Writes the file, and says once more what did not reach its goal. */
  finish(): void {
    mkdirSync('bench-results', { recursive: true });
    const path = `bench-results/${this.name}.json`;
    const about = { name: this.name, at: new Date().toISOString(), node: process.version };
    writeFileSync(path, `${JSON.stringify({ ...about, rows: this.rows }, null, 2)}\n`);
    const missed = this.rows.filter((r) => r.met === false);
    process.stdout.write(
      missed.length
        ? `\n  not met:\n${missed.map((r) => `    ${r.measure}: ${r.value} ${r.unit}, goal ${r.goal}`).join('\n')}\n`
        : '\n  every goal is met\n',
    );
    process.stdout.write(`  written to ${path}\n`);
  }
}

function sayGoal(goal: Goal, unit: string): string {
  const of = goal.of === 'ratio' ? 'of the floor' : unit;
  return goal.atLeast === undefined ? `≤ ${goal.atMost} ${of}` : `≥ ${goal.atLeast} ${of}`;
}

/** The value below which this share of some figures lies. */
export function quantile(figures: readonly number[], share: number): number {
  const sorted = [...figures].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;
}

/** How long something takes, so many times, in milliseconds. */
export async function timed(times: number, run: (n: number) => Promise<unknown>): Promise<number[]> {
  const all: number[] = [];
  for (let n = 0; n < times; n += 1) {
    const began = performance.now();
    await run(n);
    all.push(performance.now() - began);
  }
  return all;
}
