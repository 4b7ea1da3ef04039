import { isDeepStrictEqual } from 'node:util';
import type { YearLinePlan } from '#contract/yearRound.ts';
import { problemsInLine } from '#core/messages/merge.ts';
import { wrongInSaid } from '#core/messages/said.ts';
import { undelivered } from '#core/messages/states.ts';
import { audienceOn, madeUpFor } from '#core/messages/yearRound.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { SignedIn, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { drawn, named, type Previewed, putTest } from './lines.ts';
import { saidLeftOut } from './mailed.ts';
import {
  holdBackYear,
  keepYearLine,
  lockYearLine,
  planYear,
  readYearLines,
  readYearPlanned,
  removeYearLine,
  replanYear,
  sayYear,
  type YearRecipient,
  yearWhy,
} from './yearRound.ts';

type Reading = Pick<Work, 'tx' | 'now'>;

/** Adds a line, changes it, or puts it back. Refused where somebody else changed it meanwhile. Answers its version. */
export async function saveYearLine(
  w: Work,
  id: string,
  said: Omit<YearLinePlan, 'id'>,
  version: number,
): Promise<number> {
  const line = { id, ...said };
  const problems = wrongInSaid(line, 'line.', line.channel === 'email', (text) =>
    problemsInLine(text, audienceOn(line.moment)),
  );
  if (problems.length) throw invalid(problems);
  const before = await lockYearLine(w.tx, id);
  // Sent again, the same is there already.
  if (before && before.version === version + 1 && isDeepStrictEqual(before.line, line)) return before.version;
  if ((before?.version ?? 0) !== version) throw refused('letter-changed');
  await keepYearLine(w, line, version + 1, before !== null);
  await record(w, 'year-round line changed', { lineId: id, name: line.name, removed: false });
  await replanYear(w, null);
  return version + 1;
}

/** Takes a line away: what it planned does not go out, what went stays. Answers its version, by which it is put back. */
export async function dropYearLine(w: Work, id: string, version: number): Promise<number> {
  const before = await lockYearLine(w.tx, id);
  if (!before) throw notFound('This line');
  if (before.version !== version) throw refused('letter-changed');
  await removeYearLine(w.tx, id, w.now, version + 1);
  await holdBackYear(w.tx, id);
  await record(w, 'year-round line changed', { lineId: id, name: before.line.name, removed: true });
  return version + 1;
}

const shownTo = async ({ tx }: Reading, line: YearLinePlan, to: YearRecipient): Promise<Previewed> => {
  const { name } = await theOrganization(tx);
  const { contactId, language } = to;
  const about = {
    id: line.id,
    eventId: null,
    contactId,
    language,
    ...yearWhy(line),
  };
  return {
    name: to.name,
    address: to.reach[line.channel],
    channel: line.channel,
    language,
    ...(await drawn(tx, line.channel, about, () => sayYear(line, to, name))),
  };
};

/** Everybody a line concerns, first those who get it were it added now. */
async function concerned({ tx, now }: Reading, line: YearLinePlan): Promise<YearRecipient[]> {
  const { planned, leftOut } = (await planYear(tx, [{ ...line, addedAt: now }], null, now))(line.id);
  return [...planned, ...leftOut].map((p) => p.recipient);
}

/** To whom a line would go as it is being written, from now on: what went by it already is not counted. */
export async function countYear({ tx, now }: Reading, line: YearLinePlan) {
  const before = (await readYearLines(tx)).find((l) => l.id === line.id);
  const { planned, leftOut } = (
    await planYear(tx, [{ ...line, addedAt: before ? before.addedAt : now }], null, now)
  )(line.id);
  const gone = new Set(
    (await readYearPlanned(tx, [line.id], null))
      .filter((r) => r.state === 'sent' || undelivered.includes(r.state))
      .map((r) => r.recipientKey),
  );
  const goes = planned.filter((p) => !gone.has(p.recipient.key));
  return {
    planned: goes.length,
    atOnce: goes.filter((p) => p.at <= now).length,
    leftOut: saidLeftOut(leftOut),
  };
}

/** A line as somebody it concerns would get it, whether or not it goes to them; null where it concerns them no more. */
export async function yearLineTo(w: Reading, id: string, key: string): Promise<Previewed | null> {
  const line = (await readYearLines(w.tx)).find((l) => l.id === id);
  const to = line && (await concerned(w, line)).find((r) => r.key === key);
  return to ? shownTo(w, line, to) : null;
}

export async function previewYearLine(w: Reading, id: string, key: string): Promise<Previewed> {
  const seen = await yearLineTo(w, id, key);
  if (!seen) throw notFound('This person');
  return seen;
}

/** A line as it is being written, as one of those it would concern would get it; somebody made up where there is nobody. */
export async function previewYearDraft(
  w: Reading,
  line: YearLinePlan,
  key: string | null,
): Promise<Previewed & { key: string | null; people: { key: string; name: string }[] }> {
  const all = await concerned(w, line);
  const to = all.find((r) => r.key === key) ?? all[0];
  const people = all.slice(0, named).map(({ key, name }) => ({ key, name }));
  if (to) return { ...(await shownTo(w, line, to)), key: to.key, people };
  const { zone, currency } = await theOrganization(w.tx);
  const today = dateOf(w.now, zone);
  const made = {
    name: 'Mai Example',
    given: 'Mai',
    contactId: null,
    reach: { email: null, 'text message': null },
    language: 'en' as const,
    had: madeUpFor(audienceOn(line.moment), today, currency),
  } as YearRecipient;
  return { ...(await shownTo(w, line, made)), key: null, people };
}

/** Sends a line to whoever asks, as somebody it concerns would get it; links are said and not live. */
export async function testYearLine(w: Work, id: string, key: string, staff: SignedIn): Promise<string> {
  return putTest(w, id, await previewYearLine(w, id, key), staff);
}
