import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate } from 'react-router';
import type { ComesTo } from '#contract/exchanging.ts';
import type { PublicEvent } from '#contract/publicEvent.ts';
import type { PublicOrder } from '#contract/registration.ts';
import { offerIn } from '#core/events/french.ts';
import { sayRange } from '#core/time/say.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { OneOf, SeveralOf } from '#web/kit/Choosing.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAsk } from '../asking.ts';
import { language } from '../language.ts';
import { Acts, Say, Soft } from '../parts.tsx';
import { useMoney } from '../saying.ts';
import { Terms } from '../Terms.tsx';
import { isGone, useReload } from './booking.ts';

type Doing = 'ticket' | 'date' | null;

/** Another ticket, another date, more seats: what whoever booked changes of what they hold. */
export function Exchange({ order, token }: { order: PublicOrder; token: string }) {
  const { t } = useTranslation();
  const [doing, setDoing] = useState<Doing>(null);
  const event = useAsk('GET /api/public/events/:slug', { slug: order.event.slug }).data;
  if (!event) return null;
  const mine = new Set(order.seats.filter((s) => !isGone(s)).map((s) => s.offerId));
  const size = (id: string) => event.offers.find((o) => o.id === id)?.seatsPerUnit ?? 1;
  const others = event.offers.filter(
    (o) => (mine.size > 1 || !mine.has(o.id)) && [...mine].some((id) => size(id) === o.seatsPerUnit),
  );
  const dates = event.series?.dates ?? [];
  const more = event.registration === 'open' && event.admission.may;
  if (!others.length && !dates.length && !more) return null;
  return (
    <>
      <Acts marginTop="18px" gap="14px">
        {others.length > 0 && (
          <Button
            aria-expanded={doing === 'ticket'}
            onClick={() => setDoing(doing === 'ticket' ? null : 'ticket')}
          >
            {t('changeTicket')}
          </Button>
        )}
        {dates.length > 0 && (
          <Button aria-expanded={doing === 'date'} onClick={() => setDoing(doing === 'date' ? null : 'date')}>
            {t('changeDate')}
          </Button>
        )}
        {more && <Link to={`/e/${order.event.slug}/register?again=${token}`}>{t('moreSeats')}</Link>}
      </Acts>
      {doing === 'ticket' && (
        <Ticket order={order} token={token} offers={others} close={() => setDoing(null)} />
      )}
      {doing === 'date' && (
        <AnotherDate order={order} token={token} dates={dates} close={() => setDoing(null)} />
      )}
    </>
  );
}

/** What a change comes to, in words. */
function Told({ told }: { told: ComesTo }) {
  const { t } = useTranslation();
  const money = useMoney();
  return (
    <p role="status">
      {told.more > 0 && t('morePay', { amount: money(told.more) })}{' '}
      {told.back > 0 && t('goesBackNow', { amount: money(told.back) })}{' '}
      {told.kept > 0 && t('keptNow', { amount: money(told.kept) })}{' '}
      {!told.more && !told.back && !told.kept && t('costsTheSame')}
    </p>
  );
}

function Ticket({
  order,
  token,
  offers,
  close,
}: {
  order: PublicOrder;
  token: string;
  offers: PublicEvent['offers'];
  close: () => void;
}) {
  const { t } = useTranslation();
  const money = useMoney();
  const reload = useReload(token);
  const seats = order.seats.filter((s) => s.state === 'confirmed');
  const [chosen, setChosen] = useState<string[]>(seats.length === 1 ? [seats[0]!.id] : []);
  const [offerId, setOfferId] = useState(offers.length === 1 ? offers[0]!.id : '');
  const ready = chosen.length > 0 && offerId !== '';
  const body = { seats: chosen, offerId };
  const told = useQuery({
    queryKey: ['ticket', token, body],
    queryFn: () => call('POST /api/public/orders/:token/ticket/what-if', { params: { token }, body }),
    enabled: ready,
    gcTime: 0,
    retry: false,
  });
  const change = useMutation({
    mutationFn: () => call('POST /api/public/orders/:token/ticket', { params: { token }, body }),
    onSuccess: async () => {
      await reload();
      close();
    },
  });
  const problem = change.error ?? told.error;
  return (
    <Say>
      {seats.length > 1 && (
        <SeveralOf
          label={t('forWhom')}
          value={chosen}
          set={setChosen}
          choices={seats.map((s) => ({
            value: s.id,
            label: `${`${s.given} ${s.family}`.trim() || t('unnamed')}, ${s.offer}`,
          }))}
        />
      )}
      <OneOf
        label={t('newTicket')}
        value={offerId}
        set={setOfferId}
        choices={offers.map((o) => ({
          value: o.id,
          label: `${offerIn(o, language()).name}, ${o.price ? money(o.price) : t('free')}`,
        }))}
      />
      {order.received > 0 && <Terms refunds={order.refunds} />}
      {ready && told.data && <Told told={told.data} />}
      <Problems of={problem instanceof ApiProblem ? problem : null} />
      <Acts>
        <Button
          look="main"
          disabled={!ready || !told.data || told.isFetching || change.isPending}
          onClick={() => change.mutate()}
        >
          {t('changeTicketDo')}
        </Button>
        <Button onClick={close}>{t('cancel')}</Button>
      </Acts>
    </Say>
  );
}

function AnotherDate({
  order,
  token,
  dates,
  close,
}: {
  order: PublicOrder;
  token: string;
  dates: NonNullable<PublicEvent['series']>['dates'];
  close: () => void;
}) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const [slug, setSlug] = useState('');
  const body = { slug };
  const told = useQuery({
    queryKey: ['date', token, slug],
    queryFn: () => call('POST /api/public/orders/:token/date/what-if', { params: { token }, body }),
    enabled: slug !== '',
    gcTime: 0,
    retry: false,
  });
  const change = useMutation({
    mutationFn: () => call('POST /api/public/orders/:token/date', { params: { token }, body }),
    // The booking at the other date is another one, with a link of its own.
    onSuccess: ({ token: there }) => void navigate(`/m/${there}`),
  });
  const problem = change.error ?? told.error;
  const open = dates.filter((d) => d.registration === 'open');
  return (
    <Say>
      <chakra.div maxHeight="320px" overflowY="auto">
        <OneOf
          label={t('newDate')}
          value={slug}
          set={setSlug}
          choices={open.map((d) => ({
            value: d.slug,
            label: sayRange(d.startsLocal, d.endsLocal, language()),
          }))}
        />
      </chakra.div>
      {open.length === 0 && <Soft>{t('noOtherDate')}</Soft>}
      <Soft>{t('wholeBooking')}</Soft>
      {slug && told.data && <Told told={told.data} />}
      <Problems of={problem instanceof ApiProblem ? problem : null} />
      <Acts>
        <Button
          look="main"
          disabled={!slug || !told.data || told.isFetching || change.isPending}
          onClick={() => change.mutate()}
        >
          {t('changeDateDo', { count: order.seats.filter((s) => !isGone(s)).length })}
        </Button>
        <Button onClick={close}>{t('cancel')}</Button>
      </Acts>
    </Say>
  );
}
