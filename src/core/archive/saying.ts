import { type Currency, sayAmount } from '#core/money/amount.ts';
import { shareOf } from '#core/statistics/intervals.ts';
import { spokenIn } from '#core/words/language.ts';
import { say, words } from '#core/words/spoken.ts';
import type { Differs } from './comparing.ts';
import type { Conversion, Converted } from './conversions.ts';
import type { Drifting } from './drifting.ts';
import type { Audience, Shared } from './overlap.ts';
import type { Steps } from './paths.ts';
import type { Cohort } from './returns.ts';
import type { DateFit, Timing } from './timing.ts';

/** In hundredths; nought is never below nought. */
const percent = (share: number): number => Math.round(share * 100) || 0;
const tenth = (n: number): string => n.toLocaleString(`${spokenIn()}-CA`, { maximumFractionDigits: 1 });
const sayP = (p: number): string => (p < 0.001 ? 'p < 0.001' : `p = ${p.toFixed(3)}`);

/** What one event differs by from those beside it. */
export function sayDiffers(d: Differs, currency: Currency): string {
  const said = words().archive;
  if (d.kind === 'by head') {
    const figure = (n: number) => (d.what === 'hours' ? tenth(n) : sayAmount(Math.round(n), currency));
    return say(said[d.what], { title: d.title, here: figure(d.here), others: figure(d.others) });
  }
  return say(said.tested, {
    said: say(said[d.what], { title: d.title, here: percent(d.here), others: percent(d.others) }),
    size: said[d.size === 'hardly any' ? 'small' : d.size] as string,
    test: said[d.test] as string,
    n: d.n,
    p: sayP(d.p),
  });
}

/** How a series goes: its last times beside those before. */
export function saySeries(came: readonly number[]): string {
  const said = words().archive;
  const mean = (of: readonly number[]) => of.reduce((a, b) => a + b, 0) / Math.max(1, of.length);
  const n = Math.min(6, Math.floor(came.length / 2));
  if (n < 2) return say(said['series short'], { came: tenth(mean(came)) });
  const [before, last] = [came.slice(-2 * n, -n), came.slice(-n)];
  const change = mean(before) ? mean(last) / mean(before) - 1 : 0;
  const base = {
    came: tenth(mean(last)),
    before: tenth(mean(before)),
    n,
    m: n,
    share: percent(Math.abs(change)),
  };
  if (Math.abs(change) < 0.1) return say(said['series steady'], base);
  return say(said[change > 0 ? 'series grows' : 'series shrinks'], base);
}

/** The fewest people a kind of event is named for as the best or the worst. */
const fewestNamed = 20;

/** How many come again. */
export function sayReturns({
  byYear,
  byKind,
}: {
  byYear: readonly Cohort[];
  byKind: readonly Cohort[];
}): string {
  const said = words().archive;
  const first = byYear.flatMap((c) => c.within[0] ?? []);
  const n = first.reduce((sum, f) => sum + f.n, 0);
  if (!n) return say(said['returns none']);
  const { value, low, high } = shareOf(
    first.reduce((sum, f) => sum + Math.round(f.value * f.n), 0),
    n,
  );
  const whole = say(said.returns, { n, share: percent(value), low: percent(low), high: percent(high) });
  const kinds = byKind
    .flatMap((c) =>
      c.within[0] && c.within[0].n >= fewestNamed ? [{ title: c.title, share: c.within[0].value }] : [],
    )
    .sort((a, b) => b.share - a.share);
  if (kinds.length < 2) return whole;
  const [best, worst] = [kinds[0]!, kinds.at(-1)!];
  return `${whole} ${say(said['returns best'], {
    best: best.title,
    bestShare: percent(best.share),
    worst: worst.title,
    worstShare: percent(worst.share),
  })}`;
}

export function saySteps({ first, second, gave, served, gaveAfterTwo, servedAfterTwo }: Steps): string {
  const said = words().archive;
  if (!first) return say(said['paths none']);
  return say(said.paths, {
    first,
    second: percent(second.value),
    gave: percent(gave.value),
    served: percent(served.value),
    gaveTwo: percent(gaveAfterTwo.value),
    servedTwo: percent(servedAfterTwo.value),
  });
}

