import { chakra } from '@chakra-ui/react';
import { useRef } from 'react';
import { frenchLags, frenchOfNow } from '#core/messages/lagging.ts';
import { mergeFields, problemsInDoc } from '#core/messages/merge.ts';
import type { SaidTexts } from '#core/messages/said.ts';
import { segmentsOf } from '#core/messages/segments.ts';
import type { TextProblem } from '#core/messages/template.ts';
import { docOf, plainText } from '#core/text/doc.ts';
import type { Doc } from '#core/text/types.ts';
import { sayProblem } from '#core/words/problems.ts';
import { Tick as PlainTick } from '../kit/Choosing.tsx';
import { LongText, Text, Tick } from '../kit/form/fields.tsx';
import type { Form } from '../kit/form/useForm.ts';
import { Chip, ListViews } from '../kit/ListViews.tsx';
import { Note } from '../kit/Note.tsx';
import { RichText } from '../kit/RichText.tsx';
import { phrase } from '../words/phrase.ts';

/** What a message says, as it is filled in. */
export interface TextValues {
  subject: { en: string; fr: string };
  preview: { en: string; fr: string };
  formatted: { en: Doc | null; fr: Doc | null };
  /** The French still says what the English says. */
  frenchFits: boolean;
  body: { en: string; fr: string };
}

/** A text as it is filled in. */
export const typedTexts = ({ subject, preview, body, formatted }: SaidTexts): TextValues => ({
  subject: { en: subject.en, fr: subject.fr ?? '' },
  preview: { en: preview.en, fr: preview.fr ?? '' },
  body: { en: body.en, fr: body.fr ?? '' },
  formatted,
  frenchFits: false,
});

/** A text as it is kept, once it says something else than before. */
export const keptTexts = (
  { subject, preview, body, formatted, frenchFits }: TextValues,
  before: (SaidTexts & { frenchOf: string }) | null = null,
): SaidTexts & { frenchOf: string } => {
  const said = { subject, preview, body, formatted };
  return { ...said, frenchOf: frenchOfNow(before, said, frenchFits) };
};

/** A form that has these fields, among others. */
export const textsOf = <V extends TextValues>(form: Form<V>): Form<TextValues> =>
  form as unknown as Form<TextValues>;

type ProblemsOf = (text: string) => TextProblem[];
type Part = { form: Form<TextValues>; language: 'en' | 'fr'; problemsOf: ProblemsOf };

/** What a message says, in both languages side by side: plain or formatted, with the fields that are filled in for each. */
export function MessageTexts({
  form,
  frenchOf,
  fields,
  problemsOf,
  byText = false,
}: {
  form: Form<TextValues>;
  /** The English that the French was written for. */
  frenchOf: string;
  /** What can be filled in. */
  fields: readonly string[];
  problemsOf: ProblemsOf;
  /** It goes as a text message: without a subject, and never formatted. */
  byText?: boolean;
}) {
  const { values } = form;
  const formatted = !byText && values.formatted.en !== null;
  const last = useRef<HTMLElement | null>(null);
  const setFormat = (on: boolean) => {
    if (on === formatted) return;
    const { body, formatted: docs } = values;
    form.set(
      on
        ? {
            formatted: { en: docOf(body.en), fr: body.fr.trim() ? docOf(body.fr) : null },
            // The plain text is made from it, until somebody writes their own.
            body: { en: '', fr: '' },
          }
        : {
            formatted: { en: null, fr: null },
            body: {
              en: body.en || plainText(docs.en!),
              fr: body.fr || (docs.fr ? plainText(docs.fr) : ''),
            },
          },
    );
  };
  /** Puts a field in where somebody wrote last, as if it were typed there. */
  const putIn = (field: string) => {
    last.current?.focus();
    document.execCommand('insertText', false, `{{${field}}}`);
  };
  return (
    <chakra.div
      marginTop="16px"
      onFocusCapture={(e) => {
        const at = e.target;
        if (at.matches('input, textarea, [contenteditable]')) last.current = at;
      }}
    >
      {!byText && (
        <ListViews
          label={phrase('messages.format')}
          value={formatted ? 'formatted' : 'plain'}
          set={(v) => setFormat(v === 'formatted')}
          views={[
            { value: 'plain', label: phrase('messages.plain') },
            { value: 'formatted', label: phrase('messages.formatted') },
          ]}
        />
      )}
      <chakra.div role="group" aria-label={phrase('messages.putIn')} margin="12px 0 10px">
        <chakra.span className="soft" fontSize="13.5px" marginRight="8px">
          {phrase('messages.putIn')}
        </chakra.span>
        <chakra.span display="inline-flex" flexWrap="wrap" gap="5px">
          {fields.map((field) => (
            <Chip
              key={field}
              title={mergeFields[field as keyof typeof mergeFields] ?? field.replaceAll('_', ' ')}
              // What was being written stays where it is.
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => putIn(field)}
            >
              {field.replaceAll('_', ' ')}
            </Chip>
          ))}
        </chakra.span>
      </chakra.div>
      {frenchLags({ ...values, frenchOf }) && (
        <Note as="div" tone="need">
          <p>{phrase('messages.frenchLags')}</p>
          <Tick form={form} name="frenchFits" label={phrase('messages.frenchFits')} />
        </Note>
      )}
      <div className="pair">
        <Words form={form} language="en" problemsOf={problemsOf} byText={byText} formatted={formatted} />
        <Words form={form} language="fr" problemsOf={problemsOf} byText={byText} formatted={formatted} />
      </div>
    </chakra.div>
  );
}

