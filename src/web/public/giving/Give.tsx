import './givingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams } from 'react-router';
import { givingContract, type PublicGivingPage } from '#contract/giving.ts';
import { progressOf } from '#core/giving/gift.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { sayLongDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { Choose, Money, OneOf, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { useAsk } from '../asking.ts';
import { language } from '../language.ts';
import { Loaded } from '../notices.tsx';
import { Head, Rows, Say, Soft, Title, Two } from '../parts.tsx';
import { PaidIn, useMoney } from '../saying.ts';

/** A page to give on: what for, how far it is, and the gift. */
export default function Give() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/giving/:slug', { slug })}>
      {(page) => (
        <PaidIn.Provider value={page.currency}>
          <Shown page={page} />
        </PaidIn.Provider>
      )}
    </Loaded>
  );
}

function Shown({ page }: { page: PublicGivingPage }) {
  const { t } = useTranslation();
  return (
    <>
      <Title>{page.title}</Title>
      <Soft>
        {t('giveTo', { fund: page.initiative ?? page.fund })}
        {page.event && (
          <>
            {', '}
            <Link to={`/e/${page.event.slug}`}>{page.event.title}</Link>
          </>
        )}
      </Soft>
      <chakra.p whiteSpace="pre-line" margin="12px 0">
        {page.words}
      </chakra.p>
      <SoFar page={page} />
      {page.open ? <Gift page={page} /> : <Say tone="need">{t('giveClosed')}</Say>}
      {page.givers.length > 0 && (
        <>
          <Head>{t('giversHere')}</Head>
          <Rows>
            {page.givers.map((g, at) => (
              // Several may go by no name, and nothing else tells them apart.
              <li key={`${page.gifts - at}`}>
                {g.name ?? <chakra.span color="soft">{t('giverUnnamed')}</chakra.span>}
                {g.tribute && `, ${g.tribute}`}
                {g.words && <chakra.span color="soft">{`: “${g.words}”`}</chakra.span>}
              </li>
            ))}
          </Rows>
        </>
      )}
    </>
  );
}

/** How far a page is: towards its goal, or what came so far. */
function SoFar({ page }: { page: PublicGivingPage }) {
  const { t } = useTranslation();
  const money = useMoney();
  const share = progressOf(page.goal, page.given);
  return (
    <chakra.div margin="14px 0">
      <chakra.p margin="0 0 6px">
        <chakra.b fontWeight="600">
          {page.goal === null
            ? t('giveSoFar', { given: money(page.given) })
            : t('giveOfGoal', { given: money(page.given), goal: money(page.goal) })}
        </chakra.b>
        {page.gifts > 0 && (
          <chakra.span color="soft" marginLeft="10px">
            {t('giftsSoFar', { count: page.gifts })}
          </chakra.span>
        )}
      </chakra.p>
      {share !== null && (
        <chakra.progress
          max={100}
          value={Math.min(100, share)}
          aria-label={t('giveOfGoal', { given: money(page.given), goal: money(page.goal ?? 0) })}
          css={{
            display: 'block',
            width: '100%',
            height: '10px',
            appearance: 'none',
            border: '1px solid var(--line)',
            background: 'var(--sheet)',
            '&::-webkit-progress-bar': { background: 'var(--sheet)' },
            '&::-webkit-progress-value': { background: 'var(--verdigris)' },
            '&::-moz-progress-bar': { background: 'var(--verdigris)' },
          }}
        />
      )}
      {page.untilOn && page.open && (
        <Soft marginTop="6px">
          {t('giveUntil', { date: sayLongDate(`${page.untilOn}T00:00`, language()) })}
        </Soft>
      )}
    </chakra.div>
  );
}

const countries = ['CA', 'US'] as const;

