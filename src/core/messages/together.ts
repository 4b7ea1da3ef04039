import { docOf } from '#core/text/doc.ts';
import type { Block } from '#core/text/types.ts';
import { type Instant, plusMinutes } from '#core/time/clock.ts';
import type { Audience } from './audiences.ts';
import type { Channel } from './channels.ts';
import { type Moment, momentRule } from './moments.ts';
import type { Said } from './said.ts';

/** Minutes within which several mails about one event to one person go as one. */
export const togetherMinutes = 15;

/** A message of a line, as far as it decides what goes with what. */
export interface Joinable {
  contactId: string | null;
  address: string | null;
  language: 'en' | 'fr';
  at: Instant;
  line: { moment: Moment; channel: Channel; audience: Audience };
}

/** Whether a line goes with others at all: what answers somebody goes by itself, and so does what is read on a telephone at once. */
const joins = ({ moment, channel }: Joinable['line']): boolean =>
  channel === 'email' && momentRule(moment).answers !== true;

/** To whom: one person at one address. What is said to the crew stays apart, because whoever leads it reads that and no more. */
export const joinedUnder = ({ contactId, address, language, line }: Omit<Joinable, 'at'>): string | null =>
  contactId && address && joins(line)
    ? `${contactId} ${address.toLowerCase()} ${language} ${line.audience === 'crew' ? 'crew' : 'others'}`
    : null;

/** Until when something goes with a message that goes at an instant. */
export const joinedUntil = (at: Instant): Instant => plusMinutes(at, togetherMinutes);

/** Which messages go with another, and with which: each with the first that goes to the same person no longer before it than that. */
export function goTogether<M extends Joinable>(messages: readonly M[]): ReadonlyMap<M, M> {
  const carriers = new Map<M, M>();
  const first = new Map<string, M>();
  const inTime = messages
    .map((message, place) => ({ message, place }))
    .sort((a, b) => (a.message.at < b.message.at ? -1 : a.message.at > b.message.at ? 1 : a.place - b.place));
  for (const { message } of inTime) {
    const under = joinedUnder(message);
    if (under === null) continue;
    const carrier = first.get(under);
    if (carrier && message.at <= joinedUntil(carrier.at)) carriers.set(message, carrier);
    else first.set(under, message);
  }
  return carriers;
}

/** A subject is no longer than this. */
const subjectLength = 120;

/** Several as one: what all of them say is said once, and what the others say besides stands before what ends both. */
export function asOne(first: Said, others: readonly Said[]): Said {
  const subjects = [...new Set([first, ...others].map((s) => s.subject))];
  const long = subjects.join(' · ');
  const formatted = [first, ...others].some((s) => s.formatted);
  let text = paragraphs(first.body);
  let blocks = (first.formatted ?? docOf(first.body)).content;
  for (const { subject, body, formatted: doc } of others) {
    const other = subject === first.subject ? null : subject;
    text = takeIn(text, paragraphs(body), other);
    if (formatted)
      blocks = takeIn(blocks, (doc ?? docOf(body)).content, other === null ? null : headingOf(other));
  }
  return {
    subject: long.length <= subjectLength ? long : `${first.subject} (+${subjects.length - 1})`,
    preview: first.preview,
    body: text.join('\n\n'),
    formatted: formatted ? { type: 'doc', content: blocks } : null,
  };
}

const paragraphs = (text: string): string[] => text.split(/\n{2,}/u);
const headingOf = (text: string): Block => ({
  type: 'heading',
  attrs: { level: 3 },
  content: [{ type: 'text', text }],
});

/**
 * Takes parts into others: those that stand there already are passed over, the rest comes before the next that does. What is new stands
 * under a heading where there is one.
 */
function takeIn<Part extends string | Block>(
  all: readonly Part[],
  more: readonly Part[],
  heading: Part | null,
): Part[] {
  const same = (a: Part, b: Part) => JSON.stringify(a) === JSON.stringify(b);
  const taken = [...all];
  let fresh: Part[] = [];
  let headed = heading === null;
  /** Puts what is new at a place; answers the place behind it. */
  const put = (at: number): number => {
    if (!fresh.length) return at;
    const parts = headed ? fresh : [heading!, ...fresh];
    headed = true;
    fresh = [];
    taken.splice(at, 0, ...parts);
    return at + parts.length;
  };
  let from = 0;
  for (const part of more) {
    const at = taken.findIndex((t, n) => n >= from && same(t, part));
    if (at >= 0) from = put(at) + 1;
    else if (!taken.some((t) => same(t, part))) fresh.push(part);
  }
  put(taken.length);
  return taken;
}
