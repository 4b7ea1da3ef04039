/** A party with confirmed seats, as far as it decides who keeps theirs. */
export interface SeatedParty {
  orderId: string;
  name: string;
  seats: number;
  confirmedAt: string;
}

/**
 * Which parties would lose their seats where there are fewer than were given: those confirmed last, whole parties, until the rest
 * fits. `over` is how many seats too many are taken.
 */
export function whoLoses<P extends SeatedParty>(parties: readonly P[], over: number): P[] {
  const losing: P[] = [];
  let left = over;
  for (const party of [...parties].sort((a, b) =>
    a.confirmedAt === b.confirmedAt
      ? a.orderId < b.orderId
        ? 1
        : -1
      : a.confirmedAt < b.confirmedAt
        ? 1
        : -1,
  )) {
    if (left <= 0) break;
    losing.push(party);
    left -= party.seats;
  }
  return losing;
}
