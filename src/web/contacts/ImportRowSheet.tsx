import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { ImportRow, ImportSummary } from '#contract/imports.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { Problems } from '../kit/notices.tsx';
import { useAction } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';

/** One row of a file: put its cells right, say who it is, or leave it out. */
export function ImportRowSheet({
  summary,
  row,
  close,
}: {
  summary: ImportSummary;
  row: ImportRow;
  close: () => void;
}) {
  const [cells, setCells] = useState(row.cells);
  const patch = useAction('PATCH /api/imports/:id/rows/:line', close);
  const put = (body: { cells?: Record<string, string>; excluded?: boolean; decision?: string | null }) =>
    patch.mutate({ params: { id: summary.id, line: String(row.line) } as never, body });
  const changed = Object.fromEntries(
    cells.flatMap((c, at) => (c === row.cells[at] ? [] : [[String(at), c]])),
  );
  const open = summary.state === 'checked';
  const { decided } = row;
  return (
    <Asking
      open
      wide
      close={close}
      title={`Line ${row.ofLine ?? row.line}: ${row.name || 'no name'}`}
      actions={
        open && (
          <>
            <Button
              look="main"
              disabled={!Object.keys(changed).length || patch.isPending}
              onClick={() => put({ cells: changed })}
            >
              Save these cells
            </Button>
            <Button onClick={() => put({ excluded: !row.excluded })}>
              {row.excluded ? 'Take the row in again' : 'Leave this row out'}
            </Button>
          </>
        )
      }
    >
      <Problems of={patch.problem} />
      {row.reasons.length > 0 && <p className="soft">{row.reasons.join('; ')}</p>}
      {row.contactName && (
        <chakra.p margin="8px 0" display="flex" gap="12px" alignItems="baseline" flexWrap="wrap">
          <span>
            {row.verdict === 'look' ? 'May be ' : 'Is '}
            <Person id={row.contactId} name={row.contactName} />
          </span>
          {open && row.verdict === 'look' && (
            <>
              <Button onClick={() => put({ decision: row.contactId })}>It is {row.contactName}</Button>
              <Button onClick={() => put({ decision: 'new' })}>A new person</Button>
            </>
          )}
          {open && row.verdict !== 'look' && !decided && (
            <Button onClick={() => put({ decision: 'new' })}>Somebody else</Button>
          )}
        </chakra.p>
      )}
      {open && decided && <Button onClick={() => put({ decision: null })}>Take the decision back</Button>}
      {row.changes.length > 0 && (
        <chakra.div className="table" maxHeight="200px">
          <table>
            <thead>
              <tr>
                <th>Field</th>
                <th>Has now</th>
                <th>In the file</th>
                <th>Becomes</th>
              </tr>
            </thead>
            <tbody>
              {row.changes.map((c) => (
                <tr key={`${c.field}${c.after}`}>
                  <td>{c.field}</td>
                  <td>{c.before ?? <span className="soft">nothing</span>}</td>
                  <td>{c.after}</td>
                  <td className={c.applied ? '' : 'soft'}>{c.applied ? 'taken' : c.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </chakra.div>
      )}
      {row.part !== 'own' && (
        <p className="soft">These are the cells of line {row.ofLine}, which names others too.</p>
      )}
      <div className="cells">
        {summary.headings.map((heading, at) => (
          <label key={heading}>
            <span className="soft">{heading}</span>
            <input
              value={cells[at] ?? ''}
              readOnly={!open}
              onChange={(e) => setCells(cells.map((c, x) => (x === at ? e.target.value : c)))}
            />
          </label>
        ))}
      </div>
    </Asking>
  );
}
