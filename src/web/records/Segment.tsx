import { chakra, type SystemStyleObject } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { SegmentSummary } from '#contract/records.ts';
import { fullName } from '#core/contacts/names.ts';
import type { Segment as Questions } from '#core/records/segment.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
import { InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { MailingForm } from '../contacts/MailingForm.tsx';
import { Note } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { SavedMark } from '../kit/SavedMark.tsx';
import { say } from '../kit/toast.tsx';
import { useSelfSaving } from '../kit/useSelfSaving.ts';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { Person } from '../parts/Person.tsx';
import { sayCount, useSaying } from '../parts/saying.ts';
import { Members } from './Members.tsx';
import { asGroup, SegmentBuilder } from './SegmentBuilder.tsx';
import { Why } from './Why.tsx';

const sentenceLook: SystemStyleObject = {
  fontFamily: 'var(--title)',
  fontSize: '16px',
  margin: '2px 0 10px',
};

/** One segment: its questions to the left, who they find to the right. Saved as it is changed. */
export default function Segment() {
  const { id = '' } = useParams();
  const segment = useAsk('GET /api/segments/:id', { params: { id } });
  return (
    <div className="page">
      <p>
        <Link to="/records/segments">{phrase('records.segments')}</Link>
      </p>
      <Loaded of={segment}>{(s) => <Shown key={s.id} kept={s} />}</Loaded>
    </div>
  );
}

type Body = Record<string, unknown>;
const sayPeople = (n: number): string => phrase('records.people', { n });

/** Which question a path leads to, as the builder numbers them: "segment.all.3.any.0.tag" is question 4.1. */
const withPlace = (path: string, message: string): string => {
  const numbers = path.split('.').filter((step) => /^\d+$/u.test(step));
  return numbers.length
    ? phrase('records.question', { numbers: numbers.map((n) => Number(n) + 1).join('.'), message })
    : message;
};

function Shown({ kept }: { kept: SegmentSummary }) {
  const navigate = useNavigate();
  const { dayAndYear } = useSaying();
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const [name, setName] = useState(kept.name);
  const [segment, setSegment] = useState<Questions>(asGroup(kept.segment as unknown as Questions));
  const [writing, setWriting] = useState(false);
  const params = { id: kept.id };
  const save = useAction('PATCH /api/segments/:id');
  const freeze = useAction('PATCH /api/segments/:id', (s) =>
    say(
      s.frozenAt
        ? phrase('records.frozenWith', { count: sayPeople(s.count ?? 0) })
        : phrase('records.unfrozen'),
    ),
  );
  // Who was in a segment kept by hand, so that throwing it away can be taken back.
  const members = useRef<string[]>([]);
  const inIt = useAsk('GET /api/segments/:id/contacts', { params, enabled: kept.byHand }).data;
  if (inIt) members.current = inIt.contacts.map((c) => c.id);
  const restore = useAction('POST /api/segments', ({ id }) => navigate(`/records/segments/${id}`));
  const remove = useAction('DELETE /api/segments/:id', () => {
    navigate('/records/segments');
    say(phrase('records.wasDeleted', { name }), {
      label: phrase('common.undo'),
      run: () =>
        restore.mutate({
          body: kept.byHand ? { name, ids: members.current } : { name, segment: segment as unknown as Body },
        }),
    });
  });
  const asked = useDeferredValue(segment);
  const found = useQuery({
    queryKey: ['count', JSON.stringify(asked)],
    queryFn: () => call('POST /api/segments/count', { body: { segment: asked as unknown as Body } }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const problem = found.error instanceof ApiProblem ? found.error : null;
  // Only what can be asked is saved.
  const saving = useSelfSaving(
    { name, segment },
    (body) =>
      save.mutateAsync({ params, body: { name: body.name, segment: body.segment as unknown as Body } }),
    { ready: !kept.frozenAt && name.trim() !== '' && !problem },
  );
  const shown = kept.frozenAt ? kept.count : (found.data?.count ?? kept.count);
  return (
    <>
      <chakra.div className="spread" flexWrap={{ base: 'wrap', md: 'nowrap' }}>
        <chakra.h1 srOnly>{name}</chakra.h1>
        <InlineText
          label={phrase('records.nameOfTheSegment')}
          value={name}
          readOnly={Boolean(kept.frozenAt)}
          set={setName}
          textStyle="title"
          width="420px"
          maxWidth="100%"
          flexShrink={0}
          padding="2px 6px"
          marginLeft="-7px"
          background="none"
          borderColor={{ base: 'transparent', _hover: 'line', _focus: 'line' }}
        />
        <div className="acts">
          {!kept.frozenAt && <SavedMark state={saving} />}
          {coordinator && (
            <>
              <ButtonAnchor href={addressOf('GET /api/segments/:id/contacts.csv', params)}>
                {phrase('contacts.exportAsCsv', { n: shown ?? 0 })}
              </ButtonAnchor>
              <ButtonAnchor href={addressOf('GET /api/segments/:id/contacts.vcf', params)}>
                {phrase('contacts.exportAsVcard', { n: shown ?? 0 })}
              </ButtonAnchor>
            </>
          )}
          {coordinator && <Button onClick={() => setWriting(true)}>{phrase('common.writeToThem')}</Button>}
          {!kept.byHand && (
            <Button
              disabled={freeze.isPending}
              onClick={() =>
                freeze.mutate({
                  params,
                  body: kept.frozenAt
                    ? { frozen: false }
                    : { name, segment: segment as unknown as Body, frozen: true },
                })
              }
            >
              {kept.frozenAt ? phrase('records.unfreeze') : phrase('records.freezeItAsIt')}
            </Button>
          )}
          <Button look="plain" onClick={() => remove.mutate({ params })}>
            {phrase('common.deleteIt')}
          </Button>
        </div>
      </chakra.div>
      <chakra.p css={sentenceLook}>
        {kept.byHand ? kept.sentence : (found.data?.sentence ?? kept.sentence)}
      </chakra.p>
      {writing && <MailingForm to={{ segmentId: kept.id }} close={() => setWriting(false)} />}
      {kept.byHand && <Members id={kept.id} />}
      {kept.frozenAt && !kept.byHand && (
        <Note as="p" tone="need">
          {phrase('records.frozenOnWithThe', {
            frozenAt: dayAndYear(kept.frozenAt),
            count: sayPeople(kept.count ?? 0),
          })}
        </Note>
      )}
      {problem && Object.keys(problem.fields).length > 0 ? (
        <Note tone="need" role="status">
          {Object.entries(problem.fields).map(([path, message]) => (
            <p key={path}>{withPlace(path, message)}</p>
          ))}
        </Note>
      ) : (
        <Problems of={problem ?? save.problem ?? freeze.problem} />
      )}
      {!kept.byHand && (
        <chakra.div
          display="grid"
          gridTemplateColumns={{ base: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) 260px' }}
          gap={{ base: '18px', lg: '0 32px' }}
          alignItems="start"
        >
          <chakra.fieldset disabled={Boolean(kept.frozenAt)} border="0" padding="0" margin="0" minWidth="0">
            <SegmentBuilder segment={segment} change={setSegment} />
          </chakra.fieldset>
          <aside aria-label={phrase('records.whoItFinds')}>
            <p role="status">
              <chakra.b className="name num" fontSize="22px">
                {shown === null ? '—' : sayCount(shown)}
              </chakra.b>{' '}
              <span className="soft num">
                {found.data ? phrase('records.ofContacts', { of: found.data.of }) : ''}
              </span>
            </p>
            {found.data && (
              <ul className="lines">
                {found.data.sample.slice(0, 9).map((c) => (
                  <li key={c.id}>
                    <Person id={c.id} name={fullName(c)} />
                  </li>
                ))}
              </ul>
            )}
            {found.data && found.data.count > 9 && (
              <small className="soft">{phrase('records.someOfThem')}</small>
            )}
            <Why segment={segment} />
          </aside>
        </chakra.div>
      )}
    </>
  );
}
