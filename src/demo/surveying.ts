import { keptOf, type SurveyAnswer, sayAnswer } from '#core/surveys/answering.ts';
import { starters } from '#core/surveys/starters.ts';
import {
  pagesFor,
  plainQuestion,
  type Survey,
  type SurveyAudience,
  type SurveyQuestion,
} from '#core/surveys/survey.ts';
import { shiftDate } from '#core/time/dates.ts';
import { type App, inTransaction, openLink, systemActor } from '#server/app/app.ts';
import { first, insert } from '#server/db/database.ts';
import type { Ids } from '#server/db/ids.ts';
import { answerSurvey, askedBy } from '#server/surveys/answering.ts';
import { bornOf, type Person } from './people.ts';
import { makeRandom, type Random } from './random.ts';

const choices = (...all: string[]) => all.map((en) => ({ id: en.toLowerCase(), text: { en } }));
const asked = (
  id: string,
  kind: SurveyQuestion['kind'],
  en: string,
  more: Partial<SurveyQuestion> = {},
): SurveyQuestion => ({ ...plainQuestion, id, kind, prompt: { en }, choices: [], ...more });
const starter = (audience: SurveyAudience): Survey =>
  starters.find((s) => s.survey.audience === audience)!.survey;

const again = asked('again', 'one of', 'Would you come again?', {
  choices: choices('Yes', 'Perhaps', 'No'),
});
const [liked, recommend, words] = starter('attendees').pages[0]!.questions as [
  SurveyQuestion,
  SurveyQuestion,
  SurveyQuestion,
];
const help = asked('help', 'one of', 'Would you like to help with the next one?', {
  choices: choices('Yes', 'Perhaps', 'No'),
  follows: { is: ['yes'], least: null, most: null },
});

/** What each kind asks beside what all of them do. */
const ownQuestions: Readonly<Record<string, (year: number) => SurveyQuestion[]>> = {
  'reed-cut': () => [
    asked('best', 'several of', 'What was good about it?', {
      choices: choices('The soup', 'The company', 'Being outside', 'Learning how'),
    }),
  ],
  'heron-count': () => [
    asked('matters', 'order', 'What matters most to you?', {
      choices: choices('Seeing herons', 'A good count', 'The company'),
    }),
  ],
  'open-water': (year) => [
    asked('waited', 'number', 'How many minutes did you wait for a boat?', { least: 0, most: 300 }),
    ...(year >= 2025
      ? [
          asked('crowded', 'scale', 'How crowded was it?', {
            low: { en: 'not at all' },
            high: { en: 'far too much' },
          }),
        ]
      : []),
  ],
  'fen-talk': () => [
    asked('next', 'several of', 'What should the next talks be about?', {
      choices: choices('Birds', 'Water', 'Plants', 'The town and the fen'),
    }),
  ],
  'plant-swap': () => [asked('took', 'number', 'How many plants did you take home?', { least: 0, most: 60 })],
  'fen-supper': () => [
    asked('seat', 'one of', 'How did you come to the Supper?', {
      choices: choices('With a table of my own', 'Invited by somebody', 'By myself'),
    }),
    asked('welcome', 'scale', 'How welcome did you feel?'),
  ],
};

/** The surveys of one event of the past: those who came are asked every time, others where there are enough of them. */
export function surveysOf(key: string, date: string): Survey[] {
  const year = Number(date.slice(0, 4));
  const anonymous = key === 'fen-supper';
  // Worded anew since 2025, asked whether they would recommend it since 2024.
  const first = {
    ...liked,
    prompt:
      year >= 2025
        ? { en: 'All in all, how did you like it?', fr: 'Dans l’ensemble, cela vous a-t-il plu\u00a0?' }
        : liked.prompt,
  };
  const came: Survey = {
    ...starter('attendees'),
    anonymous,
    groupBy: anonymous ? 'seat' : null,
    pages: [
      {
        id: 'first',
        title: { en: '' },
        per: 'survey',
        questions: [
          first,
          ...(year >= 2024 ? [recommend] : []),
          ...(ownQuestions[key]?.(year) ?? []),
          again,
          words,
          ...(anonymous ? [] : [help]),
        ],
      },
    ],
  };
  return [
    came,
    ...(key === 'open-water' || key === 'fen-supper' ? [starter('crew')] : []),
    ...(key === 'open-water' || key === 'fen-talk' ? [starter('absent')] : []),
    ...(key === 'overnight' ? [starter('guardians')] : []),
  ];
}

