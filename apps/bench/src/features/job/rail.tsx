import type { Station, Stop } from '@gavrel/core';
import { useEffect, useRef } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import Svg, { Circle, Line, Path } from 'react-native-svg';
import { useTokens } from '../../theme';
import { Words } from '../../ui/words';

const STEP = 66;

function Notch({ stop, here }: { stop: Stop; here: boolean }) {
  const t = useTokens();
  const mark = {
    done: <Circle cx={33} cy={20} r={8} fill={t.ink} />,
    skipped: <Path d="M25 28 L41 12" stroke={t.ink} strokeWidth={3} />,
    owed: (
      <>
        <Circle cx={33} cy={20} r={8} fill={t.card} stroke={t.ink} strokeWidth={2.5} />
        <Path d="M33 14 V20 H38" stroke={t.ink} strokeWidth={2.5} fill="none" />
      </>
    ),
    next: <Path d="M33 8 l12 12 l-12 12 l-12 -12 Z" fill={t.accent} />,
    open: <Circle cx={33} cy={20} r={7} fill={t.card} stroke={t.ink} strokeWidth={2.5} />,
  }[stop.state];
  return (
    <Svg width={STEP} height={40} viewBox="0 0 66 40" aria-hidden>
      <Line x1={0} x2={66} y1={20} y2={20} stroke={t.line} strokeWidth={2} />
      {[5, 16, 27, 38, 49, 60].map((x) => (
        <Line key={x} x1={x} x2={x} y1={20} y2={x === 5 ? 30 : 26} stroke={t.line} strokeWidth={1} />
      ))}
      {mark}
      {here ? <Line x1={4} x2={62} y1={38} y2={38} stroke={t.ink} strokeWidth={4} /> : null}
    </Svg>
  );
}

/** The job as a ruler with notches; done, skipped, owed and next are told by shape. Every stop can be visited at any time. */
export function Rail({ stops, here, onGo }: { stops: readonly Stop[]; here: Station; onGo: (s: Station) => void }) {
  const scroll = useRef<ScrollView>(null);
  const at = stops.findIndex((s) => s.station === here);
  useEffect(() => {
    scroll.current?.scrollTo({ x: Math.max(0, (at - 2) * STEP), animated: false });
  }, [at]);
  return (
    <ScrollView
      ref={scroll}
      horizontal
      showsHorizontalScrollIndicator={false}
      style={{ flexGrow: 0 }}
      role="tablist"
      aria-label="Stations"
    >
      {stops.map((s) => (
        <Pressable
          key={s.station}
          role="tab"
          aria-selected={s.station === here}
          aria-label={`${s.station}, ${s.state}`}
          onPress={() => onGo(s.station)}
          testID={`station-${s.station}`}
          style={{ width: STEP, minHeight: 64, alignItems: 'center' }}
        >
          <Notch stop={s} here={s.station === here} />
          <Words size={14} bold={s.station === here || s.state === 'next'}>
            {s.station}
          </Words>
        </Pressable>
      ))}
      <View style={{ width: 8 }} />
    </ScrollView>
  );
}
