import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { PublicEvent } from '#contract/publicEvent.ts';
import { offerIn } from '#core/events/french.ts';
import { kindIn } from '#core/events/kinds.ts';
import { sayRange, sayShortDate, sayTime, sayZone } from '#core/time/say.ts';
import { readTexts } from '#core/words/texts.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor, ButtonLink } from '#web/kit/Button.tsx';
import { DocView } from '#web/kit/DocView.tsx';
import { Picture } from '../parts/Picture.tsx';
import { AskBelow } from './AskBelow.tsx';
import { language } from './language.ts';
import { mapOf } from './map.ts';
import { Acts, Ends, Facts, Head, Rows, Say, Small, Soft, Title } from './parts.tsx';
import { Reeds } from './Reeds.tsx';
import { ownTime, sayLimits, sayOffer, sayPrice, useMoney } from './saying.ts';

const Sketch = lazy(() => import('./Sketch.tsx').then((m) => ({ default: m.Sketch })));
const AskOrganizer = lazy(() => import('./AskOrganizer.tsx'));
const Board = lazy(() => import('./Board.tsx'));
const FollowForm = lazy(() => import('./FollowForm.tsx'));

interface Part {
  event: PublicEvent;
  /** A preview leads nowhere yet. */
  preview: boolean;
}

const pictureOf = (event: PublicEvent, id: string) => event.pictures.find((p) => p.id === id);

/** Only where there is a map of one's own to open: a computer has none. */
const OnDevice = chakra('span', {
  base: { display: 'none', '@media (pointer: coarse)': { display: 'inline' } },
});

/** The site of an address, as people know it. */
const siteOf = (address: string): string => {
  const { hostname, pathname } = new URL(address);
  return hostname || pathname;
};

/** Its picture, its titles, and what is to be known first. */
export function Top({ event, englishOnly }: Part & { englishOnly: boolean }) {
  const { t } = useTranslation();
  const banner = event.bannerId ? pictureOf(event, event.bannerId) : undefined;
  return (
    <>
      {banner ? (
        <Picture of={banner} language={language()} ratio="2 / 1" eager />
      ) : (
        <Reeds seed={event.slug} mark={event.mark} />
      )}
      <Title>{event.title}</Title>
      {event.subtitle && (
        <chakra.p fontSize="19px" margin="0 0 4px">
          {event.subtitle}
        </chakra.p>
      )}
      {event.summary && <Soft>{event.summary}</Soft>}
      {englishOnly && <Say>{t('englishOnly')}</Say>}
      {event.state === 'called off' && <Say tone="stop">{t('calledOff')}</Say>}
      {event.goal && (
        <Soft textStyle="figures">
          {t(
            event.goal.reached >= event.goal.next
              ? 'goalReached'
              : event.goal.after === null
                ? 'goal'
                : 'goalAfter',
            { ...event.goal },
          )}
        </Soft>
      )}
    </>
  );
}

/** When, where, and what is good to know. */
export function WhenAndWhere({ event }: Pick<Part, 'event'>) {
  const { t } = useTranslation();
  // Whole days are the same wherever one is.
  const picture = event.place?.pictureId ? pictureOf(event, event.place.pictureId) : undefined;
  const own = event.startsLocal?.length === 10 ? null : ownTime(event.startsAt, event.endsAt, event.zone);
  return (
    <Facts>
      <dt>{t('when')}</dt>
      <dd>
        {event.startsLocal && sayRange(event.startsLocal, event.endsLocal, language())}
        {event.doorsLocal && `, ${t('doors', { time: sayTime(event.doorsLocal, language()) })}`}
        <br />
        <small className="soft">
          {own ? t('whereYouAre', own) : t('zoneTime', { zone: sayZone(event.zone) })}
        </small>
        {event.series && (
          <small>
            <br />
            {t('series', { rule: readTexts(event.series.said, language()) })}{' '}
            {event.series.dates.slice(0, 3).map((d, at) => (
              <span key={d.slug}>
                {at ? ', ' : `${t('otherDates')}: `}
                <Link to={`/e/${d.slug}`}>{sayShortDate(d.startsLocal, true, language())}</Link>
              </span>
            ))}
          </small>
        )}
      </dd>
      <dt>{t('where')}</dt>
      <dd>
        {event.place ? (
          <>
            {event.place.name}
            <br />
            <small className="soft">
              {event.place.address}
              {event.place.latitude !== null && (
                <>
                  {' · '}
                  <a href={mapOf(event.place.latitude, event.place.longitude)} rel="noopener">
                    {t('map')}
                  </a>
                  <OnDevice>
                    {' · '}
                    <a href={`geo:${event.place.latitude},${event.place.longitude}`}>{t('mapOnDevice')}</a>
                  </OnDevice>
                </>
              )}
            </small>
            {event.online && (
              <>
                <br />
                {t('andOnline')}
              </>
            )}
            {(picture || event.place.sketch) && (
              <chakra.div
                display="grid"
                gridTemplateColumns={{ base: '1fr', md: picture && event.place.sketch ? '1fr 1fr' : '400px' }}
                gap="10px"
                marginTop="8px"
              >
                {event.place.sketch && (
                  <Suspense>
                    <Sketch of={event.place.sketch} name={event.place.name} />
                  </Suspense>
                )}
                {picture && <Picture of={picture} language={language()} ratio="100 / 62" sizes="400px" />}
              </chakra.div>
            )}
          </>
        ) : event.online ? (
          t('onlineOnly')
        ) : (
          t('placeLater')
        )}
      </dd>
      {event.draws.length > 0 && (
        <>
          <dt>{t('good')}</dt>
          <chakra.dd display="flex" flexWrap="wrap" gap="6px">
            {event.draws.map((draw) => (
              <Link key={draw} to={`/?${new URLSearchParams({ with: draw })}`}>
                {kindIn(draw, event.inFrench, language())}
              </Link>
            ))}
          </chakra.dd>
        </>
      )}
      {event.place?.access && (
        <>
          <dt>{t('access')}</dt>
          <dd>{event.place.access}</dd>
        </>
      )}
    </Facts>
  );
}

