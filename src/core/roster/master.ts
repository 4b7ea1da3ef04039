import type { Aim } from './anew.ts';
import { allColumns, bestColumns, type Column, columnOf } from './columns.ts';
import type { Ground } from './ground.ts';
import type { LinearAnswer, LinearModel, NewLinearModel } from './linear.ts';
import type { Standing } from './standing.ts';

/** A row that ties what several units do at one shift, added only once it was broken: to be at least `lower`. */
interface Tie {
  row: number;
  shift: number;
  factors: ReadonlyMap<number, number>;
}

/** The terms that are sums over places and people, with the row that keeps what was reached of each. */
type Sum = 'least' | 'wished' | 'wishes';
const sums: readonly Sum[] = ['least', 'wished', 'wishes'];

/**
 * The linear model in which a column is everything one unit could do (Dantzig and Wolfe's decomposition): rows say how many
 * each shift has, and that a unit does one thing. Columns are made as they are worth something; what none could improve is
 * a bound for every roster there is.
 */
export class Master {
  readonly #ground: Ground;
  readonly #linear: LinearModel;
  readonly #shiftRow: number[];
  readonly #unitRow: number[];
  readonly #least: number[];
  readonly #wished: number[];
  readonly #floor: Record<Sum, number>;
  readonly #short: number[];
  readonly #columns: { at: number; column: Column; minutes: number }[] = [];
  readonly #known = new Set<string>();
  readonly #ties: Tie[] = [];
  #aim: Aim = { least: 1, wished: 0, wishes: 0, squares: 0 };
  #mostMinutes = Infinity;

  constructor(ground: Ground, newLinear: NewLinearModel) {
    const linear = newLinear();
    this.#ground = ground;
    this.#linear = linear;
    const { shifts, candidates } = ground;
    this.#floor = {
      least: linear.addRow(-Infinity, Infinity),
      wished: linear.addRow(-Infinity, Infinity),
      wishes: linear.addRow(-Infinity, Infinity),
    };
    this.#unitRow = ground.units.map(() => linear.addRow(-Infinity, 1));
    this.#shiftRow = shifts.map(() => linear.addRow(0, 0));
    const places = (shift: number, many: number, term: Sum) =>
      many <= 0 || !candidates[shift]!.length
        ? -1
        : linear.addColumn(
            0,
            0,
            many,
            [this.#shiftRow[shift]!, this.#floor[term]],
            [-1, shifts[shift]!.importance],
          );
    this.#least = shifts.map((s, at) => places(at, s.least - s.fixed, 'least'));
    this.#wished = shifts.map((s, at) => places(at, s.wished - Math.max(s.least, s.fixed), 'wished'));
    this.#short = sums.map((term) => linear.addColumn(0, 0, 0, [this.#floor[term]], [1]));
  }

