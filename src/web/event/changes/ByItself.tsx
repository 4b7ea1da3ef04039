import type { WhatIf } from '#contract/changes.ts';
import type { MessagesChanged } from '#core/events/consequences.ts';
import { sayWall } from '#core/time/say.ts';
import { wallOf } from '#core/time/wallTime.ts';
import { phrase } from '#web/words/phrase.ts';
import { Lines, Part } from './Part.tsx';

/** How many shifts are named before the rest is only counted. */
const named = 6;

/** What happens by itself with a change: messages, shifts, seats, steps of the clearance. */
export function ByItself({
  told: { followed, letters },
  zone,
}: {
  told: Pick<WhatIf, 'followed' | 'letters'>;
  zone: string;
}) {
  const { messages, shifts, letGo, offered, reopened } = followed;
  if (![messages, shifts, letGo, offered, reopened].some((of) => of.length))
    return letters.length ? null : <p className="soft">{phrase('changes.nothing')}</p>;
  const at = (instant: string) => sayWall(wallOf(instant, zone));
  const known = (names: readonly string[]) => names.filter(Boolean).join(', ');
  return (
    <Part title={phrase('changes.byItself')}>
      <Lines>
        {reopened.length > 0 && <li>{phrase('changes.reopened', { steps: reopened.join(', ') })}</li>}
        {offered.length > 0 && (
          <li>
            {known(offered)
              ? phrase('changes.offered', { names: known(offered) })
              : phrase('changes.offeredCount', { count: offered.length })}
          </li>
        )}
        {letGo.length > 0 && (
          <li>
            {known(letGo.map((p) => p.name))
              ? phrase('changes.letGo', { names: known(letGo.map((p) => p.name)) })
              : phrase('changes.letGoCount', { count: letGo.length })}
          </li>
        )}
        {messages.map((m, n) => (
          <li key={`${m.line}${m.fate}${n}`}>{sayMessages(m, at)}</li>
        ))}
        {shifts.slice(0, named).map((s, n) => (
          <li key={`${s.role}${s.to.startsLocal}${n}`}>
            {s.from
              ? phrase('changes.shiftFrom', {
                  role: s.role,
                  from: sayWall(s.from.startsLocal),
                  to: sayWall(s.to.startsLocal),
                })
              : phrase('changes.shift', { role: s.role, to: sayWall(s.to.startsLocal) })}
          </li>
        ))}
        {shifts.length > named && <li>{phrase('changes.moreShifts', { count: shifts.length - named })}</li>}
      </Lines>
    </Part>
  );
}

function sayMessages(m: MessagesChanged, at: (instant: string) => string): string {
  const n = phrase('changes.nMessages', { count: m.count });
  if (m.fate === 'held back') return phrase('changes.messageHeld', { line: m.line, n, why: m.why ?? '' });
  if (!m.to) return phrase('changes.messageMovesAlong', { line: m.line, n });
  const to = at(m.to);
  return m.from
    ? phrase('changes.messageMovedFrom', { line: m.line, n, from: at(m.from), to })
    : phrase('changes.messageMoved', { line: m.line, n, to });
}
