import type { Kind } from '@gavrel/core';

/** Those who sign in. */
export const ROLES = ['technician', 'lead', 'shipper', 'viewer'] as const;
/** Somebody outside never signs in: they sign as second person by a one-time code. */
export type Role = (typeof ROLES)[number] | 'outside';

/** Who may write a kind: leads; leads and shippers; who is trained to assess. */
export type Who = 'lead' | 'shipper' | 'competent';

/**
 * Kinds that not everybody may write. Corrected or taken back they are judged as what they rest on. Danger may be said by anybody, a viewer
 * too; all that is not listed by everybody but viewers.
 */
export const WHO: Readonly<Partial<Record<Kind, Who>>> = {
  'quiet-declared': 'lead',
  'policy-set': 'lead',
  'rule-checked': 'lead',
  'place-added': 'lead',
  'place-described': 'lead',
  'place-closed': 'lead',
  'incident-closed': 'lead',
  'site-card-set': 'lead',
  'instrument-connected': 'lead',
  'drum-collected': 'shipper',
  'drum-answered': 'shipper',
  'alarm-answered': 'competent',
  'consignment-described': 'shipper',
  'plan-kept': 'shipper',
  'consignment-handed-over': 'shipper',
  'consignment-arrived': 'shipper',
  'consignment-ended': 'shipper',
  'box-described': 'shipper',
  'carrier-described': 'shipper',
  'notice-filed': 'lead',
};

/** Kinds that a viewer may write: whoever sees danger may say so. */
export const VIEWERS: readonly Kind[] = ['finding-recorded', 'incident-opened'];

/** Why a person may not write a kind; null when they may. */
export function whyNot(kind: Kind, person: { readonly role: Role; readonly competent: boolean }): string | null {
  if (person.role === 'viewer' && !VIEWERS.includes(kind)) return 'a viewer reads only: ask the lead for a technician’s role';
  switch (WHO[kind]) {
    case 'lead':
      return person.role === 'lead' ? null : 'only a lead may do this';
    case 'shipper':
      return person.role === 'lead' || person.role === 'shipper' ? null : 'only a lead or a shipper may do this';
    case 'competent':
      return person.competent ? null : 'an alarm is answered by a person trained to assess';
    default:
      return null;
  }
}
