import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import type { PublicListing } from '#contract/registration.ts';
import { inLanguage } from '#core/events/french.ts';
import { kindIn } from '#core/events/kinds.ts';
import { sayRange } from '#core/time/say.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { KindMark } from '../parts/KindMark.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Ends, Rows, Small, Soft, Title } from './parts.tsx';
import { useMoney } from './saying.ts';

/** Coming events that are listed. */
export default function Listing() {
  const { t } = useTranslation();
  const money = useMoney();
  const listing = useAsk('GET /api/public/events');
  const wanted = useSearchParams()[0].get('with');
  return (
    <>
      <Title>{t('comingEvents')}</Title>
      <Loaded of={listing}>
        {(all) =>
          all.length === 0 ? (
            <Soft>{t('noEvents')}</Soft>
          ) : (
            <>
              <Filters events={all} wanted={wanted} />
              {wanted && !all.some((e) => marksOf(e).includes(wanted)) && (
                <Soft>
                  {t('noneWithThis')} <TextLink to="/">{t('allEvents')}</TextLink>
                </Soft>
              )}
              <Rows>
                {all
                  .filter((e) => !wanted || marksOf(e).includes(wanted))
                  .map((event) => inLanguage(event, language()))
                  .map((e) => (
                    <li key={e.slug}>
                      <Ends>
                        <TextLink to={`/e/${e.slug}`} fontFamily="title" fontWeight={500} fontSize="19px">
                          <KindMark mark={e.mark} />
                          {e.title}
                        </TextLink>
                        <chakra.span textStyle="figures" whiteSpace="nowrap">
                          {e.registration === 'full'
                            ? t('full')
                            : e.fromPrice === null
                              ? ''
                              : e.fromPrice === 0
                                ? t('free')
                                : t('from', { price: money(e.fromPrice) })}
                        </chakra.span>
                      </Ends>
                      {e.startsLocal && <div>{sayRange(e.startsLocal, e.endsLocal, language())}</div>}
                      <Small>{[e.place, e.summary].filter(Boolean).join(' · ')}</Small>
                    </li>
                  ))}
              </Rows>
            </>
          )
        }
      </Loaded>
    </>
  );
}

/** What a listing is filtered by: what kind an event is, and what attracts people to it. */
const marksOf = (event: { category: string; draws: readonly string[] }): string[] =>
  [event.category, ...event.draws].filter(Boolean);

/** What the coming events have in common, each a link that leaves only those. */
function Filters({ events, wanted }: { events: PublicListing; wanted: string | null }) {
  const { t } = useTranslation();
  const marks = [...new Set(events.flatMap(marksOf))].sort((a, b) => a.localeCompare(b));
  if (marks.length < 2) return null;
  const inFrench = Object.assign({}, ...events.map((e) => e.inFrench)) as Record<string, string>;
  return (
    <chakra.nav aria-label={t('showOnly')} display="flex" flexWrap="wrap" gap="8px" margin="10px 0 6px">
      {[null, ...marks].map((mark) => (
        <Mark
          key={mark ?? ''}
          to={mark ? `/?${new URLSearchParams({ with: mark })}` : '/'}
          aria-current={mark === wanted ? 'true' : undefined}
        >
          {mark ? kindIn(mark, inFrench, language()) : t('allEvents')}
        </Mark>
      ))}
    </chakra.nav>
  );
}

const Mark = chakra(Link, {
  base: {
    border: '1px solid',
    borderColor: 'rule',
    borderRadius: 'corner',
    padding: '6px 11px',
    fontSize: 'medium',
    '&[aria-current]': { borderColor: 'verdigris', color: 'verdigris', fontWeight: 600 },
  },
});
