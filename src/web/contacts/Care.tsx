import { useState } from 'react';
import type { ContactRecord } from '#contract/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Asking } from '../parts/Asking.tsx';
import { useAsk, useDo } from '../parts/ask.ts';
import { TextField } from '../parts/Field.tsx';
import { Asked, Problems } from '../parts/notices.tsx';
import { say } from '../parts/toast.tsx';

/** Everything held about a person to take along, and erasing them for good. */
export function Care({ contact }: { contact: ContactRecord }) {
  const [erasing, setErasing] = useState(false);
  const params = { id: contact.id };
  const link = useDo('POST /api/contacts/:id/own-link', ({ sentTo }) =>
    say(`Their own link goes to ${sentTo}.`),
  );
  if (contact.erasedAt) return null;
  return (
    <div className="acts care">
      {contact.kind === 'person' && (
        <button
          type="button"
          className="btn"
          disabled={link.isPending}
          onClick={() => link.mutate({ params })}
        >
          Send their own link
        </button>
      )}
      <a href={addressOf('GET /api/contacts/:id/everything.json', params)}>Everything held, as JSON</a>
      <a href={addressOf('GET /api/contacts/:id/everything.csv', params)}>The lifeline as CSV</a>
      <button type="button" className="btn stop" onClick={() => setErasing(true)}>
        Erase this {contact.kind}
      </button>
      {erasing && <Erase contact={contact} close={() => setErasing(false)} />}
    </div>
  );
}

function Erase({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const [name, setName] = useState('');
  const params = { id: contact.id };
  const what = useAsk('GET /api/contacts/:id/erasure', { params });
  const erase = useDo('POST /api/contacts/:id/erase', () => {
    close();
    say(`The ${contact.kind} was erased.`);
  });
  return (
    <Asking
      open
      close={close}
      title={`Erase ${fullName(contact)} for good?`}
      actions={
        <button
          type="button"
          className="btn stop"
          disabled={erase.isPending || !name.trim()}
          onClick={() => erase.mutate({ params, body: { name } })}
        >
          Erase for good
        </button>
      }
    >
      <Problems of={erase.problem} />
      <Asked of={what}>
        {({ goes, kept }) => (
          <>
            <p>This cannot be undone. Taken away: {goes.join(', ')}.</p>
            {kept.length > 0 && (
              <ul style={{ paddingLeft: 18 }}>
                {kept.map((k) => (
                  <li key={k}>{k}</li>
                ))}
              </ul>
            )}
          </>
        )}
      </Asked>
      <TextField
        label={`Type the name to go on: ${fullName(contact)}`}
        value={name}
        set={setName}
        error={erase.problem?.fields.name}
      />
    </Asking>
  );
}
