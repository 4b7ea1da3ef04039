import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Place, placesContract } from '#contract/places.ts';
import { wrongLayouts } from '#core/places/layouts.ts';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { ChoiceField } from '../kit/Field.tsx';
import { Form } from '../kit/form/Form.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Empty } from '../kit/Note.tsx';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Diaries } from './Diaries.tsx';
import { fieldOfPlace, PlaceFields, placeOf, typedPlace } from './PlaceFields.tsx';

/** The register of places: what is known of each, and what takes place there. */
export function Places() {
  const places = useAsk('GET /api/venues');
  const [doing, setDoing] = useState<{ with: Place; what: 'change' | 'merge' | 'diaries' } | null>(null);
  const retire = useAction('POST /api/venues/:id/retire');
  const put = (place: Place, retired: boolean) => {
    retire.mutate(
      { params: { id: place.id }, body: { retired } },
      {
        onSuccess: () =>
          say(phrase(retired ? 'team.placeRetired' : 'team.placeBack', { name: place.name }), {
            label: phrase('common.undo'),
            run: () => retire.mutate({ params: { id: place.id }, body: { retired: !retired } }),
          }),
      },
    );
  };
  return (
    <chakra.section marginTop="22px">
      <h2>{phrase('common.places')}</h2>
      <Problems of={retire.problem} />
      <Loaded of={places}>
        {(all) => (
          <>
            {all.length === 0 && <Empty>{phrase('team.noneYet')}</Empty>}
            <ul className="lines">
              {all.map((p) => (
                <chakra.li key={p.id} opacity={p.retired ? 0.7 : 1}>
                  <div className="spread">
                    <span>
                      <span className="name">{p.name}</span>{' '}
                      <span className="soft">
                        {[
                          p.address,
                          p.capacity && phrase('team.holds', { capacity: p.capacity }),
                          p.rooms.length > 0 && phrase('team.roomsOf', { rooms: p.rooms.length }),
                          p.phone,
                          p.retired && phrase('team.retired'),
                        ]
                          .filter(Boolean)
                          .join(', ')}
                      </span>
                    </span>
                    <chakra.span className="soft num" whiteSpace="nowrap">
                      {phrase('team.eventsThere', { events: p.events, coming: p.coming })}
                    </chakra.span>
                  </div>
                  <chakra.span display="inline-flex" gap="12px" fontSize="13.5px">
                    <Button
                      look="link"
                      color="verdigris"
                      aria-label={phrase('team.changeNamed', { name: p.name })}
                      onClick={() => setDoing({ with: p, what: 'change' })}
                    >
                      {phrase('common.change')}
                    </Button>
                    <Button
                      look="link"
                      color="soft"
                      aria-label={phrase(p.retired ? 'team.takeUpNamed' : 'team.retireNamed', {
                        name: p.name,
                      })}
                      onClick={() => put(p, !p.retired)}
                    >
                      {phrase(p.retired ? 'team.takeUp' : 'team.retire')}
                    </Button>
                    <Button
                      look="link"
                      color="soft"
                      aria-label={phrase('team.diariesOf', { name: p.name })}
                      onClick={() => setDoing({ with: p, what: 'diaries' })}
                    >
                      {phrase('team.diaries')}
                    </Button>
                    {all.length > 1 && (
                      <Button
                        look="link"
                        color="soft"
                        aria-label={phrase('team.mergeNamed', { name: p.name })}
                        onClick={() => setDoing({ with: p, what: 'merge' })}
                      >
                        {phrase('team.merge')}
                      </Button>
                    )}
                  </chakra.span>
                </chakra.li>
              ))}
            </ul>
            {doing?.what === 'change' && <Change place={doing.with} close={() => setDoing(null)} />}
            {doing?.what === 'diaries' && <Diaries place={doing.with} close={() => setDoing(null)} />}
            {doing?.what === 'merge' && (
              <Merge
                place={doing.with}
                others={all.filter((p) => p.id !== doing.with.id)}
                close={() => setDoing(null)}
              />
            )}
          </>
        )}
      </Loaded>
      <chakra.details marginTop="8px">
        <chakra.summary color="verdigris" cursor="pointer">
          {phrase('team.addOne')}
        </chakra.summary>
        <chakra.div className="form" marginTop="8px">
          <Add />
        </chakra.div>
      </chakra.details>
    </chakra.section>
  );
}

function Add() {
  const form = useForm({
    values: typedPlace(),
    request: (v) => prepare(placesContract, 'POST /api/venues', { body: placeOf(v) }),
    check: (v) => wrongLayouts(v.rooms),
    fieldOf: fieldOfPlace,
    after: () => say(phrase('common.added')),
    again: true,
  });
  return (
    <Form form={form} submit={phrase('common.add')} look="normal">
      <PlaceFields form={form} />
    </Form>
  );
}

function Change({ place, close }: { place: Place; close: () => void }) {
  const form = useForm({
    values: typedPlace(place),
    request: (v) =>
      prepare(placesContract, 'PATCH /api/venues/:id', { params: { id: place.id }, body: placeOf(v) }),
    check: (v) => wrongLayouts(v.rooms),
    fieldOf: fieldOfPlace,
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('team.changeNamed', { name: place.name })}
      submit={phrase('common.save')}
      close={close}
    >
      {place.coming > 0 && <p className="soft">{phrase('team.changesComing', { coming: place.coming })}</p>}
      <PlaceFields form={form} />
    </FormDialog>
  );
}

/** Makes one place of two, and says what moves first. */
function Merge({ place, others, close }: { place: Place; others: readonly Place[]; close: () => void }) {
  const [into, setInto] = useState('');
  const merge = useAction('POST /api/venues/:id/merge', ({ moved }) => {
    say(phrase('team.placesMerged', { name: place.name, moved }));
    close();
  });
  const other = others.find((p) => p.id === into);
  return (
    <Asking
      open
      close={close}
      title={phrase('team.mergeNamed', { name: place.name })}
      actions={
        <Button
          look="stop"
          disabled={!other || merge.isPending}
          onClick={() => merge.mutate({ params: { id: place.id }, body: { into } })}
        >
          {phrase('team.merge')}
        </Button>
      }
    >
      <Problems of={merge.problem} />
      <ChoiceField
        label={phrase('team.into')}
        value={into}
        set={setInto}
        choices={others.map((p) => ({ value: p.id, label: p.name }))}
        empty={phrase('team.chooseAPlace')}
        consequence={
          other ? phrase('team.mergeWill', { events: place.events, name: place.name, other: other.name }) : ''
        }
      />
    </Asking>
  );
}
