import { type Currency, sayAmount } from '#core/money/amount.ts';
import { sayFigure } from '#core/outcomes/measure.ts';
import { sayTrend } from '#core/outcomes/sayTrend.ts';
import { recommendScore } from '#core/statistics/intervals.ts';
import { spokenIn } from '#core/words/language.ts';
import { say, words } from '#core/words/spoken.ts';
import { readTexts } from '#core/words/texts.ts';
import type { Outcome, ReportFigures, Section, Totals } from './report.ts';

const percent = (share: number): number => Math.round(share * 100) || 0;

/** What each section says from the figures alone: where somebody begins to write, and what stands there until they do. */
export function startingWords(figures: ReportFigures): Record<Section, string> {
  return {
    planned: plannedWords(figures),
    happened: happenedWords(figures),
    money: moneyWords(figures),
    changed: changedWords(figures),
    asked: askedWords(figures),
  };
}

const join = (...said: readonly (string | false | null)[]): string => said.filter(Boolean).join(' ');
const lines = (...said: readonly (string | false | null)[]): string => said.filter(Boolean).join('\n');

function plannedWords({ event, now, planned, outcomes, currency }: ReportFigures): string {
  const said = words().reports;
  const counted = outcomes.filter((o) => o.planned !== null);
  return (
    join(
      planned.seats !== null &&
        say(event ? said['planned seats'] : said['planned many'], {
          seats: planned.seats,
          events: now.events + now.calledOff,
        }),
      event !== null &&
        (planned.income > 0 || planned.costs > 0) &&
        say(said['planned money'], {
          income: sayAmount(planned.income, currency),
          costs: sayAmount(planned.costs, currency),
        }),
      counted.length > 0 &&
        say(said['planned outcomes'], { outcomes: counted.map((o) => figureOf(o, o.planned!)).join(', ') }),
    ) || say(said['planned nothing'])
  );
}

const figureOf = (o: Outcome, value: number): string =>
  `${readTexts(o.name, spokenIn())}: ${sayFigure(value, o)}`;

/** How much more or less than the time before; nothing where there is no time before. */
function against(now: number, before: number | undefined): string | false {
  const said = words().reports;
  if (!before) return false;
  const change = now / before - 1;
  if (Math.abs(change) < 0.03) return say(said['as before']);
  return say(said[change > 0 ? 'more than' : 'less than'], { share: percent(Math.abs(change)) });
}

function happenedWords({ event, now, before }: ReportFigures): string {
  const said = words().reports;
  const aside = against(now.came, before?.came);
  return join(
    !event && say(said.held, { events: now.events }),
    now.calledOff > 0 && say(said['called off'], { events: now.calledOff }),
    say(said.came, {
      came: now.came,
      registered: now.registered,
      share: now.registered ? percent((now.registered - now.missed) / now.registered) : 0,
      against: aside ? ` (${aside})` : '',
    }),
    now.people > 0 &&
      say(said.people, {
        people: now.people,
        first: now.firstTimers,
        share: percent(now.firstTimers / now.people),
      }),
    now.hours > 0 && say(said.hours, { hours: Math.round(now.hours) }),
  );
}

const incomeOf = ({ money }: Totals): number => money.seats + money.extras + money.gifts;

function moneyWords({ event, now, before, planned, currency }: ReportFigures): string {
  const said = words().reports;
  const amount = (n: number) => sayAmount(n, currency as Currency);
  const income = incomeOf(now);
  const aside = before && against(income, incomeOf(before));
  if (!income && !now.money.costs) return say(said['no money']);
  return join(
    say(said.income, {
      income: amount(income),
      gifts: amount(now.money.gifts),
      against: aside ? ` (${aside})` : '',
    }),
    say(said.costs, { costs: amount(now.money.costs) }),
    say(said[income >= now.money.costs ? 'left over' : 'fell short'], {
      amount: amount(Math.abs(income - now.money.costs)),
    }),
    now.came > 0 &&
      say(said['a head'], { amount: amount(Math.round((income - now.money.costs) / now.came)) }),
    // Of several events only some have a plan of their money: theirs is no measure for all.
    event !== null &&
      planned.income > 0 &&
      say(said['against plan'], { share: percent(income / planned.income), planned: amount(planned.income) }),
  );
}

function changedWords({ now, outcomes, initiatives }: ReportFigures): string {
  const said = words().reports;
  const { would, not, n } = now.recommend;
  const score = n ? recommendScore(would, not, n) : null;
  return (
    lines(
      ...outcomes.map((o) => {
        const aside = o.before !== null && o.kind !== 'latest' && against(o.total, o.before);
        return say(said[o.planned ? 'outcome planned' : 'outcome'], {
          outcome: figureOf(o, o.total),
          planned: o.planned ? sayFigure(o.planned, o) : '',
          against: aside ? ` (${aside})` : '',
        });
      }),
      ...initiatives.flatMap((i) =>
        i.goals.map((g) =>
          say(said.goal, { initiative: i.name, name: readTexts(g.name, spokenIn()), said: sayTrend(g) }),
        ),
      ),
      score &&
        say(said.score, {
          score: Math.round(score.value),
          low: Math.round(score.low),
          high: Math.round(score.high),
          n,
        }),
    ) || say(said['nothing counted'])
  );
}

/** What is asked of the board is for people to say; what the figures show to be missing is where they begin. */
function askedWords({ initiatives, now, lessons }: ReportFigures): string {
  const said = words().reports;
  const behind = initiatives.flatMap((i) =>
    i.goals.filter((g) => g.state === 'under way' && g.ahead && g.ahead.likely <= 0.2 && g.monthly),
  );
  return (
    lines(
      ...behind.map((g) =>
        say(said['ask goal'], {
          name: readTexts(g.name, spokenIn()),
          needed: sayFigure(Number(g.monthly!.needed.toPrecision(2)), g),
          now: sayFigure(Number(g.monthly!.now.toPrecision(2)), g),
        }),
      ),
      incomeOf(now) < now.money.costs && say(said['ask money']),
      lessons.length > 0 && say(said.learnt, { lessons: lessons.join(' ') }),
    ) || say(said['ask nothing'])
  );
}
