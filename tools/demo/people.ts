import type { Person } from '@gavrel/contract';
import { v5 } from 'uuid';

/** A made-up workshop on a made-up island; its people and their passphrases are shown on the sign-in screen of the demo. */
export const DEMO_WORKSHOP = { id: '7e2f9a54-0c1d-4a58-9a63-2d6f5b7c8e10', name: 'Tern Harbour Repair', zone: 'Atlantic/Faroe' };

const person = (name: string, role: Person['role'], competent: boolean, passphrase: string) => ({
  id: v5(name, DEMO_WORKSHOP.id),
  name,
  role,
  competent,
  passphrase,
});
export const PEOPLE = [
  person('Ines Korvald', 'lead', true, 'lantern on the pier'),
  person('Wren Adair', 'technician', false, 'nine grey pebbles'),
  person('Tomas Ripley', 'technician', true, 'kettle before seven'),
  person('Odo Maribel', 'shipper', false, 'string and brown paper'),
  person('Pia Lund', 'viewer', false, 'only looking today'),
];
export const ACCOUNTS = PEOPLE.map(({ name, role, passphrase }) => ({ name, role, passphrase }));