  /** Adds everything units do in a roster. */
  learn(standing: Standing): void {
    for (const [unit, shifts] of standing.shiftsOf.entries())
      if (shifts.length)
        this.#add(
          columnOf(
            this.#ground,
            unit,
            [...shifts].sort((a, b) => a - b),
          ),
        );
  }

  #add(column: Column): boolean {
    const { units, shifts } = this.#ground;
    const key = `${column.unit}:${[...column.shifts].sort((a, b) => a - b).join(',')}`;
    if (this.#known.has(key)) return false;
    this.#known.add(key);
    const of = units[column.unit]!;
    const rows = [this.#unitRow[column.unit]!, this.#floor.wishes];
    const factors = [1, column.wishes];
    for (const s of column.shifts) {
      rows.push(this.#shiftRow[s]!);
      factors.push(of.sizes[of.at.get(s)!]!);
    }
    for (const tie of this.#ties) {
      const factor = tie.factors.get(column.unit);
      if (factor && column.shifts.includes(tie.shift)) {
        rows.push(tie.row);
        factors.push(factor);
      }
    }
    const minutes = Math.max(
      ...of.people.map(
        (p) =>
          this.#ground.fixedMinutes[p]! +
          column.shifts.reduce(
            (m, s) => m + (this.#ground.fixedOf[p]!.includes(s) ? 0 : shifts[s]!.minutes),
            0,
          ),
      ),
    );
    const upper = minutes > this.#mostMinutes ? 0 : 1;
    const at = this.#linear.addColumn(this.#costOf(column), 0, upper, rows, factors);
    this.#columns.push({ at, column, minutes });
    return true;
  }

  #costOf(column: Column): number {
    return this.#aim.squares * column.squares - this.#aim.wishes * column.wishes;
  }

  /**
   * What it is to be best at from now on, with nobody having more minutes than given. With `missing`, it is to miss as little
   * as can be of what is kept of the terms before.
   */
  aim(aim: Aim, mostMinutes = Infinity, missing = false): void {
    this.#aim = aim;
    this.#mostMinutes = mostMinutes;
    const { shifts } = this.#ground;
    for (const term of ['least', 'wished'] as const)
      for (const [shift, column] of (term === 'least' ? this.#least : this.#wished).entries())
        if (column >= 0) this.#linear.setCost(column, -aim[term] * shifts[shift]!.importance);
    this.mayMiss(missing ? 1 : null);
    for (const { at, column, minutes } of this.#columns) {
      this.#linear.setCost(at, this.#costOf(column));
      this.#linear.setColumn(at, 0, minutes > mostMinutes ? 0 : 1);
    }
  }

  /** Keeps what was reached of a term, without what is given by what is fixed. */
  keep(term: Sum, reached: number, exactly = false): void {
    // Whole numbers are kept as they are: a little less would be taken for another number by what solves it.
    const slack = Number.isInteger(reached) ? 0 : 1e-9 * Math.abs(reached);
    this.#linear.setRow(this.#floor[term], reached - slack, exactly ? reached + slack : Infinity);
  }

  /**
   * Solves with the columns there are, then looks for better ones. `bound` holds for every roster that keeps what was reached
   * of the terms before; `more` says whether columns were added.
   */
  round(
    seconds: number,
    without: ReadonlyMap<number, number> = new Map(),
  ): { answer: LinearAnswer; bound: number; more: boolean } {
    const answer = this.#linear.solve({ seconds });
    if (answer.status !== 'optimal' || !answer.duals) return { answer, bound: -Infinity, more: false };
    const duals = answer.duals;
    const { units } = this.#ground;
    const wishWorth = duals[this.#floor.wishes]! + this.#aim.wishes;
    const tied = new Map<number, Map<number, number>>();
    for (const tie of this.#ties) {
      const dual = duals[tie.row]!;
      if (dual === 0) continue;
      for (const [unit, factor] of tie.factors) {
        const of = tied.get(unit) ?? new Map<number, number>();
        of.set(tie.shift, (of.get(tie.shift) ?? 0) + factor * dual);
        tied.set(unit, of);
      }
    }
    let below = 0;
    let more = false;
    for (const [unit, of] of units.entries()) {
      if (!of.shifts.length || without.has(unit)) continue;
      const ties = tied.get(unit);
      const found = bestColumns(
        this.#ground,
        unit,
        (at) =>
          duals[this.#shiftRow[of.shifts[at]!]!]! * of.sizes[at]! +
          wishWorth * of.wishes[at]! +
          (ties?.get(of.shifts[at]!) ?? 0),
        {
          squared: this.#aim.squares,
          above: -duals[this.#unitRow[unit]!]! + 1e-7,
          most: 2,
          mostMinutes: this.#mostMinutes,
        },
      );
      if (!found.length) continue;
      below += found[0]!.worth + duals[this.#unitRow[unit]!]!;
      for (const { shifts } of found) if (this.#add(columnOf(this.#ground, unit, shifts))) more = true;
    }
    return { answer, bound: answer.objective - below, more };
  }

  /** Solves with the columns there are, in parts where that is better: what no whole roster of them can be better than. */
  relaxed(seconds: number): { objective: number } | null {
    const answer = this.#linear.solve({ seconds });
    return answer.status === 'optimal' ? { objective: answer.objective } : null;
  }

  /** The best roster that can be put together from the columns there are, as pairs; null where none was found in time. */
  whole(
    seconds: number,
    start: Standing | null,
  ): { pairs: [number, number][]; objective: number; bound: number; proven: boolean } | null {
    const columns = this.#columns.map(({ at }) => at);
    const answer = this.#linear.solve({
      seconds,
      whole: columns,
      ...(start ? { start: this.#startFrom(start) } : {}),
    });
    if (!answer.values) return null;
    return {
      pairs: this.#columns.flatMap(({ at, column }) =>
        answer.values![at]! > 0.5 ? column.shifts.map((s): [number, number] => [column.unit, s]) : [],
      ),
      objective: answer.objective,
      bound: answer.bound,
      proven: answer.status === 'optimal',
    };
  }

  /** The minutes the people of some columns have at most, each once. */
  get minutes(): number[] {
    return [...new Set(this.#columns.map((c) => c.minutes))].sort((a, b) => a - b);
  }

  close(): void {
    this.#linear.close();
  }

  /** Columns that are used at all in what was solved last, the most used first. */
  used(answer: LinearAnswer): { at: number; column: Column; value: number }[] {
    const values = answer.values!;
    return this.#columns
      .filter(({ at }) => values[at]! > 1e-6)
      .map(({ at, column }) => ({ at, column, value: values[at]! }))
      .sort((a, b) => b.value - a.value);
  }

  /** Holds a column, keeps it out, or leaves it free again. */
  hold(at: number, how: 'in' | 'out' | 'free'): void {
    this.#linear.setColumn(at, how === 'in' ? 1 : 0, how === 'out' ? 0 : 1);
  }

  /** Whether what is kept of the terms before may be missed, dearly: `dear` for each of it, or not at all. */
  mayMiss(dear: number | null): void {
    for (const short of this.#short) {
      this.#linear.setCost(short, dear ?? 0);
      this.#linear.setColumn(short, 0, dear === null ? 0 : Infinity);
    }
  }

  get aimed(): { aim: Aim; mostMinutes: number } {
    return { aim: this.#aim, mostMinutes: this.#mostMinutes };
  }

  /** Adds everything units can do, where that is no more than so many things in all; says whether it was. */
  learnAll(most: number): boolean {
    let left = most;
    const all: Column[] = [];
    for (const unit of this.#ground.units.keys()) {
      const own = allColumns(this.#ground, unit, left);
      if (!own) return false;
      left -= own.length;
      for (const shifts of own) all.push(columnOf(this.#ground, unit, shifts));
    }
    for (const column of all) this.#add(column);
    return true;
  }

  #startFrom(standing: Standing): Float64Array {
    const { shifts } = this.#ground;
    const values = new Float64Array(
      1 + Math.max(...this.#short, ...this.#columns.map(({ at }) => at), ...this.#least, ...this.#wished),
    );
    const key = (unit: number, of: readonly number[]) => `${unit}:${[...of].sort((a, b) => a - b).join(',')}`;
    const on = new Set(standing.shiftsOf.map((of, unit) => key(unit, of)));
    for (const { at, column } of this.#columns) if (on.has(key(column.unit, column.shifts))) values[at] = 1;
    for (const [at, s] of shifts.entries()) {
      const more = standing.filled[at]! - s.fixed;
      const least = Math.min(more, Math.max(0, s.least - s.fixed));
      if (this.#least[at]! >= 0) values[this.#least[at]!] = least;
      if (this.#wished[at]! >= 0) values[this.#wished[at]!] = more - least;
    }
    return values;
  }

  /**
   * Ties what was broken in some pairs: people kept apart on one shift, somebody under age alone. Says whether anything was.
   */
  tie(pairs: readonly (readonly [number, number])[]): boolean {
    const { units, shifts, candidates } = this.#ground;
    const on = new Map<number, number[]>();
    for (const [unit, shift] of pairs) on.set(shift, [...(on.get(shift) ?? []), unit]);
    let added = false;
    for (const [shift, there] of on) {
      const kind = (unit: number) => units[unit]!.adults[units[unit]!.at.get(shift)!]!;
      if (shifts[shift]!.fixedAdults === 0 && !there.some(kind))
        for (const unit of there) {
          const factors = new Map<number, number>([[unit, -1]]);
          for (const other of candidates[shift]!) if (kind(other)) factors.set(other, 1);
          this.#tie(shift, factors, 0, Infinity);
          added = true;
        }
      for (const unit of there)
        for (const other of units[unit]!.apart)
          if (other > unit && there.includes(other)) {
            this.#tie(
              shift,
              new Map([
                [unit, 1],
                [other, 1],
              ]),
              -Infinity,
              1,
            );
            added = true;
          }
    }
    return added;
  }

  #tie(shift: number, factors: ReadonlyMap<number, number>, lower: number, upper: number): void {
    const touched = this.#columns.filter(
      ({ column }) => factors.has(column.unit) && column.shifts.includes(shift),
    );
    const row = this.#linear.addRow(lower, upper);
    for (const { at, column } of touched) this.#linear.setFactor(row, at, factors.get(column.unit)!);
    this.#ties.push({ row, shift, factors });
  }
}
