import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { SeasonEvent } from '#contract/events.ts';
import { sayConsequence, sayShortDate, sayTime } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { StateWord } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';

const views = {
  coming: 'Coming',
  past: 'Past',
  undated: 'Without a date',
  all: 'All',
  shelved: 'Shelved',
} as const;

/** Every event of the organization. */
export default function Season() {
  const events = useAsk('GET /api/events');
  const navigate = useNavigate();
  const { now } = useSaying();
  const [view, setView] = useState<keyof typeof views>('coming');
  const [beginning, setBeginning] = useState(false);
  const mayPlan = useMe().data?.staff.roles.some((r) => r === 'coordinator' || r === 'unit lead') ?? false;
  const columns: Column<SeasonEvent>[] = [
    {
      id: 'date',
      phone: 'bare',
      heading: 'Date',
      width: '170px',
      sortBy: (e) => (e.startsAt ? e.startsAt : 'z'),
      cell: (e) =>
        e.startsLocal ? (
          `${sayShortDate(e.startsLocal, true)} ${e.startsLocal.slice(0, 4)}, ${sayTime(e.startsLocal)}`
        ) : (
          <span className="soft">no date yet</span>
        ),
    },
    {
      id: 'title',
      phone: 'title',
      heading: 'Event',
      sortBy: (e) => e.title.toLowerCase(),
      cell: (e) => <span className="name">{e.title}</span>,
    },
    { id: 'unit', phone: 'hidden', heading: 'Unit', sortBy: (e) => e.unit ?? '', cell: (e) => e.unit },
    { id: 'venue', phone: 'bare', heading: 'Place', sortBy: (e) => e.venue ?? '', cell: (e) => e.venue },
    {
      id: 'state',
      phone: 'bare',
      heading: 'State',
      sortBy: (e) => e.state,
      cell: (e) => <StateWord state={e.state} />,
    },
    {
      id: 'seats',
      heading: 'Seats',
      number: true,
      sortBy: (e) => e.confirmed,
      cell: (e) =>
        e.see.length > 0 && `${e.confirmed + e.held}${e.capacity === null ? '' : `/${e.capacity}`}`,
    },
    {
      id: 'waiting',
      heading: 'Waiting',
      number: true,
      sortBy: (e) => e.waitlisted,
      cell: (e) => e.waitlisted || '',
    },
    { id: 'came', heading: 'Came', number: true, sortBy: (e) => e.arrived, cell: (e) => e.arrived || '' },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>Season</h1>
        {mayPlan && (
          <Button look="main" data-new title="Plan an event (n)" onClick={() => setBeginning(true)}>
            Plan an event
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
            shelved,
          };
          return (
            <>
              <div className="tools">
                {(Object.keys(views) as (keyof typeof views)[]).map((v) => (
                  <button
                    key={v}
                    type="button"
                    className="chip"
                    aria-pressed={view === v}
                    onClick={() => setView(v)}
                  >
                    {views[v]} {of[v].length}
                  </button>
                ))}
              </div>
              <Table
                label="Events"
                rows={of[view]}
                columns={columns}
                keyOf={(e) => e.id}
                open={(e) =>
                  e.see.length > 0 &&
                  navigate(
                    `/events/${e.id}/${e.state === 'draft' ? 'plan' : e.state === 'in clearance' ? 'clearance' : e.startsAt && e.startsAt < now ? 'wrap-up' : 'registration'}`,
                  )
                }
                empty="No event here. Plan one: from a past event, a template, or nothing."
              />
              {beginning && <Begin events={all} close={() => setBeginning(false)} />}
            </>
          );
        }}
      </Loaded>
    </div>
  );
}

function Begin({ events, close }: { events: SeasonEvent[]; close: () => void }) {
  const navigate = useNavigate();
  const { today } = useSaying();
  const [from, setFrom] = useState('');
  const [title, setTitle] = useState('');
  const [date, setDate] = useState('');
  const begin = useAction('POST /api/events', ({ id }) => navigate(`/events/${id}/plan`));
  const source = events.find((e) => e.id === from);
  const past = events
    .filter((e) => !e.isTemplate && e.startsLocal)
    .sort((a, b) => (a.startsLocal! < b.startsLocal! ? 1 : -1));
  return (
    <Asking
      open
      close={close}
      title="Plan an event"
      actions={
        <Button
          look="main"
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate({ body: { publicTitle: title, from: from || null, date: date || null } })
          }
        >
          Begin
        </Button>
      }
    >
      <Problems of={begin.problem} />
      <ChoiceField
        label="Begin from"
        value={from}
        set={(id) => {
          setFrom(id);
          const chosen = events.find((e) => e.id === id);
          if (chosen && !title) setTitle(chosen.title);
        }}
        empty="nothing"
        choices={[
          ...events.filter((e) => e.isTemplate).map((e) => ({ value: e.id, label: `${e.title} (template)` })),
          ...past.map((e) => ({
            value: e.id,
            label: `${e.title}, ${sayShortDate(e.startsLocal!)} ${e.startsLocal!.slice(0, 4)}`,
          })),
        ]}
        help="A copy takes tickets, questions, shifts, messages, waiver and survey along."
      />
      <TextField
        label="Public title"
        value={title}
        set={setTitle}
        error={begin.problem?.fields.publicTitle}
      />
      {source && (
        <TextField
          label="Date"
          type="date"
          value={date}
          set={setDate}
          consequence={date ? sayConsequence(date, today) : 'Without a date nothing dated is taken along.'}
        />
      )}
    </Asking>
  );
}
