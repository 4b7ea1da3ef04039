import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { MessageRow } from '#contract/messages.ts';
import { undelivered } from '#core/messages/states.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice } from '#web/kit/Inline.tsx';
import { phrase, term, termAlone } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { ChoiceField, TextField } from '../kit/Field.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { TableColumns } from '../kit/TableColumns.tsx';
import { say } from '../kit/toast.tsx';
import { AsSent, Letter } from '../parts/AsSent.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { AllYear } from './AllYear.tsx';
import { CameIn, ReplyInPlace } from './CameIn.tsx';
import { Letters } from './Letters.tsx';
import { Mailings } from './Mailings.tsx';
import { Sending } from './Sending.tsx';

const views = ['coming', 'sent', 'failed', 'held back'] as const;
type View = (typeof views)[number];

/** Every message that is to go out, went out or failed. */
export default function Tray() {
  const [search, setSearch] = useSearchParams();
  const view = (views as readonly string[]).includes(search.get('state') ?? '')
    ? (search.get('state') as View)
    : 'coming';
  const state = search.get('state');
  // Views that list something else than messages by their state.
  const apart = state === 'many' || state === 'in' || state === 'letters' || state === 'year' ? state : null;
  const q = search.get('q') ?? '';
  const day = search.get('day') ?? '';
  const what = search.get('what') ?? '';
  const [typed, setTyped] = useState(q);
  const eventId = search.get('event');
  const put = (key: string, value: string) =>
    setSearch(
      (before) => {
        if (value) before.set(key, value);
        else before.delete(key);
        return before;
      },
      { replace: true },
    );
  const tray = useAsk('GET /api/tray', {
    query: {
      state: view,
      ...(q && { q }),
      ...(day && { day }),
      ...(eventId && { eventId }),
      ...(what && { what }),
    },
    everyMs: 10_000,
  });
  // What was typed is looked for once the typing stops.
  useEffect(() => {
    if (typed === q) return;
    const soon = setTimeout(() => put('q', typed.trim()), 300);
    return () => clearTimeout(soon);
  });
  const whats =
    useAsk('GET /api/tray/whats', { query: { state: view, ...(eventId && { eventId }) }, enabled: !apart })
      .data ?? [];
  const cameIn = useAsk('GET /api/incoming', { query: {}, everyMs: 10_000 }).data;
  const { at, today } = useSaying();
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
      sortBy: (m) => m.line ?? term(m.kind),
      width: '190px',
      cell: (m) => m.line ?? term(m.kind),
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
      <Sending eventId={null} may={Boolean(coordinator)} />
      <Loaded of={tray}>
        {({ rows, counts, more }) => (
          <>
            <div className="tools">
              <ListViews
                label={phrase('common.show')}
                value={apart ?? view}
                set={(state) => put('state', state)}
                views={[
                  ...views.map((v) => ({
                    value: v,
                    label: termAlone(v),
                    count: v === 'held back' ? counts.heldBack : counts[v],
                  })),
                  { value: 'in' as const, label: phrase('tray.cameIn'), count: cameIn?.open ?? 0 },
                  ...(coordinator
                    ? [
                        { value: 'many' as const, label: phrase('tray.mailings') },
                        { value: 'letters' as const, label: phrase('tray.letters') },
                        { value: 'year' as const, label: phrase('tray.allYear') },
                      ]
                    : []),
                ]}
              />
              {!apart && <TableColumns name="tray" columns={columns} />}
              {more && !apart && (
                <span className="soft">{phrase('tray.theFirst', { rows: rows.length })}</span>
              )}
            </div>
            {!apart && (
              <chakra.div className="tools" alignItems="flex-start">
                <chakra.div flex="1 1 220px" maxWidth="340px">
                  <TextField label={phrase('tray.whose')} type="search" value={typed} set={setTyped} />
                </chakra.div>
                <chakra.div flex="1 1 200px" maxWidth="300px">
                  <ChoiceField
                    label={phrase('tray.what')}
                    value={what}
                    set={(w) => put('what', w)}
                    choices={[
                      { value: '', label: phrase('tray.everything') },
                      ...(what && !whats.some((w) => w.what === what)
                        ? [{ value: what, label: term(what) }]
                        : []),
                      ...whats.map((w) => ({
                        value: w.what,
                        label: `${w.isLine ? w.what : termAlone(w.what)} ${w.count}`,
                      })),
                    ]}
                  />
                </chakra.div>
                <TextField label={phrase('tray.onDay')} type="date" value={day} set={(d) => put('day', d)} />
                {view === 'coming' && (
                  <chakra.div alignSelf="flex-end" marginBottom="16px">
                    <Button look="plain" onClick={() => put('day', day === today ? '' : today)}>
                      {phrase('tray.today')}
                    </Button>
                  </chakra.div>
                )}
                {eventId && (
                  <chakra.div alignSelf="flex-end" marginBottom="16px">
                    <Button look="plain" onClick={() => put('event', '')}>
                      {phrase('tray.ofAllEvents')}
                    </Button>
                  </chakra.div>
                )}
              </chakra.div>
            )}
            {apart === 'many' ? (
              <Mailings />
            ) : apart === 'in' ? (
              <CameIn openMessage={setOpen} />
            ) : apart === 'year' ? (
              <AllYear openMessage={setOpen} />
            ) : apart === 'letters' ? (
              <Letters />
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
  const [email, setEmail] = useState<string | null>(null);
  const standsIn = useMe().data?.clock.movable;
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
        message.data && undelivered.includes(message.data.state) ? (
          <Button
            disabled={retry.isPending}
            onClick={() =>
              retry.mutate({ params: { id }, body: email && email !== message.data.address ? { email } : {} })
            }
          >
            {phrase('tray.tryAgainNow')}
          </Button>
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
            {m.wentWith && <p className="soft">{phrase('messages.asOneWith', { line: m.wentWith })}</p>}
            {undelivered.includes(m.state) && m.channel === 'email' && (
              <chakra.div maxWidth="360px" marginTop="8px">
                <TextField
                  label={phrase('tray.sendTo')}
                  type="email"
                  value={email ?? m.address ?? ''}
                  set={setEmail}
                  error={retry.problem?.fields.email}
                  help={m.contactId ? phrase('tray.sendToHelp') : undefined}
                />
              </chakra.div>
            )}
            {!retry.problem?.fields.email && <Problems of={retry.problem} />}
            <AsSent message={m} titled />
            {standsIn && m.headers.some((h) => h.name === 'Reply-To') && (
              <ReplyInPlace id={m.id} name={m.name} />
            )}
            {m.headers.length > 0 && (
              <chakra.details marginTop="10px">
                <chakra.summary cursor="pointer" color="verdigris">
                  {phrase('tray.headers')}
                </chakra.summary>
                <Letter>{m.headers.map((h) => `${h.name}: ${h.value}`).join('\n')}</Letter>
              </chakra.details>
            )}
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
          { value: 'refuses once', label: phrase('tray.refusesTheNext') },
          { value: 'bounces once', label: phrase('tray.bouncesTheNext') },
          { value: 'complains once', label: phrase('tray.complainsOfTheNext') },
        ]}
      />
    </chakra.span>
  );
}
