import { type Candidate, keysOf, type Prepared, prepare } from '#core/contacts/comparing.ts';
import type { OwnField } from '#core/contacts/fields.ts';
import { type Decision, decideReady, type Thresholds } from '#core/contacts/match.ts';
import { fullName } from '#core/contacts/names.ts';
import type { MatchingModel } from '#core/contacts/weights.ts';
import type { CalendarDate } from '#core/time/clock.ts';
import { because, type Reason } from '#core/words/reasons.ts';
import {
  type Change,
  type CurrentContact,
  changesOf,
  type ImportChoices,
  type RowOverride,
  type RowVerdict,
} from './importing.ts';
import type { Mapping } from './mapping.ts';
import { readRow } from './reading.ts';
import { isGuardian, type PersonRow, type ReadRow, type RowPart } from './rows.ts';

export interface FileRow {
  line: number;
  cells: string[];
  /** The line of the file that names a further person (see parts.ts); absent for the row of that line itself. */
  ofLine?: number;
  part?: RowPart;
}

/** What would become of a row. */
export interface CheckedRow {
  line: number;
  cells: string[];
  ofLine: number | null;
  part: RowPart;
  verdict: RowVerdict;
  reasons: Reason[];
  person: PersonRow | null;
  /** The contact it is, or may be (`look`). */
  contactId: string | null;
  /** Line of an earlier row in the same file that is the same person. */
  sameAsLine: number | null;
  householdOf: string | null;
  householdOfLine: number | null;
  changes: Change[];
  excluded: boolean;
  probability: number | null;
}

export interface CheckerOptions {
  mapping: Mapping;
  country: string;
  today: CalendarDate;
  model: MatchingModel;
  thresholds: Thresholds;
  choices: ImportChoices;
  overrides: Readonly<Record<string, RowOverride>>;
  /** Fields of the organization's own that columns may mean. */
  fields?: readonly OwnField[];
}

/** A row read and made ready, before it is known who it is. */
export interface ReadyRow {
  row: FileRow;
  read: ReadRow;
  ready: Prepared | null;
  keys: string[];
}

/** Decides rows one after the other, against the contacts and against the rows above. */
export interface Checker {
  read(row: FileRow): ReadyRow;
  /** Who the row is among contacts that share a key with it. */
  identify(row: ReadyRow, candidates: readonly Prepared<Candidate>[]): Identified;
  /**
   * The verdict, with what the contact has now where it is known. `broughtBefore` when the contact is known because
   * this very row was applied before.
   */
  verdict(
    row: ReadyRow,
    identified: Identified,
    current: CurrentContact | null,
    broughtBefore?: boolean,
  ): CheckedRow;
}

export interface Identified {
  known: Decision | null;
  sameAsLine: number | null;
  householdOfLine: number | null;
  /** How many contacts have the email of a row without a name. */
  sharing?: number;
}

/** True for somebody who is known by their email alone. */
export const isNameless = (read: ReadRow): boolean => 'person' in read && !fullName(read.person);

/** Rows of one file that share a key and are compared; a key more common than that tells little. */
const mostInBlock = 25;

const goesByName = /^[nwgf] /u;

const nobody: Identified = { known: null, sameAsLine: null, householdOfLine: null };

