import type { SettledTogether, Together } from '#contract/changes.ts';
import type { SeriesCalledOff, SeriesChange, SeriesChanged } from '#contract/series.ts';
import { leads, stagesOf } from '#core/access/stages.ts';
import { alsoFollows, type Consequences, noConsequences } from '#core/events/consequences.ts';
import type { EventState } from '#core/events/states.ts';
import { reshape } from '#core/series/dates.ts';
import { type Rule, readRule, writeRule } from '#core/series/rule.ts';
import { type Slot, slotsOf } from '#core/series/slots.ts';
import { later } from '#core/time/clock.ts';
import { shiftWall, wallOf } from '#core/time/wallTime.ts';
import { wrongAt } from '#core/words/problems.ts';
import type { Asker, Work } from '../app/app.ts';
import { record } from '../app/record.ts';
import { moneyBack } from '../changes/returns.ts';
import { changeTogether, type OneOfSeveral } from '../changes/together.ts';
import { update } from '../db/database.ts';
import { hindranceTo } from '../events/deleting.ts';
import { readEvent } from '../events/store.ts';
import { invalid, refused } from '../http/problem.ts';
import { checkRecurrence } from './commands.ts';
import { makeDates, recurrenceOf } from './making.ts';
import { readPattern, timesBy } from './pattern.ts';
import { type DateRow, leaveSeries, readDates, readSeries, type SeriesRow, saveSlot } from './store.ts';

/** Dates that were called off, hidden or are over stay what they are. */
const movable: readonly EventState[] = ['draft', 'in clearance', 'cleared', 'open', 'closed'];
const comes = (d: DateRow, now: string): boolean =>
  movable.includes(d.state) && (d.startsAt === null || d.startsAt > now);

type Fate = SeriesChanged['fates'][number];
type Reshaped = Omit<SeriesChanged, keyof Together>;

/**
 * What becomes of a date, by what was decided; without anybody on it, by itself. One that was given to a unit of which whoever
 * asks leads no events stays as it is.
 */
function fateOf(
  asker: Asker,
  date: DateRow,
  to: Slot | null,
  decided: SeriesChange['decisions'][number]['become'] | undefined,
): Fate {
  const ofOthers = !leads(asker.staff, date, asker.now);
  const base = {
    id: date.id,
    startsLocal: date.startsLocal,
    // How many come to an event of another unit is not theirs to see.
    people: ofOthers ? 0 : date.people,
    to: to?.startsLocal ?? null,
    ofOthers,
  };
  if (ofOthers) return { ...base, become: 'keep', open: false };
  if (decided && (decided !== 'move' || to)) return { ...base, become: decided, open: false };
  return { ...base, become: to ? 'move' : 'go', open: date.people > 0 };
}

/**
 * Changes when a series takes place, from a slot on. Dates whose slot stays are left alone; the others go to the nearest slot
 * or are dropped, where nobody is on them. Where somebody is, it has to be decided: that is refused, each date with how many,
 * unless `told` says that it is only asked what would happen.
 */
export async function changeSeries(
  w: Work,
  asker: Asker,
  seriesId: string,
  change: SeriesChange,
  trying: boolean,
): Promise<SeriesChanged> {
  const before = await readSeries(w.tx, seriesId, true);
  const { settle } = change;
  return changeTogether(
    w,
    asker,
    before.patternId,
    { kind: 'changed', fields: ['startsLocal'], settle },
    trying,
    (together) => reshapeSeries(w, asker, before, change, trying, together),
  );
}

