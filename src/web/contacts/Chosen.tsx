import { type ReactNode, useState } from 'react';
import { ApiProblem, saveFile } from '#web/api.ts';
import { Button } from '#web/kit/Button.tsx';
import { InlineChoice, InlineText } from '#web/kit/Inline.tsx';
import { phrase } from '#web/words/phrase.ts';
import { ChosenBar } from '../kit/ChosenBar.tsx';
import { Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk, useMe } from '../parts/ask.ts';
import { MailingForm } from './MailingForm.tsx';

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
    <ChosenBar label={phrase('contacts.chosen', { ids: ids.length })}>
      {all !== null && (
        <Button look="link" onClick={chooseAll}>
          {phrase('contacts.chooseAllFound', { all })}
        </Button>
      )}
      {part('tag', phrase('contacts.tag'))}
      {part('segment', phrase('contacts.addToASegment'))}
      {coordinator && (
        <>
          <Button onClick={() => setWriting(true)}>{phrase('common.writeToThem')}</Button>
          <Button onClick={() => save('csv')}>{phrase('contacts.exportAsCsv', { n: ids.length })}</Button>
          <Button onClick={() => save('vcf')}>{phrase('contacts.exportAsVcard', { n: ids.length })}</Button>
        </>
      )}
      <Button look="plain" onClick={clear}>
        {phrase('contacts.clearSelection')}
      </Button>
      {doing === 'tag' && <TagThem ids={ids} />}
      {doing === 'segment' && <PutThem ids={ids} />}
      <Problems of={failed} />
      {writing && <MailingForm to={{ ids: [...ids] }} close={() => setWriting(false)} />}
    </ChosenBar>
  );
}

function TagThem({ ids }: { ids: readonly string[] }) {
  const [tag, setTag] = useState('');
  const tags = useAsk('GET /api/tags').data ?? [];
  const undo = useAction('POST /api/tags', () => say(phrase('common.undone')));
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
                ? phrase('contacts.noneOfThemHas', { clean })
                : phrase('contacts.allOfThemHave', { clean })
              : phrase(remove ? 'contacts.tagRemoved' : 'contacts.tagAdded', {
                  tag: clean,
                  n: changed.length,
                }),
            changed.length
              ? {
                  label: phrase('common.undo'),
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
      <InlineText
        list="tags"
        label={phrase('contacts.tag')}
        placeholder={phrase('contacts.aTag')}
        width="150px"
        value={tag}
        set={setTag}
        onKeyDown={(e) => e.key === 'Enter' && tag.trim() && run(false)}
      />
      <datalist id="tags">
        {tags.map((t) => (
          <option key={t.tag} value={t.tag} />
        ))}
      </datalist>
      <Button disabled={!tag.trim() || change.isPending} onClick={() => run(false)}>
        {phrase('contacts.addTheTag')}
      </Button>
      <Button look="plain" disabled={!tag.trim() || change.isPending} onClick={() => run(true)}>
        {phrase('contacts.removeTheTag')}
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
  const undo = useAction('POST /api/segments/:id/members', () => say(phrase('common.undone')));
  const throwAway = useAction('DELETE /api/segments/:id', () => say(phrase('common.undone')));
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
            say(phrase('contacts.wasMadeOf', { name, ids: ids.length }), {
              label: phrase('common.undo'),
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
              ? phrase('contacts.addedToSegment', { changed: changed.length, name: known.name })
              : phrase('contacts.allOfThemAre', { name: known.name }),
            changed.length
              ? {
                  label: phrase('common.undo'),
                  run: () => undo.mutate({ params: { id: known.id }, body: { ids: changed, remove: true } }),
                }
              : undefined,
          ),
      },
    );
  };
  return (
    <span className="acts">
      <InlineChoice
        label={phrase('contacts.segment')}
        value={into}
        set={setInto}
        empty={phrase('contacts.aNewOne')}
        choices={segments.map((s) => ({ value: s.id, label: `${s.name} (${s.count})` }))}
      />
      {!known && (
        <InlineText
          label={phrase('contacts.nameOfTheNew')}
          placeholder={phrase('contacts.itsName')}
          value={name}
          set={setName}
          onKeyDown={(e) => e.key === 'Enter' && name.trim() && run()}
        />
      )}
      <Button disabled={put.isPending || make.isPending || (!known && !name.trim())} onClick={run}>
        {phrase('contacts.addThem')}
      </Button>
      <Problems of={put.problem ?? make.problem} />
    </span>
  );
}
