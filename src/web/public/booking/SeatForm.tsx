import { useTranslation } from 'react-i18next';
import type { PublicQuestion } from '#contract/publicEvent.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { askedOfSeat, type OrderForm } from '#core/questions/showing.ts';
import { asksBirthDate } from '#core/registration/checking.ts';
import { Button } from '#web/kit/Button.tsx';
import { Form as Filled } from '#web/kit/form/Form.tsx';
import { DateField, Text } from '#web/kit/form/fields.tsx';
import type { Prepared } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { QuestionField } from '../fields.tsx';
import { Two } from '../parts.tsx';

/** What is filled in of whoever sits on a seat. */
export interface SeatTyped {
  given: string;
  family: string;
  birthDate: string;
  answers: Record<string, AnswerValue>;
}

/** What is sent of it: only what was answered. */
export const seatBodyOf = ({ birthDate, answers, ...v }: SeatTyped) => ({
  ...v,
  birthDate: birthDate || null,
  answers: Object.fromEntries(Object.entries(answers).filter(([, value]) => value !== undefined)),
});

/** Who sits on a seat, and what they are asked: filled in by whoever booked, or by themselves. */
export function SeatForm<A>({
  seat,
  questions,
  order,
  asksAge,
  slug,
  request,
  after,
  close,
  draft,
}: {
  seat: {
    given: string;
    family: string;
    hasBirthDate: boolean;
    offerId: string;
    answers: SeatTyped['answers'];
  };
  questions: readonly PublicQuestion[];
  order: OrderForm;
  asksAge: boolean;
  slug: string;
  request: (typed: SeatTyped) => Prepared<A>;
  after?: () => void;
  close?: () => void;
  draft?: string;
}) {
  const { t } = useTranslation();
  const form = useForm({
    values: { given: seat.given, family: seat.family, birthDate: '', answers: seat.answers } as SeatTyped,
    request,
    ...(after && { after }),
    ...(draft && { draft: { name: draft, keeping: 'device' as const } }),
  });
  const shown = askedOfSeat(questions, { offerId: seat.offerId, answers: form.values.answers ?? {} }, order);
  const birth = asksBirthDate(shown);
  return (
    <Filled form={form} submit={t('save')} beside={close && <Button onClick={close}>{t('cancel')}</Button>}>
      <Two>
        <Text form={form} name="given" label={t('given')} autoComplete="given-name" required />
        <Text form={form} name="family" label={t('family')} autoComplete="family-name" />
      </Two>
      {(asksAge || birth !== 'no') && (
        <DateField
          form={form}
          name="birthDate"
          label={t('birthDate')}
          help={seat.hasBirthDate ? t('birthDateKept') : undefined}
          required={!seat.hasBirthDate && (asksAge || birth === 'required')}
          autoComplete="bday"
        />
      )}
      {shown
        .filter((q) => q.keeps !== 'birthDate')
        .map((q) => (
          <QuestionField key={q.id} form={form} name={`answers.${q.id}`} question={q} slug={slug} />
        ))}
    </Filled>
  );
}
