import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { MessageRow } from '#contract/messages.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
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
      heading: view === 'sent' ? 'Sent' : 'Planned for',
      width: '150px',
      sortBy: (m) => m.sentAt ?? m.plannedFor ?? '',
      cell: (m) => at(m.sentAt ?? m.plannedFor),
    },
    {
      id: 'to',
      phone: 'title',
      heading: 'To',
      sortBy: (m) => m.name.toLowerCase(),
      cell: (m) => <Person id={m.contactId} name={m.name} />,
    },
    {
      id: 'address',
      phone: 'hidden',
      heading: 'Address',
      sortBy: (m) => m.address ?? '',
      cell: (m) => <span className="soft">{m.address}</span>,
    },
    {
      id: 'event',
      phone: 'bare',
      heading: 'Event',
      sortBy: (m) => m.event ?? '',
      cell: (m) => m.event && <Link to={`/events/${m.eventId}/messages`}>{m.event}</Link>,
    },
    {
      id: 'what',
      phone: 'bare',
      heading: 'What',
      sortBy: (m) => m.step ?? m.kind,
      cell: (m) => m.step ?? m.kind,
    },
    {
      id: 'why',
      phone: 'bare',
      heading: view === 'failed' || view === 'held back' ? 'Why not' : 'Why',
      cell: (m) => <span className={view === 'failed' ? 'late' : 'soft'}>{m.whyNot ?? m.reason}</span>,
    },
  ];
  return (
    <div className="page">
      <div className="spread">
        <h1>Tray</h1>
        {coordinator && <Gateway />}
      </div>
      <Loaded of={tray}>
        {({ rows, counts, more }) => (
          <>
            <div className="tools">
              {views.map((v) => (
                <button
                  key={v}
                  type="button"
                  className="chip"
                  aria-pressed={view === v && !many}
                  onClick={() => setSearch({ state: v })}
                >
                  {v[0]!.toUpperCase() + v.slice(1)} {v === 'held back' ? counts.heldBack : counts[v]}
                </button>
              ))}
              {coordinator && (
                <button
                  type="button"
                  className="chip"
                  aria-pressed={many}
                  onClick={() => setSearch({ state: 'many' })}
                >
                  Written to many
                </button>
              )}
              {more && !many && <span className="soft">the first {rows.length}</span>}
            </div>
            {many ? (
              <Mailings />
            ) : (
              <Table
                label="Messages"
                rows={rows}
                columns={columns}
                keyOf={(m) => m.id}
                open={(m) => setOpen(m.id)}
                empty={
                  view === 'failed'
                    ? 'Nothing failed.'
                    : view === 'coming'
                      ? 'Nothing is planned. Messages are planned when people register.'
                      : 'Nothing here yet.'
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
    say('Tried again');
    close();
  });
  return (
    <Asking
      open
      close={close}
      title={message.data?.subject || 'Message'}
      actions={
        message.data?.state === 'failed' ? (
          <Button onClick={() => retry.mutate({ params: { id } })}>Try again now</Button>
        ) : null
      }
      wide
    >
      <Loaded of={message}>
        {(m) => (
          <>
            <p className="soft num">
              To {m.name} {m.address && `<${m.address}>`} ·{' '}
              {m.state === 'sent'
                ? `sent ${at(m.sentAt)}`
                : `${m.state}${m.plannedFor ? `, ${at(m.plannedFor)}` : ''}`}{' '}
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
    <chakra.label className="acts" fontSize="14px">
      <span className="soft">The mail stand-in</span>
      <chakra.select
        width="auto"
        value={mail.mode === 'works' ? 'works' : mail.remaining === null ? mail.mode : `${mail.mode} once`}
        onChange={(e) => {
          const [mode, once] = e.target.value.endsWith(' once')
            ? [e.target.value.replace(' once', ''), 1]
            : [e.target.value, null];
          tell.mutate({ body: { service: 'mail', mode: mode as 'works', remaining: once } });
        }}
      >
        <option value="works">works</option>
        <option value="fails once">fails the next time</option>
        <option value="fails">fails until told otherwise</option>
        <option value="answer lost once">takes the next one and breaks off</option>
      </chakra.select>
    </chakra.label>
  );
}
