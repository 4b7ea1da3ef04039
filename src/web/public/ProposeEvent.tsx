import './proposingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { proposalsContract } from '#contract/proposals.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, Count, DateField, LongText, Text, TimeField } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Say, Title, Two } from './parts.tsx';

/** Somebody from outside proposes an event. */
export default function ProposeEvent() {
  const { t } = useTranslation();
  return (
    <Loaded of={useAsk('GET /api/public/propose')}>
      {({ words, units }) => {
        const said = readTexts(words, language());
        return (
          <>
            <Title>{t('proposeEvent')}</Title>
            {said && <chakra.p marginBottom="14px">{said}</chakra.p>}
            <Fields units={units} />
          </>
        );
      }}
    </Loaded>
  );
}

function Fields({ units }: { units: readonly { id: string; name: string }[] }) {
  const { t } = useTranslation();
  const [sent, setSent] = useState<{ title: string; email: string } | null>(null);
  const form = useForm({
    values: {
      title: '',
      about: '',
      date: '',
      begins: '',
      ends: '',
      where: '',
      people: '',
      unitId: '',
      name: '',
      email: '',
      phone: '',
    },
    request: ({ date, begins, ends, people, unitId, ...v }) =>
      prepare(proposalsContract, 'POST /api/public/propose', {
        body: {
          ...v,
          date: date || null,
          begins: begins || null,
          ends: ends || null,
          people: people.trim() ? Number(people) : null,
          unitId: unitId || null,
          language: language(),
        },
      }),
    after: (_, v) => setSent({ title: v.title, email: v.email }),
    draft: { name: 'propose an event', keeping: 'device' },
    again: true,
  });
  if (sent)
    return (
      <Say tone="good" role="status">
        <p>{t('proposeSent', sent)}</p>
        <Button onClick={() => setSent(null)}>{t('proposeAnother')}</Button>
      </Say>
    );
  return (
    <Form form={form} size="go" submit={t('proposeIt')}>
      <Text form={form} name="title" label={t('proposeTitle')} required />
      <LongText
        form={form}
        name="about"
        label={t('proposeAbout')}
        help={t('proposeAboutHelp')}
        rows={6}
        required
      />
      <DateField form={form} name="date" label={t('proposeDate')} />
      <Two>
        <TimeField form={form} name="begins" label={t('proposeBegins')} />
        <TimeField form={form} name="ends" label={t('proposeEnds')} />
      </Two>
      <Two>
        <Text form={form} name="where" label={t('proposeWhere')} />
        <Count form={form} name="people" label={t('proposePeople')} />
      </Two>
      {units.length > 0 && (
        <Choose
          form={form}
          name="unitId"
          label={t('proposeUnit')}
          empty={t('proposeNoUnit')}
          choices={units.map((u) => ({ value: u.id, label: u.name }))}
        />
      )}
      <Text form={form} name="name" label={t('proposeYourName')} autoComplete="name" required />
      <Text form={form} name="email" label={t('email')} inputMode="email" autoComplete="email" required />
      <Text form={form} name="phone" label={t('proposePhone')} inputMode="tel" autoComplete="tel" />
    </Form>
  );
}
