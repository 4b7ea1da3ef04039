import './holdingWords.ts';
import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams } from 'react-router';
import {
  type OrderPlaced,
  type PublicEvent,
  type PublicOffer,
  type PublicOrderBody,
  registrationContract,
} from '#contract/registration.ts';
import { inLanguage } from '#core/events/french.ts';
import { type Currency, readAmount } from '#core/money/amount.ts';
import { fits, nothingTaken } from '#core/registration/capacity.ts';
import { orderProblems } from '#core/registration/checking.ts';
import type { AnswerValue } from '#core/registration/questions.ts';
import { sayRange } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { Form as Filled } from '#web/kit/form/Form.tsx';
import { Choose, DateField, Money, SeveralOf, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { type Form, useForm } from '#web/kit/form/useForm.ts';
import { useAsk, useFrame } from './asking.ts';
import { ChooseTickets, Code } from './ChooseTickets.tsx';
import { QuestionField } from './fields.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Ends, Head, Rows, Say, Soft, Title, Two } from './parts.tsx';
import { Quoted } from './Quoted.tsx';
import { type Choice, keyOf, offersFor, quoteFor, reckon, wantedOf } from './quoting.ts';
import { useMoney } from './saying.ts';
import WhoMay from './WhoMay.tsx';

interface Guest {
  given: string;
  family: string;
  birthDate: string;
  answers: Record<string, AnswerValue>;
}

/** Everything filled in so far; kept with the tab, so that a reload or a wrong turn loses nothing. */
interface Draft extends Choice {
  buyer: { given: string; family: string; email: string; phone: string };
  coming: boolean;
  guests: Guest[];
  answers: Record<string, AnswerValue>;
  gift: string;
  fundId: string;
  anonymous: boolean;
  /** Other dates of the series, by their addresses. */
  also: string[];
}

export default function Register() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug', { slug })}>
      {(event) => <Registering event={event} />}
    </Loaded>
  );
}

const nobody: Guest = { given: '', family: '', birthDate: '', answers: {} };

/** The lines of an order, and the offer of each seat in their order. */
function chosen(event: PublicEvent, choice: Choice) {
  const lines = offersFor(event, choice.entered).flatMap((offer) =>
    choice.units[offer.id] ? [{ offer, units: choice.units[offer.id]! }] : [],
  );
  const offerOfSeat = lines.flatMap((l) => Array<PublicOffer>(l.units * l.offer.seatsPerUnit).fill(l.offer));
  return { lines, offerOfSeat };
}

const asksAge = (event: PublicEvent, offer: PublicOffer): boolean =>
  event.needsBirthDate || offer.fromAge !== null || offer.toAge !== null;

/** Who sits where: the first seat is the buyer's, when they come themselves. */
const guestsOf = (draft: Draft, seats: number): Guest[] =>
  Array.from({ length: seats }, (_, at) => {
    const guest = { ...nobody, ...draft.guests[at] };
    return at === 0 && draft.coming
      ? { ...guest, given: draft.buyer.given, family: draft.buyer.family }
      : guest;
  });

/** An amount as it was typed; minus one where it is none, which the contract refuses at its field. */
const giftOf = (draft: Draft, currency: Currency): number =>
  draft.gift.trim() ? (readAmount(draft.gift, currency) ?? -1) : 0;

function bodyOf(event: PublicEvent, draft: Draft, currency: Currency): PublicOrderBody {
  const { offerOfSeat } = chosen(event, draft);
  const reckoned = quoteFor(event, draft, Math.max(0, giftOf(draft, currency)), currency);
  const asked = new Set(event.questions.map((q) => q.id));
  const answered = (answers: Guest['answers'] | undefined) =>
    Object.fromEntries(
      Object.entries(answers ?? {}).filter(([id, value]) => asked.has(id) && value !== undefined),
    );
  return {
    buyer: draft.buyer,
    ...wantedOf(event, draft, currency),
    // What was looked over is what is booked, or nothing.
    expects: 'quote' in reckoned ? reckoned.quote.total : null,
    attendees: guestsOf(draft, offerOfSeat.length).map((g) => ({
      given: g.given,
      family: g.family,
      birthDate: g.birthDate || null,
      answers: answered(g.answers),
    })),
    answers: answered(draft.answers),
    donation: {
      amount: giftOf(draft, currency),
      fundId: draft.fundId || (event.funds[0]?.id ?? null),
      anonymous: draft.anonymous,
    },
    language: language(),
    waitlist: true,
    also: draft.also.filter((slug) => event.series?.dates.some((d) => d.slug === slug)),
  };
}

