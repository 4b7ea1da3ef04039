import { chakra } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import type { WhatIf } from '#contract/changes.ts';
import type { EventPage } from '#contract/events.ts';
import { sayShortDate } from '#core/time/say.ts';
import { Tick } from '#web/kit/Choosing.tsx';
import { Choose, DateField, TimeField } from '#web/kit/form/fields.tsx';
import type { Form } from '#web/kit/form/useForm.ts';
import { useAsk } from '#web/parts/ask.ts';
import { phrase } from '#web/words/phrase.ts';
import { hereWords, thereWords } from './changeWords.ts';
import { Odds } from './Odds.tsx';
import { OffMoney } from './OffMoney.tsx';
import { Lines, Part } from './Part.tsx';
import { type Doing, type Settled, settlesOdds } from './settling.ts';

interface Props {
  told: WhatIf;
  form: Form<Settled>;
  page: EventPage;
  doing: Doing;
}

/** How many people at two things at once are named before the rest is only counted. */
const named = 12;

/** What somebody has to decide, or to know before they do: each with what settles it. */
export function ToSettle(props: Props) {
  const { told, form } = props;
  const settles =
    form.values.takeOff.length + form.values.toWaitlist.length > 0 ||
    form.values.closes !== '' ||
    settlesOdds(form.values);
  if (
    !settles &&
    !told.odds.length &&
    !told.atTwoThings.length &&
    !told.ages.length &&
    !told.over &&
    !told.passed.length &&
    !told.money
  )
    return null;
  return (
    <Part title={phrase('changes.toSettle')}>
      {told.money && <Money {...props} money={told.money} />}
      {!('move' in props.doing) && <Odds {...props} doing={props.doing} />}
      <Passed {...props} />
      <Over {...props} />
      <Both {...props} />
      <Ages told={told} />
    </Part>
  );
}

/** What becomes of what was paid for an event that is called off. */
function Money({ form, page, money }: Props & { money: NonNullable<WhatIf['money']> }) {
  // Those of its own series first.
  const others = (useAsk('GET /api/events').data ?? [])
    .filter(
      (e) =>
        e.id !== page.id &&
        e.state === 'open' &&
        e.startsLocal &&
        e.see.includes('registration') &&
        (e.capacity === null || e.confirmed + e.held < e.capacity),
    )
    .sort(
      (a, b) =>
        Number(b.seriesId !== null && b.seriesId === page.seriesId) -
        Number(a.seriesId !== null && a.seriesId === page.seriesId),
    );
  return (
    <>
      <OffMoney form={form} money={money} />
      {form.values.money === 'ask' && others.length > 0 && (
        <Choose
          form={form}
          name="toEventId"
          label={phrase('changes.otherDate')}
          empty={phrase('changes.noOtherDate')}
          choices={others.map((e) => ({
            value: e.id,
            label: `${e.title}, ${sayShortDate(e.startsLocal!, true)}`,
          }))}
        />
      )}
    </>
  );
}

/** Times that have passed by then. */
function Passed({ told, form }: Props) {
  const closes = told.passed.find((p) => p.what === 'closes');
  const late = told.passed.find((p) => p.what === 'last day to send');
  return (
    <>
      {late && <chakra.p color="ochre">{phrase('changes.latePlan', { at: late.at })}</chakra.p>}
      {(closes || form.values.closes !== '') && (
        <>
          {closes && <chakra.p color="ochre">{phrase('changes.closesPassed', { at: closes.at })}</chakra.p>}
          <div className="pair">
            <DateField form={form} name="closes" label={phrase('changes.closesNew')} />
            <TimeField form={form} name="closesAt" label={phrase('changes.closesAt')} />
          </div>
        </>
      )}
    </>
  );
}

/** Seats beyond what there is room for: who would lose theirs keeps it unless somebody says otherwise. */
function Over({ told, form }: Props) {
  const { toWaitlist } = form.values;
  // Those who were chosen stay in the list, though without them there is nothing too many any more.
  const [listed, setListed] = useState<NonNullable<WhatIf['over']>['losing']>([]);
  useEffect(() => {
    if (told.over && toWaitlist.length === 0) setListed(told.over.losing);
  }, [told.over, toWaitlist.length]);
  const chosen = (orderId: string) => toWaitlist.includes(orderId);
  const set = (orderId: string, on: boolean) =>
    form.set({ toWaitlist: on ? [...toWaitlist, orderId] : toWaitlist.filter((id) => id !== orderId) });
  if (!told.over && !toWaitlist.length) return null;
  const shown = listed.length ? listed : (told.over?.losing ?? []);
  return (
    <>
      <p>
        <b>{told.over ? phrase('changes.over', { count: told.over.seats }) : phrase('changes.overNoMore')}</b>{' '}
        <span className="soft">{phrase('changes.overText')}</span>
      </p>
      {shown.length > 1 && (
        <Tick
          checked={shown.every((party) => chosen(party.orderId))}
          set={(on) => form.set({ toWaitlist: on ? shown.map((party) => party.orderId) : [] })}
        >
          {phrase('changes.toWaitlistAll', { count: shown.length })}
        </Tick>
      )}
      <chakra.div
        maxHeight="186px"
        overflowY="auto"
        margin="4px 0 8px"
        padding="4px 0 4px 22px"
        role="group"
        aria-label={phrase('changes.toWaitlistGroup')}
        tabIndex={0}
      >
        {shown.map((party) => (
          <Tick key={party.orderId} checked={chosen(party.orderId)} set={(on) => set(party.orderId, on)}>
            {phrase('changes.toWaitlist', { name: party.name, count: party.seats })}
          </Tick>
        ))}
      </chakra.div>
    </>
  );
}

/** People at two things at once; who is on a shift here can be taken off it. */
function Both({ told, form }: Props) {
  const { takeOff } = form.values;
  const people = told.atTwoThings;
  if (!people.length) return null;
  return (
    <>
      <p>
        <b>{phrase('changes.both', { count: new Set(people.map((p) => p.contactId)).size })}</b>
      </p>
      <Lines>
        {people.slice(0, named).map((p) => {
          const { assignmentId } = p;
          const said = phrase(hereWords[p.here], {
            name: p.name,
            there: p.there.title
              ? phrase(thereWords[p.there.of], { title: p.there.title })
              : phrase('changes.thereUnseen'),
          });
          return (
            <li key={`${p.contactId}${p.here}${assignmentId}`}>
              {said}
              {assignmentId && (
                <chakra.div marginTop="2px">
                  <Tick
                    checked={takeOff.includes(assignmentId)}
                    set={(on) =>
                      form.set({
                        takeOff: on
                          ? [...takeOff, assignmentId]
                          : takeOff.filter((id) => id !== assignmentId),
                      })
                    }
                  >
                    {phrase('changes.takeOff', { name: p.name })}
                  </Tick>
                </chakra.div>
              )}
            </li>
          );
        })}
      </Lines>
    </>
  );
}

/** Whose age on the day is another. */
function Ages({ told: { ages } }: { told: WhatIf }) {
  const names = (becomes: 'minor' | 'adult') =>
    ages
      .filter((a) => a.becomes === becomes)
      .map((a) => a.name)
      .join(', ');
  const [minors, adults] = [names('minor'), names('adult')];
  if (!ages.length) return null;
  return (
    <>
      {minors && <p>{phrase('changes.minors', { names: minors })}</p>}
      {adults && <p>{phrase('changes.adults', { names: adults })}</p>}
      {ages.some((a) => a.signed) && <p className="soft">{phrase('changes.signedAgain')}</p>}
    </>
  );
}
