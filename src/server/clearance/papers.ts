import type { Queries } from '../db/database.ts';

export interface PaperRow {
  id: string;
  fileId: string;
  documentId: string | null;
  label: string;
  name: string;
  bytes: number;
  broughtBy: string | null;
  at: string;
}

/** The papers that approvers of an event read, in the order they came. */
export const readPapers = (tx: Queries, eventId: string): Promise<PaperRow[]> =>
  tx.query<PaperRow>(
    `select p.id, p.file_id, p.document_id, p.label, f.name, length(f.content)::int as bytes, s.name as brought_by, p.at
     from clearance_files p join files f on f.id = p.file_id left join staff s on s.id = p.brought_by
     where p.event_id = $1 and p.removed_at is null order by p.at, p.id`,
    [eventId],
  );
