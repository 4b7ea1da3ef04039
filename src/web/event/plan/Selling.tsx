import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import type { Code, Extra, Tax } from '#contract/plan.ts';
import { plainCode, plainExtra } from '#core/offers/offer.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { OneOf, SeveralOf, Tick } from '../../kit/Choosing.tsx';
import { TextField } from '../../kit/Field.tsx';
import { useSaying } from '../../parts/saying.ts';
import { Entries, FoldedEntry, MomentField, numberIn, typedAs } from './entries.tsx';
import { AmountField } from './Offers.tsx';
import type { SectionProps } from './section.ts';

export const newExtra = (): Extra => ({ ...plainExtra, id: crypto.randomUUID(), name: '' });

/** What is bought along with a seat: a lunch, a shirt in its sizes. */
export function Extras({ draft: { plan, change, wrong } }: SectionProps) {
  const { extras } = plan;
  const { money, currency } = useSaying();
  const set = (to: Extra[]) => change({ extras: to });
  return (
    <>
      <Entries>
        {extras.map((e, at) => {
          const put = (part: Partial<Extra>) =>
            set(extras.map((x) => (x.id === e.id ? { ...x, ...part } : x)));
          const error = (field: string) => wrong[`extras.${at}.${field}`];
          return (
            <FoldedEntry
              key={e.id}
              name={e.name}
              line={[
                e.price === 0 ? phrase('parts.free') : money(e.price),
                e.quantity !== null && phrase('offers.nOfThem', { n: e.quantity }),
                e.options.map((o) => o.name).join(', '),
              ]
                .filter(Boolean)
                .join(' · ')}
              remove={() => set(extras.filter((x) => x.id !== e.id))}
            >
              <div className="pair">
                <TextField
                  label={phrase('common.name')}
                  value={e.name}
                  set={(name) => put({ name })}
                  error={error('name')}
                />
                <AmountField
                  label={phrase('event.price')}
                  amount={e.price}
                  set={(price) => put({ price })}
                  error={error('price')}
                  consequence={e.price === 0 ? phrase('parts.free') : money(e.price)}
                  currency={currency}
                />
                <TextField
                  label={phrase('offers.stock')}
                  type="number"
                  value={typedAs(e.quantity)}
                  set={(v) => put({ quantity: numberIn(v) })}
                  error={error('quantity')}
                  consequence={e.quantity === null ? phrase('event.noLimit') : ''}
                />
                <TextField
                  label={phrase('event.mostPerOrder')}
                  type="number"
                  value={String(e.mostPerOrder)}
                  set={(v) => put({ mostPerOrder: Number(v) || 1 })}
                  error={error('mostPerOrder')}
                />
                <TextField
                  label={phrase('event.offerAbout')}
                  value={e.about}
                  set={(about) => put({ about })}
                />
                <TextField
                  label={phrase('event.offerFrench')}
                  value={e.french.name}
                  set={(name) => put({ french: { ...e.french, name } })}
                />
              </div>
              <Tick checked={e.chance} set={(chance) => put({ chance })}>
                {phrase('offers.chance')}
              </Tick>
              <Options extra={e} put={put} error={error} />
              {plan.taxes.length > 0 && (
                <Tick checked={e.taxed} set={(taxed) => put({ taxed })}>
                  {phrase('offers.taxed')}
                </Tick>
              )}
            </FoldedEntry>
          );
        })}
      </Entries>
      <Button look="plain" alignSelf="start" onClick={() => set([...extras, newExtra()])}>
        <Plus size={14} aria-hidden /> {phrase('offers.addExtra')}
      </Button>
    </>
  );
}

