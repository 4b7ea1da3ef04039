import { sayFact } from '#core/clearance/rules.ts';
import { isTheirs } from '#core/clearance/steps.ts';
import { splitName } from '#core/contacts/names.ts';
import type { DirectKind } from '#core/messages/texts.ts';
import { isAway } from '#core/staff/absence.ts';
import { sayShortDate } from '#core/time/say.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Work } from '../app/app.ts';
import { readSteps, type StepRow } from '../clearance/steps.ts';
import { sayWhen } from '../events/saying.ts';
import { readEvent } from '../events/store.ts';
import { theOrganization } from '../staff/store.ts';
import { planDirect } from './direct.ts';

export interface Colleague {
  id: string;
  name: string;
  email: string;
  roles: string[];
  approves: string[];
  from: string | null;
  until: string | null;
  deputyId: string | null;
}

export const colleagues = (w: Work): Promise<Colleague[]> =>
  w.tx.query<Colleague>(
    `select s.id, s.name, s.email, s.roles, s.approves, a.from_on as "from", a.until_on as until, a.deputy_id
     from staff s left join staff_absences a on a.staff_id = s.id where not s.resting order by s.name`,
  );

/** Writes to some of the team about the clearance of an event, each once. */
async function write(
  w: Work,
  eventId: string,
  kind: DirectKind,
  key: string,
  to: readonly Colleague[],
  reason: string,
  own: Readonly<Record<string, string>>,
): Promise<void> {
  const event = await readEvent(w.tx, eventId);
  const { name: organization } = await theOrganization(w.tx);
  for (const { id, name, email } of to)
    await planDirect(w, {
      kind,
      key: `${kind}:${key}:${id}`,
      to: { name, email, contactId: null, language: 'en' },
      // To the team, not to people of the event: they are none of its messages.
      eventId: null,
      reason,
      values: {
        name: splitName(name).given || name,
        event: event.publicTitle,
        when: sayWhen(event, 'en'),
        organization,
      },
      own: { ...own, page: `${w.app.origin}/events/${eventId}/clearance` },
    });
}

/** Who decides a step today: those it is for, and in the place of who is away whoever stands in for them. */
export async function decidersOf(w: Work, step: StepRow, all: readonly Colleague[]): Promise<Colleague[]> {
  const { zone } = await theOrganization(w.tx);
  const today = dateOf(w.now, zone);
  const found = new Set<Colleague>();
  for (const one of all) {
    if (!isTheirs(step, one)) continue;
    const away = one.from && one.until && isAway({ from: one.from, until: one.until }, today);
    found.add((away && all.find((other) => other.id === one.deputyId)) || one);
  }
  return [...found];
}

const about = (step: StepRow) => ({
  step: step.step,
  because: step.because.map(sayFact).join(', '),
  due: sayShortDate(step.dueOn, true),
});

/** Tells approvers of steps that reached them, but not who sent the plan. */
export async function tellDeciders(w: Work, eventId: string, stepIds: readonly string[]): Promise<void> {
  const all = await colleagues(w);
  for (const step of (await readSteps(w.tx, eventId)).filter((s) => stepIds.includes(s.id)))
    await write(
      w,
      eventId,
      'to decide',
      `${step.id}:${w.now}`,
      (await decidersOf(w, step, all)).filter((one) => one.id !== w.actor.staffId),
      'decides a step of its clearance',
      about(step),
    );
}

/** Reminds approvers of a step; coordinators too where it is late by now. */
export async function remindDeciders(
  w: Work,
  eventId: string,
  stepId: string,
  escalated: boolean,
): Promise<void> {
  const all = await colleagues(w);
  const step = (await readSteps(w.tx, eventId)).find((s) => s.id === stepId)!;
  const key = `${stepId}:${step.nudges}`;
  const theirs = await decidersOf(w, step, all);
  await write(w, eventId, 'still to decide', key, theirs, 'decides a step of its clearance', about(step));
  if (!escalated) return;
  const others = all.filter((one) => one.roles.includes('coordinator') && !theirs.includes(one));
  await write(w, eventId, 'nobody decides', key, others, 'a step of its clearance is late', about(step));
}

/** Tells coordinators that a plan sent late waits for them. */
export async function tellOfLate(w: Work, eventId: string, days: number, words: string): Promise<void> {
  const to = (await colleagues(w)).filter((one) => one.roles.includes('coordinator'));
  await write(w, eventId, 'asked late', w.now, to, 'a plan was sent late', { words, days: String(days) });
}

/** Tells whoever sent a plan that a step did not clear it. */
export async function tellSender(w: Work, eventId: string, step: string, words: string): Promise<void> {
  const [sender] = await w.tx.query<{ id: string | null }>(
    'select submitted_by as id from clearances where event_id = $1 and current',
    [eventId],
  );
  const to = (await colleagues(w)).filter((one) => one.id === sender?.id);
  await write(w, eventId, 'plan back', `${step}:${w.now}`, to, 'sent the plan', { step, words });
}

/** Tells those who are named in what was written. */
export async function tellNamed(
  w: Work,
  eventId: string,
  words: string,
  mentions: readonly string[],
): Promise<void> {
  const to = (await colleagues(w)).filter((one) => mentions.includes(one.id) && one.id !== w.actor.staffId);
  await write(w, eventId, 'named in words', w.app.ids.id(), to, 'named in what was written', {
    words,
    by: w.actor.name,
  });
}
