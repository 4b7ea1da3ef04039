import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import { type CrewShift, crewContract } from '#contract/crew.ts';
import type { EventPage } from '#contract/events.ts';
import type { CrewRole } from '#contract/roles.ts';
import { type Importance, importances } from '#core/crew/importance.ts';
import { shiftDate } from '#core/time/dates.ts';
import type { Answer } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import {
  Choose,
  Count,
  DateField,
  LongText,
  SuggestedText,
  Text,
  Tick,
  TimeField,
} from '#web/kit/form/fields.tsx';
import { type Prepared, prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { SearchField } from '#web/kit/SearchField.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { PersonSearch } from '#web/parts/PersonSearch.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Affected } from './Affected.tsx';
import { importanceWords } from './crewWords.ts';

type Tried = Answer<'PUT /api/shifts/:id'>;

/** What a role asks of whoever takes a shift of it, in one line; that it is a new one where nobody has named it before. */
function sayRole(role: CrewRole | undefined, skills: ReadonlyMap<string, string>): string {
  if (!role) return phrase('crew.newRole');
  const asks = [
    ...role.needs.map((id) => skills.get(id) ?? ''),
    ...(role.fromAge === null ? [] : [phrase('crew.fromAge', { age: role.fromAge })]),
    ...(role.anybody ? [] : [phrase('crew.leadDecides')]),
  ];
  return asks.length ? phrase('crew.asksFor', { what: asks.join(', ') }) : phrase('crew.asksNothing');
}

/**
 * Adds a shift, also one like another, or changes one. What a change means for those on it is seen before it is made. An end that is
 * not after the start is on the next day.
 */
export function ShiftForm({
  page,
  shift,
  like,
  close,
}: {
  page: EventPage;
  /** The one that is changed. */
  shift?: CrewShift;
  /** The one a new one is like. */
  like?: CrewShift;
  close: () => void;
}) {
  const register = useAsk('GET /api/roles').data;
  // What would follow, and from what: it is asked anew once something else was typed.
  const [looked, setLooked] = useState<{ answer: Tried; of: string } | null>(null);
  const from = shift ?? like;
  const [day = '', begins = ''] = (from?.startsLocal ?? page.plan.startsLocal ?? '').split('T');
  const ends = (from?.endsLocal ?? page.plan.endsLocal ?? '').split('T')[1] ?? '';
  const overnight = (v: { from: string; to: string }) => v.to !== '' && v.to <= v.from;
  const seenOf = ({ tell: _, ...v }: { tell: boolean }) => JSON.stringify(v);
  const form = useForm({
    values: {
      name: from?.name ?? '',
      role: from?.role ?? '',
      place: from?.place ?? '',
      date: day,
      from: begins,
      to: ends,
      wished: String(from?.wished ?? 1),
      least: from && from.least < from.wished ? String(from.least) : '',
      importance: (from?.importance ?? 'usual') as Importance,
      briefing: from?.briefing ?? '',
      leadId: from?.leadId ?? '',
      lead: from?.lead ?? '',
      publicSignUp: from?.publicSignUp ?? true,
      tell: true,
    },
    request: (v): Prepared<unknown> => {
      const body = {
        name: v.name,
        role: v.role,
        place: v.place,
        startsLocal: `${v.date}T${v.from}`,
        endsLocal: `${v.date && overnight(v) ? shiftDate(v.date, 1) : v.date}T${v.to}`,
        wished: Number(v.wished) || 0,
        least: v.least.trim() ? Number(v.least) : null,
        importance: v.importance,
        briefing: v.briefing,
        leadId: v.leadId || null,
        publicSignUp: v.publicSignUp,
      };
      return shift
        ? prepare(crewContract, 'PUT /api/shifts/:id', {
            params: { id: shift.id },
            // With people on it, what follows is looked at first.
            body: {
              ...body,
              version: shift.version,
              tell: v.tell,
              trying: shift.assignments.length > 0 && looked?.of !== seenOf(v),
            },
          })
        : prepare(crewContract, 'POST /api/events/:id/shifts', { params: { id: page.id }, body });
    },
    fieldOf: (path, v) =>
      path === 'startsLocal' ? (v.date ? 'from' : 'date') : path === 'endsLocal' ? 'to' : path,
    after: (answer, v) => {
      const answered = answer as Tried;
      if (shift && shift.assignments.length > 0 && looked?.of !== seenOf(v)) {
        setLooked({ answer: answered, of: seenOf(v) });
        return;
      }
      say(shift ? phrase('common.saved') : phrase('common.added'));
      close();
    },
  });
  const { values } = form;
  const tried = looked?.of === seenOf(values) ? looked.answer : null;
  const skills = new Map((register?.skills ?? []).map((k) => [k.id, k.name]));
  const roles = register?.roles ?? [];
  const typed = values.role.trim().toLowerCase();
  const role = roles.find((r) => r.name.toLowerCase() === typed);
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={phrase(shift ? 'crew.changeShift' : 'event.addAShift')}
      submit={
        tried
          ? tried.told && values.tell
            ? phrase('crew.changeAndTell', { n: tried.told })
            : phrase(against(tried) ? 'crew.changeAnyway' : 'crew.changeIt')
          : phrase(shift ? 'common.save' : 'common.add')
      }
    >
      {tried && <Affected on={tried.on} />}
      {tried && tried.told > 0 && (
        <Tick form={form} name="tell" label={phrase('crew.tellThem', { n: tried.told })} />
      )}
      <div className="pair">
        <SearchField
          label={phrase('event.role')}
          required
          autoFocus={!shift}
          typed={values.role}
          type={(text) => form.set({ role: text })}
          free
          id={form.idOf('role')}
          found={(typed && !role
            ? roles.filter((r) => !r.retired && r.name.toLowerCase().includes(typed))
            : []
          ).map((r) => ({ value: r.name, label: r.name, hint: sayRole(r, skills) }))}
          pick={({ value }) => {
            const usual = roles.find((r) => r.name === value)?.places[0];
            form.set({ role: value, ...(usual && !values.place.trim() && { place: usual }) });
          }}
          consequence={typed && register ? sayRole(role, skills) : undefined}
          error={form.wrongAt('role')}
        />
        <SuggestedText
          form={form}
          name="place"
          label={phrase('common.place')}
          suggestions={role?.places ?? []}
        />
        <DateField form={form} name="date" label={phrase('common.date')} required />
        <Text form={form} name="name" label={phrase('crew.ownName')} help={phrase('crew.ownNameHelp')} />
        <TimeField form={form} name="from" label={phrase('common.from')} required />
        <TimeField
          form={form}
          name="to"
          label={phrase('common.to')}
          required
          consequence={overnight(values) ? phrase('event.endsTheNextDay') : ''}
        />
        <Count form={form} name="wished" label={phrase('crew.wished')} required />
        <Count
          form={form}
          name="least"
          label={phrase('crew.least')}
          placeholder={values.wished}
          help={phrase('crew.leastHelp')}
        />
        <Choose
          form={form}
          name="importance"
          label={phrase('crew.importance')}
          choices={importances.map((i) => ({ value: i, label: importanceWords[i] }))}
        />
        <PersonSearch
          label={phrase('crew.lead')}
          placeholder={phrase('common.partOfAName')}
          chosen={values.lead}
          error={form.wrongAt('leadId')}
          pick={(person) => form.set({ leadId: person?.id ?? '', lead: person?.name ?? '' })}
        />
      </div>
      <LongText form={form} name="briefing" label={phrase('crew.briefing')} rows={3} />
      <chakra.div marginTop="4px">
        <Tick form={form} name="publicSignUp" label={phrase('event.anybodyMaySignUp')} />
      </chakra.div>
    </FormDialog>
  );
}

const against = (of: Tried): boolean => of.on.some((person) => person.against.length > 0);
