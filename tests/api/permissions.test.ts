import SwaggerParser from '@apidevtools/swagger-parser';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Role } from '#contract/endpoint.ts';
import { everything } from '#contract/index.ts';
import { describeApi } from '#contract/openapi.ts';
import { type Caller, makeWorld, type World } from './harness.ts';

const people = {
  coordinator: 'odalys',
  approver: 'tobias',
  treasurer: 'marit',
  'crew lead': 'imani',
  'unit lead': 'piers',
  door: 'door',
} as const;
/** Clock and streams would disturb the walk or never end; they have tests of their own. */
const disturbing = ['POST /api/clock', 'GET /api/events/:id/stream'];
const nobodysId = '00000000-0000-7000-8000-000000000000';

/**
 * Who may call what, written by hand: nothing of it is taken from the contract. Objects and fields are in
 * reaching.test.ts. Letters: C coordinator · A approver · T treasurer · K crew lead · U unit lead · D door team;
 * `public` is everybody, `staff` everybody signed in.
 */
const table: Record<string, string> = {
  public: `POST /api/public/sign-in, POST /api/public/sign-in/code, POST /api/public/sign-in/link, DELETE /api/public/sign-in, GET /api/public/mine, GET /api/public/mine/:token/calendar.ics, GET /api/setup, POST /api/setup, POST /api/sign-in, POST /api/password-resets, GET /api/password-resets/:token,
    POST /api/password-resets/:token, POST /api/sign-out, GET /api/invitations/:token, POST /api/invitations/:token,
    GET /api/public/own/:token, POST /api/public/own/:token/details, POST /api/public/own/:token/memberships/:id,
    GET /api/public/follow/:token, POST /api/public/follow/:token, GET /api/public/out/:token, POST /api/public/out/:token, POST /api/public/events/:slug/followers, GET /api/public/events/:slug/board, POST /api/public/events/:slug/board,
    POST /api/public/own/:token/consents, GET /api/public/frame, GET /api/public/events, GET /api/public/calendar.ics, GET /api/public/events/:slug, POST /api/public/events/:slug/code, POST /api/public/events/:slug/files, POST /api/public/orders/:token/withdraw/what-if, GET /api/public/guests/:token, PUT /api/public/guests/:token, POST /api/public/guests/:token/signature, POST /api/public/orders/:token/seats/:seat/guest, PUT /api/public/orders/:token/answers, POST /api/public/orders/:token/answer,
    GET /api/public/pictures/:id/:size, GET /api/public/previews/:token, GET /api/public/events/:slug/calendar.ics, POST /api/public/events/:slug/orders, GET /api/public/orders/:token,
    GET /api/public/propose, POST /api/public/propose,
    GET /api/public/orders/:token/money, POST /api/public/orders/:token/money,
    POST /api/public/orders/:token/pay, POST /api/public/orders/:token/take, POST /api/public/orders/:token/withdraw,
    PATCH /api/public/orders/:token/seats/:seat, GET /api/public/orders/:token/passes.pdf,
    GET /api/public/orders/:token/calendar.ics, POST /api/public/orders/:token/signatures,
    GET /api/public/events/:slug/shifts, GET /api/public/shifts, POST /api/public/shifts/:id/sign-up, GET /api/public/crew/:token,
    GET /api/public/calls/:slug, POST /api/public/calls/:slug, POST /api/public/calls/:slug/files, GET /api/public/applications/:token, PUT /api/public/applications/:token, POST /api/public/applications/:token/deposit, POST /api/public/applications/:token/deposit/code, POST /api/public/applications/:token/answer,
    POST /api/public/shifts/:id/wait, POST /api/public/crew/:token/wait-no-more, POST /api/public/crew/:token/step-in, POST /api/public/crew/:token/swap,
    POST /api/public/crew/:token/drop, GET /api/public/crew/:token/calendar.ics, GET /api/public/surveys/:token,
    POST /api/public/surveys/:token, POST /api/public/surveys/:token/first, GET /api/public/events/:slug/call, POST /api/public/events/:slug/proposals, POST /api/public/events/:slug/question,
    POST /api/public/card-notifications, GET /api/public/receipts/:token, GET /api/public/receipts/:token/receipt.pdf, GET /api/public/verify, POST /api/public/orders/:token/pay/code, GET /api/public/giving/:slug, POST /api/public/giving/:slug/gifts, GET /api/public/gifts/:token,
    POST /api/public/gifts/:token/pay, POST /api/public/gifts/:token/pay/code, GET /api/public/pledges/:token, POST /api/public/pledges/:token, POST /api/public/pledges/:token/card,
    GET /api/public/orders/:token/files/:file, GET /api/public/orders/:token/sessions,
    POST /api/public/orders/:token/ticket, POST /api/public/orders/:token/ticket/what-if, POST /api/public/orders/:token/date, POST /api/public/orders/:token/date/what-if,
    POST /api/public/events/:slug/seen, GET /api/public/orders/:token/confirmation.pdf, GET /api/public/invitations/:token, POST /api/public/invitations/:token/answer,
    GET /api/public/count/:token, POST /api/public/count/:token, POST /api/public/count/:token/pictures, GET /api/public/initiatives/:token,
    GET /api/public/here/:token, POST /api/public/here/:token, POST /api/public/here/:token/signatures, GET /api/public/cosign/:token, POST /api/public/cosign/:token,
    GET /api/public/orders/:token/attendance, POST /api/public/orders/:token/seats/:seat/attendance, GET /api/public/orders/:token/seats/:seat/certificate.pdf,
    GET /api/public/guests/:token/attendance, POST /api/public/guests/:token/attendance, GET /api/public/guests/:token/certificate.pdf,
    GET /api/public/waivers/:slug, POST /api/public/waivers/:slug/signatures, GET /api/public/signed/:token, GET /api/public/signed/:token/copy.pdf,
    POST /api/public/signed/:token/seen, POST /api/public/signed/:token/revocation, POST /api/public/signatures/check, POST /api/public/crew/:token/signatures,
    PUT /api/public/orders/:token/seats/:seat/sessions, GET /api/public/orders/:token/seats/:seat/sessions.ics`,
  staff: `GET /api/kinds, PUT /api/account/clock, GET /api/account, GET /api/account/notices, PUT /api/account/notices, POST /api/account/password, DELETE /api/account/sessions, DELETE /api/account/sessions/:id,
    POST /api/account/second-step, PUT /api/account/second-step, DELETE /api/account/second-step,
    POST /api/account/recovery, GET /api/me, GET /api/clock, GET /api/search, POST /api/contacts/:id/notes,
    PATCH /api/notes/:id, DELETE /api/notes/:id, GET /api/contacts/:id, GET /api/contacts/:id/photo,
    GET /api/contacts/:id/lifeline, GET /api/fields, GET /api/desk, GET /api/events, GET /api/events/:id, GET /api/choices,
    GET /api/events/:id/clearance, POST /api/events/:id/clearance/words, GET /api/events/:id/clearance/around, POST /api/events/:id/clearance/seen, GET /api/events/:id/clearance/papers/:paper, POST /api/clearance-conditions/:id/met,
    GET /api/clearance/facts, GET /api/events/:id/registrations, GET /api/events/:id/answers/files/:file, GET /api/events/:id/crew, GET /api/events/:id/crew.pdf, GET /api/events/:id/crew.csv, GET /api/events/:id/crew/figures,
    GET /api/events/:id/registration-views, POST /api/events/:id/registration-views, DELETE /api/events/:id/registration-views/:view, GET /api/events/:id/sources,
    GET /api/events/:id/messages, GET /api/events/:id/messages/people, GET /api/events/:id/messages/template, POST /api/events/:id/messages/template, GET /api/events/:id/lines/:lineId/now, POST /api/events/:id/lines/:lineId/send,
    GET /api/events/:id/lines/:lineId/preview, POST /api/events/:id/lines/preview, GET /api/events/:id/board, PUT /api/events/:id/board, POST /api/events/:id/board/:question, POST /api/events/:id/lines/:lineId/test, PUT /api/events/:id/sending, GET /api/events/:id/lessons, GET /api/measures, GET /api/events/:id/outcomes, GET /api/events/:id/tallies/:tally/picture, GET /api/events/:id/tallies.csv, GET /api/events/:id/counting.pdf, GET /api/events/:id/surveys, GET /api/events/:id/surveys/:survey, GET /api/events/:id/figures`,
  C: `POST /api/events/:id/thanks, POST /api/events/:id/thanks/preview, POST /api/measures, PUT /api/measures/:id, PUT /api/measures/:id/closed, GET /api/waivers, GET /api/waivers/:id, PATCH /api/waivers/:id, POST /api/waivers/:id/versions, POST /api/waivers/:id/closing, POST /api/waivers/:id/paper,
    GET /api/waivers/:id/signatures, GET /api/waivers/:id/signatures.csv, GET /api/waivers/:id/poster.pdf, GET /api/signatures/:id/scan, GET /api/signatures/:id/copy.pdf,
    POST /api/signatures/:id/revocation, GET /api/signature-chain,
    PUT /api/organization/attendance-days, POST /api/events/:id/attendance/open, PUT /api/crew-rules, POST /api/events/:id/clearance/late, GET /api/clearance/rules, PUT /api/clearance/rules, POST /api/clearance/rules/try, GET /api/logos, PUT /api/logos, GET /api/addresses, POST /api/kinds, PATCH /api/kinds/:id, DELETE /api/kinds/:id, GET /api/organization, PUT /api/organization, PUT /api/organization/clock, PUT /api/organization/quiet-hours, PUT /api/sending, GET /api/staff, POST /api/staff/invitations, PATCH /api/staff/:id, DELETE /api/staff/:id/second-step,
    DELETE /api/staff/:id/sessions, DELETE /api/staff/invitations/:id, POST /api/staff/invitations/:id/renew,
    PUT /api/staff/second-step, GET /api/event-proposals, PUT /api/event-proposals, GET /api/trail, GET /api/backups, POST /api/backups, GET /api/backups/:name,
    DELETE /api/backups/:name, POST /api/backups/:name/restore, GET /api/contacts.csv, GET /api/contacts.vcf,
    POST /api/contacts/chosen.csv, POST /api/contacts/chosen.vcf, GET /api/contacts/:id/everything.json,
    GET /api/contacts/:id/everything.csv, GET /api/contacts/:id/erasure, POST /api/contacts/:id/erase,
    POST /api/mailings/preview, POST /api/mailings, GET /api/mailings, GET /api/mailings/:id, POST /api/mailings/:id/stop, POST /api/fields, PATCH /api/fields/:id,
    DELETE /api/fields/:id, GET /api/imports, POST /api/imports, GET /api/imports/:id, GET /api/imports/:id/stream,
    GET /api/imports/:id/rows, GET /api/imports/:id/rejected.csv, PUT /api/imports/:id/mapping,
    PATCH /api/imports/:id/rows/:line, POST /api/imports/:id/cancel, POST /api/imports/:id/apply,
    POST /api/imports/:id/undo, DELETE /api/imports/:id, GET /api/pairs, POST /api/pairs/look, PUT /api/pairs/thresholds,
    POST /api/pairs/:id/decide, POST /api/pairs/:id/reopen, POST /api/pairs/merge-sure, POST /api/contacts/:id/merge,
    POST /api/merges/:id/undo, GET /api/contacts/:id/links, POST /api/contacts/:id/links, GET /api/proposals,
    POST /api/proposals/:id/decide, POST /api/units, PATCH /api/units/:id, GET /api/venues/:id/diaries, POST /api/venues/:id/diaries, DELETE /api/diaries/:id, GET /api/venues, POST /api/venues, PATCH /api/venues/:id, POST /api/venues/:id/retire, POST /api/venues/:id/merge, POST /api/waivers, GET /api/standins,
    PUT /api/standins, POST /api/messages/:id/retry, POST /api/messages/:id/reply, GET /api/letters, GET /api/letters/:kind, PUT /api/letters/:kind, POST /api/letters/:kind/preview,
    GET /api/year-round, PUT /api/year-round/:id, POST /api/year-round/:id/remove, GET /api/year-round/:id/preview, POST /api/year-round/preview, POST /api/year-round/count, POST /api/year-round/:id/test, GET /api/segments/:id/contacts.csv,
    GET /api/segments/:id/contacts.vcf`,
  CA: 'POST /api/clearance-steps/:id/decision, GET /api/clearance/waiting, GET /api/account/absence, PUT /api/account/absence',
  CT: 'GET /api/reports, POST /api/reports, GET /api/reports/:id, PUT /api/reports/:id, DELETE /api/reports/:id, GET /api/reports/:id/report.pdf, PUT /api/initiatives/:id, PUT /api/initiatives/:id/widget, GET /api/books, GET /api/books/entries, GET /api/books.csv, GET /api/books/owed, POST /api/funds, PATCH /api/funds/:id, GET /api/ledger, GET /api/ledger.csv, POST /api/orders/:id/refunds, GET /api/cards, GET /api/cards/payouts/:id, POST /api/cards/statement, POST /api/cards/moves/:id/settle, GET /api/giving, GET /api/giving/choices, POST /api/giving/pages, PUT /api/giving/pages/:id, POST /api/initiatives, PATCH /api/initiatives/:id, GET /api/gifts, POST /api/gifts, POST /api/gifts/:id/refunds, PUT /api/gifts/:id/hidden, GET /api/receipts, GET /api/receipts/settings, PUT /api/receipts/settings, GET /api/receipts/due, POST /api/receipts, POST /api/receipts/:id/void, POST /api/receipts/:id/replace, GET /api/receipts/:id/receipt.pdf, POST /api/receipts/batches, POST /api/receipts/batches/:id/stop, POST /api/receipts/batches/:id/go, GET /api/receipts/batches/:id/receipts.pdf, GET /api/events/:id/favours, PUT /api/events/:id/favours, PUT /api/registrations/:id/receipt, GET /api/bank, POST /api/bank/files, POST /api/bank/lines/:id/settle, POST /api/bank/lines/:id/undo, GET /api/account-codes, PUT /api/account-codes',
  CK: `GET /api/records/drifting, GET /api/hours, GET /api/hours.csv, POST /api/roles, PATCH /api/roles/:id, DELETE /api/roles/:id, POST /api/skills, PATCH /api/skills/:id, DELETE /api/skills/:id,
    POST /api/contacts/:id/consents, POST /api/tags, POST /api/contacts, PATCH /api/contacts/:id,
    PUT /api/contacts/:id/photo, DELETE /api/contacts/:id/photo, POST /api/contacts/:id/ties,
    PATCH /api/ties/:kind/:id, DELETE /api/ties/:kind/:id, POST /api/contacts/:id/own-link`,
  CU: `POST /api/events/:id/tallies, POST /api/events/:id/tallies/pictures, POST /api/events/:id/tallies/decided, PATCH /api/events/:id/tallies/:tally, PUT /api/events/:id/counting,
    POST /api/events, GET /api/events/:id/again, PATCH /api/events/:id, POST /api/events/:id/state, POST /api/events/:id/what-if, GET /api/events/:id/history, POST /api/events/:id/history/:change/back, POST /api/events/:id/template,
    GET /api/events/:id/changes, POST /api/events/:id/changes/:change/back, POST /api/events/:id/changes/:change/now, POST /api/events/:id/proposal,
    GET /api/events/:id/preview, POST /api/events/:id/preview, DELETE /api/events/:id/preview, GET /api/pictures, POST /api/pictures, PATCH /api/pictures/:id, GET /api/events/:id/deletion, DELETE /api/events/:id, POST /api/events/:id/clearance,
    POST /api/clearance-questions/:id/answer, POST /api/events/:id/clearance/papers, DELETE /api/events/:id/clearance/papers/:paper,
    POST /api/registrations/:id/withdraw, POST /api/orders/:id/offer, POST /api/events/:id/orders, POST /api/events/:id/orders/what-if,
    POST /api/events/:id/seats/withdraw, POST /api/events/:id/seats/withdraw/what-if, POST /api/events/:id/seats/move, POST /api/events/:id/seats/move/what-if,
    POST /api/events/:id/letters, POST /api/events/:id/letters/preview, POST /api/events/:id/tasks, POST /api/events/:id/sources, DELETE /api/events/:id/sources/:source,
    POST /api/events/:id/registrations/import, POST /api/events/:id/registrations/import/what-if, POST /api/events/:id/name-tags.pdf, POST /api/events/:id/door-list.pdf,
    PATCH /api/events/:id/invited/:contact, POST /api/events/:id/invited/letters, POST /api/events/:id/invited/letters/preview,
    POST /api/files, GET /api/events/:id/files, GET /api/events/:id/files/:file, GET /api/events/:id/team, POST /api/events/:id/team, DELETE /api/events/:id/team/:member,
    POST /api/series/preview, POST /api/series, GET /api/series/:id, PATCH /api/series/:id, POST /api/series/:id/what-if,
    POST /api/series/:id/call-off, POST /api/series/:id/call-off/what-if, GET /api/events/:id/series, POST /api/events/:id/series/carry,
    POST /api/events/:id/series/carry/what-if, POST /api/events/:id/series/back, POST /api/events/:id/series/leave,
    GET /api/events/:id/invited, POST /api/events/:id/invited, DELETE /api/events/:id/invited/:contact,
    GET /api/events/:id/queue, POST /api/events/:id/decisions, POST /api/events/:id/decisions/what-if,
    PATCH /api/registrations/:id, POST /api/registrations/:id/guest, GET /api/question-sets, POST /api/question-sets, DELETE /api/question-sets/:id, GET /api/survey-templates, POST /api/survey-templates, DELETE /api/survey-templates/:id, GET /api/events/:id/surveys/:survey/answers.csv,
    GET /api/events/:id/guest-lists, POST /api/events/:id/guest-lists, PATCH /api/guest-lists/:id, DELETE /api/guest-lists/:id,
    POST /api/guest-lists/:id/people, DELETE /api/guest-lists/:id/people/:person,
    GET /api/events/:id/place, GET /api/events/:id/agenda, POST /api/session-proposals/:id/decide`,
  CTK: `GET /api/records/series, GET /api/records/returns, GET /api/records/paths, GET /api/records/audiences, GET /api/records/timing, GET /api/contacts, GET /api/contacts/ids, GET /api/tags, GET /api/views, POST /api/views, DELETE /api/views/:id,
    GET /api/units/:id/people, GET /api/segments, POST /api/segments, GET /api/segments/choices, GET /api/segments/:id,
    PATCH /api/segments/:id, DELETE /api/segments/:id, POST /api/segments/:id/members, POST /api/segments/count,
    POST /api/segments/why, GET /api/segments/:id/contacts, GET /api/segments/:id/compare/:other`,
  CTKU: 'GET /api/initiatives, GET /api/initiatives/:id',
  CTU: `GET /api/records/events, GET /api/records/units, GET /api/events/:id/registrations.csv, GET /api/orders/:id/confirmation.pdf, GET /api/events/:id/account,
    PUT /api/events/:id/budget, POST /api/events/:id/costs, POST /api/events/:id/costs/:cost/undo`,
  CUD: 'GET /api/events/:id/inside, GET /api/events/:id/inside.pdf, GET /api/registrations/:id/signatures, GET /api/registrations/:id/care',
  CTUD: 'POST /api/orders/:id/payments',
  CKU: `POST /api/events/:id/lessons, PATCH /api/events/:id/lessons/:lesson, DELETE /api/events/:id/lessons/:lesson, PUT /api/events/:id/lessons/:lesson/settled,
    POST /api/events/:id/attendance/check, POST /api/events/:id/attendance/lists, POST /api/attendance-lists/:id/undo, POST /api/events/:id/doors/close, POST /api/attendance-disputes/:id,
    GET /api/events/:id/certificates.pdf, GET /api/registrations/:id/certificate.pdf, PUT /api/events/:id/self-check-in, POST /api/events/:id/signing/reminders, GET /api/events/:id/roster, POST /api/events/:id/roster, POST /api/events/:id/roster/stop, POST /api/events/:id/roster/accept, DELETE /api/events/:id/roster, GET /api/shifts/:id/repair, POST /api/shifts/:id/repair,
    GET /api/shifts/:id/step-in, POST /api/shifts/:id/step-in, DELETE /api/shifts/:id/step-in, GET /api/events/:id/swaps, POST /api/events/:id/swaps, POST /api/events/:id/swaps/decline, POST /api/events/:id/crew/mail, POST /api/assignments/:id/hours, GET /api/contacts/:id/hours.pdf,
    GET /api/calls, POST /api/calls, PUT /api/calls/:id, GET /api/calls/:id/applications, POST /api/calls/:id/invite, POST /api/applications/decide, POST /api/calls/:id/deposits, POST /api/deposits/:id/received, POST /api/deposits/:id/let-off, POST /api/deposits/:id/settle, POST /api/applications/:id/ask, POST /api/applications/:id/again,
    POST /api/applications/:id/skills/:skill/seen, GET /api/applications/:id/files/:file, POST /api/applications/:id/pairs, DELETE /api/applications/:id/pairs/:pair,
    GET /api/shifts/:id/candidates, GET /api/roles, GET /api/contacts/:id/skills, PUT /api/contacts/:id/skills/:skill, DELETE /api/contacts/:id/skills/:skill,
    POST /api/events/:id/shifts/several, PUT /api/shifts/:id, POST /api/shifts/:id/cut, POST /api/events/:id/shifts, DELETE /api/shifts/:id, POST /api/shifts/:id/assignments,
    POST /api/assignments/:id/state, GET /api/tray, GET /api/tray/whats, GET /api/sending, GET /api/messages/:id, GET /api/incoming,
    POST /api/incoming/:id/answer, PUT /api/incoming/:id`,
  CKUD: `GET /api/events/:id/attendance, GET /api/registrations/:id/attendance, PUT /api/registrations/:id/attendance, GET /api/events/:id/doors/live, POST /api/registrations/:id/name-tag.pdf, GET /api/events/:id/known/:contact,
    POST /api/assignments/:id/signatures, GET /api/events/:id/self-check-in.pdf, GET /api/events/:id/signing, GET /api/events/:id/doors/crew, POST /api/assignments/:id/presence, GET /api/doors, GET /api/events/:id/doors, POST /api/events/:id/scan, POST /api/registrations/:id/attendance,
    POST /api/registrations/:id/signatures, GET /api/events/:id/known, POST /api/events/:id/walk-ins`,
};
const letters: Record<string, Role> = {
  C: 'coordinator',
  A: 'approver',
  T: 'treasurer',
  K: 'crew lead',
  U: 'unit lead',
  D: 'door',
};

