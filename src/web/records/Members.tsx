import { chakra } from '@chakra-ui/react';
import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';

/** Everybody in a segment that was put together by hand. */
export function Members({ id }: { id: string }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const params = { id };
  const members = useAsk('GET /api/segments/:id/contacts', { params });
  const back = useAction('POST /api/segments/:id/members', () => say(phrase('common.undone')));
  const out = useAction('POST /api/segments/:id/members');
  return (
    <Loaded of={members}>
      {({ contacts, total }) => (
        <>
          <p>
            <chakra.b className="name num" fontSize="22px">
              {phrase('contacts.nContacts', { n: total })}
            </chakra.b>
          </p>
          {total === 0 && <Empty>{phrase('records.nobodyByNowChoose')}</Empty>}
          <chakra.ul className="plainlist" maxWidth="620px">
            {contacts.map((c) => (
              <li key={c.id}>
                <span>
                  <Person id={c.id} name={fullName(c)} />{' '}
                  <span className="soft">{c.email ?? (c.phone && sayPhone(c.phone, country))}</span>
                  {c.quiet && <span className="late"> {sayReason(because(c.quiet))}</span>}
                </span>
                <Button
                  look="link"
                  aria-label={phrase('records.takeOut', { name: fullName(c) })}
                  onClick={() =>
                    out.mutate(
                      { params, body: { ids: [c.id], remove: true } },
                      {
                        onSuccess: () =>
                          say(phrase('records.wasTakenOut', { name: fullName(c) }), {
                            label: phrase('common.undo'),
                            run: () => back.mutate({ params, body: { ids: [c.id] } }),
                          }),
                      },
                    )
                  }
                >
                  {phrase('records.takeThemOut')}
                </Button>
              </li>
            ))}
          </chakra.ul>
          {total > contacts.length && (
            <p className="soft">{phrase('records.theFirst', { contacts: contacts.length })}</p>
          )}
        </>
      )}
    </Loaded>
  );
}
