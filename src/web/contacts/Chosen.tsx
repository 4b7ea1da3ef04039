import { chakra } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { ApiProblem, saveFile } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { sayCount } from '../parts/saying.ts';
import { MailingForm } from './MailingForm.tsx';

const sayContacts = (n: number): string => (n === 1 ? '1 contact' : `${sayCount(n)} contacts`);

/** What can be done with several contacts at once: a tag, a segment, a message, a file. */
export function Chosen({
  ids,
  clear,
  all,
  chooseAll,
}: {
  ids: readonly string[];
  clear: () => void;
  /** How many more than the chosen the filter finds; null when these are all. */
  all: number | null;
  chooseAll: () => void;
}) {
  const [doing, setDoing] = useState<'tag' | 'segment' | null>(null);
  const [writing, setWriting] = useState(false);
  const [failed, setFailed] = useState<ApiProblem | null>(null);
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const save = (kind: 'csv' | 'vcf') => {
    setFailed(null);
    saveFile(`POST /api/contacts/chosen.${kind}`, { body: { ids: [...ids] } }, `contacts.${kind}`).catch(
      (error: unknown) => {
        if (error instanceof ApiProblem) setFailed(error);
      },
    );
  };
  const part = (what: 'tag' | 'segment', label: string): ReactNode => (
    <Button aria-expanded={doing === what} onClick={() => setDoing(doing === what ? null : what)}>
      {label}
    </Button>
  );
  return (
    <div className="chosen">
      <b className="num">{sayCount(ids.length)} chosen</b>
      {all !== null && (
        <Button look="link" onClick={chooseAll}>
          Choose all {sayCount(all)} found
        </Button>
      )}
      {part('tag', 'Tag')}
      {part('segment', 'Put into a segment')}
      {coordinator && (
        <>
          <Button onClick={() => setWriting(true)}>Write to them</Button>
          <Button onClick={() => save('csv')}>CSV</Button>
          <Button onClick={() => save('vcf')}>vCard</Button>
        </>
      )}
      <Button look="plain" onClick={clear}>
        Choose nobody
      </Button>
      {doing === 'tag' && <TagThem ids={ids} />}
      {doing === 'segment' && <PutThem ids={ids} />}
      <Problems of={failed} />
      {writing && <MailingForm to={{ ids: [...ids] }} close={() => setWriting(false)} />}
    </div>
  );
}

function TagThem({ ids }: { ids: readonly string[] }) {
  const [tag, setTag] = useState('');
  const tags = useAsk('GET /api/tags').data ?? [];
  const undo = useAction('POST /api/tags', () => say('Undone.'));
  const change = useAction('POST /api/tags');
  const run = (remove: boolean) => {
    const clean = tag.trim().toLowerCase();
    change.mutate(
      { body: { tag: clean, ids: [...ids], remove } },
      {
        onSuccess: ({ changed }) => {
          setTag('');
          say(
            changed.length === 0
              ? remove
                ? `None of them has “${clean}”.`
                : `All of them have “${clean}” already.`
              : `“${clean}” ${remove ? 'taken off' : 'added to'} ${sayContacts(changed.length)}.`,
            changed.length
              ? {
                  label: 'Undo',
                  run: () => undo.mutate({ body: { tag: clean, ids: changed, remove: !remove } }),
                }
              : undefined,
          );
        },
      },
    );
  };
  return (
    <span className="acts">
      <chakra.input
        list="tags"
        value={tag}
        placeholder="a tag"
        aria-label="Tag"
        width="150px"
        onChange={(e) => setTag(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && tag.trim() && run(false)}
      />
      <datalist id="tags">
        {tags.map((t) => (
          <option key={t.tag} value={t.tag} />
        ))}
      </datalist>
      <Button disabled={!tag.trim() || change.isPending} onClick={() => run(false)}>
        Add the tag
      </Button>
      <Button look="plain" disabled={!tag.trim() || change.isPending} onClick={() => run(true)}>
        Take it off
      </Button>
      <Problems of={change.problem} />
    </span>
  );
}

/** Puts contacts into a segment kept by hand or frozen, or into a new one. */
function PutThem({ ids }: { ids: readonly string[] }) {
  const segments = (useAsk('GET /api/segments').data ?? []).filter((s) => s.frozenAt);
  const [into, setInto] = useState('');
  const [name, setName] = useState('');
  const undo = useAction('POST /api/segments/:id/members', () => say('Undone.'));
  const throwAway = useAction('DELETE /api/segments/:id', () => say('Undone.'));
  const put = useAction('POST /api/segments/:id/members');
  const make = useAction('POST /api/segments');
  const known = segments.find((s) => s.id === into);
  const run = () => {
    if (!known) {
      make.mutate(
        { body: { name, ids: [...ids] } },
        {
          onSuccess: ({ id }) => {
            setName('');
            say(`“${name}” was made of ${sayContacts(ids.length)}.`, {
              label: 'Undo',
              run: () => throwAway.mutate({ params: { id } }),
            });
          },
        },
      );
      return;
    }
    put.mutate(
      { params: { id: known.id }, body: { ids: [...ids] } },
      {
        onSuccess: ({ changed }) =>
          say(
            changed.length
              ? `${sayContacts(changed.length)} put into “${known.name}”.`
              : `All of them are in “${known.name}” already.`,
            changed.length
              ? {
                  label: 'Undo',
                  run: () => undo.mutate({ params: { id: known.id }, body: { ids: changed, remove: true } }),
                }
              : undefined,
          ),
      },
    );
  };
  return (
    <span className="acts">
      <chakra.select aria-label="Segment" width="auto" value={into} onChange={(e) => setInto(e.target.value)}>
        <option value="">a new one</option>
        {segments.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name} ({s.count})
          </option>
        ))}
      </chakra.select>
      {!known && (
        <chakra.input
          aria-label="Name of the new segment"
          placeholder="its name"
          width="180px"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && name.trim() && run()}
        />
      )}
      <Button disabled={put.isPending || make.isPending || (!known && !name.trim())} onClick={run}>
        Put them in
      </Button>
      <Problems of={put.problem ?? make.problem} />
    </span>
  );
}