/** What it is about, in words and pictures. */
export function Story({ event }: Pick<Part, 'event'>) {
  const { t } = useTranslation();
  return (
    <>
      <DocView
        doc={event.description}
        picture={({ id }) => {
          const picture = pictureOf(event, id);
          return picture && <Picture of={picture} language={language()} />;
        }}
      />
      {event.gallery.length > 0 && (
        <chakra.ul
          listStyleType="none"
          padding="0"
          margin="18px 0"
          display="grid"
          gridTemplateColumns={{ base: '1fr 1fr', md: 'repeat(3, 1fr)' }}
          gap="8px"
          aria-label={t('pictures')}
        >
          {event.gallery
            .flatMap((id) => pictureOf(event, id) ?? [])
            .map((picture) => (
              <li key={picture.id}>
                <Picture
                  of={picture}
                  language={language()}
                  ratio="3 / 2"
                  sizes="(max-width: 720px) 50vw, 220px"
                />
              </li>
            ))}
        </chakra.ul>
      )}
      {event.buttons.length > 0 && (
        <Acts>
          {event.buttons.map((b) => (
            <ButtonAnchor key={b.id} href={b.address} rel="noopener nofollow">
              {readTexts(b.label, language())}
            </ButtonAnchor>
          ))}
        </Acts>
      )}
    </>
  );
}

// Only where somebody may not, or need not, register.
const WhoMay = lazy(() => import('./WhoMay.tsx'));

/** What it costs, and the way in. */
export function Tickets({ event, preview }: Part) {
  const { t } = useTranslation();
  const money = useMoney();
  const { may, ways } = event.admission;
  // A code is entered where one registers; without one there is nothing to do there.
  const shut =
    (event.registration === 'full' && event.whenFull === 'turn away') ||
    (!may && !ways.some((way) => way.kind === 'code'));
  return (
    <>
      <Head>{t('tickets')}</Head>
      <Rows>
        {event.offers
          .map((offer) => offerIn(offer, language()))
          .map((o) => (
            <Ends as="li" key={o.id}>
              <span>
                {o.name}
                <Small>
                  {[o.online ? t('online') : '', sayOffer(t, o, o.about), sayLimits(t, o, event.nowLocal)]
                    .filter(Boolean)
                    .join(' · ')}
                </Small>
              </span>
              <chakra.b className="num" textAlign="end">
                {sayPrice(t, o, money, event.nowLocal)}
              </chakra.b>
            </Ends>
          ))}
      </Rows>
      {event.registerAt ? (
        <ButtonAnchor href={event.registerAt} look="main" size="go" rel="noopener">
          {t('registerElsewhere', { site: siteOf(event.registerAt) })}
        </ButtonAnchor>
      ) : event.admission.noReply ? (
        <Suspense>
          <WhoMay event={event} />
        </Suspense>
      ) : event.registration === 'closed' ? (
        <Say>{t('closed')}</Say>
      ) : (
        <>
          {!may && (
            <Suspense>
              <WhoMay event={event} />
            </Suspense>
          )}
          {event.registration === 'full' && (
            <Say tone="need">
              {readTexts(event.fullWords, language()) ||
                t(event.whenFull === 'turn away' ? 'fullAway' : 'fullText')}
            </Say>
          )}
          {event.seatsLeft === 0 && event.registration === 'open' && event.whenFull === 'online' && (
            <Say tone="need">{t('onlineLeft')}</Say>
          )}
          {shut ? null : preview ? (
            <Button look="main" size="go" disabled>
              {t('register')}
            </Button>
          ) : (
            <ButtonLink to={`/e/${event.slug}/register`} look="main" size="go">
              {t(!may ? 'haveCode' : event.registration === 'full' ? 'joinWaitlist' : 'register')}
            </ButtonLink>
          )}
          {!shut && (
            <Soft textAlign="center" marginTop="8px" fontSize="14px">
              {t('twoMinutes')}
            </Soft>
          )}
        </>
      )}
    </>
  );
}