describe('who may call what', () => {
  let world: World;
  const callers = new Map<string, Caller>();
  beforeAll(async () => {
    world = await makeWorld();
    // One role each.
    await world.app.db.query(
      "update staff set roles = '{treasurer}', approves = '{}' where email like 'marit%'",
    );
    for (const [letter, role] of Object.entries(letters)) callers.set(letter, await world.as(people[role]));
  });
  afterAll(() => world.close());

  const rows = Object.entries(table).flatMap(([who, keys]) =>
    keys.split(',').map((k) => [k.trim(), who] as const),
  );

  test('every endpoint stands in the table, once', () => {
    const listed = rows.map(([key]) => key);
    expect([...listed, ...disturbing].sort()).toEqual(
      [...new Set([...Object.keys(everything), ...disturbing])].sort(),
    );
    expect(new Set(listed).size).toBe(listed.length);
  });

  for (const [key, who] of rows)
    test(`${key}: ${who}`, async () => {
      if (key === 'POST /api/sign-out') return;
      const sent = {
        params: {
          id: nobodysId,
          other: nobodysId,
          contact: nobodysId,
          seat: nobodysId,
          slug: 'nothing-here',
          token: 'x'.repeat(27),
          name: 'nothing',
          kind: 'membership',
          line: 1,
        } as never,
        ...(key.startsWith('GET') ? {} : { body: {} as never }),
      };
      const anyone = await world.anyone.try(key as keyof typeof everything, sent);
      if (who === 'public') expect([403]).not.toContain(anyone.status);
      else expect(anyone.status).toBe(401);
      let may = '';
      for (const [letter, caller] of callers) {
        const { status } = await caller.try(key as keyof typeof everything, sent);
        expect(status, `${letter} gets no server error`).toBeLessThan(500);
        if (status !== 403 && status !== 401) may += letter;
      }
      const everybody = Object.keys(letters).join('');
      if (who !== 'public') expect(may).toBe(who === 'staff' ? everybody : who);
    });

  test('a write that comes from another site is refused', async () => {
    const odalys = await world.as('odalys');
    expect(
      (
        await odalys.try(
          'POST /api/contacts',
          { body: { given: 'A', family: 'B' } },
          { origin: 'https://elsewhere.example' },
        )
      ).problem.code,
    ).toBe('other-origin');
    expect(
      (await odalys.try('POST /api/contacts', { body: { given: 'A', family: 'B' } }, { origin: 'null' }))
        .status,
    ).toBe(403);
  });

  test('every page and answer carries the guards a browser needs', async () => {
    const reply = await fetch(`${world.origin}/healthz`);
    expect(reply.headers.get('content-security-policy')).toContain("script-src 'self';");
    expect(reply.headers.get('x-content-type-options')).toBe('nosniff');
    expect(reply.headers.get('x-powered-by')).toBeNull();
    expect(reply.headers.get('x-request-id')).toMatch(/^[\da-f-]{36}$/u);
    const signIn = await fetch(`${world.origin}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: 'odalys@brackenmere.example', password: 'marsh-wren-2026' }),
    });
    expect(signIn.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Lax/u);
  });

  test('an invitation makes an account once, and its message is planned', async () => {
    const odalys = await world.as('odalys');
    const { link } = await odalys.call('POST /api/staff/invitations', {
      body: { name: 'Greta Wilder', email: 'greta@fenmail.example', roles: ['door'] },
    });
    const token = link.split('/').at(-1)!;
    expect(
      (
        await world.anyone.try('POST /api/invitations/:token', {
          params: { token },
          body: { password: 'short' },
        })
      ).problem.fields?.[0]?.path,
    ).toBe('password');
    const greta = new (odalys.constructor as typeof Caller)(world.origin);
    await greta.call('POST /api/invitations/:token', {
      params: { token },
      body: { password: 'a long enough one' },
    });
    expect((await greta.call('GET /api/me')).staff).toMatchObject({ name: 'Greta Wilder', roles: ['door'] });
    expect(
      (
        await world.anyone.try('POST /api/invitations/:token', {
          params: { token },
          body: { password: 'a long enough one' },
        })
      ).status,
    ).toBe(404);
    await world.runner.run();
    expect(
      await world.app.db.query("select 1 from standin_mail where address = 'greta@fenmail.example'"),
    ).toHaveLength(1);
  });
});

test('too many tries to sign in are slowed down', async () => {
  const world = await makeWorld({ limits: { publicWrites: 5, signIns: 3 } });
  const statuses: number[] = [];
  for (let n = 0; n < 5; n += 1)
    statuses.push(
      (
        await world.anyone.try('POST /api/sign-in', {
          body: { email: 'odalys@brackenmere.example', password: 'wrong' },
        })
      ).status,
    );
  expect(statuses).toEqual([401, 401, 401, 429, 429]);
  await world.close();
});

test('the OpenAPI description is valid and complete', async () => {
  const api = describeApi(everything, 'http://localhost:4400') as {
    paths: Record<string, Record<string, unknown>>;
  };
  await SwaggerParser.validate(structuredClone(api) as never);
  expect(Object.values(api.paths).flatMap((p) => Object.keys(p))).toHaveLength(
    Object.keys(everything).length,
  );
});
