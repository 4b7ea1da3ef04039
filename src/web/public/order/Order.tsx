import '../holdingWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { acceptingContract } from '#contract/accepting.ts';
import type { PublicOrder } from '#contract/registration.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form } from '#web/kit/form/Form.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Problems } from '#web/kit/notices.tsx';
import { AttendedBooking } from '../Attended.tsx';
import { useAsk } from '../asking.ts';
import { EventInShort } from '../EventInShort.tsx';
import { Loaded } from '../notices.tsx';
import { Owed } from '../Owed.tsx';
import { Acts, Say, Soft, Title } from '../parts.tsx';
import { isToSign, type ToSign, Waivers } from '../Sign.tsx';
import { PaidIn, sayDay, sayMoment, useMoney } from '../saying.ts';
import { Answers } from './Answers.tsx';
import { isBuyer, isGone, useReload } from './booking.ts';
import { Exchange } from './Exchange.tsx';
import { Pay } from './Pay.tsx';
import { Seats } from './Seats.tsx';
import { Withdraw } from './Withdraw.tsx';

const Sessions = lazy(() => import('../Sessions.tsx'));

/** A booking as its buyer manages it, from the link: pay, passes, waivers, names, giving seats up. */
export default function Order() {
  const { token = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/orders/:token', { token }, { everyMs: 8_000 })}>
      {(order) => (
        <PaidIn value={order.currency}>
          <Shown order={order} token={token} />
        </PaidIn>
      )}
    </Loaded>
  );
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
  const [paying, setPaying] = useState(false);
  useEffect(() => {
    if (location.hash === '#waivers') document.getElementById('waivers')?.scrollIntoView();
  }, []);
  const { together, apart } = toSign(order);
  const off = event.state === 'called off';
  // What has time to be paid does not stand in the way of passes and names.
  const later = order.payBy !== null && !order.payBy.overdue && order.payment === 'needed' && !paying;
  const live = order.seats.filter((s) => !isGone(s));
  return (
    <>
      <Title>{off ? t('calledOff') : titles[order.standing]}</Title>
      <EventInShort event={event} />
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
      {order.standing === 'confirmed' && !off && <AttendedBooking token={token} zone={event.zone} />}
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
      {order.payBy && order.payment === 'needed' && (
        <Say tone={order.payBy.overdue ? 'need' : 'good'}>
          <chakra.p margin="0">
            {t(order.payBy.overdue ? 'payOverdue' : 'payUntil', {
              amount: money(order.balance),
              day: sayDay(order.payBy.on),
            })}
          </chakra.p>
          {later && (
            <Button marginTop="8px" onClick={() => setPaying(true)}>
              {t('payByCard', { amount: money(order.payNow) })}
            </Button>
          )}
        </Say>
      )}
      {(order.payment === 'needed' || order.payment === 'declined' || order.payment === 'step') && !later && (
        <Pay order={order} token={token} />
      )}

      {together.length > 0 && (
        <chakra.div id="waivers">
          <Waivers order={order} seats={together} token={token} />
        </chakra.div>
      )}
      <Seats order={order} token={token} apart={apart} />

      {live.length > 0 && <Answers order={order} token={token} />}

      {order.standing === 'confirmed' && order.sessions && (
        <Suspense>
          <Sessions token={token} />
        </Suspense>
      )}

      <Soft textStyle="figures" fontSize="15px" marginTop="12px">
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
          <a href={addressOf('GET /api/public/orders/:token/confirmation.pdf', { token })}>
            {t('confirmationPdf')}
          </a>
        </Acts>
      )}
      {order.standing === 'confirmed' && !off && order.namesUntil !== null && (
        <Exchange order={order} token={token} />
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
      prepare(acceptingContract, 'POST /api/public/orders/:token/answer', {
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
