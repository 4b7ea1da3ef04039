import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useMemo, useState } from 'react';
import type { EventPage } from '#contract/events.ts';
import type { RegistrationRow } from '#contract/seats.ts';
import {
  type Condition,
  comparisonsOf,
  everySeat,
  narrowed,
  type SeatFilter,
} from '#core/seats/narrowing.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { type Answer, addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Menu, type MenuEntry } from '#web/kit/Menu.tsx';
import { NothingFound } from '#web/kit/NothingFound.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { Table } from '#web/kit/Table.tsx';
import { TableColumns } from '#web/kit/TableColumns.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useAsk, useMe } from '#web/parts/ask.ts';
import { Seats } from '#web/parts/marks.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { AddRegistration } from './AddRegistration.tsx';
import { BringIn } from './BringIn.tsx';
import { ChosenSeats } from './ChosenSeats.tsx';
import { Conditions } from './Conditions.tsx';
import {
  conditionsOf,
  isQuickView,
  narrowColumns,
  type QuickView,
  quickViews,
  readConditions,
} from './narrowing.ts';
import { Papers } from './Papers.tsx';
import { Queue } from './Queue.tsx';
import { Seat } from './Seat.tsx';
import { SeatViews } from './SeatViews.tsx';
import { Sources } from './Sources.tsx';
import { seatColumns, usuallyHidden } from './seatColumns.tsx';
import { Waiting } from './Waiting.tsx';

const usual = { show: 'everyone', q: '', where: '' };
const labels: Record<QuickView, string> = {
  everyone: phrase('event.everyone'),
  waiver: phrase('event.waiverMissing'),
  owes: phrase('event.owes'),
  back: phrase('event.toPayBack'),
  waiting: phrase('event.waitlist'),
  gone: phrase('event.withdrawn'),
  all: phrase('seats.everything'),
};

/** Who has a seat, who waits, what is missing; and what is done about it. */
export default function RegistrationSheet({ page }: { page: EventPage }) {
  const registrations = useAsk('GET /api/events/:id/registrations', { params: { id: page.id } });
  return <Loaded of={registrations}>{(answer) => <Sheet page={page} {...answer} />}</Loaded>;
}

type Registrations = Answer<'GET /api/events/:id/registrations'>;

