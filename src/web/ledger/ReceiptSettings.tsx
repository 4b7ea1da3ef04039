import { receiptsContract } from '#contract/receipts.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import type { Answer } from '#web/api.ts';
import { FormDialog } from '#web/kit/form/FormDialog.tsx';
import { LongText, Money, Text } from '#web/kit/form/fields.tsx';
import { prepare } from '#web/kit/form/request.ts';
import { useForm } from '#web/kit/form/useForm.ts';
import { say } from '#web/kit/toast.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Loaded } from '../kit/notices.tsx';
import { useAsk } from '../parts/ask.ts';
import { useSaying } from '../parts/saying.ts';

/** What receipts say of the organization, in a dialog. */
export function ReceiptSettings({ close }: { close: () => void }) {
  return (
    <Loaded of={useAsk('GET /api/receipts/settings')}>
      {(settings) => <Fields key={settings.version} settings={settings} close={close} />}
    </Loaded>
  );
}

function Fields({ settings, close }: { settings: Answer<'GET /api/receipts/settings'>; close: () => void }) {
  const { today, money } = useSaying();
  const year = Number(today.slice(0, 4));
  const { currency, country, version, thanks, indexed, ...issuer } = settings;
  const yearly = indexed.find((i) => i.year === year);
  const typed = (amount: number | undefined) => (amount ? plainAmount(amount, currency) : '');
  const form = useForm({
    values: {
      ...issuer,
      thanks: thanks.en,
      thanksFr: thanks.fr ?? '',
      smallMost: typed(yearly?.smallMost),
      lowCostMost: typed(yearly?.lowCostMost),
      lowCostFrom: typed(yearly?.lowCostFrom),
    },
    request: ({ thanks: en, thanksFr, smallMost, lowCostMost, lowCostFrom, ...v }) => {
      const read = (text: string) => readAmount(text, currency) ?? 0;
      const others = indexed.filter((i) => i.year !== year);
      const confirmed = smallMost.trim() || lowCostMost.trim() || lowCostFrom.trim();
      return prepare(receiptsContract, 'PUT /api/receipts/settings', {
        body: {
          ...v,
          thanks: { en, ...(thanksFr.trim() ? { fr: thanksFr } : {}) },
          indexed: confirmed
            ? [
                ...others,
                {
                  year,
                  smallMost: read(smallMost),
                  lowCostMost: read(lowCostMost),
                  lowCostFrom: read(lowCostFrom),
                },
              ]
            : others,
          version,
        },
      });
    },
    fieldOf: (path) => (path === 'thanks.fr' ? 'thanksFr' : path.replace(/\.en$/u, '')),
    after: () => {
      say(phrase('common.saved'));
      close();
    },
  });
  const said = (amount: number) => money(amount, currency);
  return (
    <FormDialog
      form={form}
      wide
      close={close}
      title={phrase('ledger.receiptSettings')}
      submit={phrase('common.save')}
    >
      <p className="soft">{phrase('ledger.receiptAccountant')}</p>
      <div className="pair">
        <Text form={form} name="legalName" label={phrase('ledger.receiptLegalName')} required autoFocus />
        <Text form={form} name="registration" label={phrase('ledger.receiptRegistration')} required />
        <LongText form={form} name="addressLines" label={phrase('ledger.receiptAddress')} rows={3} required />
        <Text form={form} name="place" label={phrase('ledger.receiptPlace')} required />
        <Text form={form} name="signer" label={phrase('ledger.receiptSigner')} required />
        <Text form={form} name="signerRole" label={phrase('ledger.receiptSignerRole')} />
        <LongText form={form} name="thanks" label={phrase('ledger.receiptThanks')} rows={3} />
        <LongText form={form} name="thanksFr" label={phrase('ledger.pageThanksFr')} rows={3} />
      </div>
      {country === 'US' && (
        <>
          <h3>{phrase('ledger.receiptIndexed', { year: String(year) })}</h3>
          <p className="soft">{phrase('ledger.receiptIndexedHelp')}</p>
          <div className="pair">
            <Money
              form={form}
              name="smallMost"
              label={phrase('ledger.receiptSmallMost')}
              currency={currency}
              sayAmount={said}
            />
            <Money
              form={form}
              name="lowCostMost"
              label={phrase('ledger.receiptLowCostMost')}
              currency={currency}
              sayAmount={said}
            />
            <Money
              form={form}
              name="lowCostFrom"
              label={phrase('ledger.receiptLowCostFrom')}
              currency={currency}
              sayAmount={said}
            />
          </div>
        </>
      )}
    </FormDialog>
  );
}
