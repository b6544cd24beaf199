import { DEFAULT_POLICY, foldPack, type Limit, type LoggedEntry, rule } from '@gavrel/core';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { ReactElement } from 'react';
import { Provider } from 'react-redux';
import { makeStore } from '../state';
import { ThemeProvider } from '../theme';
import { Choice, Button } from './buttons';
import { LimitScale } from './limit-scale';
import { PackDrawing } from './pack-drawing';
import { PreviewStrip, RulingStrip } from './ruling-strip';

afterEach(cleanup);

const PACK = 'b0000000-0000-4000-8000-000000000001';
const NOW = new Date('2026-11-25T12:00:00Z');
const base = {
  v: 1,
  workshop: 'w',
  at: '2026-11-25T08:00:00.000Z',
  tz: 'UTC',
  by: 'p',
  device: 'd',
  hazard: false,
  seq: null,
  recordedAt: null,
  effectiveAt: null,
};
const ruling = (...more: object[]) =>
  rule(
    foldPack(PACK, [
      { ...base, id: '1', subjects: [`pack:${PACK}`], kind: 'pack-added', body: { tag: 'P-1', use: 'removed' } },
      ...more.map((m, i) => ({ ...base, id: String(i + 2), subjects: [`pack:${PACK}`], ...m })),
    ] as LoggedEntry[])!,
    DEFAULT_POLICY,
    NOW,
    '2026-11-25',
  );
const show = (e: ReactElement) =>
  render(
    <Provider store={makeStore()}>
      <ThemeProvider>{e}</ThemeProvider>
    </Provider>,
  );

const limit = (more: Partial<Limit>): Limit => ({
  id: 'x',
  label: 'growth at centre',
  unit: '%',
  value: 4.4,
  u: 1.6,
  limit: 5,
  side: 'max',
  verdict: 'cannot tell',
  beyond: 'swollen',
  between: 'unproven',
  perReading: 0.05,
  readingUnit: 'mm',
  decimals: 2,
  nature: 'observation',
  ...more,
});

describe('the ruling strip', () => {
  test('says word, order, way and why', () => {
    show(<RulingStrip ruling={ruling({ kind: 'finding-recorded', body: { code: 'swollen' } })} tag="P-1" />);
    for (const text of ['damaged', 'P-1', 'swollen']) expect(screen.getByText(text)).toBeTruthy();
    expect(screen.getByText(/^quarantine · /)).toBeTruthy();
  });
  test('what nobody has looked at is unproven, and says what is missing', () => {
    show(<RulingStrip ruling={ruling()} />);
    expect(screen.getByText('unproven')).toBeTruthy();
    expect(screen.getByText(/^not looked at: shape, smell/)).toBeTruthy();
  });
  test('critical gives the order and no route', () => {
    show(<RulingStrip ruling={ruling({ kind: 'finding-recorded', body: { code: 'smoke' } })} />);
    expect(screen.getByText('leave, alarm, call')).toBeTruthy();
    expect(screen.queryByText(/road/)).toBeNull();
  });
  test('opens its reasons; as a preview it names the number it stands on', () => {
    const onWhy = jest.fn();
    show(<RulingStrip ruling={ruling()} onWhy={onWhy} />);
    fireEvent.click(screen.getByTestId('why'));
    expect(onWhy).toHaveBeenCalledTimes(1);
    show(<PreviewStrip ruling={ruling({ kind: 'finding-recorded', body: { code: 'swollen' } })} typed="5,6 mm" />);
    expect(document.body.textContent).toContain('if 5,6 mm: damaged');
  });
});

describe('the limit scale', () => {
  test.each([
    ['cannot tell', 'too close to tell'],
    ['pass', 'inside'],
    ['fail', 'beyond'],
  ] as const)('is read out whole: %s', (verdict, words) => {
    show(<LimitScale limit={limit({ verdict })} />);
    expect(screen.getByLabelText(`growth at centre: 4.40 %, plus or minus 1.60 %; limit 5.00 %; ${words}`)).toBeTruthy();
  });
  test('writes the consequence on its side: left of a lower limit, right of an upper one', () => {
    show(<LimitScale limit={limit({ side: 'min', beyond: 'low-voltage' })} />);
    const sides = screen.getAllByText(/^(ok|a cell is low)$/).map((e) => e.textContent);
    expect(sides).toEqual(['a cell is low', 'ok']);
  });
});

describe('keys', () => {
  test('a disabled key does nothing; a hint is part of the name', () => {
    const press = jest.fn();
    show(<Button label="Clear…" hint="dropped" disabled onPress={press} />);
    fireEvent.click(screen.getByLabelText('Clear…, dropped'));
    expect(press).not.toHaveBeenCalled();
  });
  test('of a choice one is chosen, told by more than colour', () => {
    const change = jest.fn();
    show(<Choice label="Unit" options={['V', 'mV'] as const} value="V" onChange={change} />);
    expect(screen.getAllByRole('radio').map((r) => r.getAttribute('aria-checked'))).toEqual(['true', 'false']);
    fireEvent.click(screen.getByLabelText('mV'));
    expect(change).toHaveBeenCalledWith('mV');
  });
});

test('the pack drawing names its layout, and every point with its reading', () => {
  const tapped = jest.fn();
  const { nature } = ruling({
    kind: 'label-read',
    body: { nominalVoltage: { digits: '11.4', unit: 'V' }, parallel: 2 },
  }).judgement;
  show(<PackDrawing nature={nature} readings={{ centre: '5.02' }} onPoint={tapped} />);
  expect(screen.getByLabelText('pack, 3S2P')).toBeTruthy();
  fireEvent.click(screen.getByLabelText('thickness at centre, 5.02 mm'));
  expect(tapped).toHaveBeenCalledWith('centre');
  expect(screen.getByLabelText('thickness at rear-left, not measured')).toBeTruthy();
});
