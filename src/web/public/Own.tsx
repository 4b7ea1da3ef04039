import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { type OwnDetailsOf, type OwnPage, ownContract } from '#contract/own.ts';
import { textKeys, textsOf } from '#core/contacts/attributes.ts';
import { sayLongDate } from '#core/time/say.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { OneOf } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, DateField, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { useAsk } from './asking.ts';
import { Loaded } from './notices.tsx';
import { Head, Say, Soft, Title, Two } from './parts.tsx';

/** A person's own page: what is held about them and the children in their care, to be put right. */
export default function Own() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/own/:token', { token })}>
      {(page) => <Shown page={page} token={token} />}
    </Loaded>
  );
}

function Shown({ page, token }: { page: OwnPage; token: string }) {
  const { t } = useTranslation();
  const { person } = page;
  return (
    <>
      <Title>{t('ownTitle', { name: person.given || person.family })}</Title>
      <Soft>{t('ownText', { organization: page.organization })}</Soft>
      <chakra.p textStyle="figures" margin="6px 0 14px">
        {[...page.emails, ...page.phones].join(' · ')}
      </chakra.p>
      <Details person={person} token={token} reach />
      {page.memberships.length > 0 && (
        <>
          <Head>{t('memberships')}</Head>
          {page.memberships.map((m) => (
            <Membership key={m.id} of={m} page={page} token={token} />
          ))}
        </>
      )}
      <Consents page={page} token={token} />
      {page.children.map((child) => (
        <section key={child.id}>
          <Head>{t('inYourCare', { name: `${child.given} ${child.family}`.trim() })}</Head>
          <Details person={child} token={token} />
        </section>
      ))}
    </>
  );
}

/** One membership: what it is, and asking for another level or its end. */
function Membership({
  of,
  page,
  token,
}: {
  of: OwnPage['memberships'][number];
  page: OwnPage;
  token: string;
}) {
  const { t, i18n } = useTranslation();
  const [asking, setAsking] = useState(false);
  const form = useForm({
    values: { level: of.level ?? '', endsOn: of.until ?? '' },
    request: ({ level, endsOn }) =>
      prepare(ownContract, 'POST /api/public/own/:token/memberships/:id', {
        params: { token, id: of.id },
        body: {
          ...(level && level !== of.level ? { level } : {}),
          ...(endsOn && endsOn !== of.until ? { endsOn } : {}),
        },
      }),
    after: () => setAsking(false),
  });
  const over = of.until !== null && of.until < page.today;
  const day = of.until ? sayLongDate(of.until, i18n.language) : '';
  return (
    <div>
      <p>
        {of.words}
        {of.until && (
          <chakra.span color="soft"> · {over ? t('endedOn', { day }) : t('endsOn', { day })}</chakra.span>
        )}{' '}
        {!over && !asking && (
          <Button look="plain" onClick={() => setAsking(true)}>
            {t('askToChange')}
          </Button>
        )}
      </p>
      {of.waiting.length > 0 && <Soft>{t('ownWaits')}</Soft>}
      {asking && (
        <Form
          form={form}
          submit={t('ask')}
          beside={<Button onClick={() => setAsking(false)}>{t('leaveIt')}</Button>}
        >
          <Two>
            <Choose
              form={form}
              name="level"
              label={t('level')}
              {...(of.level ? {} : { empty: '' })}
              choices={page.levels.map((l) => ({ value: l, label: l }))}
            />
            <DateField form={form} name="endsOn" label={t('lastDay')} />
          </Two>
        </Form>
      )}
    </div>
  );
}

