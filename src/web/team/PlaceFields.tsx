import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import type { Place } from '#contract/places.ts';
import { readLayout, sayLayout } from '#core/places/layouts.ts';
import { weekdays } from '#core/series/rule.ts';
import { sayWeekdayOf } from '#core/series/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { Button } from '../kit/Button.tsx';
import {
  Chips,
  Choose,
  Count,
  DateField,
  LongText,
  SeveralOf,
  Text,
  Tick,
  useBound,
} from '../kit/form/fields.tsx';
import type { Form as FormOf } from '../kit/form/useForm.ts';
import { SearchField } from '../kit/SearchField.tsx';
import { useAsk } from '../parts/ask.ts';
import { PictureField } from '../parts/PictureField.tsx';

const noRoom = () => ({ id: crypto.randomUUID(), name: '', capacity: '', layouts: [] as string[] });
const noStretch = () => ({ from: '', to: '', why: '' });

/** A place as it is typed. */
export const typedPlace = (place?: Place) => {
  const shown = (n: number | null | undefined) => (n === null || n === undefined ? '' : String(n));
  return {
    name: place?.name ?? '',
    address: place?.address ?? '',
    capacity: shown(place?.capacity),
    accessNotes: place?.accessNotes ?? '',
    phone: place?.phone ?? '',
    openingHours: place?.openingHours ?? '',
    setUpMinutes: shown(place?.setUpMinutes || null),
    latitude: shown(place?.latitude),
    longitude: shown(place?.longitude),
    picture: place?.picture ?? null,
    shared: place?.shared ?? false,
    ours: place?.ours === true ? 'yes' : place?.ours === false ? 'no' : '',
    closedWeekdays: (place?.closed.weekdays ?? []).map(String),
    closedDates: place?.closed.dates ?? [],
    rooms: (place?.rooms ?? []).map((r) => ({
      id: r.id,
      name: r.name,
      capacity: shown(r.capacity),
      layouts: r.layouts.map(sayLayout),
    })),
  };
};
export type TypedPlace = ReturnType<typeof typedPlace>;

const number = (typed: string): number | null => (typed.trim() ? Number(typed.replace(',', '.')) : null);

/** The request that a typed place makes. */
export const placeOf = ({ closedWeekdays, closedDates, rooms, picture, ...v }: TypedPlace) => ({
  ...v,
  pictureId: picture?.id ?? null,
  ours: v.ours === '' ? null : v.ours === 'yes',
  capacity: number(v.capacity),
  setUpMinutes: number(v.setUpMinutes) ?? 0,
  latitude: number(v.latitude),
  longitude: number(v.longitude),
  closed: {
    weekdays: closedWeekdays.map(Number),
    dates: closedDates.map((d) => ({ ...d, to: d.to || d.from })),
  },
  rooms: rooms.map((room) => ({
    id: room.id,
    name: room.name,
    capacity: number(room.capacity),
    layouts: room.layouts.flatMap((l) => readLayout(l) ?? []),
  })),
});

/** Where what is wrong with a request stands in the form. */
export const fieldOfPlace = (path: string): string =>
  path.replace(/^closed\.dates/u, 'closedDates').replace(/^(rooms\.\d+\.layouts)\..*$/u, '$1');

/** Monday first, as people plan; Sunday is 0. */
const weekdayChoices = () =>
  weekdays.map((day, at) => ({ value: String((at + 1) % 7), label: sayWeekdayOf(day) }));

