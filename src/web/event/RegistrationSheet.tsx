import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { RegistrationRow } from '#contract/registration.ts';
import { listedName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { HealthNotes } from '../parts/HealthNotes.tsx';
import { MoneyBar, Ring, Seats, Signature } from '../parts/marks.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { AddRegistration } from './AddRegistration.tsx';

const filters = {
  everyone: {
    label: 'Everyone',
    of: (r: RegistrationRow) => ['confirmed', 'held', 'offered', 'asked'].includes(r.state),
  },
  waiver: {
    label: 'Waiver missing',
    of: (r: RegistrationRow) => r.waiver === 'self' || r.waiver === 'guardian',
  },
  owes: { label: 'Owes', of: (r: RegistrationRow) => r.balance > 0 && r.state === 'confirmed' },
  back: { label: 'To pay back', of: (r: RegistrationRow) => r.balance < 0 },
  waiting: {
    label: 'Waitlist',
    of: (r: RegistrationRow) => r.state === 'waitlisted' || r.state === 'offered',
  },
  gone: {
    label: 'Withdrawn',
    of: (r: RegistrationRow) => ['withdrawn', 'lapsed', 'declined'].includes(r.state),
  },
} as const;
type Filter = keyof typeof filters;

/** Who has a seat, who waits, what is missing. */
export default function RegistrationSheet({ page }: { page: EventPage }) {
  const registrations = useAsk('GET /api/events/:id/registrations', { params: { id: page.id } });
  const { money, day } = useSaying();
  const [filter, setFilter] = useState<Filter>('everyone');
  const [chosen, setChosen] = useState<RegistrationRow | null>(null);
  const [adding, setAdding] = useState(false);
  const change = page.may.change.includes('registration');
  const offer = useAction('POST /api/orders/:id/offer', () => say('Offered; the message is on its way'));
  const columns: Column<RegistrationRow>[] = [
    {
      id: 'who',
      heading: 'Who',
      sortBy: (r) => listedName(r).toLowerCase(),
      cell: (r) => (
        <>
          <Person id={r.contactId} name={listedName(r)} />
          {r.buyer !== `${r.given} ${r.family}` && <small className="soft"> by {r.buyer}</small>}
        </>
      ),
    },
    { id: 'offer', phone: 'bare', heading: 'Offer', sortBy: (r) => r.offer, cell: (r) => r.offer },
    {
      id: 'state',
      phone: 'bare',
      heading: 'State',
      sortBy: (r) => r.state,
      cell: (r) =>
        r.attendance && r.attendance !== 'expected' ? (
          <Ring state={r.attendance} />
        ) : (
          <span className={r.state === 'confirmed' ? '' : 'need'}>
            {r.state}
            {r.queuePlace ? ` ${r.queuePlace}` : ''}
          </span>
        ),
    },
    {
      id: 'waiver',
      phone: 'bare',
      heading: 'Waiver',
      sortBy: (r) => r.waiver,
      cell: (r) => <Signature standing={r.waiver} />,
    },
    {
      id: 'paid',
      phone: 'bare',
      heading: 'Paid',
      sortBy: (r) => r.received,
      cell: (r) => (
        <MoneyBar received={r.received} due={r.due} words={`${money(r.received)} of ${money(r.due)}`} />
      ),
    },
    {
      id: 'answers',
      phone: 'hidden',
      heading: 'Answers',
      cell: (r) => <span className="soft">{r.answers.map((a) => a.value).join('; ')}</span>,
    },
    {
      id: 'since',
      phone: 'hidden',
      heading: 'Since',
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
                  ? `${confirmed} seats confirmed`
                  : `${confirmed} of ${capacity} seats confirmed`}
              </h2>
              <chakra.span className="soft num" fontSize="13.5px">
                {[
                  held && `${held} held`,
                  capacity !== null && `${free} free`,
                  waiting.length > 0 &&
                    `${waiting.reduce((n, p) => n + p.seats, 0)} people waitlisted in ${waiting.length} ${waiting.length === 1 ? 'party' : 'parties'}`,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </chakra.span>
            </div>
            <Seats confirmed={confirmed} held={held} waitlisted={count('waitlisted')} free={free} />
            <Problems of={offer.problem} />
            {waiting.length > 0 && filter === 'waiting' && (
              <chakra.ul className="lines" marginBottom="8px">
                {waiting.map((p, at) => (
                  <li key={p.orderId} className="spread">
                    <span>
                      <span className="num soft">{at + 1}</span> <span className="name">{p.name}</span>,{' '}
                      {p.seats} {p.seats === 1 ? 'seat' : 'seats'}, since {day(p.since)}{' '}
                      <span className="soft">{p.fits}</span>
                    </span>
                    {p.fits === 'fits' && change && (
                      <Button
                        disabled={offer.isPending}
                        onClick={() => offer.mutate({ params: { id: p.orderId } })}
                      >
                        Offer the seats
                      </Button>
                    )}
                  </li>
                ))}
              </chakra.ul>
            )}
            <div className="tools">
              {(Object.keys(filters) as Filter[]).map((f) => (
                <button
                  key={f}
                  type="button"
                  className="chip"
                  aria-pressed={filter === f}
                  onClick={() => setFilter(f)}
                >
                  {filters[f].label} {rows.filter(filters[f].of).length}
                </button>
              ))}
              <chakra.span className="acts" marginLeft="auto">
                {['open', 'closed'].includes(page.state) && change && (
                  <Button data-new title="Add somebody (n)" onClick={() => setAdding(true)}>
                    Add registration
                  </Button>
                )}
                <ButtonAnchor href={addressOf('GET /api/events/:id/registrations.csv', { id: page.id })}>
                  Export
                </ButtonAnchor>
              </chakra.span>
            </div>
            <Table
              label="Registrations"
              rows={shown}
              columns={columns}
              keyOf={(r) => r.id}
              open={setChosen}
              empty={
                rows.length === 0
                  ? 'Nobody has registered yet. The public page is the way in.'
                  : 'Nobody of this kind.'
              }
              total={[
                `${shown.length} seats`,
                '',
                '',
                `${shown.filter((r) => r.waiver === 'signed').length} signed`,
                '',
                '',
                '',
              ]}
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

/** One seat: why it is linked as it is, its answers, and what can be done with it. */
function Seat({ row, page, close }: { row: RegistrationRow; page: EventPage; close: () => void }) {
  const roles = useMe().data?.staff.roles ?? [];
  const change = page.may.change.includes('registration');
  const treasures = roles.includes('coordinator') || roles.includes('treasurer');
  const { money } = useSaying();
  const withdraw = useAction('POST /api/registrations/:id/withdraw', ({ offered }) => {
    say(offered.length ? `Withdrawn; the seats are offered to ${offered.join(', ')}` : 'Withdrawn');
    close();
  });
  const refund = useAction('POST /api/orders/:id/refunds', () => say('Paid back'));
  const pay = useAction('POST /api/orders/:id/payments', () => say('Recorded'));
  const [sure, setSure] = useState(false);
  const live = ['confirmed', 'held', 'offered', 'waitlisted'].includes(row.state);
  const over = -row.balance;
  return (
    <Asking
      open
      close={close}
      title={`${row.given} ${row.family}`.trim() || 'Guest to be named'}
      actions={
        <>
          {live && !sure && change && row.attendance !== 'arrived' && (
            <Button look="stop" onClick={() => setSure(true)}>
              Withdraw this seat
            </Button>
          )}
          {sure && (
            <Button
              look="stop"
              disabled={withdraw.isPending}
              onClick={() => withdraw.mutate({ params: { id: row.id }, body: {} })}
            >
              Yes, withdraw it; a freed seat is offered on at once
            </Button>
          )}
          {row.state === 'confirmed' && row.balance > 0 && (change || treasures) && (
            <Button
              disabled={pay.isPending}
              onClick={() =>
                pay.mutate({ params: { id: row.orderId }, body: { method: 'cash', amount: row.balance } })
              }
            >
              {money(row.balance)} received in cash
            </Button>
          )}
          {over > 0 && treasures && (
            <Button
              disabled={refund.isPending}
              onClick={() =>
                refund.mutate({
                  params: { id: row.orderId },
                  body: { amount: over, reason: 'seats given up' },
                })
              }
            >
              Pay {money(over)} back
            </Button>
          )}
        </>
      }
    >
      <Problems of={withdraw.problem ?? refund.problem ?? pay.problem} />
      <p>
        {row.offer}, {row.state}
        {row.attendance && row.state === 'confirmed' && `, ${row.attendance}`} · order {row.orderNumber},
        booked by {row.buyer}
      </p>
      <p className="soft">
        Paid {money(row.received)} of {money(row.due)} for the whole order
      </p>
      {row.linkReasons.length > 0 && (
        <p className="soft">Linked to the contact: {row.linkReasons.join('; ')}</p>
      )}
      {row.answers.map((a) => (
        <p key={a.question}>
          <span className="soft">{a.question}</span> {a.value}
        </p>
      ))}
      {row.care && <Care id={row.id} />}
    </Asking>
  );
}

/** What is known about health, shown when it is asked for: that it was read is written down. */
function Care({ id }: { id: string }) {
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <p>
        <Button onClick={() => setAsked(true)}>Show health and needs</Button>{' '}
        <small className="soft">It is written down who read this.</small>
      </p>
    );
  return <HealthNotes registrationId={id} />;
}
