import type { IncidentSort } from '../logbook/entry';
import type { InIncident } from '../logbook/fold-incident';
import type { Statement } from '../logbook/fold';
import type { MeasuredFinding } from './findings';

/** What happened, as a finding on the pack it came from. */
export const INCIDENT_CODES: Record<IncidentSort, string> = {
  smoke: 'smoke',
  fire: 'flame',
  heat: 'hot',
  leak: 'leaking',
  water: 'immersed',
};

/**
 * What incidents say of a pack: the source has the finding itself, and so has every pack while nobody said which one it was;
 * what lay beside it was exposed and must be examined. A false alarm says nothing any more.
 */
export const incidentFindings = (incidents: readonly Statement<InIncident>[]): MeasuredFinding[] =>
  incidents
    .filter((i) => !i.body.falseAlarm)
    .map((i) => ({ code: i.body.source === false ? 'in-incident' : INCIDENT_CODES[i.body.what], entries: [i.id] }));
