import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { ImportRow, ImportSummary } from '#contract/imports.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { ListViews } from '../kit/ListViews.tsx';
import { Note } from '../kit/Note.tsx';
import { NothingFound } from '../kit/NothingFound.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { Paging } from '../kit/Paging.tsx';
import { Progress } from '../kit/Progress.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { ImportColumns } from './ImportColumns.tsx';
import { ImportRowSheet } from './ImportRowSheet.tsx';

const verdictWords = {
  new: phrase('contacts.newRows'),
  changes: phrase('contacts.changes'),
  same: phrase('contacts.same'),
  look: phrase('contacts.toReview'),
  rejected: phrase('contacts.rejected'),
} as const;
/** Who else a line of the file names. */
const partWords = {
  partner: phrase('contacts.alsoNamedThere'),
  guardian: phrase('contacts.theGuardian'),
  'other guardian': phrase('contacts.theGuardian'),
} as const;
type Verdict = keyof typeof verdictWords;
const pageSize = 500;

/** One import: what the columns mean, what would become of every row, apply, undo. */
export default function Import() {
  const { id = '' } = useParams();
  const summary = useAsk('GET /api/imports/:id', {
    params: { id },
    everyMs: (of) => (!of || ['checking', 'applying', 'undoing'].includes(of.state) ? 500 : undefined),
  });
  return (
    <div className="page">
      <Loaded of={summary}>{(s) => <Shown summary={s} />}</Loaded>
    </div>
  );
}

