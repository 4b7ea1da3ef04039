import { fullName } from '#core/contacts/names.ts';
import {
  type AttendanceRow,
  type FileFrame,
  type Meant,
  meantBy,
  type Named,
  readAttendance,
  staysTogether,
} from '#core/doors/attendanceFile.ts';
import { marksOfEvent, presenceOf, type Stay } from '#core/doors/marks.ts';
import { readTable, TableProblem } from '#core/exchange/table.ts';
import { dateOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { insert, type Queries, update } from '../db/database.ts';
import { sha256 } from '../db/ids.ts';
import type { EventRow } from '../events/store.ts';
import { invalid, notFound, refused } from '../http/problem.ts';
import { readSeat } from '../registration/store.ts';
import { isTaken, marksOfList, seatsNamed, theList } from './attendanceStore.ts';
import { assertUnlocked, keepPresence } from './commands.ts';
import { doorDaysOf, doorSessions } from './days.ts';
import { keepMark, marksOf } from './store.ts';

/** A list as it is sent. */
interface Sent {
  fileName: string;
  /** Its bytes in base64. */
  content: string;
  sessionId: string | null;
}

interface ListRead {
  columns: string[];
  frame: FileFrame;
  people: Named[];
  rows: (AttendanceRow & Meant)[];
}

/** Reads a list of who was at an event, or at one of its sessions, and whom its rows name. Throws where the file cannot be read. */
export async function readList(
  tx: Queries,
  event: EventRow,
  { content, sessionId }: Sent,
): Promise<ListRead> {
  const frame = await frameOf(tx, event, sessionId);
  const people = await seatsNamed(tx, event.id);
  const table = (() => {
    try {
      return readTable(Buffer.from(content, 'base64'));
    } catch (error) {
      if (error instanceof TableProblem)
        throw invalid([wrongAt('content', error.said.code, error.said.params)]);
      throw error;
    }
  })();
  const { rows, columns, problem } = readAttendance(table, frame);
  if (problem) throw invalid([wrongAt('content', problem)]);
  return { columns, frame, people, rows: rows.map((row) => ({ ...row, ...meantBy(row, people) })) };
}

/** When what a list is about takes place: an event from the start of its first day to the end of its last. */
async function frameOf(tx: Queries, event: EventRow, sessionId: string | null): Promise<FileFrame> {
  const { zone } = event;
  if (sessionId) {
    const session = (await doorSessions(tx, event)).find((s) => s.id === sessionId);
    if (!session) throw refused('session-elsewhere');
    return { from: session.from, until: session.until, dates: [dateOf(session.from, zone)], zone };
  }
  const days = await doorDaysOf(tx, event);
  const [first] = days;
  if (!first) throw refused('doors-not-begun');
  return { from: first.from, until: days.at(-1)!.until, dates: days.map((d) => d.date), zone };
}

/** What is shown of a list before it is taken. */
export const listShown = ({ rows, people, columns }: ListRead, say: (problem: string) => string) => {
  const named = new Map(people.map((p) => [p.registrationId, fullName(p)]));
  return {
    columns,
    rows: rows.map((r) => ({
      line: r.line,
      said: [r.name, r.email].filter(Boolean).join(', '),
      from: r.stay?.from ?? null,
      until: r.stay?.until ?? null,
      registrationId: r.sure,
      maybe: [...(r.sure ? [r.sure] : []), ...r.maybe].map((id) => ({
        registrationId: id,
        name: named.get(id) ?? '',
      })),
      problem: r.problem && say(r.problem),
      absent: r.stay === null && r.problem === null,
    })),
  };
};

/** Takes a list: each person is marked with the times that their rows come to together, beside what was marked at the doors. */
export async function takeList(
  w: Work,
  event: EventRow,
  sent: Sent & { chosen: Record<string, string | null> },
): Promise<{ id: string; people: number }> {
  const { tx, app, now } = w;
  await assertUnlocked(w, event);
  const { rows, frame, people } = await readList(tx, event, sent);
  if (frame.from > now) throw refused('doors-not-begun');
  const known = new Set(people.map((p) => p.registrationId));
  const stays = new Map<string, Stay[]>();
  for (const row of rows) {
    const said = sent.chosen[String(row.line)];
    const who = said === undefined ? row.sure : said;
    if (!who || !row.stay) continue;
    if (!known.has(who)) throw invalid([wrongAt(`chosen.${row.line}`, 'thing-gone', { what: 'person' })]);
    stays.set(who, [...(stays.get(who) ?? []), row.stay]);
  }
  if (!stays.size) throw refused('nobody-on-list');
  const hash = sha256(sent.content);
  if (await isTaken(tx, event.id, sent.sessionId, hash)) throw refused('list-twice');
  const id = app.ids.id();
  await insert(tx, 'attendance_imports', {
    sha256: hash,
    id,
    eventId: event.id,
    sessionId: sent.sessionId,
    fileName: sent.fileName,
    rows: rows.length,
    people: stays.size,
    staffId: w.actor.staffId,
    actor: w.actor.name,
    at: now,
  });
  for (const [registrationId, theirs] of stays) {
    const seat = await readSeat(tx, registrationId);
    const marks = await marksOf(tx, registrationId);
    const at = (state: 'arrived' | 'left', moment: string) => ({
      id: app.ids.id(),
      state,
      at: moment,
      undoes: [],
      sessionId: sent.sessionId,
    });
    // While it goes on, whoever is there to the end has not left yet.
    const made = staysTogether(theirs, frame.until).flatMap(({ from, until }) =>
      from > now ? [] : [at('arrived', from), ...(until! <= now ? [at('left', until!)] : [])],
    );
    for (const mark of made)
      await keepMark(tx, {
        ...mark,
        registrationId,
        staffId: w.actor.staffId,
        actor: w.actor.name,
        device: sent.fileName.slice(0, 60),
        toldAt: now,
        importId: id,
      });
    await keepPresence(w, event, seat, [...marks, ...made], presenceOf(marksOfEvent(marks)));
  }
  await record(w, 'attendance list taken', {
    eventId: event.id,
    importId: id,
    fileName: sent.fileName,
    people: stays.size,
  });
  return { id, people: stays.size };
}

/** The event of a list; throws 404 where there is none of that id. */
export async function eventOfList(tx: Queries, id: string): Promise<string> {
  const list = await theList(tx, id);
  if (!list) throw notFound('This list');
  return list.eventId;
}

/** Takes back what a list marked; what was marked at the doors stays. */
export async function undoList(w: Work, event: EventRow, id: string): Promise<void> {
  const { tx, app, now } = w;
  const list = (await theList(tx, id))!;
  if (list.undoneAt) throw refused('list-taken-back');
  await assertUnlocked(w, event);
  for (const { registrationId, ids } of await marksOfList(tx, id)) {
    const seat = await readSeat(tx, registrationId);
    const marks = await marksOf(tx, registrationId);
    const undo = { id: app.ids.id(), state: 'expected' as const, at: now, undoes: ids, sessionId: null };
    await keepMark(tx, {
      ...undo,
      registrationId,
      staffId: w.actor.staffId,
      actor: w.actor.name,
      device: list.fileName.slice(0, 60),
      toldAt: now,
    });
    await keepPresence(w, event, seat, [...marks, undo], presenceOf(marksOfEvent(marks)));
  }
  await update(tx, 'attendance_imports', id, { undoneAt: now });
  await record(w, 'attendance list undone', { eventId: event.id, importId: id, fileName: list.fileName });
}
