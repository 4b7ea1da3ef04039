import '../holdingWords.ts';
import '../calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { type OrderPlaced, registrationContract } from '#contract/registration.ts';
import { inLanguage } from '#core/events/french.ts';
import { usualGifts } from '#core/giving/gift.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { askedOfOrder } from '#core/questions/showing.ts';
import { nothingTaken, shortOf, shortProblem } from '#core/registration/capacity.ts';
import { orderProblems } from '#core/registration/checking.ts';
import { sayRange } from '#core/time/say.ts';
import { sayProblem } from '#core/words/problems.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form as Filled } from '#web/kit/form/Form.tsx';
import { Choose, Money, SeveralOf, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form, useForm } from '#web/kit/form/useForm.ts';
import { useAsk, useFrame } from '../asking.ts';
import { ChooseTickets, Code } from '../ChooseTickets.tsx';
import { useCameBy, useCounted } from '../cameBy.ts';
import { QuestionField } from '../fields.tsx';
import { language } from '../language.ts';
import { Loaded } from '../notices.tsx';
import { Acts, Head, Say, Soft, Title, Two } from '../parts.tsx';
import { Quoted } from '../Quoted.tsx';
import { type Choice, keyOf, quoteFor, reckon, wantedOf } from '../quoting.ts';
import { PaidIn, sayDay, useCurrency, useMoney } from '../saying.ts';
import { Terms } from '../Terms.tsx';
import WhoMay from '../WhoMay.tsx';
import { bodyOf, type Draft, giftOf, linesOf, seatsOf } from './draft.ts';
import { Several } from './Several.tsx';
import { Who } from './Who.tsx';

export default function Register() {
  const { slug = '' } = useParams();
  const { invited } = useCameBy(slug);
  useCounted(slug, 'begun');
  // Whoever books more seats has said who they are with the first ones.
  const again = useSearchParams()[0].get('again') ?? '';
  const event = useAsk('GET /api/public/events/:slug', { slug }, invited ? { query: { invited } } : {});
  return again ? (
    <Again token={again}>
      {(buyer) => <Loaded of={event}>{(e) => <Registering event={e} buyer={buyer} />}</Loaded>}
    </Again>
  ) : (
    <Loaded of={event}>{(e) => <Registering event={e} />}</Loaded>
  );
}

type Buyer = Pick<Draft['buyer'], 'given' | 'family' | 'email'>;

/** Whoever booked already, by the link of their booking. */
function Again({ token, children }: { token: string; children: (buyer: Buyer) => ReactNode }) {
  const order = useAsk('GET /api/public/orders/:token', { token });
  return (
    <Loaded of={order}>
      {({ buyer: { given, family, email } }) => children({ given, family, email: email ?? '' })}
    </Loaded>
  );
}

interface Booked {
  event: PublicEvent;
  within?: boolean;
  /** Who books, where that is known. */
  buyer?: Buyer;
}

/** The form of an event; `within` its page, which says the rest. */
export const Registering = (props: Booked) => (
  <PaidIn value={props.event.currency}>
    <Filling {...props} />
  </PaidIn>
);