/** The kinds of an extra, each with how many there are. */
function Options({
  extra: { options },
  put,
  error,
}: {
  extra: Extra;
  put: (part: Partial<Extra>) => void;
  error: (field: string) => string | undefined;
}) {
  const set = (at: number, part: Partial<Extra['options'][number]>) =>
    put({ options: options.map((o, n) => (n === at ? { ...o, ...part } : o)) });
  return (
    <>
      {options.map((o, at) => (
        <chakra.div
          key={o.id}
          display="grid"
          gridTemplateColumns={{ base: '1fr 1fr', lg: '1.4fr 1.4fr 0.8fr auto' }}
          gap="0 10px"
          alignItems="start"
        >
          <TextField
            label={phrase('offers.option')}
            value={o.name}
            set={(name) => set(at, { name })}
            error={error(`options.${at}.name`)}
          />
          <TextField
            label={phrase('event.labelInFrench', { label: phrase('offers.option') })}
            value={o.french}
            set={(french) => set(at, { french })}
          />
          <TextField
            label={phrase('offers.stock')}
            type="number"
            value={typedAs(o.quantity)}
            set={(v) => set(at, { quantity: numberIn(v) })}
            error={error(`options.${at}.quantity`)}
          />
          <Button
            look="plain"
            marginTop={{ lg: '22px' }}
            aria-label={phrase('event.removeNamed', { name: o.name })}
            onClick={() => put({ options: options.filter((_, n) => n !== at) })}
          >
            <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
          </Button>
        </chakra.div>
      ))}
      <Button
        look="plain"
        onClick={() =>
          put({ options: [...options, { id: crypto.randomUUID(), name: '', french: '', quantity: null }] })
        }
      >
        <Plus size={14} aria-hidden /> {phrase('offers.addOption')}
      </Button>
    </>
  );
}

export const newCode = (): Code => ({
  ...plainCode,
  id: crypto.randomUUID(),
  code: '',
  off: { percent: 10_000 },
});

/** Codes that people enter: each opens what is hidden, takes something off, or both. */
export function Codes({ draft: { plan, change, wrong } }: SectionProps) {
  const { codes, offers } = plan;
  const { money, currency } = useSaying();
  const set = (to: Code[]) => change({ codes: to });
  const sayOff = ({ off }: Code) =>
    !off
      ? ''
      : 'percent' in off
        ? phrase('offers.percentOff', { percent: String(off.percent / 1000) })
        : phrase('offers.amountOff', { amount: money(off.amount) });
  return (
    <>
      <Entries>
        {codes.map((c, at) => {
          const put = (part: Partial<Code>) => set(codes.map((x) => (x.id === c.id ? { ...x, ...part } : x)));
          const error = (field: string) => wrong[`codes.${at}.${field}`];
          const kind = !c.off ? 'none' : 'percent' in c.off ? 'percent' : 'amount';
          return (
            <FoldedEntry
              key={c.id}
              name={c.code}
              line={[
                sayOff(c),
                c.opens && phrase('offers.opensHidden'),
                c.most !== null && phrase('offers.nTimes', { n: c.most }),
                c.note,
              ]
                .filter(Boolean)
                .join(' · ')}
              remove={() => set(codes.filter((x) => x.id !== c.id))}
            >
              <div className="pair">
                <TextField
                  label={phrase('offers.code')}
                  value={c.code}
                  set={(code) => put({ code })}
                  error={error('code')}
                  help={phrase('offers.codeHelp')}
                />
                <TextField
                  label={phrase('offers.codeNote')}
                  value={c.note}
                  set={(note) => put({ note })}
                  help={phrase('event.onlyYouSeeIt')}
                />
              </div>
              <OneOf
                label={phrase('offers.takesOff')}
                value={kind}
                error={error('off')}
                set={(to) =>
                  put({
                    off: to === 'none' ? null : to === 'percent' ? { percent: 10_000 } : { amount: 500 },
                  })
                }
                choices={[
                  { value: 'none', label: phrase('offers.nothingOff') },
                  { value: 'percent', label: phrase('offers.aPercentage') },
                  { value: 'amount', label: phrase('offers.anAmount') },
                ]}
              />
              {c.off && 'percent' in c.off && (
                <TextField
                  label={phrase('offers.percent')}
                  type="number"
                  value={String(c.off.percent / 1000)}
                  set={(v) => put({ off: { percent: Math.round(Number(v) * 1000) } })}
                  error={error('off.percent') ?? error('off')}
                />
              )}
              {c.off && 'amount' in c.off && (
                <AmountField
                  label={phrase('offers.amountOfTheWhole')}
                  amount={c.off.amount}
                  set={(amount) => put({ off: { amount } })}
                  error={error('off.amount')}
                  consequence={money(c.off.amount)}
                  currency={currency}
                />
              )}
              <Tick checked={c.opens} set={(opens) => put({ opens })}>
                {phrase('offers.showsHidden')}
              </Tick>
              {offers.length > 1 && (
                <SeveralOf
                  label={phrase('offers.goodFor')}
                  help={phrase('offers.goodForHelp')}
                  value={c.offerIds}
                  set={(offerIds) => put({ offerIds })}
                  choices={offers.map((o) => ({ value: o.id, label: o.name }))}
                />
              )}
              <div className="pair">
                <MomentField
                  label={phrase('offers.from')}
                  value={c.fromLocal}
                  set={(fromLocal) => put({ fromLocal })}
                  error={error('fromLocal')}
                />
                <MomentField
                  ends
                  label={phrase('offers.until')}
                  value={c.untilLocal}
                  set={(untilLocal) => put({ untilLocal })}
                  error={error('untilLocal')}
                />
                <TextField
                  label={phrase('offers.usesInAll')}
                  type="number"
                  value={typedAs(c.most)}
                  set={(v) => put({ most: numberIn(v) })}
                  error={error('most')}
                  consequence={c.most === null ? phrase('event.noLimit') : ''}
                />
                <TextField
                  label={phrase('offers.usesPerPerson')}
                  type="number"
                  value={typedAs(c.mostPerPerson)}
                  set={(v) => put({ mostPerPerson: numberIn(v) })}
                  error={error('mostPerPerson')}
                  help={c.mostPerPerson === null ? undefined : phrase('offers.mostPerPersonHelp')}
                />
              </div>
            </FoldedEntry>
          );
        })}
      </Entries>
      <Button look="plain" alignSelf="start" onClick={() => set([...codes, newCode()])}>
        <Plus size={14} aria-hidden /> {phrase('offers.addCode')}
      </Button>
    </>
  );
}

