import { chakra } from '@chakra-ui/react';
import { useTranslation } from 'react-i18next';
import { inLanguage } from '#core/events/french.ts';
import { sayRange } from '#core/time/say.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { useAsk } from './asking.ts';
import { language } from './language.ts';
import { Loaded } from './notices.tsx';
import { Ends, Rows, Small, Soft, Title } from './parts.tsx';
import { useMoney } from './saying.ts';

/** Coming events that are listed. */
export function Listing() {
  const { t } = useTranslation();
  const money = useMoney();
  const listing = useAsk('GET /api/public/events');
  return (
    <>
      <Title>{t('comingEvents')}</Title>
      <Loaded of={listing}>
        {(events) =>
          events.length === 0 ? (
            <Soft>{t('noEvents')}</Soft>
          ) : (
            <Rows>
              {events
                .map((event) => inLanguage(event, language()))
                .map((e) => (
                  <li key={e.slug}>
                    <Ends>
                      <TextLink to={`/e/${e.slug}`} fontFamily="title" fontWeight={500} fontSize="19px">
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
          )
        }
      </Loaded>
    </>
  );
}