const sayWrong = ([problem]: readonly TextProblem[]): string | undefined =>
  problem && sayProblem(problem.code, { field: problem.what, line: problem.line });

/** What it says in one language. What cannot be filled in is said while it is written. */
function Words({
  form,
  language,
  problemsOf,
  byText,
  formatted,
}: Part & { byText: boolean; formatted: boolean }) {
  const french = language === 'fr';
  const { subject, preview, body } = form.values;
  const unclear = (text: string) => sayWrong(problemsOf(text));
  return (
    <div>
      {!byText && (
        <>
          <Text
            form={form}
            name={`subject.${language}`}
            label={phrase(french ? 'messages.subjectFrench' : 'messages.subject')}
            required={!french}
            consequence={unclear(subject[language])}
          />
          <Text
            form={form}
            name={`preview.${language}`}
            label={phrase(french ? 'messages.previewFrench' : 'messages.previewLine')}
            help={phrase('messages.previewHelp')}
            consequence={unclear(preview[language])}
          />
        </>
      )}
      {formatted ? (
        <Formatted form={form} language={language} problemsOf={problemsOf} />
      ) : (
        <LongText
          form={form}
          name={`body.${language}`}
          label={phrase(french ? 'messages.textFrench' : 'messages.text')}
          rows={byText ? 4 : 9}
          required={!french}
          help={french ? phrase('messages.frenchHelp') : undefined}
          consequence={
            unclear(body[language]) ?? (byText && body[language] ? length(body[language]) : undefined)
          }
        />
      )}
    </div>
  );
}

/** A formatted text, and the plain one that goes with it. */
function Formatted({ form, language, problemsOf }: Part) {
  const { formatted, body } = form.values;
  const french = language === 'fr';
  const doc = formatted[language];
  const wrong = form.wrongAt(`body.${language}`) ?? (doc && sayWrong(problemsInDoc(doc, problemsOf)));
  const byHand = body[language] !== '';
  return (
    <>
      <RichText
        label={phrase(french ? 'messages.textFrench' : 'messages.text')}
        lang={language}
        embeds={false}
        value={doc ?? docOf('')}
        set={(value) =>
          form.set({
            formatted: { ...formatted, [language]: french && !value.content.length ? null : value },
          })
        }
        help={french ? phrase('messages.frenchHelp') : undefined}
      />
      {wrong && (
        <chakra.p className="late" fontSize="13.5px" role="status">
          {wrong}
        </chakra.p>
      )}
      {doc && (
        <chakra.details marginTop="6px" open={byHand}>
          <chakra.summary cursor="pointer" color="verdigris" fontSize="13.5px">
            {phrase(french ? 'messages.plainTextFrench' : 'messages.plainText')}
          </chakra.summary>
          <PlainTick
            checked={byHand}
            set={(on) => form.set({ body: { ...body, [language]: on ? plainText(doc) || ' ' : '' } })}
          >
            {phrase('messages.byHand')}
          </PlainTick>
          {byHand ? (
            <LongText
              form={form}
              name={`body.${language}`}
              label={phrase(french ? 'messages.plainTextFrench' : 'messages.plainText')}
              rows={6}
            />
          ) : (
            <chakra.pre whiteSpace="pre-wrap" font="inherit" fontSize="13.5px" color="soft">
              {plainText(doc)}
            </chakra.pre>
          )}
        </chakra.details>
      )}
    </>
  );
}

/** How many text messages it is sent as. */
function length(text: string): string {
  const { count, left, others, alphabet } = segmentsOf(text);
  return alphabet === 'gsm'
    ? phrase('messages.segments', { count, left })
    : phrase('messages.segmentsUnicode', { count, left, others: others.join(' ') });
}
