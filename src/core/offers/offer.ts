import type { Amount } from '#core/money/amount.ts';
import type { WallTime } from '#core/time/clock.ts';

/**
 * How an offer asks for money. `fixed`: its price, or nothing where that is none. `pay what you can`: whatever somebody gives, from
 * a least amount on; its price is what is suggested. `deposit`: part of the price with the booking, the rest later; `later`: all of it.
 */
export const pricings = ['fixed', 'pay what you can', 'deposit', 'later'] as const;
export type Pricing = (typeof pricings)[number];

/** Prices beside the full one: for members, until a time, from a number of units on. */
export const priceKinds = ['members', 'early', 'group'] as const;
export type PriceKind = (typeof priceKinds)[number];

export interface OtherPrice {
  kind: PriceKind;
  price: Amount;
  /** Of an early price: until when, by the clock where the event is. */
  untilLocal: WallTime | null;
  /** Of a group price: from how many units of an order on. */
  fromUnits: number | null;
  /** Of a members' price: for how many units of an order; null for all of them. */
  mostUnits: number | null;
}

/** What can be registered for, as far as it decides what somebody may take and what that costs. */
export interface Offer {
  id: string;
  name: string;
  pricing: Pricing;
  price: Amount;
  /** The least that somebody pays who pays what they can. */
  least: Amount;
  /** What is paid with the booking, of an offer with a deposit. */
  deposit: Amount;
  prices: readonly OtherPrice[];
  /** Whether the taxes of the event are on it. */
  taxed: boolean;
  /** Units there are; null when only the event's capacity limits. */
  quantity: number | null;
  /** Seats one unit gives: 8 for a table of eight. */
  seatsPerUnit: number;
  leastPerOrder: number;
  mostPerOrder: number;
  /** The most units one person has, over all their bookings; null where that is not limited. */
  mostPerPerson: number | null;
  /** When it begins and ceases to be sold, by the clock where the event is. */
  opensLocal: WallTime | null;
  closesLocal: WallTime | null;
  /** Whether only a code shows it. */
  hidden: boolean;
  /** Ages on the day of the event, both counted in. */
  fromAge: number | null;
  toAge: number | null;
  /** Whether its seats are online; else they are at the place. */
  online: boolean;
}

/** An offer as it begins: free, without limits of its own. */
export const plainOffer = {
  about: '',
  pricing: 'fixed' as Pricing,
  price: 0,
  least: 0,
  deposit: 0,
  prices: [] as OtherPrice[],
  taxed: true,
  valueReceived: 0,
  quantity: null as number | null,
  seatsPerUnit: 1,
  leastPerOrder: 1,
  mostPerOrder: 10,
  mostPerPerson: null as number | null,
  opensLocal: null as WallTime | null,
  closesLocal: null as WallTime | null,
  hidden: false,
  fromAge: null as number | null,
  toAge: null as number | null,
  online: false,
  french: { name: '', about: '' },
};

/** An extra, and a code, as they begin. */
export const plainExtra = {
  about: '',
  french: { name: '', about: '' },
  price: 0,
  taxed: true,
  valueReceived: 0,
  chance: false,
  quantity: null as number | null,
  mostPerOrder: 10,
  options: [] as { id: string; name: string; french: string; quantity: number | null }[],
};
export const plainCode = {
  note: '',
  offerIds: [] as string[],
  opens: false,
  off: null as Code['off'],
  fromLocal: null as WallTime | null,
  untilLocal: null as WallTime | null,
  most: null as number | null,
  mostPerPerson: null as number | null,
};

/** Something bought along with a seat. */
export interface Extra {
  id: string;
  name: string;
  price: Amount;
  taxed: boolean;
  /** How many there are; null where nothing limits them. */
  quantity: number | null;
  mostPerOrder: number;
  /** Kinds of it of which one is chosen, each with how many there are. */
  options: readonly { id: string; name: string; quantity: number | null }[];
}

/** A tax on what is sold at an event. */
export interface Tax {
  name: string;
  /** In hundred-thousandths: 15 % is 15000. */
  rate: number;
  /** Whether prices include it already. */
  included: boolean;
}

/** A code somebody enters: it opens what is hidden, lowers prices, or both. */
export interface Code {
  id: string;
  code: string;
  /** What it opens and lowers; none named: all there is. */
  offerIds: readonly string[];
  /** Whether it shows offers that are hidden. */
  opens: boolean;
  /** How much less: hundred-thousandths of the price, or an amount off the whole; null where it lowers nothing. */
  off: { percent: number } | { amount: Amount } | null;
  fromLocal: WallTime | null;
  untilLocal: WallTime | null;
  /** How often it is used in all, and by one person; null where that is not limited. */
  most: number | null;
  mostPerPerson: number | null;
}

/** A code as it is compared: letters in any case, without spaces and dashes. */
export const foldCode = (code: string): string => code.toUpperCase().replace(/[\s\-–—_.]/gu, '');

/** The code of an event that somebody entered, however they wrote it; none where it is none of them. */
export const codeNamed = <C extends { code: string }>(codes: readonly C[], entered: string): C | undefined =>
  codes.find((c) => foldCode(c.code) === foldCode(entered));

/** True while something is sold, by the clock where the event is. */
export const isOnSale = (of: Pick<Offer, 'opensLocal' | 'closesLocal'>, nowLocal: WallTime): boolean =>
  (of.opensLocal === null || of.opensLocal <= nowLocal) &&
  (of.closesLocal === null || nowLocal < of.closesLocal);
