import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { EventPlan } from '#contract/plan.ts';
import { answered } from '#core/clearance/facts.ts';
import { plainOffer } from '#core/offers/offer.ts';
import { docOf, plainText } from '#core/text/doc.ts';
import { earlyEvent } from '#server/http/early.ts';
import { type Caller, makeWorld, type World } from './harness.ts';
import { openEvent } from './scenes.ts';

let world: World;
let odalys: Caller;
beforeAll(async () => {
  world = await makeWorld();
  odalys = await world.as('odalys');
});
afterAll(() => world.close());

const begin = async (publicTitle: string) =>
  (await odalys.call('POST /api/events', { body: { publicTitle } })).id;
const pageOf = (id: string) => odalys.call('GET /api/events/:id', { params: { id } });
const save = async (id: string, change: Partial<EventPlan>, by: Caller = odalys) => {
  const { version } = await by.call('GET /api/events/:id', { params: { id } });
  return by.call('PATCH /api/events/:id', { params: { id }, body: { version, change } });
};
const history = (id: string, by: Caller = odalys) =>
  by.call('GET /api/events/:id/history', { params: { id } });
const putBack = async (id: string, change: string) => {
  const { version } = await pageOf(id);
  return odalys.try('POST /api/events/:id/history/:change/back', {
    params: { id, change },
    body: { version },
  });
};

/** The public page as it is read before any script. */
const early = async (slug: string, language: 'en' | 'fr') =>
  earlyEvent(
    await world.anyone.call('GET /api/public/events/:slug', { params: { slug } }),
    { name: 'Brackenmere Wetland Trust' },
    language,
  );

describe('what was changed of a plan', () => {
  test('is kept field by field; what one person types on is one change, and what came back is none', async () => {
    const id = await begin('Typed On');
    await save(id, { summary: 'A' });
    await save(id, { summary: 'A walk', capacity: 20 });
    expect(await history(id)).toMatchObject([
      { field: 'capacity', before: null, after: 20, actor: 'Odalys Ferrant', mine: true },
      { field: 'summary', before: '', after: 'A walk' },
    ]);
    await save(id, { summary: '' });
    expect((await history(id)).map((c) => c.field)).toEqual(['capacity']);
    expect((await pageOf(id)).undoable).toMatchObject({ field: 'capacity' });
  });

  test('of two people are two changes', async () => {
    const { id } = await openEvent(world, { title: 'Two Writers', unit: 'Small Boats' });
    const piers = await world.as('piers');
    await save(id, { summary: 'Mine' });
    await save(id, { summary: 'Ours' }, piers);
    const [last, before] = await history(id, piers);
    expect(last).toMatchObject({ field: 'summary', before: 'Mine', after: 'Ours', mine: true });
    expect(before).toMatchObject({ before: '', after: 'Mine', mine: false });
    // Undoing one's own must not take the other's text away unseen.
    expect((await pageOf(id)).undoable).not.toMatchObject({ field: 'summary' });
    expect((await piers.call('GET /api/events/:id', { params: { id } })).undoable).toMatchObject({
      field: 'summary',
    });
  });

  test('is put back, also a list with what was removed from it; that is a change too, and says so', async () => {
    const id = await begin('Put Back');
    const offer = (name: string) => ({
      ...plainOffer,
      id: crypto.randomUUID(),
      name,
    });
    const [seat, canoe] = [offer('Seat'), offer('Canoe')];
    await save(id, { offers: [seat, canoe] });
    await world.moveTo('2026-07-09T13:00:00Z');
    await save(id, { offers: [seat] });
    const [removed] = await history(id);
    expect((await putBack(id, removed!.id)).status).toBe(201);
    expect((await pageOf(id)).plan.offers.map((o) => o.name)).toEqual(['Seat', 'Canoe']);
    const [back, undone] = await history(id);
    expect(back).toMatchObject({ field: 'offers', undoes: removed!.id, undoneBy: null });
    expect(undone).toMatchObject({ id: removed!.id, undoneBy: 'Odalys Ferrant' });
    // The next to be taken back is the one before.
    expect((await pageOf(id)).undoable).not.toMatchObject({ change: removed!.id });
  });

  test('is refused when somebody saved meanwhile, and for changes of other events', async () => {
    const id = await begin('Stale');
    await save(id, { summary: 'One' });
    const [change] = await history(id);
    const { version } = await pageOf(id);
    await save(id, { summary: 'Two' });
    const stale = await odalys.try('POST /api/events/:id/history/:change/back', {
      params: { id, change: change!.id },
      body: { version: version - 1 },
    });
    expect(stale.problem.code).toBe('changed-meanwhile');
    const other = await begin('Another');
    expect((await putBack(other, change!.id)).status).toBe(404);
  });

  test('is seen by those who plan the event, and nobody else', async () => {
    const { id } = await openEvent(world, { title: 'Whose History', unit: 'Mudlarks' });
    for (const who of ['piers', 'marit', 'imani', 'door'] as const)
      expect(
        (await (await world.as(who)).try('GET /api/events/:id/history', { params: { id } })).status,
      ).toBe(403);
  });
});

