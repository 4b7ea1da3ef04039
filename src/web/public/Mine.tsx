import './calendarWords.ts';
import { chakra } from '@chakra-ui/react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useSearchParams } from 'react-router';
import { standing } from '#core/registration/states.ts';
import { sayLongDate, sayRange } from '#core/time/say.ts';
import { type Answer, addressOf, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { askAnewAfter } from '#web/topics.ts';
import { useAsk } from './asking.ts';
import { Days } from './Days.tsx';
import { FeedAddress } from './FeedAddress.tsx';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Acts, Ends, Head, Rows, Small, Soft, Title } from './parts.tsx';
import { SignIn } from './SignIn.tsx';
import { useMoney } from './saying.ts';

const GiveUp = lazy(() => import('./order/GiveUp.tsx'));

type Page = NonNullable<Answer<'GET /api/public/mine'>>;

/** A person's own page: what they hold, coming and past, and what is for them and not for everybody. */
export default function Mine() {
  const mine = useAsk('GET /api/public/mine');
  const client = useQueryClient();
  const navigate = useNavigate();
  const then = useSearchParams()[0].get('then') ?? '';
  return (
    <Loaded of={mine}>
      {(page) =>
        page ? (
          <Shown page={page} />
        ) : (
          <SignIn
            then={() => {
              void askAnewAfter(client, 'POST /api/public/sign-in/code');
              // Back to what somebody was about to do: only ever a page of an event.
              if (then.startsWith('/e/')) void navigate(then);
            }}
          />
        )
      }
    </Loaded>
  );
}

function Shown({ page }: { page: Page }) {
  const { t } = useTranslation();
  const client = useQueryClient();
  const leave = useMutation({
    mutationFn: () => call('DELETE /api/public/sign-in'),
    onSuccess: () => askAnewAfter(client, 'DELETE /api/public/sign-in'),
  });
  const coming = page.seats.filter((s) => s.coming).reverse();
  const past = page.seats.filter((s) => !s.coming);
  const shifts = page.shifts.filter((s) => s.coming).reverse();
  const nothing = !coming.length && !shifts.length;
  return (
    <>
      <Ends flexWrap="wrap">
        <Title>{t('mineTitle', { name: page.person.given || page.person.family })}</Title>
        <Button look="plain" disabled={leave.isPending} onClick={() => leave.mutate()}>
          {t('signOut')}
        </Button>
      </Ends>
      {page.counts.length > 0 && (
        <>
          <Head>{t('countsWaiting')}</Head>
          <Rows>
            {page.counts.map((s) => (
              <li key={s.token}>
                <TextLink to={`/count/${s.token}`}>{s.title}</TextLink>
              </li>
            ))}
          </Rows>
        </>
      )}
      {page.surveys.length > 0 && (
        <>
          <Head>{t('surveysWaiting')}</Head>
          <Rows>
            {page.surveys.map((s) => (
              <li key={s.token}>
                <TextLink to={`/s/${s.token}`}>{t('surveyOf', { title: s.title })}</TextLink>
              </li>
            ))}
          </Rows>
        </>
      )}
      {nothing && (
        <Soft>
          {t('nothingHeld')} <TextLink to="/">{t('comingEvents')}</TextLink>
        </Soft>
      )}
      {coming.length > 0 && (
        <>
          <Head>{t('yourSeats')}</Head>
          <Seats seats={coming} />
        </>
      )}
      {shifts.length > 0 && (
        <>
          <Ends>
            <Head>{t('shiftsHeld')}</Head>
            {page.crewToken && <TextLink to={`/crew/${page.crewToken}`}>{t('changeShifts')}</TextLink>}
          </Ends>
          <Rows>
            {shifts.map((s) => (
              <li key={`${s.startsLocal}${s.role}`}>
                <chakra.span fontWeight={500}>
                  {s.role}, {s.event.title}
                </chakra.span>
                <Small>
                  {sayRange(s.startsLocal, s.endsLocal, language())}
                  {s.event.place && ` · ${s.event.place}`}
                </Small>
              </li>
            ))}
          </Rows>
        </>
      )}
      {page.forThem.length > 0 && (
        <>
          <Head>{t('forYou')}</Head>
          <Days events={page.forThem} />
        </>
      )}
      <Feed token={page.feedToken} />
      {page.gifts.length > 0 && <Gifts gifts={page.gifts} />}
      {past.length > 0 && (
        <chakra.details marginTop="26px">
          <chakra.summary cursor="pointer" color="verdigris" padding="6px 0">
            {t('pastHeld', { count: past.length })}
          </chakra.summary>
          <Seats seats={past} />
        </chakra.details>
      )}
    </>
  );
}

