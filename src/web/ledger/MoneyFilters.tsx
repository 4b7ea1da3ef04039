import { chakra } from '@chakra-ui/react';
import { daysOf, type Period, periods } from '#core/time/period.ts';
import { Button } from '#web/kit/Button.tsx';
import { phrase } from '#web/words/phrase.ts';
import { Filters } from '../kit/Filters.tsx';
import { InlineChoice } from '../kit/Inline.tsx';
import { useAddress } from '../kit/useAddress.ts';
import { useAsk } from '../parts/ask.ts';
import { PersonSearch } from '../parts/PersonSearch.tsx';
import { useSaying } from '../parts/saying.ts';

/** What of the money is looked at, as it stands in the address. */
export const usualMoney = { event: '', fund: '', person: '', period: 'ever' };
type Filter = keyof typeof usualMoney;
const always: readonly Filter[] = ['event', 'person', 'period'];

const periodWords: Record<Period, string> = {
  ever: phrase('ledger.everSince'),
  year: phrase('ledger.thisYear'),
  'last year': phrase('ledger.lastYear'),
  month: phrase('ledger.thisMonth'),
  'last month': phrase('ledger.lastMonth'),
};

/** What of the money is looked at: one event, one fund, one person, some days; of those that a view knows. */
export function useMoneyFilters(known: readonly Filter[] = always) {
  const [address, put] = useAddress(usualMoney);
  const { today } = useSaying();
  const of = (filter: Filter) => (known.includes(filter) && address[filter]) || undefined;
  const period = periods.find((p) => p === of('period')) ?? 'ever';
  return {
    known,
    period,
    put,
    query: {
      eventId: of('event'),
      fundId: of('fund'),
      contactId: of('person'),
      ...daysOf(period, today),
    },
    inUse: known.filter((f) => address[f] !== usualMoney[f]).length,
    clear: () => put(usualMoney),
  };
}

export type MoneyFiltersInUse = ReturnType<typeof useMoneyFilters>;

/** The filters of a view of money, with a way back to all of it. */
export function MoneyFilters({ of: { known, period, put, query, inUse, clear } }: { of: MoneyFiltersInUse }) {
  const choices = useAsk('GET /api/giving/choices').data;
  const person = useAsk('GET /api/contacts/:id', {
    params: { id: query.contactId ?? '' },
    enabled: Boolean(query.contactId),
  }).data;
  return (
    <chakra.div
      role="search"
      aria-label={phrase('ledger.whatIsShown')}
      display="flex"
      flexWrap="wrap"
      gap="8px"
      alignItems="flex-start"
      marginTop="10px"
    >
      <Filters inUse={inUse}>
        {known.includes('event') && (
          <InlineChoice
            label={phrase('common.event')}
            value={query.eventId ?? ''}
            set={(event) => put({ event })}
            empty={phrase('ledger.anyEvent')}
            choices={(choices?.events ?? []).map((e) => ({ value: e.id, label: e.title }))}
            maxWidth="230px"
          />
        )}
        {known.includes('fund') && (
          <InlineChoice
            label={phrase('ledger.fund')}
            value={query.fundId ?? ''}
            set={(fund) => put({ fund })}
            empty={phrase('ledger.anyFund')}
            choices={(choices?.funds ?? []).map((f) => ({ value: f.id, label: f.name }))}
            maxWidth="170px"
          />
        )}
        {known.includes('person') && (
          <chakra.div width="180px">
            <PersonSearch
              headed
              label={phrase('ledger.person')}
              placeholder={phrase('ledger.anyPerson')}
              chosen={query.contactId ? (person ? `${person.given} ${person.family}`.trim() : '…') : ''}
              pick={(picked) => put({ person: picked?.id ?? '' })}
            />
          </chakra.div>
        )}
        {known.includes('period') && (
          <InlineChoice
            label={phrase('ledger.period')}
            value={period}
            set={(to) => put({ period: to })}
            choices={periods.map((value) => ({ value, label: periodWords[value] }))}
          />
        )}
      </Filters>
      {inUse > 0 && (
        <Button look="link" onClick={clear} paddingBlock="6px">
          {phrase('ledger.showEverything')}
        </Button>
      )}
    </chakra.div>
  );
}
