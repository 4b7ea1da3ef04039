import type { MessageLinePlan } from '#contract/plan.ts';
import { audiences, type EventAudience } from '#core/messages/audiences.ts';
import { type EventMoment, momentRule } from '#core/messages/moments.ts';
import type { Condition } from '#core/seats/narrowing.ts';
import { type LineValues, lineBy, newValues, valuesOfLine } from '../../parts/lines/values.ts';

type Lines = readonly MessageLinePlan[];

/** The lines with one moved up or down by one; as they are where it stands at the end already. */
export function movedBy(lines: Lines, id: string, by: -1 | 1): MessageLinePlan[] {
  const at = lines.findIndex((l) => l.id === id);
  const to = at + by;
  const moved = [...lines];
  if (at < 0 || to < 0 || to >= lines.length) return moved;
  [moved[at], moved[to]] = [moved[to]!, moved[at]!];
  return moved;
}

/** The lines with one more behind another. */
export const withAfter = (lines: Lines, id: string, more: MessageLinePlan): MessageLinePlan[] =>
  lines.flatMap((l) => (l.id === id ? [l, more] : [l]));

/** The lines with one as it is now; a new one at the end. */
export const withLine = (lines: Lines, line: MessageLinePlan): MessageLinePlan[] =>
  lines.some((l) => l.id === line.id) ? lines.map((l) => (l.id === line.id ? line : l)) : [...lines, line];

/** A line of an event as it is filled in. */
export interface EventLineValues extends LineValues {
  moment: EventMoment;
  audience: EventAudience;
  narrowed: Condition[];
}

/** What the form of a line begins with: the line, or a new one, a day before the start. */
export function valuesOf(line: MessageLinePlan | null): EventLineValues {
  if (line) return { ...valuesOfLine(line), audience: line.audience, narrowed: line.narrowed };
  const [audience] = momentRule('start').audiences;
  return { ...newValues('start', audience, { days: '1', side: 'before' }), audience, narrowed: [] };
}

/** The line that the form makes. */
export const lineOf = (v: EventLineValues, id: string, before: MessageLinePlan | null): MessageLinePlan => ({
  ...lineBy(v, before),
  id,
  moment: v.moment,
  audience: v.audience,
  late: v.late,
  narrowed: audiences[v.audience].narrowedBy ? v.narrowed : [],
});
