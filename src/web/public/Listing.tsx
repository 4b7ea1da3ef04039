import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { sayRange } from '#core/time/say.ts';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { useMoney } from './saying.ts';

/** Coming events that are listed. */
export function Listing() {
  const { t } = useTranslation();
  const money = useMoney();
  const listing = useAsk('GET /api/public/events');
  return (
    <>
      <h1>{t('comingEvents')}</h1>
      <Loaded of={listing}>
        {(events) =>
          events.length === 0 ? (
            <p className="soft">{t('noEvents')}</p>
          ) : (
            <ul className="rows">
              {events.map((e) => (
                <li key={e.slug}>
                  <div className="spread">
                    <Link to={`/e/${e.slug}`} className="name" style={{ fontSize: 19 }}>
                      {e.title}
                    </Link>
                    <span className="num" style={{ whiteSpace: 'nowrap' }}>
                      {e.registration === 'full'
                        ? t('full')
                        : e.fromPrice === null
                          ? ''
                          : e.fromPrice === 0
                            ? t('free')
                            : t('from', { price: money(e.fromPrice) })}
                    </span>
                  </div>
                  {e.startsLocal && <div>{sayRange(e.startsLocal, e.endsLocal, language())}</div>}
                  <small>{[e.place, e.summary].filter(Boolean).join(' · ')}</small>
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </>
  );
}
