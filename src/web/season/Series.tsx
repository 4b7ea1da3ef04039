import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { type SeriesChanged, seriesContract } from '#contract/series.ts';
import { type Answer, call } from '#web/api.ts';
import { Button, TextLink } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { tellsNow } from '../event/changes/changeWords.ts';
import { LastChange } from '../event/changes/LastChange.tsx';
import { OffMoney } from '../event/changes/OffMoney.tsx';
import { fieldOfSettled, nothingSettled, settledTogether } from '../event/changes/settling.ts';
import { Together } from '../event/changes/Together.tsx';
import { useTold } from '../event/changes/useTold.ts';
import { fieldTitles } from '../event/plan/fieldWords.ts';
import { Form } from '../kit/form/Form.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { LongText } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { say } from '../kit/toast.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAction, useAsk } from '../parts/ask.ts';
import { StateWord } from '../parts/marks.tsx';
import { useSaying } from '../parts/saying.ts';
import { NextDates } from './NextDates.tsx';
import { Reshaping } from './Reshaping.tsx';
import { SeriesFields, sayDay } from './SeriesForm.tsx';
import { fieldOfSeries, proposedFor, type SeriesValues, settingsIn, valuesOf } from './seriesValues.ts';

type SeriesShown = Answer<'GET /api/series/:id'>;

/** A series: when it takes place, what dates that gives, and those that were made. */
export default function Series() {
  const { id = '' } = useParams();
  const event = useSearchParams()[0].get('event') ?? '';
  return id === 'new' ? <Begin eventId={event} /> : <Shown id={id} />;
}

/** The form on the left, what it gives on the right. */
const Beside = chakra('div', {
  base: {
    display: 'grid',
    gridTemplateColumns: { base: 'minmax(0, 1fr)', md: 'minmax(0, 560px) minmax(0, 340px)' },
    gap: { base: '26px', md: '56px' },
    alignItems: 'start',
    marginTop: '14px',
  },
});

function Begin({ eventId }: { eventId: string }) {
  const page = useAsk('GET /api/events/:id', { params: { id: eventId } });
  return (
    <div className="page">
      <Loaded of={page}>
        {({ plan, seriesId }) =>
          plan.startsLocal && !seriesId ? (
            <>
              <h1>{phrase('series.makeASeries', { title: plan.publicTitle })}</h1>
              <BeginForm eventId={eventId} startsLocal={plan.startsLocal} />
            </>
          ) : (
            <p>
              <TextLink to={seriesId ? `/season/series/${seriesId}` : `/events/${eventId}/plan`}>
                {phrase(seriesId ? 'series.toSeries' : 'event.plan')}
              </TextLink>
            </p>
          )
        }
      </Loaded>
    </div>
  );
}

function BeginForm({ eventId, startsLocal }: { eventId: string; startsLocal: string }) {
  const navigate = useNavigate();
  const form = useForm({
    values: proposedFor(startsLocal),
    request: (values: SeriesValues) =>
      prepare(seriesContract, 'POST /api/series', { body: { eventId, ...settingsIn(values) } }),
    fieldOf: fieldOfSeries,
    after: ({ id, made }) => {
      say(phrase('series.isMade', { n: made }));
      navigate(`/season/series/${id}`);
    },
  });
  return (
    <Beside>
      <Form form={form} submit={phrase('series.makeSeries')}>
        <SeriesFields form={form} dates={[]} />
      </Form>
      <NextDates form={form} of={{ kind: 'event', id: eventId }} />
    </Beside>
  );
}

function Shown({ id }: { id: string }) {
  const series = useAsk('GET /api/series/:id', { params: { id } });
  return (
    <div className="page">
      <Loaded of={series}>{(shown) => <Change key={shown.version} series={shown} />}</Loaded>
    </div>
  );
}

function Change({ series }: { series: SeriesShown }) {
  const { day } = useSaying();
  const [told, setTold] = useState<{ told: SeriesChanged; values: SeriesValues } | null>(null);
  const [callingOff, setCallingOff] = useState(false);
  const changeIn = (values: SeriesValues) => ({
    ...settingsIn(values),
    version: series.version,
    from: values.from || null,
  });
  const body = (values: SeriesValues) => ({ ...changeIn(values), decisions: [], words: '' });
  const isMade = (made: readonly string[]) => {
    setTold(null);
    say(made.length ? phrase('series.isSavedMade', { n: made.length }) : phrase('series.isSaved'));
  };
  const change = useAction('PATCH /api/series/:id', ({ made }) => isMade(made));
  const form = useForm({
    values: valuesOf(series),
    request: (values: SeriesValues) =>
      prepare(seriesContract, 'POST /api/series/:id/what-if', {
        params: { id: series.id },
        body: body(values),
      }),
    fieldOf: fieldOfSeries,
    // What becomes of dates that were made is decided first, where there is anything to decide.
    after: (followed, values) =>
      followed.fates.length
        ? setTold({ told: followed, values })
        : change.mutate({ params: { id: series.id }, body: body(values) }),
  });
  const coming = series.dates.filter((d) => d.coming && d.state !== 'called off' && d.state !== 'shelved');
  return (
    <>
      <div className="spread">
        <h1>{phrase('series.seriesOf', { title: series.title })}</h1>
        {coming.length > 0 && (
          <Button look="stop" onClick={() => setCallingOff(true)}>
            {phrase('series.callOffAll')}
          </Button>
        )}
      </div>
      <chakra.p color="soft">
        {phrase('series.said', { said: series.said })} {phrase('series.zone', { zone: series.zone })}{' '}
        {series.nextAt ? phrase('series.nextMade', { date: day(series.nextAt) }) : phrase('series.noMore')}
      </chakra.p>
      <Problems of={change.problem} />
      <LastChange of={series} eventId={series.patternId} may />
      <Beside>
        <Form form={form} submit={phrase('series.saveSeries')}>
          <SeriesFields form={form} dates={series.dates} />
        </Form>
        <NextDates form={form} of={{ kind: 'series', id: series.id }} />
      </Beside>
      <Dates series={series} />
      {told && (
        <Reshaping
          first={told.told}
          seriesId={series.id}
          zone={series.zone}
          body={changeIn(told.values)}
          close={() => setTold(null)}
          done={isMade}
        />
      )}
      {callingOff && <CallOff series={series} coming={coming} close={() => setCallingOff(false)} />}
    </>
  );
}

