import { emailKey } from '#core/contacts/reach.ts';
import type { Work } from '#server/app/app.ts';
import { insert } from '#server/db/database.ts';
import { insertSampleRules } from '#server/staff/commands.ts';
import { demoPassword, demoStaff } from '#server/staff/demoSignIns.ts';
import { hashPassword } from '#server/staff/passwords.ts';
import { type SkillName, storeRoles } from './crew.ts';
import { type DemoWaiver, storeWaivers } from './waivers.ts';

/** What the demonstration's events refer to, by name. */
export interface Founded {
  units: Record<string, string>;
  /** Places, and rooms by place and name. */
  places: Record<string, { venueId: string; roomId: string | null }>;
  funds: Record<string, string>;
  waivers: Record<DemoWaiver, string>;
  skills: Record<SkillName, string>;
  staff: Record<string, string>;
  /** Rules of clearance, by the step they ask for. */
  rules: Record<string, string>;
}

const units = [
  ['Boardwalk Gang', 'Builds and repairs paths; power tools, so certificates'],
  ['Night Herons', 'Evening bird counts, some end after midnight'],
  ['Small Boats', 'Canoe days on the open water'],
  ['Mudlarks', "Children's club, 7–13"],
  ['Friends of the Fen', 'Supper, plant sale, raffle'],
  ['College Chapter', 'Students of Ansley College'],
] as const;

const venues = [
  {
    name: 'Sluice Landing',
    address: '2 Causeway Rd, Port Ansley NS',
    capacity: 120,
    shared: true,
    latitude: 45.801,
    longitude: -63.482,
    accessNotes: 'Step-free to the landing; the far bank has a gravel path.',
  },
  {
    name: 'Reedhouse',
    address: '14 Reedcutters Row, Port Ansley NS',
    capacity: 96,
    latitude: 45.806,
    longitude: -63.479,
    accessNotes: 'Ramp at the north door.',
  },
  {
    name: 'Town Hall',
    ours: false,
    address: '3 Harbour St, Port Ansley NS',
    capacity: 240,
    phone: '902 555 0123',
    openingHours: 'Monday to Saturday 8:00 to 23:00',
    setUpMinutes: 60,
    closed: {
      weekdays: [0],
      dates: [{ from: '2026-12-24', to: '2027-01-03', why: 'Closed over the holidays' }],
    },
    rooms: [
      {
        name: 'Main Hall',
        capacity: 180,
        layouts: [
          { name: 'Rows', capacity: 180 },
          { name: 'Tables of eight', capacity: 128 },
        ],
      },
      { name: 'Council Room', capacity: 40, layouts: [] },
      { name: 'Kitchen', capacity: 12, layouts: [] },
    ],
    latitude: 45.812,
    longitude: -63.47,
    accessNotes: 'Lift; accessible toilets.',
  },
  {
    name: 'Heronry Hide',
    address: 'end of Heronry Cl, Port Ansley NS',
    capacity: 25,
    latitude: 45.798,
    longitude: -63.49,
    accessNotes: 'A boardwalk of 400 m; no lighting.',
  },
  {
    name: 'Ansley College',
    ours: false,
    address: '1 College Ave, Port Ansley NS',
    capacity: 400,
    phone: '902 555 0188',
    setUpMinutes: 15,
    rooms: [
      { name: 'Room 12', capacity: 60, layouts: [] },
      { name: 'Room 14', capacity: 40, layouts: [] },
      {
        name: 'Reading Theatre',
        capacity: 220,
        layouts: [
          { name: 'Rows', capacity: 220 },
          { name: 'Poster walls', capacity: 90 },
        ],
      },
    ],
    latitude: 45.82,
    longitude: -63.461,
    accessNotes: 'Step-free.',
  },
] as const;

