import { chakra } from '@chakra-ui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { SegmentSummary } from '#contract/records.ts';
import { fullName } from '#core/contacts/names.ts';
import type { Segment as Questions } from '#core/records/segment.ts';
import { ApiProblem, addressOf, call } from '#web/api.ts';
import { Button, ButtonAnchor } from '#web/kit/Button.tsx';
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

/** One segment: its questions to the left, who they find to the right. Saved as it is changed. */
export default function Segment() {
  const { id = '' } = useParams();
  const segment = useAsk('GET /api/segments/:id', { params: { id } });
  return (
    <div className="page">
      <p>
        <Link to="/records/segments">Segments</Link>
      </p>
      <Loaded of={segment}>{(s) => <Shown key={s.id} kept={s} />}</Loaded>
    </div>
  );
}

type Body = Record<string, unknown>;
const sayPeople = (n: number): string => (n === 1 ? '1 person' : `${sayCount(n)} people`);

/** Which question a path leads to, as the builder numbers them: "segment.all.3.any.0.tag" is question 4.1. */
const placeOf = (path: string): string => {
  const numbers = path.split('.').filter((step) => /^\d+$/u.test(step));
  return numbers.length ? `Question ${numbers.map((n) => Number(n) + 1).join('.')}: ` : '';
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
    say(s.frozenAt ? `Frozen with ${sayPeople(s.count ?? 0)}.` : 'Unfrozen.'),
  );
  // Who was in a segment kept by hand, so that throwing it away can be taken back.
  const members = useRef<string[]>([]);
  const inIt = useAsk('GET /api/segments/:id/contacts', { params, enabled: kept.byHand }).data;
  if (inIt) members.current = inIt.contacts.map((c) => c.id);
  const restore = useAction('POST /api/segments', ({ id }) => navigate(`/records/segments/${id}`));
  const remove = useAction('DELETE /api/segments/:id', () => {
    navigate('/records/segments');
    say(`“${name}” was deleted.`, {
      label: 'Undo',
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
      <div className="spread">
        <input
          className="title"
          aria-label="Name of the segment"
          value={name}
          readOnly={Boolean(kept.frozenAt)}
          onChange={(e) => setName(e.target.value)}
        />
        <div className="acts">
          {!kept.frozenAt && <SavedMark state={saving} />}
          {coordinator && (
            <>
              <ButtonAnchor href={addressOf('GET /api/segments/:id/contacts.csv', params)}>CSV</ButtonAnchor>
              <ButtonAnchor href={addressOf('GET /api/segments/:id/contacts.vcf', params)}>
                vCard
              </ButtonAnchor>
            </>
          )}
          {coordinator && <Button onClick={() => setWriting(true)}>Write to them</Button>}
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
              {kept.frozenAt ? 'Unfreeze' : 'Freeze it as it is today'}
            </Button>
          )}
          <Button look="plain" onClick={() => remove.mutate({ params })}>
            Delete
          </Button>
        </div>
      </div>
      <p className="sentence">{kept.byHand ? kept.sentence : (found.data?.sentence ?? kept.sentence)}</p>
      {writing && <MailingForm to={{ segmentId: kept.id }} close={() => setWriting(false)} />}
      {kept.byHand && <Members id={kept.id} />}
      {kept.frozenAt && !kept.byHand && (
        <Note as="p" tone="need">
          Frozen on {dayAndYear(kept.frozenAt)} with {sayPeople(kept.count ?? 0)}. The questions below no
          longer change who is in it.
        </Note>
      )}
      {problem && Object.keys(problem.fields).length > 0 ? (
        <Note tone="need" role="status">
          {Object.entries(problem.fields).map(([path, message]) => (
            <p key={path}>{`${placeOf(path)}${message}`}</p>
          ))}
        </Note>
      ) : (
        <Problems of={problem ?? save.problem ?? freeze.problem} />
      )}
      {!kept.byHand && (
        <div className="segment">
          <chakra.fieldset disabled={Boolean(kept.frozenAt)} border="0" padding="0" margin="0" minWidth="0">
            <SegmentBuilder segment={segment} change={setSegment} />
          </chakra.fieldset>
          <aside aria-label="Who it finds">
            <p role="status">
              <chakra.b className="name num" fontSize="22px">
                {shown === null ? '—' : sayCount(shown)}
              </chakra.b>{' '}
              <span className="soft num">{found.data ? `of ${sayCount(found.data.of)} contacts` : ''}</span>
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
            {found.data && found.data.count > 9 && <small className="soft">Some of them.</small>}
            <Why segment={segment} />
          </aside>
        </div>
      )}
    </>
  );
}
