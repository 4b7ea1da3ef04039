import { useState } from 'react';
import { givingContract } from '#contract/giving.ts';
import { readAmount } from '#core/money/amount.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { Choose, Money, OneOf, Text, Tick } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { byHand } from '../parts/PayBackFields.tsx';
import { PersonSearch } from '../parts/PersonSearch.tsx';
import { useSaying } from '../parts/saying.ts';
import { PurposeFields, type Purposes } from './PurposeFields.tsx';

/** Records a gift that came by hand, or in kind. */
export function RecordGift({ close }: { close: () => void }) {
  return (
    <Loaded of={useAsk('GET /api/giving/choices')}>
      {(choices) => <Recording choices={choices} close={close} />}
    </Loaded>
  );
}

function Recording({ choices, close }: { choices: Purposes; close: () => void }) {
  const { money, currency } = useSaying();
  const [known, setKnown] = useState<{ id: string; name: string } | null>(null);
  const form = useForm({
    values: {
      given: '',
      family: '',
      email: '',
      kind: 'money' as 'money' | 'in kind',
      method: 'cheque' as 'cash' | 'cheque' | 'transfer',
      amount: '',
      fundId: choices.funds[0]?.id ?? '',
      initiativeId: '',
      eventId: '',
      thing: '',
      appraisedBy: '',
      advantage: '',
      advantageWhat: '',
      tribute: 'none' as 'none' | 'memory' | 'honour',
      to: '',
      anonymous: false,
      reference: '',
    },
    request: (v) =>
      prepare(givingContract, 'POST /api/gifts', {
        body: {
          contactId: known?.id ?? null,
          person: known ? null : { given: v.given, family: v.family, email: v.email },
          kind: v.kind,
          method: v.method,
          amount: readAmount(v.amount, currency) ?? 0,
          fundId: v.fundId,
          initiativeId: v.initiativeId || null,
          eventId: v.eventId || null,
          thing: v.kind === 'in kind' ? v.thing : '',
          appraisedBy: v.kind === 'in kind' ? v.appraisedBy : '',
          advantage: v.advantage.trim() ? (readAmount(v.advantage, currency) ?? -1) : 0,
          advantageWhat: v.advantageWhat,
          tribute: v.tribute === 'none' ? null : { kind: v.tribute, to: v.to },
          anonymous: v.anonymous,
          reference: v.reference,
        },
      }),
    fieldOf: (path) => path.replace(/^person\.|^tribute\./u, '').replace(/^person$/u, 'given'),
    after: () => {
      say(phrase('common.recorded'));
      close();
    },
  });
  const { values } = form;
  const amount = readAmount(values.amount, currency) ?? 0;
  const inKind = values.kind === 'in kind';
  return (
    <FormDialog
      form={form}
      close={close}
      wide
      title={phrase('ledger.recordGift')}
      submit={
        amount > 0 ? phrase('ledger.recordGiftOf', { amount: money(amount) }) : phrase('ledger.recordGift')
      }
    >
      <PersonSearch
        label={phrase('ledger.giftWhoKnown')}
        chosen={known?.name ?? ''}
        pick={setKnown}
        autoFocus
      />
      {!known && (
        <div className="pair">
          <Text form={form} name="given" label={phrase('common.firstName')} required />
          <Text form={form} name="family" label={phrase('common.lastName')} required />
          <Text
            form={form}
            name="email"
            label={phrase('common.email')}
            type="email"
            help={phrase('ledger.giftThanked')}
          />
        </div>
      )}
      <OneOf
        form={form}
        name="kind"
        label={phrase('ledger.giftKind')}
        choices={[
          { value: 'money', label: phrase('ledger.giftMoney') },
          { value: 'in kind', label: phrase('ledger.giftInKind') },
        ]}
      />
      <div className="pair">
        {inKind && <Text form={form} name="thing" label={phrase('ledger.giftThing')} required />}
        <Money
          form={form}
          name="amount"
          label={phrase(inKind ? 'ledger.giftWorth' : 'ledger.amount')}
          currency={currency}
          sayAmount={money}
          required
        />
        {inKind ? (
          <Text form={form} name="appraisedBy" label={phrase('ledger.giftAppraisedBy')} />
        ) : (
          <Choose form={form} name="method" label={phrase('ledger.how')} choices={byHand()} />
        )}
        <Text
          form={form}
          name="reference"
          label={phrase('ledger.reference')}
          help={phrase('ledger.referenceHelp')}
        />
        <PurposeFields form={form} choices={choices} />
        <Money
          form={form}
          name="advantage"
          label={phrase('ledger.giftAdvantage')}
          help={phrase('ledger.giftAdvantageHelp')}
          currency={currency}
          sayAmount={money}
        />
        {values.advantage.trim() !== '' && (
          <Text form={form} name="advantageWhat" label={phrase('ledger.giftAdvantageWhat')} required />
        )}
        <Choose
          form={form}
          name="tribute"
          label={phrase('ledger.giftTribute')}
          choices={[
            { value: 'none', label: phrase('ledger.giftTributeNone') },
            { value: 'memory', label: phrase('ledger.giftTributeMemory') },
            { value: 'honour', label: phrase('ledger.giftTributeHonour') },
          ]}
        />
        {values.tribute !== 'none' && (
          <Text form={form} name="to" label={phrase('ledger.giftTributeTo')} required />
        )}
      </div>
      <Tick form={form} name="anonymous" label={phrase('ledger.giftAnonymous')} />
    </FormDialog>
  );
}