/** What people ask again and again. */
export function Asked({ event }: Pick<Part, 'event'>) {
  const { t } = useTranslation();
  return (
    <>
      {event.faqs.length > 0 && (
        <>
          <Head>{t('faqs')}</Head>
          {event.faqs.map((f) => (
            <chakra.details key={f.id} padding="10px 0" borderBottom="1px solid" borderColor="line">
              <chakra.summary cursor="pointer" fontWeight={500}>
                {readTexts(f.question, language())}
              </chakra.summary>
              <chakra.p margin="6px 0 0" whiteSpace="pre-line">
                {readTexts(f.answer, language())}
              </chakra.p>
            </chakra.details>
          ))}
        </>
      )}
    </>
  );
}

/** Who people turn to, and the event in their own calendar. */
export function More({ event, preview }: Part) {
  const { t } = useTranslation();
  const { organizer } = event;
  return (
    <>
      {event.logo && event.unit && (
        <chakra.p display="flex" alignItems="center" gap="12px" marginTop="26px">
          <chakra.span width="56px" flex="none" aria-hidden="true">
            <Picture of={event.logo} language={language()} sizes="56px" />
          </chakra.span>
          {event.unit}
        </chakra.p>
      )}
      {organizer && (
        <>
          <Head>{t('organizer')}</Head>
          <chakra.p margin="0 0 6px">
            {[
              organizer.name,
              organizer.email && <a href={`mailto:${organizer.email}`}>{organizer.email}</a>,
              organizer.phone && (
                <a href={`tel:${organizer.phone.replace(/[^+\d]/gu, '')}`}>{organizer.phone}</a>
              ),
            ]
              .filter(Boolean)
              .flatMap((part, at) => (at ? [' · ', part] : [part]))}
          </chakra.p>
          {organizer.form && !preview && (
            <AskBelow
              title={t('askOrganizer')}
              thanks={t('questionSent')}
              form={(done) => <AskOrganizer slug={event.slug} done={done} />}
            />
          )}
        </>
      )}
      {!preview && event.board && (
        <Suspense>
          <Board slug={event.slug} />
        </Suspense>
      )}
      {!preview && event.follow && (
        <chakra.div marginTop="22px">
          <AskBelow
            title={t('followTitle')}
            about={t('followText')}
            thanks={t('followAsked')}
            form={(done) => <FollowForm slug={event.slug} series={event.series !== null} done={done} />}
          />
        </chakra.div>
      )}
      {!preview && (
        <chakra.p marginTop="22px">
          <a href={addressOf('GET /api/public/events/:slug/calendar.ics', { slug: event.slug })}>
            {t('addToCalendar')}
          </a>
        </chakra.p>
      )}
    </>
  );
}

/** Pages where one can give without coming, each with how far it is. */
export function Giving({ event, preview }: Part) {
  const { t } = useTranslation();
  const money = useMoney();
  if (preview || !event.giving.length) return null;
  return (
    <>
      <Head>{t('giveHere')}</Head>
      {event.giving.map((g) => (
        <p key={g.slug}>
          <Link to={`/give/${g.slug}`}>{readTexts(g.title, language())}</Link>{' '}
          <chakra.span color="soft">
            {g.goal === null
              ? g.given > 0 && t('givenSoFar', { given: money(g.given, g.currency) })
              : t('givenOfGoal', { given: money(g.given, g.currency), goal: money(g.goal, g.currency) })}
          </chakra.span>
        </p>
      ))}
    </>
  );
}

/** Shifts that still need somebody. */
export function Help({ event, preview }: Part) {
  const { t } = useTranslation();
  return (
    <>
      {!preview && (event.openShifts > 0 || event.help) && (
        <>
          <Head>{t('help')}</Head>
          <p>
            {event.openShifts > 0 && (
              <>
                {t('helpText', { count: event.openShifts })}{' '}
                <Link to={`/e/${event.slug}/shifts`}>{t('seeShifts')}</Link>{' '}
              </>
            )}
            {event.help && <Link to={`/help/${event.help}`}>{t('offerHelp')}</Link>}
          </p>
        </>
      )}
    </>
  );
}
