import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import type { PublicEvent } from '#contract/registration.ts';
import { sayRange, sayTime, sayZone } from '#core/time/say.ts';
import { addressOf } from '#web/api.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Reeds } from './Reeds.tsx';
import { ownTime, useMoney } from './saying.ts';

/** One event: what, when, where, what it costs, and the way in. The counts are of now. */
export function EventView() {
  const { slug = '' } = useParams();
  return (
    <Loaded of={useAsk('GET /api/public/events/:slug', { slug }, { everyMs: 20_000 })}>
      {(event) => <Shown event={event} />}
    </Loaded>
  );
}

function Shown({ event }: { event: PublicEvent }) {
  const { t } = useTranslation();
  const money = useMoney();
  const own = ownTime(event.startsAt, event.endsAt, event.zone);
  return (
    <>
      <Reeds seed={event.slug} />
      <h1>{event.title}</h1>
      {event.summary && <p className="soft">{event.summary}</p>}
      {event.state === 'called off' && <p className="say stop">{t('calledOff')}</p>}
      <dl>
        <dt>{t('when')}</dt>
        <dd>
          {event.startsLocal && sayRange(event.startsLocal, event.endsLocal, language())}
          {event.doorsLocal && `, ${t('doors', { time: sayTime(event.doorsLocal) })}`}
          <br />
          <small className="soft">
            {own ? t('whereYouAre', own) : t('zoneTime', { zone: sayZone(event.zone) })}
          </small>
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
                    <a href={`geo:${event.place.latitude},${event.place.longitude}`}>{t('map')}</a>
                  </>
                )}
              </small>
            </>
          ) : (
            t('placeLater')
          )}
        </dd>
        {event.draws.length > 0 && (
          <>
            <dt>{t('good')}</dt>
            <dd>{event.draws.join(', ')}</dd>
          </>
        )}
        {event.place?.access && (
          <>
            <dt>{t('access')}</dt>
            <dd>{event.place.access}</dd>
          </>
        )}
      </dl>
      {event.description
        .split(/\n{2,}/u)
        .filter(Boolean)
        .map((paragraph) => (
          <p key={paragraph.slice(0, 40)} style={{ margin: '0 0 12px', whiteSpace: 'pre-line' }}>
            {paragraph}
          </p>
        ))}
      <h2>{t('tickets')}</h2>
      <ul className="rows">
        {event.offers.map((o) => (
          <li key={o.id} className="spread">
            <span>
              {o.name}
              <small>
                {[
                  o.about,
                  o.seatsPerUnit > 1 ? t('seatsEach', { count: o.seatsPerUnit }) : '',
                  o.left === 0
                    ? t('soldOut')
                    : o.left !== null && o.left <= 30
                      ? t('left', { count: o.left })
                      : '',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </small>
            </span>
            <b className="num">{o.price === 0 ? t('free') : money(o.price)}</b>
          </li>
        ))}
      </ul>
      {event.registration === 'closed' ? (
        <p className="say">{t('closed')}</p>
      ) : (
        <>
          {event.registration === 'full' && <p className="say need">{t('fullText')}</p>}
          <Link to={`/e/${event.slug}/register`} className="btn primary go">
            {event.registration === 'full' ? t('joinWaitlist') : t('register')}
          </Link>
          <p className="soft" style={{ textAlign: 'center', marginTop: 8, fontSize: 14 }}>
            {t('twoMinutes')}
          </p>
        </>
      )}
      <p style={{ marginTop: 22 }}>
        <a href={addressOf('GET /api/public/events/:slug/calendar.ics', { slug: event.slug })}>
          {t('addToCalendar')}
        </a>
      </p>
      {event.openShifts > 0 && (
        <>
          <h2>{t('help')}</h2>
          <p>
            {t('helpText', { count: event.openShifts })}{' '}
            <Link to={`/e/${event.slug}/shifts`}>{t('seeShifts')}</Link>
          </p>
        </>
      )}
    </>
  );
}
