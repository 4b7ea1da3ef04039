import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import type { Answer } from '#web/api.ts';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded, Loading } from '#web/kit/notices.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

// What draws charts is large.
const Curve = lazy(() => import('./ArrivalCurve.tsx'));

type Live = Answer<'GET /api/events/:id/doors/live'>;

const bar: SystemStyleObject = {
  display: 'block',
  width: '100%',
  maxWidth: '480px',
  height: '8px',
  appearance: 'none',
  border: 0,
  margin: '4px 0 8px',
  background: 'var(--line)',
  '&::-webkit-progress-bar': { background: 'var(--line)' },
  '&::-webkit-progress-value': { background: 'var(--verdigris)' },
  '&::-moz-progress-bar': { background: 'var(--verdigris)' },
  '&[data-full]::-webkit-progress-value': { background: 'var(--madder)' },
  '&[data-full]::-moz-progress-bar': { background: 'var(--madder)' },
};

/** How the doors stand now: inside against what the place may hold, by door, and how arrivals go. */
export function Live({ eventId }: { eventId: string }) {
  const live = useAsk('GET /api/events/:id/doors/live', { params: { id: eventId }, everyMs: 20_000 });
  return <Loaded of={live}>{(l) => <Shown live={l} />}</Loaded>;
}

/** What the forecast goes by. */
function sayBasis({ of, ...counts }: NonNullable<Live['basis']>): string {
  switch (of) {
    case 'series':
      return phrase('door.forecastSeries', counts);
    case 'kind':
      return phrase('door.forecastKind', counts);
    case 'all':
      return phrase('door.forecastAll', counts);
  }
}

function Shown({ live }: { live: Live }) {
  const { timeOfDay } = useSaying();
  const people = live.inside + live.crew;
  const most = live.most ?? live.capacity;
  const counted = live.most === null ? live.inside : people;
  const full = most !== null && counted >= most;
  return (
    <section aria-label={phrase('door.live')}>
      <chakra.p
        className="num"
        fontSize="44px"
        lineHeight="1.1"
        margin="4px 0 0"
        color={full ? 'madder' : 'ink'}
        role="status"
      >
        {counted}
        {most !== null && (
          <chakra.span fontSize="20px" color="soft">
            {' '}
            {phrase('door.ofMost', { most })}
          </chakra.span>
        )}
      </chakra.p>
      {most !== null && (
        <chakra.progress
          value={Math.min(counted, most)}
          max={most}
          aria-label={phrase('door.insideNowLabel')}
          css={bar}
          data-full={full || undefined}
        />
      )}
      <p className="num">
        {[
          full && live.most !== null && phrase('door.fireFull'),
          phrase('door.insideParts', { seats: live.inside, crew: live.crew, minors: live.minors }),
        ]
          .filter(Boolean)
          .join(' ')}
      </p>
      <p className="soft num">
        {phrase('door.arrivedOf', { arrived: live.arrived, seats: live.seats })}
        {live.closedAt && ` ${phrase('door.closedAt', { time: timeOfDay(live.closedAt) })}`}
      </p>
      <chakra.h3 marginTop="14px">{phrase('door.byDoor')}</chakra.h3>
      {live.doors.length === 0 ? (
        <Empty>{phrase('door.nobodyArrived')}</Empty>
      ) : (
        <div className="table still">
          <table>
            <tbody>
              {live.doors.map((d) => (
                <tr key={d.name}>
                  <td>{d.name}</td>
                  <td className="n">{d.arrived}</td>
                  <td className="soft n">{phrase('door.lastAt', { time: timeOfDay(d.lastAt) })}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {live.curve.length > 1 && (
        <>
          <chakra.h3 marginTop="14px">{phrase('door.arrivalCurve')}</chakra.h3>
          <Suspense fallback={<Loading />}>
            <Curve curve={live.curve} forecast={live.basis !== null} />
          </Suspense>
          <p className="soft">{live.basis === null ? phrase('door.noForecast') : sayBasis(live.basis)}</p>
        </>
      )}
    </section>
  );
}