describe('formatted text and French', () => {
  test('what is saved holds what a document may, whatever was sent', async () => {
    const { id, slug } = await openEvent(world, { title: 'Formatted' });
    await save(id, {
      description: {
        type: 'doc',
        content: [
          { type: 'script', content: [{ type: 'text', text: 'alert(1)' }] },
          {
            type: 'paragraph',
            content: [
              {
                type: 'text',
                text: 'Sign',
                marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }],
              },
            ],
          },
        ],
      } as never,
    });
    const { plan } = await pageOf(id);
    expect(plainText(plan.description)).toBe('alert(1)\n\nSign');
    expect(JSON.stringify(plan.description)).not.toMatch(/script"|javascript/u);
    expect(await early(slug, 'en')).toContain('<p>Sign</p>');
  });

  test('a reader of French gets it text by text; what lags is told to the team', async () => {
    const { id, slug } = await openEvent(world, { title: 'Heron Count' });
    await save(id, {
      summary: 'Count herons at dusk.',
      french: {
        publicTitle: 'Comptage des hérons',
        subtitle: '',
        summary: 'Comptez les hérons au crépuscule.',
        description: docOf('Venez tôt.'),
      },
    });
    expect((await pageOf(id)).french).toMatchObject({ publicTitle: 'there', summary: 'there' });
    await save(id, { summary: 'Count herons at dawn.' });
    expect((await pageOf(id)).french).toMatchObject({ publicTitle: 'there', summary: 'lags' });
    const anyone = world.anyone;
    const event = await anyone.call('GET /api/public/events/:slug', { params: { slug } });
    expect(event).toMatchObject({
      title: 'Heron Count',
      french: { title: 'Comptage des hérons', summary: 'Comptez les hérons au crépuscule.' },
    });
    const french = await early(slug, 'fr');
    expect(french).toContain('<h1>Comptage des hérons</h1>');
    expect(french).toContain('<p>Venez tôt.</p>');
  });

  test('notes for the team reach the team alone', async () => {
    const { id, slug } = await openEvent(world, { title: 'Noted', unit: 'Small Boats' });
    await save(id, { notes: 'The gate code is 4711.' });
    const anyone = world.anyone;
    expect(
      JSON.stringify(await anyone.call('GET /api/public/events/:slug', { params: { slug } })),
    ).not.toContain('code is 4711');
    expect(await early(slug, 'en')).not.toContain('code is 4711');
    const asked = { params: { id } };
    expect((await (await world.as('piers')).call('GET /api/events/:id', asked)).plan.notes).toContain(
      'code is 4711',
    );
    for (const who of ['imani', 'marit', 'door'] as const)
      expect(
        JSON.stringify((await (await world.as(who)).try('GET /api/events/:id', asked)).body),
      ).not.toContain('code is 4711');
  });
});

describe('templates', () => {
  test('are kept from an event without its date, edited like one, never public, and begun from', async () => {
    const event = await openEvent(world, {
      title: 'Reed Cut',
      startsLocal: '2026-09-02T18:00',
      endsLocal: '2026-09-02T20:00',
    });
    const { id } = await odalys.call('POST /api/events/:id/template', {
      params: { id: event.id },
      body: { publicTitle: 'Any Reed Cut' },
    });
    await save(id, { summary: 'Cut reeds with us.' });
    const page = await pageOf(id);
    expect(page).toMatchObject({ isTemplate: true, state: 'draft', moves: [], publicUrl: null });
    expect(page.plan).toMatchObject({ slug: null, startsLocal: null, endsLocal: null });
    expect(page.waits).toMatchObject({ startsLocal: '2026-09-02T18:00' });
    expect((await odalys.call('GET /api/events')).find((e) => e.id === id)).toMatchObject({
      isTemplate: true,
    });
    expect(JSON.stringify(await world.anyone.call('GET /api/public/events'))).not.toContain('Any Reed');
    expect(
      (await odalys.try('POST /api/events/:id/state', { params: { id }, body: { move: 'open' } })).problem
        .code,
    ).toBe('template');
    const begun = await odalys.call('POST /api/events', {
      body: { publicTitle: 'October Reed Cut', from: id, date: '2026-10-07' },
    });
    expect((await pageOf(begun.id)).plan).toMatchObject({
      startsLocal: '2026-10-07T18:00',
      endsLocal: '2026-10-07T20:00',
      summary: 'Cut reeds with us.',
    });
    expect((await pageOf(begun.id)).isTemplate).toBe(false);
  });
});

