import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { guestsContract } from '#contract/guests.ts';
import type { PublicOrder } from '#contract/registration.ts';
import { waiversContract } from '#contract/waivers.ts';
import { fullName } from '#core/contacts/names.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { type Prepared, prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Head, Say } from './parts.tsx';

type Seat = PublicOrder['seats'][number];
type WaiverText = PublicOrder['waivers'][number];
/** A seat that has to be signed for, and by whom. */
export type ToSign = Seat & { waiver: 'self' | 'guardian' };

export const isToSign = (seat: Seat): seat is ToSign =>
  (seat.waiver === 'self' || seat.waiver === 'guardian') && fullName(seat) !== '';

interface Typed {
  ticked: string[];
  typedName: string;
}

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
          request={(v) =>
            prepare(waiversContract, 'POST /api/public/orders/:token/signatures', {
              params: { token },
              body: {
                ...v,
                waiverId: waiver.id,
                seats: asked.map((s) => ({ registrationId: s.id, relation: s.waiver })),
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
  token,
}: {
  waiver: WaiverText;
  name: string;
  relation: 'self' | 'guardian';
  token: string;
}) {
  return (
    <Panel
      waiver={waiver}
      people={[{ name, relation }]}
      request={(v) =>
        prepare(guestsContract, 'POST /api/public/guests/:token/signature', {
          params: { token },
          body: { ...v, waiverId: waiver.id, relation },
        })
      }
    />
  );
}

/** A waiver, clause by clause, with whom it is signed for. */
function Panel<A>({
  waiver,
  people,
  request,
  cancel,
  after,
}: {
  waiver: WaiverText;
  people: readonly { name: string; relation: 'self' | 'guardian' }[];
  request: (typed: Typed) => Prepared<A>;
  cancel?: () => void;
  after?: () => void;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { ticked: [], typedName: '' } as Typed,
    request,
    ...(after && { after }),
  });
  const { ticked } = form.values;
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
      <Form
        form={form}
        submit={people.length > 1 ? t('signForAll', { count: people.length }) : t('sign')}
        beside={cancel && <Button onClick={cancel}>{t('cancel')}</Button>}
        label={waiver.title}
      >
        {waiver.clauses.map((c, at) => (
          <Tick
            key={c.id}
            id={form.idOf(`clauses.${at}`)}
            error={form.wrongAt(`clauses.${at}`)}
            checked={ticked.includes(c.id)}
            set={(on) => form.set({ ticked: on ? [...ticked, c.id] : ticked.filter((x) => x !== c.id) })}
          >
            {c.text}
          </Tick>
        ))}
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
