import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Feature, proposeAddresses } from './gazetteer.ts';
import { gazetteer } from './portAnsley.ts';
import { offsetFrom, sketchOf, sketchShape } from './sketch.ts';

const reedhouse = {
  name: 'Reedhouse',
  address: '14 Reedcutters Row, Port Ansley NS',
  latitude: 45.806,
  longitude: -63.479,
};

describe('what an address may be', () => {
  const said = (typed: string, known = [reedhouse]) =>
    proposeAddresses(typed, known, gazetteer).map((p) => p.address);
  test('known places come first, by their name or their address; the same address is not proposed twice', () => {
    expect(proposeAddresses('reedh', [reedhouse], gazetteer)[0]).toEqual({
      address: '14 Reedcutters Row, Port Ansley NS',
      latitude: 45.806,
      longitude: -63.479,
      of: 'Reedhouse',
    });
    expect(said('14 reed')).toEqual(['14 Reedcutters Row, Port Ansley NS']);
  });
  test('the number of the house goes along, and has letters', () => {
    expect(said('7b harb')).toEqual(['7B Harbour St, Port Ansley NS']);
    expect(said('16 reedcutters', [])).toEqual(['16 Reedcutters Row, Port Ansley NS']);
    expect(proposeAddresses('16 reedc', [], gazetteer)[0]).toMatchObject({
      latitude: 45.8061,
      longitude: -63.479,
      of: null,
    });
  });
  test('words in any order, accents or none; a landmark has no number; water is no address', () => {
    expect(said('st hàrbour')).toEqual(['Harbour St, Port Ansley NS']);
    expect(said('library')).toEqual(['Public library, Port Ansley NS']);
    expect(said('3 library')).toEqual([]);
    expect(said('brackenmere')).toEqual([]);
  });
  test('nothing much that is typed proposes nothing', () => {
    for (const typed of ['', ' ', 'h', '14', '14 ', '14 r', '!?']) expect(said(typed)).toEqual([]);
  });
  test('whatever is typed: never more than asked for', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), fc.integer({ min: 0, max: 12 }), (typed, most) => {
        expect(proposeAddresses(typed, [reedhouse], gazetteer, most).length).toBeLessThanOrEqual(most);
      }),
    );
  });
});

describe('what lies around', () => {
  test('metres east and north: a degree of latitude is 111,195 m, one of longitude half of it at 60° north', () => {
    expect(offsetFrom([0, 0], [1, 0])).toEqual({ east: 0, north: 111195 });
    expect(offsetFrom([60, 10], [60, 11]).east).toBe(55598);
    expect(offsetFrom([0, 179.9], [0, -179.9]).east).toBe(22239);
  });
  test('nothing without coordinates, nor where nothing is known', () => {
    expect(sketchOf({ latitude: null, longitude: null }, gazetteer)).toBeNull();
    expect(sketchOf({ latitude: 10, longitude: 10 }, gazetteer)).toBeNull();
  });
  test('a street that only passes through is seen, though neither of its ends is', () => {
    const street: Feature = {
      name: 'Long Rd',
      kind: 'street',
      town: '',
      line: [
        [0, -0.05],
        [0.001, 0.05],
      ],
    }; // prettier-ignore
    expect(sketchOf({ latitude: 0, longitude: 0 }, [street])!.features).toHaveLength(1);
  });
  test('names stay within the picture, and clear of the place and of one another', () => {
    const point = fc.tuple(
      fc.double({ min: -0.01, max: 0.01, noNaN: true }),
      fc.double({ min: -0.01, max: 0.01, noNaN: true }),
    );
    const feature: fc.Arbitrary<Feature> = fc.record({
      name: fc.string({ minLength: 1, maxLength: 20 }),
      kind: fc.constantFrom('street' as const, 'landmark' as const),
      town: fc.constant(''),
      line: fc.array(point, { minLength: 1, maxLength: 4 }),
    });
    fc.assert(
      fc.property(fc.array(feature, { maxLength: 12 }), (features) => {
        const sketch = sketchOf({ latitude: 0, longitude: 0 }, features);
        if (!sketch) return;
        const { reach } = sketch;
        const labels = sketch.features.flatMap((f) => (f.label ? [{ ...f.label, name: f.name }] : []));
        for (const l of labels) {
          expect(Math.abs(l.east)).toBeLessThan(reach);
          expect(Math.abs(l.north)).toBeLessThan(reach * sketchShape);
          expect(Math.abs(l.east) > reach * 0.05 || Math.abs(l.north) > reach * 0.05).toBe(true);
        }
        for (const [at, a] of labels.entries())
          for (const b of labels.slice(at + 1))
            expect(
              Math.abs(a.north - b.north) > reach * 0.08 ||
                Math.abs(a.east - b.east) > (a.name.length + b.name.length) * reach * 0.018,
            ).toBe(true);
      }),
    );
  });
});
