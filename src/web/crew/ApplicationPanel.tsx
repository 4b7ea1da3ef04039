import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Application, applyingContract, type Call } from '#contract/applying.ts';
import type { Said } from '#core/crew/applying.ts';
import { sayShortDate } from '#core/time/say.ts';
import { addressOf } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Facts } from '#web/kit/Facts.tsx';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Note } from '#web/kit/Note.tsx';
import { Problems } from '#web/kit/notices.tsx';
import { SlideOver } from '#web/kit/SlideOver.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAction } from '#web/parts/ask.ts';
import { Person } from '#web/parts/Person.tsx';
import { PersonSearch } from '#web/parts/PersonSearch.tsx';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { sayLimits, sayThere, sayWishes, stateViews } from './applyingWords.ts';
import type { Decision } from './Decide.tsx';
import { DepositOf } from './Deposit.tsx';

interface Names {
  roleName: (id: string) => string;
  skillName: (id: string) => string;
}

const day = (date: string): string => `${sayShortDate(date)} ${date.slice(0, 4)}`;

/** What somebody said, thing by thing; what was not said is left out. */
function SaidFacts({ said, roleName }: { said: Said } & Names) {
  return (
    <Facts
      of={[
        [phrase('applying.wishes'), sayWishes(said, roleName)],
        [
          phrase('applying.availability'),
          said.available && (
            <span key="there" className="num">
              {sayThere(said.available).map((line) => (
                <chakra.span key={line} display="block">
                  {line}
                </chakra.span>
              ))}
            </span>
          ),
        ],
        [phrase('applying.limits'), sayLimits(said.limits)],
        [phrase('applying.company'), said.company],
        [phrase('applying.shirt'), said.shirt],
        [phrase('applying.experience'), said.experience],
      ]}
    />
  );
}