/** How much each was liked, of five, year by year. */
const liking: Readonly<Record<string, Readonly<Record<number, number>>>> = {
  'reed-cut': { 2023: 3.7, 2024: 4.0, 2025: 4.3, 2026: 4.4 },
  'heron-count': { 2024: 4.3, 2025: 4.4, 2026: 4.4 },
  'open-water': { 2023: 4.4, 2024: 4.4, 2025: 3.7 },
  'fen-supper': { 2023: 4.1, 2024: 4.4, 2025: 4.7 },
  overnight: { 2024: 4.6, 2025: 4.2, 2026: 4.6 },
  'plant-swap': { 2024: 3.9, 2025: 4.0, 2026: 4.0 },
  'boat-evening': { 2024: 4.6, 2025: 4.6, 2026: 4.7 },
  'fen-talk': { 2024: 4.1, 2025: 4.0, 2026: 4.2 },
  symposium: { 2024: 4.0, 2025: 4.2, 2026: 4.2 },
};

const remarks: Readonly<Record<string, readonly string[]>> = {
  'open-water': [
    'We waited an hour for a canoe with two hungry children.',
    'More boats, or fewer people. The queue was too long.',
    'The queue for boats!',
    'Lovely guides, they knew every bird.',
    'A queue in the sun is no fun. Put up some shade.',
    'Parking was full by ten.',
    'Send the small canoes out earlier, then the queue is shorter.',
    'Our guide was wonderful with the little ones.',
  ],
  'fen-supper': [
    'The soup!',
    'Could hardly hear the speeches at the back.',
    'A microphone for the speeches, please.',
    'More vegetables, fewer speeches.',
    'The best evening of the year.',
    'Seats by the door are cold.',
    'Loved the songs.',
  ],
  'reed-cut': [
    'Gloves in smaller sizes, please.',
    'The soup makes it.',
    'Start a little later in winter.',
    'More gloves, and sharper sickles.',
    'Hard to find the gate the first time.',
    'A sign at the gate would help.',
    'Soup, company, mud. Perfect.',
  ],
};
const usualRemarks = [
  'Start a little later.',
  'Lovely guides.',
  'A bench half-way would help.',
  'Hard to find the gate.',
  'A sign at the gate, please.',
  'Longer, please.',
  'The guides knew so much.',
] as const;

/** Somebody of an event of the past, as far as their answers go by it. */
interface Asked {
  person: Person;
  /** They came to the organization for the first time. */
  newcomer: boolean;
}

interface OfEvent {
  key: string;
  date: string;
  who: Readonly<Record<SurveyAudience, readonly Asked[]>>;
}

/** How many of those asked answer. */
const answering: Readonly<Record<SurveyAudience, number>> = {
  attendees: 0.44,
  absent: 0.22,
  crew: 0.7,
  guardians: 0.55,
};

/** The rows of the answers to a survey of an event of the past. */
export function answersTo(
  survey: Survey & { id: string },
  { key, date, who }: OfEvent,
  ids: Ids,
  add: (table: string, row: object) => void,
): void {
  const random = makeRandom(
    [...`${key} ${date} ${survey.audience}`].reduce((n, c) => (n * 31 + c.charCodeAt(0)) >>> 0, 7),
  );
  const pages = pagesFor(survey, []);
  for (const { person, newcomer } of who[survey.audience]) {
    if (!person.email || person.child) continue;
    // Whoever comes for the first time answers less often.
    const answers = random.chance(answering[survey.audience] * (newcomer ? 0.7 : 1.1));
    add('survey_asks', { id: ids.id(), surveyId: survey.id, contactId: person.id, answered: answers });
    if (!answers) continue;
    const given = Object.fromEntries(
      survey.pages
        .flatMap((p) => p.questions)
        .flatMap((q): [string, SurveyAnswer][] => {
          const value = answerOf(q, { key, date, person, newcomer, random });
          return value === null ? [] : [[q.id, value]];
        }),
    );
    const kept = keptOf(pages, given);
    if (survey.anonymous) {
      const grouped = kept.find((k) => k.asked.key === survey.groupBy)?.value ?? null;
      for (const { asked: a, value } of kept)
        add('survey_slips', {
          id: ids.unordered(),
          surveyId: survey.id,
          question: a.key,
          value,
          grouped,
          shown: true,
        });
    } else
      add('survey_responses', {
        id: ids.unordered(),
        surveyId: survey.id,
        contactId: person.id,
        answers: Object.fromEntries(kept.map((k) => [k.asked.key, k.value])),
        said: kept.map((k) => ({
          question: k.asked.question.prompt.en,
          said: sayAnswer(k.asked.question, k.value),
        })),
        answeredOn: shiftDate(date, random.whole(1, 6)),
      });
  }
}

