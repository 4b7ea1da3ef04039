import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { MessageRow } from '#contract/messages.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase, term, termAlone } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { Mailings } from './Mailings.tsx';

const views = ['coming', 'sent', 'failed', 'held back'] as const;
type View = (typeof views)[number];

/** Every message that is to go out, went out or failed. */
export default function Tray() {
  const [search, setSearch] = useSearchParams();
  const view = (views as readonly string[]).includes(search.get('state') ?? '')
    ? (search.get('state') as View)
    : 'coming';
  const many = search.get('state') === 'many';
  const tray = useAsk('GET /api/tray', { query: { state: view }, everyMs: 10_000 });
  const { at } = useSaying();
  const [open, setOpen] = useState<string | null>(null);
  const coordinator = useMe().data?.staff.roles.includes('coordinator');
  const columns: Column<MessageRow>[] = [
    {
      id: 'when',
      phone: 'bare',
      heading: view === 'sent' ? phrase('common.sent') : phrase('tray.plannedFor'),
      width: '150px',
      sortBy: (m) => m.sentAt ?? m.plannedFor ?? '',
      cell: (m) => at(m.sentAt ?? m.plannedFor),
    },
    {
      id: 'to',
      phone: 'title',
      heading: phrase('common.to'),
      sortBy: (m) => m.name.toLowerCase(),
      cell: (m) => <Person id={m.contactId} name={m.name} />,
    },
    {
      id: 'address',
      phone: 'hidden',
      heading: phrase('common.address'),
      sortBy: (m) => m.address ?? '',
      cell: (m) => <span className="soft">{m.address}</span>,
    },
    {
      id: 'event',
      phone: 'bare',
      heading: phrase('common.event'),
      sortBy: (m) => m.event ?? '',
      cell: (m) => m.event && <Link to={`/events/${m.eventId}/messages`}>{m.event}</Link>,
    },
    {
      id: 'what',
      phone: 'bare',
      heading: phrase('tray.what'),
      sortBy: (m) => m.step ?? term(m.kind),
      width: '190px',
      cell: (m) => m.step ?? term(m.kind),
    },
    {
      id: 'why',
      phone: 'bare',
      heading: view === 'failed' || view === 'held back' ? phrase('tray.whyNot') : phrase('common.why'),
      cell: (m) => <span className={view === 'failed' ? 'late' : 'soft'}>{m.whyNot ?? m.reason}</span>,
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>{phrase('common.tray')}</h1>
        {coordinator && <Gateway />}
      </div>
      <Loaded of={tray}>
        {({ rows, counts, more }) => (
          <>
            <div className="tools">
              <ListViews
                label={phrase('common.show')}
                value={many ? 'many' : view}
                set={(state) => setSearch({ state })}
                views={[
                  ...views.map((v) => ({
                    value: v,
                    label: termAlone(v),
                    count: v === 'held back' ? counts.heldBack : counts[v],
                  })),
                  ...(coordinator ? [{ value: 'many' as const, label: phrase('tray.mailings') }] : []),
                ]}
              />
              {!many && <TableColumns name="tray" columns={columns} />}
              {more && !many && (
                <span className="soft">{phrase('tray.theFirst', { rows: rows.length })}</span>
              )}
            </div>
            {many ? (
              <Mailings />
            ) : (
              <Table
                label={phrase('common.messages')}
                name="tray"
                rows={rows}
                columns={columns}
                keyOf={(m) => m.id}
                open={(m) => setOpen(m.id)}
                empty={
                  view === 'failed'
                    ? phrase('tray.nothingFailed')
                    : view === 'coming'
                      ? phrase('tray.nothingIsPlannedMessages')
                      : phrase('tray.nothingHereYet')
                }
              />
            )}
          </>
        )}
      </Loaded>
      {open && <Message id={open} close={() => setOpen(null)} />}
    </div>
  );
}

export function Message({ id, close }: { id: string; close: () => void }) {
  const message = useAsk('GET /api/messages/:id', { params: { id } });
  const { at } = useSaying();
  const retry = useAction('POST /api/messages/:id/retry', () => {
    say(phrase('tray.triedAgain'));
    close();
  });
  return (
    <Asking
      open
      close={close}
      title={message.data?.subject || phrase('tray.message')}
      actions={
        message.data?.state === 'failed' ? (
          <Button onClick={() => retry.mutate({ params: { id } })}>{phrase('tray.tryAgainNow')}</Button>
        ) : null
      }
      wide
    >
      <Loaded of={message}>
        {(m) => (
          <>
            <p className="soft num">
              {phrase('tray.to', { name: m.name })} {m.address && `<${m.address}>`} ·{' '}
              {m.state === 'sent'
                ? phrase('tray.sent', { sentAt: at(m.sentAt) })
                : `${term(m.state)}${m.plannedFor ? `, ${at(m.plannedFor)}` : ''}`}{' '}
              · {m.reason}
            </p>
            {m.whyNot && <p className="late">{m.whyNot}</p>}
            <chakra.pre
              whiteSpace="pre-wrap"
              font="inherit"
              background="paper"
              padding="12px 14px"
              border="1px solid var(--line)"
              marginTop="10px"
            >
              {m.body}
            </chakra.pre>
          </>
        )}
      </Loaded>
    </Asking>
  );
}

/** How the mail stand-in behaves, and how to make it misbehave. */
function Gateway() {
  const standins = useAsk('GET /api/standins').data;
  const tell = useAction('PUT /api/standins');
  const mail = standins?.find((s) => s.service === 'mail');
  if (!mail) return null;
  return (
    <chakra.span className="acts" fontSize="14px">
      <span className="soft">{phrase('tray.theMailStandIn')}</span>
      <InlineChoice
        label={phrase('tray.theMailStandIn')}
        value={mail.mode === 'works' ? 'works' : mail.remaining === null ? mail.mode : `${mail.mode} once`}
        set={(to) => {
          const [mode, once] = to.endsWith(' once') ? [to.replace(' once', ''), 1] : [to, null];
          tell.mutate({ body: { service: 'mail', mode: mode as 'works', remaining: once } });
        }}
        choices={[
          { value: 'works', label: phrase('tray.works') },
          { value: 'fails once', label: phrase('tray.failsTheNextTime') },
          { value: 'fails', label: phrase('tray.failsUntilToldOtherwise') },
          { value: 'answer lost once', label: phrase('tray.takesTheNextOne') },
        ]}
      />
    </chakra.span>
  );
}
