import type { Role } from '#contract/endpoint.ts';
import type { DemoSignIn } from './routes.ts';

/** The password of every account of the demonstration. */
export const demoPassword = 'marsh-wren-2026';

/** The staff of the demonstration: who, what they may do and what to try with them. */
export const demoStaff: readonly (Omit<DemoSignIn, 'password'> & {
  roles: Role[];
  approves: string[];
  unit: string | null;
})[] = [
  {
    name: 'Odalys Ferrant',
    email: 'odalys@brackenmere.example',
    does: 'coordinator: everything',
    roles: ['coordinator'],
    approves: [],
    unit: null,
  },
  {
    name: 'Tobias Wren-Achebe',
    email: 'tobias@brackenmere.example',
    does: 'approver for safety',
    roles: ['approver'],
    approves: ['safety', 'premises'],
    unit: null,
  },
  {
    name: 'Marit Solvang',
    email: 'marit@brackenmere.example',
    does: 'treasurer, approver for finance',
    roles: ['treasurer', 'approver'],
    approves: ['finance'],
    unit: null,
  },
  {
    name: 'Imani Okarro',
    email: 'imani@brackenmere.example',
    does: 'crew lead',
    roles: ['crew lead'],
    approves: [],
    unit: null,
  },
  {
    name: 'Piers Lachance',
    email: 'piers@brackenmere.example',
    does: 'unit lead of Small Boats',
    roles: ['unit lead'],
    approves: [],
    unit: 'Small Boats',
  },
  {
    name: 'Wilhelmina Nguyen',
    email: 'door@brackenmere.example',
    does: 'door team',
    roles: ['door'],
    approves: [],
    unit: null,
  },
];

export const demoSignIns: readonly DemoSignIn[] = demoStaff.map(({ name, email, does }) => ({
  name,
  email,
  does,
  password: demoPassword,
}));
