import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { outcomesContract } from '#contract/outcomes.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import type { Doubt } from '#core/outcomes/tally.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { readTexts } from '#core/words/texts.ts';
import { addressOf } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Empty } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { type Shown, useDeciding } from './tallies.ts';

type Tally = Shown['tallies'][number];

const doubtWords: Readonly<Record<Doubt, string>> = {
  'looked at': phrase('outcomes.doubtLookedAt'),
  nobody: phrase('outcomes.doubtNobody'),
  'not there': phrase('outcomes.doubtNotThere'),
  'not theirs': phrase('outcomes.doubtNotTheirs'),
  much: phrase('outcomes.doubtMuch'),
  twice: phrase('outcomes.doubtTwice'),
};

/** Every tally of an event, to be counted, set aside and corrected. */
export function TallyLines({
  of,
  eventId,
  may,
  bare = false,
}: {
  of: Shown;
  eventId: string;
  may: boolean;
  /** Stands in something that says what it is. */
  bare?: boolean;
}) {
  const [correcting, setCorrecting] = useState<Tally | null>(null);
  const decide = useDeciding();
  const { at } = useSaying();
  const measures = new Map(of.measures.map((m) => [m.id, m]));
  const figure = (t: Tally) => {
    const measure = measures.get(t.measureId);
    return t.value === null || !measure ? t.thing : sayFigure(t.value, measure);
  };
  const columns: Column<Tally>[] = [
    {
      id: 'measure',
      phone: 'title',
      heading: phrase('outcomes.measure'),
      sortBy: (t) => measures.get(t.measureId)?.name.en ?? '',
      cell: (t) => (
        <span className="name">{readTexts(measures.get(t.measureId)?.name ?? { en: '' }, 'en')}</span>
      ),
    },
    {
      id: 'figure',
      heading: phrase('outcomes.figure'),
      number: true,
      sortBy: (t) => t.value ?? 0,
      cell: (t) => figure(t),
    },
    {
      id: 'at',
      heading: phrase('outcomes.countedAt'),
      sortBy: (t) => t.countedAt,
      cell: (t) => <span className="num">{at(t.countedAt)}</span>,
    },
    ...(of.tallies.some((t) => t.place)
      ? [
          {
            id: 'place',
            heading: phrase('outcomes.place'),
            sortBy: (t: Tally) => t.place,
            cell: (t: Tally) => t.place,
          },
        ]
      : []),
    { id: 'by', heading: phrase('outcomes.by'), sortBy: (t) => t.by, cell: (t) => t.by },
    {
      id: 'more',
      heading: '',
      cell: (t) => (
        <>
          {t.state !== 'counted' && (
            <b className={t.state === 'waiting' ? 'need' : 'soft'}>
              {phrase(t.state === 'waiting' ? 'outcomes.waits' : 'outcomes.setAside')}
            </b>
          )}{' '}
          <small className="soft">
            {[
              ...(t.state === 'counted' ? [] : t.doubts.map((d) => doubtWords[d])),
              t.why,
              t.note,
              ...t.corrections.map((c) =>
                phrase('outcomes.was', { said: c.said, actor: c.actor, why: c.why }),
              ),
            ]
              .filter(Boolean)
              .join(' ')}
          </small>
          <chakra.span display="inline-flex" gap="10px" marginLeft="6px">
            {t.picture && (
              <a
                href={addressOf('GET /api/events/:id/tallies/:tally/picture', { id: eventId, tally: t.id })}
                target="_blank"
                rel="noopener"
              >
                {phrase('outcomes.seePicture')}
              </a>
            )}
            {may && t.state !== 'counted' && (
              <Button look="link" onClick={() => put(t, 'counted')} disabled={decide.isPending}>
                {phrase(t.state === 'waiting' ? 'outcomes.count' : 'outcomes.countAgain')}
              </Button>
            )}
            {may && (
              <Button look="link" onClick={() => setCorrecting(t)}>
                {phrase('outcomes.correct')}
              </Button>
            )}
            {may && t.state !== 'set aside' && (
              <Button look="link" onClick={() => put(t, 'set aside')} disabled={decide.isPending}>
                {phrase('outcomes.setAsideDo')}
              </Button>
            )}
          </chakra.span>
        </>
      ),
    },
  ];
  const put = (t: Tally, state: 'counted' | 'set aside') =>
    decide.mutate({ params: { id: eventId }, body: { ids: [t.id], state } });
  const table = (
    <Table
      label={phrase(bare ? 'outcomes.waits' : 'outcomes.tallies')}
      rows={of.tallies}
      columns={columns}
      keyOf={(t) => t.id}
      empty={phrase('outcomes.noTallies')}
      {...(bare ? {} : { name: 'tallies' })}
    />
  );
  return (
    <>
      {!bare && (
        <chakra.div className="spread" marginTop="18px">
          <h3>{phrase('outcomes.tallies')}</h3>
          {of.tallies.length > 0 && (
            <ButtonAnchor href={addressOf('GET /api/events/:id/tallies.csv', { id: eventId })}>
              {phrase('outcomes.asCsv')}
            </ButtonAnchor>
          )}
        </chakra.div>
      )}
      <Problems of={decide.problem} />
      {of.tallies.length ? table : <Empty>{phrase('outcomes.noTallies')}</Empty>}
      {correcting && (
        <Correct tally={correcting} of={of} eventId={eventId} close={() => setCorrecting(null)} />
      )}
    </>
  );
}

/** Corrects a tally; what it said before is kept. */
function Correct({
  tally,
  of,
  eventId,
  close,
}: {
  tally: Tally;
  of: Shown;
  eventId: string;
  close: () => void;
}) {
  const measure = of.measures.find((m) => m.id === tally.measureId);
  const named = measure?.kind === 'distinct';
  const form = useForm({
    values: {
      said: tally.said,
      thing: tally.thing,
      countedLocal: wallOf(tally.countedAt, of.zone),
      place: tally.place,
      note: tally.note,
      why: '',
    },
    request: (body) =>
      prepare(outcomesContract, 'PATCH /api/events/:id/tallies/:tally', {
        params: { id: eventId, tally: tally.id },
        body: { ...body, version: tally.version },
      }),
    after: () => {
      say(phrase('outcomes.corrected'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      title={phrase('outcomes.correctTitle')}
      submit={phrase('outcomes.correct')}
      close={close}
    >
      <p className="soft">
        {measure && readTexts(measure.name, 'en')}, {tally.by}
      </p>
      <div className="pair">
        {named ? (
          <Text form={form} name="thing" label={phrase('outcomes.thing')} required />
        ) : (
          <Text form={form} name="said" label={phrase('outcomes.figure')} required />
        )}
        <Text
          form={form}
          name="countedLocal"
          label={phrase('outcomes.countedAt')}
          type="datetime-local"
          required
        />
      </div>
      <Text form={form} name="place" label={phrase('outcomes.place')} />
      <Text form={form} name="note" label={phrase('outcomes.note')} />
      <Text
        form={form}
        name="why"
        label={phrase('outcomes.why')}
        help={phrase('outcomes.whyHelp')}
        required
      />
    </FormDialog>
  );
}