/** What is known of a place. */
export function PlaceFields({ form }: { form: FormOf<TypedPlace> }) {
  const { rooms, closedDates } = form.values;
  return (
    <>
      <div className="pair">
        <Text form={form} name="name" label={phrase('team.nameOfThePlace')} required />
        <Count
          form={form}
          name="capacity"
          label={phrase('team.holds2')}
          help={phrase('team.peopleEmptyWhenNobody')}
        />
      </div>
      <AddressField form={form} />
      <div className="pair">
        <Text form={form} name="phone" label={phrase('common.telephone')} />
        <Count form={form} name="setUpMinutes" label={phrase('team.setUpMinutes')} />
        <Text
          form={form}
          name="latitude"
          label={phrase('team.latitude')}
          help={phrase('team.coordinatesHelp')}
        />
        <Text form={form} name="longitude" label={phrase('team.longitude')} />
      </div>
      <Text
        form={form}
        name="accessNotes"
        label={phrase('team.access')}
        help={phrase('team.stepsRampsToiletsShown')}
      />
      <p className="soft">{phrase('team.pictureOfPlace')}</p>
      <PictureField
        name={form.values.name}
        picture={form.values.picture}
        set={(picture) => form.set({ picture })}
        ratio="3 / 2"
        width="120px"
      />
      <Choose
        form={form}
        name="ours"
        label={phrase('team.whosePlace')}
        empty={phrase('team.placeNotSaid')}
        choices={[
          { value: 'yes', label: phrase('team.placeOurs') },
          { value: 'no', label: phrase('team.placeOfOthers') },
        ]}
      />
      <Tick form={form} name="shared" label={phrase('team.severalAtOnce')}>
        {phrase('team.severalAtOnceHelp')}
      </Tick>
      <Part title={phrase('team.rooms')}>
        {rooms.length === 0 && <p className="soft">{phrase('team.noRooms')}</p>}
        {rooms.map((room, at) => (
          <Row
            key={room.id}
            name={room.name || phrase('team.roomNumber', { n: at + 1 })}
            remove={() => form.set({ rooms: rooms.filter((r) => r.id !== room.id) })}
          >
            <div className="pair">
              <Text form={form} name={`rooms.${at}.name`} label={phrase('team.nameOfTheRoom')} required />
              <Count form={form} name={`rooms.${at}.capacity`} label={phrase('team.holds2')} />
            </div>
            <Chips
              form={form}
              name={`rooms.${at}.layouts`}
              label={phrase('team.layouts')}
              help={phrase('team.layoutsHelp')}
            />
          </Row>
        ))}
        <Button look="plain" onClick={() => form.set({ rooms: [...rooms, noRoom()] })}>
          <Plus size={14} aria-hidden /> {phrase('team.addRoom')}
        </Button>
      </Part>
      <Part title={phrase('team.whenClosed')}>
        <LongText form={form} name="openingHours" label={phrase('team.openingHours')} rows={2} />
        <SeveralOf
          form={form}
          name="closedWeekdays"
          label={phrase('team.closedWeekdays')}
          choices={weekdayChoices()}
        />
        {closedDates.map((stretch, at) => (
          <Row
            key={at}
            name={[stretch.from, stretch.why].filter(Boolean).join(' ')}
            remove={() => form.set({ closedDates: closedDates.filter((_, n) => n !== at) })}
          >
            <div className="pair">
              <DateField form={form} name={`closedDates.${at}.from`} label={phrase('common.from')} required />
              <DateField form={form} name={`closedDates.${at}.to`} label={phrase('team.closedTo')} />
            </div>
            <Text form={form} name={`closedDates.${at}.why`} label={phrase('team.closedWhy')} />
          </Row>
        ))}
        <Button look="plain" onClick={() => form.set({ closedDates: [...closedDates, noStretch()] })}>
          <Plus size={14} aria-hidden /> {phrase('team.addClosed')}
        </Button>
      </Part>
    </>
  );
}

/** An address; those that what is typed may mean are proposed, each with where it is. */
function AddressField({ form }: { form: FormOf<TypedPlace> }) {
  const label = phrase('common.address');
  const { id, error } = useBound(form, 'address', label);
  const [typed, setTyped] = useState('');
  const proposals = useAsk('GET /api/addresses', { query: { typed }, enabled: typed.trim().length > 1 });
  const found = typed.trim().length > 1 ? (proposals.data ?? []) : [];
  return (
    <SearchField
      id={id}
      error={error}
      label={label}
      required
      free
      typed={form.values.address}
      type={(address) => {
        form.set({ address });
        setTyped(address);
      }}
      found={found.map((p) => ({
        value: p.address,
        label: p.address,
        hint: p.of === null ? undefined : phrase('team.addressOf', { name: p.of }),
      }))}
      pick={({ value }) => {
        const { latitude, longitude } = found.find((p) => p.address === value)!;
        form.set({
          address: value,
          ...(latitude === null || longitude === null
            ? {}
            : { latitude: String(latitude), longitude: String(longitude) }),
        });
        setTyped('');
      }}
    />
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <chakra.fieldset margin="14px 0 0" padding="10px 0 0" border="0" borderTop="1px solid" borderColor="line">
      <chakra.legend float="left" width="100%" fontWeight="600" marginBottom="6px">
        {title}
      </chakra.legend>
      <chakra.div clear="both">{children}</chakra.div>
    </chakra.fieldset>
  );
}

/** One of a list that is written here, with what takes it away. */
function Row({ name, remove, children }: { name: string; remove: () => void; children: ReactNode }) {
  return (
    <chakra.div marginBottom="8px" paddingBottom="4px" borderBottom="1px dotted" borderColor="line">
      {children}
      <Button look="link" color="soft" aria-label={phrase('team.removeNamed', { name })} onClick={remove}>
        <Trash2 size={14} aria-hidden /> {phrase('common.remove')}
      </Button>
    </chakra.div>
  );
}
