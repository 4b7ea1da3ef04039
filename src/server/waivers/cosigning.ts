import type { z } from 'zod';
import type { waiversContract } from '#contract/waivers.ts';
import { fold } from '#core/contacts/names.ts';
import { isEmail } from '#core/contacts/reach.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { problemsWithSigning } from '#core/waivers/signing.ts';
import { type Wrong, wrongAt } from '#core/words/problems.ts';
import { followLink, liveLink, type Work } from '../app/app.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { theWaiver, type WaiverRow } from './formStore.ts';
import { type SignatureRead, signaturesOfAct, signersFor } from './signatureStore.ts';
import { keepSigned, type SignedBy } from './signing.ts';
import { asRead } from './store.ts';

type Body = z.output<(typeof waiversContract)['POST /api/public/cosign/:token']['body']>;

/** What was signed in one go on a page of its own for children who still need their other guardian. */
async function openFor(
  { tx, now }: Pick<Work, 'tx' | 'now'>,
  act: string,
): Promise<{ waiver: WaiverRow; first: SignatureRead[] } | null> {
  const { zone } = await theOrganization(tx);
  const signatures = (await signaturesOfAct(tx, act, dateOf(now, zone))).filter(
    (s) => s.relation === 'guardian' && s.state === 'valid' && s.way === 'page' && s.contactId !== null,
  );
  if (!signatures.length) return null;
  const waiver = await theWaiver(tx, signatures[0]!.waiverId);
  if (waiver.guardians < 2) return null;
  const first: SignatureRead[] = [];
  for (const s of signatures) if ((await signersFor(tx, waiver.id, s.contactId!)).length < 2) first.push(s);
  return { waiver, first };
}

/** The address at which the other guardian signs, where one has to: whoever signed first passes it on. */
export async function otherGuardiansPage(
  w: Pick<Work, 'app' | 'tx' | 'now'>,
  act: string,
): Promise<string | null> {
  const open = await openFor(w, act);
  if (!open?.first.length) return null;
  const token = await liveLink(w, 'cosign', act);
  return token && `${w.app.origin}/cosign/${token}`;
}

/** What a link of the other guardian leads to; throws 404 where it leads to nothing. */
export async function toCosign(
  w: Pick<Work, 'tx' | 'now'>,
  token: string,
): Promise<{ waiver: WaiverRow; first: SignatureRead[] }> {
  const act = await followLink(w.tx, 'cosign', token);
  const open = act && (await openFor(w, act));
  if (!open) throw notFound('This page');
  return open;
}

/** The other guardian signs for the same children, under a name of their own. Whose hand it was is known once they open their copy. */
export async function cosign(
  w: Work,
  { waiver, first }: { waiver: WaiverRow; first: SignatureRead[] },
  { email, people, language, ...hand }: Body,
  by: Pick<SignedBy, 'address' | 'device'>,
): Promise<number> {
  if (waiver.closedAt) throw refused('waiver-closed');
  if (waiver.version !== hand.version || waiver.id !== hand.waiverId) throw refused('waiver-changed');
  const organization = await theOrganization(w.tx);
  const today = dateOf(w.now, organization.zone);
  const signed = people.map(({ signatureId, answers }) => {
    const before = first.find((s) => s.id === signatureId);
    if (!before) throw refused('waiver-signed');
    return {
      name: before.participant,
      relation: 'guardian' as const,
      answers,
      contactId: before.contactId,
      registrationId: null,
      orderId: null,
    };
  });
  const shown = asRead(waiver, language);
  const problems: Wrong[] = [];
  if (!email) problems.push(wrongAt('email', 'email-for-copy'));
  else if (!isEmail(email)) problems.push(wrongAt('email', 'not-an-email'));
  if (fold(hand.typedName).trim() === fold(first[0]!.typedName).trim())
    problems.push(wrongAt('typedName', 'other-guardian', { name: signed.map((p) => p.name).join(', ') }));
  problems.push(
    ...problemsWithSigning(
      shown,
      { ...hand, participants: signed },
      signed.map(() => 'guardian' as const),
      { country: organization.country, today },
    ).map((wrong) => ({ ...wrong, path: wrong.path.replace(/^seats\./u, 'people.') })),
  );
  if (problems.length) throw invalid(problems);
  await keepSigned(
    w,
    { ...waiver, ...shown },
    null,
    signed,
    hand,
    { ...by, way: 'page', mayKnow: () => false, signer: null, copyTo: email, language },
    organization,
  );
  return signed.length;
}
