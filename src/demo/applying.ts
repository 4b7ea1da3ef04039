import type { CallBody, SaidBody } from '#contract/applying.ts';
import { noLimits } from '#core/crew/limits.ts';
import { type App, inTransaction, systemActor } from '#server/app/app.ts';
import { apply, askApplicant, decideApplications, makeCall } from '#server/crew/applyingCommands.ts';
import { applicationOf, theCall } from '#server/crew/applyingStore.ts';
import { first } from '#server/db/database.ts';
import { makeRandom } from './random.ts';

/** What people wrote of what they did before. */
const experiences = [
  'Three Open Water Days, mostly at the landing.',
  'I paddle every week, and once ran a summer camp.',
  'None, but I learn fast.',
  'Soup for forty, twice a year.',
  '',
  '',
];

/** The call for volunteers of Open Water Day, and who answered it: some are accepted, some wait, one was asked something. */
export async function playApplying(app: App): Promise<void> {
  const random = makeRandom(1976);
  const day = await first<{ id: string; on: string }>(
    app.db,
    "select id, starts_local::date as on from events where public_title = 'Open Water Day' and state = 'open' and starts_at > $1 order by starts_at limit 1",
    [app.clock.now()],
  );
  if (!day) return;
  const actor = { ...systemActor, name: 'Imani Okarro' };
  const roles = await app.db.query<{ id: string; name: string }>(
    'select id, name from roles where name in (select role from shifts where event_id = $1) order by name',
    [day.id],
  );
  const skills = await app.db.query<{ id: string; name: string; certificate: boolean }>(
    'select id, name, certificate from skills order by name',
  );
  const at = (daysAgo: number) =>
    new Date(
      Date.parse(app.clock.now()) - daysAgo * 86_400_000 - random.whole(0, 600) * 60_000,
    ).toISOString();
  const body: CallBody = {
    eventId: day.id,
    fromOn: null,
    untilOn: null,
    title: { en: 'Hands for Open Water Day', fr: 'Des bras pour la journée sur l’eau' },
    words: {
      en: 'Ninety people want to be on the lagoon, and go home dry. Two or three hours of you are plenty.',
      fr: 'Quatre-vingt-dix personnes veulent être sur la lagune. Deux ou trois heures de votre temps suffisent.',
    },
    asks: ['availability', 'skills', 'limits', 'company', 'shirt', 'experience'],
    roles: roles.map((r) => r.id),
    open: true,
    deposit: null,
  };
  const { id } = await inTransaction(app, actor, (w) => makeCall({ ...w, now: at(30) }, body));
  const people = await app.db.query<{ id: string; on: boolean }>(
    `select c.id, exists (select 1 from assignments a join shifts s on s.id = a.shift_id where s.event_id = $1 and a.contact_id = c.id) as on
     from contacts c where c.merged_into is null and c.deceased_on is null and not c.do_not_contact
       and exists (select 1 from contact_emails m where m.contact_id = c.id) and exists (select 1 from held_skills h where h.contact_id = c.id)
     order by c.id limit 70`,
    [day.id],
  );
  const held = await app.db.query<{
    contactId: string;
    skillId: string;
    number: string;
    until: string | null;
  }>('select contact_id, skill_id, number, until from held_skills where contact_id = any($1)', [
    people.map((p) => p.id),
  ]);
  const spans = [
    ['08:00', '13:00'],
    ['08:00', '18:00'],
    ['12:00', '18:00'],
    ['09:00', '16:00'],
  ] as const;
  const saidBy = (contactId: string): SaidBody => {
    const [from, to] = random.pick(spans);
    return {
      wishes: random.some(roles, random.whole(1, 3)).map((r, n) => ({ roleId: r.id, weight: 3 - n })),
      skills: held
        .filter((h) => h.contactId === contactId)
        .map(({ skillId, number, until }) => ({
          skillId,
          number: skills.find((s) => s.id === skillId)?.certificate ? number : '',
          until,
          fileId: null,
        })),
      available: { kind: 'dates', stretches: [{ date: day.on, from, to }] },
      limits: { ...noLimits, shifts: random.whole(1, 3), latest: random.chance(0.3) ? '17:30' : null },
      company: random.chance(0.2) ? 'whoever brings the good tea' : '',
      shirt: random.pick(['S', 'M', 'L', 'XL'] as const),
      birthDate: null,
      experience: random.pick(experiences),
    };
  };
  for (const [n, { id: contactId }] of people.slice(0, 46).entries()) {
    const call = await inTransaction(app, systemActor, (w) => theCall(w.tx, id));
    await inTransaction(app, { ...systemActor, name: 'public' }, (w) =>
      apply(
        { ...w, now: at(28 - n * 0.55) },
        call,
        { person: null, said: saidBy(contactId), language: 'en' },
        contactId,
      ),
    );
    if (n >= 36) continue;
    await inTransaction(app, actor, async (w) => {
      const application = (await applicationOf(w.tx, id, contactId))!;
      const to = n === 7 ? 'declined' : n === 11 || n === 23 ? 'resting' : 'accepted';
      await decideApplications(w, [{ call, application }], to, '', false);
    });
  }
  await inTransaction(app, actor, async (w) => {
    const call = await theCall(w.tx, id);
    const application = await applicationOf(w.tx, id, people[38]!.id);
    if (application) await askApplicant(w, call, application, 'Have you ever towed a canoe?');
  });
}
