import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import type { Answer } from '#web/api.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayCount } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayShare, sayTimes } from '../shares.ts';

type Found = Answer<'GET /api/records/timing'>;
export type TimingShown = Found['timing'][number];
type DateFit = Found['dates'][number];

const TimingChart = lazy(() => import('./TimingChart.tsx'));

/** How long before people book and give up, and which dates went well. */
export function Timing() {
  return (
    <Loaded of={useAsk('GET /api/records/timing')}>
      {({ timing, dates, findings }) => (
        <>
          <h2>{findings.timing}</h2>
          {timing[0]!.booked > 0 && (
            <>
              <Suspense fallback={<chakra.div height="240px" />}>
                <TimingChart all={timing[0]!} />
              </Suspense>
              <Curves of={timing} />
            </>
          )}
          <chakra.h2 marginTop="24px">{phrase('archive.bestDates')}</chakra.h2>
          <p>{findings.dates}</p>
          {dates.length > 0 && (
            <>
              <p className="soft">{phrase('archive.bestHelp')}</p>
              <chakra.div
                display="grid"
                gridTemplateColumns={{ base: 'minmax(0,1fr)', md: '1fr 1fr 1fr' }}
                gap="12px 28px"
              >
                {(['weekday', 'month', 'hour'] as const).map((of) => (
                  <Fits key={of} of={of} dates={dates.filter((d) => d.of === of)} />
                ))}
              </chakra.div>
            </>
          )}
        </>
      )}
    </Loaded>
  );
}

const shownAt = [42, 28, 14, 7, 3, 1] as const;

function Curves({ of }: { of: readonly TimingShown[] }) {
  const columns: Column<TimingShown>[] = [
    {
      id: 'title',
      phone: 'title',
      heading: phrase('archive.event'),
      sortBy: (t) => t.title ?? '',
      cell: (t) => (t.title ? <span className="name">{t.title}</span> : <b>{phrase('archive.allEvents')}</b>),
    },
    {
      id: 'booked',
      heading: phrase('archive.booked'),
      number: true,
      sortBy: (t) => t.booked,
      cell: (t) => sayCount(t.booked),
    },
    ...shownAt.map(
      (before): Column<TimingShown> => ({
        id: `before-${before}`,
        heading: `${before} d`,
        number: true,
        phone: 'hidden',
        sortBy: (t) => shareAt(t, before),
        cell: (t) => sayShare(shareAt(t, before)),
      }),
    ),
    {
      id: 'half',
      heading: phrase('archive.half'),
      number: true,
      sortBy: (t) => t.half ?? 0,
      cell: (t) => (t.half === null ? '' : `${Math.max(0, t.half)} d`),
    },
    {
      id: 'nine',
      heading: phrase('archive.nine'),
      number: true,
      sortBy: (t) => t.nine ?? 0,
      cell: (t) => (t.nine === null ? '' : `${Math.max(0, t.nine)} d`),
    },
    {
      id: 'withdrawn',
      heading: phrase('archive.withdrawnShare'),
      number: true,
      sortBy: (t) => t.withdrawn / Math.max(1, t.booked),
      cell: (t) => sayShare(t.withdrawn / Math.max(1, t.booked)),
    },
  ];
  return (
    <Table
      label={phrase('archive.timing')}
      name="timing"
      rows={of}
      columns={columns}
      keyOf={(t) => t.kind ?? 'all'}
      empty=""
    />
  );
}

const shareAt = (t: TimingShown, before: number): number =>
  t.curve.find((c) => c.before === before)?.booked ?? 0;

const fitWords: Readonly<Record<DateFit['of'], string>> = {
  weekday: phrase('archive.weekday'),
  month: phrase('archive.month'),
  hour: phrase('archive.hour'),
};

function Fits({ of, dates }: { of: DateFit['of']; dates: readonly DateFit[] }) {
  const columns: Column<DateFit>[] = [
    { id: 'name', phone: 'title', heading: fitWords[of], cell: (d) => d.name },
    { id: 'events', heading: phrase('archive.nEvents'), number: true, cell: (d) => d.events },
    {
      id: 'came',
      heading: phrase('archive.against'),
      number: true,
      sortBy: (d) => d.came,
      cell: (d) => sayTimes(d.came, 2),
    },
    {
      id: 'turnUp',
      heading: phrase('archive.turnUp'),
      number: true,
      sortBy: (d) => d.turnUp,
      cell: (d) => sayShare(d.turnUp),
    },
  ];
  return <Table label={fitWords[of]} rows={dates} columns={columns} keyOf={(d) => String(d.key)} empty="" />;
}
