import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { ImportRow, ImportSummary } from '#contract/imports.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Progress } from '../kit/Progress.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { sayCount, useSaying } from '../parts/saying.ts';
import { ImportColumns } from './ImportColumns.tsx';
import { ImportRowSheet } from './ImportRowSheet.tsx';

const verdictWords = {
  new: 'New',
  changes: 'Changes',
  same: 'Same',
  look: 'Needs a look',
  rejected: 'Rejected',
} as const;
/** Who else a line of the file names. */
const partWords = {
  partner: 'also named there',
  guardian: 'guardian',
  'other guardian': 'guardian',
} as const;
type Verdict = keyof typeof verdictWords;
const pageSize = 500;

/** One import: what the columns mean, what would become of every row, apply, undo. */
export default function Import() {
  const { id = '' } = useParams();
  const [checking, setChecking] = useState(true);
  const summary = useAsk('GET /api/imports/:id', { params: { id }, everyMs: checking ? 500 : undefined });
  const state = summary.data?.state;
  useEffect(
    () => setChecking(state === undefined || ['checking', 'applying', 'undoing'].includes(state)),
    [state],
  );
  return (
    <div className="page">
      <Loaded of={summary}>{(s) => <Shown summary={s} />}</Loaded>
    </div>
  );
}

const delimiterWords = (delimiter: string): string =>
  delimiter === 'vCard'
    ? 'an address book'
    : delimiter === '\t'
      ? 'tabs between cells'
      : `“${delimiter}” between cells`;

/** How far applying or undoing is, as the server says it; listening begins before, as nothing is answered meanwhile. */
function Underway({ id, words }: { id: string; words: string }) {
  const [figures, setFigures] = useState<{ done: number; all: number } | null>(null);
  useEffect(() => {
    const stream = new EventSource(addressOf('GET /api/imports/:id/stream', { id }));
    stream.addEventListener('changed', (e) => setFigures(JSON.parse((e as MessageEvent<string>).data)));
    return () => stream.close();
  }, [id]);
  return figures && <Progress words={words} done={figures.done} all={figures.all} />;
}

