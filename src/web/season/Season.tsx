import { chakra } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { eventStates } from '#core/events/states.ts';
import { clashesOf } from '#core/season/clashes.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { Filters as Narrowing } from '../kit/Filters.tsx';
import { InlineChoice, InlineText } from '../kit/Inline.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk, useMe } from '../parts/ask.ts';
import { KindMark } from '../parts/KindMark.tsx';
import { StateWord } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';
import { Begin } from './Begin.tsx';
import { Ribbon } from './Ribbon.tsx';
import { SeasonMonth } from './SeasonMonth.tsx';
import { narrowed, type SeasonAddress, saySeats, stageFor, usualSeason } from './seasonAddress.ts';

const views = {
  coming: phrase('common.coming'),
  past: phrase('season.past'),
  undated: phrase('season.withoutADate'),
  all: phrase('season.all'),
  templates: phrase('season.templates'),
  shelved: phrase('common.shelved'),
} as const;

type View = keyof typeof views;
const forms = {
  ribbon: phrase('season.asRibbon'),
  month: phrase('season.asMonth'),
  list: phrase('season.asList'),
} as const;
type Form = keyof typeof forms;

/** Every event of the organization. */
export default function Season() {
  const events = useAsk('GET /api/events');
  const navigate = useNavigate();
  const { now, today } = useSaying();
  const [address, put] = useAddress(usualSeason);
  const holidays = useAsk('GET /api/choices').data?.holidays ?? [];
  const view: View = address.show in views ? (address.show as View) : 'coming';
  const [beginning, setBeginning] = useState(false);
  const mayPlan = useMe().data?.staff.roles.some((r) => r === 'coordinator' || r === 'unit lead') ?? false;
  const columns: Column<SeasonEvent>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: phrase('common.date'),
      width: '170px',
      sortBy: (e) => (e.startsAt ? e.startsAt : 'z'),
      cell: (e) =>
        e.startsLocal ? (
          `${sayShortDate(e.startsLocal, true)} ${e.startsLocal.slice(0, 4)}, ${sayTime(e.startsLocal)}`
        ) : (
          <span className="soft">{phrase('season.noDateYet')}</span>
        ),
    },
    {
      id: 'title',
      phone: 'title',
      heading: phrase('common.event'),
      sortBy: (e) => e.title.toLowerCase(),
      cell: (e) => (
        <>
          <span className="name">
            <KindMark mark={e.mark} />
            {e.title}
          </span>
          {e.seriesId && mayPlan && e.see.includes('plan') && (
            <TextLink
              to={`/season/series/${e.seriesId}`}
              color="soft"
              fontSize="13px"
              marginLeft="8px"
              onClick={(event) => event.stopPropagation()}
            >
              {phrase('season.partOfSeries')}
            </TextLink>
          )}
        </>
      ),
    },
    {
      id: 'unit',
      phone: 'hidden',
      heading: phrase('common.unit'),
      sortBy: (e) => e.unit ?? '',
      cell: (e) => e.unit,
    },
    {
      id: 'venue',
      phone: 'bare',
      heading: phrase('common.place'),
      sortBy: (e) => e.venue ?? '',
      cell: (e) => e.venue,
    },
    {
      id: 'state',
      phone: 'bare',
      heading: phrase('common.state'),
      sortBy: (e) => e.state,
      cell: (e) => <StateWord state={e.isTemplate ? 'template' : e.state} />,
    },
    {
      id: 'seats',
      heading: phrase('common.seats'),
      number: true,
      sortBy: (e) => e.confirmed,
      cell: (e) => saySeats(e),
    },
    {
      id: 'waiting',
      heading: phrase('season.waiting'),
      number: true,
      sortBy: (e) => e.waitlisted,
      cell: (e) => e.waitlisted || '',
    },
    {
      id: 'came',
      heading: phrase('common.came'),
      number: true,
      sortBy: (e) => e.arrived,
      cell: (e) => e.arrived || '',
    },
    {
      id: 'again',
      phone: 'bare',
      heading: '',
      cell: (e) =>
        mayPlan &&
        e.see.includes('plan') && (
          <Button look="link" color="verdigris" onClick={() => put({ again: e.id })}>
            {phrase(e.isTemplate ? 'season.beginFromIt' : 'season.planItAgain')}
          </Button>
        ),
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.season')}</h1>
        {mayPlan && (
          <Button
            look="main"
            data-new
            title={phrase('season.planAnEventN')}
            onClick={() => setBeginning(true)}
          >
            {phrase('season.planAnEvent')}
          </Button>
        )}
      </div>
      <Loaded of={events}>
        {(all) => {
          const some = narrowed(all, address);
          const shelved = some.filter((e) => !e.isTemplate && e.state === 'shelved');
          const real = some.filter((e) => !e.isTemplate && e.state !== 'shelved');
          const of = {
            coming: real.filter((e) => e.startsAt && e.startsAt >= now),
            past: real.filter((e) => e.startsAt && e.startsAt < now).reverse(),
            undated: real.filter((e) => !e.startsAt),
            all: real,
            templates: some.filter((e) => e.isTemplate),
            shelved,
          };
          return (
            <>
              <Filters events={all} address={address} put={put} />
              <Picture
                events={real}
                address={address}
                put={put}
                holidays={holidays}
                now={now}
                today={today}
              />
              <div className="tools">
                <ListViews
                  label={phrase('common.show')}
                  value={view}
                  set={(to) => put({ show: to })}
                  views={(Object.keys(views) as View[]).map((v) => ({
                    value: v,
                    label: views[v],
                    count: of[v].length,
                  }))}
                />
                <TableColumns name="season" columns={columns} />
              </div>
              <Table
                label={phrase('common.events')}
                name="season"
                rows={of[view]}
                columns={columns}
                keyOf={(e) => e.id}
                open={(e) => {
                  const to = stageFor(e, now);
                  if (to) void navigate(to);
                }}
                empty={phrase(view === 'templates' ? 'season.noTemplateYet' : 'season.noEventHerePlan')}
              />
              {(beginning || address.again || address.begin) && (
                <Begin
                  events={all}
                  from={address.again || null}
                  close={() => {
                    setBeginning(false);
                    put({ again: '', begin: '' });
                  }}
                />
              )}
            </>
          );
        }}
      </Loaded>
    </div>
  );
}

