import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { LineOfPlan } from '#contract/messages.ts';
import { Button } from '../../kit/Button.tsx';
import { Toggle } from '../../kit/Choosing.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { phrase, term } from '../../words/phrase.ts';
import { Person } from '../Person.tsx';
import { useSaying } from '../saying.ts';
import { together } from '../together.ts';

/** One line: when it goes to whom, how far that is, and what can be done with it. */
export function LineShown({
  line,
  sub,
  elsewhere,
  acts,
  preview,
  read,
}: {
  line: LineOfPlan;
  /** What is said below its name. */
  sub: readonly string[];
  /** Where the others are found. */
  elsewhere: string;
  /** What can be done with it; null where nothing can. */
  acts: {
    busy: boolean;
    turn: (on: boolean) => void;
    entries: readonly { label: string; run: () => void }[];
  } | null;
  preview: (to: { key: string; name: string }) => void;
  read: (messageId: string) => void;
}) {
  const { at } = useSaying();
  const [open, setOpen] = useState(false);
  const more = line.planned + line.sent + line.failed + line.getNone - line.rows.length - line.leftOut.length;
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
          {acts && (
            <>
              <Toggle checked={!line.off} disabled={acts.busy} set={acts.turn}>
                <chakra.span srOnly>{phrase('messages.lineIsOn', { name: line.name })}</chakra.span>
              </Toggle>
              <Menu
                end
                trigger={
                  <Button look="plain" aria-label={phrase('messages.moreOf', { name: line.name })}>
                    {phrase('messages.more')}
                  </Button>
                }
                entries={[...acts.entries]}
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
          {more > 0 && (
            <p className="soft">
              {phrase('messages.andMore', { n: more })} {elsewhere}
            </p>
          )}
        </chakra.div>
      )}
    </li>
  );
}