/** The form of an event; `within` its page, which says the rest. */
export function Registering({ event, within = false }: { event: PublicEvent; within?: boolean }) {
  const { t } = useTranslation();
  const money = useMoney();
  const navigate = useNavigate();
  const frame = useFrame().data;
  const currency = (frame?.organization.currency ?? 'CAD') as Currency;
  const [placed, setPlaced] = useState<OrderPlaced | null>(null);
  const only = event.offers.length === 1 ? event.offers[0] : undefined;
  const form = useForm({
    values: {
      units: only ? { [only.id]: only.leastPerOrder } : {},
      pays: {},
      extras: {},
      entered: null,
      buyer: { given: '', family: '', email: '', phone: '' },
      coming: true,
      guests: [],
      answers: {},
      gift: '',
      fundId: event.funds[0]?.id ?? '',
      anonymous: false,
      also: [],
    } as Draft,
    request: (v) =>
      prepare(registrationContract, 'POST /api/public/events/:slug/orders', {
        params: { slug: event.slug },
        body: bodyOf(event, v, currency),
      }),
    check: (v) => {
      const { offerOfSeat } = chosen(event, v);
      const body = bodyOf(event, v, currency);
      const reckoned = quoteFor(event, v, Math.max(0, giftOf(v, currency)), currency);
      return [
        ...('problems' in reckoned ? reckoned.problems : []),
        ...orderProblems(
          {
            buyer: { email: body.buyer.email, phone: body.buyer.phone ?? '' },
            attendees: body.attendees.map((a, at) => ({
              ...a,
              // Whoever comes themselves is named, also before the name is typed.
              given: a.given || (v.coming && at === 0 ? t('you') : ''),
              birthDate: a.birthDate ?? null,
              answers: a.answers ?? {},
            })),
            answers: body.answers ?? {},
          },
          {
            questions: event.questions.map((q) => ({ ...q, prompt: q.prompt.en })),
            needsBirthDate: event.needsBirthDate,
            offerOfSeat: offerOfSeat.map((o) => o.id),
            ages: new Map(offerOfSeat.map((o) => [o.id, o])),
            eventDate: event.startsLocal?.slice(0, 10) ?? null,
            country: frame?.organization.country ?? 'CA',
            today: (frame?.now ?? '9999').slice(0, 10),
            channel: 'public',
          },
        ),
      ];
    },
    fieldOf: (path, v) => {
      const line = /^lines\.(\d+)\.(.+)$/u.exec(path);
      if (line)
        return `${line[2] === 'price' ? 'pays' : 'units'}.${chosen(event, v).lines[Number(line[1])]?.offer.id ?? ''}`;
      const extra = /^extras\.(\d+)\./u.exec(path);
      const wanted = extra && wantedOf(event, v, currency).extras[Number(extra[1])];
      if (wanted) return `extras.${keyOf(wanted.extraId, wanted.optionId)}`;
      if (path === 'code') return 'entered';
      if (path === 'donation.amount') return 'gift';
      return path.replace(/^attendees\./u, 'guests.').replace(/^donation\./u, '');
    },
    draft: { name: `order ${event.slug}`, keeping: 'tab' },
    // Several bookings are shown together first; each has a page of its own.
    after: (placed) => (placed.also.length ? setPlaced(placed) : void navigate(`/m/${placed.token}`)),
  });
  const draft = form.values;
  // The part of it that says what is wanted.
  const asChosen = form as unknown as Form<Choice>;
  if (placed) return <Several placed={placed} event={event} />;
  const { lines, offerOfSeat } = chosen(event, draft);
  const { quote, code } = reckon(event, draft, Math.max(0, giftOf(draft, currency)), currency);
  const now = quote?.dueNow ?? 0;
  // Asked as the server asks: the tickets one by one, and all seats together.
  const waits = !fits(
    {
      lines: lines.map(({ offer, units }) => ({ offer: { ...offer, quantity: offer.left }, units })),
      seats: offerOfSeat.length,
    },
    { capacity: event.seatsLeft, onlineCapacity: event.onlineLeft },
    nothingTaken,
  );
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
                : waits
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
          <Text form={form} name="buyer.phone" label={t('phone')} type="tel" autoComplete="tel" />

          {offerOfSeat.length > 0 && (
            <>
              <Head>{t('who')}</Head>
              <Tick form={form} name="coming" label={t('imComing')} />
              {offerOfSeat.length > 1 && <Soft fontSize="15px">{t('nameLater')}</Soft>}
              {offerOfSeat.map((offer, at) => {
                const asked = event.questions.filter(
                  (q) => q.scope === 'attendee' && (!q.offerId || q.offerId === offer.id),
                );
                const self = at === 0 && draft.coming;
                if (self && !asksAge(event, offer) && asked.length === 0) return null;
                return (
                  <chakra.fieldset
                    key={at}
                    border="0"
                    borderTop="1px solid"
                    borderColor="line"
                    padding="14px 0 4px"
                    margin="0"
                    minWidth="0"
                  >
                    <chakra.legend padding="0" float="left" fontWeight={500} marginBottom="4px" width="100%">
                      {self ? t('you') : t('seat', { n: at + 1 })}
                    </chakra.legend>
                    <chakra.div clear="both">
                      {!self && (
                        <Two>
                          <Text form={form} name={`guests.${at}.given`} label={t('given')} />
                          <Text form={form} name={`guests.${at}.family`} label={t('family')} />
                        </Two>
                      )}
                      {asksAge(event, offer) && (
                        <DateField
                          form={form}
                          name={`guests.${at}.birthDate`}
                          label={t('birthDate')}
                          help={event.needsBirthDate ? t('birthDateHelp') : undefined}
                          required={self}
                          autoComplete={self ? 'bday' : 'off'}
                        />
                      )}
                      {asked.map((q) => (
                        <QuestionField
                          key={q.id}
                          form={form}
                          name={`guests.${at}.answers.${q.id}`}
                          question={q}
                        />
                      ))}
                    </chakra.div>
                  </chakra.fieldset>
                );
              })}
            </>
          )}

          {event.questions.some((q) => q.scope === 'order') && <Head>{t('otherQuestions')}</Head>}
          {event.questions
            .filter((q) => q.scope === 'order' && (!q.offerId || offerOfSeat.some((o) => o.id === q.offerId)))
            .map((q) => (
              <QuestionField key={q.id} form={form} name={`answers.${q.id}`} question={q} />
            ))}

          {event.funds.length > 0 && (
            <>
              <Head>{t('donation')}</Head>
              <Soft marginBottom="10px">{t('donationHelp')}</Soft>
              <Two>
                <Money form={form} name="gift" label={t('amount')} currency={currency} sayAmount={money} />
                <Choose
                  form={form}
                  name="fundId"
                  label={t('fund')}
                  choices={event.funds.map((f) => ({ value: f.id, label: f.name }))}
                />
              </Two>
              {draft.gift.trim() !== '' && <Tick form={form} name="anonymous" label={t('anonymous')} />}
            </>
          )}

          {quote && <Quoted quote={quote} money={money} />}
          {draft.also.length > 0 && <Soft>{t('forEachDate', { count: draft.also.length + 1 })}</Soft>}
          {event.admission.accepts && <Say>{t('acceptsNote')}</Say>}
          {waits && !event.admission.accepts && (
            <Say tone="need">{t('waitlistNote', { count: offerOfSeat.length })}</Say>
          )}
        </Filled>
      )}
    </>
  );
}

