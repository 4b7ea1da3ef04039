import type { Answered } from '#contract/endpoint.ts';
import type { surveysContract } from '#contract/surveys.ts';
import { shareOf } from '#core/statistics/intervals.ts';
import { merged } from '#core/surveys/anonymous.ts';
import type { SurveyAnswer } from '#core/surveys/answering.ts';
import { closesAt, isClosed } from '#core/surveys/closing.ts';
import {
  type ComparedFinding,
  comparedFinding,
  earlierCompared,
  groupsCompared,
} from '#core/surveys/comparing.ts';
import { type Grouping, groupOf } from '#core/surveys/grouping.ts';
import { type Finding, type Given, percent, resultOf, tenths } from '#core/surveys/results.ts';
import { type SamePair, sameQuestions } from '#core/surveys/sameQuestion.ts';
import {
  type Asked,
  hasChoices,
  isFigure,
  keyOf,
  questionsOf,
  type Session,
  type SurveyQuestion,
} from '#core/surveys/survey.ts';
import { weightsOf } from '#core/surveys/weighting.ts';
import { dateOf } from '#core/time/wallTime.ts';
import type { Params } from '#core/words/filling.ts';
import { say, words } from '#core/words/spoken.ts';
import type { Queries } from '../db/database.ts';
import type { EventRow, SurveyRow } from '../events/store.ts';
import {
  countAsked,
  countTasks,
  readCame,
  readEarlier,
  readKnown,
  readResponses,
  readSessions,
  readShownSlips,
  readSurvey,
} from './store.ts';

type Results = Answered<(typeof surveysContract)['GET /api/events/:id/surveys/:survey']>;
type InGroups = { name: string; given: Given[] }[];

/** Answers by the key of their question: how they count, and in which group whoever gave them is. */
interface Answers {
  of(key: string): Given[];
  /** The answers by group, where they are told apart. */
  groups(key: string): InGroups | null;
  keys: ReadonlySet<string>;
}

const finding = (f: Finding | ComparedFinding, more: Params = {}): string =>
  say(words().findings[f.code], { ...f.params, ...more });

/** A comparison in words, with the test by its name. */
const compared = (f: ComparedFinding): string => {
  const { findings } = words();
  const test = f.params.test as 'welch' | undefined;
  return finding(f, test ? { test: say(findings[test]) } : {});
};

/** The name of a group, where it is one of ours; a ticket or a choice is called as it is. */
const sayGroup = (name: string): string => {
  const { findings } = words();
  return Object.hasOwn(findings, name) ? say(findings[name as 'member']) : name;
};

/** The answers to an anonymous survey: what is shown of them, told apart only once nothing more can come. */
async function anonymousAnswers(tx: Queries, survey: SurveyRow, apart: boolean): Promise<Answers> {
  // Whether anything waits is no more told than what: a question that hangs on an answer would give the answer away.
  const slips = await readShownSlips(tx, survey.id);
  const by = survey.groupBy ? questionsOf(survey).find((q) => q.id === survey.groupBy) : null;
  const of = (key: string) => slips.filter((s) => s.question === key);
  const asGiven = (values: readonly SurveyAnswer[]): Given[] => values.map((value) => ({ value, weight: 1 }));
  return {
    keys: new Set(slips.map((s) => s.question)),
    of: (key) => asGiven(of(key).map((s) => s.value)),
    groups: (key) => {
      // The question itself is not told apart by itself.
      if (!by || !apart || key === by.id) return null;
      const cells = [...by.choices.map((c) => c.id), null].map((id) => ({
        name: id === null ? 'unknown' : (by.choices.find((c) => c.id === id)?.text.en ?? id),
        of: of(key)
          .filter((s) => s.grouped === id)
          .map((s) => s.value),
      }));
      const joined = ` ${say(words().findings.and)} `;
      return (
        merged(cells)?.map((g) => ({
          name: g.names.map(sayGroup).join(joined),
          given: asGiven(g.of),
        })) ?? null
      );
    },
  };
}

