import { useAddress } from '#web/kit/useAddress.ts';

/** What is shown of the calendar, and how, as its address says it. */
export const usualListing = {
  show: 'list',
  month: '',
  q: '',
  with: '',
  unit: '',
  place: '',
  price: '',
  open: '',
  hide: 'ended',
  sort: 'date',
};
export type ListingAddress = typeof usualListing;
export const useListingAddress = () => useAddress(usualListing);

/** Parts of it that narrow what is shown. */
const narrowing = ['q', 'with', 'unit', 'place', 'price', 'open'] as const;
/** What a feed or a frame is narrowed to. */
export const filterIn = (address: ListingAddress): Record<string, string> =>
  Object.fromEntries(narrowing.filter((name) => address[name]).map((name) => [name, address[name]]));
/** The same with what hides and sorts; nothing of what is usual. */
export const queryIn = (address: ListingAddress): Record<string, string> => ({
  ...filterIn(address),
  ...(address.hide === usualListing.hide ? {} : { hide: address.hide }),
  ...(address.sort === usualListing.sort ? {} : { sort: address.sort }),
});
