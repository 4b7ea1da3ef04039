import { afterAll, beforeAll, beforeEach } from 'vitest';
import type { MessageLinePlan } from '#contract/plan.ts';
import { firstTextFor } from '#core/messages/firstTexts.ts';
import { plainLine } from '#core/messages/lines.ts';
import { type EventMoment, momentRule } from '#core/messages/moments.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { type OpenEvent, openEvent, orderFor } from './scenes.ts';

/** A line on a moment, with its first words. */
export function lineOn(moment: EventMoment, part: Partial<MessageLinePlan> = {}): MessageLinePlan {
  const audience = part.audience ?? momentRule(moment).audiences[0];
  const { subject, body } = firstTextFor(moment, audience);
  return {
    ...plainLine,
    narrowed: [],
    id: crypto.randomUUID(),
    name: `On ${moment}`,
    moment,
    offsetDays: 0,
    offsetMinutes: 0,
    audience,
    subject,
    body,
    ...part,
  };
}

/** A world for the tests of one file, with an open event for each of them, a month after that of the one before. */
export class Scene {
  world!: World;
  odalys!: Caller;
  event!: OpenEvent;
  /** When it begins. */
  begins = '';
  /** Which test it is. */
  n = 0;

  constructor() {
    beforeAll(async () => {
      this.world = await makeWorld();
      this.odalys = await this.world.as('odalys');
    });
    afterAll(() => this.world.close());
    beforeEach(async () => {
      this.n += 1;
      const month = `${2026 + Math.floor((this.n + 7) / 12)}-${String(((this.n + 7) % 12) + 1).padStart(2, '0')}`;
      this.event = await openEvent(this.world, {
        title: `Lines ${this.n}`,
        startsLocal: `${month}-20T09:00`,
        endsLocal: `${month}-20T16:00`,
      });
      const [row] = await this.world.app.db.query<{ at: string }>(
        'select starts_at as at from events where id = $1',
        [this.event.id],
      );
      this.begins = row!.at;
    });
  }

  /** So many minutes before it begins; after it below nought. */
  ahead = (minutes: number): string => new Date(Date.parse(this.begins) - minutes * 60_000).toISOString();

  later = (minutes: number): string =>
    new Date(Date.parse(this.world.app.clock.now()) + minutes * 60_000).toISOString();

  /** Gives an event these lines and no others. */
  plan = async (event: OpenEvent, messages: MessageLinePlan[]) => {
    const params = { id: event.id };
    const { version } = await this.odalys.call('GET /api/events/:id', { params });
    return this.odalys.try('PATCH /api/events/:id', { params, body: { version, change: { messages } } });
  };

  /** What a line of an event sends: who gets it in which state when, and who does not and why. */
  planned = async (event: OpenEvent, name: string) => {
    const lines = await this.odalys.call('GET /api/events/:id/messages', { params: { id: event.id } });
    const line = lines.find((l) => l.name === name)!;
    return {
      ...line,
      goes: line.rows.map((r) => [r.name, r.state, r.sentAt ?? r.plannedFor]),
      not: line.leftOut.map((r) => [r.name, r.whyNot]),
    };
  };

  book = (event: OpenEvent, given: string, phone?: string, more: object = {}) => {
    const body = orderFor(event, [{ given, family: 'Lind' }]);
    return this.world.anyone.call('POST /api/public/events/:slug/orders', {
      params: { slug: event.slug },
      body: { ...body, buyer: { ...body.buyer, ...(phone && { phone }) }, ...more },
    });
  };
}
