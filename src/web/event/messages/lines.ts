import type { MessageLinePlan } from '#contract/plan.ts';
import { type Audience, audiences } from '#core/messages/audiences.ts';
import type { Channel } from '#core/messages/channels.ts';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { frenchOfNow } from '#core/messages/lagging.ts';
import { type LateRule, plainLine } from '#core/messages/lines.ts';
import { type Moment, momentRule } from '#core/messages/moments.ts';
import type { Condition } from '#core/seats/narrowing.ts';
import { type TextValues, typedTexts } from '../../parts/MessageTexts.tsx';

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

/** A line as it is filled in. */
export interface LineValues extends TextValues {
  name: string;
  moment: Moment;
  days: string;
  hours: string;
  minutes: string;
  side: 'before' | 'after';
  channel: Channel;
  audience: Audience;
  late: LateRule;
  /** Hours. */
  useful: string;
  workingDays: boolean;
  household: boolean;
  narrowed: Condition[];
}

const typed = (n: number): string => (n ? String(n) : '');
const read = (text: string): number => Math.abs(Number(text.replace(',', '.')) || 0);

/** How far from its moment a line lies, as it is typed: before it counts down, whatever sign stands there. */
export function offsetOf(v: Pick<LineValues, 'days' | 'hours' | 'minutes' | 'side'>): {
  days: number;
  minutes: number;
} {
  const signed = (n: number) => (v.side === 'before' ? -n : n) || 0;
  return { days: signed(read(v.days)), minutes: signed(Math.round(read(v.hours) * 60 + read(v.minutes))) };
}

/** What a line says to begin with. */
export function firstWords(
  moment: Moment,
  channel: Channel,
  audience: Audience,
): Pick<LineValues, 'subject' | 'body'> {
  const { subject, body, short } = firstTextFor(moment, audience);
  return { subject: { ...subject }, body: { ...(channel === 'email' ? body : short) } };
}

/** Whether a line still says what it says to begin with. */
export const saysFirst = (
  v: Pick<LineValues, 'subject' | 'body' | 'formatted'>,
  moment: Moment,
  channel: Channel,
  audience: Audience,
): boolean => {
  const first = firstWords(moment, channel, audience);
  return !v.formatted.en && v.body.en === first.body.en && v.body.fr === first.body.fr;
};

/** What the form of a line begins with: the line, or a new one, a day before the start. */
export function valuesOf(line: MessageLinePlan | null): LineValues {
  if (!line) {
    const moment = 'start';
    return {
      name: '',
      moment,
      days: '1',
      hours: '',
      minutes: '',
      side: 'before',
      channel: plainLine.channel,
      audience: momentRule(moment).audiences[0],
      preview: { en: '', fr: '' },
      formatted: { en: null, fr: null },
      frenchFits: false,
      late: plainLine.late,
      useful: '',
      workingDays: plainLine.workingDays,
      household: plainLine.household,
      narrowed: [],
      ...firstWords(moment, plainLine.channel, momentRule(moment).audiences[0]),
    };
  }
  const minutes = Math.abs(line.offsetMinutes);
  return {
    name: line.name,
    moment: line.moment,
    days: typed(Math.abs(line.offsetDays)),
    hours: typed(Math.floor(minutes / 60)),
    minutes: typed(minutes % 60),
    side: line.offsetDays < 0 || line.offsetMinutes < 0 ? 'before' : 'after',
    channel: line.channel,
    audience: line.audience,
    late: line.late,
    useful: line.usefulMinutes === null ? '' : String(line.usefulMinutes / 60),
    workingDays: line.workingDays,
    household: line.household,
    narrowed: line.narrowed,
    ...typedTexts(line),
  };
}

/** The line that the form makes. */
export function lineOf(v: LineValues, id: string, before: MessageLinePlan | null): MessageLinePlan {
  const { days, minutes } = offsetOf(v);
  const off = before?.off ?? false;
  const {
    name,
    moment,
    channel,
    audience,
    late,
    workingDays,
    household,
    narrowed,
    subject,
    preview,
    body,
    formatted,
  } = v;
  return {
    id,
    name: name.trim(),
    moment,
    offsetDays: days,
    offsetMinutes: minutes,
    channel,
    audience,
    late,
    usefulMinutes: v.useful.trim() ? Math.round(read(v.useful) * 60) : null,
    workingDays,
    household,
    narrowed: audiences[audience].narrowedBy ? narrowed : [],
    off,
    subject,
    preview,
    body,
    // A text message has no format.
    formatted: channel === 'email' ? formatted : { en: null, fr: null },
    frenchOf: frenchOfNow(before, v, v.frenchFits),
  };
}