test('notes for the team stay with their unit when a template is begun from by another', async () => {
  const { id } = await openEvent(world, { title: 'Ours Alone', unit: 'Mudlarks' });
  await save(id, { notes: 'The gate code is 4711.' });
  const copy = await odalys.call('POST /api/events', { body: { publicTitle: 'Ours Again', from: id } });
  expect((await pageOf(copy.id)).plan.notes).toContain('code is 4711');
  const template = await odalys.call('POST /api/events/:id/template', {
    params: { id },
    body: { publicTitle: 'For Everybody' },
  });
  const piers = await world.as('piers');
  const theirs = await piers.call('POST /api/events', {
    body: { publicTitle: 'Theirs', from: template.id },
  });
  const page = await piers.call('GET /api/events/:id', { params: { id: theirs.id } });
  expect(JSON.stringify(page)).not.toContain('code is 4711');
  expect(page.copiedFrom!.leftBehind.map((l) => l.text).join()).toContain('notes for the team');
});

describe('deleting for good', () => {
  const remove = (id: string, by: Caller = odalys) => by.try('DELETE /api/events/:id', { params: { id } });

  test('a draft goes with what belongs to it; what was copied from it stays', async () => {
    const id = await begin('Useless');
    await save(id, { summary: 'never mind' });
    const copy = await odalys.call('POST /api/events', { body: { publicTitle: 'Useful', from: id } });
    expect(await odalys.call('GET /api/events/:id/deletion', { params: { id } })).toMatchObject({
      hindered: null,
      messages: 9,
    });
    expect((await remove(id)).status).toBe(200);
    expect((await odalys.try('GET /api/events/:id', { params: { id } })).status).toBe(404);
    expect((await pageOf(copy.id)).plan.summary).toBe('never mind');
    // A second time there is nothing to delete.
    expect((await remove(id)).status).toBe(404);
  });

  test('what somebody hangs on stays, with the reason', async () => {
    const open = await openEvent(world, { title: 'In Use' });
    expect(await odalys.call('GET /api/events/:id/deletion', { params: { id: open.id } })).toMatchObject({
      hindered: 'Only a draft can be deleted; this event is open. It can be shelved.',
    });
    expect((await remove(open.id)).problem.code).toBe('not-deletable');
    const sent = await begin('Sent Once');
    const { venues } = await odalys.call('GET /api/choices');
    await save(sent, {
      startsLocal: '2026-12-05T10:00',
      venueId: venues[0]!.id,
      facts: answered('boats'),
      offers: [
        {
          ...plainOffer,
          id: crypto.randomUUID(),
          name: 'Seat',
        },
      ],
    });
    await odalys.call('POST /api/events/:id/clearance', { params: { id: sent } });
    const { steps } = await odalys.call('GET /api/events/:id/clearance', { params: { id: sent } });
    const tobias = await world.as('tobias');
    await tobias.call('POST /api/clearance-steps/:id/decision', {
      params: { id: steps.find((s) => s.approves === 'safety')!.id },
      body: { decision: 'send back', words: 'Which boats?' },
    });
    expect((await pageOf(sent)).state).toBe('draft');
    expect((await odalys.call('GET /api/events/:id/deletion', { params: { id: sent } })).hindered).toContain(
      'sent for clearance',
    );
    expect((await remove(sent)).problem.code).toBe('not-deletable');
  });

  test('is for those who plan the event', async () => {
    const id = await begin('Not Theirs');
    for (const who of ['piers', 'marit', 'door'] as const)
      expect((await remove(id, await world.as(who))).status).toBe(403);
  });
});
