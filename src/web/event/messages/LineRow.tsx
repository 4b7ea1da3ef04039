import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { LineOfPlan } from '#contract/messages.ts';
import type { MessageLinePlan } from '#contract/plan.ts';
import { sayAudience } from '#core/messages/audiences.ts';
import { frenchLags } from '#core/messages/lagging.ts';
import { Button } from '../../kit/Button.tsx';
import { Toggle } from '../../kit/Choosing.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { Person } from '../../parts/Person.tsx';
import { useSaying } from '../../parts/saying.ts';
import { together } from '../../parts/together.ts';
import { phrase, term } from '../../words/phrase.ts';
import { movedBy, withAfter } from './lines.ts';
import type { useLines } from './useLines.ts';
import type { useSeriesLines } from './useSeriesLines.ts';

type Shown = LineOfPlan;

/** One line: when it goes to whom, how far that is, and what can be done with it. */
export function LineRow({
  line,
  plan,
  lines: { lines, save, remove, saving },
  may,
  first,
  last,
  series,
  change,
  send,
  preview,
  read,
}: {
  line: Shown;
  /** The line as it is planned. */
  plan: MessageLinePlan | null;
  lines: ReturnType<typeof useLines>;
  may: boolean;
  first: boolean;
  last: boolean;
  series: ReturnType<typeof useSeriesLines>;
  change: (line: MessageLinePlan) => void;
  send: () => void;
  preview: (to: { key: string; name: string }) => void;
  read: (messageId: string) => void;
}) {
  const { at } = useSaying();
  const [open, setOpen] = useState(false);
  const more = line.planned + line.sent + line.failed + line.getNone - line.rows.length - line.leftOut.length;
  const to = { when: line.when, words: sayAudience(line.audience) };
  const some = line.rows[0] ?? line.leftOut[0];
  const sub = [
    phrase(line.channel === 'email' ? 'messages.to' : 'messages.toByText', to) +
      (plan?.narrowed.length ? ` (${phrase('messages.someOf')})` : ''),
    plan && frenchLags(plan) && phrase('messages.lags'),
    series.own.has(line.lineId) && phrase('messages.onlyThisDate'),
    series.changed.has(line.lineId) && phrase('messages.notAsSeries'),
    line.sentByHandAt
      ? phrase('messages.sentByHand', { at: at(line.sentByHandAt) })
      : line.firstAt && phrase('messages.first', { firstAt: at(line.firstAt) }),
  ].filter(Boolean);
  const counts =
    [
      line.planned && phrase('messages.planned', { planned: line.planned }),
      line.sent && phrase('messages.nSent', { sent: line.sent }),
    ]
      .filter(Boolean)
      .join(', ') || phrase('messages.nobodyYet');
  return (
    <li>
      <div className="spread">
        <chakra.div minWidth="0" opacity={line.off ? 0.75 : 1}>
          <Button
            look="link"
            fontFamily="title"
            color="inherit"
            fontSize="16px"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            {line.name}
          </Button>
          <chakra.p className="soft num" fontSize="13.5px">
            {sub.join(' · ')}
          </chakra.p>
        </chakra.div>
        <chakra.div display="flex" alignItems="center" gap="12px" flexShrink="0">
          <chakra.span className="num soft" fontSize="14px" textAlign="end">
            {line.off ? phrase('messages.off') : counts}
            {line.failed > 0 && (
              <span className="late">, {phrase('messages.failed', { failed: line.failed })}</span>
            )}
            {line.getNone > 0 && !line.off && (
              <chakra.span display="block">
                {phrase('messages.getNone', { leftOut: line.getNone })}
              </chakra.span>
            )}
          </chakra.span>
          {may && plan && (
            <>
              <Toggle
                checked={!line.off}
                disabled={saving}
                set={(on) => save(lines.map((l) => (l.id === plan.id ? { ...l, off: !on } : l)))}
              >
                <chakra.span srOnly>{phrase('messages.lineIsOn', { name: line.name })}</chakra.span>
              </Toggle>
              <Menu
                end
                trigger={
                  <Button look="plain" aria-label={phrase('messages.moreOf', { name: line.name })}>
                    {phrase('messages.more')}
                  </Button>
                }
                entries={[
                  { label: phrase('messages.change'), run: () => change(plan) },
                  ...(series.changed.has(plan.id)
                    ? [{ label: phrase('messages.asSeries'), run: () => series.takeBack(plan.id) }]
                    : []),
                  ...(line.off ? [] : [{ label: phrase('messages.sendNow'), run: send }]),
                  ...(some ? [{ label: phrase('messages.preview'), run: () => preview(some) }] : []),
                  {
                    label: phrase('messages.copy'),
                    run: () =>
                      save(
                        withAfter(lines, plan.id, {
                          ...plan,
                          id: crypto.randomUUID(),
                          name: phrase('messages.copyOf', { name: plan.name }).slice(0, 80),
                          // Nobody gets it before it was looked at.
                          off: true,
                        }),
                      ),
                  },
                  ...(first
                    ? []
                    : [{ label: phrase('messages.moveUp'), run: () => save(movedBy(lines, plan.id, -1)) }]),
                  ...(last
                    ? []
                    : [{ label: phrase('messages.moveDown'), run: () => save(movedBy(lines, plan.id, 1)) }]),
                  { label: phrase('messages.remove'), run: () => remove(plan) },
                ]}
              />
            </>
          )}
        </chakra.div>
      </div>
      {open && (
        <chakra.div padding="6px 0 4px 14px" fontSize="14px">
          <chakra.div className="table" maxHeight="300px" marginTop="6px">
            <table>
              <tbody>
                {line.rows.map((r) => (
                  <tr key={r.id}>
                    <td>
                      <Person id={r.contactId} name={r.name} />
                    </td>
                    {/* On a phone the name says it: what can be done fits beside it. */}
                    <chakra.td className="soft" display={{ base: 'none', md: 'table-cell' }}>
                      {r.address}
                    </chakra.td>
                    <td className={r.state === 'failed' ? 'late' : ''}>
                      {term(r.state)} {at(r.sentAt ?? r.plannedFor)}
                      {r.whyNot && `: ${r.whyNot}`}
                      {r.wentWith && (
                        <small className="soft"> {phrase('messages.asOneWith', { line: r.wentWith })}</small>
                      )}
                    </td>
                    <td className="n">
                      <Button
                        look="link"
                        color="verdigris"
                        onClick={() => (r.sentAt ? read(r.id) : preview(r))}
                      >
                        {phrase(r.sentAt ? 'messages.read' : 'messages.preview')}
                      </Button>
                    </td>
                  </tr>
                ))}
                {together(line.leftOut, (r) => (r.contactId ? null : `${r.name} ${r.whyNot}`)).map(
                  ({ row: r, count }, n) => (
                    <tr key={`${r.name}${n}`}>
                      <td>
                        {count > 1 ? (
                          phrase('messages.guestsNotNamedYet', { count })
                        ) : (
                          <Person id={r.contactId} name={r.name} />
                        )}
                      </td>
                      <td className="soft">{phrase('messages.getsNone')}</td>
                      <td className="soft" colSpan={2}>
                        {r.whyNot}
                      </td>
                    </tr>
                  ),
                )}
              </tbody>
            </table>
          </chakra.div>
          {more > 0 && <p className="soft">{phrase('messages.andMore', { n: more })}</p>}
        </chakra.div>
      )}
    </li>
  );
}