function Gift({ page }: { page: PublicGivingPage }) {
  const { t } = useTranslation();
  const money = useMoney();
  const go = useNavigate();
  const { currency, slug } = page;
  const form = useForm({
    values: {
      amount: '',
      often: 'once' as 'once' | 'monthly',
      giver: { given: '', family: '', email: '', street: '', town: '', postalCode: '', country: '' },
      tribute: 'none' as 'none' | 'memory' | 'honour',
      to: '',
      tellName: '',
      tellEmail: '',
      words: '',
      anonymous: false,
    },
    request: (v) =>
      prepare(givingContract, 'POST /api/public/giving/:slug/gifts', {
        params: { slug },
        body: {
          amount: readAmount(v.amount, currency) ?? 0,
          monthly: v.often === 'monthly',
          giver: { ...v.giver, country: v.giver.country || null },
          tribute:
            v.tribute === 'none'
              ? null
              : { kind: v.tribute, to: v.to, tellName: v.tellName, tellEmail: v.tellEmail },
          words: v.words,
          anonymous: v.anonymous,
          language: language(),
        },
      }),
    fieldOf: (path) =>
      path === 'monthly'
        ? 'often'
        : path.startsWith('tribute.')
          ? (path.slice('tribute.'.length) as 'to' | 'tellEmail')
          : path,
    draft: { name: `give ${slug}`, keeping: 'device' },
    after: ({ token }) => go(`/gift/${token}`),
  });
  const { values } = form;
  const amount = readAmount(values.amount, currency) ?? 0;
  const monthly = values.often === 'monthly';
  return (
    <Form
      form={form}
      size="go"
      submit={
        form.sending
          ? t('loading')
          : amount > 0
            ? t(monthly ? 'giveNextMonthly' : 'giveNext', { amount: money(amount) })
            : t('giveNextNothing')
      }
    >
      <Head>{t('giftHowMuch')}</Head>
      {page.suggested.length > 0 && (
        <chakra.div display="flex" flexWrap="wrap" gap="8px" marginBottom="8px">
          {page.suggested.map((of) => (
            <Button
              key={of}
              look={amount === of ? 'main' : undefined}
              aria-pressed={amount === of}
              onClick={() => form.set({ amount: plainAmount(of, currency) })}
            >
              {money(of)}
            </Button>
          ))}
        </chakra.div>
      )}
      <Money
        form={form}
        name="amount"
        label={t(page.suggested.length ? 'giveOther' : 'amount')}
        currency={currency}
        sayAmount={money}
        required
      />
      {page.monthly && (
        <>
          <OneOf
            form={form}
            name="often"
            label={t('giveHowOften')}
            choices={[
              { value: 'once', label: t('giveOnce') },
              { value: 'monthly', label: t('giveMonthly') },
            ]}
          />
          {monthly && <Soft>{t('giveMonthlyHelp')}</Soft>}
        </>
      )}
      <Head>{t('giveYou')}</Head>
      <Two>
        <Text form={form} name="giver.given" label={t('given')} autoComplete="given-name" required />
        <Text form={form} name="giver.family" label={t('family')} autoComplete="family-name" required />
      </Two>
      <Text form={form} name="giver.email" label={t('email')} type="email" autoComplete="email" required />
      <chakra.details marginTop="10px">
        <chakra.summary cursor="pointer">{t('giveAddress')}</chakra.summary>
        <Text form={form} name="giver.street" label={t('giveStreet')} autoComplete="address-line1" />
        <Text form={form} name="giver.town" label={t('giveTown')} autoComplete="address-level2" />
        <Two>
          <Text form={form} name="giver.postalCode" label={t('givePostal')} autoComplete="postal-code" />
          <Choose
            form={form}
            name="giver.country"
            label={t('giveCountry')}
            choices={[
              { value: '', label: t('giveNoCountry') },
              ...countries.map((c) => ({
                value: c,
                label: new Intl.DisplayNames(language(), { type: 'region' }).of(c) ?? c,
              })),
            ]}
          />
        </Two>
      </chakra.details>
      <chakra.details marginTop="10px">
        <chakra.summary cursor="pointer">{t('giveTribute')}</chakra.summary>
        <OneOf
          form={form}
          name="tribute"
          label={t('giveTribute')}
          choices={[
            { value: 'none', label: t('tributeNone') },
            { value: 'memory', label: t('tributeMemory') },
            { value: 'honour', label: t('tributeHonour') },
          ]}
        />
        {values.tribute !== 'none' && (
          <>
            <Text form={form} name="to" label={t('tributeTo')} required />
            <Two>
              <Text form={form} name="tellName" label={t('tributeTellName')} />
              <Text form={form} name="tellEmail" label={t('tributeTellEmail')} type="email" />
            </Two>
            <Soft>{t('tributeTellHelp')}</Soft>
          </>
        )}
      </chakra.details>
      <chakra.div height="14px" />
      <Text form={form} name="words" label={t('giveWords')} help={t('giveWordsHelp')} />
      <Tick form={form} name="anonymous" label={t('giveAnonymous')} />
    </Form>
  );
}
