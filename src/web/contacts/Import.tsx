import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { ImportRow, ImportSummary } from '#contract/contacts.ts';
import { type ColumnMeaning, columnMeanings } from '#core/contacts/importing.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAsk, useDo } from '../parts/ask.ts';
import { Asked, Problems } from '../parts/notices.tsx';
import { Person } from '../parts/Person.tsx';
import { useSaying } from '../parts/saying.ts';
import { type Column, Table } from '../parts/Table.tsx';

const verdictWords = {
  new: 'New',
  known: 'Already known',
  look: 'Needs a look',
  rejected: 'Rejected',
} as const;
type Verdict = keyof typeof verdictWords;

/** One import: what the columns mean, what would become of every row, apply, undo. */
export default function Import() {
  const { id = '' } = useParams();
  return (
    <div className="page">
      <Asked of={useAsk('GET /api/imports/:id', { params: { id } })}>
        {(summary) => <Shown summary={summary} />}
      </Asked>
    </div>
  );
}

function Shown({ summary }: { summary: ImportSummary }) {
  const { at } = useSaying();
  const navigate = useNavigate();
  const [verdict, setVerdict] = useState<Verdict | ''>('');
  const [confirming, setConfirming] = useState<'apply' | 'undo' | null>(null);
  const rows = useAsk('GET /api/imports/:id/rows', {
    params: { id: summary.id },
    query: { verdict: verdict || undefined },
  });
  const map = useDo('PUT /api/imports/:id/mapping');
  const close = () => setConfirming(null);
  const apply = useDo('POST /api/imports/:id/apply', close);
  const undo = useDo('POST /api/imports/:id/undo', close);
  const discard = useDo('DELETE /api/imports/:id', () => navigate('/import'));
  const { counts } = summary;
  const all = counts.new + counts.known + counts.look + counts.rejected;
  const open = summary.state === 'checked';
  const columns: Column<ImportRow>[] = [
    { id: 'line', heading: 'Line', number: true, width: '56px', sortBy: (r) => r.line, cell: (r) => r.line },
    {
      id: 'name',
      heading: 'Name',
      sortBy: (r) => r.name.toLowerCase(),
      cell: (r) => <span className="name">{r.name}</span>,
    },
    { id: 'email', heading: 'Email', sortBy: (r) => r.email ?? '', cell: (r) => r.email },
    {
      id: 'verdict',
      heading: 'Becomes',
      sortBy: (r) => r.verdict,
      cell: (r) => (
        <span className={r.verdict === 'rejected' ? 'late' : r.verdict === 'look' ? 'need' : ''}>
          {verdictWords[r.verdict]}
        </span>
      ),
    },
    {
      id: 'why',
      heading: 'Why',
      cell: (r) => (
        <>
          {r.contactName && (
            <>
              <Person id={r.contactId} name={r.contactName} />
              {': '}
            </>
          )}
          <span className="soft">{r.reasons.join('; ')}</span>
        </>
      ),
    },
  ];
  return (
    <>
      <p>
        <Link to="/import">Bring people in</Link>
      </p>
      <div className="spread">
        <h1>{summary.fileName}</h1>
        <div className="acts">
          {open && (
            <>
              <button
                type="button"
                className="btn plain"
                onClick={() => discard.mutate({ params: { id: summary.id } })}
              >
                Throw away
              </button>
              <button type="button" className="btn primary" onClick={() => setConfirming('apply')}>
                Apply
              </button>
            </>
          )}
          {summary.state === 'applied' && (
            <button type="button" className="btn stop" onClick={() => setConfirming('undo')}>
              Undo this import
            </button>
          )}
        </div>
      </div>
      <p className="soft num">
        {all} rows · {summary.encoding},{' '}
        {summary.delimiter === '\t' ? 'tabs' : `“${summary.delimiter}” between cells`}, heading in line{' '}
        {summary.headingLine}
        {summary.appliedAt && ` · applied ${at(summary.appliedAt)}`}
        {summary.undoneAt && ` · undone ${at(summary.undoneAt)}`}
      </p>
      {open && summary.appliedBefore && (
        <p className="note need" style={{ marginTop: 10 }}>
          This very file was applied on {at(summary.appliedBefore.at)}. Applying it again adds nobody twice.
        </p>
      )}
      <Problems of={map.problem ?? apply.problem ?? undo.problem} />
      {open && (
        <details open style={{ margin: '12px 0' }}>
          <summary className="name" style={{ cursor: 'pointer', fontSize: 16 }}>
            What the columns mean
          </summary>
          <div className="table" style={{ maxHeight: 'none' }}>
            <table>
              <thead>
                <tr>
                  {summary.headings.map((h) => (
                    <th key={h}>{h}</th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <tr>
                  {summary.headings.map((h, n) => (
                    <td key={h}>
                      <select
                        aria-label={`Meaning of ${h}`}
                        style={{
                          fontSize: 13,
                          padding: '2px 4px',
                          minWidth: 96,
                          borderColor:
                            summary.mapping.columns[n] === 'leave' ? 'var(--line)' : 'var(--verdigris)',
                        }}
                        value={summary.mapping.columns[n]}
                        disabled={map.isPending}
                        onChange={(e) =>
                          map.mutate({
                            params: { id: summary.id },
                            body: {
                              ...summary.mapping,
                              columns: summary.mapping.columns.map((c, x) =>
                                x === n ? (e.target.value as ColumnMeaning) : c,
                              ),
                            },
                          })
                        }
                      >
                        {columnMeanings.map((m) => (
                          <option key={m} value={m}>
                            {m === 'leave' ? 'leave out' : m}
                          </option>
                        ))}
                      </select>
                    </td>
                  ))}
                </tr>
                {summary.sample.slice(0, 2).map((cells, n) => (
                  <tr key={n}>
                    {cells.map((c, x) => (
                      <td
                        key={x}
                        className="soft"
                        style={{
                          maxWidth: 130,
                          overflow: 'hidden',
                          textOverflow: 'ellipsis',
                          whiteSpace: 'nowrap',
                        }}
                      >
                        {c}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {summary.mapping.columns.includes('birth date') && (
            <label
              style={{ fontSize: 14, display: 'inline-flex', gap: 8, alignItems: 'center', marginTop: 8 }}
            >
              Dates read
              <select
                style={{ width: 'auto' }}
                value={summary.mapping.dateOrder}
                onChange={(e) =>
                  map.mutate({
                    params: { id: summary.id },
                    body: { ...summary.mapping, dateOrder: e.target.value as 'day first' },
                  })
                }
              >
                <option>day first</option>
                <option>month first</option>
              </select>
            </label>
          )}
        </details>
      )}
      <div className="tools">
        <button type="button" className="chip" aria-pressed={verdict === ''} onClick={() => setVerdict('')}>
          All {all}
        </button>
        {(Object.keys(verdictWords) as Verdict[]).map((v) => (
          <button
            key={v}
            type="button"
            className="chip"
            aria-pressed={verdict === v}
            onClick={() => setVerdict(v)}
          >
            {verdictWords[v]} {counts[v]}
          </button>
        ))}
      </div>
      <Asked of={rows}>
        {(list) => (
          <Table
            label="Rows of the file"
            rows={list}
            columns={columns}
            keyOf={(r) => String(r.line)}
            empty="No row of this kind."
            height="60vh"
          />
        )}
      </Asked>
      <Asking
        open={confirming === 'apply'}
        close={close}
        title={`Apply ${summary.fileName}?`}
        actions={
          <button
            type="button"
            className="btn primary"
            disabled={apply.isPending}
            onClick={() => apply.mutate({ params: { id: summary.id } })}
          >
            {apply.isPending ? 'Applying …' : `Apply ${all - counts.rejected} rows`}
          </button>
        }
      >
        <p>
          {counts.new + counts.look} people become contacts
          {counts.look > 0 && `, ${counts.look} of them although they may be known already`}. {counts.known}{' '}
          who are known get what they lack; nothing they have is changed. {counts.rejected} rows are left out.
          It can be undone.
        </p>
      </Asking>
      <Asking
        open={confirming === 'undo'}
        close={close}
        title="Undo this import?"
        actions={
          <button
            type="button"
            className="btn stop"
            disabled={undo.isPending}
            onClick={() => undo.mutate({ params: { id: summary.id } })}
          >
            {undo.isPending ? 'Undoing …' : 'Undo it'}
          </button>
        }
      >
        <p>
          Contacts it made are removed and what it filled in is taken back. Contacts that something hangs on
          by now are kept and named.
        </p>
      </Asking>
      {undo.data && undo.data.kept.length > 0 && (
        <div className="note need">
          <p>
            {undo.data.removed} contacts were removed, {undo.data.kept.length} kept:
          </p>
          {undo.data.kept.map((k) => (
            <p key={k}>{k}</p>
          ))}
        </div>
      )}
    </>
  );
}
