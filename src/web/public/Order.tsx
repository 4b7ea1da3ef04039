import './holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { TFunction } from 'i18next';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { guestsContract } from '#contract/guests.ts';
import { type PublicOrder, registrationContract } from '#contract/registration.ts';
import { fold, fullName } from '#core/contacts/names.ts';
import { type AnswerValue, sayAnswer } from '#core/questions/answering.ts';
import { askedOfOrder } from '#core/questions/showing.ts';
import { sayRange } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { SeveralOf } from '#web/kit/Choosing.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk, useFrame } from './asking.ts';
import { SeatForm, seatBodyOf } from './booking/SeatForm.tsx';
import { QuestionField, Within } from './fields.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Owed } from './Owed.tsx';
import { Pass } from './Pass.tsx';
import { Acts, Ends, Head, Rows, Say, Small, Soft, Title } from './parts.tsx';
import { isToSign, Sign, type ToSign } from './Sign.tsx';
import { sayMoment, useMoney } from './saying.ts';
import { Terms } from './Terms.tsx';

const Sessions = lazy(() => import('./Sessions.tsx'));

type Seat = PublicOrder['seats'][number];

/** A booking as its buyer manages it, from the link: pay, passes, waivers, names, giving seats up. */
export default function Order() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/orders/:token', { token }, { everyMs: 8_000 })}>
      {(order) => <Shown order={order} token={token} />}
    </Loaded>
  );
}

function useReload(token: string) {
  const client = useQueryClient();
  return () =>
    client.invalidateQueries({ queryKey: [addressOf('GET /api/public/orders/:token', { token })] });
}

