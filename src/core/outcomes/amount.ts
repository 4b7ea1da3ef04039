import type { Params } from '#core/words/filling.ts';
import type { ProblemCode } from '#core/words/problems.ts';
import { addsUp, type Measure } from './measure.ts';

/**
 * Units that are the same thing in another size, and how many of the first one each is. International yard and pound agreement of 1959;
 * litres as the dm³ of the SI; gallons of the United States.
 */
const families: readonly Readonly<Record<string, number>>[] = [
  {
    kg: 1,
    kilo: 1,
    kilos: 1,
    kilogram: 1,
    kilograms: 1,
    kilogramme: 1,
    kilogrammes: 1,
    g: 0.001,
    gram: 0.001,
    grams: 0.001,
    t: 1000,
    tonne: 1000,
    tonnes: 1000,
    lb: 0.45359237,
    lbs: 0.45359237,
    pound: 0.45359237,
    pounds: 0.45359237,
    oz: 0.028349523125,
    ounce: 0.028349523125,
    ounces: 0.028349523125,
  },
  {
    m: 1,
    metre: 1,
    metres: 1,
    meter: 1,
    meters: 1,
    mètre: 1,
    mètres: 1,
    cm: 0.01,
    mm: 0.001,
    km: 1000,
    ft: 0.3048,
    foot: 0.3048,
    feet: 0.3048,
    in: 0.0254,
    inch: 0.0254,
    inches: 0.0254,
    yd: 0.9144,
    yard: 0.9144,
    yards: 0.9144,
    mi: 1609.344,
    mile: 1609.344,
    miles: 1609.344,
  },
  {
    'm²': 1,
    m2: 1,
    sqm: 1,
    ha: 10_000,
    hectare: 10_000,
    hectares: 10_000,
    acre: 4046.8564224,
    acres: 4046.8564224,
    'ft²': 0.09290304,
    sqft: 0.09290304,
  },
  {
    l: 1,
    litre: 1,
    litres: 1,
    liter: 1,
    liters: 1,
    ml: 0.001,
    'm³': 1000,
    m3: 1000,
    gal: 3.785411784,
    gallon: 3.785411784,
    gallons: 3.785411784,
  },
  {
    h: 60,
    hr: 60,
    hrs: 60,
    hour: 60,
    hours: 60,
    heure: 60,
    heures: 60,
    min: 1,
    mins: 1,
    minute: 1,
    minutes: 1,
  },
];

const sizeOf = (unit: string): { family: number; size: number } | null => {
  const family = families.findIndex((units) => Object.hasOwn(units, unit));
  return family < 0 ? null : { family, size: families[family]![unit]! };
};

/** What was typed for a tally, read; or what is wrong with it. */
export type ReadAmount =
  | { value: number; wrong?: undefined }
  | { wrong: { code: ProblemCode; params: Params } };

const wrong = (code: ProblemCode, params: Params = {}): ReadAmount => ({ wrong: { code, params } });

/** The most one tally can be: more is a slip of the finger. */
const mostOfAll = 1e9;

/**
 * Reads an amount as it is typed: "12", "12,5 kg", "1,200", "26 lb" where kilograms are counted. Another size of the same thing is reckoned
 * over and rounded to the digits of the measure; another thing is refused.
 */
export function readAmount(typed: string, measure: Pick<Measure, 'kind' | 'unit' | 'decimals'>): ReadAmount {
  const found = /^\s*(?<sign>[-−+]?)\s*(?<digits>\d[\d\s.,’']*|[.,]\d+)\s*(?<unit>.*?)\s*\.?\s*$/u.exec(
    typed,
  );
  if (!found) return wrong('tally-no-number');
  const { sign, digits, unit } = found.groups as { sign: string; digits: string; unit: string };
  const figure = readFigure(digits);
  if (figure === null) return wrong('tally-no-number');
  const own = measure.unit.en.trim().toLowerCase();
  const said = unit.toLowerCase();
  let value = sign === '-' || sign === '−' ? -figure : figure;
  if (said && said !== own && said !== measure.unit.fr?.trim().toLowerCase()) {
    const [from, to] = [sizeOf(said), sizeOf(own)];
    if (!from || !to || from.family !== to.family)
      return wrong('tally-other-unit', { said: unit, unit: measure.unit.en.trim() || '1' });
    value *= from.size / to.size;
  }
  if (measure.kind !== 'latest' && value < 0) return wrong('tally-negative');
  if (Math.abs(value) > mostOfAll) return wrong('tally-too-large');
  const rounded = Number(value.toFixed(measure.decimals));
  // A count is of whole things: half of one is a slip, not something to round.
  if (measure.kind === 'count' && !Number.isInteger(value)) return wrong('not-whole');
  if (addsUp(measure) && rounded === 0) return wrong('tally-nothing');
  return { value: rounded };
}

/** "1,200.5", "1 200,5" and "1.200,5" are the same; a lone comma before three digits parts thousands, as it does in English. */
function readFigure(digits: string): number | null {
  const tight = digits.replaceAll(/[\s’']/gu, '').replace(/[.,]$/u, '');
  const [comma, dot] = [tight.lastIndexOf(','), tight.lastIndexOf('.')];
  let plain = tight;
  if (comma >= 0 && dot >= 0) plain = tight.replaceAll(comma > dot ? '.' : ',', '').replace(',', '.');
  else if (/^\d{1,3}(?:,\d{3})+$/u.test(tight)) plain = tight.replaceAll(',', '');
  else if (/^\d{1,3}(?:\.\d{3}){2,}$/u.test(tight)) plain = tight.replaceAll('.', '');
  else plain = tight.replace(',', '.');
  return /^(?:\d+(?:\.\d*)?|\.\d+)$/u.test(plain) ? Number(plain) : null;
}