/** One application beside the list: all that was said, what is on record of it, and what can be done. */
export function ApplicationPanel({
  application: a,
  call,
  decide,
  close,
  ...names
}: {
  application: Application;
  call: Call;
  decide: (to: Decision) => void;
  close: () => void;
} & Names) {
  const { at } = useSaying();
  const [asking, setAsking] = useState(false);
  const params = { id: a.id };
  const again = useAction('POST /api/applications/:id/again');
  const { said } = a;
  return (
    <SlideOver open close={close} label={a.name}>
      <chakra.div padding="18px 20px">
        <div className="spread">
          <h2>
            <Person id={a.contactId} name={a.name} />
          </h2>
          <Button look="plain" onClick={close}>
            {phrase('common.close')}
          </Button>
        </div>
        <p className="soft">
          {[
            stateViews[a.state],
            a.appliedAt && phrase('applying.appliedAt', { at: at(a.appliedAt) }),
            a.decidedBy && a.state !== 'new' && `${a.decidedBy}, ${at(a.decidedAt)}`,
            a.email,
            a.age !== null && phrase('applying.age', { age: a.age }),
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {said && (
          <chakra.div className="acts" margin="12px 0">
            {a.state !== 'accepted' && (
              <Button look="main" onClick={() => decide('accepted')}>
                {phrase('applying.accept')}
              </Button>
            )}
            <Button onClick={() => setAsking(true)}>{phrase('applying.ask')}</Button>
            {a.state !== 'resting' && (
              <Button onClick={() => decide('resting')}>{phrase('applying.rest')}</Button>
            )}
            {a.state !== 'declined' && (
              <Button look="stop" onClick={() => decide('declined')}>
                {phrase('applying.decline')}
              </Button>
            )}
          </chakra.div>
        )}
        {a.deposit && <DepositOf name={a.name} deposit={a.deposit} />}
        {a.question && (
          <Note as="div" tone={a.answer ? 'know' : 'need'}>
            <p>{phrase('applying.question', { question: a.question })}</p>
            <p>{a.answer ? phrase('applying.answer', { answer: a.answer }) : phrase('applying.noAnswer')}</p>
          </Note>
        )}
        {a.again && (
          <Note as="div" tone="need">
            <p>{phrase('applying.againTitle')}</p>
            <SaidFacts said={a.again} {...names} />
            <Problems of={again.problem} />
            <div className="acts">
              <Button
                disabled={again.isPending}
                onClick={() => again.mutate({ params, body: { take: true } })}
              >
                {phrase('applying.againTake')}
              </Button>
              <Button
                look="plain"
                disabled={again.isPending}
                onClick={() => again.mutate({ params, body: { take: false } })}
              >
                {phrase('applying.againLeave')}
              </Button>
            </div>
          </Note>
        )}
        {said && <SaidFacts said={said} {...names} />}
        {said && said.skills.length > 0 && <Certificates application={a} said={said} {...names} />}
        {said && <Pairs application={a} />}
      </chakra.div>
      {asking && <Ask application={a} call={call} close={() => setAsking(false)} />}
    </SlideOver>
  );
}

/** What they can do, whether it is on record, and the papers they sent. */
function Certificates({ application: a, said, skillName }: { application: Application; said: Said } & Names) {
  const seen = useAction('POST /api/applications/:id/skills/:skill/seen', () =>
    say(phrase('applying.isSeen')),
  );
  return (
    <>
      <h3>{phrase('applying.skills')}</h3>
      <Problems of={seen.problem} />
      <ul className="lines">
        {said.skills.map(({ skillId, number, until, fileId }) => {
          const name = skillName(skillId);
          const held = a.held.find((h) => h.skillId === skillId);
          const file = a.files.find((f) => f.id === fileId);
          return (
            <li key={skillId} className="spread">
              <span>
                {number && until
                  ? phrase('applying.certificate', { name, number, until: day(until) })
                  : number
                    ? phrase('applying.certificateOpen', { name, number })
                    : [name, until && day(until)].filter(Boolean).join(', ')}{' '}
                <small className={held?.seen ? 'soft' : 'need'}>
                  {held
                    ? phrase(held.seen ? 'applying.onRecordSeen' : 'applying.onRecord')
                    : phrase('applying.notOnRecord')}
                </small>
                {file && (
                  <chakra.small display="block">
                    <a href={addressOf('GET /api/applications/:id/files/:file', { id: a.id, file: file.id })}>
                      {file.name}
                    </a>
                  </chakra.small>
                )}
              </span>
              {!held?.seen && (
                <Button
                  look="link"
                  color="verdigris"
                  flexShrink={0}
                  aria-label={phrase('applying.seenNamed', { name })}
                  disabled={seen.isPending}
                  onClick={() => seen.mutate({ params: { id: a.id, skill: skillId } })}
                >
                  {phrase('applying.seeIt')}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** With whom somebody always serves, and with whom never. */
function Pairs({ application: a }: { application: Application }) {
  const [other, setOther] = useState<{ id: string; name: string } | null>(null);
  const pair = useAction('POST /api/applications/:id/pairs', () => setOther(null));
  const unpair = useAction('DELETE /api/applications/:id/pairs/:pair');
  const put = (kind: 'together' | 'apart') =>
    other && pair.mutate({ params: { id: a.id }, body: { contactId: other.id, kind } });
  return (
    <chakra.section marginTop="14px">
      {a.pairs.length > 0 && (
        <ul className="lines">
          {a.pairs.map((p) => (
            <li key={p.id} className="spread">
              <span>
                <span className="soft">
                  {phrase(p.kind === 'together' ? 'applying.together' : 'applying.apart')}
                </span>{' '}
                <Person id={p.contactId} name={p.name} />
              </span>
              <Button
                look="link"
                color="soft"
                aria-label={phrase('applying.unpair', { name: p.name })}
                disabled={unpair.isPending}
                onClick={() => unpair.mutate({ params: { id: a.id, pair: p.id } })}
              >
                {phrase('common.remove')}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Problems of={pair.problem ?? unpair.problem} />
      <PersonSearch
        label={phrase('applying.pairWith')}
        placeholder={phrase('common.partOfAName')}
        chosen={other?.name ?? ''}
        pick={(person) => setOther(person ? { id: person.id, name: person.name } : null)}
      />
      {other && (
        <div className="acts">
          <Button disabled={pair.isPending} onClick={() => put('together')}>
            {phrase('applying.pairTogether')}
          </Button>
          <Button disabled={pair.isPending} onClick={() => put('apart')}>
            {phrase('applying.pairApart')}
          </Button>
        </div>
      )}
    </chakra.section>
  );
}

function Ask({ application: a, close }: { application: Application; call: Call; close: () => void }) {
  const form = useForm({
    values: { words: '' },
    request: (body) =>
      prepare(applyingContract, 'POST /api/applications/:id/ask', { params: { id: a.id }, body }),
    after: () => {
      say(phrase('applying.isAsked', { name: a.name }));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      title={phrase('applying.askTitle', { name: a.name })}
      submit={phrase('applying.askSend')}
    >
      <LongText form={form} name="words" label={phrase('applying.askWords')} rows={3} required />
    </FormDialog>
  );
}
