import { chakra } from '@chakra-ui/react';
import type { Answer } from '#web/api.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { placed } from '#web/kit/placed.ts';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayCount } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayBounds, sayShare, sayTimes } from '../shares.ts';

type Cohort = Answer<'GET /api/records/returns'>['byYear'][number];
type Path = Answer<'GET /api/records/paths'>['paths'][number];
type Within = Cohort['within'][number];

/** Who comes back: by the year and the kind of their first event, and the ways people go. */
export function Returns() {
  return (
    <>
      <Loaded of={useAsk('GET /api/records/returns')}>
        {({ byYear, byKind, finding }) => (
          <>
            <h2>{finding}</h2>
            <p className="soft">{phrase('archive.cohortHelp')}</p>
            <h3>{phrase('archive.byYear')}</h3>
            <Cohorts of={byYear} heading={phrase('archive.year')} name="cohorts-by-year" />
            <chakra.h3 marginTop="18px">{phrase('archive.byKind')}</chakra.h3>
            <Cohorts of={byKind} heading={phrase('archive.firstEvent')} name="cohorts-by-kind" />
          </>
        )}
      </Loaded>
      <Paths />
    </>
  );
}

/** A share as a bar with its bounds, and in figures. */
function ShareMark({ of }: { of: NonNullable<Within> }) {
  const at = (share: number) => `${share * 100}%`;
  return (
    <chakra.span display="inline-grid" gridTemplateColumns="38px 90px 56px" gap="8px" alignItems="center">
      <b className="num">{sayShare(of.value)}</b>
      <chakra.span aria-hidden position="relative" height="10px" borderBottom="1px solid" borderColor="line">
        <chakra.span
          position="absolute"
          left={0}
          top="2px"
          height="6px"
          background="verdigris"
          style={placed({ width: at(of.value) })}
        />
        <chakra.span
          position="absolute"
          top="4px"
          height="2px"
          background="ink"
          style={placed({ left: at(of.low), width: at(of.high - of.low) })}
        />
      </chakra.span>
      <small className="soft num">{sayBounds(of)}</small>
    </chakra.span>
  );
}

function Cohorts({ of, heading, name }: { of: readonly Cohort[]; heading: string; name: string }) {
  const years = of[0]?.within.length ?? 0;
  const columns: Column<Cohort>[] = [
    {
      id: 'title',
      phone: 'title',
      heading,
      sortBy: (c) => c.title,
      cell: (c) => <span className="name">{c.title}</span>,
    },
    {
      id: 'people',
      heading: phrase('archive.people'),
      number: true,
      sortBy: (c) => c.people,
      cell: (c) => sayCount(c.people),
      total: (shown) => sayCount(shown.reduce((n, c) => n + c.people, 0)),
    },
    ...Array.from(
      { length: years },
      (_, y): Column<Cohort> => ({
        id: `within-${y + 1}`,
        heading: phrase('archive.withinYears', { n: y + 1 }),
        sortBy: (c) => c.within[y]?.value ?? -1,
        cell: (c) => {
          const within = c.within[y];
          return within ? (
            <ShareMark of={within} />
          ) : (
            <span className="soft">{phrase('archive.tooEarly')}</span>
          );
        },
      }),
    ),
    {
      id: 'visits',
      heading: phrase('archive.visits'),
      number: true,
      sortBy: (c) => c.visits,
      cell: (c) => sayTimes(c.visits),
    },
  ];
  return <Table label={heading} name={name} rows={of} columns={columns} keyOf={(c) => c.key} empty="" />;
}

/** What people came to first and then, and how many of them gave and helped. */
function Paths() {
  const columns: Column<Path>[] = [
    {
      id: 'first',
      phone: 'title',
      heading: phrase('archive.firstEvent'),
      sortBy: (p) => p.first.title,
      cell: (p) => <span className="name">{p.first.title}</span>,
    },
    {
      id: 'then',
      heading: phrase('archive.next'),
      sortBy: (p) => p.second?.title ?? '',
      cell: (p) =>
        p.second ? (
          <span className="name">{p.second.title}</span>
        ) : (
          <span className="soft">{phrase('archive.onceOnly')}</span>
        ),
    },
    {
      id: 'people',
      heading: phrase('archive.people'),
      number: true,
      sortBy: (p) => p.people,
      cell: (p) => sayCount(p.people),
    },
    {
      id: 'days',
      heading: phrase('archive.daysBetween'),
      number: true,
      sortBy: (p) => p.days ?? 0,
      cell: (p) => (p.days === null ? '' : sayCount(Math.round(p.days))),
    },
    {
      id: 'gave',
      heading: phrase('archive.gave'),
      sortBy: (p) => p.gave.value,
      cell: (p) => <ShareMark of={{ ...p.gave, n: p.people }} />,
    },
    {
      id: 'served',
      heading: phrase('archive.served'),
      sortBy: (p) => p.served.value,
      cell: (p) => <ShareMark of={{ ...p.served, n: p.people }} />,
    },
  ];
  return (
    <Loaded of={useAsk('GET /api/records/paths')}>
      {({ paths, finding }) => (
        <chakra.section marginTop="24px">
          <h2>{phrase('archive.paths')}</h2>
          <p>{finding}</p>
          <p className="soft">{phrase('archive.pathHelp')}</p>
          <Table
            label={phrase('archive.paths')}
            name="paths"
            rows={paths}
            columns={columns}
            keyOf={(p) => `${p.first.kind} ${p.second?.kind ?? ''}`}
            empty=""
          />
        </chakra.section>
      )}
    </Loaded>
  );
}
