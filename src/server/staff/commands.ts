import type { z } from 'zod';
import type { OrganizationDetails, staffContract } from '#contract/staff.ts';
import { emailKey, isCountry } from '#core/contacts/reach.ts';
import { type QuietHours, usualQuiet } from '#core/messages/hours.ts';
import { isCurrency } from '#core/money/amount.ts';
import { isZone } from '#core/time/wallTime.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import type { App, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, update } from '../db/database.ts';
import { invalid, refused } from '../http/problem.ts';
import { wrongPassword } from './commonPasswords.ts';
import { hashPassword } from './passwords.ts';
import * as store from './store.ts';

type Setup = z.output<(typeof staffContract)['POST /api/setup']['body']>;

/** Sets the organization up, once: itself, its first coordinator, a fund, and rules of clearance to begin with. */
export async function setUp(w: Work, body: Setup): Promise<void> {
  const { tx, app, now } = w;
  if (await store.readOrganization(tx)) throw refused('already-set-up');
  const fields = [
    ...wrongDetails(body.organization, 'organization.'),
    ...wrongPassword(
      body.coordinator.password,
      { ...body.coordinator, organization: body.organization.name },
      'coordinator.password',
    ),
  ];
  if (fields.length) throw invalid(fields);
  await insert(tx, 'organization', {
    id: 1,
    ...body.organization,
    languages: ['en', 'fr'],
    createdAt: now,
    about: '',
    ageOfMajority: 18,
    minimumNoticeDays: 14,
    holidays: [],
    quietHours: usualQuiet,
  });
  const staffId = app.ids.id();
  await insert(tx, 'staff', {
    id: staffId,
    contactId: null,
    name: body.coordinator.name,
    email: body.coordinator.email,
    emailKey: emailKey(body.coordinator.email),
    passwordHash: await hashPassword(body.coordinator.password),
    roles: ['coordinator'],
    approves: ['safety', 'finance'],
    resting: false,
    createdAt: now,
  });
  await record(w, 'joined the team', {
    staffId,
    name: body.coordinator.name,
    email: body.coordinator.email,
  });
  await insert(tx, 'funds', { id: app.ids.id(), name: 'General', about: '' });
  await insertSampleRules(w);
  await record(w, 'organization changed', { how: 'set up' });
}

/** What an organization says of itself that is not so. */
const wrongDetails = (d: OrganizationDetails, prefix = ''): Wrong[] => [
  ...(isZone(d.zone) ? [] : [wrongAt(`${prefix}zone`, 'no-zone')]),
  ...(isCurrency(d.currency) ? [] : [wrongAt(`${prefix}currency`, 'no-currency')]),
  ...(isCountry(d.country) ? [] : [wrongAt(`${prefix}country`, 'no-country')]),
];

/** Changes what the organization says of itself. Prices and gifts are in its currency: with the first of them it stays. */
export async function describeOrganization(w: Work, details: OrganizationDetails): Promise<void> {
  const { tx } = w;
  const before = await store.organizationForUpdate(tx);
  const fields = wrongDetails(details);
  if (details.currency !== before.currency && (await store.currencyUsed(tx)))
    fields.push({ path: 'currency', code: 'currency-used', params: { currency: before.currency } });
  if (fields.length) throw invalid(fields);
  const changed = (['name', 'zone', 'currency', 'country', 'sender'] as const).filter(
    (of) => details[of] !== before[of],
  );
  if (!changed.length) return;
  await store.setDetails(tx, details);
  await record(w, 'organization changed', { how: changed.map((of) => `${of}: ${details[of]}`).join('; ') });
}

/** Says in which hours nothing is sent that can wait. */
export async function keepQuiet(w: Work, hours: QuietHours | null): Promise<void> {
  await store.setQuietHours(w.tx, hours);
  const how = hours
    ? `sends nothing that can wait from ${hours.from} to ${hours.until}`
    : 'sends at all hours';
  await record(w, 'quiet hours changed', { how });
}

/** Makes an account of an invitation. Answers it. */
export async function join(w: Work, invitation: store.InvitationRow, passwordHash: string): Promise<string> {
  const { id: invitationId, expiresAt: _, ...rest } = invitation;
  const id = w.app.ids.id();
  await insert(w.tx, 'staff', {
    id,
    contactId: null,
    ...rest,
    emailKey: emailKey(rest.email),
    passwordHash,
    resting: false,
    createdAt: w.now,
  });
  await record(w, 'joined the team', { staffId: id, name: rest.name, email: rest.email });
  await update(w.tx, 'staff_invitations', invitationId, { acceptedAt: w.now });
  await store.takeUpDuties(w.tx, invitationId, id);
  await record({ ...w, actor: { ...w.actor, name: rest.name, staffId: id } }, 'account changed', {
    staffId: id,
    how: 'joined',
  });
  return id;
}

/** Two sample rules to begin with, so that clearance works before anybody has set rules. Answers their ids by their steps. */
export async function insertSampleRules(
  w: Pick<Work, 'tx'> & { app: Pick<App, 'ids'> },
): Promise<Record<string, string>> {
  const is = (fact: string) => [{ fact, is: true }];
  const rules = [
    {
      step: 'Safety',
      approves: 'safety',
      groups: [is('minors'), is('boats'), is('tools'), [{ fact: 'headcount', atLeast: 100 }]],
      workingDays: 5,
      asks: 'Is there a risk assessment, enough trained leaders, and a plan for weather and emergencies?',
    },
    {
      step: 'Finance',
      approves: 'finance',
      groups: [is('money'), is('alcohol')],
      workingDays: 3,
      asks: 'Are the prices right, and who handles the money?',
    },
  ].map((rule, position) => ({ id: w.app.ids.id(), position, ...rule }));
  await insert(w.tx, 'clearance_rules', rules);
  return Object.fromEntries(rules.map((r) => [r.step, r.id]));
}
