import { chakra } from '@chakra-ui/react';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Offer } from '#contract/plan.ts';
import { plainAmount, readAmount } from '#core/money/amount.ts';
import { type PriceKind, type Pricing, plainOffer, pricings } from '#core/offers/offer.ts';
import { shiftDate } from '#core/time/dates.ts';
import { sayWall } from '#core/time/say.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Tick } from '../../kit/Choosing.tsx';
import { ChoiceField, TextField } from '../../kit/Field.tsx';
import { Empty } from '../../kit/Note.tsx';
import { useSaying } from '../../parts/saying.ts';
import { MomentField, numberIn, typedAs, writeIn } from './entries.tsx';
import type { SectionProps } from './section.ts';

type Change = (part: Partial<Offer>) => void;
type ErrorOf = (field: string) => string | undefined;

const pricingWords: Record<Pricing, string> = {
  fixed: phrase('offers.fixed'),
  'pay what you can': phrase('offers.payWhatYouCan'),
  deposit: phrase('offers.withDeposit'),
  later: phrase('offers.paidLater'),
};
const priceWords: Record<PriceKind, string> = {
  members: phrase('offers.forMembers'),
  early: phrase('offers.early'),
  group: phrase('offers.forGroups'),
};

/** What can be registered for: each with its price and how many there are, and on demand everything else that decides about it. */
export function Offers({ draft: { plan, change, wrong } }: SectionProps) {
  const { offers } = plan;
  const { dayAndYear } = useSaying();
  const set = (to: Offer[]) => change({ offers: to });
  const add = () => {
    const id = crypto.randomUUID();
    writeIn(id);
    set([...offers, { id, ...plainOffer, name: phrase('event.seat') }]);
  };
  return (
    <>
      {wrong.offers && <p className="error-line">{wrong.offers}</p>}
      {offers.length === 0 && <Empty>{phrase('event.nothingCanBeRegistered')}</Empty>}
      <ul className="lines">
        {offers.map((offer, at) => (
          <li key={offer.id}>
            <OneOffer
              offer={offer}
              change={(part) => set(offers.map((o) => (o.id === offer.id ? { ...o, ...part } : o)))}
              remove={() => set(offers.filter((o) => o.id !== offer.id))}
              error={(field) => wrong[`offers.${at}.${field}`]}
              online={plan.online !== null}
              taxed={plan.taxes.length > 0}
              codes={plan.codes.length > 0}
            />
          </li>
        ))}
      </ul>
      {offers.some((o) => o.pricing === 'deposit' || o.pricing === 'later') && (
        <chakra.div maxWidth="420px" marginTop="14px">
          <TextField
            label={phrase('offers.balanceDays')}
            help={phrase('offers.balanceHelp')}
            type="number"
            value={String(plan.balanceDays)}
            set={(v) => change({ balanceDays: Math.trunc(Number(v)) })}
            error={wrong.balanceDays}
            consequence={
              plan.startsLocal
                ? phrase('offers.balanceUntil', {
                    day: dayAndYear(
                      `${shiftDate(plan.startsLocal.slice(0, 10), -plan.balanceDays)}T12:00:00Z`,
                    ),
                  })
                : undefined
            }
          />
        </chakra.div>
      )}
      <Button look="plain" alignSelf="start" onClick={add}>
        <Plus size={14} aria-hidden /> {phrase('event.addAnOffer')}
      </Button>
    </>
  );
}