interface Mood {
  key: string;
  date: string;
  person: Person;
  newcomer: boolean;
  random: Random;
}

/** What somebody says to one question; null where they leave it out. */
function answerOf(q: SurveyQuestion, { key, date, person, newcomer, random }: Mood): SurveyAnswer | null {
  const year = Number(date.slice(0, 4));
  const base = liking[key]?.[year] ?? 4.1;
  const older = Number(bornOf(person).slice(0, 4)) < 1966 ? 0.25 : 0;
  const mood =
    base + older - (newcomer && key === 'open-water' ? 0.5 : 0) + (random.next() + random.next() - 1) * 1.5;
  const onScale = (value: number, least: number, most: number) =>
    Math.min(most, Math.max(least, Math.round(value)));
  const ids = q.choices.map((c) => c.id);
  switch (q.kind) {
    case 'scale':
      return q.id === 'crowded' ? onScale(4.1 + (random.next() - 0.5) * 2, 1, 5) : onScale(mood, 1, 5);
    case 'recommend':
      return random.chance(0.06) ? null : onScale(mood * 2.35 - 0.9 + (random.next() - 0.5) * 2, 0, 10);
    case 'one of':
      if (q.id === 'again') return mood > 3.6 ? 'yes' : mood > 2.6 ? 'perhaps' : 'no';
      if (q.id === 'help')
        return random.pick(['no', 'no', 'no', 'no', 'perhaps', person.volunteers ? 'yes' : 'no']);
      if (q.id === 'seat') return random.pick([ids[0]!, ids[0]!, ids[1]!, ids[1]!, ids[1]!, ids[2]!]);
      if (q.id === 'kept')
        return random.pick(['ill', 'plans', 'plans', 'plans', 'forgot', 'forgot', 'weather', 'way']);
      return random.pick(ids);
    case 'several of': {
      const some = random.some(ids, random.whole(1, 2));
      return some.length ? some : null;
    }
    case 'order':
      return random.chance(0.7) ? [ids[0]!, ...random.some(ids.slice(1), 2)] : random.some(ids, ids.length);
    case 'number':
      if (q.id === 'waited') return 5 * random.whole(year >= 2025 ? 4 : 1, year >= 2025 ? 14 : 7);
      return random.whole(0, 9);
    case 'text':
      return random.chance(0.34) ? random.pick(remarks[key] ?? usualRemarks) : null;
    default:
      return null;
  }
}

/**
 * The last overnight is being asked about: one guardian was not happy and may be written to, and one of those the scenario names has not
 * answered yet.
 */
export async function playSurveys(app: App): Promise<void> {
  const survey = await first<{ id: string; eventId: string }>(
    app.db,
    `select v.id, v.event_id from surveys v join events e on e.id = v.event_id
     where e.public_title = 'Mudlarks Overnight' and e.state = 'closed' and v.audience = 'guardians' order by e.starts_at desc limit 1`,
  );
  if (!survey) throw new Error('There is no overnight to ask about.');
  const mai = await first<{ id: string }>(
    app.db,
    "select id from contacts where given_name = 'Mai' and family_name = 'Delacroix-Nguyen' and merged_into is null",
  );
  await inTransaction(app, systemActor, async (w) => {
    const others = await w.tx.query<{ id: string }>(
      'select id from survey_asks where survey_id = $1 and not answered and contact_id <> $2 order by id limit 1',
      [survey.id, mai!.id],
    );
    const askId = app.ids.id();
    await insert(
      w.tx,
      'survey_asks',
      { id: askId, surveyId: survey.id, contactId: mai!.id, answered: false },
      'on conflict do nothing',
    );
    await w.tx.query(`delete from survey_responses where survey_id = $1 and contact_id = $2`, [
      survey.id,
      mai!.id,
    ]);
    const [hers] = await w.tx.query<{ id: string }>(
      'update survey_asks set answered = false where survey_id = $1 and contact_id = $2 returning id',
      [survey.id, mai!.id],
    );
    await openLink(w, 'survey', hers!.id);
    if (!others[0]) return;
    const of = await askedBy(w.tx, await openLink(w, 'survey', others[0].id));
    await answerSurvey(w, of, {
      answers: { liked: 2, safe: 4, words: 'The tents were set up in the dark. Start an hour earlier.' },
      mayFollow: true,
    });
  });
}
