import type { Feature, Point } from './gazetteer.ts';

const town = 'Port Ansley NS';
const street = (name: string, ...line: Point[]): Feature => ({ name, kind: 'street', town, line });
const landmark = (name: string, at: Point): Feature => ({ name, kind: 'landmark', town, line: [at] });

/** The streets, waters and landmarks of Port Ansley, a made-up town: the gazetteer that ships. */
export const gazetteer: readonly Feature[] = [
  {
    name: 'Brackenmere',
    kind: 'water',
    town,
    line: [
      [45.7945, -63.4985],
      [45.8022, -63.4965],
      [45.8045, -63.4902],
      [45.8012, -63.4862],
      [45.7962, -63.4868],
      [45.7922, -63.4912],
      [45.7945, -63.4985],
    ],
  },
  {
    name: 'Ansley Harbour',
    kind: 'water',
    town,
    line: [
      [45.8072, -63.468],
      [45.8108, -63.4672],
      [45.8128, -63.4628],
      [45.8118, -63.4545],
      [45.8052, -63.4558],
      [45.8048, -63.464],
      [45.8072, -63.468],
    ],
  },
  {
    name: 'Ansley Brook',
    kind: 'water',
    town,
    line: [
      [45.8012, -63.4862],
      [45.8032, -63.4792],
      [45.8045, -63.4728],
      [45.8072, -63.468],
    ],
  },
  {
    name: 'Boardwalk',
    kind: 'path',
    town,
    line: [
      [45.801, -63.482],
      [45.8002, -63.4858],
      [45.798, -63.49],
      [45.7998, -63.4935],
      [45.8042, -63.494],
    ],
  },
  street('Harbour St', [45.8095, -63.4775], [45.8118, -63.4705], [45.815, -63.464]),
  street(
    'Causeway Rd',
    [45.8095, -63.4775],
    [45.805, -63.4815],
    [45.8008, -63.4822],
    [45.796, -63.4838],
    [45.791, -63.485],
  ),
  street('Reedcutters Row', [45.805, -63.4815], [45.8061, -63.479], [45.808, -63.474]),
  street('Heronry Cl', [45.8008, -63.4822], [45.799, -63.487], [45.7983, -63.4898]),
  street('College Ave', [45.815, -63.464], [45.8198, -63.4612], [45.824, -63.459]),
  street('Quay St', [45.808, -63.474], [45.8105, -63.468]),
  street('Mill Lane', [45.8118, -63.4705], [45.816, -63.473], [45.8192, -63.4742]),
  street('Chandler St', [45.8095, -63.4775], [45.8138, -63.4792]),
  street('Station Rd', [45.8138, -63.4792], [45.816, -63.473], [45.8182, -63.468], [45.8198, -63.4612]),
  street('Orchard Way', [45.8182, -63.468], [45.822, -63.4672]),
  landmark('Sluice', [45.8012, -63.484]),
  landmark('Lifeboat station', [45.8096, -63.4676]),
  landmark('Public library', [45.8128, -63.4728]),
  landmark('Railway station', [45.8165, -63.4718]),
  landmark('Water tower', [45.8212, -63.4648]),
];