const usual = { show: 'coming' };

/** The dates that were made. */
function Dates({ series }: { series: SeriesShown }) {
  const navigate = useNavigate();
  const [address, put] = useAddress(usual);
  const view = address.show === 'past' ? 'past' : 'coming';
  const of = {
    coming: series.dates.filter((d) => d.coming),
    past: series.dates.filter((d) => !d.coming).reverse(),
  };
  const columns: Column<SeriesShown['dates'][number]>[] = [
    {
      id: 'date',
      heading: phrase('common.date'),
      width: '170px',
      phone: 'bare',
      sortBy: (d) => d.startsLocal ?? d.slot,
      cell: (d) => sayDay(d.startsLocal ?? d.slot),
    },
    {
      id: 'title',
      heading: phrase('common.event'),
      phone: 'title',
      sortBy: (d) => d.title,
      cell: (d) => <span className="name">{d.title}</span>,
    },
    {
      id: 'state',
      heading: phrase('common.state'),
      phone: 'bare',
      sortBy: (d) => d.state,
      cell: (d) => <StateWord state={d.state} />,
    },
    {
      id: 'people',
      heading: phrase('series.people'),
      number: true,
      sortBy: (d) => d.people,
      cell: (d) => d.people || '',
    },
    {
      id: 'own',
      heading: phrase('series.own'),
      phone: 'bare',
      cell: (d) => <span className="soft">{d.own.map((field) => fieldTitles[field]).join(', ')}</span>,
    },
  ];
  return (
    <chakra.section marginTop="34px">
      <div className="spread">
        <h2>{phrase('series.datesMade')}</h2>
        <ListViews
          label={phrase('series.datesMade')}
          value={view}
          set={(show) => put({ show })}
          views={[
            { value: 'coming', label: phrase('series.coming'), count: of.coming.length },
            { value: 'past', label: phrase('series.past'), count: of.past.length },
          ]}
        />
      </div>
      <Table
        label={phrase('series.datesMade')}
        rows={of[view]}
        columns={columns}
        keyOf={(d) => d.id}
        open={(d) => navigate(`/events/${d.id}/plan`)}
        empty={phrase('series.none')}
      />
    </chakra.section>
  );
}

/** Calls off all that is to come, and says first how many it concerns. */
function CallOff({
  series,
  coming,
  close,
}: {
  series: SeriesShown;
  coming: SeriesShown['dates'];
  close: () => void;
}) {
  const form = useForm({
    values: nothingSettled(true),
    request: (v) =>
      prepare(seriesContract, 'POST /api/series/:id/call-off', {
        params: { id: series.id },
        body: { from: null, words: v.words, settle: settledTogether(v) },
      }),
    fieldOf: fieldOfSettled,
    after: ({ calledOff, dropped }) => {
      close();
      say(phrase('series.isCalledOff', { n: calledOff, m: dropped }));
    },
  });
  const { told, busy, problem } = useTold(
    ['series off', series.id],
    { from: null, settle: settledTogether(form.values) },
    (body) => call('POST /api/series/:id/call-off/what-if', { params: { id: series.id }, body }),
    form.sending,
  );
  const tells = tellsNow(told?.letters);
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('series.callOffTitle')}
      submit={tells ? phrase('series.callOffAndTell', { count: tells }) : phrase('series.callOffNow')}
      look="stop"
      disabled={!told || busy || problem !== null}
      close={close}
    >
      <p>
        {phrase('series.callOffText', {
          dates: coming.length,
          people: coming.reduce((sum, d) => sum + d.people, 0),
        })}
      </p>
      <LongText form={form} name="words" label={phrase('series.words')} required rows={2} />
      {told?.money && <OffMoney form={form} money={told.money} />}
      <Together told={told} busy={busy} problem={problem} form={form} zone={series.zone} words={false} />
    </FormDialog>
  );
}