async function reshapeSeries(
  w: Work,
  asker: Asker,
  before: SeriesRow,
  change: SeriesChange,
  trying: boolean,
  together: OneOfSeveral,
): Promise<Reshaped> {
  const { tx, now } = w;
  const seriesId = before.id;
  if (change.version !== before.version) throw refused('series-changed');
  checkRecurrence(change, before.zone);
  const dates = (await readDates(tx, seriesId)).filter((d) => comes(d, now));
  const here = wallOf(now, before.zone);
  const from = later(change.from ?? here, here);
  if (change.from && !dates.some((d) => d.slot === change.from))
    throw invalid([wrongAt('from', 'series-no-slot')]);
  const rule = change.rule === null ? null : written(change.rule);
  // The dates before the change are dates of their own from now on: the new rule does not have them.
  const earlier = dates.filter((d) => d.slot < from && change.from !== null);
  const extra = [
    ...change.extra,
    ...earlier
      .filter((d) => !change.extra.some((e) => e.startsLocal === d.slot))
      .map((d) => ({ startsLocal: d.slot, endsLocal: null })),
  ];
  const next: SeriesRow = { ...before, ...change, rule, extra, version: before.version + 1 };
  const concerned = dates.filter((d) => d.slot >= from || change.from === null);
  const last = concerned.at(-1)?.slot ?? from;
  const slots = slotsOf(recurrenceOf(next), from, shiftWall(last, { days: 40 }), 2000);
  const { move, without } = reshape(concerned, slots);
  const decided = new Map(change.decisions.map((d) => [d.id, d.become]));
  const fates = [
    ...move.map(({ date, to }) => ({ date, to, fate: fateOf(asker, date, to, decided.get(date.id)) })),
    ...without.map((date) => ({ date, to: null, fate: fateOf(asker, date, null, decided.get(date.id)) })),
  ].sort((a, b) => (a.date.slot < b.date.slot ? -1 : 1));
  const open = fates.filter((f) => f.fate.open);
  if (open.length && !trying)
    throw invalid(
      open.map(({ date }) =>
        wrongAt(`decisions.${date.id}`, 'series-people', {
          count: date.people,
          date: { date: date.slot.slice(0, 10) },
        }),
      ),
    );
  let followed = noConsequences;
  const kept: Slot['slot'][] = [];
  const off: DateRow[] = [];
  await update(tx, 'series', seriesId, {
    rule,
    startsLocal: change.startsLocal,
    extra,
    skipped: change.skipped,
    horizon: change.horizon,
    opens: change.opens,
    version: next.version,
    updatedAt: now,
  });
  for (const { date, to, fate } of fates) {
    if (fate.become === 'keep') kept.push(date.slot);
    else if (fate.become === 'move' && to)
      followed = alsoFollows(followed, await moveDate(w, next, date, to, together));
    else {
      const gone = await drop(w, date, change.words, together);
      if (gone.calledOff) off.push(date);
      followed = alsoFollows(followed, gone.followed);
    }
  }
  if (kept.length)
    await update(tx, 'series', seriesId, {
      extra: [...extra, ...kept.map((startsLocal) => ({ startsLocal, endsLocal: null }))],
    });
  await record(w, 'series changed', {
    seriesId,
    how: 'changed a series',
    detail: { title: before.title, rule, from: change.from, dates: fates.length },
  });
  const made = await makeDates(w, seriesId);
  together.made((await readDates(tx, seriesId)).filter((d) => made.includes(d.slot)).map((d) => d.id));
  return {
    version: next.version,
    made,
    fates: fates.map((f) => f.fate),
    followed,
    money: await moneySeen(w, asker, off),
  };
}

const written = (text: string): string => {
  const read = readRule(text);
  return 'rule' in read ? writeRule(read.rule) : text;
};

/** Puts a date to another slot. A start that was moved by hand stays where it was put. */
async function moveDate(
  w: Work,
  series: SeriesRow,
  date: DateRow,
  to: Slot,
  together: OneOfSeveral,
): Promise<Consequences> {
  await saveSlot(w.tx, date.id, to.slot);
  if (date.own.includes('startsLocal')) return noConsequences;
  const pattern = await readPattern(w.tx, series.patternId);
  const { endsLocal, doorsLocal, registrationClosesLocal, startsLocal } = timesBy(pattern, series, to.slot);
  const event = await readEvent(w.tx, date.id);
  const own = new Set(date.own);
  // Times of its own keep their distance to the start it had.
  const was = timesBy(pattern, series, date.slot);
  const along = (field: 'endsLocal' | 'doorsLocal' | 'registrationClosesLocal', by: string | null) =>
    own.has(field) && event[field] && was.startsLocal
      ? moved(event[field], was.startsLocal, startsLocal!)
      : by;
  return together.change(date.id, event.version, {
    startsLocal,
    endsLocal: along('endsLocal', endsLocal),
    doorsLocal: along('doorsLocal', doorsLocal),
    registrationClosesLocal: along('registrationClosesLocal', registrationClosesLocal),
  });
}

