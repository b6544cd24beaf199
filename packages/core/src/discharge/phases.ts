import type { CurveKey } from '../cell/curve';
import type { FamilyKey } from '../cell/family';
import { chargeFromRest } from '../pack/charge';
import { capacityFromRests } from '../pack/electric';
import { restOf } from '../pack/rest';
import type { Interval } from '../quantity/interval';
import { resolution } from '../quantity/uncertainty';
import { ACCURACY, COVERAGE, eachStep, loadOf, type LogResult, REST } from './measure';
import type { DischargeLog } from './read';

/** What is known of the cells a log was taken from: how many in series, and the curves they may follow. */
export interface Cells {
  readonly series: number;
  readonly curves: readonly CurveKey[];
  readonly families: readonly FamilyKey[];
}

/** What the parts of a log say: its rests, and of a charge the part at constant current and the part at constant voltage. */
export interface LogPhases {
  /** Capacity from the charge between the rest before and the rest after, Ah; null where one is missing, or they lie too near. */
  readonly restCapacityAh: Interval | null;
  /** Hours of a charge at constant current and at constant voltage; null of a discharge. */
  readonly charging: { readonly constantCurrent: number; readonly constantVoltage: number } | null;
  /** Loss at rest in mV a day and cell, of the longest rest; null where it was too short to tell. */
  readonly restDrift: Interval | null;
}

/** A run of rows without current, from one row to another. */
interface Rest {
  readonly from: number;
  readonly to: number;
}

function restsOf({ amperes, seconds }: DischargeLog, load: number): Rest[] {
  const out: Rest[] = [];
  let from = -1;
  for (let i = 0; i <= amperes.length; i++) {
    // A clock that turned back ends a rest: nobody knows how long it was.
    const rests = i < amperes.length && Math.abs(amperes[i]!) <= REST * load && (i === 0 || seconds[i]! >= seconds[i - 1]!);
    if (rests && from < 0) from = i;
    if (!rests && from >= 0) {
      out.push({ from, to: i - 1 });
      from = -1;
    }
  }
  return out;
}

/** Charge of full at the end of a rest, 0 to 1; null where it was too short. */
function chargeAfterRest(log: DischargeLog, rest: Rest, cells: Cells): Interval | null {
  const { rested, u } = restOf((log.seconds[rest.to]! - log.seconds[rest.from]!) / 60);
  if (!rested) return null;
  const volts = log.volts[rest.to]! / cells.series;
  const meter = (ACCURACY.voltsGain * volts) / COVERAGE;
  const one = Math.hypot(u, meter, resolution(log.steps.volts) / cells.series);
  const { lo, hi } = chargeFromRest(volts, one, cells.curves, cells.families);
  return { lo: lo / 100, hi: hi / 100 };
}

const middle = ({ lo, hi }: Interval): number => (lo + hi) / 2;
const half = ({ lo, hi }: Interval): number => (hi - lo) / 2;

/** Charge over what two rests lie apart (the sum and its uncertainty: `capacityFromRests`). */
function restCapacity(log: DischargeLog, r: LogResult, rests: readonly Rest[], cells: Cells): Interval | null {
  const [before, after] = [rests[0], rests[rests.length - 1]];
  if (!before || !after || before === after || before.from !== 0 || after.to !== log.seconds.length - 1) return null;
  const [z1, z2] = [chargeAfterRest(log, before, cells), chargeAfterRest(log, after, cells)];
  const flowed = middle(r.capacityAh);
  if (z1 === null || z2 === null || !(flowed > 0)) return null;
  const u = { charge: Math.max(half(z1), half(z2)) / COVERAGE, flow: half(r.capacityAh) / flowed / COVERAGE };
  const found = capacityFromRests(r.isCharge ? -flowed : flowed, middle(z1), middle(z2), u);
  // Rests that lie the wrong way round are no two rests of one pack.
  if (found === null || found.ampereHours <= 0) return null;
  const most = COVERAGE * found.relative * found.ampereHours;
  return { lo: Math.max(0, found.ampereHours - most), hi: found.ampereHours + most };
}

/** Of the largest current this much is still constant current; of the highest volts this much is still constant voltage. */
const CONSTANT = { current: 0.95, volts: 0.997 } as const;

function chargingOf(log: DischargeLog, load: number): LogPhases['charging'] {
  const top = log.volts.reduce((a, b) => Math.max(a, b), 0);
  let [constantCurrent, constantVoltage] = [0, 0];
  eachStep(log, (dt, _, amperes, __, volts) => {
    const size = Math.abs(amperes);
    if (size <= REST * load) return;
    if (size >= CONSTANT.current * load) constantCurrent += dt / 3600;
    else if (volts >= CONSTANT.volts * top) constantVoltage += dt / 3600;
  });
  return { constantCurrent, constantVoltage };
}

/** After a load cells settle for so long, and a loss shows only over so long, s. Common practice, no source. */
const SETTLING = 2 * 3600;
const LEAST_DRIFT = 12 * 3600;

function driftOf(log: DischargeLog, rests: readonly Rest[], series: number): Interval | null {
  const long = (r: Rest) => log.seconds[r.to]! - log.seconds[r.from]!;
  const longest = [...rests].sort((a, b) => long(b) - long(a))[0];
  if (!longest || long(longest) < SETTLING + LEAST_DRIFT) return null;
  let from = longest.from;
  while (log.seconds[from]! - log.seconds[longest.from]! < SETTLING) from += 1;
  const days = (log.seconds[longest.to]! - log.seconds[from]!) / 86_400;
  const perDay = ((log.volts[from]! - log.volts[longest.to]!) * 1000) / series / days;
  // One meter throughout: its gain is in both readings, what is left is the last digit of each.
  const u = (COVERAGE * Math.SQRT2 * resolution(log.steps.volts) * 1000) / series / days;
  return { lo: perDay - u, hi: perDay + u };
}

/** What rests and phases of a measured log say. @param cells null: not known; then only what does not need them. */
export function phasesOf(log: DischargeLog, r: LogResult, cells: Cells | null): LogPhases {
  const load = loadOf(log.amperes);
  const rests = restsOf(log, load);
  return {
    restCapacityAh: cells && cells.curves.length > 0 ? restCapacity(log, r, rests, cells) : null,
    charging: r.isCharge ? chargingOf(log, load) : null,
    restDrift: cells && driftOf(log, rests, cells.series),
  };
}
