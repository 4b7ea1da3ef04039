import type { QuestionPlan } from '#contract/plan.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { asking, type Detail } from '#core/questions/details.ts';
import { plainQuestion } from '#core/questions/question.ts';
import type { Ids } from '#server/db/ids.ts';
import type { Random } from './random.ts';

type Written = Partial<Omit<QuestionPlan, 'id' | 'prompt' | 'shownIf'>> & {
  prompt: QuestionPlan['prompt'];
  /** As long as the question at that place is answered so. */
  if?: [number, ...string[]];
};

const detail = (keeps: Detail, of: Partial<Written> = {}): Written => ({
  ...asking[keeps],
  scope: 'order',
  keeps,
  ...of,
});

/** What is asked at the events that ask something, by the key of their kind. */
const written: Readonly<Record<string, readonly Written[]>> = {
  'open-water': [
    detail('phone', {
      help: {
        en: 'For the day itself, should the wind change our plans.',
        fr: 'Pour le jour même, si le vent change nos plans.',
      },
    }),
    {
      scope: 'order',
      kind: 'one of',
      prompt: { en: 'How do you come?', fr: 'Comment venez-vous ?' },
      choices: ['by car', 'by bus', 'by bicycle', 'on foot'],
    },
    {
      scope: 'order',
      kind: 'number',
      prompt: { en: 'Free seats in your car', fr: 'Places libres dans votre voiture' },
      least: 0,
      most: 8,
      if: [1, 'by car'],
    },
    {
      kind: 'yes or no',
      prompt: { en: 'Can you swim 50 metres?', fr: 'Savez-vous nager 50 mètres ?' },
      seenBy: 'door',
    },
    {
      kind: 'one of',
      prompt: { en: 'Size of the life jacket', fr: 'Taille du gilet de sauvetage' },
      choices: ['child', 'S', 'M', 'L', 'XL'],
    },
    detail('dietary', { scope: 'attendee', seenBy: 'door' }),
  ],
  'fen-supper': [
    detail('phone'),
    {
      kind: 'one of',
      prompt: { en: 'What do you eat?', fr: 'Que mangez-vous ?' },
      choices: ['everything', 'no meat', 'nothing from animals'],
      seenBy: 'name tag',
    },
    detail('dietary', { scope: 'attendee' }),
  ],
  overnight: [
    detail('phone', { required: true }),
    {
      kind: 'text',
      prompt: { en: 'Who may collect the child?', fr: 'Qui peut venir chercher l’enfant ?' },
      seenBy: 'door',
    },
    detail('dietary', { scope: 'attendee', seenBy: 'door' }),
  ],
  symposium: [
    {
      kind: 'text',
      prompt: { en: 'Organization', fr: 'Organisme' },
      seenBy: 'name tag',
    },
    detail('pronouns', { scope: 'attendee', seenBy: 'name tag' }),
    {
      kind: 'consent',
      prompt: { en: 'I may be seen on pictures', fr: 'Je peux figurer sur des photos' },
      help: { en: 'If you would rather not, leave it empty.', fr: 'Sinon, laissez vide.' },
    },
  ],
};

/** The questions of an event of some kind, as its plan has them. */
export function questionsOf(key: string, ids: Ids): QuestionPlan[] {
  const list = written[key] ?? [];
  const own = list.map(() => ids.id());
  return list.map(({ if: shown, ...q }, at) => ({
    ...plainQuestion,
    choices: [],
    ...q,
    id: own[at]!,
    shownIf: shown ? { questionId: own[shown[0]]!, is: shown.slice(1) as string[] } : null,
  }));
}

const ails = ['nuts', 'milk', 'shellfish', 'wheat', 'eggs'];

/** What somebody answers, mostly; what takes words they leave out, but for what they cannot eat. */
export function answersTo(
  questions: readonly Pick<QuestionPlan, 'id' | 'kind' | 'choices' | 'keeps' | 'shownIf'>[],
  random: Random,
): Record<string, AnswerValue> {
  const answers: Record<string, AnswerValue> = {};
  for (const q of questions) {
    if (q.shownIf && !q.shownIf.is.includes(String(answers[q.shownIf.questionId]))) continue;
    if (q.kind === 'one of' && random.chance(0.9)) answers[q.id] = random.pick(q.choices);
    else if (q.kind === 'yes or no') answers[q.id] = random.chance(0.85);
    else if (q.kind === 'number') answers[q.id] = String(random.whole(0, 4));
    else if (q.kind === 'consent' && random.chance(0.7)) answers[q.id] = true;
    else if (q.keeps === 'dietary' && random.chance(0.12)) answers[q.id] = `No ${random.pick(ails)}`;
  }
  return answers;
}
