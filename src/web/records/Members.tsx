import { fullName } from '#core/contacts/names.ts';
import { sayPhone } from '#core/contacts/reach.ts';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Loaded } from '../parts/notices.tsx';
import { Person } from '../parts/Person.tsx';
import { sayCount } from '../parts/saying.ts';
import { say } from '../parts/toast.tsx';

/** Everybody in a segment that was put together by hand. */
export function Members({ id }: { id: string }) {
  const country = useMe().data?.organization.country ?? 'CA';
  const params = { id };
  const members = useAsk('GET /api/segments/:id/contacts', { params });
  const back = useAction('POST /api/segments/:id/members', () => say('As it was before.'));
  const out = useAction('POST /api/segments/:id/members');
  return (
    <Loaded of={members}>
      {({ contacts, total }) => (
        <>
          <p>
            <b className="name num" style={{ fontSize: 22 }}>
              {sayCount(total)}
            </b>{' '}
            <span className="soft">{total === 1 ? 'contact' : 'contacts'}</span>
          </p>
          {total === 0 && (
            <p className="empty">Nobody by now. Choose people in the contacts, and put them in.</p>
          )}
          <ul className="plainlist" style={{ maxWidth: 620 }}>
            {contacts.map((c) => (
              <li key={c.id}>
                <span>
                  <Person id={c.id} name={fullName(c)} />{' '}
                  <span className="soft">{c.email ?? (c.phone && sayPhone(c.phone, country))}</span>
                  {c.quiet && <span className="late"> {c.quiet}</span>}
                </span>
                <button
                  type="button"
                  className="link"
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
                </button>
              </li>
            ))}
          </ul>
          {total > contacts.length && <p className="soft">The first {contacts.length}.</p>}
        </>
      )}
    </Loaded>
  );
}
