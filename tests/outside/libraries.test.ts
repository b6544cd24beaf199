import { readFileSync } from 'node:fs';
import SwaggerParser from '@apidevtools/swagger-parser';
import { jsonSchema, openApi } from '@gavrel/contract/openapi';
import { ENTRY_SCHEMAS } from '@gavrel/contract/schemas';
import {
  canonical,
  checkLabel,
  type Entry,
  type Figure,
  inDisplayUnit,
  KINDS,
  phi,
  type LoggedEntry,
  micro,
  value,
} from '@gavrel/core';
import Ajv from 'ajv/dist/2019';
import addFormats from 'ajv-formats';
import { HyperFormula } from 'hyperformula';
import Qty from 'js-quantities';

const V = (digits: string): Figure<'V'> => ({ digits, unit: 'V' });
const mAh = (digits: string): Figure<'mAh'> => ({ digits, unit: 'mAh' });

// Labels of notebook classes met in practice; the spreadsheet engine computes the same sums by its own arithmetic.
const LABELS = [
  ['11.4', '3685', '42'],
  ['15.2', '5920', '90'],
  ['15.4', '6493', '99.99'],
  ['15.4', '6494', '100'],
  ['11.55', '8658', '100'],
  ['3.8', '10000', '38'],
  ['11.1', '4400', '56'],
] as const;

describe('label arithmetic', () => {
  test.each(LABELS)('%s V x %s mAh against %s Wh: a spreadsheet engine agrees', (v, q, e) => {
    const step = (d: string) => 10 ** -(d.split('.')[1]?.length ?? 0);
    const hf = HyperFormula.buildFromArray(
      [
        [
          Number(v),
          Number(q) / 1000,
          Number(e),
          step(v),
          step(q) / 1000,
          '=(A1-D1/2)*(B1-E1/2)',
          '=(A1+D1/2)*(B1+E1/2)',
          '=A1*B1',
        ],
      ],
      { licenseKey: 'gpl-v3', smartRounding: false },
    );
    const cell = (col: number) => hf.getCellValue({ sheet: 0, row: 0, col }) as number;
    const check = checkLabel({ nominalVoltage: V(v), ratedCapacity: mAh(q), ratedEnergy: { digits: e, unit: 'Wh' } });
    expect(check.computed!.lo).toBeCloseTo(cell(5), 9);
    expect(check.computed!.hi).toBeCloseTo(cell(6), 9);
    hf.destroy();
  });
  test.each([
    ['11.4 V', V('11.4')],
    ['3685 mAh', mAh('3685')],
    ['42500 mWh', { digits: '42500', unit: 'mWh' }],
    ['230 g', { digits: '230', unit: 'g' }],
    ['0.2484 inch', { digits: '0.2484', unit: 'inch' }],
    ['158.4 °F', { digits: '158.4', unit: '°F' }],
    ['-40 °F', { digits: '-40', unit: '°F' }],
  ] as const)('%s in base units: a units library agrees', (text, figure) => {
    const base = { V: 'V', mAh: 'A*h', mWh: 'W*h', g: 'kg', inch: 'mm', '°F': 'tempC' }[figure.unit as 'V'];
    const [n, unit] = text.split(' ') as [string, string];
    const written = { V: 'V', mAh: 'mA*h', mWh: 'mW*h', g: 'g', inch: 'in', '°F': 'tempF' }[unit as 'V'];
    // Kept in whole millionths.
    expect(Math.abs(value(figure) - Qty(Number(n), written).to(base).scalar)).toBeLessThan(5.1e-7);
    expect(Number.isInteger(micro(figure))).toBe(true);
  });
  test('a figure shown in another unit is what the units library rounds it to', () => {
    const shown = { lengths: 'inch', temperatures: '°F', decimalMark: 'point', days: 'day-first' } as const;
    for (let n = -40; n < 900; n += 7) {
      const mm: Figure = { digits: (n / 100 + 1).toFixed(2), unit: 'mm' };
      const celsius: Figure = { digits: (n / 10).toFixed(1), unit: '°C' };
      const agrees = (f: Figure, from: string, to: string, decimals: number) => {
        const exact = Qty(Number(f.digits), from).to(to).scalar;
        expect(Math.abs(Number(inDisplayUnit(f, shown).digits) - exact)).toBeLessThanOrEqual(0.5 * 10 ** -decimals + 1e-9);
      };
      agrees(mm, 'mm', 'in', 4);
      agrees(celsius, 'tempC', 'tempF', 1);
    }
  });
  test('the normal distribution: the spreadsheet engine agrees to 2e-7', () => {
    const hf = HyperFormula.buildFromArray([[-2.5, -1, 0, 0.755, 1.96, 3].map((z) => `=NORM.S.DIST(${z},TRUE())`)], {
      licenseKey: 'gpl-v3',
    });
    [-2.5, -1, 0, 0.755, 1.96, 3].forEach((z, col) =>
      expect(Math.abs(phi(z) - (hf.getCellValue({ sheet: 0, row: 0, col }) as number))).toBeLessThan(2e-7),
    );
    hf.destroy();
  });
});

describe('the interface document', () => {
  test('is valid OpenAPI 3.1 by an independent validator', async () => {
    const doc = JSON.parse(JSON.stringify(openApi('test'))) as Record<string, unknown>;
    const checked = await SwaggerParser.validate(doc as never);
    expect((checked as { openapi: string }).openapi).toBe('3.1.0');
  });

  const entries = readFileSync('tests/cases/frozen-1.jsonl', 'utf8')
    .trim()
    .split('\n')
    .slice(1)
    .map((l) => JSON.parse(l) as LoggedEntry)
    .map(({ seq: _s, recordedAt: _r, effectiveAt: _e, waits: _w, ...entry }) => entry as Entry);
  const ajv = new Ajv({ strict: false, allErrors: true });
  addFormats(ajv);
  const independent = Object.fromEntries(KINDS.map((k) => [k, ajv.compile(jsonSchema(ENTRY_SCHEMAS[k]))]));

  test('every example entry passes our own check and an independent JSON Schema validator', () => {
    for (const e of entries) {
      expect(ENTRY_SCHEMAS[e.kind].validate(e, { convert: false }).error).toBeUndefined();
      const check = independent[e.kind]!;
      check(e as unknown);
      expect({ kind: e.kind, errors: check.errors ?? null }).toEqual({ kind: e.kind, errors: null });
    }
    expect(new Set(entries.map((e) => e.kind)).size).toBeGreaterThan(10);
  });
  test('what the document promises, the independent validator refuses too', () => {
    const label = entries.find((e) => e.kind === 'label-read')!;
    const bad = [
      { ...label, body: { ...label.body, nominalVoltage: { digits: 'eleven', unit: 'V' } } },
      { ...label, body: { ...label.body, series: -1 } },
      { ...label, kind: 'looked' },
      { ...label, id: 'not-a-uuid' },
    ];
    for (const b of bad) {
      expect(independent['label-read']!(b as unknown)).toBe(false);
      expect(ENTRY_SCHEMAS['label-read'].validate(b, { convert: false }).error).toBeDefined();
    }
  });
});

// RFC 8785, section 3.2.3 and appendix B: sorted keys, shortest numbers, escapes (from memory).
test('canonical JSON follows RFC 8785', () => {
  const given = {
    peach: 1,
    péché: 2,
    numbers: [333333333.33333329, 1e30, 4.5, 2e-3, 1e-27],
    literals: [null, true, false],
    '\r': 'CR',
    '1': 'one',
  };
  expect(canonical(given)).toBe(
    '{"\\r":"CR","1":"one","literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"peach":1,"péché":2}',
  );
});
