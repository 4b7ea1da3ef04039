import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { waiversContract } from '#contract/waivers.ts';
import { fullName } from '#core/contacts/names.ts';
import { sayLongDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { DateField, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form as FormState, useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { AboutOne, Clauses, HandMore } from '#web/signing/Clauses.tsx';
import { answersSent, type HandTyped, handSent, nothingTyped } from '#web/signing/hand.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Head, Say, Soft, Title, Two } from './parts.tsx';
import { useSigningWords } from './signingWords.ts';

type Page = Answer<'GET /api/public/waivers/:slug'>;

/** A waiver on a page of its own: somebody signs for themselves and for the children they look after, without a booking. */
export default function Standing() {
  const { slug = '' } = useParams();
  const [done, setDone] = useState<{ people: number; email: string } | null>(null);
  const [again, setAgain] = useState(0);
  const page = useAsk('GET /api/public/waivers/:slug', { slug }, { query: { language: language() } });
  return (
    <Loaded of={page}>
      {(shown) =>
        done ? (
          <Done
            page={shown}
            done={done}
            again={() => {
              setDone(null);
              setAgain((n) => n + 1);
            }}
          />
        ) : (
          <Signing key={again} page={shown} slug={slug} done={setDone} />
        )
      }
    </Loaded>
  );
}

function Done({
  page,
  done,
  again,
}: {
  page: Page;
  done: { people: number; email: string };
  again: () => void;
}) {
  const { t } = useTranslation();
  return (
    <>
      <Title>{page.waiver.title}</Title>
      <Say tone="good" role="status">
        <p>{t('standingDone', { count: done.people })}</p>
        <chakra.p margin="0">{t('standingCopy', { email: done.email })}</chakra.p>
      </Say>
      <Button onClick={again}>{t('standingAgain')}</Button>
    </>
  );
}

interface Person {
  given: string;
  family: string;
  birthDate: string;
}
interface Typed extends HandTyped {
  signer: Person & { email: string };
  self: boolean;
  children: Person[];
}
const nobody: Person = { given: '', family: '', birthDate: '' };

function Signing({
  page,
  slug,
  done,
}: {
  page: Page;
  slug: string;
  done: (done: { people: number; email: string }) => void;
}) {
  const { t } = useTranslation();
  const words = useSigningWords();
  const { waiver, audience } = page;
  const forAdults = audience !== 'minors';
  const begun: Typed = {
    ...nothingTyped(forAdults ? 1 : 2),
    signer: { ...nobody, email: '' },
    self: forAdults,
    children: forAdults ? [] : [{ ...nobody }],
  };
  const form = useForm<Typed, { people: number }>({
    values: begun,
    request: (v) =>
      prepare(waiversContract, 'POST /api/public/waivers/:slug/signatures', {
        params: { slug },
        body: {
          ...handSent(waiver, v),
          signer: v.signer,
          self: v.self,
          // The first answers are those of whoever signs, the others of the children in their order.
          answers: v.self ? answersSent(v, 0) : {},
          children: v.children.map((child, at) => ({ ...child, answers: answersSent(v, at + 1) })),
          language: language(),
        },
      }),
    after: ({ people }, { signer }) => done({ people, email: signer.email }),
  });
  const { values } = form;
  if (page.closed)
    return (
      <>
        <Title>{waiver.title}</Title>
        <Say tone="stop">{t('standingClosed', { organization: page.organization })}</Say>
      </>
    );
  return (
    <>
      <Title>{waiver.title}</Title>
      <Soft marginBottom="12px">
        {page.organization}
        {page.holdsUntil && ` · ${t('standingHolds', { date: sayLongDate(page.holdsUntil, language()) })}`}
      </Soft>
      <Form form={form} size="go" submit={t('sign')} label={waiver.title}>
        <Clauses form={form} waiver={waiver} words={words} />
        <Head>{t('standingYou')}</Head>
        <PersonFields form={form} at="signer" />
        <Text form={form} name="signer.email" label={t('email')} type="email" autoComplete="email" required />
        {forAdults && (
          <Tick
            id={form.idOf('self')}
            error={form.wrongAt('self')}
            checked={values.self}
            set={(self) => form.set({ self })}
          >
            {t('standingSelf')}
          </Tick>
        )}
        {values.self && <AboutOne form={form} waiver={waiver} at={0} path="answers" name="" words={words} />}
        {audience !== 'adults' && (
          <>
            <Head>{t('standingChildren')}</Head>
            {values.children.map((child, at) => (
              <chakra.fieldset
                key={at}
                border="0"
                borderTop="1px solid"
                borderColor="line"
                padding="8px 0"
                margin="0"
              >
                <PersonFields form={form} at={`children.${at}`} />
                <AboutOne
                  form={form}
                  waiver={waiver}
                  at={at + 1}
                  path={`children.${at}.answers`}
                  name={fullName(child)}
                  words={words}
                />
                {(forAdults || values.children.length > 1) && (
                  <Button
                    look="link"
                    onClick={() =>
                      form.set({
                        children: values.children.filter((_, n) => n !== at),
                        answers: values.answers.filter((_, n) => n !== at + 1),
                      })
                    }
                  >
                    {t('standingNotThis')}
                  </Button>
                )}
              </chakra.fieldset>
            ))}
            <chakra.p marginTop="6px">
              <Button
                onClick={() =>
                  form.set({
                    children: [...values.children, { ...nobody, family: values.signer.family }],
                    answers: [...values.answers, {}],
                  })
                }
              >
                {t('standingChild')}
              </Button>
            </chakra.p>
          </>
        )}
        <HandMore form={form} guardian={values.children.length > 0} words={words} />
        <Text
          form={form}
          name="typedName"
          label={t('typeName')}
          help={t('signNote')}
          autoComplete="name"
          required
        />
      </Form>
    </>
  );
}

function PersonFields({ form, at }: { form: FormState<Typed>; at: 'signer' | `children.${number}` }) {
  const { t } = useTranslation();
  const own = at === 'signer';
  return (
    <>
      <Two>
        <Text
          form={form}
          name={`${at}.given`}
          label={t('given')}
          autoComplete={own ? 'given-name' : 'off'}
          required
        />
        <Text
          form={form}
          name={`${at}.family`}
          label={t('family')}
          autoComplete={own ? 'family-name' : 'off'}
        />
      </Two>
      <DateField
        form={form}
        name={`${at}.birthDate`}
        label={t('birthDate')}
        autoComplete={own ? 'bday' : 'off'}
        required
      />
    </>
  );
}
