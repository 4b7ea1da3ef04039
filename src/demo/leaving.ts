import { noLimits } from '#core/crew/limits.ts';
import { type App, inTransaction, systemActor } from '#server/app/app.ts';
import { apply, decideApplications, makeCall } from '#server/crew/applyingCommands.ts';
import { applicationOf, theCall } from '#server/crew/applyingStore.ts';
import { payDeposit } from '#server/crew/depositCommands.ts';
import { depositOf } from '#server/crew/depositStore.ts';
import { receiveDeposit } from '#server/money/deposits.ts';

/** The call for the autumn counts: whoever is accepted borrows a lamp and a jacket, and leaves a deposit. Some did, by card or in cash. */
export async function playLeaving(app: App): Promise<void> {
  const actor = { ...systemActor, name: 'Imani Okarro' };
  const roles = await app.db.query<{ id: string }>(
    "select id from roles where name in ('Count lead', 'Night leader') and retired_at is null order by name",
  );
  const people = await app.db.query<{ id: string }>(
    `select c.id from contacts c where c.merged_into is null and c.deceased_on is null and not c.do_not_contact
       and exists (select 1 from contact_emails m where m.contact_id = c.id) and exists (select 1 from held_skills h where h.contact_id = c.id)
       and not exists (select 1 from applications p where p.contact_id = c.id) order by c.id limit 7`,
  );
  if (!roles.length || people.length < 7) return;
  const { id } = await inTransaction(app, actor, (w) =>
    makeCall(w, {
      eventId: null,
      fromOn: '2026-09-01',
      untilOn: '2026-10-31',
      title: { en: 'Autumn counts', fr: 'Comptages d’automne' },
      words: {
        en: 'Two evenings a month by the reeds. You get a lamp and a warm jacket to keep until the end.',
        fr: 'Deux soirées par mois près des roseaux. Vous recevez une lampe et une veste chaude jusqu’à la fin.',
      },
      asks: ['limits', 'experience'],
      roles: roles.map((r) => r.id),
      open: true,
      deposit: { amount: 3000, back: 'share', noticeHours: 24 },
    }),
  );
  for (const [n, { id: contactId }] of people.entries()) {
    const call = await inTransaction(app, systemActor, (w) => theCall(w.tx, id));
    await inTransaction(app, { ...systemActor, name: 'public' }, (w) =>
      apply(
        w,
        call,
        {
          person: null,
          said: {
            wishes: [{ roleId: roles[n % roles.length]!.id, weight: 2 }],
            skills: [],
            available: null,
            limits: { ...noLimits, shifts: 4 },
            company: '',
            shirt: '',
            birthDate: null,
            experience: n % 2 ? '' : 'Counted in spring.',
          },
          language: 'en',
        },
        contactId,
      ),
    );
    if (n >= 5) continue;
    const deposit = await inTransaction(app, actor, async (w) => {
      const application = (await applicationOf(w.tx, id, contactId))!;
      await decideApplications(w, [{ call, application }], 'accepted', '', false);
      return (await depositOf(w.tx, application.id))!;
    });
    if (n < 2) await payDeposit(app, systemActor, deposit.id, '9000 0000 0000 0001');
    if (n === 2)
      await inTransaction(app, actor, (w) =>
        receiveDeposit(w, deposit.id, { amount: 3000, method: 'cash', reason: actor.name }),
      );
  }
}