function Shown({ summary }: { summary: ImportSummary }) {
  const { at } = useSaying();
  const navigate = useNavigate();
  const [confirming, setConfirming] = useState<'apply' | 'undo' | null>(null);
  const close = () => setConfirming(null);
  const map = useAction('PUT /api/imports/:id/mapping');
  const apply = useAction('POST /api/imports/:id/apply', (s) => {
    close();
    say(
      s.state === 'checking'
        ? 'Contacts were changed since the check. It is worked out again; look, then apply.'
        : `${summary.fileName} was applied.`,
    );
  });
  const undo = useAction('POST /api/imports/:id/undo', close);
  const cancel = useAction('POST /api/imports/:id/cancel');
  const discard = useAction('DELETE /api/imports/:id', () => navigate('/import'));
  const { counts } = summary;
  const all = Object.values(counts).reduce((n, x) => n + x, 0);
  const open = summary.state === 'checked';
  const params = { id: summary.id };
  return (
    <>
      <p>
        <Link to="/import">Bring people in</Link>
      </p>
      <div className="spread">
        <h1>{summary.fileName}</h1>
        <div className="acts">
          {['checking', 'checked', 'cancelled'].includes(summary.state) && (
            <Button look="plain" onClick={() => discard.mutate({ params })}>
              Delete
            </Button>
          )}
          {open && (
            <Button look="main" disabled={all === counts.rejected} onClick={() => setConfirming('apply')}>
              Apply
            </Button>
          )}
          {summary.state === 'applied' && (
            <Button look="stop" onClick={() => setConfirming('undo')}>
              Undo this import
            </Button>
          )}
        </div>
      </div>
      <p className="soft num">
        {sayCount(summary.allRows)} rows · {summary.encoding}, {delimiterWords(summary.delimiter)}
        {summary.headingLine > 0
          ? `, heading in line ${summary.headingLine}`
          : summary.delimiter !== 'vCard' && ', no heading'}
        {summary.appliedAt && ` · applied ${at(summary.appliedAt)}`}
        {summary.undoneAt && ` · undone ${at(summary.undoneAt)}`}
      </p>
      {open && summary.appliedBefore && (
        <Note as="p" tone="need" marginTop="10px">
          This very file was applied on {at(summary.appliedBefore.at)}. Applying it again adds nobody twice.
        </Note>
      )}
      {summary.state === 'cancelled' && (
        <Note as="p" tone="need" marginTop="10px">
          The check was stopped; nothing was changed.{' '}
          <Button
            look="link"
            onClick={() => map.mutate({ params, body: { ...summary.mapping, choices: summary.choices } })}
          >
            Check it again
          </Button>
        </Note>
      )}
      <Problems of={map.problem ?? (confirming ? null : apply.problem) ?? undo.problem} />
      {(summary.state === 'applying' || summary.state === 'undoing') && (
        <Progress
          words={summary.state === 'applying' ? 'Rows applied' : 'Rows taken back'}
          done={summary.doneRows}
          all={summary.allRows}
        />
      )}
      {summary.state === 'checking' && (
        <Progress
          words="Comparing every row with the contacts"
          done={summary.doneRows}
          all={summary.allRows}
          cancel={() => cancel.mutate({ params })}
        />
      )}
      {(open || summary.state === 'checking') && (
        <ImportColumns
          summary={summary}
          save={(body) => map.mutate({ params, body })}
          busy={map.isPending || !open}
        />
      )}
      {summary.kept.length > 0 && (
        <Note tone="need" margin="10px 0">
          <p>
            <b>Left alone when it was undone:</b>
          </p>
          {summary.kept.map((k) => (
            <p key={k}>{k}</p>
          ))}
        </Note>
      )}
      {summary.state !== 'checking' && <Rows summary={summary} all={all} />}
      <Asking
        open={confirming === 'apply'}
        close={close}
        title={`Apply ${summary.fileName}?`}
        actions={
          <Button look="main" disabled={apply.isPending} onClick={() => apply.mutate({ params })}>
            {apply.isPending ? 'Applying …' : `Apply ${sayCount(all - counts.rejected)} rows`}
          </Button>
        }
      >
        <Problems of={apply.problem} />
        <p>
          {sayCount(counts.new + counts.look)} people become contacts
          {counts.look > 0 &&
            `, ${sayCount(counts.look)} of them although they may be known already: those are put up for a decision`}
          . {sayCount(counts.changes)} who are known get what their row brings. {sayCount(counts.same)} rows
          change nothing. {sayCount(counts.rejected)} are left out. It can be undone.
        </p>
        {all > 3000 && !apply.isPending && (
          <p className="soft">
            About {Math.max(5, Math.round(all / 1500 / 5) * 5)} seconds; nobody else can change anything
            meanwhile.
          </p>
        )}
        <Underway id={summary.id} words="Written" />
      </Asking>
      <Asking
        open={confirming === 'undo'}
        close={close}
        title="Undo this import?"
        actions={
          <Button look="stop" disabled={undo.isPending} onClick={() => undo.mutate({ params })}>
            {undo.isPending ? 'Undoing …' : 'Undo it'}
          </Button>
        }
      >
        <p>
          Contacts it made are removed and what it changed becomes what it was. Contacts that something hangs
          on by now, and fields changed since, are left alone and named.
        </p>
        <Underway id={summary.id} words="Taken away" />
      </Asking>
    </>
  );
}