const delimiterWords = (delimiter: string): string =>
  delimiter === 'vCard'
    ? phrase('contacts.anAddressBook')
    : delimiter === '\t'
      ? phrase('contacts.tabsBetweenCells')
      : phrase('contacts.betweenCells', { delimiter });

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
        ? phrase('contacts.contactsWereChangedSince')
        : phrase('contacts.wasApplied', { fileName: summary.fileName }),
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
        <Link to="/import">{phrase('common.importContacts')}</Link>
      </p>
      <div className="spread">
        <h1>{summary.fileName}</h1>
        <div className="acts">
          {['checking', 'checked', 'cancelled'].includes(summary.state) && (
            <Button look="plain" onClick={() => discard.mutate({ params })}>
              {phrase('common.deleteIt')}
            </Button>
          )}
          {open && (
            <Button look="main" disabled={all === counts.rejected} onClick={() => setConfirming('apply')}>
              {phrase('contacts.apply')}
            </Button>
          )}
          {summary.state === 'applied' && (
            <Button look="stop" onClick={() => setConfirming('undo')}>
              {phrase('contacts.undoThisImport')}
            </Button>
          )}
        </div>
      </div>
      <p className="soft num">
        {[
          phrase('contacts.aboutTheFile', {
            allRows: summary.allRows,
            encoding: summary.encoding,
            delimiter: delimiterWords(summary.delimiter),
          }),
          summary.headingLine > 0
            ? phrase('contacts.headingInLine', { line: summary.headingLine })
            : summary.delimiter !== 'vCard' && phrase('contacts.noHeading'),
          summary.appliedAt && phrase('contacts.applied', { appliedAt: at(summary.appliedAt) }),
          summary.undoneAt && phrase('contacts.undone', { undoneAt: at(summary.undoneAt) }),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {open && summary.appliedBefore && (
        <Note as="p" tone="need" marginTop="10px">
          {phrase('contacts.thisVeryFileWas', { at: at(summary.appliedBefore.at) })}
        </Note>
      )}
      {summary.state === 'cancelled' && (
        <Note as="p" tone="need" marginTop="10px">
          {phrase('contacts.theCheckWasStopped')}{' '}
          <Button
            look="link"
            onClick={() => map.mutate({ params, body: { ...summary.mapping, choices: summary.choices } })}
          >
            {phrase('contacts.checkItAgain')}
          </Button>
        </Note>
      )}
      <Problems of={map.problem ?? (confirming ? null : apply.problem) ?? undo.problem} />
      {(summary.state === 'applying' || summary.state === 'undoing') && (
        <Progress
          words={
            summary.state === 'applying' ? phrase('contacts.rowsApplied') : phrase('contacts.rowsTakenBack')
          }
          done={summary.doneRows}
          all={summary.allRows}
        />
      )}
      {summary.state === 'checking' && (
        <Progress
          words={phrase('contacts.comparingEveryRowWith')}
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
            <b>{phrase('contacts.leftAloneWhenIt')}</b>
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
        title={phrase('contacts.applyFile', { fileName: summary.fileName })}
        actions={
          <Button look="main" disabled={apply.isPending} onClick={() => apply.mutate({ params })}>
            {apply.isPending
              ? phrase('contacts.applying')
              : phrase('contacts.applyRows', { all: all - counts.rejected })}
          </Button>
        }
      >
        <Problems of={apply.problem} />
        <p>
          {[
            counts.new + counts.look > 0 &&
              phrase('contacts.peopleBecomeContacts', { new: counts.new + counts.look }),
            counts.look > 0 && phrase('contacts.ofThemAlthoughThey', { look: counts.look }),
            counts.changes > 0 && phrase('contacts.whoAreKnownGet', { changes: counts.changes }),
            counts.same > 0 && phrase('contacts.rowsChangeNothing', { same: counts.same }),
            counts.rejected > 0 && phrase('contacts.rowsLeftOut', { rejected: counts.rejected }),
            phrase('contacts.canBeUndone'),
          ]
            .filter(Boolean)
            .join(' ')}
        </p>
        {all > 3000 && !apply.isPending && (
          <p className="soft">
            {phrase('contacts.aboutSecondsNobodyElse', {
              value: Math.max(5, Math.round(all / 1500 / 5) * 5),
            })}
          </p>
        )}
        <Underway id={summary.id} words={phrase('common.written')} />
      </Asking>
      <Asking
        open={confirming === 'undo'}
        close={close}
        title={phrase('contacts.undoThisImportAsk')}
        actions={
          <Button look="stop" disabled={undo.isPending} onClick={() => undo.mutate({ params })}>
            {undo.isPending ? phrase('contacts.undoing') : phrase('contacts.undoIt')}
          </Button>
        }
      >
        <p>{phrase('contacts.contactsItMadeAre')}</p>
        <Underway id={summary.id} words={phrase('contacts.removed')} />
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
        <ListViews
          label={phrase('common.show')}
          value={verdict}
          set={choose}
          views={[
            { value: '', label: phrase('contacts.allRows'), count: all },
            ...(Object.keys(verdictWords) as Verdict[]).map((v) => ({
              value: v,
              label: verdictWords[v],
              count: counts[v],
            })),
          ]}
        />
        <InlineText
          label={phrase('contacts.findInTheRows')}
          placeholder={phrase('contacts.findInTheRows')}
          width="220px"
          value={typed}
          set={(text) => {
            setTyped(text);
            setOffset(0);
          }}
        />
        {counts.rejected > 0 && (
          <a href={addressOf('GET /api/imports/:id/rejected.csv', { id: summary.id })}>
            {phrase('contacts.rejectedRowsAsCsv', { n: counts.rejected })}
          </a>
        )}
      </div>
      <Loaded of={rows}>
        {({ rows: list, total }) => (
          <>
            <Table
              label={phrase('contacts.rowsOfTheFile')}
              rows={list}
              columns={columns}
              keyOf={(r) => String(r.line)}
              open={setShown}
              empty={
                <NothingFound
                  ways={[
                    ...(typed
                      ? [{ label: phrase('contacts.withoutWords', { q: typed }), run: () => setTyped('') }]
                      : []),
                    ...(verdict ? [{ label: phrase('contacts.showAllRows'), run: () => choose('') }] : []),
                  ]}
                >
                  {phrase('contacts.noRowOfThis')}
                </NothingFound>
              }
              height="60vh"
            />
            <Paging offset={offset} size={pageSize} shown={list.length} total={total} set={setOffset} />
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
    heading: phrase('contacts.line'),
    number: true,
    width: '56px',
    sortBy: (r) => r.ofLine ?? r.line,
    cell: (r) => r.ofLine ?? r.line,
  },
  {
    id: 'name',
    heading: phrase('common.name'),
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
    heading: phrase('contacts.becomes'),
    width: '110px',
    sortBy: (r) => r.verdict,
    cell: (r) => (
      <span className={r.verdict === 'rejected' ? 'late' : r.verdict === 'look' ? 'need' : ''}>
        {r.excluded ? phrase('common.leftOut') : verdictWords[r.verdict]}
      </span>
    ),
  },
  {
    id: 'why',
    heading: phrase('contacts.whatAndWhy'),
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
