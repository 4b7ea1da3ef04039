import { chakra } from '@chakra-ui/react';
import { useDeferredValue, useState } from 'react';
import type { LineOfPlan, PersonOfPlan } from '#contract/messages.ts';
import { Button } from '../../kit/Button.tsx';
import { Empty } from '../../kit/Note.tsx';
import { Loaded } from '../../kit/notices.tsx';
import { SearchField } from '../../kit/SearchField.tsx';
import { useAsk } from '../../parts/ask.ts';
import { useSaying } from '../../parts/saying.ts';
import { phrase, term } from '../../words/phrase.ts';

type Entry = PersonOfPlan['entries'][number];

interface Looking {
  eventId: string;
  lines: readonly LineOfPlan[];
  read: (messageId: string) => void;
  preview: (line: LineOfPlan, to: { key: string; name: string }) => void;
}

/** What one person gets, and when; what they do not, and why. */
export function ByPerson({ eventId, ...looking }: Looking) {
  const [typed, type] = useState('');
  const [chosen, choose] = useState<{ id: string; name: string } | null>(null);
  const q = useDeferredValue(chosen?.name ?? typed);
  const people = useAsk('GET /api/events/:id/messages/people', { params: { id: eventId }, query: { q } });
  return (
    <Loaded of={people}>
      {(found) => {
        const person = chosen && found.find((p) => p.id === chosen.id);
        if (!found.length && !q) return <Empty>{phrase('messages.nobodyAtAll')}</Empty>;
        return (
          <>
            <chakra.div maxWidth="420px">
              <SearchField
                label={phrase('messages.person')}
                help={phrase('messages.personHelp')}
                typed={typed}
                type={(text) => {
                  type(text);
                  choose(null);
                }}
                searching={people.isFetching}
                found={found.map((p) => ({ value: p.id, label: p.name, hint: p.address ?? undefined }))}
                pick={(p) => {
                  type(p.label);
                  choose({ id: p.value, name: p.label });
                }}
              />
            </chakra.div>
            {person ? (
              <Entries {...looking} of={person} />
            ) : (
              <p className="soft">{phrase(found.length ? 'messages.choosePerson' : 'messages.nobodyHere')}</p>
            )}
          </>
        );
      }}
    </Loaded>
  );
}

const going = ({ message }: Entry): boolean => message.state !== 'held back';
const timeOf = ({ message }: Entry): string => message.sentAt ?? message.plannedFor ?? '';

/** What somebody gets, the first to go out first, and then what they do not. */
function Entries({ of, lines, read, preview }: Omit<Looking, 'eventId'> & { of: PersonOfPlan }) {
  const { at } = useSaying();
  const entries = [
    ...of.entries.filter(going).sort((a, b) => (timeOf(a) < timeOf(b) ? -1 : 1)),
    ...of.entries.filter((e) => !going(e)),
  ];
  const others = lines.filter((l) => !of.entries.some((e) => e.lineId === l.lineId));
  return (
    <>
      <div className="table">
        <table>
          <tbody>
            {entries.flatMap((e) => {
              const line = lines.find((l) => l.lineId === e.lineId);
              if (!line) return [];
              const { message } = e;
              return (
                <tr key={`${e.lineId}${message.key}`}>
                  <chakra.td className="num" whiteSpace={{ base: 'normal', md: 'nowrap' }}>
                    {going(e) ? at(timeOf(e)) : phrase('messages.getsNone')}
                  </chakra.td>
                  <td>
                    <span className="name">{line.name}</span>
                    <chakra.span className="soft" display="block" fontSize="13.5px">
                      {line.when}
                    </chakra.span>
                  </td>
                  <td className={message.state === 'failed' ? 'late' : 'soft'}>
                    {[going(e) && term(message.state), message.whyNot].filter(Boolean).join(': ')}
                    {message.wentWith && ` ${phrase('messages.asOneWith', { line: message.wentWith })}`}
                  </td>
                  <td className="n">
                    <Button
                      look="link"
                      color="verdigris"
                      onClick={() => (message.sentAt ? read(message.id) : preview(line, message))}
                    >
                      {phrase(message.sentAt ? 'messages.read' : 'messages.preview')}
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {others.length > 0 && (
        <chakra.p className="soft" marginTop="10px">
          {phrase('messages.notThem', {
            lines: others.length,
            names: others.map((l) => l.name).join(', '),
          })}
        </chakra.p>
      )}
    </>
  );
}
