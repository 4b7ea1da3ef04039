import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import type { PublicOrder } from '#contract/registration.ts';
import { waiversContract } from '#contract/waivers.ts';
import { fullName } from '#core/contacts/names.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Head, Say } from './parts.tsx';

type Seat = PublicOrder['seats'][number];
/** A seat that has to be signed for, and by whom. */
export type ToSign = Seat & { waiver: 'self' | 'guardian' };

export const isToSign = (seat: Seat): seat is ToSign =>
  (seat.waiver === 'self' || seat.waiver === 'guardian') && fullName(seat) !== '';

/** The waiver, clause by clause, signed once by typed name: for oneself, and for every child of the booking. */
export function Sign({
  waiver,
  seats,
  token,
  done,
}: {
  waiver: NonNullable<PublicOrder['waiver']>;
  seats: readonly ToSign[];
  token: string;
  /** Closes it; none where it stays until it is signed. */
  done?: () => void;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { ticked: [] as string[], typedName: '' },
    request: (v) =>
      prepare(waiversContract, 'POST /api/public/orders/:token/signatures', {
        params: { token },
        body: {
          ...v,
          seats: seats.map((s) => ({ registrationId: s.id, relation: s.waiver })),
        },
      }),
    ...(done && { after: done }),
  });
  const { ticked } = form.values;
  return (
    <Say>
      <Head marginTop="0">{waiver.title}</Head>
      <chakra.ul margin="0 0 10px" padding="0" listStyleType="none" color="soft">
        {seats.map((s) => (
          <li key={s.id}>
            {fullName(s)} · {s.waiver === 'guardian' ? t('signGuardian') : t('signSelf')}
          </li>
        ))}
      </chakra.ul>
      <Form
        form={form}
        submit={seats.length > 1 ? t('signForAll', { count: seats.length }) : t('sign')}
        beside={done && <Button onClick={done}>{t('cancel')}</Button>}
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
