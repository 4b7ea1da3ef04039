import type { z } from 'zod';
import type { ImportSummary } from '#contract/imports.ts';
import type { EventPlan, question } from '#contract/plan.ts';
import type { OrderBody } from '#contract/registration.ts';
import type { surveyPlan } from '#contract/surveyPlan.ts';
import { answered, type FactCode } from '#core/clearance/facts.ts';
import type { SurveyQuestion } from '#core/surveys/survey.ts';
import { plainRule, type WaiverRule } from '#core/waivers/asking.ts';
import type { ClauseKind } from '#core/waivers/form.ts';
import { Caller } from './caller.ts';
import type { World } from './harness.ts';

/** An event of the tests that is open, with what its tests need to know. */
export interface OpenEvent {
  id: string;
  slug: string;
  offers: { id: string; price: number }[];
  questions: { id: string }[];
}

export interface Scene {
  title?: string;
  /** The name of the unit it belongs to. */
  unit?: string;
  startsLocal?: string;
  endsLocal?: string;
  capacity?: number | null;
  price?: number;
  quantity?: number | null;
  mostPerOrder?: number;
  seatsPerUnit?: number;
  /** What is so of it, of what clearance asks; the rest is answered no. */
  so?: readonly FactCode[];
  waiver?: 'On the water' | 'Children in our care';
  questions?: z.input<typeof question>[];
  surveys?: z.input<typeof surveyPlan>[];
}

const uuid = () => crypto.randomUUID();

/** A question of a survey, with choices by their words. */
export type SurveyScene = Omit<Partial<SurveyQuestion>, 'choices' | 'prompt'> &
  Pick<SurveyQuestion, 'id' | 'kind'> & { prompt?: string; choices?: readonly string[] };

/** A survey of one page, for those who came where nothing else is said. */
export const surveyOf = (
  questions: readonly SurveyScene[],
  more: Partial<z.input<typeof surveyPlan>> = {},
): z.input<typeof surveyPlan> => ({
  id: uuid(),
  title: { en: 'How was it?' },
  anonymous: false,
  pages: [
    {
      id: 'first',
      questions: questions.map(({ prompt, choices = [], ...q }) => ({
        ...q,
        prompt: { en: prompt ?? `${q.id}?` },
        choices: choices.map((c) => ({ id: c, text: { en: c } })),
      })),
    },
  ],
  ...more,
});

/** Plans an event as the coordinator, has it cleared where that is needed, and opens it. */
export async function openEvent(world: Pick<World, 'as'>, scene: Scene = {}): Promise<OpenEvent> {
  const odalys = await world.as('odalys');
  const title = scene.title ?? 'Open Water Day';
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: title } });
  const choices = await odalys.call('GET /api/choices');
  const own = await odalys.call('GET /api/clearance/facts');
  const offers = [
    {
      id: uuid(),
      name: 'Guided paddle',
      price: scene.price ?? 0,
      quantity: scene.quantity ?? null,
      mostPerOrder: scene.mostPerOrder ?? 10,
      seatsPerUnit: scene.seatsPerUnit ?? 1,
      about: '',
    },
  ];
  await odalys.call('PATCH /api/events/:id', {
    params: { id },
    body: {
      version: 1,
      change: {
        startsLocal: scene.startsLocal ?? '2026-08-08T09:00',
        endsLocal: scene.endsLocal ?? '2026-08-08T16:30',
        capacity: scene.capacity === undefined ? 20 : scene.capacity,
        ...(scene.unit ? { unitId: choices.units.find((u) => u.name === scene.unit)!.id } : {}),
        venueId: choices.venues.find((v) => v.name === 'Sluice Landing')!.id,
        facts: {
          ...answered(...(scene.so ?? [])),
          ...Object.fromEntries(own.map((fact) => [fact.id, false])),
        },
        giftFunds: choices.funds.map((f) => f.id),
        waivers: scene.waiver ? [asksAll(choices.waivers.find((w) => w.title === scene.waiver)!.id)] : [],
        offers,
        questions: scene.questions ?? [],
        surveys: scene.surveys ?? [],
      },
    },
  });
  await clearAndOpen(world, id);
  const page = await odalys.call('GET /api/events/:id', { params: { id } });
  return { id, slug: page.plan.slug!, offers, questions: scene.questions ?? [] };
}

/** Sends a plan, has every step of it cleared, and opens it. */
export async function clearAndOpen(world: Pick<World, 'as'>, id: string): Promise<void> {
  const odalys = await world.as('odalys');
  // Some scenes are sooner than their plan could be cleared in time.
  await odalys.call('POST /api/events/:id/clearance', {
    params: { id },
    body: { lateReason: 'It is soon.' },
  });
  for (const who of ['tobias', 'marit'] as const) {
    const approver = await world.as(who);
    const { steps } = await approver.call('GET /api/events/:id/clearance', { params: { id } });
    for (const step of steps.filter((s) => s.mayDecide))
      await approver.call('POST /api/clearance-steps/:id/decision', {
        params: { id: step.id },
        body: { decision: 'clear' },
      });
  }
  await odalys.call('POST /api/events/:id/state', { params: { id }, body: { move: 'open' } });
}

