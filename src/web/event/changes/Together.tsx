import { chakra } from '@chakra-ui/react';
import type { Together as Told } from '#contract/changes.ts';
import { followedTogether } from '#core/changes/together.ts';
import type { Consequences } from '#core/events/consequences.ts';
import { sayShortDate } from '#core/time/say.ts';
import type { ApiProblem } from '#web/api.ts';
import { TextLink } from '#web/kit/Button.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ByItself } from './ByItself.tsx';
import { oddsWords, tellsNow } from './changeWords.ts';
import { Letters } from './Letters.tsx';
import { Lines, Part } from './Part.tsx';
import type { Settled } from './settling.ts';

/** What a change of several dates brings about: what there is to know of each, the letters, and what happens by itself. */
export function Together({
  told,
  busy,
  problem,
  form,
  zone,
  words = true,
}: {
  told: (Told & { followed: Consequences }) | null;
  busy: boolean;
  problem: ApiProblem | null;
  form: Form<Settled>;
  zone: string;
  /** Whether there is a field for what is said in every letter. */
  words?: boolean;
}) {
  return (
    <chakra.div aria-busy={busy} opacity={busy && told ? 0.6 : 1} transition="opacity 120ms">
      <Problems of={problem} />
      {told && (
        <>
          <Around around={told.around} />
          <Letters told={told} form={form} words={words} several />
          <ByItself told={{ ...told, followed: followedTogether(told.followed) }} zone={zone} />
          {tellsNow(told.letters) > 0 && (
            <Note as="p" tone="know" marginTop="14px">
              {phrase('changes.graceText')}
            </Note>
          )}
        </>
      )}
      {!told && !problem && <chakra.p color="soft">{phrase('changes.asking')}</chakra.p>}
    </chakra.div>
  );
}

function Around({ around }: Pick<Told, 'around'>) {
  if (!around.length) return null;
  return (
    <Part title={phrase('changes.dateByDate')}>
      <Lines>
        {around.map((date) => (
          <li key={date.eventId}>
            <TextLink to={`/events/${date.eventId}/plan`}>
              {date.startsLocal ? sayShortDate(date.startsLocal, true) : phrase('changes.undated')}
            </TextLink>
            {': '}
            <chakra.span color="ochre">
              {[
                ...date.odds.map((o) => phrase(oddsWords[o.of], { what: o.what })),
                date.over > 0 && phrase('changes.over', { count: date.over }),
                date.atTwoThings > 0 && phrase('changes.both', { count: date.atTwoThings }),
                date.ages > 0 && phrase('changes.otherAge', { count: date.ages }),
                date.passed && phrase('changes.tooLate'),
              ]
                .filter(Boolean)
                .join(' · ')}
            </chakra.span>
          </li>
        ))}
      </Lines>
    </Part>
  );
}
