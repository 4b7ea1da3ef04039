import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { EnteredCode, PublicEvent, PublicOffer } from '#contract/publicEvent.ts';
import { type Currency, sayAmount } from '#core/money/amount.ts';
import { isOnSale } from '#core/offers/offer.ts';
import { type Wrong as Problem, sayProblem } from '#core/words/problems.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { TextField } from '#web/kit/Field.tsx';
import { Money } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { language } from './language.ts';
import { Ends, Head, Rows, Say, Small, Soft } from './parts.tsx';
import { type Choice, extraIn, keyOf, offersFor } from './quoting.ts';
import { sayLimits, sayOffer, sayPrice } from './saying.ts';

/** The part of a form that says what is wanted. */
type Chosen = Form<Choice>;

/** What can be had and how many of it; with what is paid for it, where that is for somebody to say. */
export function ChooseTickets({
  event,
  form,
  currency,
  wrongCode,
}: {
  event: PublicEvent;
  form: Chosen;
  currency: Currency;
  /** Why the code is not good for what is chosen. */
  wrongCode: Problem | null;
}) {
  const { t } = useTranslation();
  const money = (amount: number) => sayAmount(amount, currency, language());
  const { units, entered } = form.values;
  const offers = offersFor(event, entered);
  const set = (offer: PublicOffer, n: number) => {
    // Below the least there is only none.
    const least = n < offer.leastPerOrder ? ((units[offer.id] ?? 0) < n ? offer.leastPerOrder : 0) : n;
    form.set({ units: { ...units, [offer.id]: least } });
  };
  return (
    <>
      <Rows>
        {offers.map((o) => (
          <li key={o.id}>
            <Ends alignItems="center">
              <span>
                {o.name}
                <Small>
                  {[
                    sayOffer(t, o, sayPrice(t, o, money, event.nowLocal)),
                    o.about,
                    sayLimits(t, o, event.nowLocal),
                    o.online && t('online'),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Small>
              </span>
              <Counter
                label={o.name}
                value={units[o.id] ?? 0}
                most={isOnSale(o, event.nowLocal) ? o.mostPerOrder : 0}
                set={(n) => set(o, n)}
              />
            </Ends>
            {o.pricing === 'pay what you can' && (units[o.id] ?? 0) > 0 && (
              <chakra.div marginTop="10px" maxWidth="240px">
                <Money
                  form={form}
                  name={`pays.${o.id}`}
                  label={t('youPay')}
                  currency={currency}
                  sayAmount={money}
                  required
                />
              </chakra.div>
            )}
            <Wrong said={form.wrongAt(`units.${o.id}`)} />
          </li>
        ))}
      </Rows>
      {event.you === null && offers.some((o) => o.prices.some((p) => p.kind === 'members')) && (
        <Soft marginTop="8px">
          {t('memberPrices')}{' '}
          <TextLink to={`/mine?then=${encodeURIComponent(`/e/${event.slug}/register`)}`}>
            {t('signInFirst')}
          </TextLink>
        </Soft>
      )}
      {event.codes && <Code event={event} form={form} currency={currency} wrong={wrongCode} />}
      {event.extras.length > 0 && <Extras event={event} form={form} money={money} />}
    </>
  );
}

const Wrong = ({ said }: { said: string | undefined }) =>
  said ? (
    <chakra.div color="madder" fontSize="small">
      {said}
    </chakra.div>
  ) : null;

/** What is bought along. */
function Extras({
  event,
  form,
  money,
}: {
  event: PublicEvent;
  form: Chosen;
  money: (amount: number) => string;
}) {
  const { t } = useTranslation();
  const { extras } = form.values;
  return (
    <>
      <Head>{t('extras')}</Head>
      <Rows>
        {event.extras.map(extraIn).map((extra) => {
          const chosen = (optionId: string | null) => extras[keyOf(extra.id, optionId)] ?? 0;
          const all = [null, ...extra.options.map((o) => o.id)].reduce((sum, o) => sum + chosen(o), 0);
          const line = (optionId: string | null, label: string, left: number | null) => (
            <Ends key={optionId ?? ''} alignItems="center" marginTop={optionId ? '8px' : '0'}>
              <span>
                {optionId ? label : extra.name}
                {!optionId && (
                  <Small>
                    {[extra.price === 0 ? t('free') : money(extra.price), extra.about, sayLeft(left)]
                      .filter(Boolean)
                      .join(' · ')}
                  </Small>
                )}
                {optionId && sayLeft(left) && <Small>{sayLeft(left)}</Small>}
              </span>
              <Counter
                label={optionId ? `${extra.name}, ${label}` : label}
                value={chosen(optionId)}
                most={chosen(optionId) + Math.max(0, Math.min(left ?? 100, extra.mostPerOrder) - all)}
                set={(n) => form.set({ extras: { ...extras, [keyOf(extra.id, optionId)]: n } })}
              />
            </Ends>
          );
          const sayLeft = (left: number | null) =>
            left === 0 ? t('soldOut') : left !== null && left <= 30 ? t('left', { count: left }) : '';
          return (
            <li key={extra.id}>
              {extra.options.length === 0 ? (
                line(null, extra.name, extra.left)
              ) : (
                <>
                  {extra.name}
                  <Small>
                    {[extra.price === 0 ? t('free') : money(extra.price), extra.about]
                      .filter(Boolean)
                      .join(' · ')}
                  </Small>
                  {extra.options.map((o) => line(o.id, o.name, o.left))}
                </>
              )}
              {[null, ...extra.options.map((o) => o.id)].map((o) => (
                <Wrong key={o ?? ''} said={form.wrongAt(`extras.${keyOf(extra.id, o)}`)} />
              ))}
            </li>
          );
        })}
      </Rows>
    </>
  );
}

/** A code: entered, it says what it does. */
export function Code({
  event,
  form,
  currency,
  wrong,
}: {
  event: PublicEvent;
  form: Chosen;
  currency: Currency;
  wrong: Problem | null;
}) {
  const { t } = useTranslation();
  const { entered } = form.values;
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState('');
  const enter = useMutation({
    mutationFn: () =>
      call('POST /api/public/events/:slug/code', { params: { slug: event.slug }, body: { code: typed } }),
    onSuccess: (code) => {
      form.set({ entered: code });
      setAsking(false);
    },
  });
  const problem = enter.error instanceof ApiProblem ? enter.error : null;
  if (entered)
    return (
      <Say tone="good" role="status">
        <Ends>
          <span>
            <b>{t('codeIn', { code: entered.code })}</b>{' '}
            {entered.offers.length > 0 &&
              t('codeOpens', { names: entered.offers.map((o) => o.name).join(', ') })}{' '}
            {sayOff(
              entered,
              (percent) => t('codePercent', { percent }),
              (amount) => t('codeAmount', { amount: sayAmount(amount, currency, language()) }),
            )}
          </span>
          <Button
            look="link"
            onClick={() =>
              form.set({
                entered: null,
                // What only the code showed goes with it.
                units: Object.fromEntries(
                  Object.entries(form.values.units).filter(([id]) => event.offers.some((o) => o.id === id)),
                ),
              })
            }
          >
            {t('dropCode')}
          </Button>
        </Ends>
        <Wrong said={wrong ? sayProblem(wrong.code, wrong.params, language()) : form.wrongAt('entered')} />
      </Say>
    );
  if (!asking)
    return (
      <chakra.p marginTop="10px">
        <Button look="plain" onClick={() => setAsking(true)}>
          {t('haveCode')}
        </Button>
      </chakra.p>
    );
  return (
    <chakra.div
      display="flex"
      gap="10px"
      alignItems="flex-start"
      marginTop="10px"
      onKeyDown={(e) => {
        if (e.key !== 'Enter') return;
        // The form around it is not sent by it.
        e.preventDefault();
        enter.mutate();
      }}
    >
      <chakra.div flex="1" maxWidth="240px">
        <TextField
          label={t('code')}
          value={typed}
          set={setTyped}
          autoComplete="off"
          error={problem ? (problem.fields.code ?? problem.message) : undefined}
        />
      </chakra.div>
      <Button marginTop="26px" disabled={!typed.trim() || enter.isPending} onClick={() => enter.mutate()}>
        {t('useCode')}
      </Button>
    </chakra.div>
  );
}

const sayOff = (
  { off }: EnteredCode,
  percent: (percent: string) => string,
  amount: (amount: number) => string,
): string =>
  !off
    ? ''
    : 'percent' in off
      ? percent((off.percent / 1000).toLocaleString(language() === 'fr' ? 'fr-CA' : 'en-CA'))
      : amount(off.amount);

function Counter({
  label,
  value,
  most,
  set,
}: {
  label: string;
  value: number;
  most: number;
  set: (n: number) => void;
}) {
  const step = { width: '44px', height: '44px', justifyContent: 'center', padding: '0', fontSize: '20px' };
  return (
    <chakra.span display="flex" alignItems="center" gap="10px">
      <Button {...step} aria-label={`− ${label}`} disabled={value <= 0} onClick={() => set(value - 1)}>
        −
      </Button>
      <chakra.output aria-label={label} minWidth="24px" textAlign="center" textStyle="figures">
        {value}
      </chakra.output>
      <Button {...step} aria-label={`+ ${label}`} disabled={value >= most} onClick={() => set(value + 1)}>
        +
      </Button>
    </chakra.span>
  );
}
