import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type ContactRecord, contactsContract } from '#contract/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Asking } from '../kit/Asking.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Text } from '../kit/form/fields.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** Everything held about a person to take along, and erasing them for good. */
export function Care({ contact }: { contact: ContactRecord }) {
  const [erasing, setErasing] = useState(false);
  const [links, setLinks] = useState(false);
  const params = { id: contact.id };
  const link = useAction('POST /api/contacts/:id/own-link', ({ sentTo }) =>
    say(`Their own link goes to ${sentTo}.`),
  );
  if (contact.erasedAt) return null;
  return (
    <div className="acts care">
      {contact.kind === 'person' && (
        <>
          <Button disabled={link.isPending} onClick={() => link.mutate({ params })}>
            Send their own link
          </Button>
          <Button onClick={() => setLinks(true)}>Their links</Button>
        </>
      )}
      <a href={addressOf('GET /api/contacts/:id/everything.json', params)}>Everything held, as JSON</a>
      <a href={addressOf('GET /api/contacts/:id/everything.csv', params)}>The lifeline as CSV</a>
      <Button look="stop" onClick={() => setErasing(true)}>
        Erase this {contact.kind}
      </Button>
      {links && <Links contact={contact} close={() => setLinks(false)} />}
      {erasing && <Erase contact={contact} close={() => setErasing(false)} />}
    </div>
  );
}

/** The public links of somebody, to be stopped or renewed when one came into other hands. */
function Links({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const { dayAndYear } = useSaying();
  const params = { id: contact.id };
  const links = useAsk('GET /api/contacts/:id/links', { params });
  const change = useAction('POST /api/contacts/:id/links', (_, sent) =>
    say(
      sent?.body?.renew
        ? 'The old link leads nowhere now. The new one goes out with the next message.'
        : 'The link leads nowhere now.',
    ),
  );
  return (
    <Asking open close={close} title={`Links of ${fullName(contact)}`} actions={null}>
      <p className="soft">
        Whoever has a link sees what it leads to. Stop one that came into other hands, or renew it: the old
        one then leads nowhere, and their next message carries the new one.
      </p>
      <Problems of={change.problem} />
      <Loaded of={links}>
        {(list) =>
          list.length === 0 ? (
            <Empty>No link was sent to them yet.</Empty>
          ) : (
            <ul className="lines">
              {list.map((l) => (
                <li key={`${l.kind} ${l.subjectId}`} className="spread">
                  <span>
                    {l.about}
                    <br />
                    <small className="soft">
                      {l.stoppedAt ? `Stopped ${dayAndYear(l.stoppedAt)}` : `Since ${dayAndYear(l.madeAt)}`}
                    </small>
                  </span>
                  <span className="acts">
                    {!l.stoppedAt && (
                      <Button
                        disabled={change.isPending}
                        aria-label={`Stop the link: ${l.about}`}
                        onClick={() =>
                          change.mutate({
                            params,
                            body: { kind: l.kind, subjectId: l.subjectId, renew: false },
                          })
                        }
                      >
                        Stop
                      </Button>
                    )}
                    <Button
                      disabled={change.isPending}
                      aria-label={`Renew the link: ${l.about}`}
                      onClick={() =>
                        change.mutate({ params, body: { kind: l.kind, subjectId: l.subjectId, renew: true } })
                      }
                    >
                      Renew
                    </Button>
                  </span>
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </Asking>
  );
}

function Erase({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const params = { id: contact.id };
  const what = useAsk('GET /api/contacts/:id/erasure', { params });
  const form = useForm({
    values: { name: '' },
    request: (body) => prepare(contactsContract, 'POST /api/contacts/:id/erase', { params, body }),
    after: () => {
      close();
      say(`The ${contact.kind} was erased.`);
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={`Erase ${fullName(contact)} for good?`}
      submit="Erase for good"
      look="stop"
      disabled={!form.values.name.trim()}
    >
      <Loaded of={what}>
        {({ goes, kept }) => (
          <>
            <p>This can’t be undone. Deleted: {goes.join(', ')}.</p>
            {kept.length > 0 && (
              <chakra.ul paddingLeft="18px">
                {kept.map((k) => (
                  <li key={k}>{k}</li>
                ))}
              </chakra.ul>
            )}
          </>
        )}
      </Loaded>
      <Text form={form} name="name" label={`Type the name to go on: ${fullName(contact)}`} />
    </FormDialog>
  );
}
