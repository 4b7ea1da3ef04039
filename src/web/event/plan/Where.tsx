import { Link } from 'react-router';
import type { EventPlan } from '#contract/plan.ts';
import { phrase, term } from '#web/words/phrase.ts';
import { Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, Group, TextField } from '../../kit/Field.tsx';
import { useAsk, useMe } from '../../parts/ask.ts';
import { BothLanguages } from './entries.tsx';
import { Invited } from './Invited.tsx';
import { PlaceNotes } from './PlaceNotes.tsx';
import type { PlanDraft } from './planDraft.ts';
import type { SectionProps } from './section.ts';

/** The room online: how to join, how many, and what becomes of those who do not fit into the place. */
function Online({ draft: { plan, change, wrong } }: { draft: PlanDraft }) {
  const { online } = plan;
  return (
    <>
      <Tick
        checked={online !== null}
        set={(on) =>
          change(
            on
              ? { online: { link: '', instructions: { en: '' } } }
              : {
                  online: null,
                  onlineCapacity: null,
                  ...(plan.whenFull === 'online' && { whenFull: 'waitlist' }),
                },
          )
        }
      >
        {phrase('event.takePartOnline')}
      </Tick>
      {online && (
        <>
          <div className="pair">
            <TextField
              label={phrase('event.onlineLink')}
              inputMode="url"
              value={online.link}
              set={(link) => change({ online: { ...online, link } })}
              error={wrong['online.link']}
              help={phrase('event.onlineLinkHelp')}
            />
            <TextField
              label={phrase('event.onlineCapacity')}
              type="number"
              value={plan.onlineCapacity === null ? '' : String(plan.onlineCapacity)}
              set={(v) => change({ onlineCapacity: v === '' ? null : Number(v) })}
              error={wrong.onlineCapacity}
              help={phrase('event.seatsInAllEmpty')}
            />
          </div>
          <BothLanguages
            long
            label={phrase('event.onlineInstructions')}
            value={online.instructions}
            set={(instructions) => change({ online: { ...online, instructions } })}
          />
        </>
      )}
      {(plan.capacity !== null || online) && (
        <div className="pair">
          <ChoiceField
            label={phrase('event.whenPlaceFull')}
            value={plan.whenFull}
            set={(v) => change({ whenFull: v as EventPlan['whenFull'] })}
            choices={[
              { value: 'waitlist', label: phrase('event.fullWaitlist') },
              { value: 'turn away', label: phrase('event.fullTurnAway') },
              ...(online ? [{ value: 'online', label: phrase('event.fullOnline') }] : []),
            ]}
          />
          {plan.whenFull === 'waitlist' && (
            <ChoiceField
              label={phrase('event.waitRule')}
              value={plan.waitRule}
              set={(v) => change({ waitRule: v as EventPlan['waitRule'] })}
              choices={[
                { value: 'first that fits', label: phrase('event.waitFirstFits') },
                { value: 'strict order', label: phrase('event.waitStrict') },
                { value: 'members first', label: phrase('event.waitMembers') },
              ]}
            />
          )}
        </div>
      )}
    </>
  );
}

/** Where it is, for how many, and who may find it. */
export function Where({ draft, page }: SectionProps) {
  const { plan, change, wrong } = draft;
  const coordinator = useMe().data?.staff.roles.includes('coordinator') ?? false;
  const choices = useAsk('GET /api/choices').data;
  // One that is not offered any more stays where it was chosen.
  const venues = choices?.venues ?? [];
  const gone = page.venue && !venues.some((v) => v.id === page.venue!.id) ? page.venue : null;
  const venue = venues.find((v) => v.id === plan.venueId);
  const room = venue?.rooms.find((r) => r.id === plan.roomId);
  const layout = room?.layouts.find((l) => l.name === plan.layout);
  const holds = layout?.capacity ?? room?.capacity ?? venue?.capacity;
  return (
    <>
      <div className="pair">
        <ChoiceField
          label={phrase('common.place')}
          value={plan.venueId ?? ''}
          set={(venueId) => change({ venueId: venueId || null, roomId: null, layout: '', beside: [] })}
          choices={[...(gone ? [gone] : []), ...venues].map((v) => ({ value: v.id, label: v.name }))}
          empty={phrase('event.toldLater')}
          consequence={holds ? phrase('team.holds', { capacity: holds }) : ''}
          help={
            venues.length === 0 && coordinator ? (
              <Link to="/team/registers">{phrase('event.addPlaceFirst')}</Link>
            ) : undefined
          }
        />
        {venue && venue.rooms.length > 0 && (
          <ChoiceField
            label={phrase('event.room')}
            value={plan.roomId ?? ''}
            set={(roomId) => change({ roomId: roomId || null, layout: '', beside: [] })}
            choices={venue.rooms.map((r) => ({
              value: r.id,
              label: r.capacity
                ? phrase('event.layoutHolds', { name: r.name, capacity: r.capacity })
                : r.name,
            }))}
            empty={phrase('event.wholePlace')}
            error={wrong.roomId}
          />
        )}
        {room && room.layouts.length > 0 && (
          <ChoiceField
            label={phrase('event.layout')}
            value={plan.layout}
            set={(name) => change({ layout: name })}
            choices={room.layouts.map((l) => ({
              value: l.name,
              label: phrase('event.layoutHolds', { name: l.name, capacity: l.capacity }),
            }))}
            empty={phrase('event.anyLayout')}
          />
        )}
        <TextField
          label={phrase('common.capacity')}
          type="number"
          value={plan.capacity === null ? '' : String(plan.capacity)}
          set={(v) => change({ capacity: v === '' ? null : Number(v) })}
          error={wrong.capacity}
          help={phrase('event.seatsInAllEmpty')}
        />
      </div>
      <Online draft={draft} />
      {venue && !page.isTemplate && <PlaceNotes draft={draft} page={page} place={venue.name} />}
      <div className="pair">
        <ChoiceField
          label={phrase('event.whoMaySeeIt')}
          value={plan.visibility}
          set={(v) => change({ visibility: v as 'everyone' })}
          choices={[
            { value: 'everyone', label: term('everyone') },
            { value: 'members', label: phrase('event.signedInMembers') },
            { value: 'units', label: phrase('event.membersOfUnits') },
            { value: 'invited', label: phrase('event.thoseInvited') },
            { value: 'link', label: phrase('event.anyoneWithTheLink') },
          ]}
          help={
            plan.visibility === 'everyone' || plan.visibility === 'link' ? '' : phrase('event.theySignIn')
          }
        />
        <Group label={phrase('event.listing')}>
          <Tick checked={plan.listed} set={(listed) => change({ listed })}>
            {phrase('event.shownInTheList')}
          </Tick>
        </Group>
      </div>
      {plan.visibility === 'invited' && <Invited page={page} />}
    </>
  );
}
