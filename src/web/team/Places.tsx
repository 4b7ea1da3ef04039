import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type Place, placesContract } from '#contract/places.ts';
import { wrongLayouts } from '#core/places/layouts.ts';
import { RegisterSection, RowActs } from '#web/parts/RegisterSection.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Asking } from '../kit/Asking.tsx';
import { Button } from '../kit/Button.tsx';
import { ChoiceField } from '../kit/Field.tsx';
import { FormDialog } from '../kit/form/FormDialog.tsx';
import { prepare } from '../kit/form/request.ts';
import { useForm } from '../kit/form/useForm.ts';
import { Loaded, Problems } from '../kit/notices.tsx';
import { say } from '../kit/toast.tsx';
import { useAction, useAsk } from '../parts/ask.ts';
import { Diaries } from './Diaries.tsx';
import { fieldOfPlace, PlaceFields, placeOf, typedPlace } from './PlaceFields.tsx';

/** The register of places: what is known of each, and what takes place there. */
export function Places() {
  const places = useAsk('GET /api/venues');
  const [doing, setDoing] = useState<{ with: Place; what: 'change' | 'merge' | 'diaries' } | 'add' | null>(
    null,
  );
  const of = doing === 'add' ? null : doing;
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
    <>
      <Problems of={retire.problem} />
      <Loaded of={places}>
        {(all) => (
          <>
            <RegisterSection
              title={phrase('common.places')}
              empty={phrase('team.noPlaces')}
              add={phrase('team.addPlace')}
              act={() => setDoing('add')}
              rows={all.map((p) => (
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
                  <RowActs>
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
                  </RowActs>
                </chakra.li>
              ))}
            />
            {doing === 'add' && <Add close={() => setDoing(null)} />}
            {of?.what === 'change' && <Change place={of.with} close={() => setDoing(null)} />}
            {of?.what === 'diaries' && <Diaries place={of.with} close={() => setDoing(null)} />}
            {of?.what === 'merge' && (
              <Merge
                place={of.with}
                others={all.filter((p) => p.id !== of.with.id)}
                close={() => setDoing(null)}
              />
            )}
          </>
        )}
      </Loaded>
    </>
  );
}

function Add({ close }: { close: () => void }) {
  const form = useForm({
    values: typedPlace(),
    request: (v) => prepare(placesContract, 'POST /api/venues', { body: placeOf(v) }),
    check: (v) => wrongLayouts(v.rooms),
    fieldOf: fieldOfPlace,
    after: () => {
      say(phrase('common.added'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase('team.addPlace')}
      submit={phrase('team.addPlace')}
      close={close}
    >
      <PlaceFields form={form} />
    </FormDialog>
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
