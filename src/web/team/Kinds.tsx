import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Kind, kindsContract } from '#contract/kinds.ts';
import { kindColours, kindShapes } from '#core/events/kinds.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
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
const titles: Record<Sort, string> = {
  category: phrase('team.categories'),
  draw: phrase('team.draws'),
};

/** Kinds of events with their marks, and what draws people to them, each with its French. */
export function Kinds() {
  const kinds = useAsk('GET /api/kinds');
  const [changing, setChanging] = useState<Kind | Sort | null>(null);
  const remove = useAction('DELETE /api/kinds/:id');
  return (
    <>
      <Problems of={remove.problem} />
      {(['category', 'draw'] as const).map((sort) => (
        <chakra.section key={sort} marginTop="22px">
          <h2>{titles[sort]}</h2>
          <Loaded of={kinds}>
            {(all) => (
              <ul className="lines">
                {all
                  .filter((k) => k.sort === sort)
                  .map((k) => (
                    <li key={k.id} className="spread">
                      <span>
                        <KindMark mark={k} />
                        <span className="name">{k.name}</span> <span className="soft">{k.french}</span>
                      </span>
                      <chakra.span display="inline-flex" gap="12px" fontSize="13.5px">
                        <span className="soft num">{phrase('team.eventsOf', { events: k.events })}</span>
                        <Button
                          look="link"
                          color="verdigris"
                          aria-label={phrase('team.changeNamed', { name: k.name })}
                          onClick={() => setChanging(k)}
                        >
                          {phrase('common.change')}
                        </Button>
                        <Button
                          look="link"
                          color="soft"
                          disabled={remove.isPending}
                          aria-label={phrase('team.removeNamed', { name: k.name })}
                          onClick={() =>
                            remove.mutate(
                              { params: { id: k.id } },
                              { onSuccess: () => say(phrase('team.kindGone', { name: k.name })) },
                            )
                          }
                        >
                          {phrase('common.remove')}
                        </Button>
                      </chakra.span>
                    </li>
                  ))}
              </ul>
            )}
          </Loaded>
          <Button look="link" color="verdigris" onClick={() => setChanging(sort)}>
            {phrase('team.addOne')}
          </Button>
        </chakra.section>
      ))}
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
      title={known ? phrase('team.changeNamed', { name: known.name }) : titles[sort]}
      submit={phrase('common.save')}
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