/** Makes a checker for one file. */
export function makeChecker(options: CheckerOptions): Checker {
  const { mapping, country, today, model, thresholds, choices, overrides } = options;
  const earlier = new Map<string, Prepared<Candidate>[]>();
  const inFileOf = new Map<number, number>();
  const lineOf = (candidateId: string) => Number(candidateId.slice('line '.length));

  return {
    read(row) {
      const cells = putRight(row, overrides);
      const read = readRow(cells, mapping, country, today, options.fields, row.part);
      // An organization is known by its name, and compared with nobody; so is an email without a name.
      const ready =
        'person' in read && read.person.kind === 'person' && !isNameless(read) ? prepare(read.person) : null;
      return { row: { ...row, cells }, read, ready, keys: ready ? keysOf(ready) : [] };
    },

    identify({ row, ready, keys }, candidates) {
      const override = overrides[row.line];
      if (!ready || override?.excluded) return nobody;
      // Within a file only the same person and the same household matter, and neither goes by the name alone.
      const strong = keys.filter((k) => !goesByName.test(k));
      const above = [...new Set(strong.flatMap((k) => earlier.get(k) ?? []))];
      const inFile = decideReady(ready, above, model, thresholds);
      inFileOf.set(row.line, row.ofLine ?? row.line);
      const candidate: Prepared<Candidate> = { ...ready, of: { ...ready.of, id: `line ${row.line}` } };
      for (const key of strong) {
        const block = earlier.get(key);
        if (!block) earlier.set(key, [candidate]);
        else if (block.length < mostInBlock) block.push(candidate);
      }
      return {
        known: decideReady(ready, candidates, model, thresholds),
        sameAsLine: inFile.outcome === 'same' ? lineOf(inFile.contactId!) : null,
        householdOfLine: inFile.householdOf ? lineOf(inFile.householdOf) : null,
      };
    },

    verdict({ row, read }, identified, current, broughtBefore = false) {
      const { known, sameAsLine } = identified;
      const override = overrides[row.line];
      const base: CheckedRow = {
        line: row.line,
        cells: row.cells,
        ofLine: row.ofLine ?? null,
        part: row.part ?? 'own',
        verdict: 'new',
        reasons: [],
        person: 'person' in read ? read.person : null,
        contactId: null,
        sameAsLine: null,
        householdOf: known?.householdOf ?? null,
        householdOfLine: identified.householdOfLine ?? livesWith(row, read),
        changes: [],
        excluded: Boolean(override?.excluded),
        probability: known?.verdict?.probability ?? null,
      };
      if (!('person' in read)) return { ...base, verdict: 'rejected', reasons: [read.rejected] };
      const { person, remarks } = read;
      if (base.excluded) return { ...base, verdict: 'rejected', reasons: [because('left out by hand')] };
      const decided = override?.decision;
      if (current) {
        const changes = changesOf(person, current, choices).map((c) =>
          broughtBefore && !decided ? unlessSaidSo(c, choices) : c,
        );
        const why = decided
          ? [because('by hand')]
          : broughtBefore
            ? [because('brought before')]
            : isNameless(read)
              ? [because('email alone')]
              : (known?.reasons ?? []);
        return {
          ...base,
          verdict: changes.some((c) => c.applied) ? 'changes' : 'same',
          contactId: current.id,
          reasons: [...why, ...remarks],
          changes,
        };
      }
      if (isNameless(read))
        return {
          ...base,
          verdict: 'rejected',
          reasons: [
            identified.sharing
              ? because('several have email', { count: identified.sharing })
              : because('nobody has email'),
          ],
        };
      if (sameAsLine !== null && decided !== 'new')
        return {
          ...base,
          verdict: 'same',
          sameAsLine,
          reasons: [because('same as line', { line: inFileOf.get(sameAsLine) ?? sameAsLine }), ...remarks],
        };
      if (decided === 'new') return { ...base, reasons: [because('new by hand'), ...remarks] };
      if (known?.outcome === 'look')
        return {
          ...base,
          verdict: 'look',
          contactId: known.contactId,
          reasons: [...known.reasons, ...remarks],
        };
      return { ...base, reasons: [...(known?.reasons ?? []), ...remarks] };
    },
  };
}

/** The line whose person somebody named in it lives with: the other of two in one cell, the child at the same address. */
function livesWith({ part, ofLine }: FileRow, read: ReadRow): number | null {
  const together =
    part === 'partner' || (isGuardian(part ?? 'own') && 'person' in read && read.person.street);
  return together && ofLine !== undefined ? ofLine : null;
}

/** The cells of a row with what was put right by hand; the people that one line names share its cells. */
export function putRight(row: FileRow, overrides: CheckerOptions['overrides']): string[] {
  const put = overrides[row.ofLine ?? row.line]?.cells;
  return put ? row.cells.map((c, at) => put[at] ?? c) : row.cells;
}

/**
 * A row that was brought in before says nothing new: where it and the contact differ, the contact was changed since, or
 * another row of the file spoke first. Only what the coordinator asked for by name is taken from it again.
 */
function unlessSaidSo(change: Change, choices: ImportChoices): Change {
  const field = change.field;
  const asked =
    field === 'newsletter' || field === 'do not contact'
      ? choices.widenConsent
      : choices.policies[field] === 'take theirs';
  return !change.applied || asked ? change : { ...change, applied: false, why: because('brought before') };
}

/** The contact a row is taken to be: said by hand, or linked by the comparison. */
export function contactOf(
  line: number,
  identified: Identified,
  overrides: CheckerOptions['overrides'],
): string | null {
  const decided = overrides[line]?.decision;
  if (decided) return decided === 'new' ? null : decided;
  return identified.known?.outcome === 'same' ? identified.known.contactId : null;
}
