import { applyingContract, type Call, type CallBody } from '#contract/applying.ts';
import type { CrewRole } from '#contract/roles.ts';
import { callAsks } from '#core/crew/applying.ts';
import { type DepositBack, depositBacks } from '#core/crew/deposit.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Count, DateField, LongText, Money, OneOf, SeveralOf, Text, Tick } from '#web/kit/form/fields.tsx';
import { type Prepared, prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { Empty } from '#web/kit/Note.tsx';
import { Loaded } from '#web/kit/notices.tsx';
import { say } from '#web/kit/toast.tsx';
import { useAsk } from '#web/parts/ask.ts';
import { useSaying } from '#web/parts/saying.ts';
import { phrase } from '#web/words/phrase.ts';
import { askWords, backWords } from './applyingWords.ts';

/** Calls for volunteers, or changes how. */
export function CallForm({
  call,
  event = null,
  made,
  close,
}: {
  /** The call; a new one without it. */
  call: Call | null;
  /** The event a new one is for, with the roles of its shifts; a season or a standing one without it. */
  event?: { id: string; title: string; roles: readonly string[] } | null;
  made?: (id: string) => void;
  close: () => void;
}) {
  const register = useAsk('GET /api/roles');
  return (
    <Loaded of={register}>
      {({ roles }) => <Fields call={call} event={event} roles={roles} made={made} close={close} />}
    </Loaded>
  );
}

function Fields({
  call,
  event,
  roles: register,
  made,
  close,
}: {
  call: Call | null;
  event: { id: string; title: string; roles: readonly string[] } | null;
  roles: readonly CrewRole[];
  made: ((id: string) => void) | undefined;
  close: () => void;
}) {
  const roles = register.filter((r) => !r.retired || call?.roles.includes(r.id));
  const eventId = call?.eventId ?? event?.id ?? null;
  const { currency: usual, money } = useSaying();
  const currency = call?.currency ?? usual;
  const form = useForm({
    values: {
      en: call?.title.en ?? event?.title ?? '',
      fr: call?.title.fr ?? '',
      wordsEn: call?.words.en ?? '',
      wordsFr: call?.words.fr ?? '',
      when: call && call.fromOn === null ? 'standing' : 'season',
      fromOn: call?.fromOn ?? '',
      untilOn: call?.untilOn ?? '',
      // Of an event those its shifts have are offered, where nobody says otherwise.
      roles: call?.roles ?? register.filter((r) => event?.roles.includes(r.name)).map((r) => r.id),
      asks: call ? [...call.asks] : ([...callAsks].filter((a) => a !== 'shirt') as string[]),
      open: call?.open ?? true,
      deposit: Boolean(call?.deposit),
      amount: call?.deposit ? plainAmount(call.deposit.amount, currency) : '',
      back: call?.deposit?.back ?? ('every' as DepositBack),
      noticeHours: String(call?.deposit?.noticeHours ?? 24),
    },
    request: (v): Prepared<{ id?: string; version?: number }> => {
      const season = eventId === null && v.when === 'season';
      const body = {
        title: { en: v.en, ...(v.fr.trim() && { fr: v.fr }) },
        words: { en: v.wordsEn, ...(v.wordsFr.trim() && { fr: v.wordsFr }) },
        fromOn: season ? v.fromOn || null : null,
        untilOn: season ? v.untilOn || null : null,
        roles: v.roles,
        asks: v.asks as CallBody['asks'],
        open: v.open,
        deposit: v.deposit
          ? {
              amount: readAmount(v.amount, currency) ?? Number.NaN,
              back: v.back,
              noticeHours: v.noticeHours.trim() ? Number(v.noticeHours) : Number.NaN,
            }
          : null,
      };
      return call
        ? prepare(applyingContract, 'PUT /api/calls/:id', {
            params: { id: call.id },
            body: { ...body, version: call.version },
          })
        : prepare(applyingContract, 'POST /api/calls', { body: { ...body, eventId } });
    },
    fieldOf: (path) =>
      path === 'title.en'
        ? 'en'
        : path === 'title.fr'
          ? 'fr'
          : path.startsWith('roles')
            ? 'roles'
            : path.replace('deposit.', ''),
    // A season has both its days.
    check: (v) =>
      eventId === null && v.when === 'season' && (!v.fromOn || !v.untilOn)
        ? [{ path: v.fromOn ? 'untilOn' : 'fromOn', code: 'call-season' }]
        : [],
    after: ({ id }) => {
      say(phrase(call ? 'applying.isSaved' : 'applying.isMade'));
      close();
      if (id) made?.(id);
    },
  });
  return (
    <FormDialog
      form={form}
      wide
      title={phrase(call ? 'applying.change' : 'applying.new')}
      submit={phrase(call ? 'applying.save' : 'applying.make')}
      close={close}
    >
      <div className="pair">
        <Text form={form} name="en" label={phrase('applying.theTitle')} required />
        <Text form={form} name="fr" label={phrase('applying.theTitleFr')} />
      </div>
      <LongText form={form} name="wordsEn" label={phrase('applying.words')} rows={3} />
      <LongText form={form} name="wordsFr" label={phrase('applying.wordsFr')} rows={2} />
      {eventId === null && (
        <>
          <OneOf
            form={form}
            name="when"
            label={phrase('applying.when')}
            choices={[
              { value: 'season', label: phrase('applying.forSeason') },
              { value: 'standing', label: phrase('applying.forStanding') },
            ]}
          />
          {form.values.when === 'season' && (
            <div className="pair">
              <DateField form={form} name="fromOn" label={phrase('applying.fromOn')} required />
              <DateField form={form} name="untilOn" label={phrase('applying.untilOn')} required />
            </div>
          )}
        </>
      )}
      {roles.length === 0 ? (
        <Empty>{phrase('applying.noRoles')}</Empty>
      ) : (
        <SeveralOf
          form={form}
          name="roles"
          label={phrase('applying.roles')}
          required
          choices={roles.map((r) => ({ value: r.id, label: r.name }))}
        />
      )}
      <SeveralOf
        form={form}
        name="asks"
        label={phrase('applying.asks')}
        choices={callAsks.map((value) => ({ value, label: askWords[value] }))}
      />
      <Tick form={form} name="deposit" label={phrase('applying.depositAsked')} />
      {form.values.deposit && (
        <>
          <div className="pair">
            <Money
              form={form}
              name="amount"
              label={phrase('applying.depositAmount')}
              currency={currency}
              sayAmount={(of) => money(of, currency)}
              required
            />
            <Count
              form={form}
              name="noticeHours"
              label={phrase('applying.depositNotice')}
              help={phrase('applying.depositNoticeHelp')}
            />
          </div>
          <OneOf
            form={form}
            name="back"
            label={phrase('applying.depositRule')}
            choices={depositBacks.map((value) => ({ value, label: backWords[value] }))}
          />
          <p className="soft">
            {phrase(
              eventId === null && form.values.when === 'standing'
                ? 'applying.depositStanding'
                : 'applying.depositSoon',
            )}
          </p>
        </>
      )}
      <Tick form={form} name="open" label={phrase('applying.isOpen')} />
    </FormDialog>
  );
}
