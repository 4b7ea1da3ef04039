import { chakra } from '@chakra-ui/react';
import type { EventPage } from '#contract/events.ts';
import { Button } from '#web/kit/Button.tsx';
import { Empty } from '#web/kit/Note.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Group } from '../../kit/Field.tsx';
import { Loaded, Problems } from '../../kit/notices.tsx';
import { useAction, useAsk } from '../../parts/ask.ts';
import { PersonSearch } from '../../parts/PersonSearch.tsx';

/** Who an event is for, where it is for those invited. */
export function Invited({ page }: { page: EventPage }) {
  const params = { id: page.id };
  const invited = useAsk('GET /api/events/:id/invited', { params });
  const add = useAction('POST /api/events/:id/invited');
  const remove = useAction('DELETE /api/events/:id/invited/:contact');
  const may = page.may.change.includes('plan');
  return (
    <Group label={phrase('event.invited')}>
      <Problems of={add.problem ?? remove.problem} />
      <Loaded of={invited}>
        {(people) => (
          <>
            {people.length === 0 && <Empty>{phrase('event.nobodyInvited')}</Empty>}
            <chakra.ul listStyleType="none" padding="0" margin="0 0 8px">
              {people.map((p) => (
                <chakra.li
                  key={p.contactId}
                  display="flex"
                  justifyContent="space-between"
                  gap="12px"
                  padding="4px 0"
                  borderBottom="1px solid"
                  borderColor="line"
                >
                  {p.name}
                  {may && (
                    <Button
                      look="link"
                      color="soft"
                      fontSize="13.5px"
                      aria-label={phrase('event.removeNamed', { name: p.name })}
                      onClick={() => remove.mutate({ params: { ...params, contact: p.contactId } })}
                    >
                      {phrase('common.remove')}
                    </Button>
                  )}
                </chakra.li>
              ))}
            </chakra.ul>
          </>
        )}
      </Loaded>
      {may && (
        <PersonSearch
          // Once somebody is added, the next one is looked for.
          key={invited.data?.length}
          label={phrase('event.invite')}
          chosen=""
          pick={(person) => person && add.mutate({ params, body: { contactIds: [person.id] } })}
        />
      )}
    </Group>
  );
}