const moved = (wall: string, from: string, to: string): string =>
  shiftWall(wall, { minutes: (Date.parse(`${to}:00Z`) - Date.parse(`${from}:00Z`)) / 60_000 });

/** A date that does not take place: what the public knows of is called off, the rest is hidden; a draft goes, and leaves no gap. */
async function drop(
  w: Work,
  date: DateRow,
  words: string,
  together: OneOfSeveral,
): Promise<{ calledOff: boolean; followed: Consequences }> {
  const event = await readEvent(w.tx, date.id, true);
  if (event.state === 'open' || event.state === 'closed' || date.people > 0) {
    if (words.trim().length < 3) throw invalid([wrongAt('words', 'why-for-the-event')]);
    return { calledOff: true, followed: await together.callOff(date.id, words) };
  }
  // Something that is to be deleted is out of the series at once: its time is free for another date.
  if (!(await hindranceTo(w.tx, event))) await leaveSeries(w.tx, date.id);
  return { calledOff: false, followed: await together.hide(date.id) };
}

/** Calls off the dates of a series that are still to come, from a slot on, but for those of others; makes no more of them. */
export async function callOffSeries(
  w: Work,
  asker: Asker,
  seriesId: string,
  { from, words, settle }: { from: string | null; words: string; settle?: SettledTogether | undefined },
  trying: boolean,
): Promise<SeriesCalledOff> {
  const series = await readSeries(w.tx, seriesId, true);
  return changeTogether(
    w,
    asker,
    series.patternId,
    { kind: 'called off', fields: [], settle: settle && { ...settle, words: settle.words.trim() || words } },
    trying,
    (together) => callOffDates(w, asker, series, from, words, together),
  );
}

async function callOffDates(
  w: Work,
  asker: Asker,
  series: SeriesRow,
  from: string | null,
  words: string,
  together: OneOfSeveral,
): Promise<Omit<SeriesCalledOff, keyof Together>> {
  const { tx, now } = w;
  const here = wallOf(now, series.zone);
  const begins = later(from ?? here, here);
  const dates = (await readDates(tx, series.id)).filter(
    (d) => comes(d, now) && d.slot >= begins && leads(asker.staff, d, now),
  );
  let followed = noConsequences;
  const off: DateRow[] = [];
  for (const date of dates) {
    const gone = await drop(w, date, words, together);
    followed = alsoFollows(followed, gone.followed);
    if (gone.calledOff) off.push(date);
  }
  const { rule } = recurrenceOf(series);
  await update(tx, 'series', series.id, {
    rule: rule && writeRule(endedBefore(rule, begins)),
    extra: series.extra.filter((e) => e.startsLocal < begins),
    nextAt: null,
    version: series.version + 1,
    updatedAt: now,
  });
  await record(w, 'series changed', {
    seriesId: series.id,
    how: 'called off a series',
    detail: { title: series.title, from, words, dates: dates.length },
  });
  return {
    calledOff: off.length,
    dropped: dates.length - off.length,
    followed,
    money: await moneySeen(w, asker, off),
  };
}

/** What is owed back for dates that were called off, as far as whoever asks sees what was paid for them. */
const moneySeen = (w: Work, asker: Asker, off: readonly DateRow[]): Promise<SeriesChanged['money']> =>
  moneyBack(
    w.tx,
    off.filter((d) => stagesOf(asker.staff, d, w.now).has('registration')).map((d) => d.id),
  );

/** A rule that gives nothing from a wall time on. */
const endedBefore = (rule: Rule, wall: string): Rule => ({
  ...rule,
  count: null,
  until: shiftWall(wall, { minutes: -1 }),
});
