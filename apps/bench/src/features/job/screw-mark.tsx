import { type Screw, value } from '@gavrel/core';
import { Circle, G, Line, Path } from 'react-native-svg';

/** Words of a screw, for those who listen. */
export function screwWords(s: Screw): string {
  return [
    `screw ${s.id}`,
    s.thread,
    s.length && `${value(s.length)} mm`,
    s.drive,
    s.captive && 'captive',
    s.hidden && `under ${s.hidden}`,
    s.holds === 'pack' ? 'holds the pack' : s.holds === 'both' ? 'shared with the pack' : null,
    s.state,
  ]
    .filter(Boolean)
    .join(', ');
}

/** One screw as a line drawing: head with its drive, length as ticks (one a millimetre), ring when captive, dashes when hidden. */
export function ScrewMark({
  s,
  x,
  y,
  ink,
  ground,
  picked,
}: {
  s: Screw;
  x: number;
  y: number;
  ink: string;
  ground: string;
  picked: boolean;
}) {
  const ticks = s.length ? Math.min(12, Math.round(value(s.length))) : 0;
  const lobes = s.drive?.startsWith('T');
  const gone = s.state === 'missing';
  return (
    <G x={x} y={y}>
      {picked ? <Circle r={13} fill="none" stroke={ink} strokeWidth={1.5} /> : null}
      {s.captive ? <Circle r={10.5} fill="none" stroke={ink} strokeWidth={1.2} /> : null}
      <Circle
        r={7}
        fill={gone ? ground : s.state === 'stripped' ? ink : ground}
        stroke={ink}
        strokeWidth={s.holds === 'pack' || s.holds === 'both' ? 3.2 : 1.8}
        strokeDasharray={s.hidden || gone ? '3 2.2' : undefined}
      />
      {gone ? null : lobes ? (
        <Path d="M0 -3.6 L3.1 -1.8 L3.1 1.8 L0 3.6 L-3.1 1.8 L-3.1 -1.8 Z" fill="none" stroke={ink} strokeWidth={1.3} />
      ) : s.state === 'stripped' ? (
        <Circle r={2.6} fill={ground} />
      ) : (
        <Path d="M-3.6 0 H3.6 M0 -3.6 V3.6" stroke={ink} strokeWidth={1.4} />
      )}
      {Array.from({ length: ticks }, (_, i) => (
        <Line key={i} x1={-3} x2={3} y1={9.5 + i * 2} y2={9.5 + i * 2} stroke={ink} strokeWidth={1} />
      ))}
    </G>
  );
}
