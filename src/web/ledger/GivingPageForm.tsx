import { type GivingPage, givingContract } from '#contract/giving.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { DateField, LongText, Money, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';
import { PurposeFields, type Purposes } from './PurposeFields.tsx';

interface Editing {
  page: GivingPage | null;
  close: () => void;
}

/** Makes a page to give on, or changes one. */
export function GivingPageForm({ page, close }: Editing) {
  return (
    <Loaded of={useAsk('GET /api/giving/choices')}>
      {(choices) => <Fields page={page} choices={choices} close={close} />}
    </Loaded>
  );
}

const french = (en: string, fr: string) => ({ en, ...(fr.trim() ? { fr } : {}) });

function Fields({ page, choices, close }: Editing & { choices: Purposes }) {
  const saying = useSaying();
  const currency = page?.currency ?? saying.currency;
  const money = (amount: number) => saying.money(amount, currency);
  const typed = (amount: number) => plainAmount(amount, currency).replace(/[.,]0+$/u, '');
  const form = useForm({
    values: {
      title: page?.title.en ?? '',
      titleFr: page?.title.fr ?? '',
      words: page?.words.en ?? '',
      wordsFr: page?.words.fr ?? '',
      thanks: page?.thanks.en ?? '',
      thanksFr: page?.thanks.fr ?? '',
      fundId: page?.fundId ?? choices.funds[0]?.id ?? '',
      initiativeId: page?.initiativeId ?? '',
      eventId: page?.eventId ?? '',
      goal: page?.goal ? typed(page.goal) : '',
      untilOn: page?.untilOn ?? '',
      suggested: (page?.suggested ?? []).map(typed).join(', '),
      monthly: page?.monthly ?? true,
      showsGivers: page?.showsGivers ?? true,
      open: page?.open ?? true,
    },
    request: (v) => {
      const body = {
        title: french(v.title, v.titleFr),
        words: french(v.words, v.wordsFr),
        thanks: french(v.thanks, v.thanksFr),
        fundId: v.fundId,
        initiativeId: v.initiativeId || null,
        eventId: v.eventId || null,
        goal: v.goal.trim() ? (readAmount(v.goal, currency) ?? 0) : null,
        untilOn: v.untilOn || null,
        suggested: v.suggested
          .split(/[,;]\s+|\s+/u)
          .filter((s) => s.trim())
          .map((s) => readAmount(s.replace(/[,;]$/u, ''), currency) ?? 0),
        monthly: v.monthly,
        showsGivers: v.showsGivers,
        open: v.open,
      };
      return page
        ? prepare(givingContract, 'PUT /api/giving/pages/:id', {
            params: { id: page.id },
            body: { ...body, version: page.version },
          })
        : prepare(givingContract, 'POST /api/giving/pages', { body });
    },
    fieldOf: (path) =>
      path.startsWith('suggested') ? 'suggested' : path.replace(/\.en$/u, '').replace(/\.fr$/u, 'Fr'),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={page ? phrase('ledger.changePage', { title: page.title.en }) : phrase('ledger.newGivingPage')}
      submit={phrase(page ? 'ledger.savePage' : 'ledger.makePage')}
    >
      <div className="pair">
        <Text form={form} name="title" label={phrase('ledger.pageTitle')} required autoFocus />
        <Text form={form} name="titleFr" label={phrase('ledger.pageTitleFr')} />
        <LongText form={form} name="words" label={phrase('ledger.pageWords')} rows={3} />
        <LongText form={form} name="wordsFr" label={phrase('ledger.pageWordsFr')} rows={3} />
        <LongText form={form} name="thanks" label={phrase('ledger.pageThanks')} rows={2} />
        <LongText form={form} name="thanksFr" label={phrase('ledger.pageThanksFr')} rows={2} />
        <PurposeFields form={form} choices={choices} />
        <Money
          form={form}
          name="goal"
          label={phrase('ledger.pageGoal')}
          help={phrase('ledger.pageGoalHelp')}
          currency={currency}
          sayAmount={money}
        />
        <Text
          form={form}
          name="suggested"
          label={phrase('ledger.pageSuggested')}
          help={phrase('ledger.pageSuggestedHelp')}
        />
        <DateField form={form} name="untilOn" label={phrase('ledger.pageUntil')} />
      </div>
      <Tick form={form} name="monthly" label={phrase('ledger.pageMonthly')} />
      <Tick form={form} name="showsGivers" label={phrase('ledger.pageShowsGivers')} />
      <Tick form={form} name="open" label={phrase('ledger.pageOpen')} />
    </FormDialog>
  );
}
