import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import type { PaperRow } from '../clearance/papers.ts';
import { readPapers } from '../clearance/papers.ts';
import { insert, update } from '../db/database.ts';
import { filesById } from '../files/store.ts';
import { notFound } from '../http/problem.ts';

/** The file of a paper; 404 where an event has no such paper. */
export function filePaper(papers: readonly PaperRow[], paperId: string): string {
  const paper = papers.find((p) => p.id === paperId);
  if (!paper) throw notFound('This file');
  return paper.fileId;
}

/** Adds a file that was kept as a paper. The same file as the same document is one paper. */
export async function addPaper(
  w: Work,
  eventId: string,
  { fileId, documentId, label }: { fileId: string; documentId: string | null; label: string },
): Promise<void> {
  const [file] = await filesById(w.tx, [fileId]);
  if (!file) throw notFound('This file');
  const there = await readPapers(w.tx, eventId);
  if (there.some((p) => p.fileId === fileId && p.documentId === documentId)) return;
  await insert(w.tx, 'clearance_files', {
    id: w.app.ids.id(),
    eventId,
    documentId,
    label: label || file.name,
    fileId,
    broughtBy: w.actor.staffId,
    at: w.now,
    removedAt: null,
  });
  await record(w, 'clearance spoken of', {
    eventId,
    how: 'added a paper to a clearance',
    detail: { name: file.name },
  });
}

/** Takes a paper off; the file itself stays for as long as anything else needs it. */
export async function removePaper(w: Work, eventId: string, paperId: string): Promise<void> {
  filePaper(await readPapers(w.tx, eventId), paperId);
  await update(w.tx, 'clearance_files', paperId, { removedAt: w.now });
  await record(w, 'clearance spoken of', { eventId, how: 'took a paper off a clearance' });
}
