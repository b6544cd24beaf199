import type { IncidentFacts, IncidentSort, PlaceFacts } from '@gavrel/core';

export const SORT_WORDS: Record<IncidentSort, string> = {
  fire: 'fire',
  smoke: 'smoke',
  heat: 'getting hot',
  leak: 'leaking',
  water: 'water on packs',
};

/** "Smoke, fire in Quarantine box A". */
export function incidentWords(i: IncidentFacts, places: Readonly<Record<string, PlaceFacts>>): string {
  const what = i.what.map((w) => SORT_WORDS[w]).join(', ');
  const where = i.places.map((p) => places[p]?.name ?? 'a place').join(', ');
  return `${what.charAt(0).toUpperCase()}${what.slice(1)}${where ? ` in ${where}` : ''}`;
}
