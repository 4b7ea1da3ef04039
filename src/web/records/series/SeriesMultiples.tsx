import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { sayShortDate } from '#core/time/say.ts';
import type { Answer } from '#web/api.ts';
import { TextLink } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { AsTable } from '../AsTable.tsx';

export type SeriesShown = Answer<'GET /api/records/series'>[number];

const SeriesBars = lazy(() => import('./SeriesBars.tsx'));
/** Times that are compared from here. */
const compared = 6;

/** What takes place again and again, each drawn small, side by side. */
export function SeriesMultiples() {
  return (
    <Loaded of={useAsk('GET /api/records/series')}>
      {(all) =>
        all.length === 0 ? (
          <Empty>{phrase('archive.noSeries')}</Empty>
        ) : (
          <>
            <p className="soft">{phrase('archive.seriesHelp')}</p>
            <chakra.div
              display="grid"
              gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(auto-fill, minmax(330px, 1fr))' }}
              gap="18px 28px"
              marginTop="10px"
            >
              {all.map((one) => (
                <One key={one.kind} series={one} />
              ))}
            </chakra.div>
          </>
        )
      }
    </Loaded>
  );
}

function One({ series }: { series: SeriesShown }) {
  const { title, unit, times, finding } = series;
  const last = times.slice(-compared);
  return (
    <chakra.section borderTop="1px solid" borderColor="line" paddingTop="8px">
      <div className="spread">
        <h3>{title}</h3>
        <span className="soft num">{phrase('archive.times', { n: times.length })}</span>
      </div>
      {unit && <p className="soft">{unit}</p>}
      <Suspense fallback={<chakra.div height="80px" />}>
        <SeriesBars times={times} label={title} />
      </Suspense>
      <chakra.p fontSize="14px">{finding}</chakra.p>
      <chakra.div display="flex" flexWrap="wrap" columnGap="14px" alignItems="baseline">
        <TextLink to={`/records?show=compare&of=${last.map((t) => t.id).join(',')}`}>
          {phrase('archive.compareSeries', { n: last.length })}
        </TextLink>
        <AsTable>
          <thead>
            <tr>
              <th scope="col">{phrase('archive.date')}</th>
              <th scope="col" className="n">
                {phrase('archive.registered')}
              </th>
              <th scope="col" className="n">
                {phrase('archive.came')}
              </th>
              <th scope="col" className="n">
                {phrase('archive.firstTimers')}
              </th>
            </tr>
          </thead>
          <tbody>
            {times.map((t) => (
              <tr key={t.id}>
                <td>
                  <TextLink to={`/events/${t.id}/wrap-up`}>
                    {sayShortDate(t.on)} {t.on.slice(0, 4)}
                  </TextLink>
                </td>
                <td className="n">{t.registered}</td>
                <td className="n">{t.came}</td>
                <td className="n">{t.firstTimers}</td>
              </tr>
            ))}
          </tbody>
        </AsTable>
      </chakra.div>
    </chakra.section>
  );
}
