import type { MeasureKind } from '#core/outcomes/measure.ts';

type Of = readonly { id: string; kind: MeasureKind }[];
type Typed = Readonly<Record<string, string>>;

const filled = (measures: Of, said: Typed): Of => measures.filter((m) => said[m.id]?.trim());

/** What was typed of each measure, as it is sent; several things are parted by commas. What was left empty is not sent. */
export const entriesOf = (
  measures: Of,
  said: Typed,
): { measureId: string; said?: string; thing?: string }[] =>
  filled(measures, said).flatMap((m): { measureId: string; said?: string; thing?: string }[] =>
    m.kind === 'distinct'
      ? things(said[m.id]!).map((thing) => ({ measureId: m.id, thing }))
      : [{ measureId: m.id, said: said[m.id]! }],
  );

const things = (typed: string): string[] =>
  typed
    .split(/[,;\n]/u)
    .map((t) => t.trim())
    .filter(Boolean);

/** The field of a path of what was sent: what is wrong with an entry stands beside its measure. */
export function fieldOfEntry(measures: Of, said: Typed, path: string): string {
  const at = /^entries\.(\d+)/u.exec(path)?.[1];
  if (at === undefined) return path === 'entries' ? `said.${measures[0]?.id}` : path;
  const of = entriesOf(measures, said)[Number(at)];
  return of ? `said.${of.measureId}` : path;
}