/** Their calendar, to subscribe to. */
function Feed({ token }: { token: string }) {
  const { t } = useTranslation();
  const feed = `${location.origin}${addressOf('GET /api/public/mine/:token/calendar.ics', { token })}`;
  return (
    <chakra.details marginTop="26px">
      <chakra.summary cursor="pointer" color="verdigris" padding="6px 0">
        {t('yourCalendar')}
      </chakra.summary>
      <Soft>{t('yourCalendarText')}</Soft>
      <FeedAddress feed={feed} />
    </chakra.details>
  );
}

/** What they gave, with what it comes to by year. */
function Gifts({ gifts }: Pick<Page, 'gifts'>) {
  const { t } = useTranslation();
  const money = useMoney();
  return (
    <chakra.details marginTop="10px">
      <chakra.summary cursor="pointer" color="verdigris" padding="6px 0">
        {t('yourGifts', { count: gifts.length })}
      </chakra.summary>
      <Rows>
        {gifts.map((g, at) => (
          <li key={at}>
            <Ends>
              <span>
                {g.fund}
                <Small>
                  {[sayLongDate(g.on, language()), g.event, g.anonymous && t('anonymousGift')]
                    .filter(Boolean)
                    .join(' · ')}
                </Small>
              </span>
              <chakra.span textStyle="figures">{money(g.amount, g.currency)}</chakra.span>
            </Ends>
          </li>
        ))}
      </Rows>
    </chakra.details>
  );
}

/** Seats of one booking in one state stand together, with the names of who has them. */
function together(seats: Page['seats']): [Page['seats'][number], ...Page['seats']][] {
  const bookings = new Map<string, [Page['seats'][number], ...Page['seats']]>();
  for (const seat of seats) {
    const key = `${seat.event.slug} ${seat.event.startsLocal} ${seat.token} ${seat.seatToken} ${seat.state} ${seat.attendance}`;
    const known = bookings.get(key);
    if (known) known.push(seat);
    else bookings.set(key, [seat]);
  }
  return [...bookings.values()];
}

function Seats({ seats }: { seats: Page['seats'] }) {
  const { t } = useTranslation();
  const [givingUp, setGivingUp] = useState<string | null>(null);
  return (
    <Rows>
      {together(seats).map((those, at) => {
        const [s] = those;
        const to = s.token
          ? `/m/${s.token}`
          : s.seatToken
            ? `/g/${s.seatToken}`
            : s.event.slug && `/e/${s.event.slug}`;
        const unsigned = those.filter((seat) => seat.toSign).map((seat) => seat.name);
        return (
          <li key={`${s.event.slug}${at}`}>
            <Ends>
              <chakra.span fontFamily="title" fontWeight={500}>
                {to ? <TextLink to={to}>{s.event.title}</TextLink> : s.event.title}
              </chakra.span>
              <chakra.span whiteSpace="nowrap" color="soft">
                {s.event.state === 'called off'
                  ? t('seatOff')
                  : s.attendance === 'arrived' || s.attendance === 'left'
                    ? t('seatCame')
                    : t(seatWords[s.state])}
              </chakra.span>
            </Ends>
            {s.event.startsLocal && <div>{sayRange(s.event.startsLocal, s.event.endsLocal, language())}</div>}
            <Small>{those.map((seat) => seat.name || t('notNamed')).join(', ')}</Small>
            <Small>
              {[...new Set(those.map((seat) => seat.offer)), s.event.place].filter(Boolean).join(' · ')}
            </Small>
            {unsigned.length > 0 && (
              <Small color="madder">{t('stillToSign', { names: unsigned.join(', ') })}</Small>
            )}
            {s.coming && s.token && s.event.state !== 'called off' && standing.includes(s.state) && (
              <Acts>
                {s.state === 'confirmed' && (
                  <a href={addressOf('GET /api/public/orders/:token/passes.pdf', { token: s.token })}>
                    {t('passes')}
                  </a>
                )}
                {givingUp !== s.token && (
                  <Button
                    look="link"
                    aria-label={t('giveUpAt', { title: s.event.title })}
                    onClick={() => setGivingUp(s.token)}
                  >
                    {t('giveUpSeats')}
                  </Button>
                )}
              </Acts>
            )}
            {givingUp !== null && givingUp === s.token && standing.includes(s.state) && (
              <Suspense>
                <GiveUp token={givingUp} close={() => setGivingUp(null)} />
              </Suspense>
            )}
          </li>
        );
      })}
    </Rows>
  );
}

const seatWords = {
  asked: 'seatAsked',
  held: 'seatHeld',
  waitlisted: 'seatWaits',
  offered: 'seatOffered',
  confirmed: 'seatConfirmed',
  withdrawn: 'seatGone',
  declined: 'seatGone',
  lapsed: 'seatGone',
} as const;
