import type { PlaceDiary } from '#contract/places.ts';
import { type Diary, DiaryProblem } from '#core/exchange/diary.ts';
import type { Span } from '#core/places/booking.ts';
import { plusMinutes } from '#core/time/clock.ts';
import { wrongAt } from '#core/words/problems.ts';
import { type App, inTransaction, systemActor, type Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { first, insert, type Queries, update } from '../db/database.ts';
import { invalid, notFound } from '../http/problem.ts';
import { theOrganization } from '../staff/store.ts';
import { isMadeUp, readStandin } from '../standins/diaries.ts';
import { inThread } from '../threads/threads.ts';
import { fetchText } from './fetching.ts';

/** Minutes between two readings of an address, and after one that failed. */
const again = { read: 360, failed: 60 } as const;
/** Days behind and ahead of now that are kept of a diary. */
const kept = { behind: 2, ahead: 550 } as const;

interface DiaryRow {
  id: string;
  venueId: string;
  name: string;
  address: string | null;
}

export const readDiaries = (tx: Queries, venueId: string): Promise<PlaceDiary[]> =>
  tx.query<PlaceDiary>(
    `select d.id, d.name, d.address, d.room_id, d.read_at, d.problem, d.entries, d.unread, d.unknown_zones from diaries d
     where d.venue_id = $1 order by d.name, d.id`,
    [venueId],
  );

/** What others have at a place, or in one of its rooms, at some time. */
export const readOutside = (
  tx: Queries,
  venueId: string,
  roomId: string | null,
  { from, to }: Span,
): Promise<{ diary: string; summary: string; from: string; to: string; tentative: boolean }[]> =>
  tx.query<{ diary: string; summary: string; from: string; to: string; tentative: boolean }>(
    `select d.name as diary, x.summary, lower(x.during) as from, upper(x.during) as to, x.tentative
     from diaries d join diary_entries x on x.diary_id = d.id
     where d.venue_id = $1 and ($2::uuid is null or d.room_id is null or d.room_id = $2) and x.during && tstzrange($3, $4)
     order by lower(x.during), x.summary limit 20`,
    [venueId, roomId, from, to],
  );

const readDiary = (tx: Queries, id: string): Promise<DiaryRow | null> =>
  first<DiaryRow>(tx, 'select id, venue_id, name, address from diaries where id = $1', [id]);

async function theDiary(tx: Queries, id: string): Promise<DiaryRow> {
  const row = await readDiary(tx, id);
  if (!row) throw notFound('This diary');
  return row;
}

/** What stands in a diary from now on, in a thread of its own: a large one holds nobody up. */
async function readIn(tx: Queries, text: string, now: string): Promise<Diary> {
  const { zone } = await theOrganization(tx);
  const window = { from: plusMinutes(now, -kept.behind * 1440), to: plusMinutes(now, kept.ahead * 1440) };
  const answer = await inThread('read a diary', { text, window, zone });
  if ('problem' in answer) throw new DiaryProblem(answer.problem);
  return answer.diary;
}

/** Puts what was read in the place of what was there. */
async function keep(w: Work, id: string, diary: Diary, address: string | null): Promise<void> {
  const { tx, now } = w;
  await tx.query('delete from diary_entries where diary_id = $1', [id]);
  await insert(
    tx,
    'diary_entries',
    diary.entries.map((e) => ({
      diaryId: id,
      during: `[${e.from},${e.to})`,
      summary: e.summary,
      tentative: e.tentative,
    })),
  );
  await update(tx, 'diaries', id, {
    readAt: now,
    readAgainAt: address ? plusMinutes(now, again.read) : null,
    problem: null,
    entries: diary.entries.length,
    unread: diary.unread,
    unknownZones: diary.unknownZones,
  });
}

const fetchDiary = (app: App, address: string): Promise<string> =>
  isMadeUp(address) ? readStandin(app.db, address) : fetchText(address);

/** Adds a diary from an address or a file. What cannot be read is refused, and nothing is added. */
export async function addDiary(
  app: App,
  actor: Work['actor'],
  venueId: string,
  body: { name: string; roomId: string | null; address: string | null; content: string | null },
): Promise<{ id: string; entries: number }> {
  const path = body.address ? 'address' : 'content';
  const now = app.clock.now();
  let diary: Diary;
  try {
    const text = body.address ? await fetchDiary(app, body.address) : (body.content ?? '');
    diary = await readIn(app.db, text, now);
  } catch (error) {
    throw invalid([wrongAt(path, error instanceof DiaryProblem ? error.code : 'diary-unread')]);
  }
  return inTransaction(app, actor, async (w) => {
    const id = app.ids.id();
    const there = await first(
      w.tx,
      'select 1 as x from venues v where v.id = $1 and ($2::uuid is null or exists (select 1 from rooms r where r.id = $2 and r.venue_id = v.id))',
      [venueId, body.roomId],
    );
    if (!there) throw notFound('This place');
    await insert(w.tx, 'diaries', {
      id,
      venueId,
      roomId: body.roomId,
      name: body.name,
      address: body.address,
      createdAt: w.now,
    });
    await keep(w, id, diary, body.address);
    await record(w, 'place changed', { id: venueId, how: 'added a diary', detail: { name: body.name } });
    return { id, entries: diary.entries.length };
  });
}

export async function removeDiary(w: Work, id: string): Promise<void> {
  const { venueId, name } = await theDiary(w.tx, id);
  await w.tx.query('delete from diaries where id = $1', [id]);
  await record(w, 'place changed', { id: venueId, how: 'took a diary away', detail: { name } });
}

/** The diary that is to be read again first. */
export const nextDiarySql =
  'select read_again_at as at, id from diaries where read_again_at is not null order by read_again_at, id limit 1';

/** Reads a diary again. Where that fails, what was read before stays, and it is said that it is old. */
export async function readAgain(app: App, id: string): Promise<void> {
  const row = await readDiary(app.db, id);
  if (!row?.address) return;
  const now = app.clock.now();
  let diary: Diary | null = null;
  let problem = 'diary-unread';
  try {
    diary = await readIn(app.db, await fetchDiary(app, row.address), now);
  } catch (error) {
    if (error instanceof DiaryProblem) problem = error.code;
  }
  await inTransaction(app, systemActor, async (w) => {
    if (diary) await keep(w, id, diary, row.address);
    else await update(w.tx, 'diaries', id, { problem, readAgainAt: plusMinutes(now, again.failed) });
  });
}