/** Several dates were booked at once: each booking with where it stands, and the way to its page. */
function Several({ placed, event }: { placed: OrderPlaced; event: PublicEvent }) {
  const { t } = useTranslation();
  const money = useMoney();
  const all = [
    { slug: event.slug, startsLocal: event.startsLocal, endsLocal: event.endsLocal, ...placed },
    ...placed.also.map((p) => ({
      startsLocal: null,
      endsLocal: null,
      ...event.series?.dates.find((d) => d.slug === p.slug),
      ...p,
    })),
  ].sort((a, b) => ((a.startsLocal ?? '') < (b.startsLocal ?? '') ? -1 : 1));
  const words = {
    asked: 'bookingAsked',
    held: 'bookingHeld',
    confirmed: 'bookingConfirmed',
    waitlisted: 'bookingWaits',
  } as const;
  return (
    <>
      <Title>{t('bookedDates', { count: all.length })}</Title>
      <Say tone="good" role="status">
        {t('bookedDatesText')}
      </Say>
      <Rows>
        {all.map((p) => (
          <li key={p.token}>
            <Ends>
              <TextLink to={`/m/${p.token}`}>
                {p.startsLocal ? sayRange(p.startsLocal, p.endsLocal, language()) : p.slug}
              </TextLink>
              <chakra.span whiteSpace="nowrap" color={p.standing === 'confirmed' ? 'soft' : 'ochre'}>
                {t(words[p.standing], { amount: money(p.total) })}
              </chakra.span>
            </Ends>
          </li>
        ))}
      </Rows>
    </>
  );
}
