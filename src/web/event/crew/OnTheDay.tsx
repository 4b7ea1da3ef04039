import { chakra } from '@chakra-ui/react';
import type { CrewShift } from '#contract/crew.ts';
import { type Standing, standingOf } from '#core/crew/serving.ts';
import { sayFromTo } from '#core/time/fromTo.ts';
import { Button } from '#web/kit/Button.tsx';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { useAction } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { phrase } from '#web/words/phrase.ts';

const shownFirst: readonly (Standing | 'open')[] = ['missing', 'late'];

/** While the shifts go on: how many are here, and who is late or missing, with who could take their place. */
export function OnTheDay({
  shifts,
  now,
  lateMinutes,
  may,
  assign,
}: {
  shifts: readonly CrewShift[];
  now: string;
  lateMinutes: number;
  may: boolean;
  assign: (shiftId: string) => void;
}) {
  const mark = useAction('POST /api/assignments/:id/state');
  const going = shifts.filter((s) => s.startsAt <= now && s.endsAt > now);
  const all = going.flatMap((shift) =>
    shift.assignments
      .filter((a) => a.state !== 'proposed')
      .map((a) => ({ a, shift, standing: standingOf(a, shift, now, lateMinutes) })),
  );
  const missing = all
    .filter(({ standing }) => shownFirst.includes(standing))
    .sort((x, y) => shownFirst.indexOf(x.standing) - shownFirst.indexOf(y.standing));
  const here = all.filter(({ standing }) => standing === 'here').length;
  // Where nobody ticks the crew off, nobody is missing.
  if (!going.length || !shifts.some((s) => s.assignments.some((a) => a.inAt))) return null;
  return (
    <Note tone={missing.length ? 'need' : 'know'} role="status">
      <p className="num">{phrase('crew.hereNow', { here, of: all.length })}</p>
      <Problems of={mark.problem} />
      {missing.length > 0 && (
        <ul className="lines">
          {missing.map(({ a, shift, standing }) => (
            <chakra.li key={a.id} className="spread" alignItems="baseline">
              <span>
                <Person id={a.contactId} name={a.name} />{' '}
                <small className="late">
                  {phrase(standing === 'missing' ? 'door.crewMissing' : 'door.crewLate')}
                </small>
                <chakra.small className="soft num" display="block">
                  {[sayFromTo(shift), shift.role, shift.place].filter(Boolean).join(' · ')}
                </chakra.small>
              </span>
              {may && (
                <chakra.span className="acts" flexShrink={0}>
                  <Button
                    look="link"
                    color="verdigris"
                    aria-label={phrase('crew.insteadOf', { name: a.name })}
                    onClick={() => assign(shift.id)}
                  >
                    {phrase('crew.whoInstead')}
                  </Button>
                  <Button
                    look="link"
                    color="madder"
                    aria-label={phrase('crew.missedNamed', { name: a.name })}
                    disabled={mark.isPending}
                    onClick={() => mark.mutate({ params: { id: a.id }, body: { state: 'missed' } })}
                  >
                    {phrase('event.missed')}
                  </Button>
                </chakra.span>
              )}
            </chakra.li>
          ))}
        </ul>
      )}
    </Note>
  );
}