const kinds = [
  ['category', 'work party', 'corvée', 'reed', 'verdigris'],
  ['category', 'count', 'recensement', 'lamp', 'ink'],
  ['category', 'on the water', 'sur l’eau', 'wave', 'slate'],
  ['category', 'swap', 'troc', 'leaf', 'verdigris'],
  ['category', 'talk', 'conférence', 'stone', 'madder'],
  ['category', 'supper', 'souper', 'roof', 'ochre'],
  ['category', 'children', 'enfants', 'lamp', 'ochre'],
  ['category', 'conference', 'colloque', 'stone', 'slate'],
  ['draw', 'free food', 'repas offert', '', ''],
  ['draw', 'childcare', 'garde d’enfants', '', ''],
  ['draw', 'step-free access', 'accès de plain-pied', '', ''],
] as const;

/** Founds Brackenmere Wetland Trust: the organization, its staff, units, venues, funds, waivers and clearance rules. */
export async function foundOrganization(w: Pick<Work, 'tx' | 'now' | 'app'>): Promise<Founded> {
  const { tx, now, app } = w;
  const id = () => app.ids.id();
  await insert(tx, 'organization', {
    id: 1,
    name: 'Brackenmere Wetland Trust',
    about:
      'A charity that looks after a marsh, a reedbed and four kilometres of boardwalk near Port Ansley, Nova Scotia.',
    zone: 'America/Halifax',
    currency: 'CAD',
    country: 'CA',
    languages: ['en', 'fr'],
    ageOfMajority: 19,
    minimumNoticeDays: 14,
    hourValue: 2450,
    holidays: [
      '2026-07-01',
      '2026-08-03',
      '2026-09-07',
      '2026-09-30',
      '2026-10-12',
      '2026-11-11',
      '2026-12-25',
      '2026-12-26',
      '2027-01-01',
    ],
    sender: 'hello@brackenmere.example',
    createdAt: now,
  });
  const byName = <T extends { name: string; id: string }>(rows: T[]): Record<string, string> =>
    Object.fromEntries(rows.map((r) => [r.name, r.id]));
  const unitRows = units.map(([name, about]) => ({ id: id(), name, about }));
  await insert(tx, 'units', unitRows);
  const venueRows = venues.map((v) => ({ shared: false, ours: true, rooms: [], ...v, id: id() }));
  for (const { rooms: _, ...venue } of venueRows) await insert(tx, 'venues', venue);
  const roomRows = venueRows.flatMap((v) =>
    v.rooms.map((room, position) => ({ venue: v.name, row: { id: id(), venueId: v.id, position, ...room } })),
  );
  await insert(
    tx,
    'rooms',
    roomRows.map((r) => r.row),
  );
  await insert(
    tx,
    'kinds',
    kinds.map(([sort, name, french, shape, colour]) => ({ id: id(), sort, name, french, shape, colour })),
  );
  const skills = await storeRoles(tx, id);
  const fundRows = ['General', 'Hide Appeal', 'Young Naturalists'].map((name) => ({
    id: id(),
    name,
    about: '',
  }));
  await insert(tx, 'funds', fundRows);
  const unitIds = byName(unitRows);
  const passwordHash = await hashPassword(demoPassword, Buffer.from('brackenmere-salt'));
  const staffRows = demoStaff.map((s) => ({
    id: id(),
    name: s.name,
    email: s.email,
    emailKey: emailKey(s.email),
    passwordHash,
    roles: s.roles,
    approves: s.approves,
    unitId: s.unit ? unitIds[s.unit] : null,
    resting: false,
    createdAt: now,
  }));
  await insert(tx, 'staff', staffRows);
  const waivers = await storeWaivers(w);
  const rules = await insertSampleRules(w);
  return {
    rules,
    units: unitIds,
    places: Object.fromEntries([
      ...venueRows.map((v) => [v.name, { venueId: v.id, roomId: null }] as const),
      ...roomRows.map(
        ({ venue, row }) => [`${venue}, ${row.name}`, { venueId: row.venueId, roomId: row.id }] as const,
      ),
    ]),
    funds: byName(fundRows),
    waivers,
    skills,
    staff: byName(staffRows),
  };
}
