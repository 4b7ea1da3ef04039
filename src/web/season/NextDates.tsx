import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { Link } from 'react-router';
import { readRule } from '#core/series/rule.ts';
import { sayTime } from '#core/time/say.ts';
import { ApiProblem, call } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Empty, Note } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import type { Form } from '../kit/form/useForm.ts';
import { Loading } from '../kit/notices.tsx';
import { sayDay } from './SeriesForm.tsx';
import { recurrenceIn, type SeriesValues } from './seriesValues.ts';

/** The next twelve dates of what is typed, with what speaks against each, before anything is saved. */
export function NextDates({
  form,
  of,
}: {
  form: Form<SeriesValues>;
  of: { kind: 'event' | 'series'; id: string };
}) {
  const { values, set } = form;
  const typed = useDeferredValue(JSON.stringify(recurrenceIn(values)));
  const body = JSON.parse(typed) as ReturnType<typeof recurrenceIn>;
  const whole =
    /^\d{4}-\d\d-\d\dT\d\d:\d\d$/u.test(body.startsLocal) &&
    body.extra.every((e) => /^\d{4}-\d\d-\d\dT\d\d:\d\d$/u.test(e.startsLocal)) &&
    (body.rule === null ? body.extra.length > 0 : 'rule' in readRule(body.rule));
  const found = useQuery({
    queryKey: ['series', of.id, typed],
    queryFn: () => call('POST /api/series/preview', { body: { ...body, of } }),
    placeholderData: keepPreviousData,
    retry: false,
    enabled: whole,
  });
  const problem = found.error instanceof ApiProblem ? found.error : null;
  return (
    <chakra.section aria-label={phrase('series.next')}>
      <h2>{phrase('series.nextTwelve')}</h2>
      {!whole || problem ? (
        <Note as="p" tone="need" role="status">
          {problem ? (problem.body.fields?.[0]?.message ?? problem.message) : phrase('series.notRead')}
        </Note>
      ) : found.data ? (
        <>
          <chakra.p color="soft" marginBottom="8px" role="status">
            {found.data.said}
          </chakra.p>
          {found.data.next.length === 0 && <Empty>{phrase('series.noNext')}</Empty>}
          <chakra.ol listStyleType="none" padding="0" margin="0">
            {found.data.next.map((d) => (
              <chakra.li
                key={d.slot}
                display="grid"
                gridTemplateColumns="1fr auto"
                gap="0 12px"
                padding="5px 0"
                borderBottom="1px solid"
                borderColor="line"
              >
                <chakra.span className="num">
                  {d.made ? (
                    <Link to={`/events/${d.made}/plan`}>{sayDay(d.startsLocal)}</Link>
                  ) : (
                    sayDay(d.startsLocal)
                  )}
                  {`, ${sayTime(d.startsLocal)}`}
                </chakra.span>
                <Button
                  look="link"
                  color="soft"
                  fontSize="13.5px"
                  aria-label={phrase('series.skipDate', { date: sayDay(d.startsLocal) })}
                  onClick={() => leaveOut(d.slot)}
                >
                  {phrase('series.skip')}
                </Button>
                {(d.holiday || d.later || d.clashes.length > 0) && (
                  <chakra.span gridColumn="1 / -1" color="ochre" fontSize="13.5px">
                    {[
                      d.holiday && phrase('series.holiday'),
                      d.later && phrase('series.later'),
                      d.clashes.length > 0 && phrase('series.clash', { titles: d.clashes.join(', ') }),
                    ]
                      .filter(Boolean)
                      .join('; ')}
                  </chakra.span>
                )}
              </chakra.li>
            ))}
          </chakra.ol>
        </>
      ) : (
        <Loading />
      )}
      {values.skipped.map((slot) => (
        <chakra.p key={slot} color="soft" fontSize="13.5px" marginTop="6px">
          {phrase('series.leftOut', { date: sayDay(slot) })}{' '}
          <Button
            look="link"
            aria-label={phrase('series.putBackDate', { date: sayDay(slot) })}
            onClick={() => set({ skipped: values.skipped.filter((s) => s !== slot) })}
          >
            {phrase('series.putBack')}
          </Button>
        </chakra.p>
      ))}
    </chakra.section>
  );

  /** A date that was put down by itself is taken away; one of the rule is left out. */
  function leaveOut(slot: string) {
    const own = values.extra.filter((e) => `${e.date}T${e.from}` === slot);
    if (own.length) set({ extra: values.extra.filter((e) => !own.includes(e)) });
    else set({ skipped: [...values.skipped, slot].sort() });
  }
}
