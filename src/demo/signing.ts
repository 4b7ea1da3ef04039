import { type App, inTransaction, systemActor } from '#server/app/app.ts';
import { update } from '#server/db/database.ts';
import { theWaiver } from '#server/waivers/formStore.ts';
import { knowHand } from '#server/waivers/signatureStore.ts';
import { signStanding } from '#server/waivers/standing.ts';

/** Families sign the form of the year on its own page; most opened their copy. Who goes out in boats as crew signs as well. */
export async function playSigning(app: App): Promise<void> {
  const families = await app.db.query<{
    given: string;
    family: string;
    birthDate: string;
    email: string;
    children: { given: string; family: string; birthDate: string }[];
  }>(
    `select g.given_name as given, g.family_name as family, g.birth_date::text as birth_date,
       (select email from contact_emails m where m.contact_id = g.id order by position limit 1) as email,
       jsonb_agg(jsonb_build_object('given', c.given_name, 'family', c.family_name, 'birthDate', c.birth_date::text) order by c.birth_date) as children
     from relationships r join contacts g on g.id = r.from_contact join contacts c on c.id = r.to_contact
     where r.kind = 'guardian' and g.birth_date is not null and c.birth_date between '2013-07-10' and '2019-07-10' and g.merged_into is null
       and c.merged_into is null and exists (select 1 from contact_emails m where m.contact_id = g.id)
     group by g.id order by g.id limit 9`,
  );
  const [form] = await app.db.query<{ id: string }>(
    "select id from waivers where title = 'Mudlarks, for the year'",
  );
  const waiver = await theWaiver(app.db, form!.id);
  const [call, swim, allergies] = waiver.text.questions;
  for (const [n, { given, family, birthDate, email, children }] of families.entries()) {
    const answers = (at: number) => ({
      [call!.id]: `${given}, 902-555-01${String(20 + n).padStart(2, '0')}`,
      [swim!.id]: swim!.choices[(n + at) % 3]!,
      ...((n + at) % 4 === 0 ? { [allergies!.id]: 'Bee stings; carries an injector' } : {}),
    });
    await inTransaction(app, { ...systemActor, name: 'public' }, async (w) => {
      const { act } = await signStanding(
        w,
        waiver,
        {
          waiverId: waiver.id,
          version: waiver.version,
          typedName: `${given} ${family}`,
          ticked: waiver.text.clauses.map((c) => c.id),
          initials: { water: `${given[0]}${family[0]}` },
          chosen: { photos: n % 3 !== 0 },
          declared: true,
          drawn: null,
          signer: { given, family, email, birthDate },
          self: false,
          answers: {},
          children: children.map((child, at) => ({ ...child, answers: answers(at) })),
          language: 'en',
        },
        { address: '198.51.100.31', device: 'Firefox on a telephone' },
      );
      if (n % 4 !== 3) await knowHand(w.tx, act, w.now);
    });
  }
  await inTransaction(app, systemActor, async ({ tx }) => {
    const [day] = await tx.query<{ id: string; waivers: Record<string, unknown>[] }>(
      "select id, waivers from events where public_title = 'Open Water Day' and state = 'open' order by starts_at limit 1",
    );
    if (day)
      await update(tx, 'events', day.id, {
        waivers: day.waivers.map((rule) => ({ ...rule, crew: true, roles: ['Canoe leader', 'Safety boat'] })),
      });
  });
}