/** The year as a ribbon, or a month of it; nothing where somebody wants the list alone. */
function Picture({
  events,
  address,
  ...rest
}: {
  events: readonly SeasonEvent[];
  address: SeasonAddress;
  put: (part: Partial<SeasonAddress>) => void;
  holidays: readonly string[];
  now: string;
  today: string;
}) {
  // What is over is at odds with nothing any more.
  const clashes = useMemo(
    () =>
      clashesOf(events.filter((e) => e.state !== 'called off' && e.endsAt !== null && e.endsAt > rest.now)),
    [events, rest.now],
  );
  if (address.form === 'list') return null;
  const form = { events, address, clashes, ...rest };
  return address.form === 'month' ? <SeasonMonth {...form} /> : <Ribbon {...form} />;
}

/** What all of Season is narrowed to, and how it is shown. */
function Filters({
  events,
  address,
  put,
}: {
  events: readonly SeasonEvent[];
  address: SeasonAddress;
  put: ReturnType<typeof useAddress<SeasonAddress>>[1];
}) {
  const names = (of: (e: SeasonEvent) => string | null) =>
    [...new Set(events.map(of).filter((n): n is string => Boolean(n)))]
      .sort((a, b) => a.localeCompare(b))
      .map((value) => ({ value, label: value }));
  const narrow = (['q', 'unit', 'venue', 'kind', 'state'] as const).filter((n) => address[n]);
  const form: Form = address.form in forms ? (address.form as Form) : 'ribbon';
  return (
    <chakra.div display="flex" flexWrap="wrap" gap="8px" alignItems="center" margin="4px 0 2px">
      <ListViews
        label={phrase('season.form')}
        value={form}
        set={(to) => put({ form: to })}
        views={(Object.keys(forms) as Form[]).map((value) => ({ value, label: forms[value] }))}
      />
      <Narrowing inUse={narrow.length}>
        <InlineText
          label={phrase('season.search')}
          placeholder={phrase('season.search')}
          width="150px"
          value={address.q}
          set={(q) => put({ q }, { typed: true })}
        />
        <InlineChoice
          label={phrase('common.unit')}
          value={address.unit}
          set={(unit) => put({ unit })}
          empty={phrase('season.anyUnit')}
          choices={names((e) => e.unit)}
          maxWidth="170px"
        />
        <InlineChoice
          label={phrase('common.place')}
          value={address.venue}
          set={(venue) => put({ venue })}
          empty={phrase('season.anyVenue')}
          choices={names((e) => e.venue)}
          maxWidth="170px"
        />
        <InlineChoice
          label={phrase('season.kind')}
          value={address.kind}
          set={(kind) => put({ kind })}
          empty={phrase('season.anyKind')}
          choices={names((e) => e.category)}
          maxWidth="150px"
        />
        <InlineChoice
          label={phrase('common.state')}
          value={address.state}
          set={(state) => put({ state })}
          empty={phrase('season.anyState')}
          choices={eventStates.map((value) => ({ value, label: term(value) }))}
          maxWidth="150px"
        />
      </Narrowing>
      {narrow.length > 0 && (
        <Button
          look="link"
          onClick={() => put(Object.fromEntries(narrow.map((n) => [n, ''])) as Partial<SeasonAddress>)}
        >
          {phrase('season.showAllAgain')}
        </Button>
      )}
    </chakra.div>
  );
}
