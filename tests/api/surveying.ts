import type { z } from 'zod';
import type { EventPlan } from '#contract/plan.ts';
import type { surveyPlan } from '#contract/surveyPlan.ts';
import type { Grouping } from '#core/surveys/grouping.ts';
import { linkTo, type World } from './harness.ts';
import { saveIt } from './plans.ts';
import { type OpenEvent, openEvent, orderFor, type Scene } from './scenes.ts';

export interface AskedEvent {
  event: OpenEvent;
  /** The link of each who was asked, by given name. */
  tokens: Map<string, string>;
  contacts: Map<string, string>;
  surveys: { id: string; audience: string; wave: number }[];
}

type Answers = Record<string, string | number | string[]>;

/** Everything a survey is put through over HTTP. */
export class Surveying {
  constructor(readonly world: World) {}

  /** Opens an event, has people book, come or stay away, and asks them once it is over. Each is asked one day later. */
  async held(
    surveys: z.input<typeof surveyPlan>[],
    people: { came: readonly string[]; absent?: readonly string[] },
    scene: Scene = {},
    change: Partial<EventPlan> = {},
  ): Promise<AskedEvent> {
    const { world } = this;
    const event = await openEvent(world, { capacity: 60, ...scene, surveys });
    if (Object.keys(change).length) await saveIt(await world.as('odalys'), event.id, change);
    const names = [...people.came, ...(people.absent ?? [])];
    for (const given of names)
      await world.anyone.call('POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: orderFor(event, [{ given, family: 'Reed' }], {
          email: `${given.toLowerCase()}@fenmail.example`,
        }),
      });
    return this.over(event, people);
  }

  /** Brings an open event to the day after it, with those who came checked in. */
  async over(
    event: OpenEvent,
    people: { came: readonly string[]; absent?: readonly string[] },
  ): Promise<AskedEvent> {
    const { world } = this;
    const odalys = await world.as('odalys');
    const { rows } = await odalys.call('GET /api/events/:id/registrations', { params: { id: event.id } });
    const { startsAt, endsAt } = (
      await world.app.db.query<{ startsAt: string; endsAt: string }>(
        'select starts_at, ends_at from events where id = $1',
        [event.id],
      )
    )[0]!;
    await world.moveTo(startsAt);
    for (const given of people.came)
      await odalys.call('POST /api/registrations/:id/attendance', {
        params: { id: rows.find((r) => r.given === given)!.id },
        body: { eventId: event.id, state: 'arrived' },
      });
    await world.moveTo(new Date(Date.parse(endsAt) + 26 * 3_600_000).toISOString());
    return this.askedOf(event);
  }

  async askedOf(event: OpenEvent): Promise<AskedEvent> {
    const asks = await this.world.app.db.query<{ id: string; given: string; contactId: string }>(
      `select k.id, c.given_name as given, c.id as contact_id from survey_asks k join surveys v on v.id = k.survey_id
         join contacts c on c.id = k.contact_id where v.event_id = $1 order by v.wave`,
      [event.id],
    );
    const tokens = new Map<string, string>();
    for (const { id, given } of asks)
      tokens.set(given, (await linkTo(this.world.app, 'survey', id)).split('/').at(-1)!);
    return {
      event,
      tokens,
      contacts: new Map(asks.map((a) => [a.given, a.contactId])),
      surveys: await this.world.app.db.query(
        'select id, audience, wave from surveys where event_id = $1 and removed_at is null order by position',
        [event.id],
      ),
    };
  }

  answer(token: string, answers: Answers, mayFollow = false) {
    return this.world.anyone.try('POST /api/public/surveys/:token', {
      params: { token },
      body: { answers, mayFollow },
    });
  }

  look(token: string) {
    return this.world.anyone.try('GET /api/public/surveys/:token', { params: { token } });
  }

  async results(
    { event, surveys }: Pick<AskedEvent, 'event' | 'surveys'>,
    query: { by?: Grouping; weigh?: Grouping; beside?: string } = {},
    at = 0,
  ) {
    const odalys = await this.world.as('odalys');
    return odalys.call('GET /api/events/:id/surveys/:survey', {
      params: { id: event.id, survey: surveys[at]!.id },
      query,
    });
  }
}
