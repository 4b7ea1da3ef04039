import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { useState } from 'react';
import { type ContactRecord, contactsContract } from '#contract/contacts.ts';
import { fullName } from '#core/contacts/names.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
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

const careLook: SystemStyleObject = {
  flexWrap: 'wrap',
  marginTop: '20px',
  fontSize: '14px',
  gap: '8px 14px',
};

/** Everything held about a person to take along, and erasing them for good. */
export function Care({ contact }: { contact: ContactRecord }) {
  const [erasing, setErasing] = useState(false);
  const [links, setLinks] = useState(false);
  const params = { id: contact.id };
  const link = useAction('POST /api/contacts/:id/own-link', ({ sentTo }) =>
    say(phrase('contacts.theirOwnLinkGoes', { sentTo })),
  );
  if (contact.erasedAt) return null;
  return (
    <chakra.div className="acts" css={careLook}>
      {contact.kind === 'person' && (
        <>
          <Button disabled={link.isPending} onClick={() => link.mutate({ params })}>
            {phrase('contacts.sendTheirOwnLink')}
          </Button>
          <Button onClick={() => setLinks(true)}>{phrase('contacts.theirLinks')}</Button>
        </>
      )}
      <a href={addressOf('GET /api/contacts/:id/everything.json', params)}>
        {phrase('contacts.everythingHeldAsJson')}
      </a>
      <a href={addressOf('GET /api/contacts/:id/everything.csv', params)}>
        {phrase('contacts.theLifelineAsCsv')}
      </a>
      <Button look="stop" onClick={() => setErasing(true)}>
        {phrase(contact.kind === 'person' ? 'contacts.eraseThis' : 'contacts.eraseThisOrganization')}
      </Button>
      {links && <Links contact={contact} close={() => setLinks(false)} />}
      {erasing && <Erase contact={contact} close={() => setErasing(false)} />}
    </chakra.div>
  );
}

/** The public links of somebody, to be stopped or renewed when one came into other hands. */
function Links({ contact, close }: { contact: ContactRecord; close: () => void }) {
  const { dayAndYear } = useSaying();
  const params = { id: contact.id };
  const links = useAsk('GET /api/contacts/:id/links', { params });
  const change = useAction('POST /api/contacts/:id/links', (_, sent) =>
    say(sent?.body?.renew ? phrase('contacts.theOldLinkLeads') : phrase('contacts.theLinkLeadsNowhere')),
  );
  return (
    <Asking open close={close} title={phrase('contacts.linksOf', { name: fullName(contact) })} actions={null}>
      <p className="soft">{phrase('contacts.whoeverHasALink')}</p>
      <Problems of={change.problem} />
      <Loaded of={links}>
        {(list) =>
          list.length === 0 ? (
            <Empty>{phrase('contacts.noLinkWasSent')}</Empty>
          ) : (
            <ul className="lines">
              {list.map((l) => (
                <li key={`${l.kind} ${l.subjectId}`} className="spread">
                  <span>
                    {l.about}
                    <br />
                    <small className="soft">
                      {l.stoppedAt
                        ? phrase('contacts.stopped', { stoppedAt: dayAndYear(l.stoppedAt) })
                        : phrase('contacts.since', { madeAt: dayAndYear(l.madeAt) })}
                    </small>
                  </span>
                  <span className="acts">
                    {!l.stoppedAt && (
                      <Button
                        disabled={change.isPending}
                        aria-label={phrase('contacts.stopTheLink', { about: l.about })}
                        onClick={() =>
                          change.mutate({
                            params,
                            body: { kind: l.kind, subjectId: l.subjectId, renew: false },
                          })
                        }
                      >
                        {phrase('contacts.stop')}
                      </Button>
                    )}
                    <Button
                      disabled={change.isPending}
                      aria-label={phrase('contacts.renewTheLink', { about: l.about })}
                      onClick={() =>
                        change.mutate({ params, body: { kind: l.kind, subjectId: l.subjectId, renew: true } })
                      }
                    >
                      {phrase('contacts.renew')}
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
      say(phrase(contact.kind === 'person' ? 'contacts.theWasErased' : 'contacts.theOrganizationWasErased'));
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('contacts.eraseForGood', { name: fullName(contact) })}
      submit={phrase('contacts.eraseIt')}
      look="stop"
      disabled={!form.values.name.trim()}
    >
      <Loaded of={what}>
        {({ goes, kept }) => (
          <>
            <p>{phrase('contacts.thisCantBeUndone', { goes: goes.join(', ') })}</p>
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
      <Text form={form} name="name" label={phrase('common.typeTheNameTo', { name: fullName(contact) })} />
    </FormDialog>
  );
}