function Details({ person, token, reach = false }: { person: OwnDetailsOf; token: string; reach?: boolean }) {
  const { t } = useTranslation();
  const [said, setSaid] = useState<string | null>(null);
  const form = useForm({
    values: {
      given: person.given,
      family: person.family,
      birthDate: person.birthDate ?? '',
      street: person.street ?? '',
      postalCode: person.postalCode ?? '',
      texts: textsOf((key) => person[key] ?? ''),
      language: person.language as string,
      addEmail: '',
      addPhone: '',
    },
    request: (v) =>
      prepare(ownContract, 'POST /api/public/own/:token/details', {
        params: { token },
        body: {
          contactId: person.id,
          given: v.given,
          family: v.family,
          birthDate: v.birthDate || null,
          street: v.street || null,
          postalCode: v.postalCode || null,
          ...textsOf((key) => v.texts[key] || null),
          language: v.language === 'fr' ? 'fr' : 'en',
          ...(v.addEmail ? { addEmail: v.addEmail } : {}),
          ...(v.addPhone ? { addPhone: v.addPhone } : {}),
        },
      }),
    fieldOf: (path) => ((textKeys as readonly string[]).includes(path) ? `texts.${path}` : path),
    after: (answer, v) => {
      setSaid(answer.waiting ? t('ownSavedWaits') : answer.changed ? t('ownSaved') : t('ownNothing'));
      // What was added is shown above the form from now on.
      form.hook.reset({ ...v, addEmail: '', addPhone: '' });
    },
  });
  const waits = (field: string) => (person.waiting.includes(field) ? { help: t('ownWaits') } : {});
  return (
    <Form form={form} submit={t('save')}>
      {said && <Say role="status">{said}</Say>}
      <Two>
        <Text form={form} name="given" label={t('given')} autoComplete="given-name" {...waits('given')} />
        <Text form={form} name="family" label={t('family')} autoComplete="family-name" {...waits('family')} />
      </Two>
      <Two>
        <Text
          form={form}
          name="street"
          label={t('street')}
          autoComplete="address-line1"
          {...waits('street')}
        />
        <Text
          form={form}
          name="postalCode"
          label={t('postalCode')}
          autoComplete="postal-code"
          {...waits('postalCode')}
        />
      </Two>
      <Two>
        <DateField
          form={form}
          name="birthDate"
          label={t('birthDate')}
          autoComplete="bday"
          {...waits('birthDate')}
        />
        <Choose
          form={form}
          name="language"
          label={t('language')}
          choices={[
            { value: 'en', label: t('english') },
            { value: 'fr', label: t('french') },
          ]}
        />
      </Two>
      {textKeys.map((key) => (
        <Text key={key} form={form} name={`texts.${key}`} label={t(key)} {...waits(key)} />
      ))}
      {reach && (
        <Two>
          <Text form={form} name="addEmail" label={t('addAnEmail')} type="email" autoComplete="email" />
          <Text form={form} name="addPhone" label={t('addATelephone')} type="tel" autoComplete="tel" />
        </Two>
      )}
    </Form>
  );
}

const topicWords = {
  newsletter: 'topicNewsletter',
  invitations: 'topicInvitations',
  appeals: 'topicAppeals',
} as const;

function Consents({ page, token }: { page: OwnPage; token: string }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  // What was just chosen is shown at once; it falls back when it could not be kept.
  const [said, setSaid] = useState<Record<string, boolean>>({});
  const say = useMutation({
    mutationFn: (body: { topic: 'newsletter'; channel: 'email'; granted: boolean }) =>
      call('POST /api/public/own/:token/consents', { params: { token }, body }),
    onSuccess: () => askAnewAfter(client, 'POST /api/public/own/:token/consents'),
    onError: () => setSaid({}),
  });
  return (
    <>
      <Head>{t('hearTitle')}</Head>
      <Problems of={say.error instanceof ApiProblem ? say.error : null} />
      {page.consents.map((c) => {
        const name = `${c.topic} ${c.channel}`;
        const granted = said[name] ?? c.granted;
        return (
          <OneOf
            key={name}
            label={`${t(topicWords[c.topic])} ${c.channel === 'email' ? t('byEmail') : t('byText')}`}
            help={granted === null ? t('notAsked') : undefined}
            value={granted === null ? null : String(granted)}
            set={(value) => {
              const yes = value === 'true';
              setSaid({ ...said, [name]: yes });
              say.mutate({
                topic: c.topic as 'newsletter',
                channel: c.channel as 'email',
                granted: yes,
              });
            }}
            choices={[
              { value: 'true', label: t('yes') },
              { value: 'false', label: t('no') },
            ]}
          />
        );
      })}
    </>
  );
}
