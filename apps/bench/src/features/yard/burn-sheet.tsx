import { parseDigits } from '@gavrel/core';
import { HF_IDLH, minutesToAir, roomBurn } from '@gavrel/core/care';
import { useState } from 'react';
import { Field } from '../../ui/field';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';

const number = (typed: string): number | null => {
  const digits = parseDigits(typed);
  return digits === null ? null : Number(digits);
};
const round = (x: number) => (x < 10 ? x.toFixed(1) : Math.round(x).toString());

/** What one burning pack would do to a room: for choosing a room and persuading people, never while something burns. */
export function BurnSheet({ onClose }: { onClose: () => void }) {
  const [wattHours, setWattHours] = useState('50');
  const [metres, setMetres] = useState('60');
  const [wh, m3] = [number(wattHours), number(metres)];
  const burn = wh !== null && m3 !== null && wh >= 0 && m3 > 0 ? roomBurn(wh, m3) : null;
  return (
    <Sheet title="One pack burning" onClose={onClose}>
      <Words bold size={20}>
        Leave, do not calculate.
      </Words>
      <Words>This is for planning a room. Real rooms mix badly: near the fire it is 3 to 10 times worse.</Words>
      <Field label="Energy of the pack, Wh" value={wattHours} onChange={setWattHours} testID="burn-wh" />
      <Field label="Room, m³" value={metres} onChange={setMetres} testID="burn-room" />
      {burn ? (
        <>
          <Figures bold size={20} testID="burn-ppm">{`${round(burn.ppm.lo)} to ${round(burn.ppm.hi)} ppm HF`}</Figures>
          <Words>{`Hydrogen fluoride, mixed evenly, no air change. Dangerous to life at once from ${HF_IDLH} ppm.`}</Words>
          <Words>{`To stay under that the room would need ${round(burn.cubicMetres.lo)} to ${round(burn.cubicMetres.hi)} m³.`}</Words>
          <Words>{`Up to ${round(burn.gasLitres)} litres of gas that burns: a cabinet or room under ${round(burn.gasCubicMetres)} m³ can fill to more than a quarter of its lower explosion limit.`}</Words>
          <Words>{`Heat: ${round(burn.heat.lo / 1000)} to ${round(burn.heat.hi / 1000)} MJ.`}</Words>
          {burn.ppm.hi > 3 ? (
            <Words>{`At 6 air changes an hour it takes ${round(minutesToAir(burn.ppm.hi, 3, 6))} minutes from the upper figure down to 3 ppm.`}</Words>
          ) : null}
        </>
      ) : (
        <Words bold>Write a number above 0 in both fields.</Words>
      )}
      <Words size={14} soft>
        20 to 200 mg HF for each Wh, up to 2.5 l of gas for each Ah of a cell, 1.5 to 21 times its electrical energy as heat:
        published burns; IDLH of NIOSH; all from memory. The fire service decides who goes back in.
      </Words>
    </Sheet>
  );
}
