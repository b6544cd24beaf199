import { type Interval, parseDigits, value } from '@gavrel/core';
import { BadLog, decodeLog, measureLog, phasesOf, type Rated, readLog } from '@gavrel/core/discharge';
import { Trouble } from './common';
import { inputBytes } from './input';

const UNITS = ['mAh', 'Ah', 'mWh', 'Wh'] as const;

/** "4386 mAh" or "50 Wh", as it stands on the label. */
function ratedOf(text: string): Rated {
  const [, typed = '', unit = ''] = /^\s*([\d.,]+)\s*(mAh|Ah|mWh|Wh)\s*$/i.exec(text) ?? [];
  const known = UNITS.find((u) => u.toLowerCase() === unit.toLowerCase());
  const digits = parseDigits(typed);
  if (!known || digits === null || !(Number(digits) > 0))
    throw new Trouble(`--rated "${text}" is no capacity: write it as "4386 mAh" or "50 Wh"`);
  const x = value({ digits, unit: known });
  return known.endsWith('Ah') ? { ampereHours: x } : { wattHours: x };
}

function option(args: readonly string[], name: string): string | undefined {
  const at = args.findIndex((a) => a === name || a.startsWith(`${name}=`));
  if (at < 0) return undefined;
  const given = args[at]!.includes('=') ? args[at]!.slice(name.length + 1) : args[at + 1];
  if (given === undefined) throw new Trouble(`${name} needs a value`);
  return given;
}

const digits = (x: number): number => Number(x.toPrecision(7));
const pair = (i: Interval | null): readonly [number, number] | null => (i ? [digits(i.lo), digits(i.hi)] : null);

/** Measures a discharge log and writes one JSON object. */
export function main(args: readonly string[], write: (text: string) => void): void {
  const [rated, cells] = [option(args, '--rated'), option(args, '--cells')];
  if (cells !== undefined && !/^([1-9]|1\d|20)$/.test(cells.trim()))
    throw new Trouble(`--cells ${cells} is no number of cells in series: 1 to 20`);
  // What belongs to an option is no file.
  const files = args.filter((_a, i) => !['--rated', '--cells'].includes(args[i - 1] ?? '') || i === 0);
  try {
    const log = readLog(decodeLog(inputBytes(files, 'log')));
    const series = cells === undefined ? undefined : Number(cells);
    const r = measureLog(log, rated === undefined ? {} : ratedOf(rated), series);
    const phases = phasesOf(log, r, series === undefined ? null : { series, curves: [], families: [] });
    const told = {
      ...r,
      capacityAh: pair(r.capacityAh),
      energyWh: pair(r.energyWh),
      resistanceOhm: pair(r.resistanceOhm),
      celsius: pair(r.celsius),
      resistance25Ohm: pair(r.resistance25Ohm),
      fullCycles: pair(r.fullCycles),
      meanAmperes: digits(r.meanAmperes),
      healthPercent: pair(r.healthPercent),
      charging: phases.charging && {
        constantCurrentHours: digits(phases.charging.constantCurrent),
        constantVoltageHours: digits(phases.charging.constantVoltage),
      },
      restDriftMillivolts: pair(phases.restDrift),
    };
    write(`${JSON.stringify(told)}\n`);
  } catch (e) {
    throw e instanceof BadLog ? new Trouble(e.message) : e;
  }
}
