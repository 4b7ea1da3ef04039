import { useState } from 'react';
import type { Answer } from '#web/api.ts';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { type Column, Table } from '../kit/Table.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { MailingResults } from './MailingResults.tsx';

type Mailing = Answer<'GET /api/mailings'>[number];

/** Messages written to many at once, with what became of their copies. */
export function Mailings() {
  const [open, setOpen] = useState<string | null>(null);
  const mailings = useAsk('GET /api/mailings', { everyMs: 10_000 });
  const { at } = useSaying();
  const count = (id: string, heading: string, of: (m: Mailing) => number): Column<Mailing> => ({
    id,
    heading,
    number: true,
    sortBy: of,
    cell: of,
  });
  const columns: Column<Mailing>[] = [
    {
      id: 'at',
      heading: phrase('tray.goes'),
      width: '150px',
      sortBy: (m) => m.goesAt,
      cell: (m) => at(m.goesAt),
    },
    {
      id: 'name',
      heading: phrase('common.name'),
      sortBy: (m) => m.name,
      cell: (m) => <span className="name">{m.name}</span>,
    },
    { id: 'subject', heading: phrase('common.subject'), sortBy: (m) => m.subject, cell: (m) => m.subject },
    { id: 'topic', heading: phrase('tray.about'), sortBy: (m) => m.topic, cell: (m) => m.topic },
    { id: 'by', heading: phrase('common.byWhom'), sortBy: (m) => m.by ?? '', cell: (m) => m.by },
    count('planned', phrase('tray.toGo'), (m) => m.planned),
    count('sent', phrase('common.sent'), (m) => m.sent),
    count('failed', phrase('tray.failed'), (m) => m.failed),
    count('held', phrase('common.leftOut'), (m) => m.heldBack),
  ];
  return (
    <Loaded of={mailings}>
      {(rows) => (
        <>
          <Table
            label={phrase('tray.mailings')}
            rows={rows}
            columns={columns}
            keyOf={(m) => m.id}
            open={(m) => setOpen(m.id)}
            empty={phrase('tray.nothingWasWrittenTo')}
          />
          {open && <MailingResults id={open} close={() => setOpen(null)} />}
        </>
      )}
    </Loaded>
  );
}
