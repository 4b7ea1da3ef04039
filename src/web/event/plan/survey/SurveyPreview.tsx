import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SurveyPlan } from '#contract/surveyPlan.ts';
import { askedNow, type SurveyAnswer, type SurveyAnswers } from '#core/surveys/answering.ts';
import { pagesFor } from '#core/surveys/survey.ts';
import { SurveyControl } from '#web/surveys/SurveyControl.tsx';
import { surveyWords } from '#web/surveys/words.ts';
import { phrase } from '#web/words/phrase.ts';
import { PhonePreview } from '../PhonePreview.tsx';

const aSession = { id: 'a', title: { en: phrase('surveys.aSession') } };

/** A survey as somebody with a phone answers it, all of its pages below each other. */
export function SurveyPreview({ survey }: { survey: SurveyPlan }) {
  const [answers, setAnswers] = useState<Record<string, SurveyAnswer | undefined>>({});
  const given = Object.fromEntries(
    Object.entries(answers).filter(([, v]) => v !== undefined),
  ) as SurveyAnswers;
  return (
    <PhonePreview label={phrase('surveys.preview')}>
      <chakra.p className="soft" fontSize="13px" margin="0 0 10px">
        {phrase('surveys.previewHelp')}
      </chakra.p>
      <chakra.h3 fontSize="19px" margin="0 0 6px">
        {survey.title.en}
      </chakra.h3>
      {survey.intro.en && <p>{survey.intro.en}</p>}
      {askedNow(pagesFor(survey, [aSession]), given).map((page) => (
        <chakra.div key={page.id} borderTop="1px solid" borderColor="line" paddingTop="8px">
          {(page.session ?? page.title.en) && (
            <chakra.h4 margin="0 0 6px">
              {[page.title.en, page.session?.title.en].filter(Boolean).join(': ')}
            </chakra.h4>
          )}
          {page.asked.map(({ key, question }) => (
            <SurveyControl
              key={key}
              id={`preview-${key}`}
              question={question}
              value={answers[key]}
              set={(value) => setAnswers({ ...answers, [key]: value })}
              words={surveyWords}
            />
          ))}
        </chakra.div>
      ))}
    </PhonePreview>
  );
}
