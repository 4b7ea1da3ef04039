import { chakra } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { sayShortDate } from '#core/time/say.ts';
import { ButtonLink } from '#web/kit/Button.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk, useMe } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

const TurnUp = lazy(() => import('./TurnUp.tsx'));

/** What the history shows: past events with who registered and who came. */
export default function Records() {
  const events = useAsk('GET /api/events');
  const navigate = useNavigate();
  const roles = useMe().data?.staff.roles ?? [];
  const maySegment = roles.some((r) => ['coordinator', 'treasurer', 'crew lead'].includes(r));
  const { now } = useSaying();
  const columns: Column<SeasonEvent>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: 'Date',
      width: '110px',
      sortBy: (e) => e.startsAt ?? '',
      cell: (e) => e.startsLocal && `${sayShortDate(e.startsLocal)} ${e.startsLocal.slice(0, 4)}`,
    },
    {
      id: 'title',
      phone: 'title',
      heading: 'Event',
      sortBy: (e) => e.title.toLowerCase(),
      cell: (e) => <span className="name">{e.title}</span>,
    },
    { id: 'unit', phone: 'hidden', heading: 'Unit', sortBy: (e) => e.unit ?? '', cell: (e) => e.unit },
    {
      id: 'capacity',
      heading: 'Capacity',
      number: true,
      sortBy: (e) => e.capacity ?? 0,
      cell: (e) => e.capacity ?? '',
    },
    {
      id: 'seats',
      heading: 'Registered',
      number: true,
      sortBy: (e) => e.confirmed,
      cell: (e) => e.confirmed,
    },
    { id: 'came', heading: 'Came', number: true, sortBy: (e) => e.arrived, cell: (e) => e.arrived },
    {
      id: 'share',
      heading: 'Of those',
      number: true,
      sortBy: (e) => share(e),
      cell: (e) => (e.confirmed ? `${Math.round(share(e) * 100)} %` : ''),
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>Records</h1>
        {maySegment && <ButtonLink to="/records/segments">Segments</ButtonLink>}
      </div>
      <Loaded of={events}>
        {(all) => {
          const past = all
            .filter((e) => !e.isTemplate && e.startsAt && e.startsAt < now && e.state !== 'called off')
            .reverse();
          const registered = past.reduce((sum, e) => sum + e.confirmed, 0);
          const came = past.reduce((sum, e) => sum + e.arrived, 0);
          return (
            <>
              {past.length > 3 && (
                <Suspense fallback={<chakra.div height="220px" />}>
                  <TurnUp events={past} />
                </Suspense>
              )}
              <Table
                label="Past events"
                rows={past}
                columns={columns}
                keyOf={(e) => e.id}
                open={(e) => navigate(`/events/${e.id}/wrap-up`)}
                total={[
                  `${past.length} events`,
                  '',
                  '',
                  '',
                  registered,
                  came,
                  registered ? `${Math.round((came / registered) * 100)} %` : '',
                ]}
                empty="Past events are compared here, once there are some."
                height="56vh"
              />
            </>
          );
        }}
      </Loaded>
    </div>
  );
}

const share = (e: SeasonEvent): number => (e.confirmed ? e.arrived / e.confirmed : 0);