/** The body of an order for some people, the first of whom buys. */
export function orderFor(
  event: OpenEvent,
  people: { given: string; family: string; birthDate?: string }[],
  more: Partial<OrderBody> & { email?: string } = {},
): OrderBody {
  const { email, ...rest } = more;
  const [buyer] = people;
  return {
    buyer: {
      given: buyer!.given,
      family: buyer!.family,
      email: email ?? `${buyer!.given}.${buyer!.family}@harbourpost.example`.toLowerCase(),
    },
    lines: [{ offerId: event.offers[0]!.id, units: people.length }],
    attendees: people.map((p) => ({ given: p.given, family: p.family, birthDate: p.birthDate ?? null })),
    ...rest,
  };
}

/** Brings a file in as the coordinator and waits until every row is checked. */
export async function bringIn(
  world: Pick<World, 'as'>,
  content: Buffer | string,
  fileName = 'list.csv',
): Promise<ImportSummary> {
  const odalys = await world.as('odalys');
  const { id } = await odalys.call('POST /api/imports', {
    body: { fileName, content: Buffer.from(content).toString('base64') },
  });
  return checked(world, id);
}

/** Waits until an import is no longer being checked. */
export async function checked(world: Pick<World, 'as'>, id: string): Promise<ImportSummary> {
  const odalys = await world.as('odalys');
  for (;;) {
    const summary = await odalys.call('GET /api/imports/:id', { params: { id } });
    if (summary.state !== 'checking') return summary;
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** Somebody of the public on a device of their own, signed in by the code that goes to their address. */
export async function signedInAs(origin: string, email: string): Promise<Caller> {
  const by = new Caller(origin);
  const { ticket, demoCode } = await by.call('POST /api/public/sign-in', { body: { email } });
  await by.call('POST /api/public/sign-in/code', { body: { ticket, code: demoCode! } });
  return by;
}

/** Pays what an order owes by a card that is good. */
export const pay = (world: { anyone: Caller }, token: string) =>
  world.anyone.call('POST /api/public/orders/:token/pay', {
    params: { token },
    body: { card: '9000 0000 0000 0001', expiry: '12/30' },
  });

/** Books for some people of one family, the first of whom buys; one without a name is a guest to be named. */
export const bookFor = (
  world: { anyone: Caller },
  event: OpenEvent,
  given: readonly string[],
  more: Partial<OrderBody> & { email?: string } = {},
) =>
  world.anyone.call('POST /api/public/events/:slug/orders', {
    params: { slug: event.slug },
    body: orderFor(
      event,
      given.map((name) => ({ given: name, family: name && 'Sedge' })),
      more,
    ),
  });

/** The seats of an event as somebody of the staff sees them. */
export const tableOf = (who: Caller, event: Pick<OpenEvent, 'id'>) =>
  who.call('GET /api/events/:id/registrations', { params: { id: event.id } });

/** A waiver asked of everybody who has a seat, or of less. */
export const asksAll = (waiverId: string, less: Partial<WaiverRule> = {}): WaiverRule => ({
  ...plainRule,
  id: crypto.randomUUID(),
  waiverId,
  ...less,
});

/** What somebody sends who agrees to all of a waiver and types a name; a guardian says that they may. */
export const signs = (
  waiver: { id: string; version: number; clauses: readonly { id: string; kind: ClauseKind }[] },
  typedName: string,
) => ({
  waiverId: waiver.id,
  version: waiver.version,
  typedName,
  ticked: waiver.clauses.map((c) => c.id),
  initials: Object.fromEntries(
    waiver.clauses
      .filter((c) => c.kind === 'initials')
      .map((c) => [
        c.id,
        typedName
          .split(' ')
          .map((word) => word[0])
          .join(''),
      ]),
  ),
  chosen: Object.fromEntries(waiver.clauses.filter((c) => c.kind === 'choice').map((c) => [c.id, true])),
  declared: true,
});

/** What a mailing says, in English alone and plain. */
export const saying = (subject: string, body: string) => ({
  said: { subject: { en: subject }, body: { en: body } },
});

/** A session of an agenda that everybody can come to. */
export const sessionOf = (
  title: string,
  [day, begins, ends]: [number, string, string],
  more: Partial<EventPlan['sessions'][number]> = {},
): EventPlan['sessions'][number] => ({
  id: uuid(),
  kind: 'session',
  title: { en: title },
  about: { en: '' },
  day,
  begins,
  ends,
  trackId: null,
  roomId: null,
  capacity: null,
  signUp: false,
  speakerIds: [],
  ...more,
});