function Sheet({ page, rows, questions, capacity, waiting }: Registrations & { page: EventPage }) {
  const saying = useSaying();
  const country = useMe().data?.organization.country ?? 'CA';
  const [address, put] = useAddress(usual);
  const view: QuickView = isQuickView(address.show) ? address.show : 'everyone';
  const conditions = useMemo(() => readConditions(address.where), [address.where]);
  const q = useDeferredValue(address.q);
  const [open, setOpen] = useState<RegistrationRow | null>(null);
  const [adding, setAdding] = useState(false);
  const [printing, setPrinting] = useState(false);
  const [linking, setLinking] = useState(false);
  const [bringing, setBringing] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const change = page.may.change.includes('registration');
  const zone = page.plan.zone;
  const filter: SeatFilter = useMemo(
    () => ({ q, conditions: [...conditionsOf(view), ...conditions] }),
    [q, view, conditions],
  );
  const { shown, counts, columns } = useMemo(() => {
    const dayOf = (at: string) => dateOf(at, zone);
    const by = (name: QuickView) =>
      narrowed(rows, { ...everySeat, conditions: conditionsOf(name) }, dayOf).length;
    return {
      shown: narrowed(rows, filter, dayOf),
      counts: Object.fromEntries((Object.keys(quickViews) as QuickView[]).map((name) => [name, by(name)])),
      columns: narrowColumns(rows, questions, dayOf),
    };
  }, [rows, questions, filter, zone]);
  const shownColumns = seatColumns(shown, questions, saying, country);
  const setConditions = (to: readonly Condition[]) => put({ where: to.length ? JSON.stringify(to) : '' });
  const narrow = conditions.length > 0 || address.q !== '';
  const chosenRows = rows.filter((r) => chosen.has(r.id));

  const isThere = (entry: MenuEntry | false): entry is MenuEntry => entry !== false;
  /** What is done seldom stands in a menu; where there is no room, the files too. */
  const ways = [
    page.state === 'open' && change && { label: phrase('seats.bringIn'), run: () => setBringing(true) },
    Boolean(page.plan.slug) && { label: phrase('seats.sources'), run: () => setLinking(true) },
  ].filter(isThere);
  const files = [
    shown.length > 0 && { label: phrase('seats.papers'), run: () => setPrinting(true) },
    {
      label: phrase('event.export', { n: shown.length }),
      run: () =>
        window.location.assign(
          addressOf(
            'GET /api/events/:id/registrations.csv',
            { id: page.id },
            { only: JSON.stringify(filter) },
          ),
        ),
    },
  ].filter(isThere);
  const count = (...states: string[]) => rows.filter((r) => states.includes(r.state)).length;
  const confirmed = count('confirmed');
  const held = count('held', 'offered');
  const free = capacity === null ? 0 : Math.max(0, capacity - confirmed - held);
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
          {files.map((m) => (
            <Button key={m.label} hideBelow="md" onClick={m.run}>
              {m.label}
            </Button>
          ))}
          <chakra.span hideBelow="md">
            <Menu end trigger={<Button look="plain">{phrase('seats.more')}</Button>} entries={ways} />
          </chakra.span>
          <chakra.span hideFrom="md">
            <Menu
              end
              trigger={<Button look="plain">{phrase('seats.more')}</Button>}
              entries={[...ways, ...files]}
            />
          </chakra.span>
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
      {waiting.length > 0 && view === 'waiting' && <Waiting waiting={waiting} page={page} />}
      <div className="tools">
        <ListViews
          label={phrase('common.show')}
          value={view}
          set={(to) => put({ show: to })}
          views={(Object.keys(quickViews) as QuickView[]).map((name) => ({
            value: name,
            label: labels[name],
            count: counts[name],
          }))}
        />
      </div>
      <div className="tools">
        <InlineText
          label={phrase('seats.search')}
          placeholder={phrase('seats.search')}
          width="250px"
          value={address.q}
          set={(text) => put({ q: text }, { typed: true })}
        />
        <Button
          onClick={() =>
            setConditions([
              ...conditions,
              { column: columns[0]!.id, is: comparisonsOf[columns[0]!.kind][0]!, values: [] },
            ])
          }
          disabled={!columns.length}
        >
          {phrase('seats.condition')}
        </Button>
        {narrow && (
          <Button look="link" onClick={() => put({ q: '', where: '' })}>
            {phrase('seats.clear')}
          </Button>
        )}
        <SeatViews
          eventId={page.id}
          filter={filter}
          mayShare={change}
          open={(kept) => put({ show: 'all', q: kept.q, where: JSON.stringify(kept.conditions) })}
        />
        <TableColumns name="registrations" columns={shownColumns} usuallyHidden={usuallyHidden} />
        {narrow && (
          <span className="soft num">{phrase('seats.nShown', { n: shown.length, all: rows.length })}</span>
        )}
      </div>
      {conditions.length > 0 && <Conditions columns={columns} conditions={conditions} set={setConditions} />}
      {chosenRows.length > 0 && change && (
        <ChosenSeats rows={chosenRows} page={page} clear={() => setChosen(new Set())} />
      )}
      <Table
        label={phrase('event.registrations')}
        name="registrations"
        usuallyHidden={usuallyHidden}
        rows={shown}
        columns={shownColumns}
        keyOf={(r) => r.id}
        open={setOpen}
        {...(change ? { choosing: { chosen, choose: setChosen } } : {})}
        empty={
          rows.length === 0 ? (
            phrase('event.nobodyHasRegisteredYet')
          ) : (
            <NothingFound
              ways={[
                {
                  label: phrase('event.showEveryone'),
                  run: () => put({ show: 'everyone', q: '', where: '' }),
                },
              ]}
            >
              {phrase('event.nobodyOfThisKind')}
            </NothingFound>
          )
        }
      />
      {open && (
        <Seat
          row={rows.find((r) => r.id === open.id) ?? open}
          questions={questions}
          page={page}
          close={() => setOpen(null)}
        />
      )}
      {adding && <AddRegistration page={page} close={() => setAdding(false)} />}
      {printing && <Papers rows={shown} page={page} filter={filter} close={() => setPrinting(false)} />}
      {bringing && <BringIn page={page} close={() => setBringing(false)} />}
      {linking && <Sources page={page} close={() => setLinking(false)} />}
    </>
  );
}
