import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import type { ImportRow, ImportSummary } from '#contract/imports.ts';
import { Button } from '#web/kit/Button.tsx';
import { Phrase } from '#web/words/Phrase.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { TextField } from '../kit/Field.tsx';
import { Problems } from '../kit/notices.tsx';
import { useAction } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';

const cellsLook: SystemStyleObject = {
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fill, minmax(210px, 1fr))',
  gap: '8px 12px',
  marginTop: '12px',
};

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
      title={phrase('contacts.lineAndName', {
        ofLine: row.ofLine ?? row.line,
        name: row.name || phrase('contacts.noName'),
      })}
      actions={
        open && (
          <>
            <Button
              look="main"
              disabled={!Object.keys(changed).length || patch.isPending}
              onClick={() => put({ cells: changed })}
            >
              {phrase('contacts.saveTheseCells')}
            </Button>
            <Button onClick={() => put({ excluded: !row.excluded })}>
              {row.excluded ? phrase('contacts.takeTheRowIn') : phrase('contacts.leaveThisRowOut')}
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
            <Phrase
              of={row.verdict === 'look' ? 'contacts.mayBe' : 'contacts.isWho'}
              with={{ who: <Person id={row.contactId} name={row.contactName} /> }}
            />
          </span>
          {open && row.verdict === 'look' && (
            <>
              <Button onClick={() => put({ decision: row.contactId })}>
                {phrase('contacts.itIs', { contactName: row.contactName })}
              </Button>
              <Button onClick={() => put({ decision: 'new' })}>{phrase('contacts.aNewPerson')}</Button>
            </>
          )}
          {open && row.verdict !== 'look' && !decided && (
            <Button onClick={() => put({ decision: 'new' })}>{phrase('contacts.somebodyElse')}</Button>
          )}
        </chakra.p>
      )}
      {open && decided && (
        <Button onClick={() => put({ decision: null })}>{phrase('contacts.takeTheDecisionBack')}</Button>
      )}
      {row.changes.length > 0 && (
        <chakra.div className="table" maxHeight="200px">
          <table>
            <thead>
              <tr>
                <th>{phrase('common.field')}</th>
                <th>{phrase('contacts.hasNow')}</th>
                <th>{phrase('contacts.inTheFile')}</th>
                <th>{phrase('contacts.becomes')}</th>
              </tr>
            </thead>
            <tbody>
              {row.changes.map((c) => (
                <tr key={`${c.field}${c.after}`}>
                  <td>{c.field}</td>
                  <td>{c.before ?? <span className="soft">{phrase('common.nothing')}</span>}</td>
                  <td>{c.after}</td>
                  <td className={c.applied ? '' : 'soft'}>
                    {c.applied ? phrase('contacts.isTaken') : c.why}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </chakra.div>
      )}
      {row.part !== 'own' && (
        <p className="soft">{phrase('contacts.theseAreTheCells', { ofLine: row.ofLine ?? row.line })}</p>
      )}
      <chakra.div css={cellsLook}>
        {summary.headings.map((heading, at) => (
          <TextField
            key={heading}
            label={heading}
            value={cells[at] ?? ''}
            readOnly={!open}
            set={(text) => setCells(cells.map((c, x) => (x === at ? text : c)))}
          />
        ))}
      </chakra.div>
    </Asking>
  );
}
