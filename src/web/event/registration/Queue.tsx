import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Queue as Asked, acceptingContract } from '#contract/accepting.ts';
import type { EventPage } from '#contract/events.ts';
import { call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Tick } from '#web/kit/Choosing.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { TableColumns } from '#web/kit/TableColumns.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { ToldLines } from '../changes/ToldLines.tsx';
import { useTold } from '../changes/useTold.ts';

type Party = Asked['parties'][number];
type Decision = 'accept' | 'decline' | 'ask';

/** Who asked for seats, with what they answered side by side; several are decided at once. */
export function Queue({ page }: { page: EventPage }) {
  const asked = useAsk('GET /api/events/:id/queue', { params: { id: page.id } }).data;
  const { money, day } = useSaying();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [deciding, setDeciding] = useState<Decision | null>(null);
  const may = page.may.change.includes('registration');
  if (!asked?.parties.length) return null;
  const { parties, questions } = asked;
  const among = parties.filter((p) => chosen.includes(p.orderId));
  const toggle = (id: string, on: boolean) =>
    setChosen(on ? [...chosen, id] : chosen.filter((c) => c !== id));
  const columns: Column<Party>[] = [
    ...(may
      ? [
          {
            id: 'choose',
            heading: '',
            width: '40px',
            phone: 'bare' as const,
            cell: (p: Party) => (
              <Tick checked={chosen.includes(p.orderId)} set={(on) => toggle(p.orderId, on)}>
                <chakra.span srOnly>{phrase('queue.choose', { name: p.name })}</chakra.span>
              </Tick>
            ),
          },
        ]
      : []),
    {
      id: 'who',
      heading: phrase('common.who'),
      phone: 'title',
      sortBy: (p) => p.name.toLowerCase(),
      cell: (p) => (
        <>
          <Person id={p.contactId} name={p.name} />
          {p.people.length > 0 && p.people.join(', ') !== p.name && (
            <small className="soft"> {p.people.join(', ')}</small>
          )}
        </>
      ),
    },
    {
      id: 'wants',
      heading: phrase('queue.wants'),
      phone: 'bare',
      cell: (p) => <chakra.span whiteSpace="nowrap">{p.offers}</chakra.span>,
    },
    {
      id: 'due',
      heading: phrase('queue.due'),
      number: true,
      sortBy: (p) => p.due,
      cell: (p) => (p.due ? money(p.due) : phrase('parts.free')),
    },
    ...questions.map(
      (q): Column<Party> => ({
        id: q.id,
        heading: q.prompt,
        phone: 'bare',
        sortBy: (p) => p.answers[q.id] ?? '',
        cell: (p) => p.answers[q.id] ?? '',
      }),
    ),
    {
      id: 'asked',
      heading: phrase('queue.askedBack'),
      phone: 'bare',
      cell: (p) =>
        p.asked.map((a) => (
          <chakra.div key={`${a.words}${a.answer}`} fontSize="13.5px">
            <span className="soft">{a.words}</span> {a.answer ?? phrase('queue.noAnswerYet')}
          </chakra.div>
        )),
    },
    {
      id: 'fits',
      heading: phrase('queue.room'),
      phone: 'bare',
      cell: (p) => <span className={p.fits === 'fits' ? 'soft' : 'need'}>{p.fits}</span>,
    },
    {
      id: 'since',
      heading: phrase('event.since'),
      phone: 'bare',
      number: true,
      sortBy: (p) => Date.parse(p.since),
      cell: (p) => <span className="soft">{day(p.since)}</span>,
    },
  ];
  return (
    <chakra.section aria-label={phrase('queue.title')} margin="14px 0 18px">
      <div className="spread">
        <h3>{phrase('queue.nAsked', { n: parties.length })}</h3>
        <TableColumns name="queue" columns={columns} />
      </div>
      {may && (
        <div className="acts">
          <Button
            look="link"
            onClick={() => setChosen(among.length === parties.length ? [] : parties.map((p) => p.orderId))}
          >
            {among.length === parties.length ? phrase('queue.none') : phrase('queue.all')}
          </Button>
          <Button look="main" disabled={!among.length} onClick={() => setDeciding('accept')}>
            {among.length ? phrase('queue.acceptN', { n: among.length }) : phrase('queue.accept')}
          </Button>
          <Button disabled={!among.length} onClick={() => setDeciding('ask')}>
            {phrase('queue.ask')}
          </Button>
          <Button look="stop" disabled={!among.length} onClick={() => setDeciding('decline')}>
            {phrase('queue.decline')}
          </Button>
        </div>
      )}
      <Table
        label={phrase('queue.title')}
        name="queue"
        rows={parties}
        columns={columns}
        keyOf={(p) => p.orderId}
        empty={phrase('queue.nobody')}
      />
      {deciding && (
        <Decide
          page={page}
          decision={deciding}
          orderIds={among.map((p) => p.orderId)}
          close={() => setDeciding(null)}
          done={() => setChosen([])}
        />
      )}
    </chakra.section>
  );
}

const titles = {
  accept: phrase('queue.acceptTitle'),
  decline: phrase('queue.declineTitle'),
  ask: phrase('queue.askTitle'),
} as const;

/** Says exactly what a decision does for how many, before it is made. */
function Decide({
  page,
  decision,
  orderIds,
  close,
  done,
}: {
  page: EventPage;
  decision: Decision;
  orderIds: readonly string[];
  close: () => void;
  done: () => void;
}) {
  const params = { id: page.id };
  const form = useForm({
    values: { words: '' },
    request: ({ words }) =>
      prepare(acceptingContract, 'POST /api/events/:id/decisions', {
        params,
        body: { orderIds: [...orderIds], decision, words },
      }),
    after: () => {
      say(phrase('queue.decided'));
      done();
      close();
    },
  });
  const { told, busy, problem } = useTold(
    ['decisions', page.id],
    { orderIds: [...orderIds], decision },
    (body) => call('POST /api/events/:id/decisions/what-if', { params, body }),
    form.sending,
  );
  const lines = told && [
    told.confirmed > 0 && phrase('queue.willConfirm', { n: told.confirmed }),
    told.held > 0 && phrase('queue.willHold', { n: told.held }),
    told.waitlisted > 0 && phrase('queue.willWait', { n: told.waitlisted }),
    told.declined > 0 && phrase('queue.willDecline', { n: told.declined }),
    told.asked > 0 && phrase('queue.willAsk', { n: told.asked }),
    told.left.length > 0 && phrase('queue.left', { names: told.left.join(', ') }),
  ];
  return (
    <FormDialog
      form={form}
      close={close}
      title={titles[decision]}
      submit={titles[decision]}
      look={decision === 'decline' ? 'stop' : 'main'}
      disabled={!told || busy || problem !== null}
    >
      <Problems of={problem} />
      <ToldLines lines={lines} />
      {told && told.untold.length > 0 && (
        <Note tone="need">
          {told.untold.map((u) => (
            <p key={u.name}>{phrase('queue.untold', u)}</p>
          ))}
        </Note>
      )}
      {decision !== 'accept' && (
        <LongText
          form={form}
          name="words"
          label={phrase(decision === 'ask' ? 'queue.question' : 'queue.words')}
          rows={3}
          required={decision === 'ask'}
        />
      )}
    </FormDialog>
  );
}