function Shown({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const { event } = order;
  const titles = {
    asked: t('askedTitle'),
    confirmed: t('confirmed'),
    held: t('pay'),
    offered: t('offered'),
    waitlisted: t('waitlisted'),
    ended: t('ended'),
  };
  const take = useMutation({
    mutationFn: () => call('POST /api/public/orders/:token/take', { params: { token } }),
    onSettled: reload,
  });
  useEffect(() => {
    if (location.hash === '#waivers') document.getElementById('waivers')?.scrollIntoView();
  }, []);
  const { together, apart } = toSign(order);
  const off = event.state === 'called off';
  const live = order.seats.filter((s) => !['withdrawn', 'lapsed', 'declined'].includes(s.state));
  return (
    <>
      <Title>{off ? t('calledOff') : titles[order.standing]}</Title>
      <p>
        <TextLink to={`/e/${event.slug}`} fontFamily="title">
          {event.title}
        </TextLink>
        <br />
        {event.startsLocal && sayRange(event.startsLocal, event.endsLocal, language())}
        <br />
        <chakra.span color="soft">{event.place ?? t('placeLater')}</chakra.span>
      </p>
      {off && (
        <Owed token={token} zone={event.zone}>
          {order.balance < 0 && <Say>{t('owedBack', { amount: money(-order.balance) })}</Say>}
        </Owed>
      )}
      {event.online && (
        <Say tone="good">
          <p>
            <a href={event.online.link} rel="noopener">
              {t('joinOnline')}
            </a>
          </p>
          {event.online.instructions && (
            <chakra.p whiteSpace="pre-line" margin="0">
              {event.online.instructions}
            </chakra.p>
          )}
        </Say>
      )}
      {event.dayFiles.length > 0 && (
        <>
          <chakra.h2 fontSize="17px" margin="16px 0 4px">
            {t('forTheDay')}
          </chakra.h2>
          <chakra.ul margin="0 0 12px" paddingLeft="18px">
            {event.dayFiles.map((f) => (
              <li key={f.id}>
                <a
                  href={
                    f.fileId
                      ? addressOf('GET /api/public/orders/:token/files/:file', { token, file: f.fileId })
                      : (f.address ?? '')
                  }
                  rel="noopener"
                >
                  {f.label}
                </a>
              </li>
            ))}
          </chakra.ul>
        </>
      )}
      {event.afterwards && (
        <Say tone="good" whiteSpace="pre-line">
          {event.afterwards}
        </Say>
      )}
      {order.standing === 'waitlisted' && (
        <Say>
          {t('queuePlace', { n: order.queuePlace })}
          {order.odds && (
            <>
              {' '}
              {order.odds.from === order.odds.to
                ? t('oddsOf', { n: order.odds.from })
                : t('oddsBetween', { from: order.odds.from, to: order.odds.to })}
            </>
          )}
        </Say>
      )}
      {order.standing === 'asked' && <Say>{t('askedText')}</Say>}
      {order.standing === 'asked' && <AskedBack order={order} token={token} />}
      {order.standing === 'ended' && <Say>{t('endedText')}</Say>}
      {order.standing === 'offered' && order.offeredUntil && (
        <Say tone="need">
          <p>{t('offeredText', { time: sayMoment(order.offeredUntil, event.zone) })}</p>
          <Button look="main" size="go" onClick={() => take.mutate()} disabled={take.isPending}>
            {t('takeSeats')}
          </Button>
        </Say>
      )}
      <Problems of={take.error instanceof ApiProblem ? take.error : null} />
      {order.payment === 'unknown' && (
        <Say tone="need" role="status">
          {t('unknown')}
        </Say>
      )}
      {(order.payment === 'needed' || order.payment === 'declined') && <Pay order={order} token={token} />}

      {order.waiver && together.length > 0 && (
        <chakra.div id="waivers">
          <Sign key={together.map((s) => s.id).join()} waiver={order.waiver} seats={together} token={token} />
        </chakra.div>
      )}
      <Seats order={order} token={token} apart={apart} />

      {live.length > 0 && <Answers order={order} token={token} />}

      {order.standing === 'confirmed' && order.sessions && (
        <Suspense>
          <Sessions token={token} />
        </Suspense>
      )}

      <Soft textStyle="figures" fontSize="15px">
        {t('order', { n: order.number })}
        {order.received > 0 && ` · ${t('paid', { amount: money(order.received) })}`}
        {order.balance > 0 && order.standing !== 'held' && ` · ${t('due', { amount: money(order.balance) })}`}
        {order.donation > 0 &&
          order.donationFund &&
          ` · ${t('gift', { amount: money(order.donation), fund: order.donationFund })}`}
      </Soft>
      {order.kept > 0 && <Soft>{t('keptByTerms', { amount: money(order.kept) })}</Soft>}
      {order.balance < 0 && !off && <Say>{t('owedBack', { amount: money(-order.balance) })}</Say>}
      {order.standing === 'confirmed' && !off && (
        <Acts gap="18px">
          <a href={addressOf('GET /api/public/orders/:token/passes.pdf', { token })}>{t('passes')}</a>
          <a href={addressOf('GET /api/public/orders/:token/calendar.ics', { token })}>
            {t('addToCalendar')}
          </a>
        </Acts>
      )}
      {order.mayWithdraw && live.length > 0 && (
        <Withdraw
          seats={live}
          token={token}
          offered={order.standing === 'offered'}
          paid={order.received > 0}
          refunds={order.refunds}
        />
      )}
    </>
  );
}

/** What the organizer asked back, with a place for the answer. */
function AskedBack({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  return order.questions.map((q) => (
    <Say key={q.id} tone={q.answer ? undefined : 'need'}>
      <p>
        {t('askedBack')}: {q.words}
      </p>
      {q.answer ? <Soft>{q.answer}</Soft> : <Answer id={q.id} token={token} />}
    </Say>
  ));
}

function Answer({ id, token }: { id: string; token: string }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const form = useForm({
    values: { words: '' },
    request: ({ words }) =>
      prepare(registrationContract, 'POST /api/public/orders/:token/answer', {
        params: { token },
        body: { questionId: id, words },
      }),
    after: reload,
  });
  return (
    <Form form={form} submit={t('send')}>
      <LongText form={form} name="words" label={t('yourAnswer')} rows={3} required />
    </Form>
  );
}

function Pay({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const demo = useFrame().data?.demo ?? false;
  const form = useForm({
    values: { card: '', expiry: '' },
    request: (body) =>
      prepare(registrationContract, 'POST /api/public/orders/:token/pay', { params: { token }, body }),
    after: reload,
  });
  return (
    <chakra.div marginTop="16px">
      {order.heldUntil && <Say>{t('held', { time: sayMoment(order.heldUntil, order.event.zone) })}</Say>}
      {order.payment === 'declined' && (
        <Say tone="stop" role="alert">
          {t('declined')}
        </Say>
      )}
      <Form
        form={form}
        size="go"
        submit={form.sending ? t('loading') : t('payNow', { amount: money(order.payNow) })}
      >
        <Text
          form={form}
          name="card"
          label={t('card')}
          inputMode="numeric"
          autoComplete="cc-number"
          required
        />
        <Text
          form={form}
          name="expiry"
          label={t('expiry')}
          inputMode="numeric"
          autoComplete="cc-exp"
          placeholder="08/29"
          required
        />
        {demo && (
          <chakra.div color="soft" fontSize="14.5px">
            {t('demoCards')}
            <chakra.ul margin="4px 0 0" padding="0" listStyleType="none">
              {([1, 2, 3, 4] as const).map((n) => (
                <li key={n}>
                  <Button
                    look="plain"
                    textStyle="figures"
                    fontSize="14.5px"
                    onClick={() => form.set({ card: `9000 0000 0000 000${n}`, expiry: '08/29' })}
                  >
                    9000 0000 0000 000{n}
                  </Button>{' '}
                  {t(`card${n}`)}
                </li>
              ))}
            </chakra.ul>
          </chakra.div>
        )}
      </Form>
    </chakra.div>
  );
}

/**
 * What whoever booked signs in one go, for themselves and for every child; grown-ups beside them sign for themselves. What the waiver
 * asks is the server's to say.
 */
function toSign(order: PublicOrder): { together: ToSign[]; apart: ReadonlySet<string> } {
  const open = order.seats.filter(isToSign);
  const own = open.find((s) => s.waiver === 'self' && isBuyer(s, order));
  const together = open.filter((s) => s === own || s.waiver === 'guardian');
  return { together, apart: new Set(open.filter((s) => !together.includes(s)).map((s) => s.id)) };
}

function Seats({
  order,
  token,
  apart,
}: {
  order: PublicOrder;
  token: string;
  /** Seats whose holders sign by themselves. */
  apart: ReadonlySet<string>;
}) {
  const { t } = useTranslation();
  const [signing, setSigning] = useState<string | null>(null);
  const [naming, setNaming] = useState<string | null>(null);
  const [asking, setAsking] = useState<string | null>(null);
  return (
    <Rows marginTop="18px">
      {order.seats.map((seat) => {
        const name = `${seat.given} ${seat.family}`.trim();
        const gone = ['withdrawn', 'lapsed', 'declined'].includes(seat.state);
        const mayChange = order.namesUntil !== null && !gone;
        const more = (
          <>
            {(seat.waiver === 'self' || seat.waiver === 'guardian') && (
              <Small color="madder">
                {seat.waiver === 'guardian' ? t('waiverGuardian') : t('waiverNeeded')}
              </Small>
            )}
            {seat.waiver === 'signed' && <Small>{t('waiverSigned')}</Small>}
            {seat.guest && !gone && (
              <Small>
                {t(seat.guest.filled ? 'guestFilled' : 'guestAsked', { email: seat.guest.email })}
              </Small>
            )}
            {!gone && (
              <Acts marginTop="6px">
                {apart.has(seat.id) && (
                  <Button
                    look="main"
                    onClick={() => setSigning(signing === seat.id ? null : seat.id)}
                    aria-expanded={signing === seat.id}
                  >
                    {t('signsThemselves', { name: seat.given })}
                  </Button>
                )}
                {mayChange && (
                  <Button
                    onClick={() => setNaming(naming === seat.id ? null : seat.id)}
                    aria-expanded={naming === seat.id}
                  >
                    {name ? t('changeName') : t('nameGuest')}
                  </Button>
                )}
                {mayChange && seat.state === 'confirmed' && !seat.guest?.filled && !isBuyer(seat, order) && (
                  <Button
                    look="plain"
                    onClick={() => setAsking(asking === seat.id ? null : seat.id)}
                    aria-expanded={asking === seat.id}
                  >
                    {t(seat.guest ? 'sendAgain' : 'sendLink')}
                  </Button>
                )}
              </Acts>
            )}
          </>
        );
        return (
          <li key={seat.id}>
            {seat.pass && (
              <Pass pass={seat.pass} name={name || t('unnamed')} about={seat.offer}>
                {more}
              </Pass>
            )}
            {!seat.pass && (
              <>
                <Ends>
                  <chakra.span
                    fontFamily="title"
                    fontWeight={500}
                    fontSize="18px"
                    textDecoration={gone ? 'line-through' : 'none'}
                  >
                    {name || t('unnamed')}
                  </chakra.span>
                  {gone && <chakra.span color="soft">{t('withdrawn')}</chakra.span>}
                </Ends>
                <Small>{seat.offer}</Small>
                {more}
              </>
            )}
            {naming === seat.id && (
              <Within>
                <SeatForm
                  seat={seat}
                  questions={order.form.questions}
                  order={{ offerIds: offersOf(order), answers: order.form.answers }}
                  asksAge={order.form.needsBirthDate}
                  slug={order.event.slug}
                  request={(typed) =>
                    prepare(registrationContract, 'PATCH /api/public/orders/:token/seats/:seat', {
                      params: { token, seat: seat.id },
                      // What a guest said of themselves stays theirs.
                      body: seat.guest?.filled
                        ? { ...seatBodyOf(typed), answers: undefined }
                        : seatBodyOf(typed),
                    })
                  }
                  after={() => setNaming(null)}
                  close={() => setNaming(null)}
                />
              </Within>
            )}
            {asking === seat.id && <AskGuest seat={seat} token={token} done={() => setAsking(null)} />}
            {signing === seat.id && order.waiver && isToSign(seat) && (
              <Sign waiver={order.waiver} seats={[seat]} token={token} done={() => setSigning(null)} />
            )}
          </li>
        );
      })}
    </Rows>
  );
}

/** Whether a seat is that of whoever booked, as far as the names tell. */
const isBuyer = (seat: Seat, { buyer }: PublicOrder): boolean =>
  fold(fullName(seat)) === fold(fullName(buyer));

const offersOf = (order: PublicOrder): string[] =>
  order.seats.filter((s) => !['withdrawn', 'lapsed', 'declined'].includes(s.state)).map((s) => s.offerId);

/** Writes to whoever sits there: they fill the seat in themselves. */
function AskGuest({ seat, token, done }: { seat: Seat; token: string; done: () => void }) {
  const { t } = useTranslation();
  const form = useForm({
    values: { email: seat.guest?.email ?? '' },
    request: (body) =>
      prepare(guestsContract, 'POST /api/public/orders/:token/seats/:seat/guest', {
        params: { token, seat: seat.id },
        body,
      }),
    after: done,
  });
  return (
    <Within>
      <Form form={form} submit={t('send')} beside={<Button onClick={done}>{t('cancel')}</Button>}>
        <Text
          form={form}
          name="email"
          label={t('guestEmail')}
          help={t('guestEmailHelp')}
          type="email"
          required
        />
      </Form>
    </Within>
  );
}

/** What was answered for the booking itself, and the way to change it. */
function Answers({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const reload = useReload(token);
  const [open, setOpen] = useState(false);
  const form = useForm({
    values: { answers: order.form.answers },
    request: ({ answers }) =>
      prepare(registrationContract, 'PUT /api/public/orders/:token/answers', {
        params: { token },
        body: {
          answers: Object.fromEntries(Object.entries(answers).filter(([, v]) => v !== undefined)),
        },
      }),
    after: async () => {
      await reload();
      setOpen(false);
    },
  });
  const shown = askedOfOrder(order.form.questions, {
    offerIds: offersOf(order),
    answers: open ? (form.values.answers ?? {}) : order.form.answers,
  }).filter((q) => q.keeps !== 'phone');
  if (!shown.length) return null;
  return (
    <>
      <Head>{t('yourAnswers')}</Head>
      {open ? (
        <Form
          form={form}
          submit={t('save')}
          beside={<Button onClick={() => setOpen(false)}>{t('cancel')}</Button>}
        >
          {shown.map((q) => (
            <QuestionField
              key={q.id}
              form={form}
              name={`answers.${q.id}`}
              question={q}
              slug={order.event.slug}
            />
          ))}
        </Form>
      ) : (
        <>
          <Rows>
            {shown.map((q) => (
              <li key={q.id}>
                <Ends>
                  <span>{readTexts(q.prompt, language())}</span>
                  <chakra.span color="soft">{sayShort(order.form.answers[q.id], t)}</chakra.span>
                </Ends>
              </li>
            ))}
          </Rows>
          {order.namesUntil !== null && (
            <Acts marginTop="6px">
              <Button onClick={() => setOpen(true)}>{t('changeAnswers')}</Button>
            </Acts>
          )}
        </>
      )}
    </>
  );
}

const sayShort = (value: AnswerValue | undefined, t: TFunction): string =>
  value === undefined ? '–' : typeof value === 'boolean' ? t(value ? 'yes' : 'no') : sayAnswer(value);

function Withdraw({
  seats,
  token,
  offered,
  paid,
  refunds,
}: {
  seats: Seat[];
  token: string;
  offered: boolean;
  /** Whether anything could go back. */
  paid: boolean;
  refunds: PublicOrder['refunds'];
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  // What would go back is worked out by doing it and taking it back.
  const told = useQuery({
    queryKey: ['withdraw', token, chosen],
    queryFn: () =>
      call('POST /api/public/orders/:token/withdraw/what-if', { params: { token }, body: { seats: chosen } }),
    enabled: open && paid && chosen.length > 0,
    gcTime: 0,
    retry: false,
  });
  const withdraw = useMutation({
    mutationFn: () =>
      call('POST /api/public/orders/:token/withdraw', { params: { token }, body: { seats: chosen } }),
    onSuccess: async () => {
      await reload();
      setOpen(false);
      setChosen([]);
    },
  });
  if (!open)
    return (
      <chakra.p marginTop="22px">
        <Button
          look="stop"
          onClick={() => {
            setOpen(true);
            if (offered || seats.length === 1) setChosen(seats.map((s) => s.id));
          }}
        >
          {offered ? t('leaveSeats') : t('withdraw')}
        </Button>
      </chakra.p>
    );
  return (
    <Say tone="stop">
      <SeveralOf
        label={offered ? t('leaveSeats') : t('withdraw')}
        help={t('withdrawText')}
        value={chosen}
        set={setChosen}
        choices={seats.map((s) => ({
          value: s.id,
          label: `${`${s.given} ${s.family}`.trim() || t('unnamed')}, ${s.offer}`,
        }))}
      />
      {paid && <Terms refunds={refunds} />}
      {paid && chosen.length > 0 && told.data && (
        <p role="status">
          {told.data.owed > 0 && t('goesBackNow', { amount: money(told.data.owed) })}{' '}
          {told.data.kept > 0 && t('keptNow', { amount: money(told.data.kept) })}
        </p>
      )}
      <Problems of={withdraw.error instanceof ApiProblem ? withdraw.error : null} />
      <Acts>
        <Button
          look="stop"
          disabled={chosen.length === 0 || withdraw.isPending || told.isFetching}
          onClick={() => withdraw.mutate()}
        >
          {t('withdrawDo', { count: chosen.length })}
        </Button>
        <Button onClick={() => setOpen(false)}>{t('cancel')}</Button>
      </Acts>
    </Say>
  );
}
