import { useState } from 'react';
import { type Kind, kindsContract } from '#contract/kinds.ts';
import { kindColours, kindShapes } from '#core/events/kinds.ts';
import { ChangeOrRemove, RegisterSection, RowActs } from '#web/parts/RegisterSection.tsx';
import { phrase, term } from '#web/words/phrase.ts';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { Choose, Text } from '../kit/form/fields.tsx';
import { type Prepared, prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { KindMark } from '../parts/KindMark.tsx';
import { PictureField } from '../parts/PictureField.tsx';

type Sort = Kind['sort'];
const words: Record<Sort, { title: string; empty: string; add: string }> = {
  category: {
    title: phrase('team.categories'),
    empty: phrase('team.noKinds'),
    add: phrase('team.addKind'),
  },
  draw: { title: phrase('team.draws'), empty: phrase('team.noDraws'), add: phrase('team.addDraw') },
};

/** Kinds of events with their marks, and what draws people to them, each with its French. */
export function Kinds() {
  const kinds = useAsk('GET /api/kinds');
  const [changing, setChanging] = useState<Kind | Sort | null>(null);
  const remove = useAction('DELETE /api/kinds/:id');
  return (
    <>
      <Problems of={remove.problem} />
      <Loaded of={kinds}>
        {(all) =>
          (['category', 'draw'] as const).map((sort) => (
            <RegisterSection
              key={sort}
              {...words[sort]}
              act={() => setChanging(sort)}
              rows={all
                .filter((k) => k.sort === sort)
                .map((k) => (
                  <li key={k.id} className="spread">
                    <span>
                      <KindMark mark={k} />
                      <span className="name">{k.name}</span> <span className="soft">{k.french}</span>
                    </span>
                    <RowActs>
                      <span className="soft num">{phrase('team.eventsOf', { events: k.events })}</span>
                      <ChangeOrRemove
                        name={k.name}
                        change={() => setChanging(k)}
                        removing={remove.isPending}
                        remove={() =>
                          remove.mutate(
                            { params: { id: k.id } },
                            { onSuccess: () => say(phrase('team.kindGone', { name: k.name })) },
                          )
                        }
                      />
                    </RowActs>
                  </li>
                ))}
            />
          ))
        }
      </Loaded>
      {changing && <Change kind={changing} close={() => setChanging(null)} />}
    </>
  );
}

function Change({ kind, close }: { kind: Kind | Sort; close: () => void }) {
  const known = typeof kind === 'string' ? null : kind;
  const sort = known?.sort ?? (kind as Sort);
  const [picture, setPicture] = useState<Kind['picture']>(known?.picture ?? null);
  const form = useForm({
    values: {
      name: known?.name ?? '',
      french: known?.french ?? '',
      shape: (known?.shape ?? '') as string,
      colour: (known?.colour ?? '') as string,
    },
    request: (v): Prepared<unknown> => {
      const body = { ...v, sort, pictureId: picture?.id ?? null } as never;
      return known
        ? prepare(kindsContract, 'PATCH /api/kinds/:id', { params: { id: known.id }, body })
        : prepare(kindsContract, 'POST /api/kinds', { body });
    },
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const { shape, colour } = form.values;
  return (
    <FormDialog
      form={form}
      title={known ? phrase('team.changeNamed', { name: known.name }) : words[sort].add}
      submit={known ? phrase('common.save') : words[sort].add}
      close={close}
    >
      <div className="pair">
        <Text form={form} name="name" label={phrase('common.name')} required />
        <Text
          form={form}
          name="french"
          label={phrase('event.labelInFrench', { label: phrase('common.name') })}
        />
      </div>
      {sort === 'category' && (
        <>
          <div className="pair">
            <Choose
              form={form}
              name="shape"
              label={phrase('team.mark')}
              choices={kindShapes.map((s) => ({ value: s, label: term(s) }))}
              empty={phrase('event.none')}
              consequence={<KindMark mark={{ shape, colour } as never} size="20px" />}
            />
            <Choose
              form={form}
              name="colour"
              label={phrase('team.colour')}
              choices={kindColours.map((c) => ({ value: c, label: term(c) }))}
              empty={phrase('event.none')}
            />
          </div>
          <p className="soft">{phrase('team.pictureOfKind')}</p>
          <PictureField
            name={form.values.name}
            picture={picture}
            set={setPicture}
            ratio="2 / 1"
            width="160px"
          />
        </>
      )}
    </FormDialog>
  );
}