export const newTax = (): Tax => ({ id: crypto.randomUUID(), name: '', rate: 15_000, included: false });

/** Taxes on what is sold here. */
export function Taxes({ draft: { plan, change, wrong } }: SectionProps) {
  const { taxes } = plan;
  const set = (to: Tax[]) => change({ taxes: to });
  return (
    <>
      {taxes.map((tax, at) => {
        const put = (part: Partial<Tax>) => set(taxes.map((x) => (x.id === tax.id ? { ...x, ...part } : x)));
        return (
          <chakra.div
            key={tax.id}
            display="grid"
            gridTemplateColumns={{ base: '1fr 1fr', lg: '1.4fr 0.8fr 1.6fr auto' }}
            gap="0 10px"
            alignItems="start"
          >
            <TextField
              label={phrase('common.name')}
              value={tax.name}
              set={(name) => put({ name })}
              error={wrong[`taxes.${at}.name`]}
            />
            <TextField
              label={phrase('offers.percent')}
              type="number"
              value={String(tax.rate / 1000)}
              set={(v) => put({ rate: Math.round(Number(v) * 1000) })}
              error={wrong[`taxes.${at}.rate`]}
            />
            <chakra.div paddingTop={{ lg: '26px' }}>
              <Tick checked={tax.included} set={(included) => put({ included })}>
                {phrase('offers.taxIncluded')}
              </Tick>
            </chakra.div>
            <Button
              look="plain"
              marginTop={{ lg: '22px' }}
              aria-label={phrase('event.removeNamed', { name: tax.name })}
              onClick={() => set(taxes.filter((x) => x.id !== tax.id))}
            >
              <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
            </Button>
          </chakra.div>
        );
      })}
      {taxes.length < 4 && (
        <Button look="plain" alignSelf="start" onClick={() => set([...taxes, newTax()])}>
          <Plus size={14} aria-hidden /> {phrase('offers.addTax')}
        </Button>
      )}
    </>
  );
}
