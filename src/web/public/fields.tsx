import { type InputHTMLAttributes, type ReactNode, useId } from 'react';
import { useTranslation } from 'react-i18next';
import type { PublicEvent } from '#contract/registration.ts';
import { language } from './language.ts';

export type AnswerValue = string | boolean | string[];

/** A labelled field with its help and what is wrong with it. */
export function Field({
  label,
  help,
  error,
  optional,
  children,
}: {
  label: string;
  help?: string | undefined;
  error?: string | undefined;
  optional?: boolean;
  children: (props: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }) => ReactNode;
}) {
  const { t } = useTranslation();
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id}>
        {label} {optional && <span className="soft">({t('optional')})</span>}
      </label>
      {children({ id, 'aria-invalid': Boolean(error), 'aria-describedby': `${id}-more` })}
      <div id={`${id}-more`}>
        {help && <div className="help">{help}</div>}
        {error && <div className="error">{error}</div>}
      </div>
    </div>
  );
}

/** A one-line text field. */
export function TextField({
  label,
  help,
  error,
  optional,
  value,
  set,
  ...input
}: {
  label: string;
  help?: string;
  error?: string | undefined;
  optional?: boolean;
  value: string;
  set: (value: string) => void;
} & Omit<InputHTMLAttributes<HTMLInputElement>, 'value'>) {
  return (
    <Field label={label} help={help} error={error} optional={optional ?? false}>
      {(props) => <input {...input} {...props} value={value} onChange={(e) => set(e.target.value)} />}
    </Field>
  );
}

/** One question of an event, in the form its kind needs. */
export function QuestionField({
  question,
  value,
  set,
  error,
}: {
  question: PublicEvent['questions'][number];
  value: AnswerValue | undefined;
  set: (value: AnswerValue) => void;
  error: string | undefined;
}) {
  const { t } = useTranslation();
  const name = useId();
  const prompt = (language() === 'fr' && question.prompt.fr) || question.prompt.en;
  if (question.kind === 'yes or no' || question.kind === 'several of') {
    const chosen = Array.isArray(value) ? value : [];
    return (
      <fieldset>
        <legend>
          {prompt} {!question.required && <span className="soft">({t('optional')})</span>}
        </legend>
        {question.kind === 'yes or no'
          ? [true, false].map((yes) => (
              <label key={String(yes)} className="tick">
                <input type="radio" name={name} checked={value === yes} onChange={() => set(yes)} />
                {yes ? t('yes') : t('no')}
              </label>
            ))
          : question.choices.map((choice) => (
              <label key={choice} className="tick">
                <input
                  type="checkbox"
                  checked={chosen.includes(choice)}
                  onChange={(e) =>
                    set(e.target.checked ? [...chosen, choice] : chosen.filter((c) => c !== choice))
                  }
                />
                {choice}
              </label>
            ))}
        {error && <div className="error-line">{error}</div>}
      </fieldset>
    );
  }
  const text = typeof value === 'string' ? value : '';
  return (
    <Field label={prompt} error={error} optional={!question.required}>
      {(props) =>
        question.kind === 'one of' ? (
          <select {...props} value={text} onChange={(e) => set(e.target.value)}>
            <option value="">{t('choose')}</option>
            {question.choices.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
        ) : question.kind === 'long text' ? (
          <textarea {...props} rows={3} value={text} onChange={(e) => set(e.target.value)} />
        ) : (
          <input {...props} value={text} onChange={(e) => set(e.target.value)} />
        )
      }
    </Field>
  );
}
