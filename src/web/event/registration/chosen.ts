import type { EventPage } from '#contract/events.ts';

/** What is done with several seats at once is asked in a dialog. */
export interface WithSeats {
  seatIds: readonly string[];
  page: EventPage;
  close: () => void;
  /** It is done: nothing is chosen any more. */
  done: () => void;
}
