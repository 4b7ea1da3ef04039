import { chakra } from '@chakra-ui/react';
import type { CrewShift } from '#contract/crew.ts';
import type { AskState, SearchEnd } from '#core/crew/steppingIn.ts';
import { sayShortDate, sayTime } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import type { Answer } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction, useAsk } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';

const stateWords: Readonly<Record<AskState, string>> = {
  asked: phrase('crew.ask-asked'),
  'took it': phrase('crew.ask-took it'),
  'said no': phrase('crew.ask-said no'),
  lapsed: phrase('crew.ask-lapsed'),
  'not needed': phrase('crew.ask-not needed'),
};
const endWords: Readonly<Record<SearchEnd, string>> = {
  filled: phrase('crew.searchFilled'),
  'nobody left': phrase('crew.searchNobody'),
  stopped: phrase('crew.searchStopped'),
  'too late': phrase('crew.searchTooLate'),
};

/** Who gave a shift back, who waits for it, and who is asked to step in: what they said, and who comes next. */
export function Stepping({ shift, zone }: { shift: CrewShift; zone: string }) {
  const { now } = useSaying();
  const params = { id: shift.id };
  const { data } = useAsk('GET /api/shifts/:id/step-in', { params });
  const ask = useAction('POST /api/shifts/:id/step-in');
  const stop = useAction('DELETE /api/shifts/:id/step-in', () => say(phrase('crew.askedNobodyElse')));
  if (!data) return null;
  const { search, asks, waiting, next, dropped } = data;
  const goesOn = search !== null && search.endedAt === null;
  const short = shift.startsAt > now && shift.filled < shift.wished;
  const at = (instant: string) => {
    const wall = wallOf(instant, zone);
    return `${sayShortDate(wall)}, ${sayTime(wall)}`;
  };
  if (!asks.length && !waiting.length && !dropped.length && !short) return null;
  return (
    <section aria-label={phrase('crew.steppingIn')}>
      <chakra.h3 marginTop="14px">{phrase('crew.steppingIn')}</chakra.h3>
      <Problems of={ask.problem ?? stop.problem} />
      {dropped.map((d) => (
        <p key={`${d.contactId} ${d.at}`} className="soft">
          {phrase('crew.gaveBack', { name: d.name, at: at(d.at) })}
          {d.words && ` “${d.words}”`}
        </p>
      ))}
      {search && <p className="soft">{saySearch(search, goesOn)}</p>}
      <ul className="lines">
        {asks.map((a) => (
          <chakra.li key={a.id} className="spread" alignItems="flex-start">
            <span>
              <Person id={a.contactId} name={a.name} />
              {a.waited && <small className="soft"> {phrase('crew.waitedForIt')}</small>}
            </span>
            <small className={a.state === 'asked' ? 'need num' : 'soft num'}>
              {a.state === 'asked'
                ? phrase('crew.askedUntil', { at: at(a.until) })
                : [stateWords[a.state], a.answeredAt && at(a.answeredAt)].filter(Boolean).join(', ')}
            </small>
          </chakra.li>
        ))}
      </ul>
      {waiting.length > 0 && (
        <>
          <chakra.h4 marginTop="10px">{phrase('crew.waitForIt')}</chakra.h4>
          <ol className="lines">
            {waiting.map((w) => (
              <li key={w.contactId}>
                <Person id={w.contactId} name={w.name} />
                <small className="soft num"> {phrase('crew.since', { at: at(w.since) })}</small>
                {w.against.map((x) => (
                  <chakra.small key={x.kind} className="need" display="block">
                    {x.text}
                  </chakra.small>
                ))}
              </li>
            ))}
          </ol>
        </>
      )}
      {short && (
        <>
          <p className="soft">
            {next.length
              ? phrase('crew.askedNext', { names: next.map((n) => n.name).join(', ') })
              : phrase('crew.askedNextNobody')}
          </p>
          <chakra.div className="acts" marginTop="6px">
            {goesOn ? (
              <Button look="stop" disabled={stop.isPending} onClick={() => stop.mutate({ params })}>
                {phrase('crew.askNobodyElse')}
              </Button>
            ) : (
              next.length > 0 && (
                <Button
                  disabled={ask.isPending}
                  title={phrase('crew.askInOrderMeans')}
                  onClick={() => ask.mutate({ params })}
                >
                  {phrase('crew.askInOrder')}
                </Button>
              )
            )}
          </chakra.div>
        </>
      )}
    </section>
  );
}

type Search = NonNullable<Answer<'GET /api/shifts/:id/step-in'>['search']>;

const saySearch = (search: Search, goesOn: boolean): string =>
  goesOn
    ? !search.wide
      ? phrase('crew.searchWaiting')
      : search.begunBy
        ? phrase('crew.searchGoesOnBy', { by: search.begunBy })
        : phrase('crew.searchGoesOn')
    : endWords[search.endedHow!];
