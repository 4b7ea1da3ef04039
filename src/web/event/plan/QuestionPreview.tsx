import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { QuestionPlan } from '#contract/plan.ts';
import type { AnswerValue } from '#core/questions/answering.ts';
import { askedOfOrder, askedOfSeat } from '#core/questions/showing.ts';
import { QuestionControl } from '#web/questions/QuestionControl.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { PhonePreview } from './PhonePreview.tsx';

type Answers = Record<string, AnswerValue | undefined>;

/** The questions as somebody with a phone answers them: of their booking, and of one person; what hangs on an answer comes and goes. */
export function QuestionPreview({ questions }: { questions: readonly QuestionPlan[] }) {
  const [order, setOrder] = useState<Answers>({});
  const [seat, setSeat] = useState<Answers>({});
  // Those of every ticket are looked at together.
  const asked = questions.map((q) => ({ ...q, offerId: null, choices: q.choices.filter((c) => c.trim()) }));
  const form = { offerIds: [], answers: order };
  const ofOrder = askedOfOrder(asked, form);
  const ofSeat = askedOfSeat(asked, { offerId: '', answers: seat }, form);
  const words = {
    choose: phrase('questions.choose'),
    yes: term('yes'),
    no: term('no'),
    chooseFile: phrase('questions.chooseFile'),
    remove: phrase('common.remove'),
  };
  const shown = (of: readonly QuestionPlan[], answers: Answers, set: (answers: Answers) => void) =>
    of.map((q) => (
      <QuestionControl
        key={q.id}
        id={`preview-${q.id}`}
        question={{ ...q, label: q.prompt.en, help: q.help.en }}
        value={answers[q.id]}
        set={(value) => set({ ...answers, [q.id]: value })}
        words={words}
      />
    ));
  return (
    <PhonePreview label={phrase('questions.preview')}>
      <chakra.h3 fontSize="15px" margin="0 0 2px">
        {phrase('questions.preview')}
      </chakra.h3>
      <chakra.p className="soft" fontSize="13px" margin="0 0 10px">
        {phrase(asked.length ? 'questions.previewHelp' : 'questions.previewEmpty')}
      </chakra.p>
      {ofOrder.length > 0 && <chakra.h4 margin="0 0 6px">{phrase('questions.yourBooking')}</chakra.h4>}
      {shown(ofOrder, order, setOrder)}
      {ofSeat.length > 0 && <chakra.h4 margin="10px 0 6px">{phrase('questions.aPerson')}</chakra.h4>}
      {shown(ofSeat, seat, setSeat)}
    </PhonePreview>
  );
}
