import { findingOf, type LoggedEntry, show } from '@gavrel/core';

/** What an eye, a nose or a hand meets, without the name it has on record. Common practice, no source. */
const SIGHTS: Readonly<Record<string, string>> = {
  'cell-dented': 'One cell is dented: a nail’s width deep, with a crease.',
  punctured: 'A hole in the wrapper, and bright metal in it.',
  leaked: 'A dry, whitish crust along the seam.',
  smell: 'A sweetish smell, like nail varnish.',
  swollen: 'It rocks on the table: its face stands up in the middle.',
  hissing: 'It hisses.',
};

type Reading = Extract<LoggedEntry, { kind: 'reading-taken' }>['body'];

function readingShown({ quantity, point, figure, restMinutes }: Reading): string {
  const shown = show(figure);
  const rest =
    restMinutes === undefined ? '' : restMinutes < 60 ? `, ${restMinutes} min of rest` : `, ${restMinutes / 60} h of rest`;
  switch (quantity) {
    case 'pack-voltage':
      return `The meter shows ${shown} over the whole pack${rest}`;
    case 'cell-voltage':
      return `The meter shows ${shown} over cell ${point}${rest}`;
    case 'mass':
      return `The scale shows ${shown}`;
    case 'room-temperature':
      return `The probe shows ${shown} in the air`;
    case 'surface-temperature':
      return `The probe shows ${shown} on its case${rest}`;
    case 'new-thickness':
      return `Its data sheet says ${shown} when new`;
    case 'thickness':
      return `The calliper shows ${shown}${point ? ` at ${point}` : ''}`;
  }
}

/** What an action shows, before anybody gave it a name or wrote it down. */
export function shownWords(e: LoggedEntry): string[] {
  switch (e.kind) {
    case 'reading-taken':
      return [readingShown(e.body)];
    case 'label-read': {
      const { nominalVoltage: v, ratedCapacity: c, ratedEnergy: w, limitedChargeVoltage: l, chemistry } = e.body;
      return [`On the label: ${[...[v, c, w, l].flatMap((f) => (f ? show(f) : [])), chemistry].filter(Boolean).join(', ')}`];
    }
    case 'gauge-read': {
      const { designCapacity: d, fullChargeCapacity: f, permanentFailure } = e.body;
      return [
        `The screen says: design ${d ? show(d) : '?'}, full ${f ? show(f) : '?'}`,
        ...(permanentFailure ? ['The screen says: permanent failure, yes'] : []),
      ];
    }
    case 'finding-recorded':
      return [SIGHTS[e.body.code] ?? findingOf(e.body.code)?.words ?? e.body.code];
    case 'looked':
      return ['Nothing else to be seen, felt, heard or smelled.'];
    default:
      return [];
  }
}
