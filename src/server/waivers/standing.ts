import type { z } from 'zod';
import type { waiversContract } from '#contract/waivers.ts';
import { asDescribed } from '#core/contacts/match.ts';
import { fullName } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { ageOn, isCalendarDate } from '#core/time/dates.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { needOf, type WaiverNeed } from '#core/waivers/needs.ts';
import { problemsWithSigning } from '#core/waivers/signing.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { openLink, type Work } from '../app/app.ts';
import { Arrivals } from '../contacts/arriving.ts';
import { linkArrival, linkBeside, setGuardian } from '../contacts/linking.ts';
import { proposeGuardian } from '../contacts/proposals.ts';
import { peopleAround } from '../contacts/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import type { WaiverRow } from './formStore.ts';
import { keepSigned, type Signed, type SignedBy } from './signing.ts';
import { asRead } from './store.ts';

type Body = z.output<(typeof waiversContract)['POST /api/public/waivers/:slug/signatures']['body']>;

/** Where something wrong with the people of a signature stands in the form of the page. */
const onPage =
  (self: boolean) =>
  (wrong: Wrong): Wrong => {
    const [, at, rest] = /^seats\.(\d+)\.(.*)$/u.exec(wrong.path) ?? [];
    if (at === undefined) return wrong;
    const child = Number(at) - (self ? 1 : 0);
    return { ...wrong, path: child < 0 ? rest! : `children.${child}.${rest}` };
  };

/**
 * Signs a waiver on its own page, for oneself and for children. Whoever signs is linked to who they are among the contacts, as somebody
 * who registers is; whose hand it was is known once the link of the copy, which goes to their address, is opened.
 */
export async function signStanding(
  w: Work,
  waiver: WaiverRow,
  body: Body,
  by: Pick<SignedBy, 'address' | 'device'>,
): Promise<{ act: string; people: number }> {
  if (waiver.closedAt) throw refused('waiver-closed');
  if (waiver.version !== body.version || waiver.id !== body.waiverId) throw refused('waiver-changed');
  const organization = await theOrganization(w.tx);
  const { ageOfMajority, country, zone } = organization;
  const today = dateOf(w.now, zone);
  const { signer, self, children } = body;
  const named = [
    ...(self ? [{ ...signer, answers: body.answers, relation: 'self' as const }] : []),
    ...children.map((child) => ({ ...child, relation: 'guardian' as const })),
  ];
  const at = (n: number, field: string) =>
    self && n === 0 ? `signer.${field}` : `children.${n - (self ? 1 : 0)}.${field}`;
  const problems: Wrong[] = [];
  if (!fullName(signer)) problems.push(wrongAt('signer.given', 'name-needed'));
  if (!signer.email) problems.push(wrongAt('signer.email', 'email-for-copy'));
  else if (!isEmail(signer.email)) problems.push(wrongAt('signer.email', 'not-an-email'));
  if (!named.length) problems.push(wrongAt('self', 'nobody-signed-for'));
  if (!isCalendarDate(signer.birthDate)) problems.push(wrongAt('signer.birthDate', 'birth-date-needed'));
  else if (ageOn(signer.birthDate, today) < ageOfMajority)
    problems.push(wrongAt('signer.birthDate', 'signer-of-age', { age: ageOfMajority }));
  const needs: WaiverNeed[] = named.map((p, n) => {
    if (!fullName(p)) problems.push(wrongAt(at(n, 'given'), 'name-needed'));
    if (!isCalendarDate(p.birthDate)) {
      if (p.relation === 'guardian') problems.push(wrongAt(at(n, 'birthDate'), 'birth-date-needed'));
      return p.relation;
    }
    if (p.birthDate > today) problems.push(wrongAt(at(n, 'birthDate'), 'in-the-future'));
    const need = needOf(waiver.audience, { birthDate: p.birthDate, saidMinor: false }, today, ageOfMajority);
    // A grown-up among the children signs alone; whom it is not for signs nothing.
    if (need === 'not asked')
      problems.push(wrongAt(at(n, 'birthDate'), 'waiver-not-for', { name: fullName(p) }));
    if (need === 'self' && p.relation === 'guardian')
      problems.push(wrongAt(at(n, 'birthDate'), 'signs-alone', { name: fullName(p) }));
    return need;
  });
  const shown = asRead(waiver, body.language);
  const participants = named.map((p) => ({ name: fullName(p), relation: p.relation, answers: p.answers }));
  problems.push(
    ...problemsWithSigning(shown, { ...body, participants }, needs, { country, today })
      .filter((wrong) => wrong.code !== 'guardian-has-to-sign' && wrong.code !== 'signs-alone')
      .map(onPage(self)),
  );
  if (problems.length) throw invalid(problems);

  const source = `signed ${waiver.title}`;
  const arrivals = new Arrivals(w);
  await arrivals.lookUp(
    named.concat({ ...signer, answers: {}, relation: 'self' }).map((p) => asDescribed(p)),
  );
  const { self: _, children: __, signer: ___, answers: ____, ...marked } = body;
  const who = await linkArrival(w, arrivals, { ...signer, language: body.language }, source, 'outside');
  await arrivals.write();
  const beside = {
    contactId: who.contactId,
    email: signer.email,
    around: await peopleAround(w.tx, who.contactId),
  };
  const people: Signed[] = [];
  for (const [n, p] of named.entries()) {
    const linked =
      p.relation === 'self'
        ? who
        : await linkBeside(w, arrivals, p, beside, source, (id) => people.every((x) => x.contactId !== id));
    people.push({
      ...participants[n]!,
      contactId: linked.contactId,
      registrationId: null,
      orderId: null,
    });
    await arrivals.write();
    if (p.relation === 'self') continue;
    if (linked.created && who.created) await setGuardian(w, who.contactId, linked.contactId);
    else await proposeGuardian(w, who.contactId, linked.contactId, source);
  }
  const { act } = await keepSigned(
    w,
    { ...waiver, ...shown },
    null,
    people,
    marked,
    {
      ...by,
      way: 'page',
      // Anybody can type anybody's name here.
      mayKnow: () => false,
      signer: { contactId: who.contactId, birthDate: signer.birthDate },
      copyTo: signer.email,
      language: body.language,
    },
    organization,
  );
  // The other guardian signs by a link that whoever signed gets with their copy.
  if (waiver.guardians > 1 && people.some((p) => p.relation === 'guardian')) await openLink(w, 'cosign', act);
  return { act, people: people.length };
}