/** The answers given under a name, weighted and told apart by what is known of whoever gave them. */
async function namedAnswers(
  tx: Queries,
  survey: SurveyRow,
  event: EventRow,
  by: Grouping,
  weigh: Grouping,
): Promise<Answers & { weighted: string }> {
  const responses = await readResponses(tx, survey.id);
  const day = event.startsAt ? dateOf(event.startsAt, event.zone) : event.createdAt.slice(0, 10);
  const known =
    by === 'nothing' && weigh === 'nothing'
      ? new Map()
      : new Map((await readKnown(tx, event.id, day)).map((k) => [k.contactId, k]));
  const nobody = { firstTime: false, member: false, birthDate: null, ticket: null };
  const groupIn = (contactId: string | null, how: Grouping): string => {
    if (how === 'nothing' || how === 'question') return '';
    // Whoever was erased is nobody any more, and belongs to no group.
    if (!contactId) return 'unknown';
    return groupOf(known.get(contactId) ?? nobody, how, day);
  };
  let weightBy: ReadonlyMap<string, number> = new Map();
  let weighted = '';
  if (weigh !== 'nothing' && weigh !== 'question') {
    const came = new Map<string, number>();
    for (const id of await readCame(tx, event.id)) {
      const group = groupIn(id, weigh);
      came.set(group, (came.get(group) ?? 0) + 1);
    }
    const weights = weightsOf(
      came,
      responses.map((r) => ({ stratum: groupIn(r.contactId, weigh) })),
    );
    ({ weightBy } = weights);
    weighted = say(words().findings[weights.missing.length ? 'weighted missing' : 'weighted'], {
      n: responses.length,
      evens: tenths(weights.evens),
      missing: weights.missing.map(sayGroup).join(', '),
    });
  }
  const of = (key: string) =>
    responses.flatMap((r) => {
      const value = r.answers[key];
      if (value === undefined) return [];
      const weight = weighted ? (weightBy.get(groupIn(r.contactId, weigh)) ?? 0) : 1;
      return [{ value, weight, group: groupIn(r.contactId, by) }];
    });
  return {
    weighted,
    keys: new Set(responses.flatMap((r) => Object.keys(r.answers))),
    of,
    groups: (key) => {
      if (by === 'nothing' || by === 'question') return null;
      const groups = new Map<string, Given[]>();
      for (const { group, ...given } of of(key)) groups.set(group, [...(groups.get(group) ?? []), given]);
      return [...groups]
        .sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
        .map(([name, given]) => ({ name: sayGroup(name), given }));
    },
  };
}

/** A question as it is told: of the event, of one session, or of all sessions that it was asked of beside each other. */
type Told = Asked & { retired: boolean; across: readonly Session[] };

/** Every question of a survey as it was asked: of each session, where it was; those not asked any more at the end. */
function askedOf(survey: SurveyRow, sessions: readonly Session[], keys: ReadonlySet<string>): Told[] {
  const each = (question: SurveyQuestion, retired: boolean): Told[] => {
    const of = (session: Session | null): Told => ({
      key: keyOf(question.id, session?.id ?? null),
      question,
      session,
      retired,
      across: [],
    });
    const found = [null, ...sessions].map(of).filter((a) => keys.has(a.key));
    const across = found.flatMap((a) => a.session ?? []);
    return across.length > 1 ? [{ ...of(null), across }, ...found] : found;
  };
  return [
    ...survey.pages.flatMap((page) =>
      page.questions.flatMap((question) => {
        const found = each(question, false);
        return found.length || page.per === 'session'
          ? found
          : [{ key: question.id, question, session: null, retired: false, across: [] }];
      }),
    ),
    ...survey.retired.flatMap((question) => each(question, true)),
  ];
}

/** What was answered to a survey of an event. */
export async function resultsOf(
  { tx, now }: { tx: Queries; now: string },
  event: EventRow,
  survey: SurveyRow,
  query: { by: Grouping; weigh: Grouping; beside?: string | undefined },
): Promise<Results> {
  const closed = isClosed(event, survey.closesDays, now);
  const answers = await answersOf(tx, event, survey, query, closed);
  const { asked, answered } = await countAsked(tx, survey.id);
  const { findings } = words();
  const rate = shareOf(answered, asked);
  const earlier = await readEarlier(tx, event.id, survey);
  const then = query.beside ? earlier.find((e) => e.eventId === query.beside) : earlier[0];
  const before = then ? await earlierOf(tx, then, survey) : null;
  const sessions = await readSessions(tx, event.id);
  return {
    id: survey.id,
    anonymous: survey.anonymous,
    asked,
    answered,
    rate,
    sentence: asked
      ? say(findings.rate, {
          answered,
          asked,
          share: percent(rate.value),
          low: percent(rate.low),
          high: percent(rate.high),
        })
      : say(findings['nobody asked']),
    closesAt: closesAt(event, survey.closesDays),
    closed,
    groupings: groupingsOf(survey),
    ungrouped: ungrouped(survey, query.by, closed),
    weighted: answers.weighted,
    results: askedOf(survey, sessions, answers.keys).map((a) => {
      const { given, groups } = givenTo(a, answers);
      const { finding: found, ...result } = resultOf(a, given, survey.anonymous);
      return {
        ...result,
        retired: a.retired,
        sessions: a.across.length,
        sentence: finding(found),
        groups: groups ? sayGroups(a.question, groups) : [],
        earlier: a.session || a.across.length ? null : (before?.compare(a.question, given) ?? null),
        reworded: survey.reworded
          .filter((r) => r.questionId === a.question.id)
          .map((r) => ({ was: r.was.en, at: r.at, answered: r.answered })),
      };
    }),
    earlier: earlier.map(({ surveyId: _, ...e }) => e),
    beside: then?.eventId ?? null,
    gone: before?.gone.map((q) => q.prompt.en) ?? [],
    perhaps:
      before?.perhaps.map((p) => ({
        now: p.now.id,
        prompt: p.now.prompt.en,
        was: p.was.id,
        wasPrompt: p.was.prompt.en,
      })) ?? [],
    tasks: await countTasks(tx, survey.id),
  };
}