function Filling({ event, within = false, buyer }: Booked) {
  const { from, invited } = useCameBy(event.slug);
  const { t } = useTranslation();
  const money = useMoney();
  const navigate = useNavigate();
  const frame = useFrame().data;
  const currency = useCurrency();
  const [placed, setPlaced] = useState<OrderPlaced | null>(null);
  const only = event.offers.length === 1 ? event.offers[0] : undefined;
  const form = useForm({
    values: {
      units: only ? { [only.id]: only.leastPerOrder } : {},
      pays: {},
      extras: {},
      entered: null,
      buyer: { given: '', family: '', email: '', phone: '', ...event.you?.person, ...buyer },
      coming: '',
      guests: {},
      answers: {},
      gift: '',
      fundId: event.funds[0]?.id ?? '',
      anonymous: false,
      also: [],
    } as Draft,
    request: (v) =>
      prepare(registrationContract, 'POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: { ...bodyOf(event, v, currency), from, invited },
      }),
    check: (v) => {
      const body = bodyOf(event, v, currency);
      const reckoned = quoteFor(event, v, Math.max(0, giftOf(event, v, currency)), currency);
      const seats = seatsOf(event, v);
      return [
        ...('problems' in reckoned ? reckoned.problems : []),
        ...(seats.length && !v.coming ? [{ path: 'coming', code: 'answer-needed' } as const] : []),
        ...orderProblems(
          {
            buyer: { email: body.buyer.email, phone: body.buyer.phone ?? '' },
            attendees: body.attendees.map((a, at) => ({
              ...a,
              // Whoever comes themselves is named, also before the name is typed.
              given: a.given || (seats[at]?.own ? t('you') : ''),
              birthDate: a.birthDate ?? null,
              answers: a.answers ?? {},
              onRecord: Boolean(
                event.you?.people.find((p) => p.contactId === a.contactId)?.hasBirthDate && !a.birthDate,
              ),
            })),
            answers: body.answers ?? {},
          },
          {
            questions: event.questions.map((q) => ({ ...q, prompt: q.prompt.en })),
            needsBirthDate: event.needsBirthDate,
            offerOfSeat: seats.map((s) => s.offer.id),
            ages: new Map(seats.map(({ offer }) => [offer.id, offer])),
            eventDate: event.startsLocal?.slice(0, 10) ?? null,
            country: frame?.organization.country ?? 'CA',
            today: frame?.today ?? '9999-12-31',
            channel: 'public',
          },
        ),
      ];
    },
    fieldOf: (path, v) => {
      const line = /^lines\.(\d+)\.(.+)$/u.exec(path);
      if (line)
        return `${line[2] === 'price' ? 'pays' : 'units'}.${linesOf(event, v)[Number(line[1])]?.offer.id ?? ''}`;
      const extra = /^extras\.(\d+)\./u.exec(path);
      const wanted = extra && wantedOf(event, v, currency).extras[Number(extra[1])];
      if (wanted) return `extras.${keyOf(wanted.extraId, wanted.optionId)}`;
      if (path === 'code') return 'entered';
      if (path === 'donation.amount') return 'gift';
      const attendee = /^attendees\.(\d+)\.(.+)$/u.exec(path);
      if (attendee) return `${seatsOf(event, v)[Number(attendee[1])]?.path ?? 'guests'}.${attendee[2]}`;
      return path.replace(/^donation\./u, '');
    },
    draft: { name: `order ${event.slug}${buyer ? ' again' : ''}`, keeping: 'device' },
    // Several bookings are shown together first; each has a page of its own.
    after: (placed) => (placed.also.length ? setPlaced(placed) : void navigate(`/m/${placed.token}`)),
  });
  const draft = form.values;
  // The part of it that says what is wanted.
  const asChosen = form as unknown as Form<Choice>;
  if (placed) return <Several placed={placed} event={event} />;
  const lines = linesOf(event, draft);
  const offerOfSeat = seatsOf(event, draft).map((s) => s.offer);
  const order = { offerIds: offerOfSeat.map((o) => o.id), answers: draft.answers };
  const asked = askedOfOrder(event.questions, order);
  const { quote, code } = reckon(event, draft, Math.max(0, giftOf(event, draft, currency)), currency);
  const now = quote?.dueNow ?? 0;
  // Asked as the server asks: the tickets one by one, and all seats together.
  const short = shortOf(
    {
      lines: lines.map(({ offer, units }) => ({ offer: { ...offer, quantity: offer.left }, units })),
      seats: offerOfSeat.length,
    },
    { capacity: event.seatsLeft, ofRoom: event.ofRoom, onlineCapacity: event.onlineLeft },
    nothingTaken,
  );
  const { code: what = null, params } = short
    ? shortProblem(short, offerOfSeat.find((o) => o.id === short.offerId)?.name)
    : {};
  const shortWords = what && sayProblem(what, params, language());
  if (event.admission.noReply) return <WhoMay event={event} />;
  if (event.registration === 'closed') return <Say>{t('closed')}</Say>;
  if (event.registration === 'full' && event.whenFull === 'turn away')
    return <Say tone="need">{readTexts(event.fullWords, language()) || t('fullAway')}</Say>;
  // The place is full, and the room online is not.
  const onlyOnline = event.seatsLeft === 0 && event.registration !== 'full' && event.whenFull === 'online';
  return (
    <>
      {within ? (
        <Head>{t(event.registration === 'full' ? 'joinWaitlist' : 'register')}</Head>
      ) : (
        <>
          <chakra.p marginTop="8px">
            <Link to={`/e/${event.slug}`}>{inLanguage(event, language()).title}</Link>
          </chakra.p>
          <Title>{t(event.registration === 'full' ? 'joinWaitlist' : 'register')}</Title>
        </>
      )}
      {event.registration === 'full' && (
        <Say tone="need">{readTexts(event.fullWords, language()) || t('fullText')}</Say>
      )}
      {!event.admission.may && !draft.entered?.admits ? (
        <>
          <WhoMay event={event} />
          {event.admission.ways.some((way) => way.kind === 'code') && (
            <Code event={event} form={asChosen} currency={currency} wrong={null} />
          )}
        </>
      ) : (
        <Filled
          form={form}
          size="go"
          submit={
            form.sending
              ? t('loading')
              : event.admission.accepts
                ? t('askForSeats')
                : short
                  ? t('toWaitlist')
                  : now > 0
                    ? t('toPayment', { amount: money(now) })
                    : t('placeOrder')
          }
        >
          <Head>{t('chooseTickets')}</Head>
          {onlyOnline && <Say tone="need">{t('onlineLeft')}</Say>}
          <ChooseTickets
            event={event}
            form={asChosen}
            currency={currency}
            wrongCode={lines.length ? code : null}
          />

          {event.series && event.series.dates.length > 0 && (
            <>
              <Head>{t('alsoOn')}</Head>
              <Soft marginBottom="10px">{t('alsoHelp')}</Soft>
              <SeveralOf
                form={form}
                name="also"
                label={t('otherDates')}
                choices={event.series.dates.map((d) => ({
                  value: d.slug,
                  label: `${sayRange(d.startsLocal, d.endsLocal, language())}${d.registration === 'full' ? `, ${t('full')}` : ''}`,
                }))}
              />
              {event.series.dates.length > 1 && (
                <Button
                  look="plain"
                  onClick={() =>
                    form.set({
                      also:
                        draft.also.length === event.series!.dates.length
                          ? []
                          : event.series!.dates.map((d) => d.slug),
                    })
                  }
                >
                  {t(draft.also.length === event.series.dates.length ? 'noOtherDate' : 'allDates')}
                </Button>
              )}
            </>
          )}

          <Head>{t('you')}</Head>
          <Soft marginBottom="10px">{t('youBook')}</Soft>
          <Two>
            <Text form={form} name="buyer.given" label={t('given')} autoComplete="given-name" required />
            <Text form={form} name="buyer.family" label={t('family')} autoComplete="family-name" required />
          </Two>
          <Text
            form={form}
            name="buyer.email"
            label={t('email')}
            type="email"
            autoComplete="email"
            required
          />
          {asked.map((q) =>
            q.keeps === 'phone' ? (
              <Text
                key={q.id}
                form={form}
                name="buyer.phone"
                label={readTexts(q.prompt, language())}
                help={readTexts(q.help, language())}
                type="tel"
                autoComplete="tel"
                required={q.required}
              />
            ) : (
              <QuestionField key={q.id} form={form} name={`answers.${q.id}`} question={q} slug={event.slug} />
            ),
          )}
          {offerOfSeat.length > 0 && <Who event={event} form={form} order={order} />}

          {event.funds.length > 0 && (
            <>
              <Head>{t('donation')}</Head>
              {event.funds.length > 1 && <Soft marginBottom="10px">{t('donationHelp')}</Soft>}
              <Acts marginBottom="8px">
                {usualGifts(currency).map((of) => (
                  <Button
                    key={of}
                    look={readAmount(draft.gift, currency) === of ? 'main' : undefined}
                    aria-pressed={readAmount(draft.gift, currency) === of}
                    onClick={() =>
                      form.set({
                        gift: readAmount(draft.gift, currency) === of ? '' : plainAmount(of, currency),
                      })
                    }
                  >
                    {money(of)}
                  </Button>
                ))}
              </Acts>
              <Two>
                <Money form={form} name="gift" label={t('amount')} currency={currency} sayAmount={money} />
                {event.funds.length > 1 && (
                  <Choose
                    form={form}
                    name="fundId"
                    label={t('fund')}
                    choices={event.funds.map((f) => ({ value: f.id, label: f.name }))}
                  />
                )}
              </Two>
              {draft.gift.trim() !== '' && <Tick form={form} name="anonymous" label={t('anonymous')} />}
            </>
          )}

          {quote && <Quoted quote={quote} money={money} restBy={event.restBy && sayDay(event.restBy)} />}
          {(quote?.total ?? 0) > 0 && <Terms refunds={event.refunds} />}
          {draft.also.length > 0 && <Soft>{t('forEachDate', { count: draft.also.length + 1 })}</Soft>}
          {event.admission.accepts && <Say>{t('acceptsNote')}</Say>}
          {short && !event.admission.accepts && (
            <Say tone="need" role="status">
              {shortWords} {t('waitlistNote')}
            </Say>
          )}
        </Filled>
      )}
    </>
  );
}
