import type { RuleBody, RuleBook } from '#contract/clearance.ts';
import type { EventPlan } from '#contract/plan.ts';
import { answered } from '#core/clearance/facts.ts';
import type { Caller, World } from './harness.ts';

export type Who = Parameters<World['as']>[0];
export interface Plan {
  id: string;
  page(): Promise<{ state: string }>;
  look(who?: Who): Promise<Awaited<ReturnType<typeof lookAt>>>;
  send(who?: Who, body?: object): ReturnType<typeof sendIt>;
  decide(who: Who, step: string, body: object): ReturnType<typeof decideIt>;
  save(change: Partial<EventPlan>): ReturnType<typeof saveIt>;
}

export const lookAt = (caller: Caller, id: string) =>
  caller.call('GET /api/events/:id/clearance', { params: { id } });
export const sendIt = (caller: Caller, id: string, body: object) =>
  caller.try('POST /api/events/:id/clearance', { params: { id }, body });
export const decideIt = (caller: Caller, id: string, body: object) =>
  caller.try('POST /api/clearance-steps/:id/decision', { params: { id }, body: body as never });
export async function saveIt(caller: Caller, id: string, change: Partial<EventPlan>) {
  const { version } = await caller.call('GET /api/events/:id', { params: { id } });
  return caller.try('PATCH /api/events/:id', { params: { id }, body: { version, change } });
}

/** A draft that lacks nothing but a clearance. */
export async function plan(world: World, title: string, change: Partial<EventPlan> = {}): Promise<Plan> {
  const odalys = await world.as('odalys');
  const { id } = await odalys.call('POST /api/events', { body: { publicTitle: title } });
  const { venues } = await odalys.call('GET /api/choices');
  await saveIt(odalys, id, {
    startsLocal: '2026-09-12T19:00',
    endsLocal: '2026-09-12T22:00',
    capacity: 12,
    venueId: venues.find((v) => v.name === 'Sluice Landing')!.id,
    facts: answered('boats'),
    offers: [
      {
        id: crypto.randomUUID(),
        name: 'Seat',
        price: 1500,
        quantity: null,
        mostPerOrder: 4,
        seatsPerUnit: 1,
        about: '',
      } as EventPlan['offers'][number],
    ],
    ...change,
  });
  const look = async (who: Who = 'odalys') => lookAt(await world.as(who), id);
  return {
    id,
    look,
    page: () => odalys.call('GET /api/events/:id', { params: { id } }),
    send: async (who = 'odalys', body = {}) => sendIt(await world.as(who), id, body),
    decide: async (who, step, body) =>
      decideIt(await world.as(who), (await look()).steps.find((s) => s.step === step)!.id, body),
    save: (change) => saveIt(odalys, id, change),
  };
}

export const rulesOf = async (world: World): Promise<RuleBook> =>
  (await world.as('odalys')).call('GET /api/clearance/rules');
export const putRules = async (
  world: World,
  change: (book: RuleBook) => { rules?: RuleBody[]; facts?: RuleBook['facts'] },
) => {
  const book = await rulesOf(world);
  const { rules, facts, version } = { ...book, ...change(book) };
  return (await world.as('odalys')).try('PUT /api/clearance/rules', { body: { rules, facts, version } });
};
export const ruleLike = (book: RuleBook, part: Partial<RuleBody>): RuleBody => ({
  ...book.rules[0]!,
  id: crypto.randomUUID(),
  ...part,
});
