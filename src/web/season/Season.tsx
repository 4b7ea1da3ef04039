import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
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

const views = {
  coming: phrase('common.coming'),
  past: phrase('season.past'),
  undated: phrase('season.withoutADate'),
  all: phrase('season.all'),
  templates: phrase('season.templates'),
  shelved: phrase('common.shelved'),
} as const;

type View = keyof typeof views;
/** `again` is the event that is to be planned again. */
const usual = { show: 'coming', again: '' };

/** Every event of the organization. */
export default function Season() {
  const events = useAsk('GET /api/events');
  const navigate = useNavigate();
  const { now } = useSaying();
  const [address, put] = useAddress(usual);
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
        <span className="name">
          <KindMark mark={e.mark} />
          {e.title}
        </span>
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
      cell: (e) =>
        e.see.length > 0 && `${e.confirmed + e.held}${e.capacity === null ? '' : `/${e.capacity}`}`,
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
          const shelved = all.filter((e) => !e.isTemplate && e.state === 'shelved');
          const real = all.filter((e) => !e.isTemplate && e.state !== 'shelved');
          const of = {
            coming: real.filter((e) => e.startsAt && e.startsAt >= now),
            past: real.filter((e) => e.startsAt && e.startsAt < now).reverse(),
            undated: real.filter((e) => !e.startsAt),
            all: real,
            templates: all.filter((e) => e.isTemplate),
            shelved,
          };
          return (
            <>
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
                open={(e) =>
                  e.see.length > 0 &&
                  navigate(
                    `/events/${e.id}/${e.state === 'draft' ? 'plan' : e.state === 'in clearance' ? 'clearance' : e.startsAt && e.startsAt < now ? 'wrap-up' : 'registration'}`,
                  )
                }
                empty={phrase(view === 'templates' ? 'season.noTemplateYet' : 'season.noEventHerePlan')}
              />
              {(beginning || address.again) && (
                <Begin
                  events={all}
                  from={address.again || null}
                  close={() => {
                    setBeginning(false);
                    put({ again: '' });
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
