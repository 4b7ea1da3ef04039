import loadHighs, { type Highs, type Model } from 'highs';
import type { LinearAnswer, LinearModel, NewLinearModel } from '#core/roster/linear.ts';

/** A model as it is put together, before it is handed to the solver all at once. */
interface Gathered {
  cost: number[];
  lower: number[];
  upper: number[];
  rowLower: number[];
  rowUpper: number[];
  entries: { row: number; column: number; factor: number }[];
}

/** Linear models solved by HiGHS, compiled to WebAssembly. Solving holds up the thread it runs in. */
export async function loadSolver(): Promise<NewLinearModel> {
  const highs = await loadHighs();
  return () => linearModel(highs);
}

function linearModel(highs: Highs): LinearModel {
  const { modelStatus, variableType } = highs.constants;
  const gathered: Gathered = { cost: [], lower: [], upper: [], rowLower: [], rowUpper: [], entries: [] };
  let model: Model | null = null;
  let rows = 0;
  let columns = 0;
  const infinite = (n: number) => (n === Infinity ? highs.infinity : n === -Infinity ? -highs.infinity : n);

  /** The model at the solver, from the first time it is needed there. */
  const there = (): Model => {
    if (model) return model;
    const entries = [...gathered.entries].sort((a, b) => a.row - b.row);
    const starts = new Int32Array(rows + 1);
    for (const { row } of entries) starts[row + 1]! += 1;
    for (let row = 0; row < rows; row += 1) starts[row + 1]! += starts[row]!;
    model = highs.createModel({
      numCols: columns,
      numRows: rows,
      colCost: Float64Array.from(gathered.cost),
      colLower: Float64Array.from(gathered.lower, infinite),
      colUpper: Float64Array.from(gathered.upper, infinite),
      rowLower: Float64Array.from(gathered.rowLower, infinite),
      rowUpper: Float64Array.from(gathered.rowUpper, infinite),
      matrix: {
        format: 'csr',
        numRows: rows,
        numCols: columns,
        starts,
        indices: Int32Array.from(entries, (e) => e.column),
        values: Float64Array.from(entries, (e) => e.factor),
      },
    });
    // Whole numbers are wanted exactly, not to within a share.
    model.options.set({ output_flag: false, mip_rel_gap: 0, mip_abs_gap: 1e-6 });
    return model;
  };

  return {
    addRow(lower, upper) {
      if (model) model.addRow(infinite(lower), infinite(upper), { indices: [], values: [] });
      gathered.rowLower.push(lower);
      gathered.rowUpper.push(upper);
      rows += 1;
      return rows - 1;
    },
    addColumn(cost, lower, upper, at, factors) {
      if (model)
        model.addCol(cost, infinite(lower), infinite(upper), { indices: [...at], values: [...factors] });
      else {
        gathered.cost.push(cost);
        gathered.lower.push(lower);
        gathered.upper.push(upper);
        for (const [n, row] of at.entries())
          gathered.entries.push({ row, column: columns, factor: factors[n]! });
      }
      columns += 1;
      return columns - 1;
    },
    setFactor(row, column, factor) {
      if (model) model.changeCoefficient(row, column, factor);
      else gathered.entries.push({ row, column, factor });
    },
    setCost(column, cost) {
      if (model) model.changeColCost(column, cost);
      else gathered.cost[column] = cost;
    },
    setRow(row, lower, upper) {
      if (model) model.changeRowBounds(row, infinite(lower), infinite(upper));
      gathered.rowLower[row] = lower;
      gathered.rowUpper[row] = upper;
    },
    setColumn(column, lower, upper) {
      if (model) model.changeColBounds(column, infinite(lower), infinite(upper));
      else {
        gathered.lower[column] = lower;
        gathered.upper[column] = upper;
      }
    },
    solve({ seconds, whole, start }): LinearAnswer {
      const at = there();
      // To come back to, where there is one.
      const basis = whole && Number(at.info.get('basis_validity')) === 1 ? at.getBasis() : null;
      if (whole) {
        for (const column of whole) at.changeColIntegrality(column, variableType.integer);
        // A model without columns takes no start.
        if (start && columns > 0) {
          const values = new Float64Array(columns);
          for (let n = 0; n < Math.min(columns, start.length); n += 1) values[n] = start[n] ?? 0;
          at.setSolution({ colValue: values });
        }
      }
      at.zeroAllClocks();
      at.options.set(
        whole
          ? // Looking for symmetry and simplifying took longer here than solving did.
            {
              solver: 'choose',
              presolve: 'off',
              mip_detect_symmetry: false,
              mip_heuristic_run_feasibility_jump: false,
            }
          : // An interior point says better than a corner what a place is worth, and is found several times faster.
            { solver: 'ipm', run_crossover: 'on', presolve: 'on' },
      );
      at.options.set('time_limit', Math.max(0.05, seconds));
      at.run();
      const status = at.getModelStatus();
      const found = Number(at.info.get('primal_solution_status')) === 2;
      const solution = found ? at.getSolution() : null;
      const answer: LinearAnswer = {
        status:
          status === modelStatus.optimal
            ? 'optimal'
            : status === modelStatus.infeasible
              ? 'infeasible'
              : 'stopped',
        objective: found ? at.getObjectiveValue() : Infinity,
        values: solution?.colValue ?? null,
        duals: whole ? null : (solution?.rowDual ?? null),
        bound: whole ? Number(at.info.get('mip_dual_bound')) : -Infinity,
      };
      if (whole) {
        at.clearIntegrality();
        if (basis) at.setBasis(basis);
      }
      return answer;
    },
    close: () => model?.dispose(),
  };
}
