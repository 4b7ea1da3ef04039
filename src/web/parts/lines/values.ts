import type { MessageLinePlan } from '#contract/plan.ts';
import type { YearLinePlan } from '#contract/yearRound.ts';
import type { Audience } from '#core/messages/audiences.ts';
import type { Channel } from '#core/messages/channels.ts';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { frenchOfNow } from '#core/messages/lagging.ts';
import { type LateRule, plainLine } from '#core/messages/lines.ts';
import type { Moment } from '#core/messages/moments.ts';
import type { Form } from '../../kit/form/useForm.ts';
import { type TextValues, typedTexts } from '../MessageTexts.tsx';

/** What every line is filled in with, whatever it is a line of. */
export interface LineValues extends TextValues {
  name: string;
  moment: Moment;
  days: string;
  hours: string;
  minutes: string;
  side: 'before' | 'after';
  channel: Channel;
  late: LateRule;
  /** Hours. */
  useful: string;
  workingDays: boolean;
  household: boolean;
}

/** The form of a line as far as every line has it. */
export const lineFormOf = <V extends LineValues>(form: Form<V>): Form<LineValues> =>
  form as unknown as Form<LineValues>;

type AnyLine = MessageLinePlan | YearLinePlan;

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

/** What the form of a new line begins with. */
export const newValues = <M extends Moment>(
  moment: M,
  audience: Audience,
  when: Pick<LineValues, 'days' | 'side'>,
): LineValues & { moment: M } => ({
  name: '',
  moment,
  hours: '',
  minutes: '',
  ...when,
  channel: plainLine.channel,
  preview: { en: '', fr: '' },
  formatted: { en: null, fr: null },
  frenchFits: false,
  late: plainLine.late,
  useful: '',
  workingDays: plainLine.workingDays,
  household: plainLine.household,
  ...firstWords(moment, plainLine.channel, audience),
});

/** What the form of a line begins with. */
export function valuesOfLine<L extends AnyLine>(line: L): LineValues & { moment: L['moment'] } {
  const minutes = Math.abs(line.offsetMinutes);
  return {
    name: line.name,
    moment: line.moment,
    days: typed(Math.abs(line.offsetDays)),
    hours: typed(Math.floor(minutes / 60)),
    minutes: typed(minutes % 60),
    side: line.offsetDays < 0 || line.offsetMinutes < 0 ? 'before' : 'after',
    channel: line.channel,
    late: line.late,
    useful: line.usefulMinutes === null ? '' : String(line.usefulMinutes / 60),
    workingDays: line.workingDays,
    household: line.household,
    ...typedTexts(line),
  };
}

/** What the form makes of every line. */
export function lineBy(v: LineValues, before: AnyLine | null) {
  const { days, minutes } = offsetOf(v);
  const { name, channel, workingDays, household, subject, preview, body, formatted } = v;
  return {
    name: name.trim(),
    offsetDays: days,
    offsetMinutes: minutes,
    channel,
    usefulMinutes: v.useful.trim() ? Math.round(read(v.useful) * 60) : null,
    workingDays,
    household,
    off: before?.off ?? false,
    subject,
    preview,
    body,
    // A text message has no format.
    formatted: channel === 'email' ? formatted : { en: null, fr: null },
    frenchOf: frenchOfNow(before, v, v.frenchFits),
  };
}

/** The field of the form that a path of a line is, in which it is called otherwise. */
export const lineField = (path: string): string =>
  path.replace('offsetDays', 'days').replace('offsetMinutes', 'minutes').replace('usefulMinutes', 'useful');