/** The answers to a question, and by what they are told apart: sessions beside each other, or groups of people. */
function givenTo(a: Told, answers: Answers): { given: Given[]; groups: InGroups | null } {
  if (!a.across.length) return { given: answers.of(a.key), groups: answers.groups(a.key) };
  const groups = a.across.map((session) => ({
    name: session.title.en,
    given: answers.of(keyOf(a.question.id, session.id)),
  }));
  return { given: groups.flatMap((g) => g.given), groups };
}

const answersOf = async (
  tx: Queries,
  event: EventRow,
  survey: SurveyRow,
  query: { by: Grouping; weigh: Grouping },
  closed: boolean,
): Promise<Answers & { weighted: string }> =>
  survey.anonymous
    ? { ...(await anonymousAnswers(tx, survey, closed && query.by === 'question')), weighted: '' }
    : namedAnswers(tx, survey, event, query.by, query.weigh);

/** By what the answers to a survey can be told apart. */
const groupingsOf = (survey: SurveyRow): Grouping[] =>
  survey.anonymous
    ? survey.groupBy
      ? ['question']
      : []
    : survey.audience === 'attendees' || survey.audience === 'absent'
      ? ['first time', 'member', 'age', 'ticket']
      : ['first time', 'member', 'age'];

/** Why answers are not told apart though somebody asked for it. */
function ungrouped(survey: SurveyRow, by: Grouping, closed: boolean): string {
  if (by === 'nothing' || !survey.anonymous) return '';
  const { findings } = words();
  if (!survey.groupBy || by !== 'question') return say(findings['group named']);
  return closed ? '' : say(findings['groups later']);
}

/** Groups beside all the others, each in one sentence. */
function sayGroups(question: SurveyQuestion, groups: InGroups): Results['results'][number]['groups'] {
  const all = groups.reduce((sum, g) => sum + g.given.length, 0);
  const others = say(words().findings['the others']);
  return groupsCompared(question, groups).map((g) => ({
    name: g.name,
    n: g.n,
    figure: g.figure,
    choices: g.choices,
    sentence: sayCompared(question, { ...g, name: others }, g.n, all - g.n),
  }));
}

const sayCompared = (
  question: SurveyQuestion,
  against: Parameters<typeof comparedFinding>[1],
  n: number,
  than: number,
): string =>
  isFigure(question.kind) || (hasChoices(question.kind) && question.kind !== 'order')
    ? compared(comparedFinding(question, against, n, than))
    : '';

/** The same survey at an earlier event: each of its questions beside that of now. */
async function earlierOf(
  tx: Queries,
  then: { eventId: string; title: string; startsAt: string | null; surveyId: string },
  survey: SurveyRow,
) {
  const was = (await readSurvey(tx, then.surveyId))!;
  const answers = was.anonymous ? await anonymousAnswers(tx, was, false) : await plainAnswers(tx, was.id);
  const { pairs, perhaps, gone } = sameQuestions(
    [...questionsOf(survey), ...survey.retired],
    [...questionsOf(was), ...was.retired],
  );
  const name = `${then.title} ${then.startsAt?.slice(0, 4) ?? ''}`.trim();
  const byId = new Map(pairs.map((p) => [p.now.id, p]));
  return {
    gone,
    perhaps,
    compare: (question: SurveyQuestion, given: readonly Given[]): Results['results'][number]['earlier'] => {
      const pair = byId.get(question.id);
      return pair ? besides(pair, given, answers.of(pair.was.id), name) : null;
    },
  };
}

/** Answers as they were given, each as much as any other. */
async function plainAnswers(tx: Queries, surveyId: string): Promise<Pick<Answers, 'of'>> {
  const responses = await readResponses(tx, surveyId);
  return {
    of: (key) =>
      responses.flatMap((r) => {
        const value = r.answers[key];
        return value === undefined ? [] : [{ value, weight: 1 }];
      }),
  };
}

/** A question beside the same one of before; where the two cannot be set against each other, why not. */
function besides(
  pair: SamePair,
  given: readonly Given[],
  before: readonly Given[],
  name: string,
): Results['results'][number]['earlier'] {
  const { now, was, comparable } = pair;
  const { findings } = words();
  const shown = { n: before.length, was: pair.reworded ? was.prompt.en : null };
  if (comparable === 'other kind' || comparable === 'other scale' || comparable === 'no choice shared')
    return { ...shown, figure: null, choices: [], sentence: say(findings[comparable]) };
  const against = earlierCompared(now, given, { question: was, given: before, name }, pair.choices);
  const sentence = sayCompared(now, against, given.length, before.length);
  return {
    ...shown,
    figure: against.figure,
    choices: against.choices,
    sentence,
  };
}
