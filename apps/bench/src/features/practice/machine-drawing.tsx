import type { TrueMachine } from '@gavrel/core/practice';
import { View } from 'react-native';
import Svg, { Line, Path } from 'react-native-svg';
import { useTokens } from '../../theme';

const W = 340;
const H = 110;
/** Left and right edge, table, underside, seam, keyboard deck and lid of a closed notebook in side view. */
const [L, R, TABLE, UNDER, SEAM, DECK, LID] = [24, 316, 98, 84, 72, 52, 44];
const MIDDLE = (L + R) / 2;

/** What of it was looked at. */
interface Seen {
  /** Laid flat on the table. */
  readonly hands: boolean;
  /** Looked at from all sides. */
  readonly eyes: boolean;
}

const partsOf = ({ hands, eyes }: TrueMachine, seen: Seen): string[] => [
  ...(seen.hands ? [`lid ${hands.lid}`, `base ${hands.base}`] : []),
  ...(seen.eyes ? [`keyboard ${eyes.keyboard}`, `trackpad ${eyes.trackpad}`, `seam ${eyes.seam}`] : []),
];

/**
 * A closed notebook from the side, as far as it was looked at: what nobody looked at is drawn dashed and straight, whatever it truly is. A
 * bulge is drawn larger than life.
 */
export function MachineDrawing({ machine, seen }: { machine: TrueMachine; seen: Seen }) {
  const t = useTokens();
  const { hands, eyes } = machine;
  const lifted = seen.hands && hands.lid === 'not flush' ? 9 : 0;
  const rocks = seen.hands && hands.base === 'rocks' ? TABLE - UNDER : 0;
  const bump = seen.eyes && eyes.keyboard === 'uneven' ? 12 : 0;
  const gap = seen.eyes && eyes.seam === 'gapes' ? 7 : 0;
  const wedge = seen.eyes && eyes.trackpad === 'stiff' ? 5 : 0;
  const line = (looked: boolean) => ({
    stroke: t.ink,
    strokeWidth: 2.5,
    fill: 'none',
    ...(!looked && { strokeDasharray: '5 4' }),
  });
  const parts = partsOf(machine, seen);
  return (
    <View
      role="img"
      aria-label={parts.length > 0 ? `from the side: ${parts.join(', ')}` : 'a closed notebook, not looked at yet'}
      style={{ width: '100%', maxWidth: W, aspectRatio: W / H, alignSelf: 'center' }}
      testID="machine-drawing"
    >
      <Svg width="100%" height="100%" viewBox={`0 0 ${W} ${H}`} aria-hidden>
        <Line x1={4} x2={W - 4} y1={TABLE} y2={TABLE} stroke={t.line} strokeWidth={2} />
        {/* The lid on its hinge, at the left. */}
        <Path d={`M${L} ${DECK} L${L} ${LID} L${R} ${LID - lifted} L${R} ${DECK - 2 - lifted} Z`} {...line(seen.hands)} />
        {/* The deck: keys over the pack rise, a stiff trackpad stands out at the front. */}
        <Path
          d={`M${L} ${DECK} Q${MIDDLE} ${DECK - 2 * bump} ${R - 70} ${DECK} L${R - 62} ${DECK - wedge} L${R - 20} ${DECK - wedge} L${R} ${DECK}`}
          {...line(seen.eyes)}
        />
        <Path d={`M${L} ${DECK} L${L} ${SEAM} M${R} ${DECK} L${R} ${SEAM}`} {...line(seen.eyes)} />
        {/* The base cover below its seam; what pushes it out makes it rock. */}
        <Path d={`M${L} ${SEAM} L${R} ${SEAM}`} {...line(seen.eyes)} strokeWidth={1.5} />
        <Path
          d={`M${L} ${SEAM} L${L} ${UNDER} Q${MIDDLE} ${UNDER + 2 * rocks} ${R} ${UNDER} L${R} ${SEAM + gap}${gap > 0 ? ` L${R - 90} ${SEAM + 2}` : ''}`}
          {...line(seen.hands || gap > 0)}
        />
        <Path
          d={
            rocks > 0
              ? `M${MIDDLE - 5} ${TABLE} L${MIDDLE + 5} ${TABLE}`
              : `M${L + 16} ${UNDER} L${L + 16} ${TABLE} M${R - 16} ${UNDER} L${R - 16} ${TABLE}`
          }
          {...line(seen.hands)}
        />
      </Svg>
    </View>
  );
}
