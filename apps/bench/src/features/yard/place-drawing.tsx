import type { PlaceFacts } from '@gavrel/core';
import type { PlaceState } from '@gavrel/core/place';
import { View } from 'react-native';
import Svg, { G, Line, Rect, Text } from 'react-native-svg';
import { FIGURES_BOLD, useTokens, WORDS } from '../../theme';
import { Words } from '../../ui/words';

type Box = NonNullable<PlaceFacts['box']>;

/**
 * One room to scale: every place as a box, filled as far as it is full, with a metre as the scale.
 * @param tall most height, px. @param across the width at which its words have their size, px. @param current the place that is open. @param onOpen a tap on a box; the list beside it is the way by keyboard.
 */
export function RoomDrawing({
  room,
  places,
  tall = 320,
  across = 340,
  current,
  onOpen,
}: {
  room: string;
  places: readonly PlaceState[];
  tall?: number;
  across?: number;
  current?: string | undefined;
  onOpen?: (id: string) => void;
}) {
  const t = useTokens();
  const drawn = places.flatMap((p) => (p.place.box ? [{ state: p, box: p.place.box as Box }] : []));
  if (drawn.length === 0) return null;
  const w = Math.max(...drawn.map((d) => d.box.x + d.box.width)) + 0.3;
  const h = Math.max(...drawn.map((d) => d.box.y + d.box.depth)) + 0.9;
  const k = across / w;
  const said = drawn.map((d) => `${d.state.place.name}, ${d.state.items.length}`).join('; ');
  return (
    <View role="img" aria-label={`${room}, to scale: ${said}`} style={{ maxWidth: tall > 320 ? 900 : 520 }}>
      <Svg
        width="100%"
        height={tall > 320 ? undefined : Math.min(tall, h * k)}
        viewBox={`0 0 ${w * k} ${h * k}`}
        style={{ maxHeight: tall }}
      >
        {drawn.map(({ state, box }) => {
          const fill = Math.min(1, state.fill ?? 0);
          const trouble = state.over.length > 0 || state.wrong.length > 0;
          const [x, y, bw, bh] = [box.x * k, box.y * k, box.width * k, box.depth * k];
          return (
            <G
              key={state.place.id}
              {...(onOpen && ({ onClick: () => onOpen(state.place.id), style: { cursor: 'pointer' } } as object))}
            >
              <Rect
                x={x}
                y={y}
                width={bw}
                height={bh}
                fill={current === state.place.id ? t.wash : t.card}
                stroke={current === state.place.id ? t.accent : t.ink}
                strokeWidth={trouble ? 4 : 1.5}
                strokeDasharray={current === state.place.id ? '7 4' : undefined}
              />
              <Rect x={x} y={y + bh * (1 - fill)} width={bw} height={bh * fill} fill={t.line} />
              <Text x={x + bw / 2} y={y + bh / 2 + 5} fontSize={15} fontFamily={FIGURES_BOLD} fill={t.ink} textAnchor="middle">
                {String(state.items.length)}
              </Text>
              <Text
                x={box.x > w / 2 ? x + bw : x}
                y={y + bh + 14}
                fontSize={12}
                fontFamily={WORDS}
                fill={t.ink}
                textAnchor={box.x > w / 2 ? 'end' : 'start'}
              >
                {state.place.name}
              </Text>
            </G>
          );
        })}
        <Line x1={2} x2={2 + k} y1={h * k - 6} y2={h * k - 6} stroke={t.ink} strokeWidth={3} />
        <Text x={8 + k} y={h * k - 2} fontSize={12} fontFamily={WORDS} fill={t.ink}>
          1 m
        </Text>
      </Svg>
      <Words size={14} soft>
        {`Filled as far as its tightest limit; a thick frame means something is not in order${current ? ', a broken one is open here' : ''}.`}
      </Words>
    </View>
  );
}
