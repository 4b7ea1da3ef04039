import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { ChosenBar } from '#web/kit/ChosenBar.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk, useMe } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

const TurnUp = lazy(() => import('./TurnUp.tsx'));

/** Past events with who registered and who came. */
export function PastEvents({ compare }: { compare: (ids: string[]) => void }) {
  const [chosen, choose] = useState<ReadonlySet<string>>(new Set());
  const roles = useMe().data?.staff.roles ?? [];
  const may = roles.some((r) => r === 'coordinator' || r === 'treasurer' || r === 'unit lead');
  const events = useAsk('GET /api/events');
  const navigate = useNavigate();
  const { now } = useSaying();
  const columns: Column<SeasonEvent>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '110px',
      sortBy: (e) => e.startsAt ?? '',
      cell: (e) => e.startsLocal && `${sayShortDate(e.startsLocal)} ${e.startsLocal.slice(0, 4)}`,
    },
    {
      id: 'title',
      phone: 'title',
      heading: phrase('common.event'),
      sortBy: (e) => e.title.toLowerCase(),
      cell: (e) => <span className="name">{e.title}</span>,
      total: (shown) => phrase('records.nEvents', { n: shown.length }),
    },
    {
      id: 'unit',
      phone: 'hidden',
      heading: phrase('common.unit'),
      sortBy: (e) => e.unit ?? '',
      cell: (e) => e.unit,
    },
    {
      id: 'capacity',
      heading: phrase('common.capacity'),
      number: true,
      sortBy: (e) => e.capacity ?? 0,
      cell: (e) => e.capacity ?? '',
    },
    {
      id: 'seats',
      heading: phrase('common.registered'),
      number: true,
      sortBy: (e) => e.confirmed,
      cell: (e) => e.confirmed,
      total: (shown) => sum(shown, 'confirmed'),
    },
    {
      id: 'came',
      heading: phrase('common.came'),
      number: true,
      sortBy: (e) => e.arrived,
      cell: (e) => e.arrived,
      total: (shown) => sum(shown, 'arrived'),
    },
    {
      id: 'share',
      heading: phrase('records.ofThose'),
      number: true,
      sortBy: (e) => share(e),
      cell: (e) => (e.confirmed ? sayShare(share(e)) : ''),
      total: (shown) =>
        sum(shown, 'confirmed') ? sayShare(sum(shown, 'arrived') / sum(shown, 'confirmed')) : '',
    },
  ];
  return (
    <Loaded of={events}>
      {(all) => {
        const past = all
          .filter((e) => !e.isTemplate && e.startsAt && e.startsAt < now && e.state !== 'called off')
          .reverse();
        return (
          <>
            {past.length > 3 && (
              <Suspense fallback={<chakra.div height="220px" />}>
                <TurnUp events={past} />
              </Suspense>
            )}
            {chosen.size > 0 && (
              <ChosenBar label={phrase('archive.chosenN', { n: chosen.size })}>
                <Button look="main" disabled={chosen.size > 60} onClick={() => compare([...chosen])}>
                  {phrase('archive.compareN', { n: chosen.size })}
                </Button>
                {chosen.size > 60 && <span className="late">{phrase('archive.onlySixty')}</span>}
                <Button look="plain" onClick={() => choose(new Set())}>
                  {phrase('archive.clear')}
                </Button>
              </ChosenBar>
            )}
            <Table
              label={phrase('records.pastEvents')}
              rows={past}
              columns={columns}
              keyOf={(e) => e.id}
              open={(e) => navigate(`/events/${e.id}/wrap-up`)}
              name="records"
              {...(may ? { choosing: { chosen, choose } } : {})}
              empty={phrase('records.pastEventsAreCompared')}
              height="56vh"
            />
          </>
        );
      }}
    </Loaded>
  );
}

const sum = (events: readonly SeasonEvent[], of: 'confirmed' | 'arrived'): number =>
  events.reduce((total, e) => total + e[of], 0);
const sayShare = (s: number): string => `${Math.round(s * 100)} %`;
const share = (e: SeasonEvent): number => (e.confirmed ? e.arrived / e.confirmed : 0);
