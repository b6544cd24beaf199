import { CONDITIONS, type SiteCard } from '@gavrel/core';
import { energyByRoom, type PlaceState } from '@gavrel/core/place';
import type { ReportPaper } from '../../paper/draw';
import { energyWords, packsWord } from '../../stock/place-words';

const surround = ({ place }: PlaceState) =>
  [
    place.fill && place.fill !== 'none' && `in ${place.fill}`,
    place.outdoors && 'outdoors',
    place.near?.burns !== undefined && `${place.near.burns} m to what burns`,
    place.near?.exit !== undefined && `${place.near.exit} m to the way out`,
  ]
    .filter(Boolean)
    .join(', ');

/**
 * What lies where, for the fire service at the door: rooms, places, energy and condition, the most dangerous first.
 * @param part what is said where the device that prints it does not know everything.
 */
export function firePaper(
  yard: readonly PlaceState[],
  incidents: readonly string[],
  apart: string,
  site: SiteCard | null,
  workshop: string,
  at: string,
  part: string | null = null,
): ReportPaper {
  const total = yard.reduce((sum, p) => sum + p.load.wattHours, 0);
  const unknown = yard.reduce((sum, p) => sum + p.load.unknown.wattHours, 0);
  return {
    workshop,
    title: 'Sheet for the fire service',
    owner: '',
    date: at,
    sections: [
      {
        title: 'Call',
        lines: site
          ? [`Emergency: ${site.emergencyNumber}`, `Assembly point: ${site.assemblyPoint}`, `Call first: ${site.callFirst}`]
          : ['The site card is not filled in.'],
      },
      {
        title: 'Lithium battery packs on their places',
        lines: [
          ...(part === null ? [] : [part]),
          `${packsWord(yard.reduce((n, p) => n + p.items.length, 0))}, ${energyWords(total, unknown)} declared when full`,
        ],
      },
      ...(incidents.length > 0 ? [{ title: 'Not over', lines: [...incidents] }] : []),
      ...energyByRoom(yard).map((room) => ({
        title: `${room.room}: ${energyWords(room.wattHours, room.unknown)}`,
        lines: yard
          .filter((p) => (p.place.room ?? p.place.name) === room.room && p.items.length > 0)
          .map((p) => {
            const of = [...CONDITIONS]
              .reverse()
              .flatMap((c) => {
                const n = p.items.filter((i) => i.condition === c).length;
                return n > 0 ? [`${n} ${c}`] : [];
              })
              .join(', ');
            return [`${p.place.name}: ${of}; ${energyWords(p.load.wattHours, p.load.unknown.wattHours)}`, surround(p)]
              .filter(Boolean)
              .join('; ');
          }),
      })),
      { title: 'In machines and in hand', lines: [apart] },
      {
        title: 'They can',
        lines: [
          'burn again hours or days later; give off toxic and flammable gas; throw parts.',
          'Damaged ones are kept apart and watched.',
        ],
      },
    ],
    foot: 'From what was written down until then. The fire service decides.',
  };
}
