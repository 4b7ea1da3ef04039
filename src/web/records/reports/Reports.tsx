import { useState } from 'react';
import { useNavigate } from 'react-router';
import { reportsContract } from '#contract/reports.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, DateField, OneOf, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { ReportPage } from './ReportPage.tsx';

type Summary = Answer<'GET /api/reports'>[number];

/** Reports to the board; one of them opened. */
export function Reports({ id }: { id: string }) {
  return id ? <ReportPage id={id} /> : <All />;
}

function All() {
  const [beginning, setBeginning] = useState(false);
  const navigate = useNavigate();
  const { dayAndYear } = useSaying();
  const columns: Column<Summary>[] = [
    {
      id: 'title',
      phone: 'title',
      heading: phrase('reports.name'),
      sortBy: (r) => r.title.toLowerCase(),
      cell: (r) => <span className="name">{r.title}</span>,
    },
    { id: 'about', heading: phrase('reports.about'), sortBy: (r) => r.about, cell: (r) => r.about },
    {
      id: 'changed',
      heading: phrase('reports.changed'),
      sortBy: (r) => r.changedAt,
      cell: (r) => dayAndYear(r.changedAt),
    },
    { id: 'by', heading: phrase('reports.by'), sortBy: (r) => r.madeBy, cell: (r) => r.madeBy },
  ];
  return (
    <>
      <div className="spread">
        <h2>{phrase('reports.title')}</h2>
        <Button look="main" data-new onClick={() => setBeginning(true)}>
          {phrase('reports.begin')}
        </Button>
      </div>
      <Loaded of={useAsk('GET /api/reports')}>
        {(all) => (
          <Table
            label={phrase('reports.title')}
            rows={all}
            columns={columns}
            keyOf={(r) => r.id}
            open={(r) => navigate(`/records?show=reports&id=${r.id}`)}
            empty={phrase('reports.none')}
          />
        )}
      </Loaded>
      {beginning && <Begin close={() => setBeginning(false)} />}
    </>
  );
}

/** Begins a report of one event, of a year, or of the time between two days. */
function Begin({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const { today, now } = useSaying();
  const events = (useAsk('GET /api/events').data ?? [])
    .filter(
      (e) =>
        !e.isTemplate && e.startsAt && e.startsAt < now && e.state !== 'called off' && e.state !== 'shelved',
    )
    .reverse();
  const units = useAsk('GET /api/choices').data?.units ?? [];
  const years = [...new Set(events.map((e) => e.startsLocal!.slice(0, 4)))];
  const thisYear = today.slice(0, 4);
  const form = useForm({
    values: {
      about: 'year',
      title: '',
      eventId: '',
      year: thisYear,
      from: `${thisYear}-01-01`,
      until: today,
      unitId: '',
    },
    request: ({ about, title, eventId, year, from, until, unitId }) => {
      const event = events.find((e) => e.id === eventId);
      return prepare(reportsContract, 'POST /api/reports', {
        body: {
          title:
            title.trim() ||
            (about === 'event'
              ? event
                ? phrase('reports.usualEventTitle', { event: event.title })
                : ''
              : about === 'year'
                ? phrase('reports.usualTitle', { year })
                : ''),
          eventId: about === 'event' ? eventId || null : null,
          from: about === 'event' ? null : about === 'year' ? `${year}-01-01` : from || null,
          until: about === 'event' ? null : about === 'year' ? `${year}-12-31` : until || null,
          unitId: about === 'event' ? null : unitId || null,
        },
      });
    },
    fieldOf: (path, { about }) => (path === 'from' && about === 'event' ? 'eventId' : path),
    after: ({ id }) => navigate(`/records?show=reports&id=${id}`),
  });
  const { about } = form.values;
  return (
    <FormDialog form={form} title={phrase('reports.begin')} submit={phrase('reports.beginDo')} close={close}>
      <OneOf
        form={form}
        name="about"
        label={phrase('reports.about')}
        choices={[
          { value: 'year', label: phrase('reports.aboutYear') },
          { value: 'event', label: phrase('reports.aboutEvent') },
          { value: 'days', label: phrase('reports.aboutDays') },
        ]}
      />
      {about === 'event' && (
        <Choose
          form={form}
          name="eventId"
          label={phrase('reports.event')}
          empty={phrase('reports.chooseEvent')}
          choices={events.map((e) => ({ value: e.id, label: `${e.title}, ${e.startsLocal!.slice(0, 10)}` }))}
        />
      )}
      {about === 'year' && (
        <Choose
          form={form}
          name="year"
          label={phrase('reports.year')}
          choices={[...new Set([thisYear, ...years])].map((y) => ({ value: y, label: y }))}
        />
      )}
      {about === 'days' && (
        <div className="pair">
          <DateField form={form} name="from" label={phrase('reports.from')} required />
          <DateField form={form} name="until" label={phrase('reports.until')} required />
        </div>
      )}
      {about !== 'event' && (
        <Choose
          form={form}
          name="unitId"
          label={phrase('reports.unit')}
          empty={phrase('reports.everyUnit')}
          choices={units.map((u) => ({ value: u.id, label: u.name }))}
        />
      )}
      <Text form={form} name="title" label={phrase('reports.name')} />
    </FormDialog>
  );
}
