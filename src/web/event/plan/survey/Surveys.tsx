import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { SurveyPlan } from '#contract/surveyPlan.ts';
import type { SurveyTemplate } from '#contract/surveys.ts';
import { surveyOf } from '#core/messages/moments.ts';
import { Button, ButtonLink } from '#web/kit/Button.tsx';
import { ListViews } from '#web/kit/ListViews.tsx';
import { Menu } from '#web/kit/Menu.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { sayWhose } from '#web/surveys/words.ts';
import { phrase } from '#web/words/phrase.ts';
import type { SectionProps } from '../section.ts';
import { KeepSurvey } from './KeepSurvey.tsx';
import { SurveyFields } from './SurveyFields.tsx';
import { SurveyPreview } from './SurveyPreview.tsx';

const sameWhose = (a: Pick<SurveyPlan, 'audience' | 'wave'>, b: Pick<SurveyPlan, 'audience' | 'wave'>) =>
  a.audience === b.audience && a.wave === b.wave;

/** What is asked afterwards: of those who came, of those who did not, of the crew and of guardians, with how it looks on a phone. */
export function Surveys({ draft: { plan, change, wrong }, page }: SectionProps) {
  const { surveys } = plan;
  const templates = useAsk('GET /api/survey-templates').data ?? [];
  const [shown, setShown] = useState<string | null>(null);
  const [keeping, setKeeping] = useState(false);
  const at = Math.max(
    0,
    surveys.findIndex((s) => s.id === shown),
  );
  const survey = surveys[at];
  const begin = (from: SurveyTemplate['survey']) => {
    const id = crypto.randomUUID();
    change({ surveys: [...surveys, { ...from, id }] });
    setShown(id);
  };
  const put = (part: Partial<SurveyPlan>) =>
    change({ surveys: surveys.map((s) => (s.id === survey?.id ? { ...s, ...part } : s)) });
  const add = (
    <Menu
      trigger={<Button>{phrase('surveys.another')}</Button>}
      entries={[
        ...templates
          .filter((t) => !surveys.some((s) => sameWhose(s, t.survey)))
          .map((t) => ({
            label:
              t.name === sayWhose(t.survey)
                ? t.name
                : phrase('surveys.beginWith', { name: t.name, who: sayWhose(t.survey) }),
            run: () => begin(t.survey),
          })),
        ...(survey ? [{ label: phrase('surveys.keep'), run: () => setKeeping(true) }] : []),
      ]}
    />
  );
  return (
    <>
      {!survey && <p className="soft">{phrase('surveys.empty')}</p>}
      <chakra.div className="acts" marginBottom="12px">
        {surveys.length > 0 && (
          <ListViews
            label={phrase('surveys.forWhom')}
            value={survey?.id ?? null}
            set={setShown}
            views={surveys.map((s) => ({ value: s.id, label: sayWhose(s) }))}
          />
        )}
        {add}
      </chakra.div>
      {survey && (
        <chakra.div
          key={survey.id}
          display="grid"
          gridTemplateColumns={{ base: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 330px' }}
          gap="0 28px"
          alignItems="start"
        >
          <div>
            <SentBy survey={survey} plan={plan} eventId={page.id} />
            <SurveyFields
              survey={survey}
              sessions={plan.sessions.length > 0}
              put={put}
              errorAt={(path) => errorAt(wrong, at, path)}
            />
            <Button
              look="plain"
              onClick={() => change({ surveys: surveys.filter((s) => s.id !== survey.id) })}
            >
              {phrase('surveys.remove')}
            </Button>
          </div>
          <SurveyPreview survey={survey} />
        </chakra.div>
      )}
      {keeping && survey && (
        <KeepSurvey survey={survey} templates={templates} close={() => setKeeping(false)} />
      )}
    </>
  );
}

/** What is wrong with a field of a survey; with anything below it, where the path ends in a dot. */
function errorAt(wrong: Readonly<Record<string, string>>, at: number, path: string): string | undefined {
  const whole = `surveys.${at}.${path}`;
  return path.endsWith('.') ? Object.entries(wrong).find(([p]) => p.startsWith(whole))?.[1] : wrong[whole];
}

/** By which lines of the message plan a survey goes out. */
function SentBy({
  survey,
  plan,
  eventId,
}: {
  survey: SurveyPlan;
  plan: SectionProps['draft']['plan'];
  eventId: string;
}) {
  const lines = plan.messages.filter((line) => {
    const says = JSON.stringify([line.body, line.formatted]);
    const which = surveyOf(line.moment, line.audience);
    return says.includes('survey_') && which !== null && sameWhose(which, survey);
  });
  return (
    <p className="soft">
      {lines.length
        ? phrase('surveys.sentBy', { lines: lines.map((l) => l.name).join(', ') })
        : phrase('surveys.sentByNone')}{' '}
      <ButtonLink look="plain" to={`/events/${eventId}/messages`}>
        {phrase('surveys.addLine')}
      </ButtonLink>
    </p>
  );
}
