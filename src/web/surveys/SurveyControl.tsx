import { chakra } from '@chakra-ui/react';
import type { SurveyAnswer } from '#core/surveys/answering.ts';
import { pointsOf, rangeOf, type SurveyQuestion } from '#core/surveys/survey.ts';
import { readTexts } from '#core/words/texts.ts';
import { OneOf, SeveralOf } from '#web/kit/Choosing.tsx';
import { Group, LongField, TextField } from '#web/kit/Field.tsx';

/** What a survey says around its questions, in the language of its reader. */
export interface SurveyWords {
  /** How the ends of a recommendation are called. */
  unlikely: string;
  likely: string;
  orderHelp: string;
  /** What a choice is called that has a place, and one that has none. */
  placed: (choice: string, place: number) => string;
  unplaced: (choice: string) => string;
  language: 'en' | 'fr';
}

/** One question of a survey, in the form its kind needs; undefined is not answered. */
export function SurveyControl({
  question: q,
  value,
  set,
  id,
  error,
  words,
}: {
  question: SurveyQuestion;
  value: SurveyAnswer | undefined;
  set: (value: SurveyAnswer | undefined) => void;
  id?: string;
  error?: string | undefined;
  words: SurveyWords;
}) {
  const { language } = words;
  const field = {
    label: readTexts(q.prompt, language),
    help: readTexts(q.help, language),
    required: q.required,
    error,
    ...(id !== undefined && { id }),
  };
  const choices = q.choices
    .filter((c) => c.text.en.trim())
    .map((c) => ({ value: c.id, label: readTexts(c.text, language) }));
  const text = typeof value === 'string' ? value : '';
  switch (q.kind) {
    case 'one of':
      return <OneOf {...field} value={text || null} set={set} choices={choices} />;
    case 'several of':
      return <SeveralOf {...field} value={Array.isArray(value) ? value : []} set={set} choices={choices} />;
    case 'order':
      return (
        <Group {...field} help={field.help || words.orderHelp}>
          <Order choices={choices} value={Array.isArray(value) ? value : []} set={set} words={words} />
        </Group>
      );
    case 'text':
      return <LongField {...field} value={text} set={(to) => set(to || undefined)} rows={3} />;
    case 'date':
      return <TextField {...field} type="date" value={text} set={(to) => set(to || undefined)} />;
    case 'number': {
      const { least, most } = rangeOf(q);
      return (
        <TextField
          {...field}
          type="number"
          value={typeof value === 'number' ? String(value) : ''}
          set={(to) => set(to === '' ? undefined : Number(to))}
          {...(Number.isFinite(least) && { min: String(least) })}
          {...(Number.isFinite(most) && { max: String(most) })}
          step="any"
        />
      );
    }
    default:
      return (
        <Group {...field}>
          <Points question={q} value={typeof value === 'number' ? value : null} set={set} id={id} />
          <chakra.div display="flex" justifyContent="space-between" gap="10px" fontSize="14px" color="soft">
            <span>{readTexts(q.low, language) || (q.kind === 'recommend' && words.unlikely)}</span>
            <span>{readTexts(q.high, language) || (q.kind === 'recommend' && words.likely)}</span>
          </chakra.div>
        </Group>
      );
  }
}

/** The points of a scale, each a thumb wide as far as there is room. */
function Points({
  question,
  value,
  set,
  id,
}: {
  question: SurveyQuestion;
  value: number | null;
  set: (value: number) => void;
  id: string | undefined;
}) {
  const points = pointsOf(question);
  return (
    <chakra.div
      display="grid"
      gridTemplateColumns={`repeat(${points.length}, minmax(0, 1fr))`}
      gap={points.length > 7 ? '3px' : '8px'}
    >
      {points.map((n) => (
        <chakra.label
          key={n}
          border="1px solid"
          borderColor="rule"
          borderRadius="corner"
          textAlign="center"
          padding="9px 0"
          cursor="pointer"
          position="relative"
          css={{
            '&:has(input:checked)': {
              borderColor: 'verdigris',
              background: 'verdigris',
              color: 'onVerdigris',
            },
            '&:has(input:focus-visible)': {
              outline: '2px solid',
              outlineColor: 'verdigris',
              outlineOffset: '2px',
            },
          }}
        >
          <chakra.input
            type="radio"
            name={id ?? question.id}
            checked={value === n}
            onChange={() => set(n)}
            position="absolute"
            opacity="0"
          />
          {n}
        </chakra.label>
      ))}
    </chakra.div>
  );
}

/** Choices that are put in order by pressing them one after the other; pressed again, one loses its place. */
function Order({
  choices,
  value,
  set,
  words,
}: {
  choices: readonly { value: string; label: string }[];
  value: readonly string[];
  set: (value: string[] | undefined) => void;
  words: SurveyWords;
}) {
  const press = (id: string) => {
    if (value.includes(id)) {
      const left = value.filter((v) => v !== id);
      set(left.length ? left : undefined);
      return;
    }
    const next = [...value, id];
    const last = choices.filter((c) => !next.includes(c.value));
    // The one that is left is the last.
    set(last.length === 1 ? [...next, last[0]!.value] : next);
  };
  return (
    <chakra.div display="grid" gap="6px">
      {choices.map((c) => {
        const place = value.indexOf(c.value) + 1;
        return (
          <chakra.button
            key={c.value}
            type="button"
            display="grid"
            gridTemplateColumns="28px minmax(0, 1fr)"
            alignItems="center"
            gap="8px"
            textAlign="left"
            border="1px solid"
            borderColor={place ? 'verdigris' : 'rule'}
            borderRadius="corner"
            padding="9px 10px"
            cursor="pointer"
            aria-pressed={place > 0}
            aria-label={place ? words.placed(c.label, place) : words.unplaced(c.label)}
            onClick={() => press(c.value)}
          >
            <chakra.span className="num" fontWeight={600} color="verdigris">
              {place || ''}
            </chakra.span>
            {c.label}
          </chakra.button>
        );
      })}
    </chakra.div>
  );
}
