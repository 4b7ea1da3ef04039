import { fold } from '../contacts/names.ts';

/** A point on the ground: degrees north and east. */
export type Point = readonly [latitude: number, longitude: number];

/** Something with a name that stands on the ground: a street or a path along a line, water, or a single point. */
export interface Feature {
  name: string;
  kind: 'street' | 'path' | 'water' | 'landmark';
  /** The town with its region, as an address says it. */
  town: string;
  /** One point for a landmark; water that ends where it began is a surface. */
  line: readonly Point[];
}

/** A place that is known already. */
export interface KnownAddress {
  name: string;
  address: string;
  latitude: number | null;
  longitude: number | null;
}

export interface AddressProposal {
  address: string;
  latitude: number | null;
  longitude: number | null;
  /** The place that has this address; null where it is the gazetteer's. */
  of: string | null;
}

const wordsOf = (text: string): string[] =>
  fold(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** Whether each word that was typed begins a word of the text. */
const meant = (typed: readonly string[], text: string): boolean => {
  const words = wordsOf(text);
  return typed.every((t) => words.some((word) => word.startsWith(t)));
};

const middleOf = (line: readonly Point[]): Point => line[Math.floor(line.length / 2)]!;

/**
 * Addresses that something typed may mean: first those of known places, by their name or address, then streets and
 * landmarks of the gazetteer, with the number of the house that was typed ("14 reed" is "14 Reedcutters Row, Port Ansley
 * NS"). Less than two letters mean nothing yet.
 */
export function proposeAddresses(
  typed: string,
  known: readonly KnownAddress[],
  features: readonly Feature[],
  most = 8,
): AddressProposal[] {
  const words = wordsOf(typed);
  const number = /^\d+\p{L}?$/u.test(words[0] ?? '') ? words[0]!.toUpperCase() : null;
  const named = number ? words.slice(1) : words;
  if (named.join('').length < 2) return [];
  const ofKnown = known
    .filter((p) => meant(words, `${p.name} ${p.address}`))
    .map(({ name, address, latitude, longitude }) => ({ address, latitude, longitude, of: name }));
  const said = new Set(ofKnown.map((p) => p.address));
  const ofFeatures = features
    .filter(
      (f) =>
        (f.kind === 'street' || (f.kind === 'landmark' && !number)) && meant(named, `${f.name} ${f.town}`),
    )
    .map((f) => {
      const [latitude, longitude] = middleOf(f.line);
      return {
        address: [number && f.kind === 'street' ? `${number} ${f.name}` : f.name, f.town].join(', '),
        latitude,
        longitude,
        of: null,
      };
    })
    .filter((p) => !said.has(p.address));
  return [...ofKnown, ...ofFeatures].slice(0, most);
}
