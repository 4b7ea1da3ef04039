/** The states of a list of core's, as SQL behind `in`: 'a', 'b'. Never from outside. */
export function among(states: readonly string[]): string {
  for (const state of states) if (!/^[a-z][a-z -]*$/u.test(state)) throw new Error(`not a state: ${state}`);
  return `(${states.map((state) => `'${state}'`).join(', ')})`;
}
