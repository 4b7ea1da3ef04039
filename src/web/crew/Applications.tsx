import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Application } from '#contract/applying.ts';
import { type ApplicationState, applicationStates } from '#core/crew/applying.ts';
import { hoursOffered } from '#core/crew/availability.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { ChosenBar } from '#web/kit/ChosenBar.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { type Column, Table } from '#web/kit/Table.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAddress } from '#web/kit/useAddress.ts';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { ApplicationPanel } from './ApplicationPanel.tsx';
import { sayFor, sayWishes, stateViews } from './applyingWords.ts';
import { CallForm } from './CallForm.tsx';
import { Decide, type Decision } from './Decide.tsx';
import { depositWords } from './Deposit.tsx';
import { Invite } from './Invite.tsx';

type Page = Answer<'GET /api/calls/:id/applications'>;

/** In which order the views stand: what waits for somebody first. */
const views: readonly ApplicationState[] = ['new', 'accepted', 'resting', 'declined', 'invited'];
const usual = { show: '' };

/** Who answered a call, what they said, and what becomes of it. */
export default function Applications() {
  const { id = '' } = useParams();
  const page = useAsk('GET /api/calls/:id/applications', { params: { id }, everyMs: 10_000 });
  return <div className="page">{<Loaded of={page}>{(shown) => <Shown page={shown} />}</Loaded>}</div>;
}

