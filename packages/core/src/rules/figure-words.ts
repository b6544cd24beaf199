/** What the figures of a rule are called, with their units; # stands for the figure. */
const WORDS: Readonly<Record<string, string>> = {
  cargoKg: 'cargo aircraft # kg',
  passengerKg: 'passenger aircraft # kg',
  cargoLabelKg: 'cargo label above # kg',
  kg: '# kg a package',
  sets: '# sets',
  percent: '# % charge',
  grossKg: '# kg gross',
  netKg: '# kg net',
  unitKg: '# kg a transport unit',
  textNetKg: 'text above # kg net',
  cellWh: 'cell # Wh',
  batteryWh: 'battery # Wh',
  cellG: 'cell # g lithium',
  batteryG: 'battery # g lithium',
  cells: '# cells',
  batteries: '# batteries',
  packages: '# packages',
  packs: '# pack',
  exemptWh: 'free up to # Wh',
  batteryAboveV: 'battery above # V',
  sinceYear: 'made since #',
  afterYear: 'made after #',
  massKg: '# kg',
  whPerKg: '# Wh a kg',
  recordYears: 'records kept # years',
  years: '# year',
  cobalt: 'cobalt # %',
  lithium: 'lithium # %',
  litres: '# litres',
  metres: '# m apart',
  combustible: '# m to what burns',
  squareMetres: '# m²',
  height: '# m high',
  far: '# m from the building',
  points: '# points a vehicle',
  packageKg: '# kg gross a packaging',
  vehicleKg: '# kg gross a vehicle',
  freeWh: 'up to # Wh freely',
  approvalWh: 'up to # Wh with approval',
  spares: '# spares',
};

/**
 * The figures of a rule in words with their units: "cargo aircraft 35 kg, passenger aircraft 5 kg".
 * @throws Error for a figure that has no words.
 */
export function figureWords(figures: Readonly<Record<string, number>>): string {
  return Object.entries(figures)
    .map(([name, figure]) => {
      const words = WORDS[name];
      if (words === undefined) throw new Error(`the figure ${name} has no words`);
      return words.replace('#', String(figure));
    })
    .join(', ');
}
