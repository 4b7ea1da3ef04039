import './holdingWords.ts';
import { useTranslation } from 'react-i18next';
import type { PublicOrder } from '#contract/registration.ts';
import { waiversContract } from '#contract/waivers.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Head, Say, Soft } from './parts.tsx';

/** The waiver of one participant, clause by clause, signed by typed name. */
export function Sign({
  waiver,
  seat,
  need,
  token,
  done,
}: {
  waiver: NonNullable<PublicOrder['waiver']>;
  seat: PublicOrder['seats'][number];
  need: 'self' | 'guardian';
  token: string;
  done: () => void;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { ticked: [] as string[], typedName: '' },
    request: (v) =>
      prepare(waiversContract, 'POST /api/public/orders/:token/signatures', {
        params: { token },
        body: { registrationId: seat.id, relation: need, ...v },
      }),
    after: done,
  });
  const { ticked } = form.values;
  return (
    <Say>
      <Head marginTop="0">{waiver.title}</Head>
      <Soft>
        {seat.given} {seat.family} · {need === 'guardian' ? t('signGuardian') : t('signSelf')}
      </Soft>
      <Form
        form={form}
        submit={t('sign')}
        beside={<Button onClick={done}>{t('cancel')}</Button>}
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