function Shown({ page: { call, applications } }: { page: Page }) {
  const { day, money } = useSaying();
  const register = useAsk('GET /api/roles').data;
  const [address, put] = useAddress(usual);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [shownId, setShownId] = useState<string | null>(null);
  const [open, setOpen] = useState<'change' | 'invite' | null>(null);
  const [deciding, setDeciding] = useState<{ to: Decision; of: readonly Application[] } | null>(null);
  const of = Object.fromEntries(
    applicationStates.map((s) => [s, applications.filter((a) => a.state === s)]),
  ) as Record<ApplicationState, Application[]>;
  const view = views.find((v) => v === address.show) ?? views.find((v) => of[v].length > 0) ?? 'new';
  const rows = of[view];
  const among = rows.filter((a) => chosen.has(a.id));
  const shown = applications.find((a) => a.id === shownId);
  const roleName = (roleId: string) => register?.roles.find((r) => r.id === roleId)?.name ?? '';
  const skillName = (skillId: string) => register?.skills.find((s) => s.id === skillId)?.name ?? '';
  const link = `${location.origin}/help/${call.slug}`;
  const every: Column<Application>[] = [
    {
      id: 'who',
      phone: 'title',
      heading: phrase('applying.who'),
      width: '220px',
      sortBy: (a) => a.name.toLowerCase(),
      cell: (a) => (
        <>
          <span className="name">{a.name}</span>
          {a.age !== null && <small className="soft num"> {phrase('applying.age', { age: a.age })}</small>}
          {a.again && <small className="need"> {phrase('applying.saidAgain')}</small>}
          {a.question && (
            <small className={a.answer ? 'need' : 'soft'}>
              {' '}
              {phrase(a.answer ? 'applying.answered' : 'applying.asked')}
            </small>
          )}
        </>
      ),
    },
    {
      id: 'wants',
      phone: 'bare',
      heading: phrase('applying.wants'),
      cell: (a) => a.said && sayWishes(a.said, roleName),
    },
    {
      id: 'can',
      phone: 'bare',
      heading: phrase('applying.canDo'),
      cell: (a) => (
        <span className="soft">
          {a.said?.skills
            .map((s) => skillName(s.skillId))
            .filter(Boolean)
            .join(', ')}
        </span>
      ),
    },
    {
      id: 'since',
      heading: phrase('common.date'),
      phone: 'bare',
      width: '110px',
      sortBy: (a) => a.changedAt,
      cell: (a) => <span className="soft num">{day(a.changedAt)}</span>,
    },
    {
      id: 'there',
      heading: phrase('applying.there'),
      number: true,
      width: '90px',
      sortBy: (a) => (a.said?.available ? Math.round(hoursOffered(a.said.available)) : -1),
      cell: (a) =>
        a.said?.available && phrase('applying.hoursThere', { n: Math.round(hoursOffered(a.said.available)) }),
    },
    {
      id: 'load',
      heading: phrase('applying.load'),
      number: true,
      width: '120px',
      sortBy: (a) => a.hours,
      cell: (a) =>
        a.shifts > 0 &&
        phrase('applying.shiftsHours', { shifts: a.shifts, hours: Math.round(a.hours * 4) / 4 }),
    },
  ];
  // What a call does not ask stands in no column.
  const unasked = [!call.asks.includes('skills') && 'can', !call.asks.includes('availability') && 'there'];
  const columns = every.filter((c) => !unasked.includes(c.id));
  if (rows.some((a) => a.deposit))
    columns.push({
      id: 'deposit',
      heading: phrase('applying.deposit'),
      phone: 'bare',
      width: '120px',
      sortBy: (a) => (a.deposit ? depositWords[a.deposit.state] : ''),
      cell: (a) =>
        a.deposit && (
          <span className={a.deposit.state === 'asked' || a.deposit.state === 'owed' ? 'need' : 'soft'}>
            {depositWords[a.deposit.state]}
          </span>
        ),
    });
  const without = call.deposit ? of.accepted.filter((a) => !a.deposit).length : 0;
  const ask = useAction('POST /api/calls/:id/deposits', ({ asked }) =>
    say(phrase('applying.depositsAsked', { n: asked })),
  );
  const decide = (to: Decision, these: readonly Application[]) => setDeciding({ to, of: these });
  return (
    <>
      <p>
        <Link to="/volunteers">{phrase('applying.title')}</Link>
        {call.eventId && (
          <>
            {' · '}
            <Link to={`/events/${call.eventId}/crew`}>{call.event}</Link>
          </>
        )}
      </p>
      <div className="spread">
        <h1>{call.title.en}</h1>
        <div className="acts">
          <Button onClick={() => setOpen('change')}>{phrase('applying.change')}</Button>
          {without > 0 && (
            <Button
              disabled={ask.isPending}
              onClick={() => ask.mutate({ params: { id: call.id }, body: {} })}
            >
              {phrase('applying.askDeposits', { n: without })}
            </Button>
          )}
          {call.open && <Button onClick={() => setOpen('invite')}>{phrase('applying.invite')}</Button>}
        </div>
      </div>
      <p className="soft">
        {sayFor(call)}, {phrase(call.open ? 'applying.open' : 'applying.closed')}
      </p>
      {call.open && (
        <div className="acts">
          <a href={`/help/${call.slug}`} target="_blank" rel="noreferrer">
            {phrase('applying.publicPage')}
          </a>
          <Button
            look="link"
            color="verdigris"
            onClick={() =>
              void navigator.clipboard?.writeText(link).then(() => say(phrase('applying.linkCopied')))
            }
          >
            {phrase('applying.copyLink')}
          </Button>
        </div>
      )}
      <div className="tools">
        <ListViews
          label={phrase('applying.view')}
          value={view}
          set={(show) => {
            setChosen(new Set());
            put({ show });
          }}
          views={views.map((v) => ({ value: v, label: stateViews[v], count: of[v].length }))}
        />
      </div>
      {among.length > 0 && (
        <ChosenBar label={phrase('applying.nChosen', { n: among.length })}>
          {view !== 'accepted' && (
            <Button look="main" onClick={() => decide('accepted', among)}>
              {phrase('applying.accept')}
            </Button>
          )}
          {view !== 'resting' && (
            <Button onClick={() => decide('resting', among)}>{phrase('applying.rest')}</Button>
          )}
          {view !== 'declined' && (
            <Button look="stop" onClick={() => decide('declined', among)}>
              {phrase('applying.decline')}
            </Button>
          )}
          <Button look="plain" onClick={() => setChosen(new Set())}>
            {phrase('applying.chooseNone')}
          </Button>
        </ChosenBar>
      )}
      <Table
        label={phrase('applying.applications')}
        name="applications"
        rows={rows}
        columns={columns}
        keyOf={(a) => a.id}
        open={(a) => setShownId(a.id)}
        empty={applications.length === 0 ? phrase('applying.nobodyYet') : phrase('applying.noneHere')}
        {...(view !== 'invited' && { choosing: { chosen, choose: setChosen } })}
      />
      {shown && (
        <ApplicationPanel
          application={shown}
          call={call}
          roleName={roleName}
          skillName={skillName}
          decide={(to) => decide(to, [shown])}
          close={() => setShownId(null)}
        />
      )}
      {open === 'change' && <CallForm call={call} close={() => setOpen(null)} />}
      {open === 'invite' && <Invite call={call} close={() => setOpen(null)} />}
      {deciding && (
        <Decide
          to={deciding.to}
          of={deciding.of}
          deposit={call.deposit && money(call.deposit.amount, call.currency)}
          close={() => setDeciding(null)}
          done={() => {
            setDeciding(null);
            setChosen(new Set());
          }}
        />
      )}
    </>
  );
}
