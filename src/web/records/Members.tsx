import { chakra } from '@chakra-ui/react';
import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { because, sayReason } from '#core/words/reasons.ts';
import { Button } from '../kit/Button.tsx';
import { Empty } from '../kit/Note.tsx';
import { Loaded } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { sayCount } from '../parts/saying.ts';

/** Everybody in a segment that was put together by hand. */
export function Members({ id }: { id: string }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const params = { id };
  const members = useAsk('GET /api/segments/:id/contacts', { params });
  const back = useAction('POST /api/segments/:id/members', () => say('Undone.'));
  const out = useAction('POST /api/segments/:id/members');
  return (
    <Loaded of={members}>
      {({ contacts, total }) => (
        <>
          <p>
            <chakra.b className="name num" fontSize="22px">
              {sayCount(total)}
            </chakra.b>{' '}
            <span className="soft">{total === 1 ? 'contact' : 'contacts'}</span>
          </p>
          {total === 0 && <Empty>Nobody by now. Choose people in the contacts, and put them in.</Empty>}
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
                  aria-label={`Take out ${fullName(c)}`}
                  onClick={() =>
                    out.mutate(
                      { params, body: { ids: [c.id], remove: true } },
                      {
                        onSuccess: () =>
                          say(`${fullName(c)} was taken out.`, {
                            label: 'Undo',
                            run: () => back.mutate({ params, body: { ids: [c.id] } }),
                          }),
                      },
                    )
                  }
                >
                  Take out
                </Button>
              </li>
            ))}
          </chakra.ul>
          {total > contacts.length && <p className="soft">The first {contacts.length}.</p>}
        </>
      )}
    </Loaded>
  );
}