function OneOffer({
  offer,
  change,
  remove,
  error,
  ...more
}: {
  offer: Offer;
  change: Change;
  remove: () => void;
  error: ErrorOf;
  online: boolean;
  taxed: boolean;
  codes: boolean;
}) {
  const { money, currency } = useSaying();
  const { price, quantity, seatsPerUnit } = offer;
  return (
    <>
      <chakra.div
        display="grid"
        gridTemplateColumns={{ base: '1fr 1fr', lg: '1.7fr 1fr 0.8fr 0.8fr auto' }}
        gap="0 10px"
        alignItems="start"
      >
        <TextField
          label={phrase('common.name')}
          id={`name-${offer.id}`}
          value={offer.name}
          set={(name) => change({ name })}
          error={error('name')}
        />
        <AmountField
          label={phrase(offer.pricing === 'pay what you can' ? 'offers.suggested' : 'event.price')}
          amount={price}
          set={(to) => change({ price: to })}
          error={error('price')}
          consequence={price === 0 ? phrase('parts.free') : money(price)}
          currency={currency}
        />
        <TextField
          label={phrase('event.quantity')}
          type="number"
          value={typedAs(quantity)}
          set={(v) => change({ quantity: numberIn(v) })}
          error={error('quantity')}
          consequence={
            quantity ? phrase('event.nSeats', { n: quantity * seatsPerUnit }) : phrase('event.noLimit')
          }
        />
        <TextField
          label={phrase('event.seatsEach')}
          type="number"
          value={String(seatsPerUnit)}
          set={(v) => change({ seatsPerUnit: Number(v) || 1 })}
          error={error('seatsPerUnit')}
        />
        <Button
          look="plain"
          marginTop={{ lg: '22px' }}
          onClick={remove}
          aria-label={phrase('event.removeNamed', { name: offer.name })}
        >
          <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
        </Button>
      </chakra.div>
      <Conditions offer={offer} change={change} error={error} {...more} />
    </>
  );
}

/** What an offer says beside its price, in one line. */
function useSayOffer(): (offer: Offer) => string {
  const { money } = useSaying();
  return (o) =>
    [
      o.pricing === 'pay what you can' &&
        phrase('offers.sayPayWhatYouCan', { least: o.least ? money(o.least) : phrase('offers.anything') }),
      o.pricing === 'deposit' && phrase('offers.sayDeposit', { amount: money(o.deposit) }),
      o.pricing === 'later' && phrase('offers.sayLater'),
      ...o.prices.map((p) => {
        const amount = p.price === 0 ? phrase('parts.free') : money(p.price);
        if (p.kind === 'members')
          return p.mostUnits === null
            ? phrase('offers.sayMembers', { amount })
            : phrase('offers.sayMembersMost', { amount, count: p.mostUnits });
        return p.kind === 'early'
          ? phrase('offers.sayEarly', { amount, at: p.untilLocal ? sayWall(p.untilLocal) : '…' })
          : phrase('offers.sayGroup', { amount, count: p.fromUnits ?? 0 });
      }),
      (o.leastPerOrder > 1 || o.mostPerOrder !== plainOffer.mostPerOrder) &&
        phrase('offers.sayPerOrder', { least: o.leastPerOrder, most: o.mostPerOrder }),
      o.mostPerPerson !== null && phrase('offers.sayPerPerson', { count: o.mostPerPerson }),
      o.opensLocal && phrase('offers.sayOpens', { at: sayWall(o.opensLocal) }),
      o.closesLocal && phrase('offers.sayCloses', { at: sayWall(o.closesLocal) }),
      o.fromAge !== null && phrase('offers.sayFromAge', { age: o.fromAge }),
      o.toAge !== null && phrase('offers.sayToAge', { age: o.toAge }),
      o.hidden && phrase('offers.sayHidden'),
      o.online && phrase('event.offerOnline'),
      o.valueReceived > 0 && phrase('offers.sayValue', { amount: money(o.valueReceived) }),
      o.about,
    ]
      .filter(Boolean)
      .join(' · ');
}

