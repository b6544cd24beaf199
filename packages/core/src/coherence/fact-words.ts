import { QUESTION_WORDS } from '../logbook/answer-words';

/** Facts by their names in a row, in the words of the trade. */
const WORDS: Readonly<Record<string, string>> = {
  ...QUESTION_WORDS,
  chemistry: 'chemistry',
  nominalVoltage: 'nominal voltage',
  ratedCapacity: 'rated capacity',
  ratedEnergy: 'rated energy',
  limitedChargeVoltage: 'limited charge voltage',
  designation: 'cell designation',
  series: 'cells in series',
  parallel: 'cells in parallel',
  energyMarked: 'watt-hours printed on the case',
  madeOn: 'date of manufacture',
  lithiumContent: 'lithium content',
  buttonCell: 'button cell or not',
  typeTested: 'UN 38.3 test summary',
  stateOfCharge: 'charge',
  mass: 'mass of one pack',
  findings: 'findings',
  cleared: 'what was cleared',
  conditionKnown: 'whether somebody looked',
  makerCleared: 'the maker’s word on the recall',
  placement: 'loose, with or in equipment',
  purpose: 'what it is sent for',
  incident: 'the end of the incident',
  packVolts: 'pack voltage',
  cellVolts: 'cell voltages',
  gauge: 'gauge',
  mode: 'mode of transport',
  region: 'region',
  on: 'day of dispatch',
  packs: 'packs in the package',
  equipment: 'machines in the package',
  packsPerEquipment: 'packs a machine takes',
  fittedPacks: 'packs fitted',
  netKg: 'net weight',
  grossKg: 'gross weight',
  packages: 'packages in the consignment',
  collectionScheme: 'whether a collection scheme takes it',
  household: 'whether it comes from households',
  mainPower: 'whether the battery is the main power',
  netKgTransportUnit: 'net weight in the vehicle',
  swelling: 'what growth the workshop allows',
  innerCellLimit: 'whether single cells have a limit of their own',
};

/**
 * A fact in words: "packs in the package" for `package.packs`. A name nobody wrote down is still read as words, never shown as a name of a
 * program.
 */
export function factWords(name: string): string {
  const last = name.split('.').pop()!;
  return (
    WORDS[last] ?? last.replace(/[-_]/g, ' ').replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`)
  );
}
