import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { crewContract } from '#contract/crew.ts';
import { doorsContract } from '#contract/doors.ts';
import { guestsContract } from '#contract/guests.ts';
import type { PublicOrder } from '#contract/registration.ts';
import { waiversContract } from '#contract/waivers.ts';
import { fullName } from '#core/contacts/names.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { type Prepared, prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { AboutOne, Clauses, HandMore } from '#web/signing/Clauses.tsx';
import { answersSent, type HandTyped, handSent, nothingTyped } from '#web/signing/hand.ts';
import { language } from './language.ts';
import { Head, Say, Soft } from './parts.tsx';
import { useSigningWords } from './signingWords.ts';

type Seat = PublicOrder['seats'][number];
type WaiverText = PublicOrder['waivers'][number];
/** A seat that has to be signed for, and by whom. */
export type ToSign = Seat & { waiver: 'self' | 'guardian' };

export const isToSign = (seat: Seat): seat is ToSign =>
  (seat.waiver === 'self' || seat.waiver === 'guardian') && fullName(seat) !== '';

/**
 * The waivers that some seats of a booking still have to sign: each is signed once by typed name, for oneself and for every child it
 * is asked of.
 */
export function Waivers({
  order,
  seats,
  token,
  done,
}: {
  order: PublicOrder;
  seats: readonly ToSign[];
  token: string;
  /** Closes it; none where it stays until it is signed. */
  done?: () => void;
}) {
  return order.waivers.map((waiver) => {
    const asked = seats.filter((s) => s.toSign.includes(waiver.id));
    const last = seats.every((s) => s.toSign.every((id) => id === waiver.id));
    return (
      asked.length > 0 && (
        <Panel
          // Who signs changes with it: nothing ticked for one is taken for another.
          key={[waiver.id, ...asked.map((s) => s.id)].join()}
          waiver={waiver}
          people={asked.map((s) => ({ name: fullName(s), relation: s.waiver }))}
          partly={asked.some((s) => s.partly.includes(waiver.id))}
          told={order.toldSigned}
          request={(v) =>
            prepare(waiversContract, 'POST /api/public/orders/:token/signatures', {
              params: { token },
              body: {
                ...handSent(waiver, v),
                seats: asked.map((s, at) => ({
                  registrationId: s.id,
                  relation: s.waiver,
                  answers: answersSent(v, at),
                })),
              },
            })
          }
          {...(done && { cancel: done })}
          {...(done && last && { after: done })}
        />
      )
    );
  });
}

/** The same of one seat, by the link of its guest. */
export function SignOne({
  waiver,
  name,
  relation,
  partly,
  token,
}: {
  waiver: WaiverText;
  name: string;
  relation: 'self' | 'guardian';
  partly: boolean;
  token: string;
}) {
  return (
    <Panel
      waiver={waiver}
      people={[{ name, relation }]}
      partly={partly}
      told
      request={(v) =>
        prepare(guestsContract, 'POST /api/public/guests/:token/signature', {
          params: { token },
          body: { ...handSent(waiver, v), relation, answers: answersSent(v, 0) },
        })
      }
    />
  );
}

/** What somebody signs on a shared device at the doors, for themselves and for the children of their booking, one waiver after the other. */
export function KioskSigns({
  of: { waivers, people },
  said,
  token,
  after,
}: {
  of: NonNullable<Answer<'POST /api/public/here/:token'>['sign']>;
  said: { given: string; family: string; known: string };
  token: string;
  after: () => void;
}) {
  const waiver = waivers[0];
  if (!waiver) return null;
  const asked = people.filter((p) => p.toSign.includes(waiver.id));
  return (
    <Panel
      waiver={waiver}
      people={asked}
      partly={false}
      told
      request={(v) =>
        prepare(doorsContract, 'POST /api/public/here/:token/signatures', {
          params: { token },
          body: {
            ...handSent(waiver, v),
            said: { ...said, language: language() },
            seats: asked.map((p, at) => ({
              registrationId: p.registrationId,
              relation: p.relation,
              answers: answersSent(v, at),
            })),
          },
        })
      }
      after={after}
    />
  );
}

/** What somebody of the crew signs for one event. */
export function CrewSigns({
  of: { eventId, event, relation, waivers },
  name,
  token,
}: {
  of: Answer<'GET /api/public/crew/:token'>['toSign'][number];
  name: string;
  token: string;
}) {
  return waivers.map((waiver) => (
    <Panel
      key={waiver.id}
      waiver={waiver}
      people={[{ name: `${name}, ${event}`, relation }]}
      partly={false}
      told
      request={(v) =>
        prepare(crewContract, 'POST /api/public/crew/:token/signatures', {
          params: { token },
          body: { ...handSent(waiver, v), relation, answers: answersSent(v, 0), eventId },
        })
      }
    />
  ));
}

/** A waiver, clause by clause, with whom it is signed for and what is asked about each. */
function Panel<A>({
  waiver,
  people,
  partly,
  told,
  request,
  cancel,
  after,
}: {
  waiver: WaiverText;
  people: readonly { name: string; relation: 'self' | 'guardian' }[];
  /** Whether one guardian of two has signed. */
  partly: boolean;
  /** Whether whoever reads this would be told that they signed it elsewhere. */
  told: boolean;
  request: (typed: HandTyped) => Prepared<A>;
  cancel?: () => void;
  after?: () => void;
}) {
  const { t } = useTranslation();
  const words = useSigningWords();
  const form = useForm({ values: nothingTyped(people.length), request, ...(after && { after }) });
  return (
    <Say>
      <Head marginTop="0">{waiver.title}</Head>
      <chakra.ul margin="0 0 10px" padding="0" listStyleType="none" color="soft">
        {people.map(({ name, relation }, at) => (
          <li key={at}>
            {name} · {relation === 'guardian' ? t('signGuardian') : t('signSelf')}
          </li>
        ))}
      </chakra.ul>
      {partly && <Soft marginBottom="8px">{t('signPartly')}</Soft>}
      {!told && waiver.holdsFor !== 'event' && <Soft marginBottom="8px">{t('signBefore')}</Soft>}
      <Form
        form={form}
        submit={people.length > 1 ? t('signForAll', { count: people.length }) : t('sign')}
        beside={cancel && <Button onClick={cancel}>{t('cancel')}</Button>}
        label={waiver.title}
      >
        <Clauses form={form} waiver={waiver} words={words} />
        {people.map(({ name }, at) => (
          <AboutOne
            key={at}
            form={form}
            waiver={waiver}
            at={at}
            path={`seats.${at}.answers`}
            name={name}
            words={words}
          />
        ))}
        <HandMore form={form} guardian={people.some((p) => p.relation === 'guardian')} words={words} />
        <Text
          form={form}
          name="typedName"
          label={t('typeName')}
          help={t('signNote')}
          autoComplete="name"
          required
        />
      </Form>
    </Say>
  );
}
