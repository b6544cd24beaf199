import { type AskedRoute, type CellWord, isDay, type Region, REGION_RULES, REGIONS } from '@gavrel/core';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../state';
import { regionChosen } from '../state/view';
import { TARGET, useTokens } from '../theme';
import { Asked } from '../ui/asked';
import { Field } from '../ui/field';
import { Choice } from '../ui/buttons';
import { useShownText } from '../ui/display';
import { Words } from '../ui/words';

/** Each word has a mark of its own, so that nobody needs colours. */
export const MARK: Record<CellWord, string> = { yes: '○', split: '◫', 'as damaged': '△', hold: '…', approval: '✎', no: '×' };

export const MODE_ROWS = [
  ['road', 'road'],
  ['rail', 'rail'],
  ['sea', 'sea'],
  ['air-cargo', 'cargo aircraft'],
  ['air-passenger', 'passenger aircraft'],
] as const;
const COLUMNS = [
  ['loose', 'use', 'loose'],
  ['with-equipment', 'use', 'with equipment'],
  ['in-equipment', 'use', 'in equipment'],
  ['loose', 'recycling', 'to recycling'],
] as const;
export const REGION_WORDS = Object.fromEntries(REGIONS.map((r) => [r, REGION_RULES[r].words])) as Record<Region, string>;
export const REGION_CHOICES = REGIONS.filter((r) => r !== 'international');

/** What one cell shows: its word, and how many of the packs go where not all share one. */
export interface Shown extends AskedRoute {
  readonly word: CellWord;
  readonly some?: string;
}

/** Five modes down, four ways to send across; each cell a word and its mark. */
export function RouteTable<C extends Shown>({
  cells,
  label,
  onOpen,
}: {
  cells: readonly C[];
  label: string;
  onOpen: (cell: C, title: string) => void;
}) {
  const t = useTokens();
  const shown = useShownText();
  return (
    <View role="table" aria-label={shown(label)}>
      <View role="row" style={{ flexDirection: 'row' }}>
        <View role="columnheader" style={{ flex: 1.02 }}>
          <Words size={14} soft>
            by
          </Words>
        </View>
        {COLUMNS.map(([, , words]) => (
          <View key={words} role="columnheader" style={{ flex: 1, justifyContent: 'flex-end' }}>
            <Words size={14} soft style={{ textAlign: 'center' }}>
              {words}
            </Words>
          </View>
        ))}
      </View>
      {MODE_ROWS.map(([mode, modeWords]) => (
        <View key={mode} role="row" style={{ flexDirection: 'row', borderTopWidth: 1, borderColor: t.line }}>
          <View role="rowheader" style={{ flex: 1.02, justifyContent: 'center' }}>
            <Words size={14}>{modeWords}</Words>
          </View>
          {COLUMNS.map(([placement, purpose, words]) => {
            const cell = cells.find((c) => c.mode === mode && c.placement === placement && c.purpose === purpose)!;
            const no = cell.word === 'no';
            const title = `${words}, ${modeWords}`;
            return (
              <View key={words} role="cell" style={{ flex: 1 }}>
                <Pressable
                  role="button"
                  aria-label={[`${title}: ${cell.word}`, cell.some].filter(Boolean).join(', ')}
                  onPress={() => onOpen(cell, title)}
                  testID={`cell-${mode}-${placement}-${purpose}`}
                  style={{
                    minHeight: TARGET + 6,
                    alignItems: 'center',
                    justifyContent: 'center',
                    backgroundColor: cell.word === 'yes' ? 'transparent' : no ? t.ink : t.wash,
                    margin: 1,
                  }}
                >
                  <Words bold size={17} color={no ? t.ground : t.ink}>
                    {MARK[cell.word]}
                  </Words>
                  <Words size={14} color={no ? t.ground : t.ink} style={{ textAlign: 'center' }}>
                    {cell.some ?? cell.word}
                  </Words>
                </Pressable>
              </View>
            );
          })}
        </View>
      ))}
    </View>
  );
}

/**
 * Whose rules of road and rail, and which day of dispatch. A day that cannot be, or that lies before what was last said of a pack, is
 * refused, never taken as today.
 * @param last the newest day on record of what is to be sent.
 */
export function useAsked(today: string, last?: string) {
  const region = useAppSelector((s) => s.view.region);
  const [day, setDay] = useState('');
  const typed = day.trim();
  const trouble =
    typed === ''
      ? null
      : !isDay(typed)
        ? `"${typed}" is no day of the calendar: write it as YYYY-MM-DD, or leave it empty for ${today}.`
        : last !== undefined && typed < last
          ? `${typed} lies before ${last}, when something was last noted here: a dispatch lies after it.`
          : null;
  const on = typed !== '' && trouble === null ? typed : today;
  return { region, on, day, setDay, trouble };
}

export function AskedKeys({ asked, today }: { asked: ReturnType<typeof useAsked>; today: string }) {
  const dispatch = useAppDispatch();
  return (
    <>
      <Words size={15} soft>
        Rules of road and rail
      </Words>
      <Choice
        label="Rules of road and rail"
        options={REGION_CHOICES}
        words={REGION_WORDS}
        value={asked.region}
        onChange={(r) => dispatch(regionChosen(r))}
      />
      <Field label={`Another day of dispatch than ${today}`} value={asked.day} onChange={asked.setDay} testID="dispatch-on" />
      <Asked words={asked.trouble} />
    </>
  );
}
