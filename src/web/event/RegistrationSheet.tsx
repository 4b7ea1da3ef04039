import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { RegistrationRow } from '#contract/registration.ts';
import { listedName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk } from '../parts/ask.ts';
import { MoneyBar, Ring, Seats, Signature } from '../parts/marks.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { AddRegistration } from './AddRegistration.tsx';
import { Queue } from './Queue.tsx';
import { Seat } from './Seat.tsx';
import { Waiting } from './Waiting.tsx';

const filters = {
  everyone: {
    label: phrase('event.everyone'),
    of: (r: RegistrationRow) => ['confirmed', 'held', 'offered'].includes(r.state),
  },
  waiver: {
    label: phrase('event.waiverMissing'),
    of: (r: RegistrationRow) => r.waiver === 'self' || r.waiver === 'guardian',
  },
  owes: { label: phrase('event.owes'), of: (r: RegistrationRow) => r.balance > 0 && r.state === 'confirmed' },
  back: { label: phrase('event.toPayBack'), of: (r: RegistrationRow) => r.balance < 0 },
  waiting: {
    label: phrase('event.waitlist'),
    of: (r: RegistrationRow) => r.state === 'waitlisted' || r.state === 'offered',
  },
  gone: {
    label: phrase('event.withdrawn'),
    of: (r: RegistrationRow) => ['withdrawn', 'lapsed', 'declined'].includes(r.state),
  },
} as const;
type Filter = keyof typeof filters;
const usual = { show: 'everyone' };

/** Who has a seat, who waits, what is missing. */
export default function RegistrationSheet({ page }: { page: EventPage }) {
  const registrations = useAsk('GET /api/events/:id/registrations', { params: { id: page.id } });
  const { money, day } = useSaying();
  const [address, put] = useAddress(usual);
  const filter: Filter = address.show in filters ? (address.show as Filter) : 'everyone';
  const [chosen, setChosen] = useState<RegistrationRow | null>(null);
  const [adding, setAdding] = useState(false);
  const change = page.may.change.includes('registration');
  const columns: Column<RegistrationRow>[] = [
    {
      id: 'who',
      heading: phrase('common.who'),
      sortBy: (r) => listedName(r).toLowerCase(),
      cell: (r) => (
        <>
          <Person id={r.contactId} name={listedName(r)} />
          {r.buyer !== `${r.given} ${r.family}` && (
            <small className="soft"> {phrase('event.by', { buyer: r.buyer })}</small>
          )}
        </>
      ),
      total: (shown) => phrase('event.nSeats', { n: shown.length }),
    },
    {
      id: 'offer',
      phone: 'bare',
      heading: phrase('common.offer'),
      sortBy: (r) => r.offer,
      cell: (r) => r.offer,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('common.state'),
      sortBy: (r) => r.state,
      cell: (r) =>
        r.attendance && r.attendance !== 'expected' ? (
          <Ring state={r.attendance} />
        ) : (
          <span className={r.state === 'confirmed' ? '' : 'need'}>
            {term(r.state)}
            {r.queuePlace ? ` ${r.queuePlace}` : ''}
          </span>
        ),
    },
    {
      id: 'waiver',
      phone: 'bare',
      heading: phrase('event.waiver'),
      sortBy: (r) => r.waiver,
      cell: (r) => <Signature standing={r.waiver} />,
      total: (shown) => phrase('event.nSigned', { n: shown.filter((r) => r.waiver === 'signed').length }),
    },
    {
      id: 'paid',
      phone: 'bare',
      heading: phrase('event.paid'),
      sortBy: (r) => r.received,
      cell: (r) => (
        <MoneyBar
          received={r.received}
          due={r.due}
          words={phrase('event.receivedOf', { received: money(r.received), due: money(r.due) })}
        />
      ),
    },
    {
      id: 'answers',
      phone: 'hidden',
      heading: phrase('event.answers'),
      cell: (r) => <span className="soft">{r.answers.map((a) => a.value).join('; ')}</span>,
    },
    {
      id: 'since',
      phone: 'hidden',
      heading: phrase('event.since'),
      number: true,
      sortBy: (r) => Date.parse(r.since),
      cell: (r) => <span className="soft">{day(r.since)}</span>,
    },
  ];
  return (
    <Loaded of={registrations}>
      {({ rows, capacity, waiting }) => {
        const count = (...states: string[]) => rows.filter((r) => states.includes(r.state)).length;
        const confirmed = count('confirmed');
        const held = count('held', 'offered');
        const free = capacity === null ? 0 : Math.max(0, capacity - confirmed - held);
        const shown = rows.filter(filters[filter].of);
        return (
          <>
            <div className="spread">
              <h2>
                {capacity === null
                  ? phrase('event.seatsConfirmed', { confirmed })
                  : phrase('event.ofSeatsConfirmed', { confirmed, capacity })}
              </h2>
              <div className="acts">
                {['open', 'closed'].includes(page.state) && change && (
                  <Button data-new title={phrase('common.addSomebodyN')} onClick={() => setAdding(true)}>
                    {phrase('event.addRegistration')}
                  </Button>
                )}
                <ButtonAnchor href={addressOf('GET /api/events/:id/registrations.csv', { id: page.id })}>
                  {phrase('event.export', { n: rows.length })}
                </ButtonAnchor>
              </div>
            </div>
            <chakra.p className="soft num" fontSize="13.5px">
              {[
                held && phrase('event.held', { held }),
                capacity !== null && phrase('event.free', { free }),
                waiting.length > 0 &&
                  phrase('event.peopleWaitlistedInParty', {
                    people: waiting.reduce((n, p) => n + p.seats, 0),
                    waiting: waiting.length,
                  }),
              ]
                .filter(Boolean)
                .join(' · ')}
            </chakra.p>
            <Seats confirmed={confirmed} held={held} waitlisted={count('waitlisted')} free={free} />
            <Queue page={page} />
            {waiting.length > 0 && filter === 'waiting' && <Waiting waiting={waiting} page={page} />}
            <div className="tools">
              <ListViews
                label={phrase('common.show')}
                value={filter}
                set={(to) => put({ show: to })}
                views={(Object.keys(filters) as Filter[]).map((f) => ({
                  value: f,
                  label: filters[f].label,
                  count: rows.filter(filters[f].of).length,
                }))}
              />
              <TableColumns name="registrations" columns={columns} />
            </div>
            <Table
              label={phrase('event.registrations')}
              name="registrations"
              rows={shown}
              columns={columns}
              keyOf={(r) => r.id}
              open={setChosen}
              empty={
                rows.length === 0 ? (
                  phrase('event.nobodyHasRegisteredYet')
                ) : (
                  <NothingFound
                    ways={[{ label: phrase('event.showEveryone'), run: () => put({ show: 'everyone' }) }]}
                  >
                    {phrase('event.nobodyOfThisKind')}
                  </NothingFound>
                )
              }
            />
            {chosen && (
              <Seat
                row={rows.find((r) => r.id === chosen.id) ?? chosen}
                page={page}
                close={() => setChosen(null)}
              />
            )}
            {adding && <AddRegistration page={page} close={() => setAdding(false)} />}
          </>
        );
      }}
    </Loaded>
  );
}