/** The two audiences that have the most to do with each other, beyond chance. */
export function sayOverlap(audiences: readonly Audience[], shared: readonly Shared[]): string {
  const said = words().archive;
  const named = new Map(audiences.map((a) => [a.kind, a.title]));
  const most = [...shared].filter((s) => s.people >= 5).sort((a, b) => b.times - a.times)[0];
  if (!most) return say(said['overlap none']);
  return say(said[most.times >= 1 ? 'overlap' : 'apart'], {
    a: named.get(most.a) ?? '',
    b: named.get(most.b) ?? '',
    people: most.people,
    times: tenth(most.times),
  });
}

const didWords: Readonly<Record<Conversion, 'conv gave' | 'conv served' | 'conv came again'>> = {
  gave: 'conv gave',
  served: 'conv served',
  'came again': 'conv came again',
};

/** Whether coming leads to something, by the fair comparison. */
export function sayConversion({ what, came, missed, ahead }: Converted): string {
  const said = words().archive;
  if (!ahead) return say(said['conv none']);
  const sure = ahead.p < 0.05;
  return say(said[sure ? (ahead.by > 0 ? 'conv ahead' : 'conv behind') : 'conv level'], {
    what: say(said[didWords[what]]),
    here: percent(came.value),
    there: percent(missed.value),
    by: percent(sure ? Math.abs(ahead.by) : ahead.by),
    low: percent(ahead.low),
    high: percent(ahead.high),
  });
}

/** A stretch of days as one says it: weeks from two weeks on, months from three months on. */
export function sayStretch(days: number): string {
  const said = words().archive;
  if (days < 14) return say(said.days, { n: Math.max(1, Math.round(days)) });
  if (days < 91) return say(said.weeks, { n: Math.round(days / 7) });
  return say(said.months, { n: Math.round(days / 30.44) });
}

/** Why somebody is said to drift away. */
export function sayDrifting(d: Drifting): string {
  const said = words().archive;
  return say(said[d.absent ? 'drifting absent' : 'drifting'], {
    times: d.times,
    usual: sayStretch(d.usual),
    longest: sayStretch(d.longest),
    since: sayStretch(d.since),
    kind: d.kindTitle,
    dates: d.missedDates,
    absent: d.absent,
  });
}

export function sayTiming([all]: readonly Timing[]): string {
  const said = words().archive;
  if (!all?.booked || all.half === null || all.nine === null) return say(said['timing none']);
  return say(said.timing, {
    half: Math.max(0, all.half),
    nine: Math.max(0, all.nine),
    withdrawn: percent(all.withdrawn / all.booked),
  });
}

/** What a weekday, a month or a part of the day is called. */
export function sayDateKey({ of, key }: Pick<DateFit, 'of' | 'key'>): string {
  const locale = `${spokenIn()}-CA`;
  // 7 January 2024 was a Sunday.
  if (of === 'weekday')
    return new Intl.DateTimeFormat(locale, { weekday: 'long', timeZone: 'UTC' }).format(
      Date.UTC(2024, 0, 7 + key),
    );
  if (of === 'month')
    return new Intl.DateTimeFormat(locale, { month: 'long', timeZone: 'UTC' }).format(
      Date.UTC(2024, key - 1, 1),
    );
  return say(words().archive[`hour ${key}` as 'hour 0']);
}

export function sayDates(dates: readonly DateFit[]): string {
  const said = words().archive;
  const best = (of: DateFit['of']) =>
    [...dates].filter((d) => d.of === of).sort((a, b) => b.came - a.came)[0];
  const [weekday, month] = [best('weekday'), best('month')];
  if (!weekday || !month) return say(said['dates none']);
  const figure = (n: number) => n.toLocaleString(`${spokenIn()}-CA`, { maximumFractionDigits: 2 });
  return say(said.dates, {
    weekday: sayDateKey(weekday),
    came: figure(weekday.came),
    n: weekday.events,
    month: sayDateKey(month),
    monthCame: figure(month.came),
  });
}