function Rows({ summary, all }: { summary: ImportSummary; all: number }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const columns = useMemo(() => rowColumns(country), [country]);
  const [verdict, setVerdict] = useState<Verdict | ''>('');
  const [typed, setTyped] = useState('');
  const [offset, setOffset] = useState(0);
  const [shown, setShown] = useState<ImportRow | null>(null);
  const q = useDeferredValue(typed);
  const rows = useAsk('GET /api/imports/:id/rows', {
    params: { id: summary.id },
    query: { verdict: verdict || undefined, q, offset, limit: pageSize },
  });
  const { counts } = summary;
  const choose = (v: Verdict | '') => {
    setVerdict(v);
    setOffset(0);
  };
  return (
    <>
      <div className="tools">
        <button type="button" className="chip" aria-pressed={verdict === ''} onClick={() => choose('')}>
          All {sayCount(all)}
        </button>
        {(Object.keys(verdictWords) as Verdict[]).map((v) => (
          <button
            key={v}
            type="button"
            className="chip"
            aria-pressed={verdict === v}
            onClick={() => choose(v)}
          >
            {verdictWords[v]} {sayCount(counts[v])}
          </button>
        ))}
        <chakra.input
          width="220px"
          placeholder="Find in the rows"
          aria-label="Find in the rows"
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setOffset(0);
          }}
        />
        {counts.rejected > 0 && (
          <a href={addressOf('GET /api/imports/:id/rejected.csv', { id: summary.id })}>
            Rejected rows as CSV
          </a>
        )}
      </div>
      <Loaded of={rows}>
        {({ rows: list, total }) => (
          <>
            <Table
              label="Rows of the file"
              rows={list}
              columns={columns}
              keyOf={(r) => String(r.line)}
              open={setShown}
              empty="No row of this kind."
              height="60vh"
            />
            {total > pageSize && (
              <p className="tools num">
                Rows {offset + 1} to {Math.min(total, offset + pageSize)} of {total}
                <Button disabled={offset === 0} onClick={() => setOffset(offset - pageSize)}>
                  Earlier
                </Button>
                <Button disabled={offset + pageSize >= total} onClick={() => setOffset(offset + pageSize)}>
                  Later
                </Button>
              </p>
            )}
          </>
        )}
      </Loaded>
      {shown && (
        <ImportRowSheet key={shown.line} summary={summary} row={shown} close={() => setShown(null)} />
      )}
    </>
  );
}

const rowColumns = (country: string): Column<ImportRow>[] => [
  {
    id: 'line',
    heading: 'Line',
    number: true,
    width: '56px',
    sortBy: (r) => r.ofLine ?? r.line,
    cell: (r) => r.ofLine ?? r.line,
  },
  {
    id: 'name',
    heading: 'Name',
    width: '19%',
    sortBy: (r) => r.name.toLowerCase(),
    cell: (r) => (
      <>
        <span className="name">{r.name}</span>
        {r.part !== 'own' && <small className="soft"> {partWords[r.part]}</small>}
      </>
    ),
  },
  {
    id: 'verdict',
    heading: 'Becomes',
    width: '110px',
    sortBy: (r) => r.verdict,
    cell: (r) => (
      <span className={r.verdict === 'rejected' ? 'late' : r.verdict === 'look' ? 'need' : ''}>
        {r.excluded ? 'Left out' : verdictWords[r.verdict]}
      </span>
    ),
  },
  {
    id: 'why',
    heading: 'What and why',
    cell: (r) => (
      <>
        {r.contactName && (
          <>
            <Person id={r.contactId} name={r.contactName} />
            {': '}
          </>
        )}
        {r.changes
          .filter((c) => c.applied)
          .map((c) => (
            <span key={`${c.field}${c.after}`}>
              {c.field} {c.before && c.field !== 'tags' ? `${c.before} → ` : '+ '}
              {c.after};{' '}
            </span>
          ))}
        {r.verdict === 'new' && [r.email, r.phone && sayPhone(r.phone, country)].filter(Boolean).join(' · ')}{' '}
        <span className="soft">{r.reasons.join('; ')}</span>
      </>
    ),
  },
];