/** Everything else about an offer: said in one line, and written when it is opened. */
function Conditions({
  offer: o,
  change,
  error,
  online,
  taxed,
  codes,
}: {
  offer: Offer;
  change: Change;
  error: ErrorOf;
  online: boolean;
  taxed: boolean;
  codes: boolean;
}) {
  const { money, currency } = useSaying();
  const say = useSayOffer();
  const { prices, french } = o;
  const pay = o.pricing === 'pay what you can';
  const setPrice = (at: number, part: Partial<Offer['prices'][number]>) =>
    change({ prices: prices.map((p, n) => (n === at ? { ...p, ...part } : p)) });
  return (
    <chakra.details marginBottom="6px" fontSize="14px">
      <chakra.summary cursor="pointer" className="soft">
        {say(o) || phrase('offers.more')}
      </chakra.summary>
      <chakra.div paddingTop="8px" display="grid" gap="4px">
        <div className="pair">
          <ChoiceField
            label={phrase('offers.pricing')}
            value={o.pricing}
            set={(v) => change({ pricing: v as Pricing })}
            choices={pricings.map((value) => ({ value, label: pricingWords[value] }))}
          />
          {pay && (
            <AmountField
              label={phrase('offers.least')}
              amount={o.least}
              set={(least) => change({ least })}
              error={error('least')}
              consequence={o.least ? money(o.least) : phrase('offers.anything')}
              currency={currency}
            />
          )}
          {o.pricing === 'deposit' && (
            <AmountField
              label={phrase('offers.deposit')}
              amount={o.deposit}
              set={(deposit) => change({ deposit })}
              error={error('deposit')}
              consequence={phrase('offers.restLater', { amount: money(Math.max(0, o.price - o.deposit)) })}
              currency={currency}
            />
          )}
        </div>
        {!pay &&
          prices.map((p, at) => {
            const wrong = (field: string) => error(`prices.${at}.${field}`);
            return (
              <chakra.div
                key={at}
                display="grid"
                gridTemplateColumns={{ base: '1fr 1fr', lg: '1fr 1fr 1.6fr auto' }}
                gap="0 10px"
                alignItems="start"
              >
                <ChoiceField
                  label={phrase('offers.otherPrice')}
                  value={p.kind}
                  set={(kind) => setPrice(at, { kind: kind as PriceKind })}
                  choices={Object.entries(priceWords).map(([value, label]) => ({ value, label }))}
                />
                <AmountField
                  label={phrase('event.price')}
                  amount={p.price}
                  set={(to) => setPrice(at, { price: to })}
                  error={wrong('price')}
                  consequence={p.price === 0 ? phrase('parts.free') : money(p.price)}
                  currency={currency}
                />
                {p.kind === 'early' ? (
                  <MomentField
                    ends
                    label={phrase('offers.until')}
                    value={p.untilLocal}
                    set={(untilLocal) => setPrice(at, { untilLocal })}
                    error={wrong('untilLocal')}
                  />
                ) : p.kind === 'group' ? (
                  <TextField
                    label={phrase('offers.fromHowMany')}
                    type="number"
                    value={typedAs(p.fromUnits)}
                    set={(v) => setPrice(at, { fromUnits: numberIn(v) })}
                    error={wrong('fromUnits')}
                  />
                ) : (
                  <TextField
                    label={phrase('offers.mostAtThatPrice')}
                    type="number"
                    value={typedAs(p.mostUnits)}
                    set={(v) => setPrice(at, { mostUnits: numberIn(v) })}
                    error={wrong('mostUnits')}
                    help={phrase('offers.mostAtThatPriceHelp')}
                  />
                )}
                <Button
                  look="plain"
                  marginTop={{ lg: '22px' }}
                  aria-label={phrase('offers.removePrice', { kind: priceWords[p.kind] })}
                  onClick={() => change({ prices: prices.filter((_, n) => n !== at) })}
                >
                  <Trash2 size={15} aria-hidden /> {phrase('common.remove')}
                </Button>
              </chakra.div>
            );
          })}
        {!pay && prices.length < 6 && (
          <Button
            look="plain"
            alignSelf="start"
            justifySelf="start"
            onClick={() =>
              change({
                prices: [
                  ...prices,
                  { kind: 'members', price: 0, untilLocal: null, fromUnits: null, mostUnits: null },
                ],
              })
            }
          >
            <Plus size={14} aria-hidden /> {phrase('offers.addPrice')}
          </Button>
        )}
        <chakra.div
          display="grid"
          gridTemplateColumns={{ base: '1fr 1fr', lg: 'repeat(5, 1fr)' }}
          gap="0 10px"
          alignItems="start"
        >
          <TextField
            label={phrase('offers.leastPerOrder')}
            type="number"
            value={String(o.leastPerOrder)}
            set={(v) => change({ leastPerOrder: Number(v) || 1 })}
            error={error('leastPerOrder')}
          />
          <TextField
            label={phrase('event.mostPerOrder')}
            type="number"
            value={String(o.mostPerOrder)}
            set={(v) => change({ mostPerOrder: Number(v) || 1 })}
            error={error('mostPerOrder')}
          />
          <TextField
            label={phrase('offers.mostPerPerson')}
            type="number"
            value={typedAs(o.mostPerPerson)}
            set={(v) => change({ mostPerPerson: numberIn(v) })}
            error={error('mostPerPerson')}
            help={o.mostPerPerson === null ? undefined : phrase('offers.mostPerPersonHelp')}
          />
          <TextField
            label={phrase('offers.fromAge')}
            type="number"
            value={typedAs(o.fromAge)}
            set={(v) => change({ fromAge: numberIn(v) })}
            error={error('fromAge')}
          />
          <TextField
            label={phrase('offers.toAge')}
            type="number"
            value={typedAs(o.toAge)}
            set={(v) => change({ toAge: numberIn(v) })}
            error={error('toAge')}
          />
        </chakra.div>
        <div className="pair">
          <MomentField
            label={phrase('offers.opens')}
            value={o.opensLocal}
            set={(opensLocal) => change({ opensLocal })}
            error={error('opensLocal')}
          />
          <MomentField
            ends
            label={phrase('offers.closes')}
            value={o.closesLocal}
            set={(closesLocal) => change({ closesLocal })}
            error={error('closesLocal')}
          />
        </div>
        <div className="pair">
          <TextField label={phrase('event.offerAbout')} value={o.about} set={(about) => change({ about })} />
          <TextField
            label={phrase('event.offerFrench')}
            value={french.name}
            set={(name) => change({ french: { ...french, name } })}
          />
          <TextField
            label={phrase('event.offerAboutFrench')}
            value={french.about}
            set={(about) => change({ french: { ...french, about } })}
          />
          <AmountField
            label={phrase('offers.valueReceived')}
            amount={o.valueReceived}
            set={(valueReceived) => change({ valueReceived })}
            error={error('valueReceived')}
            consequence={phrase('offers.valueReceivedHelp')}
            currency={currency}
          />
        </div>
        <chakra.div display="flex" flexWrap="wrap" gap="4px 18px">
          <Tick checked={o.hidden} set={(hidden) => change({ hidden })}>
            {phrase(codes ? 'offers.hidden' : 'offers.hiddenNoCode')}
          </Tick>
          {(online || o.online) && (
            <Tick checked={o.online} set={(is) => change({ online: is })}>
              {phrase('event.offerOnline')}
            </Tick>
          )}
          {taxed && (
            <Tick checked={o.taxed} set={(is) => change({ taxed: is })}>
              {phrase('offers.taxed')}
            </Tick>
          )}
        </chakra.div>
      </chakra.div>
    </chakra.details>
  );
}

/** An amount as it is typed; only one that can be read is passed on. */
export function AmountField({
  label,
  amount,
  set,
  error,
  consequence,
  currency,
}: {
  label: string;
  amount: number;
  set: (amount: number) => void;
  error: string | undefined;
  consequence: string;
  currency: string;
}) {
  const [typed, setTyped] = useState(amount === 0 ? '0' : plainAmount(amount, currency));
  const read = readAmount(typed, currency);
  return (
    <TextField
      label={label}
      value={typed}
      inputMode="decimal"
      set={(v) => {
        setTyped(v);
        const to = readAmount(v, currency);
        if (to !== null) set(to);
      }}
      error={read === null ? phrase('event.giveAnAmount') : error}
      consequence={consequence}
    />
  );
}
