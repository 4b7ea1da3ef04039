/** How solving ended: with what is best, with nothing that keeps to the rows, or for want of time. */
export type LinearStatus = 'optimal' | 'infeasible' | 'stopped';

export interface LinearAnswer {
  status: LinearStatus;
  /** What was found; null where nothing was. */
  objective: number;
  values: ArrayLike<number> | null;
  /** What one unit of each row is worth; of a continuous model only. */
  duals: ArrayLike<number> | null;
  /** No solution is below it. */
  bound: number;
}

/**
 * A linear model that is kept and solved again as it grows, always made as small as can be. What solves it is given to the
 * core: it knows no package.
 */
export interface LinearModel {
  /** Adds a row without columns, and says its number. */
  addRow(lower: number, upper: number): number;
  addColumn(
    cost: number,
    lower: number,
    upper: number,
    rows: readonly number[],
    factors: readonly number[],
  ): number;
  setFactor(row: number, column: number, factor: number): void;
  setCost(column: number, cost: number): void;
  setRow(row: number, lower: number, upper: number): void;
  setColumn(column: number, lower: number, upper: number): void;
  /** With `whole`, these columns take whole numbers; begins with `start` where one is given. */
  solve(of: { seconds: number; whole?: readonly number[]; start?: ArrayLike<number> }): LinearAnswer;
  close(): void;
}

export type NewLinearModel = () => LinearModel;
